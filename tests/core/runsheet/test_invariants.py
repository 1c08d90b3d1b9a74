"""The three invariants of a run sheet, over generated rigs."""

from hypothesis import given, settings

from isotact.core.bench import run, watch
from isotact.core.model import ResolvedRig
from isotact.core.planning import plan
from isotact.core.runsheet import run_sheet
from isotact.core.trades import conditions_of, fresh_world
from tests.core.runsheet.careful import carefully
from tests.strategies import rigs, shaken_rigs


@settings(max_examples=40)
@given(rigs() | shaken_rigs())
def test_careful_no_step_is_refused_and_nothing_is_done_that_must_not_be(rig: ResolvedRig) -> None:
    sheet = run_sheet(rig, plan(rig))
    carefully(fresh_world(rig), sheet.steps)
    titles = [step.title for step in sheet.steps]
    assert len(set(titles)) == len(titles)


@settings(max_examples=45)
@given(rigs() | shaken_rigs())
def test_sound_carried_out_it_proves_every_promise_that_the_plan_claims(rig: ResolvedRig) -> None:
    made = plan(rig)
    conditions = conditions_of(rig, made)
    ran = run(rig, run_sheet(rig, made), film=False, conditions=conditions)
    proven = {proof.promise for proof in ran.proofs if proof.ok}
    assert proven == set(made.kept), [proof.seen for proof in ran.proofs if not proof.ok]
    assert ran.broken == ()


@settings(max_examples=40)
@given(rigs() | shaken_rigs())
def test_needed_without_any_step_some_promise_fails_unless_it_is_care(rig: ResolvedRig) -> None:
    made = plan(rig)
    sheet = run_sheet(rig, made)
    before = set(run(rig, sheet, film=False).unproven)
    for step in sheet.steps:
        if not step.care:
            after = set(run(rig, sheet, skip={step.id}, film=False).unproven)
            assert after > before, f"nothing fails without '{step.title}'"


@settings(max_examples=35)
@given(rigs() | shaken_rigs())
def test_stable_what_a_step_made_true_is_true_at_the_end(rig: ResolvedRig) -> None:
    made = plan(rig)
    conditions = conditions_of(rig, made)
    sheet = run_sheet(rig, made)
    seen = list(watch(rig, sheet, conditions))
    last_made = {key: number for number, step in enumerate(sheet.steps) for key in step.makes}
    for key, number in last_made.items():
        for step, holding in seen[number:]:
            assert key in holding, f"{key}, made by {sheet.steps[number].id}, is spoilt by {step}"


@settings(max_examples=15)
@given(rigs())
def test_the_same_rig_gives_the_same_plan_and_sheet(rig: ResolvedRig) -> None:
    one, other = plan(rig), plan(rig)
    assert one == other
    assert run_sheet(rig, one) == run_sheet(rig, other)
