"""What may be used by whoever builds the planner's model again to ask it something else: questions, and the day.

Everybody else takes what `planning` itself names. Nothing else of planning is imported from outside of it.
"""

from isotact.core.planning.channels import Retune, clashes, without_clashes
from isotact.core.planning.explaining.missing_cables import no_way
from isotact.core.planning.explaining.ruled_out import ruled_out
from isotact.core.planning.lasting_truly import ruled_out_by_the_circuit, short_lived, with_true_hours
from isotact.core.planning.optimising import price_list
from isotact.core.planning.optimising.choice_model import ChoiceModel, Path, Terms
from isotact.core.planning.optimising.nogoods import does_not_last, rule_out
from isotact.core.planning.optimising.objective import FINE, aim, cost_of, gain, gained, points_of, stacked
from isotact.core.planning.optimising.pins import goes_over
from isotact.core.planning.optimising.pruning import build_found
from isotact.core.planning.plan_writer import Status, taken_routes, write_plan
from isotact.core.planning.planner import MOST_TRIES, Chosen, choose_each, lasting_longest, plan_only, with_reasons
from isotact.core.planning.ways.all_ways import Searched, search
from isotact.core.planning.ways.candidates import candidates, would_be
from isotact.core.planning.ways.requirements import Requirements, changes_for, obstacles
from isotact.core.planning.ways.simple_ways import Crossing, Way, Ways, has_look

__all__ = [
    "FINE",
    "MOST_TRIES",
    "ChoiceModel",
    "Chosen",
    "Crossing",
    "Path",
    "Requirements",
    "Retune",
    "Searched",
    "Status",
    "Terms",
    "Way",
    "Ways",
    "aim",
    "build_found",
    "candidates",
    "changes_for",
    "choose_each",
    "clashes",
    "cost_of",
    "does_not_last",
    "gain",
    "gained",
    "goes_over",
    "has_look",
    "lasting_longest",
    "no_way",
    "obstacles",
    "plan_only",
    "points_of",
    "price_list",
    "rule_out",
    "ruled_out",
    "ruled_out_by_the_circuit",
    "search",
    "short_lived",
    "stacked",
    "taken_routes",
    "with_reasons",
    "with_true_hours",
    "without_clashes",
    "would_be",
    "write_plan",
]
