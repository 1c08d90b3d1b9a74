"""Two ends that do not understand each other: what a technician says of the wrong module and the other family's motor.

The answers were written before the rigs were planned. Common practice, no source.
"""

from typing import Any

import pytest

from isotact.core.model.plan import Unmet
from tests.core.planning.test_feeds import because, planned, rig

BODY = {"body": "cine-body-serial-module", "hand": "hand-unit", "battery": "plate-battery"}
ROLL = {
    "kind": "control", "id": "roll", "who": "First assistant", "function": "record", "weight": 5,
    "at": {"device": "hand", "surface": "record-button"},
}  # fmt: skip
LEADS = ["driver-7-serial-4-40", "tap-power-2-50"]


def ways_out(devices: dict[str, str], bag: list[str], promise: dict[str, Any]) -> tuple[str, ...]:
    made = planned(rig(devices, bag, [promise]))
    return next(unmet.ways_out for unmet in made.unmet)


@pytest.mark.parametrize("driver", ["driver-newer", "driver-older"])
def test_the_wrong_module_is_named_with_what_it_speaks(driver: str):
    devices = {**BODY, "module": "module-serial-old", "driver": driver}
    says = because(planned(rig(devices, LEADS, [ROLL])), "roll")
    assert "module, port marked “AUX” (left side, upper) speaks body serial old, and driver, port marked" in says
    assert says.endswith("they do not understand each other.")


def test_the_way_out_is_a_module_that_understands():
    devices = {**BODY, "module": "module-serial-old", "driver": "driver-older"}
    assert ways_out(devices, LEADS, ROLL) == ("Bring a module that speaks body serial in the place of module.",)
    assert planned(rig({**devices, "module": "module-serial"}, LEADS, [ROLL])).kept == ("roll",)


def test_hours_of_nothing_that_is_on_are_not_kept():
    hours = {"kind": "power", "id": "hours", "who": "Everybody", "hours_h": 9, "weight": 2}
    made = planned(rig({**BODY, "module": "module-serial-old", "driver": "driver-older"}, LEADS, [ROLL, hours]))
    assert made.kept == ()
    assert made.unmet[0].ways_out == ("Bring a module that speaks body serial in the place of module.",)
    assert "Nothing else that was promised holds: of what would last nothing is known." in because(made, "hours")


def test_it_is_not_named_where_it_would_not_be_enough():
    """The newer driver asks for a licence besides; without the right lead a new module alone does not help either."""
    licensed = {**BODY, "module": "module-serial-old", "driver": "driver-newer"}
    other_lead = {**BODY, "module": "module-serial-old", "driver": "driver-older"}
    for devices, bag in ((licensed, LEADS), (other_lead, ["driver-7-serial-4-old-40", "tap-power-2-50"])):
        assert ways_out(devices, bag, ROLL) == ("Ask what it takes, or promise it from another device.",)


def test_a_motor_of_another_radio_family():
    focus = {
        "kind": "control", "id": "focus", "who": "Focus puller", "function": "focus", "weight": 5,
        "at": {"device": "knob", "surface": "knob"},
    }  # fmt: skip
    devices = {
        "body": "cine-body-large-panel", "lens": "lens-cine-pl", "battery": "plate-battery",
        "motor": "motor-with-driver", "knob": "follow-focus-knob",
    }  # fmt: skip
    says = because(planned(rig(devices, ["tap-power-2-50"], [focus])), "focus")
    assert "motor, lens radio is of the family lens-radio-24, and knob" in says
    assert "of follow-radio-24: the two never meet." in says
    assert planned(rig({**devices, "motor": "follow-focus-motor"}, ["tap-power-2-50"], [focus])).kept == ("focus",)


def test_where_nothing_could_be_joined_the_function_is_named():
    made = planned(rig({"body": "cine-body-serial-module", "hand": "hand-unit"}, [], [ROLL]))
    assert "Record gets as far as hand, lens radio, and is taken at body" in because(made, "roll")


SCREEN = {
    "kind": "picture", "id": "picture", "who": "Director", "weight": 3, "at": {"device": "screen", "surface": "screen"},
}  # fmt: skip
CINE = {"body": "cine-body-large-panel", "battery": "plate-battery"}


