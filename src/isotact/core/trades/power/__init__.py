"""Power: what feeds whom, batteries, outlets and fuses. How much flows is worked out in `core.power`."""

from collections.abc import Iterator

from isotact.core.model.behaviour import LampState
from isotact.core.model.keys import Between, Item, Key
from isotact.core.model.plan import Feed
from isotact.core.model.roles import PowerRole, Role
from isotact.core.trades.base import Draft
from isotact.core.trades.planned import Planned, Removal
from isotact.core.trades.power.acts import BlowFuse, BlowOutlet, FitBattery, RunFlat
from isotact.core.trades.power.conditions import Fed, OutletGives, battery_draft
from isotact.core.trades.step_graph import StepGraph
from isotact.core.trades.trade import Derived, Trade
from isotact.core.world import Power, World, now


def _derive(planned: Planned) -> Derived:
    for feed in planned.plan.feeds:
        if feed.source == "none-needed":
            continue
        needing = planned.lost_without(Removal(devices=frozenset((feed.device,))))
        if feed.join is None:
            yield Fed(device=feed.device, promises=needing)
            continue
        join = planned.plan.join_of(feed.join)
        giver = join.link.far(feed.device)
        yield Fed(
            device=feed.device,
            join=(join.link.a, join.link.b),
            join_words=f"{join.tag} from {planned.rig[giver.device].name}",
            giver=giver.device,
            has_battery=planned.runs_alone(feed.device),
            wakes_with=planned.waker(feed.device),
            promises=needing,
        )
        leads = frozenset(
            (other.link.id, use)
            for other in planned.joins
            for use in other.link.uses
            if any(end == giver and _gives_power(role) for end, role in planned.roles(other, use))
        )
        losing = planned.lost_without(Removal(uses=leads))
        yield OutletGives(outlet=giver, join=(join.link.a, join.link.b), promises=losing)


def _gives_power(role: Role) -> bool:
    return isinstance(role, PowerRole) and role.gives


def _care(planned: Planned) -> Iterator[Draft]:
    """A device that is fed keeps its battery charged all the same."""
    for feed in planned.plan.feeds:
        if (
            feed.join is not None
            and planned.rig[feed.device].usable_wh is not None
            and not planned.bay_taken(feed.device)
        ):
            yield battery_draft(planned.rig, feed.device, "It carries the device when its lead is pulled.")


def _arrange(planned: Planned, graph: StepGraph) -> None:
    """What has no battery of its own is woken after all that its power comes through, and what lets that feed."""
    for device in planned.in_use:
        for feed in planned.feeds_above(device):
            for earlier in _first(planned, feed):
                for later in ("menu-wake", "wake"):
                    graph.order(earlier, Key.of(later, device))
    for device, giver, _ in planned.too_weak:
        # Its own feed goes in again as it wakes: until then it would start, brown out and start over on the other.
        graph.wish(Key.of("wake", device), Key.of("wake", giver))


def _first(planned: Planned, feed: Feed) -> Iterator[Key]:
    giver = feed.from_device or ""
    join = planned.plan.join_of(feed.join or "")
    yield Key.of("plug", Between(join.link.a, join.link.b))
    yield Key.of("wake", giver)
    yield Key.of("mode", giver)
    for use in join.carries:
        for end, role in planned.roles(join, use):
            if end.device == giver and _gives_power(role):
                yield from (Key.of("set", Item(giver, key)) for key in role.when.settings)


def _charging(world: World, device: str, look: LampState) -> bool:
    return now(world).supply.root(device) not in (None, device)


TRADE = Trade(
    name="power",
    state=(Power,),
    acts=(FitBattery, RunFlat, BlowFuse, BlowOutlet),
    conditions=(Fed, OutletGives),
    lamps={"charging": _charging},
    derive=_derive,
    care=_care,
    arrange=_arrange,
)
