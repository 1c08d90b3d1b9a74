"""CP-SAT's optimum against that of another solver on another formulation.

Source: HiGHS through scipy.optimize.milp (scipy 1.17), on the formulation in milp.py.
"""

from hypothesis import given, settings

from isotact.core.model import ResolvedRig
from isotact.core.planning import plan
from tests.core.planning.brute_force import weighed
from tests.reference.milp import best
from tests.strategies import mid_rigs


@settings(max_examples=30)
@given(mid_rigs())
def test_weight_and_cost_equal_those_of_the_mixed_integer_program(rig: ResolvedRig) -> None:
    made = plan(rig)
    assert made.status == "proven-optimal"
    assert (*weighed(rig, made.kept), sum(line.points for line in made.cost)) == best(rig)
