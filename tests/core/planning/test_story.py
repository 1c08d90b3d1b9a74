"""The demo's B camera: which promises hold, how, and what each change does."""

import os
import subprocess
import sys

from isotact.core.planning import plan
from tests.rigs import SHIPPED, demo, device_of, hours, no_data_cables, promise_of, with_cables, without


def planned(change=None):
    return plan(demo(change))


def cables(made):
    return sorted(join.link.cable for join in made.joins if join.link.cable)


def choice(made, device, key):
    return next((c.value for c in made.choices if c.device == device and c.key == key), None)


def unmet(made, key):
    return next(one for one in made.unmet if one.promise == key)


def test_three_of_four_hold_proven_optimal():
    made = planned()
    assert made.status == "proven-optimal"
    assert made.kept == ("roll", "focus", "picture")


def test_the_control_cable_goes_into_the_port_with_the_camera_mark_and_not_the_bolt():
    made = planned()
    join = next(j for j in made.joins if j.link.cable == "usb-c-usb-c-data-30")
    assert {str(join.link.a), str(join.link.b)} == {"body.usb", "gimbal.camera"}
    (words,) = join.avoid
    assert words.startswith("Tansy grip: not “small bolt” (right side of the roll arm, lower of two): only charges")
    assert join.link.axes == ("tilt",)


def test_charge_only_and_wrongly_wired_cables_are_never_taken_for_control():
    assert cables(planned()) == ["hdmi-d-hdmi-c-30", "usb-c-usb-c-data-30"]


def test_the_settings_that_the_routes_need_are_chosen_and_the_others_left():
    made = planned()
    assert choice(made, "body", "") == "video"
    assert choice(made, "body", "usb-mode") == "tether"
    assert choice(made, "body", "hdmi-output") == "1080p50"
    assert choice(made, "gimbal", "camera-family") == "tether"
    assert choice(made, "lens", "focus-switch") == "af"


def test_iso_is_refused_for_the_mode_and_the_promise_in_its_way_is_named():
    made = unmet(planned(), "iso")
    assert made.verdict == "conflict"
    assert made.conflicts_with == ("roll",)
    assert made.because == (
        "ISO from the touch screen of Director's phone: no. Brindle 2 has one mode at a time: ISO from Director's "
        "phone needs Stills mode, record from Tansy grip needs Video mode. From outside, in Video mode it takes "
        "record, focus; in Stills mode it takes ISO, shutter, stills, iris, focus."
    )
    assert made.ways_out == (), "record weighs more"


def test_what_is_worth_no_more_may_be_given_up_and_comes_last():
    made = unmet(planned(lambda data: promise_of(data, "iso").update(weight=5)), "iso")
    assert made.ways_out[-1] == "Give up record from the record button of Tansy grip."


def test_without_record_iso_holds_by_way_of_the_transmitter():
    made = planned(lambda data: without(data, "roll"))
    assert made.kept == ("focus", "picture", "iso")
    assert choice(made, "body", "") == "stills"
    route = next(route for route in made.routes if route.promise == "iso")
    assert [hop.device for hop in route.hops if not hop.link] == ["phone", "transmitter", "body"]
    assert cables(made) == ["hdmi-d-hdmi-c-30", "usb-c-usb-c-data-30", "usb-c-usb-c-data-60"]


def test_weight_decides_which_of_two_that_clash_is_kept():
    made = planned(lambda data: promise_of(data, "iso").update(weight=9))
    assert "iso" in made.kept
    assert unmet(made, "roll").conflicts_with == ("iso",)


def test_without_data_cables_only_the_picture_holds_and_the_reason_names_what_fits_but_fails():
    made = planned(no_data_cables)
    assert made.kept == ("picture",)
    found = unmet(made, "roll")
    assert found.verdict == "impossible"
    assert "USB-C to USB-C, charge only, 0.3 m" in found.because
    assert "is wired for panel remote" in found.because
    assert found.ways_out == (
        "Get one of: USB-C to USB-C, data, 0.3 m; USB-C to right-angle USB-C, data, 0.3 m; "
        "USB-C to USB-C, data, coiled, 0.4 m.",
    )


def test_the_second_data_cable_steps_in_for_the_first():
    made = planned(lambda data: with_cables(data, usb_c_usb_c_data_30=0))
    assert made.kept == ("roll", "focus", "picture")
    assert "usb-c-usb-c-data-60" in cables(made)


def test_a_delay_that_the_link_cannot_make_is_said_in_milliseconds():
    made = planned(lambda data: promise_of(data, "picture").update(within_ms=70))
    assert unmet(made, "picture").because == (
        "Picture on the touch screen of Director's phone: no. By way of Brindle 2 to Quillon link to Director's phone "
        "the picture is 77 ms late; 70 ms was promised."
    )


