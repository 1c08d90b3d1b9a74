"""Exercises: the same for the same code, hidden until they are over, and told beside the finder's own way."""

from itertools import count

import pytest
from hypothesis import given
from hypothesis import strategies as st

from isotact.core.bench import Built, DoStep, HandBench
from isotact.core.model import NotFoundError
from isotact.core.trades import fresh_world
from isotact.core.training import LEVELS, Exercise, GiveUp, LookAt, Mend, NoExerciseError, Trained, missed
from isotact.core.training.by_hand import hunted, judged_blind, judged_hunt
from isotact.core.training.exercise import RIG_BITS, SEED_BITS, code_of, from_code, rig_bits
from isotact.core.training.hidden import Hidden, fallen, hide, shown, standing_for
from isotact.core.training.trail import cured, finders_way
from isotact.core.training.training import Training, points
from tests.rigs import SHIPPED, carried, rig_of
from tests.searches import faults, table_of

RIG = "night-ferry-b"


def begun(level: int, seed: int = 1, rig: str = RIG) -> Training:
    exercise = Exercise(level=level, seed=seed)
    table = table_of(rig, standing_for(exercise, carried(rig).sheet))
    return Training(table, hide(table, exercise))


def causes(training: Training) -> list[str]:
    return [training.table.causes[column] for column in training.hidden.columns]


@given(st.sampled_from([*LEVELS]), st.integers(0, 2**SEED_BITS - 1), st.sampled_from(sorted(SHIPPED)))
def test_a_code_gives_the_same_exercise_back_however_it_is_read_out(level, seed, key):
    rig, exercise = SHIPPED[key], Exercise(level=level, seed=seed)
    code = code_of(rig, exercise)
    assert len(code) == 9
    for said in (code, code.lower(), code.replace("-", " "), code.replace("0", "o").replace("1", "l")):
        assert from_code(said) == (rig_bits(rig), exercise)


@pytest.mark.parametrize("code", ["", "7K2M", "UUUU-UUUU", "7K2M-0Q4D-1", "0" * 8, "ZZZZ-ZZZZ"])
def test_what_is_no_code_is_refused_with_what_one_looks_like(code):
    with pytest.raises(NoExerciseError, match="code"):
        from_code(code)


def test_a_code_is_of_one_rig_as_it_is_now():
    bits = {rig_bits(rig) for rig in SHIPPED.values()}
    assert len(bits) == len(SHIPPED)
    assert max(bits) < 2**RIG_BITS
    changed = SHIPPED[RIG].model_copy(update={"name": "Another"})
    assert rig_bits(changed) != rig_bits(SHIPPED[RIG])


@pytest.mark.parametrize("level", LEVELS)
def test_the_same_seed_hides_the_same_and_others_hide_other_things(level):
    one, again = begun(level), begun(level)
    assert (one.hidden.columns, one.hidden.rumour and one.hidden.rumour.says) == (
        again.hidden.columns,
        again.hidden.rumour and again.hidden.rumour.says,
    )
    hidden = {hide(one.table, Exercise(level=level, seed=seed)).columns for seed in range(20)}
    assert len(hidden) > 5


@pytest.mark.parametrize("level", LEVELS)
def test_nothing_is_told_before_it_is_over_and_all_of_it_then(level):
    training = begun(level)
    state = training.standing()
    assert state.status == "open"
    assert (state.was, state.kinds, state.devices, state.finder, state.points) == ((), (), (), None, None)
    assert state.fails == state.fails_now != ()
    over = training.all([GiveUp()]).standing()
    assert over.status == "given-up"
    assert len(over.was) == (2 if level == 3 else 1)
    assert over.finder is not None
    assert over.points == 0
    with pytest.raises(NoExerciseError, match="is over"):
        training.all([GiveUp()])


def test_half_way_through_is_before_anything_is_proven():
    training = begun(2)
    assert all(moment.step.act.proves is None for moment in training.table.situation.moments)


def test_two_things_are_apart_and_mending_one_does_not_bring_all_back():
    for seed in range(12):
        training = begun(3, seed)
        first, second = (training.table.hypotheses[column] for column in training.hidden.columns)
        assert not first.about & second.about
        state = training.all([Mend(cause=first.cause)]).standing()
        assert state.told[-1].helped
        assert (state.status, state.told[-1].seen) == ("open", "it still fails")
        assert training.all([Mend(cause=second.cause)]).standing().status == "mended"


def test_what_a_colleague_says_is_not_what_is_seen_there():
    for seed in range(12):
        training = begun(4, seed)
        rumour = training.hidden.rumour
        assert rumour is not None
        state = training.all([LookAt(look=rumour.look.id)]).standing()
        assert rumour.words != state.told[0].seen
        assert state.rumour == rumour.says


