"""What a mode does besides, what waits for a start or a connection, what wakes with its feed, what stands in for it."""

import pytest

from isotact.core.model.keys import Item
from isotact.core.model.plan import LinkEnd
from isotact.core.planning import plan
from isotact.core.runsheet import run_sheet
from isotact.core.trades import fresh_world, perform
from isotact.core.trades.cables.acts import LayOut, Plug, TakeOut, Unplug
from isotact.core.trades.menus.acts import Set, SetMode
from isotact.core.trades.power.acts import FitBattery
from isotact.core.trades.waking import Sleep, WakeUp
from isotact.core.world import Cables, Menus, Power, Radio, Waking, now, prove
from tests.core.runsheet.careful import carefully
from tests.rigs import DATA, RECORD, Carried, cable, camera, carried, control, grip, port, power, profile, rig_of


def place(done: Carried, key: str) -> int:
    return next(number for number, step in enumerate(done.sheet.steps) if step.id == key)


def test_panel_mode_saves_the_set_up_first_and_wakes_the_driver_after():
    done = carried("panel-mode")
    order = [place(done, key) for key in ("menu-wake:body", "save-setup:body", "mode:body", "wake:driver")]
    assert order == sorted(order)
    step = done.sheet.steps[order[2]]
    assert any("6 dB is one stop" in words for words in step.cautions)


def test_choosing_it_reboots_the_body_and_hangs_the_driver():
    done = carried("panel-mode")
    world = done.world.fork()
    began = world[Waking].boot_started_s["body"]
    perform(world, SetMode(device="body", mode="panel"))
    assert world[Waking].boot_started_s["body"] > began
    assert world[Waking].is_awake("body")
    assert "driver" in world[Waking].hung
    assert not prove(world, "shutter").ok


def upsetting(*upsets: str, **more):
    """A body whose second mode upsets what it is told to, and a setting that it needs."""
    values = [{"id": "a", "name": "A"}, {"id": "b", "name": "B", "upsets": list(upsets)}]
    on_off = [{"id": "off", "name": "Off"}, {"id": "on", "name": "On"}]
    setting = {"id": "s", "name": "S", "path": ["M"], "values": on_off, "factory": "off", **more}
    body = camera(
        modes={"how": "To {name}.", "factory": "a", "values": values, "needs_awake": True},
        settings=[setting],
        accepts=[{"functions": ["record"], "over": "usb", "when": {"mode": ["b"], "settings": {"s": "on"}}}],
    )
    return rig_of([body, grip()], [(DATA, 1)], [RECORD])


@pytest.mark.parametrize("upsets", [(), ("resets-settings",), ("restarts",), ("restarts", "resets-settings")])
@pytest.mark.parametrize("takes", ["at-once", "at-reconnect", "at-boot"])
def test_what_a_mode_resets_is_set_after_it(upsets, takes):
    rig = upsetting(*upsets, takes_effect=takes)
    sheet = run_sheet(rig, plan(rig))
    keys = [step.id for step in sheet.steps]
    if "resets-settings" in upsets:
        assert keys.index("save-setup:camera") < keys.index("mode:camera") < keys.index("set:camera.s")
    world = fresh_world(rig)
    carefully(world, sheet.steps)
    assert prove(world, "record").ok
    if "resets-settings" in upsets:
        perform(world, SetMode(device="camera", mode="b"))
        assert world[Menus].stored[Item("camera", "s")] == "off"


def test_pairings_and_links_are_forgotten_as_the_mode_says():
    world = carried("night-ferry-b").world.fork()
    assert world[Radio].met
    world[Radio].leave(world.rig, "phone")
    assert world[Radio].met == set()
    other = carried("night-ferry-a").world.fork()
    other[Radio].leave(other.rig, "receiver")
    assert any(end.device == "receiver" for two in other[Radio].met for end in two)  # a pairing is no network
    other[Radio].forget("receiver")
    assert not any(end.device == "receiver" for two in other[Radio].met for end in two)


ENDS = {"a": LinkEnd(device="camera", endpoint="usb"), "b": LinkEnd(device="grip", endpoint="out")}


@pytest.mark.parametrize(("takes", "taken"), [("at-reconnect", True), ("at-boot", False)])
def test_a_new_connection_is_no_start(takes, taken):
    rig = upsetting(takes_effect=takes)
    done = Carried.out(rig)
    world = done.world.fork()
    perform(world, Set(device="camera", setting="s", value="off"))
    perform(world, Unplug(**ENDS))
    perform(world, Plug(tag="A1", **ENDS))
    assert (world[Menus].effective[Item("camera", "s")] == "off") is taken


def test_what_must_stand_before_a_lead_is_set_before_it_and_the_device_is_off_when_the_lead_goes_in():
    done = carried("night-ferry-a")
    lead = place(done, "plug:driver.cam--module.serial")
    for device, setting in (("driver", "protocol"), ("body", "serial")):
        assert place(done, f"set:{device}.{setting}") < place(done, f"menu-sleep:{device}") < lead


