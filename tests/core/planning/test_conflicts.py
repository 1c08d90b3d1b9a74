"""Conflicting sets are conflicts, are minimal, and are said in the trade's words."""

from typing import Any

import pytest

from isotact.catalogue import shipped
from isotact.core.model import ResolvedRig
from isotact.core.planning import plan, search
from isotact.core.planning.explaining.explanation import Questions
from isotact.core.planning.explaining.unsat_core import clash, minimal_conflict
from isotact.core.planning.optimising.choice_model import Terms
from isotact.core.planning.optimising.constraints import build
from isotact.core.questions import what_it_takes
from tests.corpus import Drawn, every
from tests.rigs import (
    DATA,
    FOCUS,
    RECORD,
    cable,
    camera,
    control,
    demo,
    grip,
    hours,
    picture,
    port,
    power,
    profile,
    rig_of,
    second_button,
    server,
    video,
    without,
)


def core_of(rig: ResolvedRig, wanted: str):
    """The guarded model of one unmet promise, and its minimal conflict."""
    made, found = plan(rig), search(rig)
    choosing = build(rig, found.links, found.options, Terms(guarded=True))
    obeyed = [str(number) for number, pin in enumerate(made.pins) if pin.obeyed]
    return choosing, minimal_conflict(choosing, wanted, made.kept, obeyed)


@every("small", 40)
def test_a_conflict_is_impossible_and_dropping_any_member_makes_it_possible(drawn: Drawn) -> None:
    rig, made, found = drawn.rig, drawn.plan, search(drawn.rig)
    for unmet in made.unmet:
        kinds = {p.id: p.kind for p in rig.rig.promises}
        if kinds[unmet.promise] != "power" and not found.options[unmet.promise]:
            continue
        choosing, core = core_of(rig, unmet.promise)
        assert core is not None
        asked = [("promise", (unmet.promise,))]
        assert clash(choosing, core, asked) is not None
        for group in core:
            assert clash(choosing, [other for other in core if other != group], asked) is None


def test_the_demo_conflict_is_the_mode_and_the_record_promise():
    _, core = core_of(demo(), "iso")
    assert core == [("knob", ("body", "mode", "")), ("promise", ("roll",))]


def says(rig: ResolvedRig, key: str) -> str:
    return next(unmet.because for unmet in plan(rig).unmet if unmet.promise == key)


TAKES_BOTH = [{"functions": ["record", "focus"], "over": "usb"}]


def test_two_plugs_for_one_port():
    rig = rig_of([camera(accepts=TAKES_BOTH), grip(), second_button()], [(DATA, 2)], [RECORD, FOCUS])
    assert says(rig, "focus") == (
        "Focus from the button of box: no. camera, port marked “USB” (left side) takes one plug; two are needed."
    )


def test_one_cable_too_few():
    ports = [port("usb", "usb-c", control("p", "device")), port("aux", "usb-c", control("p", "device"))]
    accepts = [{"functions": ["record"], "over": "usb"}, {"functions": ["focus"], "over": "aux"}]
    rig = rig_of([camera(ports=ports, accepts=accepts), grip(), second_button()], [(DATA, 1)], [RECORD, FOCUS])
    assert says(rig, "focus") == ("Focus from the button of box: no. The bag holds 1 of “data”; one more is needed.")


def test_functions_that_exclude_each_other():
    ports = [port("usb", "usb-c", control("p", "device")), port("aux", "usb-c", control("p", "device"))]
    accepts = [{"functions": ["record"], "over": "usb"}, {"functions": ["focus"], "over": "aux"}]
    body = camera(ports=ports, accepts=accepts, exclusive=[["usb", "aux"]])
    rig = rig_of([body, grip(), second_button()], [(DATA, 2)], [RECORD, FOCUS])
    assert (
        says(rig, "focus")
        == "Focus from the button of box: no. camera can use only one at a time of port “USB” and port “AUX”."
    )


def test_a_server_with_room_for_one_client_whatever_the_sockets():
    assert says(server(1), "focus") == (
        "Focus from the button of box: no. camera serves one client at a time, and one more would be needed."
    )
    assert plan(server(2)).kept == plan(server(None)).kept == ("record", "focus")


def test_a_device_without_a_feed():
    rig = rig_of([camera(power={"draw_w": 5}), grip()], [(DATA, 1)], [RECORD])
    assert says(rig, "record") == (
        "Record from the button of grip: no. camera has no battery of its own, and nothing in this rig can feed it."
    )


def test_two_that_each_want_the_other_awake_first():
    ports = [port("out", "usb-c", control("p", "host", wake="peer-first"))]
    body = camera(ports=[port("usb", "usb-c", control("p", "device", wake="peer-first"))])
    rig = rig_of([body, grip(ports=ports)], [(DATA, 1)], [RECORD])
    assert says(rig, "record") == (
        "Record from the button of grip: no. camera and grip cannot both wait for each other: what joins them here asks for each to be up first."
    )


