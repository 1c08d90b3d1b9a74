"""How late a picture is, from film of a running clock beside its screen: in milliseconds, with the uncertainty."""

from collections.abc import Sequence
from math import sqrt
from statistics import fmean, stdev

from pydantic import BaseModel, ConfigDict

COVERAGE = 2.0
"""The factor from a standard to an expanded uncertainty: about 95 in 100 (JCGM 100:2008, 6.2 and 6.3)."""


class Measured(BaseModel):
    """A value in its unit, and how far it may be off: about 95 times in 100 no further."""

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)

    value: float
    plus_minus: float


def by_frames(counts: Sequence[int], rate_fps: float) -> Measured:
    """The delay in ms of counted frames, a count for each take, filmed at `rate_fps`.

    Either moment falls anywhere within its frame, so that a count is off by less than one frame, little more likely
    than much: a triangle as wide as a frame to either side (JCGM 100:2008, 4.3.9).
    """
    step_ms = 1000.0 / rate_fps
    return _mean([count * step_ms for count in counts], step_ms)


def by_clocks(real_and_shown_ms: Sequence[tuple[float, float]], refresh_hz: float) -> Measured:
    """The delay in ms from both clocks read in the same frame; either was right at some moment of its own step."""
    return _mean([real_ms - shown_ms for real_ms, shown_ms in real_and_shown_ms], 1000.0 / refresh_hz)


def _mean(values_ms: list[float], step_ms: float) -> Measured:
    """The mean of takes that are each off by a triangle of `step_ms` to either side.

    The step counts in full however many takes there are: a camera and a screen that run at like rates are off by the
    same in each. What the takes differ by comes on top (JCGM 100:2008, 4.2.3 and 5.1.2).
    """
    spread = stdev(values_ms) / sqrt(len(values_ms)) if len(values_ms) > 1 else 0.0
    # The variance of a triangle of half-width a is a squared over 6.
    combined = sqrt(step_ms**2 / 6 + spread**2)
    return Measured(value=round(fmean(values_ms), 1), plus_minus=round(COVERAGE * combined, 1))
