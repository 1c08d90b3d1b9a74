"""A simulated rig on which a run sheet is carried out, by sheet or by hand.

What acts do belongs to their trades, what follows from them to the world; here they are done one after the other.
"""

from isotact.core.bench.asking import Aftermath, CannotAskError, aftermath
from isotact.core.bench.running import Frame, Run, carry_out, carry_through, do, run, watch

__all__ = [
    "Aftermath",
    "CannotAskError",
    "Frame",
    "Run",
    "aftermath",
    "carry_out",
    "carry_through",
    "do",
    "run",
    "watch",
]
