"""What is asked of a rig besides its plan: other plans, upgrades, the functions matrix, schools, joins, what changed.

All of these build the planner's model again and ask it something else; none has rules of its own.
"""

from isotact.core.questions.alternatives import Alternative, PictureWay, alternatives, picture_ways
from isotact.core.questions.balance_answers import BalanceAnswer, Rebalanced
from isotact.core.questions.balance_marks import balance_marks
from isotact.core.questions.battery_changes import with_battery_changes
from isotact.core.questions.built_rig import BuiltRig
from isotact.core.questions.changes import Compared, compared
from isotact.core.questions.feed_answers import FeedTree
from isotact.core.questions.feed_tree import feed_tree
from isotact.core.questions.functions_matrix import Matrix, functions_matrix
from isotact.core.questions.join_questions import JoinAnswer, PinCost, ask_join, pin_costs
from isotact.core.questions.rebalanced import BalanceTry, try_balance
from isotact.core.questions.recipe_offers import Offer, offers
from isotact.core.questions.school_advice import Advice, advise
from isotact.core.questions.upgrades import Takes, what_it_takes
from isotact.core.questions.what_if import Aftermath, CannotAskError, aftermath

__all__ = [
    "Advice",
    "Aftermath",
    "Alternative",
    "BalanceAnswer",
    "BalanceTry",
    "BuiltRig",
    "CannotAskError",
    "Compared",
    "FeedTree",
    "JoinAnswer",
    "Matrix",
    "Offer",
    "PictureWay",
    "PinCost",
    "Rebalanced",
    "Takes",
    "advise",
    "aftermath",
    "alternatives",
    "ask_join",
    "balance_marks",
    "compared",
    "feed_tree",
    "functions_matrix",
    "offers",
    "picture_ways",
    "pin_costs",
    "try_balance",
    "what_it_takes",
    "with_battery_changes",
]
