"""A simulated rig on which a run sheet is carried out: small stand-ins driven by their profiles.

Knows what actions do and what a person would see; knows nothing of plans.
"""

from isotact.core.bench.appearance import DeviceLook
from isotact.core.bench.proving import Proof, prove
from isotact.core.bench.running import Bench, Frame, Run, carry_through, run, watch

__all__ = ["Bench", "DeviceLook", "Frame", "Proof", "Run", "carry_through", "prove", "run", "watch"]
