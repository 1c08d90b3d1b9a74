"""The trades of the job. Each folder holds what one of them adds: acts, conditions, checks, offers, lamps, manners.

A new condition is one new file and its line in its trade; a new trade is one folder and its line here. Nothing outside
asks for a trade, an act or a condition by name.
"""

from functools import reduce
from operator import or_
from typing import TYPE_CHECKING, Annotated

from pydantic import Field

from isotact.core.model.keys import Key
from isotact.core.model.plan import Plan
from isotact.core.model.resolved import ResolvedRig
from isotact.core.trades import (
    balance,
    cables,
    care,
    lens_drive,
    media,
    menus,
    mounting,
    power,
    radio,
    recipes,
    waking,
)  # fmt: skip
from isotact.core.trades.base import (
    Act,
    Check,
    Condition,
    Draft,
    Fault,
    HandAct,
    Mishap,
    StepEnd,
    attempt,
    observe,
    perform,
)
from isotact.core.trades.planned import Planned
from isotact.core.trades.step_graph import Node, StepGraph
from isotact.core.trades.trade import Trade
from isotact.core.world import DeviceView, State, World, appearance

TRADES: tuple[Trade, ...] = (
    menus.TRADE,
    cables.TRADE,
    power.TRADE,
    waking.TRADE,
    radio.TRADE,
    lens_drive.TRADE,
    mounting.TRADE,
    balance.TRADE,
    media.TRADE,
    recipes.TRADE,
    care.TRADE,
)
"""In the order in which they arrange steps: menus first, since a visit to a menu is a waking that power must know."""

if TYPE_CHECKING:
    AnyAct = Act
    AnyHandAct = HandAct
    AnyCondition = Condition
else:
    AnyAct = Annotated[reduce(or_, (act for trade in TRADES for act in trade.acts)), Field(discriminator="kind")]
    AnyHandAct = Annotated[
        reduce(or_, (act for trade in TRADES for act in trade.acts if issubclass(act, HandAct))),
        Field(discriminator="kind"),
    ]
    AnyCondition = Annotated[
        reduce(or_, (kind for trade in TRADES for kind in trade.conditions)), Field(discriminator="kind")
    ]


def parts() -> tuple[type[State], ...]:
    """Every part that a world of these trades has."""
    return tuple(kind for trade in TRADES for kind in trade.state)


def fresh_world(rig: ResolvedRig) -> World:
    """Everything in its case."""
    return World.fresh(rig, parts())


def lamps() -> dict[str, appearance.LampReader]:
    """Every state of an indicator that some trade can tell."""
    return {word: reader for trade in TRADES for word, reader in trade.lamps.items()}


def views_of(world: World) -> list[DeviceView]:
    """Every device as a person would see it now."""
    return appearance.views_of(world, lamps())


def offered_acts(world: World, device: str) -> list[HandAct]:
    """All that a hand could try at `device` now, trade by trade, in vain or not; each once."""
    return list(dict.fromkeys(act for trade in TRADES for act in trade.offers(world, device)))


def hand_acts(world: World, device: str) -> list[HandAct]:
    """The same without what cannot be done as things stand."""
    return [act for act in offered_acts(world, device) if act.why_not(world) is None]


def not_for_a_hand(world: World, act: HandAct) -> str | None:
    """Why no hand can even try `act` in `world`: it names what is not there; None where it can."""
    if act.is_free:
        return act.unknown(world)
    devices = act.touches() or tuple(world.rig.devices)
    known = any(
        act.is_like(one) for device in devices if device in world.rig.devices for one in offered_acts(world, device)
    )
    return None if known else "nothing here for a hand to do: it is done already, or there is no such thing"


def conditions_of(rig: ResolvedRig, plan: Plan) -> tuple[Condition, ...]:
    """Every condition of `plan`, each once, with the promises that need it, in a stable order."""
    planned = Planned(rig, plan)
    found: dict[Key, Condition] = {}
    for trade in TRADES:
        for condition in trade.derive(planned):
            known = found.get(condition.key)
            found[condition.key] = condition if known is None else known.for_promises(condition.promises)
    return tuple(found.values())


__all__ = [
    "TRADES",
    "Act",
    "AnyAct",
    "AnyCondition",
    "AnyHandAct",
    "Check",
    "Condition",
    "Draft",
    "Fault",
    "HandAct",
    "Mishap",
    "Node",
    "Planned",
    "StepEnd",
    "StepGraph",
    "Trade",
    "attempt",
    "conditions_of",
    "fresh_world",
    "hand_acts",
    "lamps",
    "not_for_a_hand",
    "observe",
    "offered_acts",
    "parts",
    "perform",
    "views_of",
]
