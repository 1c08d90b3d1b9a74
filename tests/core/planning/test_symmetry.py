"""Like devices change places freely until something sets them apart; more of them never make a plan worse."""

from typing import Any

import pytest

from isotact.catalogue import shipped
from isotact.core.bench import run
from isotact.core.model import ResolvedRig, Rig, resolve
from isotact.core.model.words import Stage
from isotact.core.planning import plan
from isotact.core.planning.optimising import constraints
from isotact.core.questions import alternatives
from isotact.core.runsheet import run_sheet
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
