"""How far things stand apart, and how long a lead between them has to be at the least."""

from itertools import product
from typing import Literal

from isotact.core.model.plan import LinkEnd
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import STAGES, Stage, axes_between

LOOPS_MM: dict[Literal["tilt", "roll", "pan"], float] = {"tilt": 300.0, "roll": 200.0, "pan": 200.0}
"""What a lead needs for each axis that it crosses, way and service loop together, where the gimbal's profile says
nothing. Common practice, by the size of the gimbal, no source."""

WALK_MM = 1000.0
"""What a lead that leaves the gimbal needs beyond the way: whoever carries it turns and steps. Common practice, no
source."""


def distance_m(rig: ResolvedRig, device: str) -> float | None:
    """How far from the gimbal a device is, where somebody said so: its own distance, or that of the screens.

    What receives a picture for a screen stands with the screens.
    """
    placed = rig[device]
    if placed.stage != Stage.OFF_GIMBAL or placed.device.distance_m is not None:
        return placed.device.distance_m
    with_screens = placed.profile.shows or any(radio.part == "receiver" for radio in placed.profile.radios)
    return rig.rig.shot.screens_m if with_screens else None


def apart_m(rig: ResolvedRig, one: LinkEnd, other: LinkEnd) -> float:
    """How far two ends stand apart at the least: what is on the gimbal at one place, and what nobody said beside it."""
    away = [
        distance_m(rig, end.device) or 0.0 if rig[end.device].stage_of(end.endpoint) == Stage.OFF_GIMBAL else 0.0
        for end in (one, other)
    ]
    return abs(away[0] - away[1])


def told_mm(rig: ResolvedRig, one: LinkEnd, other: LinkEnd) -> float:
    """How long a lead between two ends has to be at the least by what is told, with what is plugged onto it.

    On the gimbal that is a service loop for each axis; off it the way, and a metre where one end moves or stands
    somewhere else. Who knows how far its axes turn reckons on (`trades.balance.leads`).
    """
    stages = [rig[end.device].stage_of(end.endpoint) for end in (one, other)]
    if Stage.OFF_GIMBAL not in stages:
        return sum(loops_mm(rig)[axis] for axis in axes_between(*stages))
    way_mm = 1000 * apart_m(rig, one, other)
    return way_mm + (WALK_MM if way_mm or stages[0] != stages[1] else 0.0)


def loops_mm(rig: ResolvedRig) -> dict[str, float]:
    """What a lead needs for each axis of this rig's gimbal, the largest of several; nothing without a gimbal."""
    return {
        axis: max((carrier.loops_mm.get(axis, usual) for carrier in rig.carriers), default=0.0)
        for axis, usual in LOOPS_MM.items()
    }


def told_lengths_mm(rig: ResolvedRig) -> list[float]:
    """Every length that some lead of this rig may need at the least, the shortest first: a longer one does no more."""
    loops = loops_mm(rig)
    on_it = [stage for stage in STAGES if stage != Stage.OFF_GIMBAL]
    found = {sum(loops[axis] for axis in axes_between(one, other)) for one, other in product(on_it, on_it)}
    away = {0.0} | {far for device in rig.devices if (far := distance_m(rig, device)) is not None}
    found |= {1000 * abs(one - other) + WALK_MM for one, other in product(away, away)}
    return sorted(found)


def claimed_m(rig: ResolvedRig, one: LinkEnd, other: LinkEnd) -> float | None:
    """How far two radios reach in the open, by the lesser claim of the two; None where nothing is claimed."""
    claims = [rig[end.device].endpoint(end.endpoint).claimed_m for end in (one, other)]
    return min((claim for claim in claims if claim is not None), default=None)


def in_range(rig: ResolvedRig, one: LinkEnd, other: LinkEnd) -> bool:
    """Whether two radios could reach each other, as far as is known what they claim and where they are."""
    claim = claimed_m(rig, one, other)
    return claim is None or apart_m(rig, one, other) <= claim
