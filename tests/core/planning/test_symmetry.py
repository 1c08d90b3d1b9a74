"""Like devices change places freely until something sets them apart; more of them never make a plan worse."""

from dataclasses import replace
from typing import Any

import pytest

from isotact.catalogue import shipped
from isotact.core.bench import run
from isotact.core.model import ResolvedRig, Rig, resolve
from isotact.core.model.rig import ControlPromise
from isotact.core.model.words import Stage
from isotact.core.planning import plan
from isotact.core.planning.explaining import explanation
from isotact.core.planning.optimising import constraints
from isotact.core.questions import alternatives
from isotact.core.runsheet import run_sheet
from tests.core.planning.test_feeds import rig
from tests.core.planning.test_path_flow import drive, worth
from tests.corpus import Drawn, every


def motors(count: int) -> dict[str, str]:
    return {f"motor-{number}": "lens-motor" for number in range(1, count + 1)}


def turned_by(rig: ResolvedRig) -> list[str]:
    """The motors on the rings of focus, iris and zoom."""
    by_ring = {
        end.endpoint: other.device
        for join in plan(rig).joins
        for end, other in (join.link.ends, join.link.ends[::-1])
        if end.device == "lens" and other.device.startswith("motor")
    }
    return [by_ring[f"{ring}-gear"] for ring in ("focus", "iris", "zoom")]


def test_of_seven_like_motors_the_first_three_turn_the_rings_in_the_order_of_the_rig():
    assert turned_by(drive(motors(7))) == ["motor-1", "motor-2", "motor-3"]


def test_a_pin_sets_a_motor_apart():
    off = [{"kind": "off", "device": "motor-1"}]
    assert turned_by(drive(motors(5), pins=off)) == ["motor-2", "motor-3", "motor-4"]
    on_iris = [
        {"kind": "cable", "a": {"device": "motor-5", "port": "gear"}, "b": {"device": "lens", "port": "iris-gear"}}
    ]
    rig = drive(motors(5), pins=on_iris)
    assert turned_by(rig)[1] == "motor-5"
    assert plan(rig).pins[0].obeyed


def test_a_motor_that_is_set_already_is_taken_for_its_ring_first():
    rig = drive(motors(4))
    devices = [
        one.model_copy(update={"settings": {"axis": "zoom"}}) if one.id == "motor-4" else one for one in rig.rig.devices
    ]
    catalogue = shipped()
    known = resolve(rig.rig.model_copy(update={"devices": devices}), catalogue.profiles, catalogue.cables)
    assert turned_by(known)[2] == "motor-4"


def test_a_cable_that_only_one_of_them_could_have_sets_it_apart():
    """One motor sits on the body's rods beside the far end of the lens and only a longer lead reaches it."""
    rig = drive(motors(3))
    devices = [
        one.model_copy(update={"stage": Stage.OFF_GIMBAL}) if one.id == "motor-1" else one for one in rig.rig.devices
    ]
    catalogue = shipped()
    apart = resolve(rig.rig.model_copy(update={"devices": devices}), catalogue.profiles, catalogue.cables)
    made = plan(apart)
    assert made.status == "proven-optimal"
    assert {*made.kept} == {"focus", "iris"}


def test_alternatives_of_what_walks_differ_from_one_another():
    rig = drive({**motors(6), "driver-2": "driver-newer", "own": "motor-with-driver"})
    found = alternatives(rig, 4)
    hops = [
        tuple((route.promise, tuple((hop.device, hop.link) for hop in route.hops)) for route in one.plan.routes)
        for one in found
    ]
    assert len(set(hops)) == len(hops) == 4
    assert all(one.plan.status == "proven-optimal" for one in found)


SPARES = (
    "plate-battery", "tap-hub", "usb-power-bank", "power-pack", "on-board-monitor-loop", "phone-link-transmitter",
    "video-transmitter-hdmi", "lens-motor",
)  # fmt: skip


def with_more(rig: ResolvedRig, devices: list[dict[str, Any]]) -> ResolvedRig:
    """`rig` and more devices, of its own kinds or of those that ship."""
    document = rig.rig.model_dump(mode="json")
    wider = Rig.model_validate(document | {"devices": document["devices"] + devices})
    own = {placed.profile.id: placed.profile for placed in rig.devices.values()}
    return resolve(wider, {**shipped().profiles, **own}, rig.cables)


