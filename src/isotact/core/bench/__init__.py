"""A simulated rig on which a run sheet is carried out, by sheet or by hand.

What acts do belongs to their trades, what follows from them to the world; here they are done one after the other.
"""

from isotact.core.bench.at_hand import AtBench, HandOffer, InHand, seen
from isotact.core.bench.execution import Frame, Run, carry_out, carry_through, run, watch
from isotact.core.bench.hands import Built, HandBench, NoMoveError
from isotact.core.bench.moves import DoAct, DoStep, Move, Told, WaitFor
from isotact.core.bench.rehearsal import Otherwise

__all__ = [
    "AtBench",
    "Built",
    "DoAct",
    "DoStep",
    "Frame",
    "HandBench",
    "HandOffer",
    "InHand",
    "Move",
    "NoMoveError",
    "Otherwise",
    "Run",
    "Told",
    "WaitFor",
    "carry_out",
    "carry_through",
    "run",
    "seen",
    "watch",
]
