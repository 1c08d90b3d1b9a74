"""One plan beside another: alternatives, what it takes, functions matrix, a day's rigs, schools, single joins, pins;
and one rig then and now: whether a proof still holds.

All of these build the planner's model again and ask it something else; none has rules of its own.
"""

from isotact.core.comparing.alternatives import Alternative, PictureWay, alternatives, picture_ways
from isotact.core.comparing.asking import JoinAnswer, PinCost, ask_join, pin_costs
from isotact.core.comparing.between import Compared, compared
from isotact.core.comparing.happening import Spoilt, spoilt_by
from isotact.core.comparing.lapsing import Stood, lapsed
from isotact.core.comparing.matrix import Matrix, functions_matrix
from isotact.core.comparing.schools import Advice, advise
from isotact.core.comparing.sharing import Day, plan_day
from isotact.core.comparing.taking import Takes, what_it_takes

__all__ = [
    "Advice",
    "Alternative",
    "Compared",
    "Day",
    "JoinAnswer",
    "Matrix",
    "PictureWay",
    "PinCost",
    "Spoilt",
    "Stood",
    "Takes",
    "advise",
    "alternatives",
    "ask_join",
    "compared",
    "functions_matrix",
    "lapsed",
    "picture_ways",
    "pin_costs",
    "plan_day",
    "spoilt_by",
    "what_it_takes",
]
