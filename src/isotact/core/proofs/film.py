"""Film of a running clock beside a screen, as it is noted down, and the delay of the picture from it."""

from typing import Annotated

from pydantic import Field

from isotact.core.calc import delay
from isotact.core.calc.delay import Measured
from isotact.core.model.base import Struct

# From a few takes on their spread is known; nobody counts frames twenty times.
MOST_TAKES = 20
Rate = Annotated[float, Field(ge=1, le=1000, allow_inf_nan=False, strict=True)]


class Filmed(Struct):
    """Takes in which frames were counted between a moment on the clock and the same moment on the screen."""

    frames: Annotated[
        tuple[Annotated[int, Field(ge=0, le=10_000, strict=True)], ...], Field(min_length=1, max_length=MOST_TAKES)
    ]
    rate_fps: Rate = Field(description="of the camera that filmed both")


class Pair(Struct):
    """One frame in which both clocks can be read: the clock itself and, behind it, the one on the screen."""

    real_ms: Annotated[float, Field(ge=0, le=1e9, strict=True)]
    shown_ms: Annotated[float, Field(ge=0, le=1e9, strict=True)]


class Clocks(Struct):
    """Frames in which both clocks can be read."""

    pairs: Annotated[tuple[Pair, ...], Field(min_length=1, max_length=MOST_TAKES)]
    refresh_hz: Rate = Field(default=60.0, description="how often the clock shows another number")


def by_frames(film: Filmed) -> Measured:
    """The delay in ms of counted frames."""
    return delay.by_frames(film.frames, film.rate_fps)


def by_clocks(read: Clocks) -> Measured:
    """The delay in ms from both clocks read in the same frame."""
    return delay.by_clocks([(pair.real_ms, pair.shown_ms) for pair in read.pairs], read.refresh_hz)
