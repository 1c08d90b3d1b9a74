"""The delay of a picture from film of a running clock beside its screen: in milliseconds, with the uncertainty."""

from math import sqrt
from statistics import fmean, stdev
from typing import Annotated

from pydantic import Field

from isotact.core.model.base import Struct

COVERAGE = 2.0
"""The factor from a standard to an expanded uncertainty: about 95 in 100 (JCGM 100:2008, 6.2 and 6.3)."""
MOST_TAKES = 20
Rate = Annotated[float, Field(ge=1, le=1000, allow_inf_nan=False)]


class Filmed(Struct):
    """Takes in which frames were counted between a moment on the clock and the same moment on the screen."""

    frames: Annotated[tuple[Annotated[int, Field(ge=0, le=10_000)], ...], Field(min_length=1, max_length=MOST_TAKES)]
    rate_fps: Rate = Field(description="of the camera that filmed both")


class Pair(Struct):
    """One frame in which both clocks can be read: the clock itself and, behind it, the one on the screen."""

    real_ms: Annotated[float, Field(ge=0, le=1e9)]
    shown_ms: Annotated[float, Field(ge=0, le=1e9)]


class Clocks(Struct):
    """Frames in which both clocks can be read."""

    pairs: Annotated[tuple[Pair, ...], Field(min_length=1, max_length=MOST_TAKES)]
    refresh_hz: Rate = Field(default=60.0, description="how often the clock shows another number")


class Measured(Struct):
    """A value in its unit, and how far it may be off: about 95 times in 100 no further."""

    value: float
    plus_minus: float


def by_frames(film: Filmed) -> Measured:
    """The delay in ms of counted frames.

    Either moment falls anywhere within its frame, so that a count is off by less than one frame, little more likely
    than much: a triangle as wide as a frame to either side (JCGM 100:2008, 4.3.9).
    """
    step_ms = 1000.0 / film.rate_fps
    return _mean([count * step_ms for count in film.frames], step_ms)


def by_clocks(read: Clocks) -> Measured:
    """The delay in ms from both clocks read in the same frame; either was right at some moment of its own step."""
    return _mean([pair.real_ms - pair.shown_ms for pair in read.pairs], 1000.0 / read.refresh_hz)


def _mean(values_ms: list[float], step_ms: float) -> Measured:
    """The mean of takes that are each off by a triangle of `step_ms` to either side.

    The step counts in full however many takes there are: a camera and a screen that run at like rates are off by the
    same in each. What the takes differ by comes on top (JCGM 100:2008, 4.2.3 and 5.1.2).
    """
    spread = stdev(values_ms) / sqrt(len(values_ms)) if len(values_ms) > 1 else 0.0
    combined = sqrt(step_ms**2 / 6 + spread**2)
    return Measured(value=round(fmean(values_ms), 1), plus_minus=round(COVERAGE * combined, 1))
