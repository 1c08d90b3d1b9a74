"""How far a screen stands, and who is tied to it: answers that a technician gives, written before they were planned.

Common practice, no source.
"""

from typing import Any

import pytest

from isotact.core.model import Plan, ResolvedRig
from tests.core.planning.test_feeds import because, planned, rig

VILLAGE = {
    "kind": "picture", "id": "village", "who": "Director", "weight": 4,
    "at": {"device": "village", "surface": "screen"},
}  # fmt: skip
ROLL = {
    "kind": "control", "id": "roll", "who": "Operator", "function": "record", "weight": 5,
    "at": {"device": "grip", "surface": "record-button"},
}  # fmt: skip
FLOWN = {"body": "mirrorless-usb-c-full-hdmi", "grip": "gimbal-single-grip-two-usb-c", "village": "large-monitor-hdmi"}
RADIO = {"tx": "video-transmitter-hdmi", "rx": "video-receiver-hdmi", "battery": "plate-battery"}
LEADS = ["usb-c-usb-c-data-30", "hdmi-a-hdmi-a-200", "hdmi-a-hdmi-a-50", "hdmi-a-hdmi-a-50", "tap-power-2-50"]


def away(asked: ResolvedRig, screens_m: float) -> ResolvedRig:
    """The same rig with its screens so far from the gimbal."""
    shot = asked.rig.shot.model_copy(update={"screens_m": screens_m})
    return type(asked)(asked.rig.model_copy(update={"shot": shot}), asked.cables, asked.devices)


def to_village(made: Plan) -> set[str]:
    """What brings the picture: cables by type, radios as such."""
    return {join.link.cable or join.link.kind for join in made.joins if "village" in join.promises}


def test_a_screen_twenty_metres_away_gets_its_picture_by_radio():
    made = planned(away(rig(FLOWN | RADIO, LEADS, [VILLAGE, ROLL]), 20))
    assert to_village(made) == {"hdmi-a-hdmi-a-50", "radio"}


def test_two_metres_of_cable_do_not_reach_a_screen_that_stands_further_off():
    made = planned(away(rig(FLOWN, LEADS, [VILLAGE, ROLL]), 4.5))
    assert made.kept == ("roll",)
    assert "“HDMI to HDMI, 2 m” is too short for village, 4.5 m from the gimbal." in because(made, "village")
    assert made.unmet[0].ways_out == ("Get one of: HDMI to HDMI, 5 m.",)


def test_where_no_cable_is_so_long_the_way_out_is_a_radio_link():
    made = planned(away(rig(FLOWN, LEADS, [VILLAGE, ROLL]), 30))
    assert "No cable reaches: the longest is " in because(made, "village")
    assert "too short for village, 30 m from the gimbal" in because(made, "village")
    assert made.unmet[0].ways_out == ("Bring a transmitter and a receiver, or stand it nearer.",)


def test_a_screen_may_have_a_distance_of_its_own():
    made = planned(away(rig(FLOWN, LEADS, [VILLAGE, ROLL], village={"distance_m": 1.8}), 20))
    assert to_village(made) == {"hdmi-a-hdmi-a-200"}


def test_a_receiver_stands_where_its_screen_stands():
    made = planned(rig(FLOWN | RADIO, LEADS, [VILLAGE], village={"distance_m": 40}, rx={"distance_m": 40}))
    assert to_village(made) == {"hdmi-a-hdmi-a-50", "radio"}
    apart = rig(FLOWN | RADIO, LEADS, [VILLAGE], village={"distance_m": 40}, rx={"distance_m": 30})
    assert planned(apart).kept == ()


@pytest.mark.parametrize(("screens_m", "reaches"), [(140, True), (160, False), (400, False)])
def test_a_link_does_not_reach_further_than_is_claimed_for_it(screens_m: float, reaches: bool):
    """150 m are claimed for the transmitter in the open: its profile's figure. Over nothing is it more."""
    made = planned(away(rig(FLOWN | RADIO, LEADS, [VILLAGE, ROLL]), screens_m))
    assert ("village" in made.kept) is reaches
    if not reaches:
        says = because(made, "village")
        assert "rx, picture link and tx, picture link do not reach each other: 150 m is claimed" in says
        assert says.endswith(f"too little for rx, {screens_m:g} m from the gimbal.")
        assert made.unmet[0].ways_out == ("Bring a link that reaches further, or stand it nearer.",)


def test_nor_does_a_phone_and_of_two_links_the_one_that_reaches_is_taken():
    phone = {
        "kind": "picture", "id": "phone", "who": "Gaffer", "weight": 3,
        "at": {"device": "phone", "surface": "touch-screen"},
    }  # fmt: skip
    devices = {"body": "mirrorless-usb-c-mini-hdmi", "near": "phone-link-picture", "phone": "phone"}
    far, lead = {"phone": {"distance_m": 150}}, ["hdmi-c-hdmi-a-30", "hdmi-c-hdmi-c-30"]
    alone = planned(rig(devices, lead, [phone], **far))
    assert "120 m is claimed for the two in the open" in because(alone, "phone")
    both = planned(rig({**devices, "further": "phone-link-transmitter"}, lead, [phone], **far))
    assert both.kept == ("phone",)
    assert {end.device for join in both.joins if join.link.is_radio for end in join.link.ends} == {"further", "phone"}


def test_where_nearer_would_not_be_enough_that_is_said():
    """Nothing feeds the transmitter either."""
    unfed = {key: one for key, one in RADIO.items() if key != "battery"}
    made = planned(away(rig(FLOWN | unfed, ["hdmi-a-hdmi-a-50", "hdmi-a-hdmi-a-50"], [VILLAGE]), 400))
    assert made.unmet[0].ways_out == ("Nearer is not enough: ask what it takes.",)


def test_a_gimbal_is_not_tied_to_a_stand_where_a_transmitter_lies_in_the_rig():
    made = planned(rig(FLOWN | RADIO, LEADS, [VILLAGE, ROLL]))
    assert to_village(made) == {"hdmi-a-hdmi-a-50", "radio"}
    assert not [warning for warning in made.warnings if "ties the gimbal" in warning]


def test_where_only_the_leash_is_there_the_plan_says_so():
    made = planned(rig(FLOWN, LEADS, [VILLAGE, ROLL]))
    assert made.kept == ("village", "roll")
    tied = [warning for warning in made.warnings if "ties the gimbal to village by 2 m of cable" in warning]
    assert len(tied) == 1


def test_the_leash_is_not_taken_to_save_a_promise_of_hours():
    """A bank on the ground would last longer than the bank in the cage: nobody walks tied to a bank."""
    long = {"kind": "power", "id": "hours", "who": "All", "hours_h": 1, "weight": 2}
    made = planned(rig(FLOWN | RADIO, LEADS, [VILLAGE, ROLL, long]))
    assert not [join for join in made.joins if "off" in join.link.axes and join.link.is_cable]


@pytest.mark.parametrize("more", [{}, RADIO])
def test_on_a_tripod_a_cable_is_no_leash(more: dict[str, Any]):
    still = {"body": "mirrorless-usb-c-full-hdmi", "village": "large-monitor-hdmi"}
    made = planned(rig(still | more, LEADS, [VILLAGE]))
    assert to_village(made) == {"hdmi-a-hdmi-a-200"}
    assert not made.warnings
