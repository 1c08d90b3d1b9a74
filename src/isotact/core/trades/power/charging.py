"""What charges its own battery out of another's, whether anybody meant it or not."""

from collections.abc import Iterator
from dataclasses import dataclass

from isotact.core.model.plan import Join
from isotact.core.model.power_role import PowerRole
from isotact.core.trades.planned import AS_PLANNED, Planned, Removal


@dataclass(frozen=True)
class Charging:
    """`taker` charges over `join` out of what `giver` runs from. `watts`: None where nobody said how many.

    `for_good`: as long as both are joined, since it draws meanwhile from the battery that it fills; else until full.
    """

    join: Join
    giver: str
    taker: str
    watts: float | None
    for_good: bool


def charging(planned: Planned, without: Removal = AS_PLANNED) -> Iterator[Charging]:
    """All that charges as planned, with what is set as it is planned but for the knobs of `without`."""
    for join in planned.joins:
        for use in join.link.uses:
            (giver, outlet), (taker, inlet) = planned.roles(join, use)
            if not isinstance(outlet, PowerRole) or not isinstance(inlet, PowerRole) or not inlet.takes(outlet):
                continue
            placed, live = planned.rig[taker.device], planned.lets(giver.device, outlet, without)
            if placed.battery is None or not live or not planned.lets(taker.device, inlet, without):
                continue
            draw_w = placed.profile.power.draw_w if placed.profile.power else 0.0
            if inlet.feeds == "charge":
                # It runs from its own battery, and this fills up what it takes out: so much for good, and no more.
                watts = None if inlet.charge_w is None else min(inlet.charge_w, draw_w)
                yield Charging(join, giver.device, taker.device, watts, for_good=True)
            elif inlet.charge_w and (placed.device.charge_percent or 100) < 100:
                yield Charging(join, giver.device, taker.device, inlet.charge_w, for_good=False)
