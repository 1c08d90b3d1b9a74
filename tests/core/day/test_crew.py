"""A sheet on one, two or three people: everything is done, in an order that works, by hands that are free."""

from dataclasses import replace
from itertools import combinations

import pytest

from isotact.core.bench.execution import carry_out
from isotact.core.day import Crewed, crew, crewed
from isotact.core.runsheet import RunSheet
from isotact.core.trades import fresh_world
from isotact.core.world import prove
from tests.corpus import Drawn, every
from tests.rigs import SHIPPED, Carried, carried

CREW = ("Ada", "Bo", "Cy")
QUICK = 0.01
"""Enough where only soundness is asked for."""


def must_be_sound(sheet: RunSheet, found: Crewed, people: tuple[str, ...]) -> None:
    """Nobody is at two things, no two hands are at one device, and everything comes after what it waits for."""
    turns = {turn.step: turn for turn in found.turns}
    steps = {step.id: step for step in sheet.steps}
    for turn in found.turns:
        assert len(turn.by) == min(steps[turn.step].people, len(people))
        assert set(turn.by) <= set(people)
        assert turn.ready_s <= found.left_s
        for other in steps[turn.step].after:
            assert other not in turns or turns[other].ready_s <= turn.from_s
    for one, other in combinations(found.turns, 2):
        if one.from_s < other.to_s and other.from_s < one.to_s:
            assert not set(one.by) & set(other.by)
            assert steps[one.step].device is None or steps[one.step].device != steps[other.step].device


def proven_in_that_order(done: Carried, found: Crewed) -> set[str]:
    """The promises that work once everybody has done their part."""
    place = {turn.step: number for number, turn in enumerate(found.turns)}
    world = fresh_world(done.rig)
    for _ in carry_out(world, sorted(done.sheet.steps, key=lambda step: place[step.id])):
        pass
    return {promise for promise in done.plan.kept if prove(world, promise).ok}


@pytest.mark.parametrize("count", [1, 2, 3])
@pytest.mark.parametrize(
    "key", ["night-ferry-a", "night-ferry-b", "night-ferry-c", "two-drivers", "panel-mode", "all-ways"]
)
def test_a_shipped_sheet_on_a_crew(key: str, count: int):
    done = carried(key)
    found = crewed(done.sheet, CREW[:count])
    assert {turn.step for turn in found.turns} == {step.id for step in done.sheet.steps}
    must_be_sound(done.sheet, found, CREW[:count])
    assert proven_in_that_order(done, found) == set(done.plan.kept)
    assert found.gap <= 0.1


@pytest.mark.parametrize("key", SHIPPED)
def test_every_sheet_in_the_order_of_three_proves_what_it_should(key: str):
    done = carried(key)
    if not done.sheet.steps:
        assert done.plan.kept == ()
        return
    assert proven_in_that_order(done, crewed(done.sheet, CREW, work=QUICK)) == set(done.plan.kept)


@every("small", 15)
def test_a_generated_sheet_on_a_crew(drawn: Drawn):
    done, count = drawn.done, drawn.chance("a crew").randint(1, 3)
    found = crewed(done.sheet, CREW[:count], work=QUICK)
    must_be_sound(done.sheet, found, CREW[:count])
    assert proven_in_that_order(done, found) == set(done.plan.kept)


@every("small", 15)
def test_more_hands_are_never_slower(drawn: Drawn):
    sheet = drawn.done.sheet
    if any(step.people > 1 for step in sheet.steps):
        return
    one, two, three = (crewed(sheet, CREW[:count], work=QUICK).left_s for count in (1, 2, 3))
    assert three <= two <= one


def test_what_is_given_to_somebody_is_done_by_them():
    sheet = carried("night-ferry-b").sheet
    found = crewed(sheet, CREW[:2], given={"stage:menus": "Bo", "device:phone": "Ada", "stage:lens": "Somebody else"})
    steps = {step.id: step for step in sheet.steps}
    for turn in found.turns:
        step = steps[turn.step]
        if step.device == "phone" and step.people == 1:
            assert turn.by == ("Ada",)
        elif step.stage == "menus" and step.people == 1:
            assert turn.by == ("Bo",)


def test_what_is_done_is_not_dealt_out_and_what_it_set_going_is_waited_for():
    sheet = carried("night-ferry-b").sheet
    wake = next(step for step in sheet.steps if step.id == "wake:gimbal")
    before = {step.id: 1000.0 for step in sheet.steps[: [step.id for step in sheet.steps].index(wake.id)]}
    assert wake.waits_s > 0
    at_once = crewed(sheet, CREW[:2], done={**before, wake.id: 0.0})
    later = crewed(sheet, CREW[:2], done={**before, wake.id: 1000.0})
    assert wake.id not in {turn.step for turn in at_once.turns}
    waiting = {turn.step: turn.from_s for turn in at_once.turns}
    followers = [step.id for step in sheet.steps if wake.id in step.after and step.id in waiting]
    assert followers
    assert all(waiting[key] >= wake.waits_s for key in followers)
    assert later.left_s <= at_once.left_s


def test_the_critical_path_leads_from_the_first_moment_to_the_last():
    found = crewed(carried("night-ferry-a").sheet, CREW)
    critical = [turn for turn in found.turns if turn.is_critical]
    assert critical[0].from_s == 0
    assert max(turn.ready_s for turn in critical) == found.left_s
    moments = {turn.from_s for turn in critical} | {found.left_s}
    assert all(turn.to_s in moments or turn.ready_s in moments for turn in critical)


def test_all_done_is_nothing_left():
    sheet = carried("night-ferry-b").sheet
    found = crewed(sheet, CREW, done=dict.fromkeys((step.id for step in sheet.steps), 1000.0))
    assert (found.left_s, found.turns, found.status, found.gap) == (0, (), "proven", 0)


def test_the_same_sheet_always_gives_the_same():
    sheet = carried("two-drivers").sheet
    assert crewed(sheet, CREW, work=QUICK) == crewed(sheet, CREW, work=QUICK)


@pytest.mark.parametrize(("rig", "most"), [("night-ferry-a", 0.02), ("night-ferry-b", 0.0)])
def test_three_people_over_a_demo_sheet_are_dealt_out_to_within_two_in_a_hundred(rig: str, most: float):
    """Counted in the solver's work, not by the clock: the same on every machine."""
    assert crewed(carried(rig).sheet, ("Ada", "Bo", "Cy")).gap <= most


def test_where_the_search_ends_early_fewer_people_who_are_quicker_are_taken(monkeypatch: pytest.MonkeyPatch):
    """As if for three nothing better was found by then than one step after the other."""
    sheet, deal = carried("night-ferry-b").sheet, crew._dealt

    def early(left, people, *rest):
        tasks, found = deal(left, people, *rest)
        at, starts = 0, {}
        for task in tasks:
            starts[task.key] = at
            at += task.takes + task.waits
        poor = replace(
            found, starts=starts, by={task.key: task.one_of[: task.count] for task in tasks}, end=at, bound=0
        )
        return tasks, poor

    alone = crewed(sheet, CREW[:1]).left_s
    monkeypatch.setattr(crew, "_dealt", early)
    found = crewed(sheet, CREW)
    assert found.left_s < alone
    must_be_sound(sheet, found, CREW)