def test_a_device_without_a_switch_is_woken_by_its_plug():
    done = carried("night-ferry-a")
    step = done.sheet.steps[place(done, "wake:driver")]
    assert step.title == "Feed Sedge driver by A1"
    assert step.detail == ("Put its plug into Plate battery, port marked “TAP” (left side).", "It has no switch.")
    plug = done.sheet.steps[place(done, "plug:battery.tap--driver.cam")]
    assert "Leave the plug at Plate battery out for now: Sedge driver wakes with it." in plug.detail
    world = done.world.fork()
    perform(world, Sleep(device="driver"))
    assert [one.tag for one in world[Cables].plugs.values() if one.held] == ["A1"]
    perform(world, WakeUp(device="driver"))
    assert now(world).supply.has_power("driver")


def test_it_comes_up_by_itself_when_its_power_comes_back():
    world = carried("night-ferry-a").world.fork()
    perform(world, FitBattery(device="battery"))  # out and in again
    assert world[Waking].is_on("driver")
    assert not world[Waking].is_on("body")  # that one has a switch


def bay(key: str = "camera", **more):
    return camera(
        ports=[port("usb", "usb-c", control("p", "device")), port("bay", "battery-bay", power("in", 7.4))], **more
    )


def dummy_rig():
    """A body with a dummy in its bay, fed by a box that lasts longer than its own battery."""
    dummy = profile(
        "dummy",
        ports=[port("lead", "tap", power("in", 12)), port("contacts", "battery-bay", power("out", 7.4))],
        power={"draw_w": 0.1},
    )
    box = profile(
        "box", ports=[port("tap", "tap", power("out", 12))],
        power={"draw_w": 0, "inner_battery": {"name": "cells", "energy_wh": 90}},
    )  # fmt: skip
    lasting = {"kind": "power", "id": "hours", "who": "All", "hours_h": 5}
    leads = [(DATA, 1), (cable("tap", "tap", "tap", {"medium": "power"}), 1)]
    return rig_of([bay(), grip(), dummy, box], leads, [RECORD, lasting])


def test_a_dummy_takes_the_place_of_the_bodys_own_battery():
    done = Carried.out(dummy_rig())
    assert done.plan.kept == ("record", "hours")
    assert "fit:camera" not in [step.id for step in done.sheet.steps]
    mount = next(step for step in done.sheet.steps if step.id.startswith("plug:camera.bay"))
    assert mount.detail[0] == "Take the battery of camera out first."
    world = done.world.fork()
    assert perform(world, FitBattery(device="camera")) == "The bay of camera is taken."
    assert "camera" not in world[Power].battery_wh


def test_without_its_own_in_it_the_body_goes_dark_with_the_dummy():
    done = Carried.out(dummy_rig())
    world = done.world.fork()
    taken = next(join.link for join in done.plan.joins if "bay" in (join.link.a.endpoint, join.link.b.endpoint))
    perform(world, TakeOut(a=taken.a, b=taken.b))
    assert not world[Waking].is_on("camera")


@pytest.mark.parametrize("bridges", [True, False])
def test_a_hot_swap_plate_keeps_what_hangs_on_it_awake(bridges):
    plate = profile(
        "plate",
        ports=[port("front", "battery-plate", power("out", 12)), port("back", "battery-plate", power("in", 12))],
        power={"draw_w": 0, "bridges": bridges},
    )
    cells = profile(
        "cells", ports=[port("contacts", "battery-plate", power("out", 12))],
        power={"draw_w": 0, "inner_battery": {"name": "cells", "energy_wh": 90}},
    )  # fmt: skip
    body = camera(
        ports=[port("usb", "usb-c", control("p", "device")), port("plate", "battery-plate", power("in", 12))],
        power={"draw_w": 5},
    )
    pins = [
        {"kind": "cable", "a": {"device": a, "port": x}, "b": {"device": b, "port": y}}
        for a, x, b, y in (("camera", "plate", "plate", "front"), ("plate", "back", "cells", "contacts"))
    ]
    done = Carried.out(rig_of([body, grip(), plate, cells], [(DATA, 1)], [RECORD], pins=pins))
    world = done.world.fork()
    perform(world, FitBattery(device="cells"))
    assert world[Waking].is_awake("camera") is bridges
    assert prove(world, "record").ok is bridges


def test_resting_sticks_are_looked_at_before_the_camera_is_joined():
    done = carried("hobby")
    check = place(done, "resting:set")
    lead = next(step.id for step in done.sheet.steps if step.title == "Plug A2: Body to Converter")
    assert place(done, "wake:set") < check < place(done, lead)
    assert "three-way switch: middle, 1500 us." in done.sheet.steps[check].detail


def test_a_lead_already_laid_out_is_not_laid_out_twice():
    rig = dummy_rig()
    world = fresh_world(rig)
    perform(world, LayOut(tag="A1", cable="data"))
    assert perform(world, Plug(tag="A1", **ENDS)) == "A1 holds at both ends."
    assert perform(world, Plug(tag="A1", **ENDS)) == "A1 is in already."
