"""What we choose: the ways that there are, the best choice between them, and the reasons for what cannot be kept.

Knows nothing of steps, worlds or screens; what compares several plans belongs to `questions`, which builds
the model again by `model_access`.
"""

from isotact.core.planning.explaining.explanation import not_asked
from isotact.core.planning.planner import Chosen, chosen_for, plan, plan_only, with_reasons
from isotact.core.planning.tape_flags import flags_of, kept_flags
from isotact.core.planning.ways.all_ways import search
from isotact.core.planning.ways.candidates import candidates
from isotact.core.progress import Watch, at, watched
from isotact.core.solver import warm_up

__all__ = [
    "Chosen",
    "Watch",
    "at",
    "candidates",
    "chosen_for",
    "flags_of",
    "kept_flags",
    "not_asked",
    "plan",
    "plan_only",
    "search",
    "warm_up",
    "watched",
    "with_reasons",
]