def test_sdi_goes_into_no_hdmi_and_a_converter_is_the_way_out():
    devices = {**CINE, "screen": "large-monitor-hdmi"}
    made = planned(rig(devices, ["bnc-bnc-1000"], [SCREEN]))
    assert "takes HDMI, and body, port marked “SDI 1” (left side, upper) gives SDI." in because(made, "picture")
    assert made.unmet[0].ways_out == (
        "Bring a monitor that takes SDI in the place of screen, or a converter from SDI to HDMI.",
    )
    assert planned(rig({**CINE, "screen": "large-monitor-sdi"}, ["bnc-bnc-1000"], [SCREEN])).kept == ("picture",)


def test_without_the_lead_a_converter_is_not_promised():
    assert ways_out({**CINE, "screen": "large-monitor-hdmi"}, ["bnc-bnc-50"], SCREEN) == (
        "Ask what it takes, or promise it from another device.",
    )


def test_the_link_that_is_there_is_kept_and_its_far_end_named():
    """A technician changes the monitor behind the receiver, not the transmitter and the receiver."""
    devices = {"body": "hybrid-single-port", "tx": "video-transmitter-hdmi", "rx": "video-receiver-hdmi"}
    says = because(
        planned(rig({**devices, "screen": "large-monitor-sdi"}, ["hdmi-d-hdmi-a-50", "bnc-bnc-50"], [SCREEN])),
        "picture",
    )
    assert (
        "screen, port marked “SDI A” (back, lower row) takes SDI, and rx, port marked “OUT” (left side) gives HDMI"
        in says
    )


def test_a_screen_that_takes_pictures_by_radio_only_says_so():
    at = {**SCREEN, "at": {"device": "phone", "surface": "touch-screen"}}
    says = because(planned(rig({"body": "hybrid-single-port", "phone": "phone"}, [], [at])), "picture")
    assert "The touch screen of phone takes a picture by Wi-Fi only, and nothing here sends one there." in says


def test_a_body_that_nothing_feeds_wants_a_battery():
    made = planned(rig({"body": "cine-body-large-panel", "screen": "large-monitor-sdi"}, ["bnc-bnc-1000"], [SCREEN]))
    assert "body has no battery of its own, and nothing in this rig can feed it." in because(made, "picture")
    assert made.unmet[0].ways_out == ("Bring a battery, or another feed, for body.",)


def control(function: str, device: str, surface: str) -> dict[str, Any]:
    at = {"device": device, "surface": surface}
    return {"kind": "control", "id": function, "who": "Operator", "function": function, "weight": 5, "at": at}


GRIP = {"body": "hybrid-single-port", "grip": "gimbal-single-grip-two-usb-c"}


@pytest.mark.parametrize(
    ("devices", "bag", "promise", "says"),
    [
        (
            {**CINE, "lens": "lens-cine-pl", "driver": "driver-newer", "hand": "hand-unit"},
            ["tap-power-2-50"],
            control("focus", "hand", "knob"),
            "lens, port marked “focus gear” (middle ring) is turned by a motor only, and nothing that hand reaches turns it.",
        ),
        (
            {**GRIP, "remote": "gimbal-remote"},
            [],
            control("gimbal-move", "remote", "stick"),
            "No device in this rig takes gimbal move from another: grip only at its own controls.",
        ),
        (
            {"body": "mirrorless-usb-c-micro-hdmi", "phone": "phone"},
            [],
            control("record", "phone", "touch-screen"),
            "Record gets as far as phone, Wi-Fi, and is taken at body, port marked “USB” (left side, lower door)",
        ),
        (
            {**CINE, "lens": "lens-cine-pl", "driver": "driver-newer", "motor": "lens-motor", "hand": "hand-unit"},
            ["tap-power-2-50", "motor-bus-motor-bus-20"],
            control("iris", "hand", "slider"),
            "motor turns one ring, and two would have to be turned.",
        ),
    ],
)  # fmt: skip
def test_what_a_technician_would_name(devices: dict[str, str], bag: list[str], promise: dict[str, Any], says: str):
    first = {**control("focus", "hand", "knob"), "weight": 9}
    promises = [first, promise] if promise["function"] == "iris" else [promise]
    assert says in because(planned(rig(devices, bag, promises)), promise["id"])


MOTOR = {**CINE, "lens": "lens-cine-pl", "driver": "driver-newer", "motor": "lens-motor", "hand": "hand-unit"}
HOURS = {"kind": "power", "id": "hours", "who": "Everybody", "hours_h": 3, "weight": 2}


