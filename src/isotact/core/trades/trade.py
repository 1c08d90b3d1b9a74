"""A trade: what it adds to the state, what can be done, what must hold, and how it shows."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field

from isotact.core.trades.base import Act, Condition, Draft
from isotact.core.trades.graph import StepGraph
from isotact.core.trades.planned import Planned, Without
from isotact.core.world import State
from isotact.core.world.seeing import LampReader

Derived = Iterator[tuple[Condition, Without]]
"""Conditions, each with what the plan would have to do without were it not to hold."""


def _derives_nothing(planned: Planned) -> Derived:
    yield from ()


def _cares_for_nothing(planned: Planned) -> Iterator[Draft]:
    yield from ()


def _arranges_nothing(planned: Planned, graph: StepGraph) -> None:
    return


@dataclass(frozen=True)
class Trade:
    """One trade of the job. Everything outside folds over the tuple of them and asks none by name.

    `derive` reads a plan and lists conditions. `care` adds steps that nothing rests on but that belong to the job.
    `arrange` puts what the trade knows of order into the graph of steps. `lamps` are the states of indicators that it
    can tell, by the word that profiles use.
    """

    name: str
    state: tuple[type[State], ...] = ()
    acts: tuple[type[Act], ...] = ()
    conditions: tuple[type[Condition], ...] = ()
    lamps: Mapping[str, LampReader] = field(default_factory=dict)
    derive: Callable[[Planned], Derived] = _derives_nothing
    care: Callable[[Planned], Iterator[Draft]] = _cares_for_nothing
    arrange: Callable[[Planned, StepGraph], None] = _arranges_nothing
