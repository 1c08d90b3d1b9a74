"""What a plan asks of feeds, outlets and batteries."""

from collections.abc import Iterator

from isotact.core.model.plan import Feed
from isotact.core.model.power_role import PowerRole
from isotact.core.model.roles import Role
from isotact.core.telling.phrases import hours_words
from isotact.core.trades.base import Draft
from isotact.core.trades.planned import Planned, Removal
from isotact.core.trades.power.conditions import Fed, OutletGives, battery_draft
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
            lasts = _lasts(planned, feed)
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


def _lasts(planned: Planned, feed: Feed) -> str:
    """How long a battery lasts with all that hangs on it, and from its lamp on."""
    placed = planned.rig[feed.device]
    own = placed.profile.power.inner_battery if placed.profile.power else None
    if own is None or not feed.hours_h:
        return ""
    says = f"Lasts {hours_words(feed.hours_h)} here"
    there = (placed.device.charge_percent or 100) / 100
    kept, lamp = there * (1 - placed.used_share), (own.low_lamp_percent or 0) / 100
    if kept < lamp < there:
        # What it draws changes little from its lamp on: its hours go by the energy that is left.
        from_lamp_h = feed.hours_h * (lamp - kept) / (there - kept)
        says += f"; from its lamp on {hours_words(from_lamp_h)}"
    return f"{says}."


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
