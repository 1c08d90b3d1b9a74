"""CP-SAT's optimum against that of another solver on another formulation.

Source: HiGHS through scipy.optimize.milp (scipy 1.17), on the formulation in milp.py.
"""

from hypothesis import given, settings

from isotact.core.model import ResolvedRig
from isotact.core.planning import plan
from tests.reference.milp import best
from tests.strategies import mid_rigs


@settings(max_examples=50)
@given(mid_rigs())
def test_weight_and_cost_equal_those_of_the_mixed_integer_program(rig: ResolvedRig) -> None:
    made = plan(rig)
    weights = {promise.id: promise.weight for promise in rig.rig.promises}
    assert made.status == "proven-optimal"
    assert (sum(weights[key] for key in made.kept), sum(line.points for line in made.cost)) == best(rig)
