"""A trade: what it adds to the state, what can be done, what must hold, and how it shows."""

from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from itertools import chain

from isotact.core.trades.base import Act, Condition, Draft, HandAct
from isotact.core.trades.planned import Planned
from isotact.core.trades.step_graph import StepGraph
from isotact.core.world import State, World
from isotact.core.world.appearance import LampReader

Derived = Iterator[Condition]
"""Conditions, each with the promises that the plan would not keep without it: see `Planned.needed_by`."""


def _derives_nothing(planned: Planned) -> Derived:
    yield from ()


def _cares_for_nothing(planned: Planned) -> Iterator[Draft]:
    yield from ()


def _tidies_nothing(planned: Planned, world: World, gone: Collection[str]) -> Iterator[Draft]:
    yield from ()


def _offers_nothing(world: World, device: str) -> Iterator[HandAct]:
    yield from ()


def _arranges_nothing(planned: Planned, graph: StepGraph) -> None:
    return


@dataclass(frozen=True)
class Trade:
    """One trade of the job. Everything outside folds over the tuple of them and asks none by name.

    `derive` reads a plan and lists conditions. `care` adds steps that nothing rests on but that belong to the job.
    `arrange` puts what the trade knows of order into the graph of steps. `lamps` are the states of indicators that it
    can tell, by the word that profiles use. `tidy` takes away what stands in a world and not in the plan: what is in
    another's place, and the devices that are gone from the rig. `offers` lists what a hand could do at a device with
    what the trade knows of it; what cannot be done now says so by its own `why_not`.
    """

    name: str
    state: tuple[type[State], ...] = ()
    acts: tuple[type[Act], ...] = ()
    conditions: tuple[type[Condition], ...] = ()
    lamps: Mapping[str, LampReader] = field(default_factory=dict)
    derive: Callable[[Planned], Derived] = _derives_nothing
    care: Callable[[Planned], Iterator[Draft]] = _cares_for_nothing
    arrange: Callable[[Planned, StepGraph], None] = _arranges_nothing
    tidy: Callable[[Planned, World, Collection[str]], Iterator[Draft]] = _tidies_nothing
    offers: Callable[[World, str], Iterator[HandAct]] = _offers_nothing

    def plus(self, *pieces: "Trade") -> "Trade":
        """This trade with all that `pieces` add: a condition that stands in a file of its own is one such piece."""
        every = (self, *pieces)
        return Trade(
            name=self.name,
            state=tuple(kind for one in every for kind in one.state),
            acts=tuple(kind for one in every for kind in one.acts),
            conditions=tuple(kind for one in every for kind in one.conditions),
            lamps={word: reader for one in every for word, reader in one.lamps.items()},
            derive=lambda planned: chain.from_iterable(one.derive(planned) for one in every),
            care=lambda planned: chain.from_iterable(one.care(planned) for one in every),
            arrange=_all_of([one.arrange for one in every]),
            tidy=lambda planned, world, gone: chain.from_iterable(one.tidy(planned, world, gone) for one in every),
            offers=lambda world, device: chain.from_iterable(one.offers(world, device) for one in every),
        )


def _all_of(arrangers: Sequence[Callable[[Planned, StepGraph], None]]) -> Callable[[Planned, StepGraph], None]:
    def arrange(planned: Planned, graph: StepGraph) -> None:
        for one in arrangers:
            one(planned, graph)

    return arrange
