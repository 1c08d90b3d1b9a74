"""How far apart the two ends of a lead come while axes turn between them, and how long it has to be for that.

Places are (right, forward, up) of the crossing of the axes, in millimetres, the camera level. An axis turns the end
that is nearer to the camera about its own line: tilt about right, roll about forward, pan about up.
"""

from collections.abc import Mapping, Sequence
from itertools import pairwise
from math import atan2, cos, hypot, pi, radians, sin, sqrt

from isotact.core.calc.moments import Place

BEND_MM = 35.0
"""A straight plug and the bend behind it; less where the plug is angled. Common practice, no source."""
ANGLED_MM = 20.0
"""An angled plug and its bend. Common practice, no source."""
SLACK = 1.1
"""No lead lies straight: a tenth more than from end to end. Common practice, no source."""
TIED_MM = 40.0
"""Where a lead is tied beside an axis, so far from its line, it turns about it in an arc that does not kink: six to
eight times its thickness. Common practice, no source."""
NEAR = 15.0
"""The angles that are looked at of the inner axes, in degrees; the last one is solved for."""
_ABOUT: Mapping[str, tuple[int, int, int]] = {"tilt": (1, 2, 0), "roll": (2, 0, 1), "pan": (0, 1, 2)}
"""Each axis: what it turns, from the first of two directions towards the second; its own line is the third."""


def farthest_mm(inner: Place, outer: Place, turns: Sequence[tuple[str, tuple[float, float] | None]]) -> float:
    """The farthest that two ends come from one another while the axes between them turn, in millimetres.

    `turns`: the axes from the camera outwards, each with how far it turns either way in degrees; None: without a stop.
    """
    places = [inner]
    for axis, turn in turns[:-1]:
        low, high = turn or (-180.0, 180.0)
        steps = max(1, round((high - low) / NEAR))
        places = [turned(one, axis, low + (high - low) * step / steps) for one in places for step in range(steps + 1)]
    if not turns:
        return _apart(inner, outer)
    axis, turn = turns[-1]
    return max(_farthest_about(one, outer, axis, turn) for one in places)


def turned(at: Place, axis: str, degrees: float) -> Place:
    """A place after an axis has turned it."""
    first, second, _ = _ABOUT[axis]
    found, angle = list(at), radians(degrees)
    found[first] = at[first] * cos(angle) - at[second] * sin(angle)
    found[second] = at[first] * sin(angle) + at[second] * cos(angle)
    return found[0], found[1], found[2]


def _farthest_about(inner: Place, outer: Place, axis: str, turn: tuple[float, float] | None) -> float:
    """About one axis: where the two are opposite each other, or at the stop that is nearer to that."""
    first, second, line = _ABOUT[axis]
    one, other = hypot(inner[first], inner[second]), hypot(outer[first], outer[second])
    apart = inner[line] - outer[line]
    if turn is None:
        return hypot(one + other, apart)
    between = atan2(inner[second], inner[first]) - atan2(outer[second], outer[first])
    low, high = radians(turn[0]) + between, radians(turn[1]) + between
    # Opposite at an odd half turn: is there one within what it turns?
    half = pi + 2 * pi * round((((low + high) / 2) - pi) / (2 * pi))
    widest = cos(half) if low <= half <= high else min(cos(low), cos(high))
    return sqrt(max(0.0, one * one + other * other - 2 * one * other * widest) + apart * apart)


def _apart(one: Place, other: Place) -> float:
    return hypot(*(a - b for a, b in zip(one, other, strict=True)))


def least_lead_mm(
    inner: Place, outer: Place, turns: Sequence[tuple[str, tuple[float, float] | None]], bends_mm: float = 2 * BEND_MM
) -> float:
    """What a lead has to have at the least so that no position of the axes pulls at it."""
    return SLACK * farthest_mm(inner, outer, turns) + bends_mm


def loop_mm(turn: tuple[float, float] | None, tied_mm: float = TIED_MM) -> float | None:
    """The service loop at an axis beside which a lead is tied: its arc; None for an axis without a stop."""
    return None if turn is None else tied_mm * radians(max(abs(turn[0]), abs(turn[1])))


def along_mm(places: Sequence[Place]) -> float:
    """The way from place to place."""
    return sum(_apart(one, other) for one, other in pairwise(places))


PULL_NM_PER_G_PER_M = 0.0004
"""What a lead that is bent across an axis may turn it by: the thicker, the stiffer, by what a metre of it weighs. An
allowance, to be felt by hand; common practice, no source."""


def pull_nm(mass_g: float, length_mm: float) -> float:
    """How much a lead that crosses an axis may pull at it, as an allowance, in newton metres."""
    return PULL_NM_PER_G_PER_M * mass_g / (length_mm / 1000) if length_mm else 0.0
