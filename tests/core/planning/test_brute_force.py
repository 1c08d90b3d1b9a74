"""On generated tiny rigs the planner is as good as trying everything, and its 'impossible' is impossible."""

from hypothesis import given, settings

from isotact.core.bench import run
from isotact.core.model import ResolvedRig
from isotact.core.planning import plan
from isotact.core.runsheet import run_sheet
from tests.core.planning.brute_force import best, weighed
from tests.reference.milp import best as other_best
from tests.strategies import fed_twice, laden, rigs


@settings(max_examples=220)
@given(rigs())
def test_weight_and_cost_equal_the_best_of_all_configurations(rig: ResolvedRig) -> None:
    made = plan(rig)
    cost = sum(line.points for line in made.cost)
    assert made.status == "proven-optimal"
    assert (*weighed(rig, made.kept), cost) == best(rig)


@settings(max_examples=80)
@given(fed_twice())
def test_which_of_two_feeds_carries_is_weighed(rig: ResolvedRig) -> None:
    made = plan(rig)
    cost = sum(line.points for line in made.cost)
    assert (*weighed(rig, made.kept), cost) == best(rig) == other_best(rig)
    ran = run(rig, run_sheet(rig, made))
    assert {promise.id for promise in rig.rig.promises} - {*ran.unproven} == {*made.kept}


@settings(max_examples=60)
@given(laden())
def test_what_a_gimbal_carries_whom_a_server_serves_and_where_a_motor_hangs_are_weighed(rig: ResolvedRig) -> None:
    made = plan(rig)
    cost = sum(line.points for line in made.cost)
    assert (*weighed(rig, made.kept), cost) == other_best(rig)
    ran = run(rig, run_sheet(rig, made))
    assert {promise.id for promise in rig.rig.promises} - {*ran.unproven} == {*made.kept}


@settings(max_examples=8)
@given(laden())
def test_they_are_weighed_as_by_trying_everything(rig: ResolvedRig) -> None:
    made = plan(rig)
    assert (*weighed(rig, made.kept), sum(line.points for line in made.cost)) == best(rig)


@settings(max_examples=40)
@given(rigs())
def test_what_is_unmet_cannot_be_added_to_what_is_kept(rig: ResolvedRig) -> None:
    made = plan(rig)
    for unmet in made.unmet:
        wanted = [p for p in rig.rig.promises if p.id == unmet.promise or p.id in unmet.conflicts_with]
        alone = rig.rig.model_copy(update={"promises": wanted})
        smaller = type(rig)(alone, rig.cables, rig.devices)
        assert sum(best(smaller)[:2]) < sum(promise.weight for promise in wanted), unmet.because
