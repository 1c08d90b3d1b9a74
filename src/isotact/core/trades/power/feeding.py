"""The feeds of a plan as a circuit, with what charges besides."""

from collections.abc import Iterable

from isotact.core.trades.planned import AS_PLANNED, Planned, Removal
from isotact.core.trades.power.charging import Charging, charging
from isotact.core.world.feed_volts import Feeding


def feeding_of(planned: Planned, without: Removal = AS_PLANNED, charges: Iterable[Charging] | None = None) -> Feeding:
    """Who runs from what as planned but for `without`, and all that makes a circuit of it.

    `charges`: what charges then, where that is known already.
    """
    besides: dict[str, float] = {}
    for one in charging(planned, without) if charges is None else charges:
        at = one.giver if one.for_good else one.taker
        besides[at] = besides.get(at, 0.0) + (one.watts or 0.0)
    return Feeding(planned.rig, planned.supply_without(without), besides)
