"""Delay from counted frames, against hand-reckoned cases and against film that is simulated frame by frame."""

from math import ceil
from random import Random

import pytest

from isotact.core.proofs import Clocks, Filmed, Pair, by_clocks, by_frames

HAND_RECKONED = [
    # frames, rate, ms, and twice the standard uncertainty of a triangle one frame wide to either side: 2 / (rate x
    # square root of 6), JCGM 100:2008, 4.3.9, evaluated by hand.
    ((2,), 25, 80.0, 32.7),
    ((2,), 24, 83.3, 34.0),
    ((5,), 50, 100.0, 16.3),
    ((7,), 120, 58.3, 6.8),
    ((0,), 240, 0.0, 3.4),
    # Two takes a frame apart at 60: each 16.667 ms, mean 8.5 frames. The spread of the mean is half a frame (8.333 ms),
    # the step 6.804 ms; together 10.758 ms, twice that 21.5.
    ((8, 9), 60, 141.7, 21.5),
]


@pytest.mark.parametrize(("frames", "rate_fps", "value", "plus_minus"), HAND_RECKONED)
def test_frames_by_hand(frames: tuple[int, ...], rate_fps: float, value: float, plus_minus: float):
    found = by_frames(Filmed(frames=frames, rate_fps=rate_fps))
    assert (found.value, found.plus_minus) == (value, plus_minus)


@pytest.mark.parametrize("rate_fps", [24, 25, 60, 240])
def test_nineteen_of_twenty_simulated_takes_lie_within_what_is_said(rate_fps: int):
    """A moment is seen in the first frame that begins after it; both moments fall anywhere within a frame."""
    draw = Random(rate_fps)
    within = 0
    for _ in range(2000):
        delay_s, begun_s = draw.uniform(0, 0.4), draw.random()
        counted = ceil((begun_s + delay_s) * rate_fps) - ceil(begun_s * rate_fps)
        found = by_frames(Filmed(frames=(counted,), rate_fps=rate_fps))
        within += abs(found.value - delay_s * 1000) <= found.plus_minus
    assert within / 2000 >= 0.95


def test_nineteen_of_twenty_simulated_clocks_lie_within_what_is_said():
    """A clock shows the last of its numbers, 60 of which come each second; the screen shows what it showed before."""
    draw = Random(60)
    within = 0
    for _ in range(2000):
        delay_s, now_s = draw.uniform(0, 0.4), draw.uniform(1, 2)
        shown = [int(moment_s * 60) / 60 * 1000 for moment_s in (now_s, now_s - delay_s)]
        found = by_clocks(Clocks(pairs=(Pair(real_ms=shown[0], shown_ms=shown[1]),), refresh_hz=60))
        within += abs(found.value - delay_s * 1000) <= found.plus_minus
    assert within / 2000 >= 0.95
