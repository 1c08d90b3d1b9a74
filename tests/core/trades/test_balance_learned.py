"""Marks that are learned from builds: the next one is nearer, what contradicts is named, what is described anew is forgotten."""

from typing import Any

import pytest

from isotact.core.model.gimbals import Stood
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.variants import with_document
from isotact.core.planning import plan
from isotact.core.trades import Planned
from isotact.core.trades.balance.marks import GimbalBalance, balance_of
from isotact.core.trades.balance.marks_words import learned_words
from isotact.core.trades.balance.stood import readings_now
from tests.core.trades.test_balance_marks import build

RIGHT = {"cube": {"sits": {"on": "camera", "side": "right"}}}


def stood(marks: dict[str, float], devices: dict[str, Any] | None = None, note: str | None = None) -> Stood:
    """What is noted of a build that is in balance with its scales there."""
    _, balance = build({**(devices or {}), "grip": {"marks_mm": marks}})
    return Stood(gimbal="grip", readings=readings_now(balance.cage, balance.raw), note=note)


def after(builds: list[Stood], devices: dict[str, Any] | None = None) -> GimbalBalance:
    """The marks of a build with what those have told."""
    rig, _ = build(devices)
    return weighed(with_document(rig, stood=builds))


def weighed(rig: ResolvedRig) -> GimbalBalance:
    balance = balance_of(Planned(rig, plan(rig)), "grip")
    assert balance is not None
    return balance


ALONE = {"plate": 92.0, "roll": 6.0, "height": 17.0, "pan": 0.0}
"""A body that is 8 mm nose-heavy, 6 mm heavy to the right and 3 mm heavy above."""


def test_what_is_noted_is_by_how_much_the_build_was_off():
    read = {(one.axis, one.along): one for one in stood(ALONE).readings}
    assert read["tilt", "forward"].off_mm == pytest.approx(8)
    assert read["roll", "right"].off_mm == pytest.approx(6)
    assert read["tilt", "up"].off_mm == pytest.approx(3)
    [share] = read["tilt", "forward"].shares.values()
    assert share == 1


def test_one_build_teaches_nothing_and_two_the_next_mark():
    reckoned = after([])
    assert reckoned.marks == pytest.approx({"plate": 100, "roll": 0, "height": 20, "pan": 0})
    once = after([stood(ALONE)])
    assert once.marks == reckoned.marks
    assert [*learned_words(once)] == ["One build was noted: from two on, the marks are learned from them."]
    twice = after([stood(ALONE), stood(ALONE)])
    assert twice.marks == pytest.approx({"plate": 92, "roll": 6, "height": 17, "pan": 0}, abs=1)
    for slide in twice.carrier.slides:
        assert twice.spread_mm(slide) < 1.0 < reckoned.spread_mm(slide)


def test_what_was_learned_of_the_body_counts_with_a_cube_on_it():
    learnt = after([stood(ALONE), stood(ALONE)], RIGHT)
    # The body is off by 6 mm to the right: of 1,000 of 1,500 g that is 4 mm more to the left.
    assert learnt.wanted(learnt.carrier.slides[1]) == pytest.approx(26.7 + 4, abs=0.4)
    plate = learnt.carrier.slides[0]
    assert learnt.spread_mm(plate) > after([stood(ALONE), stood(ALONE)]).spread_mm(plate)


def test_two_of_one_proportion_do_not_tell_body_and_cube_apart_and_say_so():
    marks = {"plate": 95.0, "roll": 30.0, "height": 20.0, "pan": 0.0}
    found = after([stood(marks, RIGHT), stood(marks, RIGHT)], RIGHT)
    assert found.marks["roll"] == pytest.approx(30, abs=1)
    lines = [*learned_words(found)]
    assert lines[0].startswith("Learned from 2 builds")


def test_a_build_that_contradicts_the_rest_is_named():
    wrong = {**ALONE, "plate": 40.0}
    builds = [stood(ALONE), stood(ALONE), stood(wrong, note="the ferry at night"), stood(ALONE)]
    [line] = [one for one in learned_words(after(builds)) if "contradict" in one]
    assert line.startswith("The marks of the ferry at night contradict the rest by ")
    assert "fore and aft" in line


def test_what_is_described_otherwise_now_is_learned_anew():
    builds = [stood(ALONE), stood(ALONE)]
    described = after(builds, {"camera": {"centre": {"forward_mm": 8, "right_mm": 6, "up_mm": 43}}})
    # It was found by two marks where the builds had it: not counted twice.
    assert described.marks == pytest.approx({"plate": 92, "roll": 6, "height": 17, "pan": 0}, abs=1)


def test_builds_of_another_gimbal_say_nothing_of_this_one():
    others = [one.model_copy(update={"gimbal": "ring"}) for one in (stood(ALONE), stood(ALONE))]
    assert after(others).marks == after([]).marks
    assert [*learned_words(after(others))] == []


def test_of_a_scale_that_nobody_noted_nothing_is_read():
    _, balance = build({"grip": {"marks_mm": {"plate": 92.0}}})
    assert [(one.axis, one.along) for one in readings_now(balance.cage, balance.raw)] == [("tilt", "forward")]
