"""How long a battery lasts as planned, in words: on the card of the battery, and where its device is woken."""

from isotact.core.model.plan import Feed
from isotact.core.telling.phrases import hours_words
from isotact.core.trades.planned import Planned


def lasts_words(planned: Planned, feed: Feed) -> str:
    """How long it lasts with all that hangs on it, and from its lamp on; empty where it has no battery of its own."""
    placed = planned.rig[feed.device]
    if placed.profile.power is None or placed.profile.power.inner_battery is None or not feed.hours_h:
        return ""
    says, left_h = f"Lasts {hours_words(feed.hours_h)} here", from_lamp_h(planned, feed)
    return f"{says}; from its lamp on {hours_words(left_h)}." if left_h is not None else f"{says}."


def from_lamp_h(planned: Planned, feed: Feed) -> float | None:
    """Hours that are left when its lamp comes on; None where nobody knows when it does, or it is on already."""
    placed = planned.rig[feed.device]
    own = placed.profile.power.inner_battery if placed.profile.power else None
    if own is None or not feed.hours_h:
        return None
    there = (placed.device.charge_percent or 100) / 100
    kept, lamp = there * (1 - placed.used_share), (own.low_lamp_percent or 0) / 100
    if not kept < lamp < there:
        return None
    # What it draws changes little from its lamp on: its hours go by the energy that is left.
    return feed.hours_h * (lamp - kept) / (there - kept)
