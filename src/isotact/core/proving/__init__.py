"""What is to be seen and read when a promise is proven by hand, and what a reading says of it.

No plan is made here, and nothing is simulated: a promise and readings go in, a judgement comes out.
"""

from isotact.core.proving.asking import Ask, asks_of
from isotact.core.proving.delay import Clocks, Filmed, Measured, Pair, by_clocks, by_frames
from isotact.core.proving.judging import Judged, Reading, Verdict, judged, measured

__all__ = [
    "Ask",
    "Clocks",
    "Filmed",
    "Judged",
    "Measured",
    "Pair",
    "Reading",
    "Verdict",
    "asks_of",
    "by_clocks",
    "by_frames",
    "judged",
    "measured",
]
