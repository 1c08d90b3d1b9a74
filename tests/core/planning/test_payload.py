"""What a gimbal carries: answers that a technician gives, written before they were planned. Common practice, no source."""

import pytest

from isotact.catalogue import shipped
from isotact.core.model import resolve
from isotact.core.model.behaviour import Mount
from isotact.core.runsheet import run_sheet
from tests.core.planning.test_feeds import FOCUS, LEADS, LENS, ROLL, because, planned, rig

MOVE = {
    "kind": "control", "id": "move", "who": "Second operator", "function": "gimbal-move", "weight": 4,
    "at": {"device": "remote", "surface": "stick"},
}  # fmt: skip
RING = {"gimbal": "gimbal-two-handed-ring", "remote": "gimbal-remote", "battery": "plate-battery"}


def test_what_it_can_carry_is_flown():
    """A body of 3.6 kg and its battery of 0.72 kg, in a gimbal for 2.5 to 12 kg."""
    made = planned(rig({**RING, "body": "cine-body-large-panel", "lens": "lens-cine-pl"}, [], [MOVE]))
    assert (made.kept, made.warnings) == (("move",), ())


def test_what_it_cannot_carry_is_not_flown_without():
    """A body of 3.6 kg in a gimbal for 3 kg: no gimbal move either, though the gimbal alone could make it."""
    grip = {"grip": "gimbal-single-grip-two-usb-c", "body": "cine-body-large-panel", "battery": "plate-battery"}
    own = {**MOVE, "at": {"device": "grip", "surface": "stick"}}
    made = planned(rig(grip, [], [own]))
    assert made.kept == ()
    says = "grip carries 3 kg at most; in its cage sit 4.3 kg: body 3.6 kg, battery 0.72 kg."
    assert says in because(made, "move")


@pytest.mark.parametrize(
    ("body", "outs"),
    [
        ("cine-body-large-panel", ("Bring a gimbal that carries 4.4 kg.",)),
        (
            "cine-body-network",
            (
                "Bring a lighter feed, or one that sits outside the cage, for body.",
                "Bring a gimbal that carries 3.7 kg.",
            ),
        ),
    ],
)
def test_the_way_out_is_a_gimbal_that_carries_it_or_less_in_the_cage(body: str, outs: tuple[str, ...]):
    """With a battery of 0.72 kg: the one body weighs 3.6 kg by itself, the other 2.9 kg, in a gimbal for 3 kg."""
    grip = {"grip": "gimbal-single-grip-two-usb-c", "body": body, "battery": "plate-battery"}
    own = {**MOVE, "at": {"device": "grip", "surface": "stick"}}
    made = planned(rig(grip, [], [own]))
    assert made.unmet[0].ways_out == outs


@pytest.mark.parametrize(
    ("body", "out"),
    [
        ("cine-body-network", "Bring a lighter feed, or one that sits outside the cage, for body."),
        ("cine-body-lens-radio", "Bring a battery, or another feed, for body."),
    ],
)
def test_a_battery_that_is_to_be_brought_weighs_something(body: str, out: str):
    """No battery is here. 2.9 kg and the smallest battery are too much for 3 kg; the other body is lighter."""
    own = {**MOVE, "at": {"device": "grip", "surface": "stick"}}
    made = planned(rig({"grip": "gimbal-single-grip-two-usb-c", "body": body}, [], [own]))
    assert made.unmet[0].ways_out[:1] == (out,)


def test_a_heavy_part_is_left_off_where_the_rest_can_be_flown():
    """A monitor of several kilograms in the cage: the picture on it goes, the less important, and the gimbal flies."""
    grip = {
        "grip": "gimbal-single-grip-two-usb-c",
        "body": "mirrorless-usb-c-full-hdmi",
        "monitor": "large-monitor-hdmi",
    }
    see = {
        "kind": "picture", "id": "see", "who": "Operator", "weight": 2,
        "at": {"device": "monitor", "surface": "screen"},
    }  # fmt: skip
    bag = ["usb-c-usb-c-data-30", "hdmi-a-hdmi-a-50"]
    made = planned(rig(grip, bag, [ROLL, see], monitor={"stage": "tilt-cage"}))
    assert made.kept == ("roll",)
    assert "grip carries 3 kg at most" in because(made, "see")


@pytest.mark.parametrize(("body", "light"), [("mirrorless-usb-c-full-hdmi", True), ("cine-body-large-panel", False)])
def test_too_light_is_flown_with_weight_added(body: str, light: bool):
    made = planned(rig({**RING, "body": body}, [], [MOVE]))
    assert made.kept == ("move",)
    assert any("wants a payload of 2.5 kg at least" in words for words in made.warnings) is light


@pytest.mark.parametrize(("rod", "warns"), [("15 mm", False), ("19 mm", True), (None, False)])
def test_a_motor_is_hung_on_rods_of_its_size(rod: str | None, warns: bool):
    """Common practice, no source."""
    asked = rig(LENS, [*LEADS, "tap-power-2-50"], [FOCUS])
    profiles = {placed.profile.id: placed.profile for placed in asked.devices.values()}
    clamp, rods = Mount(kind="clamp", size="15 mm"), [Mount(kind="rod", size=rod)] if rod else []
    for key, mounts in (("lens-motor", [clamp]), ("cine-body-large-panel", rods)):
        profiles[key] = profiles[key].model_copy(update={"mounts": mounts})
    made = planned(again := resolve(asked.rig, profiles, shipped().cables))
    said = [one for one in made.warnings if "clamps on" in one]
    wanted = "motor clamps on 15 mm rods, and body has 19 mm rods: bring bushings, or rods of that size."
    assert said == ([wanted] if warns else [])
    assert any(step.title == "Clamp motor on the 15 mm rods" for step in run_sheet(again, made).steps)
