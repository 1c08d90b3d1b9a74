"""The order of the demo's run sheet, as a crew would have it, and the two schools."""

import pytest

from isotact.core.bench import run
from isotact.core.model.keys import Key
from isotact.core.model.plan import LinkEnd
from isotact.core.model.words import JOB_STAGES
from isotact.core.planning import plan
from isotact.core.runsheet import NoOrderError, in_order, run_sheet
from isotact.core.trades import Draft, StepGraph
from isotact.core.trades.cables.acts import Plug
from isotact.core.trades.care.acts import TakeCare
from tests.rigs import DATA, RECORD, cable, camera, control, demo, grip, port, power, profile, rig_of


def sheet_of(change=None):
    rig = demo(change)
    return run_sheet(rig, plan(rig)).steps


def place(steps, key: str) -> int:
    return next(number for number, step in enumerate(steps) if step.id == key)


def test_the_stages_come_in_the_order_of_the_job():
    stages = [step.stage for step in sheet_of()]
    assert stages == sorted(stages, key=JOB_STAGES.index)


def test_the_lens_is_mounted_before_the_cables_and_balance_comes_between_inner_and_outer_ones():
    steps = sheet_of()
    mount = place(steps, "plug:body.mount--lens.mount")
    inner = place(steps, "plug:body.hdmi--transmitter.hdmi-in")
    balance = place(steps, "balance:gimbal")
    outer = place(steps, "plug:body.usb--gimbal.camera")
    assert mount < inner < balance < outer


def test_the_second_school_balances_once_after_every_cable():
    steps = sheet_of(lambda data: data["schools"].update(balance="after-outer-cables"))
    assert place(steps, "balance:gimbal") > place(steps, "plug:body.usb--gimbal.camera")


def test_the_host_is_awake_before_the_body_and_its_prompt_is_answered_then():
    steps = sheet_of()
    assert place(steps, "wake:gimbal") < place(steps, "wake:body") < place(steps, "answer:body.usb-question")


def test_menus_that_take_late_are_visited_before_the_final_waking():
    steps = sheet_of()
    order = [place(steps, f"{what}:body") for what in ("menu-wake", "menu-sleep", "wake")]
    assert order == sorted(order)
    assert order[0] < place(steps, "set:body.usb-mode") < order[1]


def test_menus_that_take_at_once_are_set_after_waking_without_a_visit():
    steps = sheet_of()
    assert place(steps, "set:phone.app-target") > place(steps, "wake:phone")
    assert not any(step.id == "menu-wake:phone" for step in steps)


def test_the_network_is_joined_when_both_ends_are_awake():
    steps = sheet_of()
    meet = place(steps, "meet:phone.wifi--transmitter.wifi")
    assert max(place(steps, "wake:phone"), place(steps, "wake:transmitter")) < meet


def test_what_is_off_the_gimbal_wakes_last():
    steps = sheet_of()
    wakes = [step.device for step in steps if step.act.kind == "wake" and step.stage == "wake"]
    assert wakes[-1] == "phone"


def test_a_step_names_ports_by_marking_and_place_and_warns_of_the_look_alike():
    step = next(step for step in sheet_of() if step.id == "plug:body.usb--gimbal.camera")
    text = " ".join(step.detail)
    assert "port marked “small camera” (right side of the roll arm, upper of two)" in text
    assert step.avoid == (
        "Tansy grip: not “small bolt” (right side of the roll arm, lower of two): only charges the grip",
    )
    # 30 cm of lead for a way of 42 with its loop, and 60 lie in the bag.
    assert (
        "Crosses the tilt axis. It only just reaches, as far as is known, but loops want 42 cm and it has 30 cm" in text
    )
    assert "USB-C to USB-C, data, 0.6 m is long enough to be tied: take it where you can." in text
    assert step.title == "Plug B2: Brindle 2 to Tansy grip"


def test_cautions_stand_at_the_step_where_they_matter():
    steps = {step.id: step for step in sheet_of()}
    assert "Unlocked axes swing and pinch: keep a hand on the camera." in steps["balance:gimbal"].cautions
    assert "Never power it with locked axes or out of balance." in steps["menu-wake:gimbal"].cautions
    assert steps["wake:gimbal"].cautions == ()  # once, where it matters first
    charged = [step.id for step in steps.values() if any("its own charger" in words for words in step.cautions)]
    assert charged == ["fit:body"]  # the first battery of all
    assert steps["set:body.usb-mode"].cautions == ()