@every("mid-size", 25)
def test_a_spare_device_never_makes_a_plan_worse(drawn: Drawn):
    rig, before, chance = drawn.rig, drawn.plan, drawn.chance("spares")
    profile = chance.choice(SPARES)
    spare = [{"id": f"spare-{number}", "profile": profile} for number in range(chance.randint(1, 4))]
    richer = with_more(rig, spare)
    made = plan(richer)
    assert made.status == before.status == "proven-optimal"
    (kept, cost), (kept_before, cost_before) = worth(richer, made), worth(rig, before)
    assert kept >= kept_before
    assert kept > kept_before or cost <= cost_before


@every("mid-size", 25)
def test_leaving_out_like_plans_loses_none(drawn: Drawn):
    """Two more of a kind that the rig has: the model that tells them apart finds nothing better."""
    rig = drawn.rig
    kind = drawn.chance("like devices").choice(sorted({one.profile for one in rig.rig.devices}))
    like = next(one for one in rig.rig.model_dump(mode="json")["devices"] if one["profile"] == kind)
    more = [{**like, "id": f"like-{number}", "name": f"Like {number}"} for number in range(2)]
    richer = with_more(rig, more)
    made = plan(richer)
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(constraints, "add_interchanging", lambda _: None)
        told_apart = plan(richer)
    assert worth(richer, made) == worth(richer, told_apart)
    ran = run(richer, run_sheet(richer, made))
    assert {promise.id for promise in richer.rig.promises} - {*ran.unproven} == {*made.kept}


def phones(count: int, **named: str) -> ResolvedRig:
    """Like phones on one link that takes two, each with the picture and ISO promised on it."""
    devices = {"body": "mirrorless-usb-c-micro-hdmi", "link": "phone-link-transmitter"}
    devices |= {f"phone-{number}": "phone" for number in range(1, count + 1)}
    wanted: list[dict[str, Any]] = []
    for key in [one for one in devices if one.startswith("phone")]:
        at = {"device": key, "surface": "touch-screen"}
        wanted.append({"kind": "picture", "id": f"see-{key}", "who": f"Whoever has {key}", "at": at})
        wanted.append({"kind": "control", "id": f"iso-{key}", "who": "A", "function": "iso", "at": at})
    bag = ["usb-c-usb-c-data-30", "hdmi-d-hdmi-c-30"]
    return rig(devices, bag, wanted, **{key: {"name": name} for key, name in named.items()})


def test_of_like_phones_the_first_of_the_rig_are_served():
    """And none of them once by halves: who has the picture has ISO."""
    made = plan(phones(6))
    assert made.status == "proven-optimal"
    assert set(made.kept) == {f"{what}-phone-{number}" for what in ("see", "iso") for number in (1, 2)}


def test_their_reasons_are_those_that_each_would_be_given_if_it_were_asked(monkeypatch: pytest.MonkeyPatch):
    """Phones of which one bears a name that stands in another's are asked each by itself."""
    alike = {f"phone-{number}": "Phone" for number in range(1, 7)}
    for named in ({}, alike, {"phone-3": "Phone", "phone-4": "Phone of the gaffer"}):
        asked = phones(6, **named)
        shared = plan(asked).unmet
        with monkeypatch.context() as alone:
            alone.setattr(explanation, "asked_alike", lambda _: [])
            assert plan(asked).unmet == shared
        assert len(shared) == 8


def test_one_that_is_asked_for_something_else_is_another_question():
    asked = phones(4)
    more = {"kind": "control", "id": "more", "who": "B", "function": "shutter", "weight": 9,
            "at": {"device": "phone-4", "surface": "touch-screen"}}  # fmt: skip
    document = asked.rig.model_copy(update={"promises": [*asked.rig.promises, ControlPromise.model_validate(more)]})
    made = plan(replace(asked, rig=document))
    assert {"more", "see-phone-4", "iso-phone-4", "see-phone-1", "iso-phone-1"} == set(made.kept)