def test_hours_that_do_not_last_want_changes_of_battery():
    """83.3 Wh at 72.6 W are 1.1 h: twice changed 3.4 h. That the lens sits on its mount is no obstacle."""
    focus = control("focus", "hand", "knob")
    made = planned(rig(MOTOR, ["tap-power-2-50", "motor-bus-motor-bus-20"], [focus, HOURS]))
    assert "mount" not in because(made, "hours")
    assert made.unmet[0].ways_out[0] == "Allow 2 battery changes, with full spares at hand."
    allowed = {**HOURS, "changes": 2}
    assert "hours" in planned(rig(MOTOR, ["tap-power-2-50", "motor-bus-motor-bus-20"], [focus, allowed])).kept


@pytest.mark.parametrize(
    ("short_h", "changes"), [(0.02, "one battery change"), (0.98, "one battery change"), (1.5, "2 battery changes")]
)
@pytest.mark.parametrize("spares", [0, 1])
def test_of_hours_that_are_short_what_hangs_on_the_battery_is_the_reason(short_h: float, changes: str, spares: int):
    """That the driver is full, and gives so many amps, is why so much hangs on it: nobody mends hours there."""
    devices = {**MOTOR, "motor-2": "lens-motor", "lens": "lens-cine-zoom-pl"}
    devices |= {f"spare-{number}": "lens-motor" for number in range(spares)}
    bag = {"tap-power-2-50": 1, "motor-bus-motor-bus-20": 4, "driver-7-serial-4-40": 2}
    pulled = [control("focus", "hand", "knob"), control("iris", "hand", "slider")]
    leads = [cable for cable, count in bag.items() for _ in range(count)]
    lasts_h = planned(rig(devices, leads, pulled)).feeds[0].hours_h
    assert lasts_h
    hours = {**HOURS, "hours_h": round(lasts_h + short_h, 2)}
    made = planned(rig(devices, leads, [*pulled, hours]))
    (unmet,) = made.unmet
    assert [obstacle.kind for obstacle in unmet.obstacles] == ["power"]
    assert "hang on it" in unmet.because
    assert unmet.ways_out[0] == f"Allow {changes}, with full spares at hand."


def test_what_has_to_be_switched_for_it_is_reckoned_with():
    """Fed by the grip both last 2.9 h; with USB power off the body lasts 4.9 h when it is changed once, the grip 6.3 h."""
    made = planned(
        rig(GRIP, ["usb-c-usb-c-data-30"], [control("record", "grip", "record-button"), {**HOURS, "hours_h": 4}])
    )
    assert made.unmet[0].ways_out[0] == "Allow one battery change, with full spares at hand."


def test_a_battery_that_is_low_is_charged_first():
    """At 10 % the grip lasts 0.3 h with the body on it, full 2.9 h."""
    asked = rig(
        GRIP,
        ["usb-c-usb-c-data-30"],
        [control("record", "grip", "record-button"), {**HOURS, "hours_h": 2}],
        grip={"charge_percent": 10},
    )
    made = planned(asked)
    assert made.unmet[0].ways_out[0] == "Charge first: grip (10 %)."


def test_hours_that_no_change_would_save_are_not_told_to_change():
    made = planned(
        rig(
            MOTOR,
            ["tap-power-2-50", "motor-bus-motor-bus-20"],
            [control("focus", "hand", "knob"), {**HOURS, "hours_h": 9}],
        )
    )
    assert not any(out.startswith("Allow") for out in made.unmet[0].ways_out)


def test_one_lead_more_of_a_kind_is_named_where_it_would_do():
    devices = {**MOTOR, "motor-2": "lens-motor"}
    promises = [{**control("focus", "hand", "knob"), "weight": 9}, control("iris", "hand", "slider")]
    bag = ["tap-power-2-50", "motor-bus-motor-bus-20"]
    assert ways_out_of(devices, bag, promises)[0] == "Get one more: motor bus to motor bus, 0.2 m."
    assert len(planned(rig(devices, [*bag, "motor-bus-motor-bus-20"], promises)).kept) == 2


def test_a_body_holds_one_lens():
    lenses = {**CINE, "lens": "lens-cine-pl", "zoom": "lens-cine-pl", "driver": "driver-newer", "hand": "hand-unit"}
    motors = {"motor": "lens-motor", "motor-2": "lens-motor"}
    promises = [{**control("focus", "hand", "knob"), "to": "lens"}, {**control("iris", "hand", "slider"), "to": "zoom"}]
    bag = ["tap-power-2-50", "motor-bus-motor-bus-20", "motor-bus-motor-bus-20"]
    made = planned(rig({**lenses, **motors}, bag, promises))
    assert "body holds one lens, and two would be needed." in made.unmet[0].because


def ways_out_of(devices: dict[str, str], bag: list[str], promises: list[dict[str, Any]]) -> tuple[str, ...]:
    return planned(rig(devices, bag, promises)).unmet[0].ways_out


