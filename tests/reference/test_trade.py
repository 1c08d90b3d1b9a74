"""Facts of the trade as check values: figures, who feeds what, what excludes what, orders.

Each is *common practice, no source*: what crews work by and pass on, not what a standard says. Where the figure is one
of a shipped profile, the check is that the archetype is what crews know.
"""

from functools import cache

import pytest

from isotact.catalogue import shipped
from isotact.core.calc.moments import residual_torque_nm, slide_mm
from isotact.core.calc.power import hours
from isotact.core.model import Plan, Profile, ResolvedRig, resolve
from isotact.core.model.vocabulary import vocabulary
from isotact.core.model.words import JOB_STAGES, Stage, axes_between
from isotact.core.planning import plan
from isotact.core.runsheet import run_sheet
from isotact.examples import examples
from tests.core.planning.test_feeds import planned, rig


def kind(key: str) -> Profile:
    return shipped().profiles[key]


@cache
def example(key: str) -> tuple[ResolvedRig, Plan]:
    """A rig of the examples, and its plan."""
    found = next(one for each in examples() for one in each.rigs if one.id == key)
    asked = resolve(found, shipped().profiles, shipped().cables)
    return asked, plan(asked)


def titles(key: str) -> list[str]:
    asked, made = example(key)
    return [step.title for step in run_sheet(asked, made).steps]


def place(steps: list[str], *words: str) -> int:
    """Where the first step stands that has all these words."""
    return next(number for number, title in enumerate(steps) if all(word in title for word in words))


# Figures


def test_a_four_cell_pack_of_3400_mah_holds_about_50_wh_and_runs_25_w_for_two_hours():
    """Common practice, no source: watts are volts times amps, hours are watt-hours by watts."""
    assert hours(14.8 * 3.4, 25) == pytest.approx(2.0, abs=0.02)


def test_a_lens_port_gives_about_one_ampere_at_twelve_volts():
    """Common practice, no source."""
    (feed,) = [role for role in kind("cine-body-large-panel").endpoints["lens-port"].roles if role.is_outlet]
    assert (feed.max_a, feed.min_v) == (1, 12)


def test_a_phone_link_runs_about_three_and_a_half_hours_on_its_own():
    """Common practice, no source."""
    power = kind("phone-link-transmitter").power
    assert power is not None
    assert power.inner_battery is not None
    assert hours(power.inner_battery.energy_wh * power.inner_battery.usable, power.draw_w) == pytest.approx(
        3.5, abs=0.1
    )


def test_a_phone_link_is_about_sixty_milliseconds_late():
    """Common practice, no source."""
    link, phone = kind("phone-link-transmitter").passes[0], kind("phone").shows[0]
    assert link.delay_ms + phone.delay_ms == 60


def test_a_camera_link_is_well_under_a_frame_late():
    """Common practice, no source: at 25 frames a second one takes 40 ms."""
    assert kind("video-transmitter-hdmi").passes[0].delay_ms + kind("video-receiver-hdmi").passes[0].delay_ms < 40


def test_a_phone_link_is_claimed_for_200_m_and_a_camera_link_is_of_the_100_m_class():
    """Common practice, no source."""
    assert kind("phone-link-transmitter").radios[0].range_m == 200
    assert 100 <= (kind("video-transmitter-hdmi").radios[0].range_m or 0) < 200


def test_a_phone_link_takes_1080p_at_most():
    """Common practice, no source."""
    formats = {
        picture for role in kind("phone-link-transmitter").endpoints["hdmi-in"].roles for picture in role.pictures
    }
    assert formats
    assert all(int(picture.split("p")[0]) <= 1080 for picture in formats)


def test_lens_radios_stand_on_channels_from_11_to_26():
    """Common practice, no source."""
    channels = [int(channel) for channel in kind("hand-unit").radios[0].channels]
    assert channels
    assert all(11 <= channel <= 26 for channel in channels)


def test_pairing_a_receiver_takes_about_fifteen_seconds():
    """Common practice, no source."""
    assert kind("video-transmitter-hdmi").radios[0].wait_s == 15


def test_a_plate_battery_stays_under_what_may_be_flown():
    """Common practice, no source: airlines ask no questions under 100 Wh."""
    power = kind("plate-battery").power
    assert power is not None
    assert power.inner_battery is not None
    assert power.inner_battery.energy_wh < 100


def test_a_cable_from_the_cage_crosses_one_to_three_axes():
    """Common practice, no source."""
    assert axes_between(Stage.TILT_CAGE, Stage.ROLL_ARM) == ("tilt",)
    assert axes_between(Stage.TILT_CAGE, Stage.HANDLES) == ("tilt", "roll", "pan")
    assert axes_between(Stage.TILT_CAGE, Stage.TILT_CAGE) == ()


def test_the_plate_slides_by_the_moments_over_what_slides():
    """Common practice, no source: 200 g at 150 mm in front move 1,500 g by 20 mm to the back."""
    assert slide_mm([(200, 150)], 1500) == pytest.approx(-20)
    assert residual_torque_nm([(200, 150), (1500, -20)]) == pytest.approx(0)


# Who feeds what

