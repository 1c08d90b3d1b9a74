"""A world: forked, settled, carried on with, written down and read back."""

import json

import pytest

from isotact.core.bench import carry_out, run
from isotact.core.model.plan import LinkEnd
from isotact.core.trades import fresh_world, parts, perform
from isotact.core.trades.cables.acts import LayOut, Plug, PushHome, Unplug
from isotact.core.trades.cables.mishaps import HalfSeat
from isotact.core.trades.power import BlowFuse, BlowOutlet, FitBattery
from isotact.core.trades.waking import Hang, Sleep, WakeUp
from isotact.core.world import Cables, Menus, Power, Waking, World, WorldError, now, prove
from isotact.core.world.power import hours_of
from tests.rigs import (
    DATA,
    RECORD,
    SHIPPED,
    cable,
    camera,
    carried,
    control,
    demo,
    grip,
    hours,
    port,
    power,
    rig_of,
    without,
)

A, B = LinkEnd(device="camera", endpoint="usb"), LinkEnd(device="grip", endpoint="out")
JOIN = (LayOut(tag="A1", cable="data"), Plug(tag="A1", a=A, b=B))
BOTH = cable("data", "usb-c", "usb-c", {"medium": "usb-data"}, {"medium": "power", "max_a": 3})


def fed_rig(battery=None, **outlet):
    """A body that runs from the grip over the cable that also carries control."""
    host = grip(ports=[port("out", "usb-c", control("p", "host"), {**power("out"), **outlet})])
    body = camera(
        ports=[port("usb", "usb-c", control("p", "device"), power("in"))],
        power={"draw_w": 5, "inner_battery": battery},
    )
    return rig_of([body, host], [(BOTH, 1)], [RECORD])


def running(rig) -> World:
    """Everything fitted, joined and awake, the grip first."""
    world = fresh_world(rig)
    batteries = [FitBattery(device=device) for device, placed in rig.devices.items() if placed.usable_wh is not None]
    for act in (*batteries, *JOIN, WakeUp(device="grip"), WakeUp(device="camera")):
        perform(world, act)
    return world


def test_a_fork_goes_its_own_way():
    world = running(fed_rig())
    other = world.fork()
    perform(other, Unplug(a=A, b=B))
    assert world[Cables].plugs
    assert not other[Cables].plugs
    assert prove(world, "record").ok
    assert not prove(other, "record").ok


def test_what_has_lost_its_feed_sleeps_and_what_sleeps_forgets():
    prompt = {"id": "ask", "asks": "Allow?", "default": "no", "answers": [{"id": k, "name": k} for k in ("yes", "no")]}
    rig = fed_rig()
    body = rig["camera"].profile.model_copy(
        update={"wake": rig["camera"].profile.wake.model_validate({"how": "On.", "boot_s": 1, "prompts": [prompt]})}
    )
    world = running(rig_of([body, rig["grip"].profile], [(BOTH, 1)], [RECORD]))
    assert world[Menus].asks("camera") == "ask"
    perform(world, Unplug(a=A, b=B))
    assert not world[Waking].is_awake("camera")
    assert world[Menus].asks("camera") is None


def test_a_giver_that_sleeps_takes_down_what_it_feeds():
    world = running(fed_rig())
    perform(world, Sleep(device="grip"))
    assert not world[Waking].is_awake("camera")


def test_one_that_hangs_feeds_on_and_passes_nothing_on():
    world = running(fed_rig())
    perform(world, Hang(device="grip"))
    assert world[Waking].is_awake("camera")
    assert not prove(world, "record").ok


@pytest.mark.parametrize("act", [BlowOutlet(outlet=B), BlowFuse(device="camera"), HalfSeat(a=A, b=B)])
def test_a_dead_outlet_a_blown_fuse_or_a_loose_plug_leave_it_dark(act):
    world = running(fed_rig())
    perform(world, act)
    assert not world[Waking].is_awake("camera")
    assert perform(world, WakeUp(device="camera")) == "camera stays dark: no power."


@pytest.mark.parametrize(("feeds", "root"), [("run", "grip"), ("charge", None)])
def test_an_inlet_that_only_charges_keeps_nothing_going(feeds, root):
    host = grip(ports=[port("out", "usb-c", control("p", "host"), power("out"))])
    body = camera(ports=[port("usb", "usb-c", control("p", "device"), power("in", feeds=feeds))], power={"draw_w": 5})
    world = running(rig_of([body, host], [(BOTH, 1)], [RECORD]))
    assert now(world).supply.root("camera") == root
    assert world[Waking].is_awake("camera") is (root is not None)


def test_pushed_home_it_can_be_woken_again():
    world = running(fed_rig())
    for act in (HalfSeat(a=A, b=B), PushHome(a=A, b=B), WakeUp(device="camera")):
        perform(world, act)
    assert prove(world, "record").ok


