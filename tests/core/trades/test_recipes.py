"""A recipe that was taken for a promise: maybe, never kept; a block of steps; tried, and counted."""

from collections.abc import Callable
from typing import Any

import pytest
from pydantic import ValidationError

from isotact.cli.reports import plan_report
from isotact.core.bench import carry_through, run
from isotact.core.model import ResolvedRig, Rig
from isotact.core.planning import plan
from isotact.core.questions.rig_changes import Change, with_changes
from isotact.core.runsheet import RunSheet, mid_day, run_sheet, sheet_between
from isotact.core.trades import conditions_of, fresh_world, perform
from isotact.core.trades.waking import Sleep
from isotact.core.world import World
from tests.core.questions.test_recipe_offers import recipe
from tests.rigs import demo, demo_rig, device_of, promise_of

BLOCK = ("follow-recipe", "follow-recipe", "try-recipe")


def taken(data: dict[str, Any], **more: Any) -> None:
    """The recipe for ISO, taken into the demo rig: of four promises this is the one that has no way."""
    one = {"promise": "iso", "recipe": recipe().model_dump(mode="json"), "devices": ["transmitter", "body"]}
    data["recipes"] = [{**one, "worked": 1, "tries": 2, **more}]


def with_it(change: Callable[[dict[str, Any]], object] | None = None, **more: Any) -> ResolvedRig:
    def both(data: dict[str, Any]) -> None:
        taken(data, **more)
        if change is not None:
            change(data)

    return demo(both)


def block_of(sheet: RunSheet) -> tuple[str, ...]:
    return tuple(step.act.kind for step in sheet.steps if step.id.startswith("recipe:"))


def test_it_is_maybe_and_never_counts_as_kept():
    rig = with_it()
    made = plan(rig)
    (maybe,) = made.maybe
    assert (maybe.promise, maybe.says, maybe.differs) == ("iso", "maybe, 1 of 2 tries, firmware 1.3", ())
    assert "iso" not in made.kept
    assert [one.promise for one in made.unmet] == ["iso"]
    assert run(rig, run_sheet(rig, made)).unproven == ("iso",)
    says = plan_report(rig, made)
    assert "3 of 4 promises hold, 1 maybe (proven optimal)." in says
    assert "??   ISO from the touch screen" in says


@pytest.mark.parametrize(
    ("worked", "tries", "says"),
    [(0, 0, "maybe, never tried, firmware 1.3"), (1, 1, "maybe, 1 of 1 try, firmware 1.3")],
)
def test_how_often_is_said_as_it_is(worked: int, tries: int, says: str):
    assert plan(with_it(worked=worked, tries=tries)).maybe[0].says == says


def test_its_steps_are_one_block_after_all_that_is_built_and_before_what_is_proven():
    rig = with_it()
    steps = run_sheet(rig, plan(rig)).steps
    kinds = [step.act.kind for step in steps]
    first = kinds.index(BLOCK[0])
    assert tuple(kinds[first : first + 3]) == BLOCK
    assert {*kinds[first + 3 :]} == {"prove"}
    assert "prove" not in kinds[:first]
    assert steps[first].detail[0].startswith("Maybe, 1 of 2 tries, firmware 1.3: the recipe “ISO by the card")
    assert "whichever way it went" in " ".join(steps[first + 2].detail)


def test_what_it_needs_is_out_and_on_though_nothing_else_wants_it():
    def alone(data: dict[str, Any]) -> None:
        data["promises"] = [one for one in data["promises"] if one["id"] in ("roll", "iso")]

    def used(rig: ResolvedRig) -> bool:
        return "transmitter" in {feed.device for feed in plan(rig).feeds}

    assert used(with_it(alone))
    assert not used(demo(alone))


def test_a_device_that_is_to_stay_in_its_case_is_said_and_nothing_of_it_is_done():
    rig = with_it(lambda data: data.update(pins=[{"kind": "off", "device": "transmitter"}]))
    made = plan(rig)
    assert made.maybe[0].differs == ("Quillon link is to stay in its case, and the recipe needs it.",)
    assert block_of(run_sheet(rig, made)) == ()


