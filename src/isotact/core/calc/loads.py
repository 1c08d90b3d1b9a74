"""What takes power, what gives it, and the leads between: the terms of a supply."""

from dataclasses import dataclass
from math import inf
from typing import Literal

Drawing = Literal["power", "current", "resistance"]
Rank = tuple[float, float, int]
"""The less of two carries: volts that are higher count as less."""


@dataclass(frozen=True, slots=True)
class Load:
    """What one device takes, in watts. `draw_w`: for good; None for what needs no power at all.

    `peak_w`: of a moment, where that is more. `stall_w`: on top of that while it is held; of all on one lead one
    stalls at a time, as a driver runs its motors to their ends one after the other (common practice, no source).
    `is_motor`: what an outlet for electronics only does not stand. `draws`, `held_draws`: what stays as its volts fall,
    of `draw_w` and `peak_w`, and of `stall_w`; `rated_v`: at which volts they were measured, None where nobody said.
    """

    device: str
    draw_w: float | None
    peak_w: float | None = None
    stall_w: float = 0.0
    is_motor: bool = False
    draws: Drawing = "power"
    held_draws: Drawing = "current"
    rated_v: float | None = None

    @property
    def idle(self) -> "Load":
        """The same device while it is off: it has its power, and takes nothing of it."""
        return self if self.draw_w is None else Load(self.device, 0.0)

    @property
    def moment_w(self) -> float:
        """What it takes of a moment; nothing while it is off."""
        draw_w = self.draw_w or 0.0
        return draw_w if self.peak_w is None or not draw_w else max(draw_w, self.peak_w)


@dataclass(frozen=True, slots=True)
class Source:
    """What feeds others and itself from within: a battery that is not empty.

    `open_v`: its volts without load at the end of a charge, `ohm` within it, `floor_v`: what it gives at least. Without
    `open_v` nothing is known of its volts, and nobody browns out by them.
    """

    device: str
    open_v: float = 0.0
    ohm: float = 0.0
    floor_v: float = 0.0


@dataclass(frozen=True, slots=True)
class Line:
    """What a lead does to volts: its ohms, what it is fed with, and what its taker needs.

    `lowest_v`: with fewer the taker goes dark. `highest_v`: the most that the outlet gives. `held_v`: what the outlet
    holds whatever comes in, for `needs_v` and more, taking in what it gives divided by `efficiency`.
    """

    ohm: float
    lowest_v: float
    highest_v: float
    held_v: float | None = None
    efficiency: float = 1.0
    needs_v: float = 0.0


@dataclass(frozen=True)
class Lead:
    """A lead that would feed `taker` from `giver`, up to `limit_w` for good and `peak_w` for a moment.

    Of several that are live a device runs from the one of the lowest `rank`. `light`: it stands electronics only.
    """

    id: str
    giver: str
    taker: str
    limit_w: float
    peak_w: float = inf
    rank: Rank = (0.0, 0.0, 0)
    light: bool = False
    line: Line | None = None
