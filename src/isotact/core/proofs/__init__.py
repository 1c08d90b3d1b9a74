"""What is to be seen and read when a promise is proven by hand, and what a reading says of it.

No plan is made here, and nothing is simulated: a promise and readings go in, a judgement comes out.
"""

from isotact.core.calc.delay import Measured
from isotact.core.proofs.film import Clocks, Filmed, Pair, by_clocks, by_frames
from isotact.core.proofs.judgement import Judged, Reading, Verdict, judged, measured
from isotact.core.proofs.proof_checks import ProofCheck, checks_of_promise

__all__ = [
    "Clocks",
    "Filmed",
    "Judged",
    "Measured",
    "Pair",
    "ProofCheck",
    "Reading",
    "Verdict",
    "by_clocks",
    "by_frames",
    "checks_of_promise",
    "judged",
    "measured",
]
