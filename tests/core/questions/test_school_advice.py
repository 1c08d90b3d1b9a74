"""Advice on schools: what is recommended and why, and that a school once fixed is kept."""

from typing import Any

from isotact.catalogue import shipped
from isotact.core.model import ResolvedRig, Rig, resolve
from isotact.core.planning import plan
from isotact.core.questions import Advice, advise
from isotact.core.runsheet import run_sheet
from isotact.examples import examples


def example(number: int, **changes: Any) -> ResolvedRig:
    catalogue = shipped()
    found = next(one for one in examples() if one.number == number)
    data = {**found.rigs[0].model_dump(mode="json"), **changes}
    return resolve(Rig.model_validate(data), catalogue.profiles, catalogue.cables)


def advice(rig: ResolvedRig, kind: str) -> Advice:
    return next(one for one in advise(rig) if one.kind == kind)


PULL = [{"kind": "control", "id": "pull", "who": "Operator", "function": "focus", "at": {"device": "hand", "surface": "knob"}}]  # fmt: skip
WHEEL = [{"kind": "control", "id": "wheel", "who": "Operator", "function": "focus", "at": {"device": "grip", "surface": "wheel"}}]  # fmt: skip


def both(**shot: Any) -> ResolvedRig:
    """A focus that can be had either way: from the wheel by the body, from the hand unit by the motor, of one weight."""
    return example(5, promises=[*PULL, *WHEEL], shot=shot)


def test_marks_want_a_motor_and_a_slow_walk_without_them_does_not():
    assert advice(both(marks=True), "focus").recommends == "motor"
    slow = advice(both(marks=False, near_m=1.2, far_m=1.8, walk_s=4), "focus")
    assert slow.recommends == "through-body"
    assert [number.value for number in slow.options[0].numbers] == ["160 mm", "1.07 s"]


def test_a_subject_that_is_through_the_depth_of_field_at_once_wants_a_motor():
    quick = advice(both(near_m=1, far_m=4, walk_s=1.5, focal_mm=85, stop=1.4), "focus")
    assert quick.recommends == "motor"
    assert "drops steps when spun fast" in quick.because


def test_the_school_that_keeps_more_is_recommended_before_all_else():
    assert advice(example(5), "focus").because == "It keeps more of what was promised on this rig."
    assert advice(example(12), "port").recommends == "dummy-battery"


def test_a_school_once_fixed_rules_the_other_out_and_says_so():
    rig = example(5, schools={"focus": "through-body"})
    made = plan(rig)
    assert "wheel" in made.kept
    reason = next(unmet for unmet in made.unmet if unmet.promise == "pull")
    assert reason.because.endswith("This job pulls focus by the body; this way does not.")
    assert advice(rig, "focus").fixed == "through-body"


def test_the_chain_that_is_fixed_is_the_chain_that_is_laid():
    look = plan(example(16, schools={"chain": "look"}))
    clean = plan(example(16, schools={"chain": "clean"}))
    assert {route.look for route in look.routes if route.promise == "village"} == {True}
    assert {route.look for route in clean.routes if route.promise == "village"} == {False}


def test_a_splitter_and_a_dummy_battery_are_kept_apart():
    splitter = plan(example(12, schools={"port": "splitter"}))
    assert "dummy" not in {feed.from_device for feed in splitter.feeds}


def test_antennas_and_motors_are_reckoned_and_go_into_the_run_sheet():
    rig = example(5)
    motor = advice(rig, "motor")
    # 230 g, 80 mm beside the axis: 0.230 kg x 0.080 m x 9.80665 m/s2
    assert motor.options[1].numbers[0].value == "0.18 N m"
    assert "15 % of what the roll motor holds" in motor.because
    antennas = advice(example(16, shot={"range_m": 60}), "antennas")
    assert antennas.options[0].numbers[0].value == "6.0 dB"
    steps = {step.id: step for step in run_sheet(rig, plan(rig)).steps}
    assert steps["care:motors"].detail[0].startswith("On the rods above the lens")


def test_a_rig_without_choices_gets_no_advice():
    assert advise(example(2)) == []