def test_a_clean_picture_is_clean_and_one_with_the_look_needs_something_that_adds_it():
    assert "picture" in planned(lambda data: promise_of(data, "picture").update(look="clean")).kept
    made = planned(lambda data: promise_of(data, "picture").update(look="with"))
    assert unmet(made, "picture").obstacles[0].says == "Nothing on this way puts the look on the picture."


def test_old_firmware_is_named_with_both_versions():
    made = planned(lambda data: device_of(data, "body").update(firmware="1.9"))
    assert made.kept == ("picture",)
    assert "Brindle 2 has firmware 1.9; this needs 2.0 or newer." in unmet(made, "roll").because


def test_unknown_firmware_is_taken_on_trust_and_asked_for():
    made = planned(lambda data: device_of(data, "body").update(firmware=None))
    assert "roll" in made.kept
    assert [(r.device, r.value) for r in made.requisites] == [("body", "2.0")]


def test_a_function_that_a_button_does_not_give_is_said_so():
    made = planned(lambda data: promise_of(data, "roll").update(function="iris"))
    assert unmet(made, "roll").because == (
        "Iris from the record button of Tansy grip: no. The record button of Tansy grip does not give iris; "
        "it gives only record."
    )


def test_a_function_that_nothing_takes_is_said_so():
    def change(data):
        data["devices"].append({"id": "other", "profile": "gimbal-single-grip-remote-jack"})
        promise_of(data, "roll").update(at={"device": "other", "surface": "record-button"})

    found = unmet(planned(change), "roll")
    assert "nothing in this rig goes between." in found.because


def test_a_surfaces_own_function_needs_no_join():
    made = planned(
        lambda data: promise_of(data, "roll").update(
            function="gimbal-move", at={"device": "gimbal", "surface": "stick"}
        )
    )
    route = next(route for route in made.routes if route.promise == "roll")
    assert [hop.device for hop in route.hops] == ["gimbal"]


def test_hours_that_the_batteries_hold_are_kept_and_longer_ones_name_the_first_to_go():
    assert "hours" in planned(lambda data: hours(data, 2.5)).kept
    found = unmet(planned(lambda data: hours(data, 5)), "hours")
    assert found.verdict == "conflict"
    assert "The battery of Tansy grip does not last that long: it is empty first, after 2.8 h." in found.because
    assert "It holds 31.5 Wh usable, and 10.4 W hang on it." in found.because


def test_the_feed_goes_over_the_control_cable_when_the_hours_need_it():
    made = planned(lambda data: hours(data, 2.7))
    assert "hours" in made.kept
    body = next(feed for feed in made.feeds if feed.device == "body")
    assert (body.source, body.from_device, choice(made, "body", "usb-power")) == ("join", "gimbal", "on")


def test_a_look_alike_bag_in_another_order_gives_the_same_plan():
    made = planned()
    turned = planned(lambda data: (data["bag"].reverse(), data["devices"].reverse()))
    assert turned.joins == made.joins
    assert turned.choices == made.choices


def test_the_wake_school_that_contradicts_a_device_is_warned_of():
    made = planned(lambda data: data["schools"].update(wake="camera-first"))
    assert made.warnings == (
        "You wake camera first, but Brindle 2 and Tansy grip only find each other when Tansy grip is awake first. "
        "The run sheet keeps their order.",
    )


FINGERPRINTS = """
import hashlib
from isotact.core.planning import search
from isotact.core.planning.optimising.pruning import build_found
from isotact.core.planning.optimising.choice_model import Terms
from isotact.core.planning.optimising.objective import aim
from tests.rigs import SHIPPED
from isotact.catalogue import shipped
from isotact.core.model import resolve
catalogue = shipped()
for key, rig in SHIPPED.items():
    resolved = resolve(rig, catalogue.profiles, catalogue.cables)
    choosing = build_found(resolved, search(resolved), Terms(guarded=True))
    aim(choosing)
    print(key, hashlib.sha256(str(choosing.model.proto).encode()).hexdigest())
"""


def test_every_process_builds_the_same_model_of_the_same_rig():
    """Sets of words come in another order in each process: nothing that is solved may follow theirs."""
    printed = [
        subprocess.run(
            [sys.executable, "-c", FINGERPRINTS],
            env={**os.environ, "PYTHONHASHSEED": order, "PYTHONPATH": os.pathsep.join(sys.path)},
            capture_output=True,
            text=True,
            check=True,
        ).stdout
        for order in ("1", "2")
    ]
    assert len(printed[0].splitlines()) == len(SHIPPED)
    assert printed[0] == printed[1]
