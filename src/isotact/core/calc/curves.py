"""A figure that changes along with another, given by points."""

from bisect import bisect_right
from collections.abc import Sequence
from itertools import pairwise
from math import inf

Points = Sequence[tuple[float, float]]
"""(x, y), x rising."""


def along(points: Points, x: float) -> float:
    """The figure at `x`: straight between the points, level beyond the ends. `points`: two at least."""
    number = bisect_right(points, (x, inf))
    if number in (0, len(points)):
        return points[min(number, len(points) - 1)][1]
    (left, low), (right, high) = points[number - 1 : number + 1]
    return low + (high - low) * (x - left) / (right - left)


def area(points: Points) -> float:
    """What lies under it from the first point to the last."""
    return sum((right - left) * (low + high) / 2 for (left, low), (right, high) in pairwise(points))
