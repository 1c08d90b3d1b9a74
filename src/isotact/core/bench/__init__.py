"""A simulated rig on which a run sheet is carried out, by sheet or by hand.

What acts do belongs to their trades, what follows from them to the world; here they are done one after the other.
"""

from isotact.core.bench.execution import Frame, Run, carry_out, carry_through, run, watch

__all__ = ["Frame", "Run", "carry_out", "carry_through", "run", "watch"]
