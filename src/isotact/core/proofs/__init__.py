"""What is to be seen and read when a promise is proven by hand, and what a reading says of it.

No plan is made here, and nothing is simulated: a promise and readings go in, a judgement comes out.
"""

from isotact.core.proofs.film import Clocks, Filmed, Measured, Pair, by_clocks, by_frames
from isotact.core.proofs.judgement import Judged, Reading, Verdict, judged, measured
from isotact.core.proofs.proof_checks import Ask, asks_of

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
