"""Candidate joins, routes, the choice between them, and the reasons for what cannot be kept.

Knows nothing of steps, worlds or screens.
"""

from isotact.core.wiring.advising import Advice, advise
from isotact.core.wiring.alternatives import Alternative, PictureWay, alternatives, picture_ways
from isotact.core.wiring.asking import JoinAnswer, PinCost, ask_join, pin_costs
from isotact.core.wiring.candidates import candidates
from isotact.core.wiring.drawing import Drawing, draw
from isotact.core.wiring.figures import Figures, figures
from isotact.core.wiring.matrix import Matrix, functions_matrix
from isotact.core.wiring.planner import plan, plan_only, search
from isotact.core.wiring.sharing import Day, plan_day
from isotact.core.wiring.solving import Watch, warm_up
from isotact.core.wiring.taking import Takes, what_it_takes
from isotact.core.wiring.wording import promise_words

__all__ = [
    "Advice",
    "Alternative",
    "Day",
    "Drawing",
    "Figures",
    "JoinAnswer",
    "Matrix",
    "PictureWay",
    "PinCost",
    "Takes",
    "Watch",
    "advise",
    "alternatives",
    "ask_join",
    "candidates",
    "draw",
    "figures",
    "functions_matrix",
    "picture_ways",
    "pin_costs",
    "plan",
    "plan_day",
    "plan_only",
    "promise_words",
    "search",
    "warm_up",
    "what_it_takes",
]
