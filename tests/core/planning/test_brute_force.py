"""On generated tiny rigs the planner is as good as trying everything, and its 'impossible' is impossible."""

from isotact.core.bench import run
from tests.core.planning.brute_force import best, weighed
from tests.corpus import Drawn, every
from tests.reference.milp import best as other_best


@every("small", 220)
def test_weight_and_cost_equal_the_best_of_all_configurations(drawn: Drawn) -> None:
    rig, made = drawn.rig, drawn.plan
    cost = sum(line.points for line in made.cost)
    assert made.status == "proven-optimal"
    assert (*weighed(rig, made.kept), cost) == best(rig)


@every("fed twice", 80)
def test_which_of_two_feeds_carries_is_weighed(drawn: Drawn) -> None:
    rig, made = drawn.rig, drawn.plan
    cost = sum(line.points for line in made.cost)
    assert (*weighed(rig, made.kept), cost) == best(rig) == other_best(rig)
    ran = run(rig, drawn.done.sheet)
    assert {promise.id for promise in rig.rig.promises} - {*ran.unproven} == {*made.kept}


@every("thin leads", 60)
def test_who_would_brown_out_is_weighed(drawn: Drawn) -> None:
    rig, made = drawn.rig, drawn.plan
    cost = sum(line.points for line in made.cost)
    assert (*weighed(rig, made.kept), cost) == best(rig) == other_best(rig)
    ran = run(rig, drawn.done.sheet)
    assert {promise.id for promise in rig.rig.promises} - {*ran.unproven} == {*made.kept}


@every("laden", 60)
def test_what_a_gimbal_carries_whom_a_server_serves_and_where_a_motor_hangs_are_weighed(drawn: Drawn) -> None:
    rig, made = drawn.rig, drawn.plan
    cost = sum(line.points for line in made.cost)
    assert (*weighed(rig, made.kept), cost) == other_best(rig)
    ran = run(rig, drawn.done.sheet)
    assert {promise.id for promise in rig.rig.promises} - {*ran.unproven} == {*made.kept}


@every("laden", 8)
def test_they_are_weighed_as_by_trying_everything(drawn: Drawn) -> None:
    rig, made = drawn.rig, drawn.plan
    assert (*weighed(rig, made.kept), sum(line.points for line in made.cost)) == best(rig)


@every("small", 40)
def test_what_is_unmet_cannot_be_added_to_what_is_kept(drawn: Drawn) -> None:
    rig, made = drawn.rig, drawn.plan
    for unmet in made.unmet:
        wanted = [p for p in rig.rig.promises if p.id == unmet.promise or p.id in unmet.conflicts_with]
        alone = rig.rig.model_copy(update={"promises": wanted})
        smaller = type(rig)(alone, rig.cables, rig.devices)
        assert sum(best(smaller)[:2]) < sum(promise.weight for promise in wanted), unmet.because