def test_batteries_drain_by_what_hangs_on_them():
    world = running(fed_rig())
    before = world[Power].battery_wh["grip"]
    lasts_h = hours_of(world, ["grip"])["grip"]
    world.pass_time(1800)
    used_wh = before - world[Power].battery_wh["grip"]
    # 4 W of the grip and 5 W of the body for half an hour, and what is lost in the lead and within the cells.
    assert 4.5 < used_wh < 5.0
    # The same hours as the sheet and the tree say.
    assert used_wh / (world.rig["grip"].usable_wh or 0.0) == pytest.approx(0.5 / lasts_h)


def test_a_battery_is_empty_on_the_bench_at_the_hour_that_the_sheet_says():
    world = running(fed_rig())
    lasts_h = hours_of(world, ["grip"])["grip"]
    world.pass_time(3600 * lasts_h - 60)
    assert world[Waking].is_awake("grip")
    world.pass_time(61)
    assert not world[Waking].is_awake("grip")


def test_at_the_moment_a_battery_is_empty_what_it_fed_goes_dark_and_the_rest_draws_less():
    rig = fed_rig(battery={"name": "own", "energy_wh": 10, "usable": 1})
    world = running(rig)
    perform(world, Sleep(device="camera"))
    world[Power].battery_wh |= {"grip": 4.0, "camera": 10.0}
    perform(world, WakeUp(device="camera"))
    world[Power].battery_wh |= {"grip": 9.0}
    world.pass_time(3000)
    assert world[Waking].is_awake("grip")  # 9 W and what is lost: nearly an hour
    world.pass_time(600 + 1800)
    # One hour at 9 W, and a little less, empties the grip; then half an hour at 5 W and more from the body's own.
    assert not world[Waking].is_awake("grip")
    assert world[Waking].is_awake("camera")
    assert world[Power].battery_wh["grip"] == pytest.approx(0.0, abs=1e-3)
    assert 6.5 < world[Power].battery_wh["camera"] < 7.5
    boots_s = 3 + 2 + 2
    assert world.clock_s == pytest.approx(5400 + boots_s)


def test_a_device_in_its_case_draws_nothing_and_promises_no_hours():
    rig = demo(lambda data: (without(data, "iso"), hours(data, 3.0)))
    ran = run(rig, carried("night-ferry-b").sheet)
    assert ran.took_s > 0
    world = fresh_world(rig)
    assert prove(world, "hours").seen == "Nothing is on: nothing is known of hours."


def test_one_that_is_out_and_off_lasts_no_time_at_all():
    rig = rig_of([camera(), grip()], [(DATA, 1)], [RECORD, {"kind": "power", "id": "all", "who": "All", "hours_h": 1}])
    world = running(rig)
    assert prove(world, "all").ok
    perform(world, Sleep(device="camera"))
    proof = prove(world, "all")
    assert (proof.ok, proof.seen) == (False, "camera is off.")


@pytest.mark.parametrize("rig_id", SHIPPED)
def test_written_down_and_read_back_it_is_the_same_world(rig_id: str):
    done = carried(rig_id)
    data = json.loads(json.dumps(done.world.to_data()))
    again = World.from_data(done.rig, data, parts())
    assert again.to_data() == done.world.to_data()
    assert all(condition.holds(again) for condition in done.conditions)


def test_a_sheet_can_be_broken_off_written_down_and_gone_on_with():
    done = carried("night-ferry-a")
    half = len(done.sheet.steps) // 2
    world = fresh_world(done.rig)
    for _ in carry_out(world, done.sheet.steps[:half]):
        pass
    world = World.from_data(done.rig, json.loads(json.dumps(world.to_data())), parts())
    for _ in carry_out(world, done.sheet.steps[half:]):
        pass
    assert world.to_data() == done.world.to_data()


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"rig": "another"}, "Found a world of 'another'; expected one of 'night-ferry-b'."),
        ({"parts": {}}, "Found no part 'menus' in this world. Start the bench afresh."),
        ({"out": ["ghost"]}, "Found ghost, which the rig no longer has. Start the bench afresh."),
    ],
)
def test_a_world_of_something_else_is_refused(change, says):
    done = carried("night-ferry-b")
    with pytest.raises(WorldError) as caught:
        World.from_data(done.rig, {**done.world.to_data(), **change}, parts())
    assert str(caught.value) == says


def test_a_world_with_a_broken_part_is_refused_at_its_place():
    done = carried("night-ferry-b")
    data = done.world.to_data()
    data["parts"]["power"]["battery_wh"] = {"gimbal": "full"}
    with pytest.raises(WorldError, match=r"^parts\.power\.battery_wh\.gimbal: .* Start the bench afresh\.$"):
        World.from_data(done.rig, data, parts())


def test_what_follows_is_worked_out_again_after_a_change():
    world = running(fed_rig())
    assert "camera" in now(world).alive
    perform(world, Unplug(a=A, b=B))
    assert "camera" not in now(world).alive


def test_a_pairing_outlives_a_restart_and_a_battery_goes_on_from_where_it_was():
    done = carried("night-ferry-a")
    paired = next(condition for condition in done.conditions if condition.kind == "paired")
    world = done.world.fork()
    perform(world, Sleep(device=paired.a.device))
    assert paired.holds(world)