def test_a_function_promised_to_a_device_that_does_not_take_it():
    """The grip takes no record: it is not the body that is asked for."""
    to_grip = {**control("record", "hand", "record-button"), "to": "grip"}
    says = because(planned(rig({**GRIP, "hand": "hand-unit"}, [], [to_grip])), "record")
    assert "grip takes no record from another." in says


def test_a_function_that_does_not_leave_the_device_it_is_worked_from():
    to_other = {**control("record", "body", "record-button"), "to": "second"}
    says = because(
        planned(rig({"body": "hybrid-single-port", "second": "hybrid-single-port"}, [], [to_other])), "record"
    )
    assert "Record from the record button of body is worked in body itself, and goes out to nothing." in says


def licensed(devices: dict[str, str], bag: list[str], promise: dict[str, Any]) -> Unmet:
    made = planned(rig(devices, bag, [promise], hand={"licences": ["camera-control"]}))
    return made.unmet[0]


PANEL = {"body": "cine-body-large-panel", "driver": "driver-older", "hand": "hand-unit", "battery": "plate-battery"}
PANEL_LEADS = ["driver-7-remote-8-40", "tap-power-2-50"]


def test_rather_another_driver_than_another_camera():
    found = licensed(PANEL, PANEL_LEADS, ROLL)
    assert "speaks panel remote, and driver, port marked “CAMERA” (front) body serial" in found.because
    assert found.ways_out == ("Bring a motor driver that speaks panel remote in the place of driver.",)
    newer = rig({**PANEL, "driver": "driver-newer"}, PANEL_LEADS, [ROLL], hand={"licences": ["camera-control"]})
    assert planned(newer).kept == ("roll",)


@pytest.mark.parametrize(
    ("devices", "leads", "function", "ends"),
    [
        (
            {**BODY, "module": "module-serial-old", "driver": "driver-newer"},
            LEADS,
            "iso",
            ("module", "body serial old"),
        ),
        (PANEL, PANEL_LEADS, "gain", ("body", "panel remote")),
    ],
)
def test_the_ends_are_named_though_what_lies_between_does_not_pass_just_this_on(
    devices: dict[str, str], leads: list[str], function: str, ends: tuple[str, str]
):
    """The oldest module passes record on and no ISO, the older driver no gain: neither alone would be enough."""
    asked = {**ROLL, "function": function, "at": {"device": "hand", "surface": "camera-page"}}
    found = licensed(devices, leads, asked)
    assert found.because.split(": no. ")[1].startswith(f"{ends[0]}, port marked")
    assert f"speaks {ends[1]}, and driver, port marked" in found.because
    assert found.ways_out == ("Ask what it takes, or promise it from another device.",)


def test_what_is_understood_but_not_taken_is_said_with_what_is():
    """An older body takes record and focus over its remote port; the converter would step its iris besides."""
    devices = {
        "body": "reflex-usb-mini-b", "lens": "lens-by-wire", "radio": "hobby-radio", "receiver": "hobby-receiver",
        "converter": "hobby-converter", "bank": "usb-power-bank",
    }  # fmt: skip
    bag = ["usb-mini-b-usb-mini-b-control-30", "usb-c-usb-c-charge-100"]
    iris = {**ROLL, "function": "iris", "at": {"device": "radio", "surface": "three-way"}}
    says = because(planned(rig(devices, bag, [iris])), "roll")
    assert "body, port marked “DIGITAL”" in says
    assert says.endswith("takes only focus and record from converter.")


def test_a_motor_that_does_not_turn_such_a_ring_says_which_it_turns():
    """The motor with the run port knows focus, iris and ND: its profile's."""
    devices = {
        "body": "cine-body-large-panel", "lens": "lens-cine-zoom-pl", "driver": "driver-newer", "hand": "hand-unit",
        "motor": "lens-motor-run", "battery": "plate-battery",
    }  # fmt: skip
    zoom = {**ROLL, "function": "zoom", "at": {"device": "hand", "surface": "zoom-stick"}}
    says = because(planned(rig(devices, ["motor-bus-motor-bus-20", "tap-power-2-50"], [zoom])), "roll")
    assert says.endswith(
        "motor turns rings of ND, focus and iris only, and lens, port marked “zoom gear” (middle ring) is of zoom."
    )
    assert planned(rig({**devices, "motor": "lens-motor"}, ["motor-bus-motor-bus-20", "tap-power-2-50"], [zoom])).kept