def test_another_firmware_is_said_where_it_begins():
    rig = with_it(lambda data: device_of(data, "transmitter").update(firmware="1.2"))
    says = "Quillon link has 1.2; the recipe was found with firmware 1.3."
    made = plan(rig)
    assert made.maybe[0].differs == (says,)
    assert says in next(step for step in run_sheet(rig, made).steps if step.act.kind == "follow-recipe").detail


def test_it_is_laid_aside_where_the_promise_has_a_way_of_its_own():
    gives = [{"kind": "control", "function": "record"}]
    rig = with_it(promise="roll", recipe=recipe(gives=gives).model_dump(mode="json"))
    made = plan(rig)
    assert "roll" in made.kept
    assert made.maybe == ()
    assert [one for one in made.warnings if "is not needed: record from" in one]
    assert block_of(run_sheet(rig, made)) == ()


@pytest.mark.parametrize(
    ("more", "place", "says"),
    [
        ({"promise": "none"}, "recipes.0.promise", "not promised in this rig"),
        ({"promise": "focus"}, "recipes.0.promise", "nothing that the recipe gives"),
        ({"devices": ["transmitter"]}, "recipes.0.devices", "expected 2"),
        ({"devices": ["body", "transmitter"]}, "recipes.0.devices.0", "the recipe wants a"),
        ({"devices": ["transmitter", "nobody"]}, "recipes.0.devices.1", "not in this rig"),
        ({"worked": 3}, "recipes.0.worked", "found 3 of 2"),
    ],
)
def test_what_does_not_fit_the_rig_is_refused_at_its_place(more: dict[str, Any], place: str, says: str):
    data = demo_rig().model_dump(mode="json")
    taken(data, **more)
    with pytest.raises(ValidationError) as refused:
        Rig.model_validate(data)
    flaws = refused.value.errors()[0]["ctx"]["flaws"]
    assert any(".".join(map(str, path)) == place and says in words for path, words in flaws)


def test_a_promise_rests_on_one_recipe():
    data = demo_rig().model_dump(mode="json")
    taken(data)
    data["recipes"] *= 2
    with pytest.raises(ValidationError) as refused:
        Rig.model_validate(data)
    assert (("recipes", 1, "promise"), "found 'iso' twice; a promise rests on one recipe") in refused.value.errors()[0][
        "ctx"
    ]["flaws"]


def test_a_promise_that_is_given_up_takes_its_recipe_along():
    drop = Change(kind="drop", says="give it up", value="iso", points=1)
    assert with_changes(with_it(), [drop]).recipes == []


def stood(rig: ResolvedRig) -> World:
    return carry_through(rig, run_sheet(rig, plan(rig)))


def test_taken_on_a_rig_that_stands_only_its_block_is_left_to_do():
    sheet = mid_day(stood(demo()), with_it(), plan(with_it()))
    assert block_of(sheet) == BLOCK
    assert [step.id for step in sheet.steps if not step.id.startswith("recipe:")] == []


def test_once_tried_it_is_not_done_again_for_what_has_nothing_to_do_with_it():
    other = with_it(lambda data: promise_of(data, "roll").update(who="First AC"))
    assert block_of(mid_day(stood(with_it()), other, plan(other))) == ()


def test_a_device_of_it_that_went_off_wants_it_done_again():
    rig = with_it()
    made, world = plan(rig), stood(rig)
    perform(world, Sleep(device="transmitter"))
    assert block_of(sheet_between(world, made)) == BLOCK


def test_a_step_of_it_cannot_be_done_before_the_one_before_it():
    rig = with_it()
    made, world = plan(rig), fresh_world(rig)
    second = next(step for step in run_sheet(rig, made).steps if step.id == "recipe:iso.1")
    assert second.act.why_not(world) == "The step of the recipe before this one was not done."


def test_its_only_fault_is_a_step_left_out_and_then_it_holds_no_longer():
    rig = with_it()
    world = stood(rig)
    followed = [one for one in conditions_of(rig, plan(rig)) if one.key.kind == "followed"]
    assert [one.holds(world) for one in followed] == [True] * 3
    assert all(not one.promises for one in followed)
    for one in followed:
        (fault,) = one.faults(rig)
        fork = world.fork()
        perform(fork, fault.act)
        assert not one.holds(fork)
        assert one.check(rig).read(fork).words == "it was not"