AXES = {"focus": ("knob", 5), "iris": ("slider", 4), "zoom": ("zoom-stick", 3)}
DRIVE = {
    "body": "cine-body-large-panel", "driver": "driver-newer", "lens": "lens-cine-zoom-pl", "hand": "hand-unit",
    "battery": "plate-battery", "motor-1": "lens-motor", "motor-2": "lens-motor", "motor-3": "lens-motor",
}  # fmt: skip


def test_one_tap_carries_a_driver_and_three_small_motors():
    """Common practice, no source."""
    wanted = [
        {
            "kind": "control", "id": key, "who": "X", "function": key, "weight": weight,
            "at": {"device": "hand", "surface": surface},
        }
        for key, (surface, weight) in AXES.items()
    ]  # fmt: skip
    made = planned(rig(DRIVE, ["tap-power-2-50"] + ["motor-bus-motor-bus-20"] * 3, wanted))
    assert made.kept == ("focus", "iris", "zoom")


def test_a_lens_port_feeds_electronics_and_never_motors():
    """Common practice, no source."""
    _, made = example("lens-lead-alone")
    assert "focus" not in made.kept


def test_the_usual_cure_is_a_tap_lead_on_the_driver_beside_the_lens_lead():
    """Common practice, no source."""
    _, made = example("tap-and-lens-lead")
    assert {feed.device: feed.from_device for feed in made.feeds}["driver"] == "battery"


def test_a_monitor_with_a_module_is_fed_through_the_module():
    """Common practice, no source."""
    _, made = example("through-monitors")
    assert {feed.device: feed.from_device for feed in made.feeds}["near"] == "sender"


# What excludes what, and what takes what with it


def test_a_panel_mode_resets_the_camera_restarts_it_and_the_maps_are_gone():
    """Common practice, no source: about half a minute, and the motors are mapped again."""
    body = kind("cine-body-large-panel")
    assert body.modes is not None
    assert body.wake is not None
    panel = next(value for value in body.modes.values if value.id == "panel")
    assert {"resets-settings", "restarts", "forgets-mapping"} <= {*panel.upsets}
    assert 20 <= body.wake.boot_s <= 40


def test_record_needs_video_mode_and_iso_stills_mode_on_the_same_port():
    """Common practice, no source."""
    takes = {
        one: accepts.when.mode
        for accepts in kind("mirrorless-usb-c-micro-hdmi").accepts
        if accepts.over
        for one in accepts.functions
    }
    assert (takes["record"], takes["iso"]) == (["video"], ["stills"])


def test_a_network_remote_serves_one_client():
    """Common practice, no source."""
    (role,) = kind("cine-body-network").endpoints["lan"].roles
    assert role.serves == 1


def test_a_transmitter_has_a_limit_of_peers():
    """Common practice, no source."""
    _, made = example("two-receivers")
    assert len(made.kept) == kind("video-transmitter-hdmi").radios[0].peers == 2


def test_a_driver_has_one_camera_port():
    """Common practice, no source: control and lens data at once take two drivers."""
    assert len([port for port in kind("driver-newer").ports if port.connector == "driver-7"]) == 1


def test_a_motor_comes_without_an_axis():
    """Common practice, no source: none is no focus."""
    assert kind("lens-motor").setting("axis").factory == "none"


# Orders


def test_the_order_of_the_job():
    """Common practice, no source."""
    assert JOB_STAGES == (
        "gather", "build", "inner-cables", "balance", "outer-cables", "menus", "wake", "pair", "lens", "prove",
    )  # fmt: skip


def test_the_choice_of_the_camera_family_takes_when_the_gimbal_starts_anew():
    """Common practice, no source."""
    assert kind("gimbal-single-grip-two-usb-c").setting("camera-family").takes_effect == "at-boot"


def test_a_driver_is_told_its_protocol_before_it_is_plugged():
    """Common practice, no source."""
    assert kind("driver-newer").setting("protocol").before_lead


def test_a_lens_port_is_looked_for_when_the_camera_wakes():
    """Common practice, no source: cable attached first, or the port is ignored until a restart."""
    roles = kind("cine-body-large-panel").endpoints["lens-port"].roles
    assert any(role.notices_at_boot for role in roles)


def test_the_host_wakes_first_then_the_link_then_the_camera():
    """Common practice, no source."""
    steps = titles("relayed-control")
    assert place(steps, "Wake", "Grip") < place(steps, "Wake", "Link") < place(steps, "Wake", "Body")


def test_the_lens_goes_on_after_the_body():
    """Common practice, no source: nothing expensive hangs while you fumble."""
    steps = titles("relayed-control")
    assert place(steps, "Body") < place(steps, "Lens")


def test_control_cables_go_in_with_the_camera_off():
    """Common practice, no source."""
    steps = titles("relayed-control")
    assert max(number for number, title in enumerate(steps) if title.startswith("Plug")) < place(steps, "Wake", "Body")


def test_a_test_recording_is_stopped_again():
    """Common practice, no source: never leave a test rolling."""
    assert vocabulary().functions["record"].rolls
    assert vocabulary().functions["record"].act.endswith("press again")