def test_a_setting_that_is_right_already_is_looked_at_as_care():
    steps = {step.id: step for step in sheet_of()}
    look = steps["look-settings:gimbal"]
    assert look.care
    assert look.detail == ("Grip screen › Power › Camera power: On",)
    assert "set:gimbal.camera-power" not in steps


def test_settings_known_to_be_right_are_not_set_again():
    def change(data):
        data["devices"][0]["mode"] = "video"
        data["devices"][0]["settings"] = {"usb-mode": "tether", "phone-control": "off", "hdmi-output": "1080p50"}

    steps = sheet_of(change)
    assert not any(step.id.startswith(("set:body", "mode:body", "menu-wake:body")) for step in steps)


def test_steps_that_wait_for_each_other_are_refused():
    graph = StepGraph()
    for name in "ab":
        graph.add(Draft(key=Key.of(name), stage="wake", title=name, expect="", takes_s=1, act=TakeCare()))
    graph.order(Key.of("a"), Key.of("b"))
    graph.order(Key.of("b"), Key.of("a"))
    with pytest.raises(NoOrderError, match=r"These steps wait for each other: a, b\."):
        in_order(list(graph))


def test_ties_are_broken_by_stage_then_tag():
    graph = StepGraph()
    ends = LinkEnd(device="a", endpoint="x"), LinkEnd(device="b", endpoint="y")
    for tag in ("A10", "A2", "A1"):
        act = Plug(tag=tag, a=ends[0], b=ends[1])
        graph.add(Draft(key=Key.of(tag), stage="build", title=tag, expect="", takes_s=1, act=act, tag=tag))
    assert [str(node.key) for node in in_order(list(graph))] == ["A1", "A2", "A10"]


def test_a_rig_that_keeps_nothing_has_an_empty_sheet():
    def change(data):
        data["bag"], data["devices"] = [], [d for d in data["devices"] if d["id"] in ("gimbal", "phone")]
        data["promises"] = [p for p in data["promises"] if p["id"] == "roll"]

    assert sheet_of(change) == ()


def test_a_mode_that_is_chosen_in_a_menu_is_chosen_when_the_device_is_awake():
    modes = {
        "how": "Page to {name}.",
        "factory": "camera",
        "values": [{"id": key, "name": key} for key in ("camera", "motors")],
        "needs_awake": True,
    }
    button = {"functions": ["record"], "surface": "button", "over": "out", "when": {"mode": ["motors"]}}
    rig = rig_of([camera(), grip(modes=modes, emits=[button])], [(DATA, 1)], [RECORD])
    made = plan(rig)
    steps = run_sheet(rig, made).steps
    assert place(steps, "wake:grip") < place(steps, "mode:grip")
    assert run(rig, run_sheet(rig, made)).unproven == ()


def test_what_is_fed_through_something_that_nobody_switches_on_waits_for_what_feeds_that():
    """Grip feeds a box without a switch, the box feeds the body: the body's menu is opened when the grip is on."""
    bare = profile(
        "box",
        ports=[port("in", "tap", power("in", 12)), port("through", "power-2", power("out", 12))],
        power={"draw_w": 1},
    )
    setting = {
        "id": "s", "name": "S", "path": ["M"], "factory": "off", "takes_effect": "at-boot",
        "values": [{"id": "off", "name": "Off"}, {"id": "on", "name": "On"}],
    }  # fmt: skip
    body = camera(
        ports=[port("usb", "usb-c", control("p", "device")), port("dc", "power-2", power("in", 12))],
        power={"draw_w": 5},
        settings=[setting],
        accepts=[{"functions": ["record"], "over": "usb", "when": {"settings": {"s": "on"}}}],
    )
    host = grip(ports=[port("out", "usb-c", control("p", "host")), port("tap", "tap", power("out", 12))])
    leads = [(cable(key, key, key, {"medium": "power"}), 1) for key in ("tap", "power-2")]
    rig = rig_of([bare, body, host], [(DATA, 1), *leads], [RECORD])
    made = plan(rig)
    assert made.kept == ("record",)
    steps = run_sheet(rig, made).steps
    assert place(steps, "wake:grip") < place(steps, "menu-wake:camera") < place(steps, "set:camera.s")
    assert run(rig, run_sheet(rig, made)).unproven == ()
