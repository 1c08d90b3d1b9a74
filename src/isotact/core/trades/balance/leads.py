"""How long a lead on a gimbal has to be: by where its ends are and how far the axes between them turn.

Where a profile says nothing of that, by what is usual for each axis (`model.reach`).
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import ceil

from isotact.core.calc.leads import BEND_MM, along_mm, least_lead_mm, loop_mm
from isotact.core.calc.moments import Place
from isotact.core.model.gimbals import Axis, Carrier
from isotact.core.model.plan import LinkEnd
from isotact.core.model.reach import told_lengths_mm, told_mm
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Stage, axes_between
from isotact.core.trades.balance.places import place
from isotact.core.trades.balance.supposed import end_at, gimbal_of, spots_of

ROUNDED_MM = 10.0
"""Nobody measures a lead closer: up to the next whole centimetre."""
KNOWN_MM = 40.0
"""How well the places of two ports on a gimbal are known together. Common practice, no source."""
MOST_SEATED_MM = 250.0
"""No port of what sits in a cage is further than this from the middle of its outline. Common practice, no source."""


def least_mm(rig: ResolvedRig, one: LinkEnd, other: LinkEnd) -> float:
    """How long a lead between two ends has to be at the least, with what is plugged onto it."""
    key = (least_mm, one, other)
    known = rig.memory.get(key)
    if known is None:
        reckoned = _reckoned_mm(rig, one, other)
        known = rig.memory[key] = told_mm(rig, one, other) if reckoned is None else reckoned
    return float(known)


def _reckoned_mm(rig: ResolvedRig, one: LinkEnd, other: LinkEnd) -> float | None:
    """By arithmetic; None where it crosses no axis, leaves the gimbal, or the profile leaves out what it takes."""
    found = _ends(rig, one, other)
    if found is None:
        return None
    inner, outer, axes, carrier = found
    turns = [(axis, carrier.turn_of(axis)) for axis in axes if axis in carrier.axes]
    return ROUNDED_MM * ceil(least_lead_mm(inner, outer, turns) / ROUNDED_MM)


def _ends(rig: ResolvedRig, one: LinkEnd, other: LinkEnd) -> tuple[Place, Place, list[Axis], Carrier] | None:
    """The end nearer to the camera, the other one, the axes between them, and the gimbal's figures."""
    stages = {end: rig[end.device].stage_of(end.endpoint) for end in (one, other)}
    gimbal = gimbal_of(rig)
    if gimbal is None or Stage.OFF_GIMBAL in stages.values() or stages[one] == stages[other]:
        return None
    inside, outside = sorted((one, other), key=lambda end: [*Stage].index(stages[end]))
    places = end_at(rig, inside), end_at(rig, outside)
    carrier = rig[gimbal].profile.carrier
    axes: list[Axis] = [axis for axis in ("tilt", "roll", "pan") if axis in axes_between(*stages.values())]
    if carrier is None or any(axis in carrier.loops_mm for axis in axes):
        return None  # who says what its leads want is believed
    return None if places[0] is None or places[1] is None else (places[0], places[1], axes, carrier)


def lengths_mm(rig: ResolvedRig) -> list[float]:
    """Every length at which a longer lead of a make does more, the shortest first."""
    lengths = {*told_lengths_mm(rig)}
    gimbal = gimbal_of(rig)
    carrier = rig[gimbal].profile.carrier if gimbal is not None else None
    if carrier is not None:
        far = [place(at) for at in (*carrier.outside.values(), *carrier.outlets.values())]
        seated = [tuple(abs(one) + MOST_SEATED_MM for one in at) for at in spots_of(rig).values()]
        reach = [sum(one * one for one in at) ** 0.5 for at in (*far, *seated)]
        most = least_lead_mm((2 * max(reach, default=0.0), 0.0, 0.0), (0.0, 0.0, 0.0), ())
        own = sorted({cable.length_mm for cable in rig.cables.values()})
        lengths |= {one for one in own if one <= most} | {most}
    return sorted(lengths)


@dataclass(frozen=True)
class Tied:
    """A lead that is tied beside each axis: by which places, its loops, and how long it has to be for that.

    `wound`: axes without a stop: there no length is enough. Millimetres.
    """

    through: tuple[Place, ...]
    ties: tuple[tuple[Axis, Place], ...]
    loops: tuple[tuple[Axis, float], ...]
    wound: tuple[Axis, ...]
    needs_mm: float


def tied(rig: ResolvedRig, one: LinkEnd, other: LinkEnd) -> Tied | None:
    """How a lead is led and tied between two ends; None where that is not known."""
    found = _ends(rig, one, other)
    if found is None:
        return None
    inner, outer, axes, carrier = found
    ties = tuple((axis, place(carrier.pivots[axis])) for axis in axes if axis in carrier.pivots)
    through = (inner, *(at for _, at in ties), outer)
    loops = tuple(_loops(carrier, axes))
    wound = tuple(axis for axis in axes if axis in carrier.axes and carrier.turn_of(axis) is None)
    return Tied(through, ties, loops, wound, along_mm(through) + sum(loop for _, loop in loops) + 2 * BEND_MM)


def _loops(carrier: Carrier, axes: list[Axis]) -> Iterator[tuple[Axis, float]]:
    for axis in axes:
        if axis in carrier.axes:
            # Half a turn either way where nothing stops it: no more, or it winds up.
            yield axis, loop_mm(carrier.turn_of(axis) or (-180.0, 180.0)) or 0.0
