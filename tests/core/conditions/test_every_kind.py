"""Every kind of condition, on every example rig: it has a step, holds at the end, and matters."""

from typing import get_args

import pytest

from isotact.core.bench import carry_through, prove
from isotact.core.conditions import AnyCondition, conditions_of, fresh_world
from isotact.core.model import Plan, ResolvedRig
from isotact.core.runsheet import run_sheet
from isotact.core.wiring import plan
from tests.rigs import DATA, RECORD, camera, demo, grip, picture, profile, rig_of

KINDS = {get_args(kind.model_fields["kind"].annotation)[0] for kind in get_args(get_args(AnyCondition)[0])}
HARMLESS = {"setting"}
"""Kinds that may be broken and leave a promise standing: a setting may guard only the hours."""


def licensed():
    """A grip that emits only with a licence."""
    licensed_grip = grip(
        licences=["camera-control"],
        emits=[
            {"functions": ["record"], "surface": "button", "over": "out", "when": {"licence": "camera-control"}},
        ],
    )
    own = {"grip": {"licences": ["camera-control"]}}
    return rig_of([camera(), licensed_grip], [(DATA, 1)], [RECORD], devices=own)


def paired():
    """A monitor that is reached by a paired picture link."""
    radio = {"id": "air", "name": "air", "system": "x", "joins_by": "pairing"}
    role = {"kind": "video", "signal": "air", "formats": ["1080p25"]}
    wake, power = {"how": "On.", "boot_s": 1}, {"draw_w": 1, "inner_battery": {"name": "b", "energy_wh": 9}}
    sender = profile(
        "sender",
        radios=[{**radio, "part": "sender", "roles": [{**role, "flow": "out"}]}],
        makes=[{"over": "air", "delay_ms": 5}],
        wake=wake,
        power=power,
    )
    viewer = profile(
        "viewer",
        radios=[{**radio, "part": "receiver", "roles": [{**role, "flow": "in"}]}],
        surfaces=[{"id": "screen", "name": "screen", "kind": "screen"}],
        shows=[{"screen": "screen", "over": "air", "delay_ms": 5}],
        wake=wake,
        power=power,
    )
    return rig_of([sender, viewer], [], [picture("viewer", "screen")])


def all_rigs() -> list[tuple[ResolvedRig, Plan]]:
    return [(rig, plan(rig)) for rig in (demo(), licensed(), paired())]


def test_the_examples_have_every_kind():
    seen = {condition.kind for rig, made in all_rigs() for condition in conditions_of(rig, made)}
    assert seen == KINDS


def test_each_holds_at_the_end_and_not_at_the_start(example):
    rig, made = example
    end, start = carry_through(rig, run_sheet(rig, made)), fresh_world(rig)
    conditions = conditions_of(rig, made)
    assert all(condition.holds(end) for condition in conditions)
    at_first = {condition.kind for condition in conditions if condition.holds(start)}
    assert at_first <= {"setting", "mode", "firmware", "licence", "format-accepted", "awake", "screen-live"}


def test_each_has_a_key_of_its_own_and_words(example):
    rig, made = example
    conditions = conditions_of(rig, made)
    assert len({condition.key for condition in conditions}) == len(conditions)
    for condition in conditions:
        assert condition.says(rig).endswith(".")
        assert condition.check(rig).endswith(".")
        faults = condition.faults(rig)
        assert faults
        assert all(fault.weight > 0 and fault.look_s > 0 and fault.mend_s > 0 and fault.says for fault in faults)


def test_each_is_needed_by_a_promise_that_the_plan_keeps(example):
    rig, made = example
    lasting = any(not route.hops for route in made.routes)
    for condition in conditions_of(rig, made):
        assert set(condition.promises) <= set(made.kept)
        assert condition.promises or (condition.kind == "setting" and not lasting)


def test_each_is_made_by_a_step_of_the_sheet_or_was_true_before(example):
    rig, made = example
    sheet = run_sheet(rig, made)
    made_true = {key for step in sheet.steps for key in step.makes}
    start = fresh_world(rig)
    for condition in conditions_of(rig, made):
        assert condition.key in made_true or condition.holds(start)


@pytest.mark.parametrize("number", range(3))
def test_breaking_one_makes_it_false_and_a_promise_that_needs_it_fails(number: int):
    rig, made = all_rigs()[number]
    sheet = run_sheet(rig, made)
    for condition in conditions_of(rig, made):
        world = carry_through(rig, sheet)
        condition.break_it(world)
        assert not condition.holds(world), f"{condition.key} still holds after it was broken"
        if condition.kind not in HARMLESS:
            standing = [key for key in condition.promises if prove(world, key).ok]
            assert not standing, f"{standing} stands without {condition.key}"


def test_a_broken_setting_on_the_way_of_a_promise_fails_it():
    rig, made = all_rigs()[0]
    sheet = run_sheet(rig, made)
    routed = {(c.device, c.key) for c in made.choices if c.kind == "setting" and c.promises}
    for condition in conditions_of(rig, made):
        if condition.kind == "setting" and (condition.device, condition.setting) in routed:
            world = carry_through(rig, sheet)
            condition.break_it(world)
            assert not any(prove(world, key).ok for key in condition.promises)


def test_a_plug_that_breaks_goes_into_the_look_alike_port():
    rig, made = all_rigs()[0]
    world = carry_through(rig, run_sheet(rig, made))
    joined = next(c for c in conditions_of(rig, made) if c.key == "joined:body.usb--gimbal.camera")
    joined.break_it(world)
    assert any(plug.has("gimbal", "charge") for plug in world.plugged)


def test_the_conditions_of_one_cable_read_as_a_crew_would_say_them():
    rig, made = all_rigs()[0]
    words = [c.says(rig) for c in conditions_of(rig, made) if getattr(c, "tag", "") == "B2"]
    assert words == [
        "Brindle 2, port marked “USB” (left side, lower door) is joined with "
        "Tansy grip, port marked “small camera” (right side of the roll arm, upper of two).",
        "B2 is fully home at both ends.",
        "B2 carries usb-data and power.",
        "B2 is wired for body-tether.",
    ]
