"""Every kind of condition, on every shipped rig: it has a step, holds at the end, and matters."""

import pytest

from isotact.core.model import Plan, ResolvedRig
from isotact.core.planning import plan
from isotact.core.runsheet import run_sheet
from isotact.core.trades import TRADES, conditions_of, fresh_world
from tests.rigs import DATA, RECORD, SHIPPED, Carried, camera, carried, grip, picture, profile, rig_of

KINDS = {kind.model_fields["kind"].default for trade in TRADES for kind in trade.conditions}
TRUE_FROM_THE_START = {
    "setting",
    "mode",
    "firmware",
    "licence",
    "format-accepted",
    "fed",
    "outlet",
    "alone-on-axis",
    "no-guest",
}
"""Kinds that may hold in the cases: as found, or nothing that a hand makes."""


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


def all_of_them() -> list[Carried]:
    return [*(carried(rig_id) for rig_id in SHIPPED), Carried.out(licensed()), Carried.out(paired())]


def test_the_examples_have_every_kind():
    assert {condition.kind for done in all_of_them() for condition in done.conditions} == KINDS


@pytest.mark.parametrize("done", all_of_them(), ids=lambda done: done.rig.rig.id)
def test_each_holds_at_the_end_and_not_at_the_start(done: Carried):
    assert [str(condition.key) for condition in done.conditions if not condition.holds(done.world)] == []
    start = fresh_world(done.rig)
    assert {condition.kind for condition in done.conditions if condition.holds(start)} <= TRUE_FROM_THE_START


@pytest.mark.parametrize("done", all_of_them(), ids=lambda done: done.rig.rig.id)
def test_each_has_a_key_of_its_own_and_words(done: Carried):
    assert len({condition.key for condition in done.conditions}) == len(done.conditions)
    assert len({str(condition.key) for condition in done.conditions}) == len(done.conditions)
    for condition in done.conditions:
        assert condition.says(done.rig).endswith(".")
        assert condition.check(done.rig).says.endswith(".")


def test_each_is_needed_by_promises_that_the_plan_keeps(example: tuple[ResolvedRig, Plan]):
    rig, made = example
    for condition in conditions_of(rig, made):
        assert set(condition.promises) <= set(made.kept)


def test_each_is_made_by_a_step_of_the_sheet_or_was_true_before(example: tuple[ResolvedRig, Plan]):
    rig, made = example
    sheet = run_sheet(rig, made)
    made_true = {key for step in sheet.steps for key in step.makes}
    start = fresh_world(rig)
    for condition in conditions_of(rig, made):
        assert str(condition.key) in made_true or condition.holds(start)


def test_a_promise_that_comes_through_by_two_ways_needs_neither_alone():
    """Two buttons' worth of cable: record goes by either of two joined ports of the body."""
    both = camera(
        ports=[{**camera().ports[0].model_dump(), "id": key, "marking": key} for key in ("usb", "usb-2")],
        accepts=[{"functions": ["record"], "over": key} for key in ("usb", "usb-2")],
    )
    host = grip(
        ports=[{**grip().ports[0].model_dump(), "id": key, "marking": key} for key in ("out", "out-2")],
        surfaces=[{"id": key, "name": key, "kind": "button"} for key in ("button", "button-2")],
        emits=[
            {"functions": ["record"], "surface": "button", "over": "out"},
            {"functions": ["record"], "surface": "button", "over": "out-2"},
            {"functions": ["record"], "surface": "button-2", "over": "out-2"},
        ],
    )
    second = {**RECORD, "id": "second", "at": {"device": "grip", "surface": "button-2"}}
    pins = [
        {"kind": "cable", "a": {"device": "camera", "port": a}, "b": {"device": "grip", "port": b}}
        for a, b in (("usb", "out"), ("usb-2", "out-2"))
    ]
    rig = rig_of([both, host], [(DATA, 2)], [RECORD, second], pins=pins)
    made = plan(rig)
    assert len([join for join in made.joins if join.link.cable]) == 2
    joined = {str(c.key): c.promises for c in conditions_of(rig, made) if c.kind == "joined"}
    assert joined == {"joined:camera.usb--grip.out": (), "joined:camera.usb-2--grip.out-2": ("second",)}


def test_a_plug_can_go_into_the_look_alike_port_and_does_nothing_there():
    done = carried("night-ferry-b")
    joined = next(c for c in done.conditions if str(c.key) == "joined:body.usb--gimbal.camera")
    faults = {fault.id: fault.says for fault in joined.faults(done.rig)}
    assert faults["wrong-port"] == (
        "B2 is in Tansy grip, port marked “small bolt” (right side of the roll arm, lower of two)"
    )
    assert faults["out"] == "B2 is not plugged"


def test_the_conditions_of_one_cable_read_as_a_crew_would_say_them():
    done = carried("night-ferry-b")
    words = [c.says(done.rig) for c in done.conditions if getattr(c, "tag", "") == "B2"]
    assert words == [
        "Brindle 2, port marked “USB” (left side, lower door) is joined with "
        "Tansy grip, port marked “small camera” (right side of the roll arm, upper of two).",
        "B2 is fully home at both ends.",
        "B2 carries USB data.",
        "B2 carries power.",
        "B2 is wired for body tether.",
        "Brindle 2 found B2 when it started.",
    ]
