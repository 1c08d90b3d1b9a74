"""CP-SAT's optimum against that of another solver on another formulation.

Source: HiGHS through scipy.optimize.milp (scipy 1.17), on the formulation in milp.py.
"""

from tests.core.planning.brute_force import weighed
from tests.corpus import Drawn, every
from tests.reference.milp import best


@every("mid-size", 30)
def test_weight_and_cost_equal_those_of_the_mixed_integer_program(drawn: Drawn) -> None:
    rig, made = drawn.rig, drawn.plan
    assert made.status == "proven-optimal"
    assert (*weighed(rig, made.kept), sum(line.points for line in made.cost)) == best(rig)
