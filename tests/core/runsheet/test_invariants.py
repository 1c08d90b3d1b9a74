"""The invariants of a run sheet, over generated rigs."""

from isotact.core.bench import run, watch
from isotact.core.planning import plan
from isotact.core.runsheet import run_sheet
from isotact.core.trades import fresh_world
from tests.core.runsheet.careful import carefully
from tests.corpus import Drawn, every


@every("small or shaken", 45)
def test_careful_no_step_is_refused_and_nothing_is_done_that_must_not_be(drawn: Drawn) -> None:
    carefully(fresh_world(drawn.rig), drawn.done.sheet.steps)
    titles = [step.title for step in drawn.done.sheet.steps]
    assert len(set(titles)) == len(titles)


@every("small or shaken", 45)
def test_sound_carried_out_it_proves_every_promise_that_the_plan_claims(drawn: Drawn) -> None:
    done = drawn.done
    ran = run(done.rig, done.sheet, film=False, conditions=done.conditions)
    proven = {proof.promise for proof in ran.proofs if proof.ok}
    assert proven == set(done.plan.kept), [proof.seen for proof in ran.proofs if not proof.ok]
    assert ran.broken == ()


@every("small or shaken", 40)
def test_needed_without_any_step_some_promise_fails_unless_it_is_care(drawn: Drawn) -> None:
    rig, sheet = drawn.rig, drawn.done.sheet
    before = set(run(rig, sheet, film=False).unproven)
    for step in sheet.steps:
        if not step.care:
            after = set(run(rig, sheet, skip={step.id}, film=False).unproven)
            assert after > before, f"nothing fails without '{step.title}'"


@every("small or shaken", 45)
def test_stable_what_a_step_made_true_is_true_at_the_end(drawn: Drawn) -> None:
    sheet = drawn.done.sheet
    seen = list(watch(drawn.rig, sheet, drawn.done.conditions))
    last_made = {key: number for number, step in enumerate(sheet.steps) for key in step.makes}
    for key, number in last_made.items():
        for step, holding in seen[number:]:
            assert key in holding, f"{key}, made by {sheet.steps[number].id}, is spoilt by {step}"


@every("small or shaken", 20)
def test_the_same_rig_gives_the_same_plan_and_sheet(drawn: Drawn) -> None:
    again = plan(drawn.rig)
    assert again == drawn.plan
    assert run_sheet(drawn.rig, again) == drawn.done.sheet