def test_looks_and_wrong_mends_cost_time_and_the_right_one_ends_it():
    training = begun(1)
    look = next(one for one in training.table.looks if one.check.disturbs and one.undoes_s)
    wrong = next(
        one for one in training.table.hypotheses if one.acts and not cured(training.table, training.left, (one.cause,))
    )
    state = training.all([LookAt(look=look.id), Mend(cause=wrong.cause)]).standing()
    assert state.undoes_s == look.undoes_s > 0
    assert state.looks == 2
    assert state.seconds >= look.check.seconds + look.undoes_s + wrong.mend_s
    assert not state.told[1].helped
    over = training.all([Mend(cause=causes(training)[0])]).standing()
    assert (over.status, over.seconds) == ("mended", state.seconds)
    assert 0 < over.points <= 100


def test_what_is_not_there_can_neither_be_looked_at_nor_mended():
    for answer in (LookAt(look="lamp:nobody"), Mend(cause="nothing")):
        with pytest.raises(NotFoundError):
            begun(1).all([answer])


def test_points_are_the_finders_share_of_the_time_and_never_more_than_all():
    assert [points(60, 60), points(120, 60), points(30, 60), points(0, 0)] == [100, 50, 100, 100]


@pytest.mark.parametrize("rig", sorted(SHIPPED)[::9])
def test_the_finders_way_is_told_step_by_step_and_adds_up(rig):
    table = table_of(rig)
    for column in [*faults(table)][::12]:
        trail = finders_way(table, (column,))
        assert trail.found
        assert trail.seconds == pytest.approx(sum(step.seconds for step in trail.steps))
        assert trail.steps[-1].kind == "mend"
        for step in trail.steps[:-1]:
            if step.kind == "look":
                shows = {
                    look.words[shown(table, row, (column,))]
                    for row, look in enumerate(table.looks)
                    if look.check.says == step.says
                }
                assert step.seen in shows


def hunt(level: int, seed: int = 1) -> tuple[HandBench, Training]:
    done, training = carried(RIG), begun(level, seed)
    bench = HandBench(Built(done.rig, done.plan, done.conditions, done.sheet), fresh_world(done.rig))
    return hunted(bench, training.table, training.hidden), training


@pytest.mark.parametrize("level", LEVELS)
@pytest.mark.parametrize("seed", range(4))
def test_under_the_hands_it_is_over_once_every_promise_works_again(level, seed):
    bench, training = hunt(level, seed)
    verdict = judged_hunt(bench, training.table, training.hidden, given_up=False)
    assert (verdict.status, verdict.was, verdict.par_s, verdict.seconds) == ("open", (), None, 0)
    assert verdict.fails_now == training.standing().fails
    while ahead := [step for step in bench.ahead().steps if step.act.proves is None]:
        bench.do(DoStep(step=ahead[0].id))
    over = judged_hunt(bench, training.table, training.hidden, given_up=False)
    assert over.status == "mended"
    assert over.seconds > 0
    # Whoever knows what it is does no more than mend it: that is never slower than to look for it first.
    assert over.points > 50
    assert over.was == tuple(training.table.hypotheses[column].says for column in training.hidden.columns)


def test_under_the_hands_it_can_be_given_up():
    bench, training = hunt(1)
    verdict = judged_hunt(bench, training.table, training.hidden, given_up=True)
    assert (verdict.status, verdict.points) == ("given-up", 0)
    assert verdict.was


def test_built_blind_is_judged_by_what_works_and_by_the_time_of_the_sheet():
    done = carried(RIG)
    bench = HandBench(Built(done.rig, done.plan, done.conditions, done.sheet), fresh_world(done.rig))
    assert judged_blind(bench, given_up=False).status == "open"
    for step in done.sheet.steps:
        bench.do(DoStep(step=step.id))
    verdict = judged_blind(bench, given_up=False)
    assert (verdict.status, verdict.otherwise, verdict.points) == ("mended", (), 100)
    given_up = HandBench(bench.built, fresh_world(done.rig))
    assert judged_blind(given_up, given_up=True).otherwise


@pytest.mark.parametrize("rig", SHIPPED)
def test_every_shipped_rig_that_keeps_a_promise_can_be_trained_on(rig):
    if not carried(rig).plan.kept:
        return
    table = table_of(rig)
    hidden = hide(table, Exercise(level=1, seed=3))
    assert fallen(table, hidden.columns)
    assert isinstance(hidden, Hidden)


def test_a_rig_without_a_promise_is_none_to_train_on():
    from tests.rigs import Carried, camera

    with pytest.raises(NoExerciseError, match="promise something first"):
        hide(table_of(Carried.out(rig_of([camera()], [], []))), Exercise(level=1, seed=0))


def test_what_somebody_tends_to_miss_comes_first():
    number = count()

    def trained(kind: str, seconds: float, status: str = "mended") -> Trained:
        return Trained(
            at=str(next(number)), person="Bo", rig=RIG, code="", level=1, status=status, seconds=seconds, finder_s=30,
            looks=3, points=50, kinds=(kind,),
        )  # fmt: skip

    done = [trained("a", 40), trained("b", 400), trained("b", 40), trained("c", 40, "given-up"), trained("a", 50)]
    assert [(one.kind, one.met, one.missed) for one in missed(done)] == [("c", 1, 1), ("b", 2, 1)]
