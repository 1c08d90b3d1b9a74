"""What a plan asks of feeds, outlets and batteries."""

from collections.abc import Iterator

from isotact.core.model.power_role import PowerRole
from isotact.core.model.roles import Role
from isotact.core.trades.base import Draft
from isotact.core.trades.planned import Planned, Removal
from isotact.core.trades.power.conditions import Fed, OutletGives, battery_draft
from isotact.core.trades.power.lasting_words import lasts_words
from isotact.core.trades.power.switching_once import switched_once
from isotact.core.trades.trade import Derived


def derive(planned: Planned) -> Derived:
    """The conditions that a plan asks of this trade, each with the promises that need it."""
    switch = switched_once(planned)
    for feed in planned.plan.feeds:
        if feed.source == "none-needed":
            continue
        needing = planned.lost_without(Removal(devices=frozenset((feed.device,))))
        if feed.join is None:
            lasts = lasts_words(planned, feed)
            if switch is not None and feed.device == switch.device:
                lasts = f"{lasts} {switch.says(planned.rig)}".lstrip()
            yield Fed(device=feed.device, promises=needing, lasts=lasts)
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
            if any(end == giver and gives_power(role) for end, role in planned.roles(other, use))
        )
        losing = planned.lost_without(Removal(uses=leads))
        yield OutletGives(outlet=giver, join=(join.link.a, join.link.b), promises=losing)


def gives_power(role: Role) -> bool:
    """Whether power goes out here."""
    return isinstance(role, PowerRole) and role.gives


def care(planned: Planned) -> Iterator[Draft]:
    """A device that is fed keeps its battery charged all the same."""
    for feed in planned.plan.feeds:
        if (
            feed.join is not None
            and planned.rig[feed.device].usable_wh is not None
            and not planned.bay_taken(feed.device)
        ):
            yield battery_draft(planned.rig, feed.device, "It carries the device when its lead is pulled.")