def test_a_screen_that_goes_dark_when_its_port_is_used():
    source = profile(
        "source",
        ports=[port("out", "hdmi-a", video("out"))],
        surfaces=[{"id": "rear", "name": "rear screen", "kind": "screen", "dark_when_used": "out"}],
        makes=[{"over": "out", "delay_ms": 10}],
        shows=[{"screen": "rear", "delay_ms": 5}],
    )
    viewer = profile(
        "viewer",
        ports=[port("in", "hdmi-a", video("in"))],
        surfaces=[{"id": "glass", "name": "glass", "kind": "screen"}],
        shows=[{"screen": "glass", "over": "in", "delay_ms": 5}],
    )
    hdmi = cable("hdmi", "hdmi-a", "hdmi-a", {"medium": "hdmi"})
    wanted = [picture("viewer", "glass", weight=5), picture("source", "rear", "own", weight=1)]
    assert says(rig_of([source, viewer], [(hdmi, 1)], wanted), "own") == (
        "Picture on the rear screen of source: no. The screen of source goes dark when source, port marked “OUT” "
        "(left side) is in use."
    )


def test_a_feed_that_is_too_weak():
    weak = {**power("out"), "max_a": 0.5}
    host = grip(ports=[port("out", "usb-c", control("p", "host"), weak)])
    body = camera(ports=[port("usb", "usb-c", control("p", "device"), power("in"))], power={"draw_w": 5})
    both = cable("both", "usb-c", "usb-c", {"medium": "usb-data"}, {"medium": "power", "max_a": 3})
    assert "carries 0.5 A (2.5 W); camera and what hangs on it draw more from grip." in says(
        rig_of([body, host], [(both, 1)], [RECORD]), "record"
    )


@pytest.mark.parametrize("peers", [1, 2])
def test_a_transmitter_takes_only_so_many_at_a_time(peers: int):
    role = {**video("out"), "signal": "air"}
    radio = {"id": "air", "name": "air link", "system": "x", "joins_by": "pairing"}
    sender = profile(
        "sender",
        radios=[{**radio, "part": "sender", "peers": peers, "roles": [role]}],
        makes=[{"over": "air", "delay_ms": 5}],
    )

    def viewer(key):
        return profile(
            key,
            radios=[{**radio, "part": "receiver", "roles": [{**role, "flow": "in"}]}],
            surfaces=[{"id": "glass", "name": "glass", "kind": "screen"}],
            shows=[{"screen": "glass", "over": "air", "delay_ms": 5}],
        )

    wanted = [picture("one", "glass", "first", weight=5), picture("two", "glass", "second")]
    rig = rig_of([sender, viewer("one"), viewer("two")], [], wanted)
    assert len(plan(rig).kept) == peers
    if peers == 1:
        assert "air link of sender takes 1 at a time; one more is needed." in says(rig, "second")


@every("small", 40)
def test_giving_up_what_is_named_lets_the_promise_hold(drawn: Drawn) -> None:
    rig, made, found = drawn.rig, drawn.plan, search(drawn.rig)
    for unmet in made.unmet:
        lost = Questions(build(rig, found.links, found.options, Terms(guarded=True)), made).what_it_costs(unmet.promise)
        left = [p for p in rig.rig.promises if p.id == unmet.promise or (p.id in made.kept and p.id not in lost)]
        smaller = type(rig)(rig.rig.model_copy(update={"promises": left}), rig.cables, rig.devices)
        if lost:
            assert len(plan(smaller).kept) == len(left)
        else:
            assert unmet.promise not in plan(smaller).kept
            assert not any(out.startswith("Give up") for out in unmet.ways_out)


def test_behind_one_obstacle_there_may_be_others_and_all_are_named():
    """ISO wants stills mode, and two others want video: without one of them alone it would not hold."""

    def change(data: dict[str, Any]) -> None:
        at = {"device": "phone", "surface": "touch-screen"}
        data["promises"].append(
            {"kind": "control", "id": "also", "who": "X", "function": "record", "at": at, "weight": 5}
        )

    rig = demo(change)
    made = plan(rig)
    assert next(unmet for unmet in made.unmet if unmet.promise == "iso").ways_out == (), "they weigh more than it"
    assert what_it_takes(rig, shipped().profiles, made, "iso").says.endswith(
        "It would hold only without record from the record button of Tansy grip and record from the touch screen of "
        "Director's phone, which weigh more together."
    )


def test_to_give_up_all_that_is_on_is_no_way_to_hours():
    """No battery of the rig lasts twenty hours."""
    rig = demo(lambda data: (without(data, "iso"), hours(data, 20)))
    assert next(unmet for unmet in plan(rig).unmet if unmet.promise == "hours").ways_out == ()
