"""How far a screen stands, and who is tied to it: answers that a technician gives, written before they were planned.

Common practice, no source.
"""

from typing import Any

import pytest

from isotact.core.model import Plan, ResolvedRig
from isotact.core.model.plan import LinkEnd
from isotact.core.planning import plan
from isotact.core.trades.balance.leads import least_mm
from tests.core.planning.test_feeds import because, planned, rig
from tests.rigs import RECORD, cable, camera, control, grip, port, power, profile, rig_of

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
    made = planned(away(rig(FLOWN, LEADS, [VILLAGE, ROLL]), 3.5))
    assert made.kept == ("roll",)
    says = "“HDMI to HDMI, 2 m” is too short for village, 3.5 m from the gimbal: 4.5 m are needed, and it is 2 m long."
    assert says in because(made, "village")
    assert made.unmet[0].ways_out == ("Get one of: HDMI to HDMI, 5 m.",)


def test_where_no_cable_is_so_long_the_way_out_is_a_radio_link():
    made = planned(away(rig(FLOWN, LEADS, [VILLAGE, ROLL]), 30))
    assert "No cable reaches: the longest is " in because(made, "village")
    assert "too short for village, 30 m from the gimbal" in because(made, "village")
    assert made.unmet[0].ways_out == ("Bring a transmitter and a receiver, or stand it nearer.",)


def test_a_screen_may_have_a_distance_of_its_own():
    made = planned(away(rig(FLOWN, LEADS, [VILLAGE, ROLL], village={"distance_m": 1}), 20))
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
    assert not any("ties the gimbal" in one for one in made.warnings)


# On the gimbal: a service loop for each axis

GIMBAL = {"axes": ["tilt", "roll", "pan"], "min_payload_g": 0, "max_payload_g": 9000}
DATA = {"medium": "usb-data"}


def held(stage: str, lead_mm: float, **carrier: Any) -> ResolvedRig:
    """A button at a stage of a gimbal, a body in its cage, and one lead between the two."""
    lead = cable("lead", "usb-c", "usb-c", DATA, length_mm=lead_mm)
    return rig_of([camera(), grip(stage=stage, carrier={**GIMBAL, **carrier})], [(lead, 1)], [RECORD])


@pytest.mark.parametrize(
    ("stage", "least_m"),
    [("tilt-cage", 0.1), ("roll-arm", 0.3), ("pan-base", 0.5), ("handles", 0.7), ("off-gimbal", 1)],
)
def test_a_lead_has_a_service_loop_for_each_axis(stage: str, least_m: float):
    assert plan(held(stage, 1000 * least_m)).kept == ("record",)
    assert plan(held(stage, 1000 * least_m - 10)).kept == (("record",) if stage == "tilt-cage" else ())


def test_too_short_is_said_with_both_numbers():
    says = because(plan(held("handles", 300)), "record")
    assert "the longest is lead, too short to cross tilt, roll and pan: 0.7 m are needed, and it is 0.3 m long." in says


def test_a_gimbal_says_itself_what_its_axes_want():
    """A small one, whose port stands close to the axis; and a large one."""
    assert plan(held("handles", 300, loops_mm={"tilt": 100, "roll": 100, "pan": 100})).kept == ("record",)
    assert plan(held("handles", 900, loops_mm={"pan": 450})).kept == ()


def test_without_a_gimbal_no_axis_is_crossed():
    lead = cable("lead", "usb-c", "usb-c", DATA, length_mm=200)
    assert plan(rig_of([camera(), grip(stage="handles")], [(lead, 1)], [RECORD])).kept == ("record",)


@pytest.mark.parametrize(("adapter_mm", "kept"), [(20, ()), (150, ("record",))])
def test_an_adapter_is_part_of_the_length(adapter_mm: float, kept: tuple[str, ...]):
    body = camera(ports=[port("usb", "usb-micro-b", control("p", "device"))])
    lead = cable("lead", "usb-c", "usb-c", DATA, length_mm=200)
    ends = [{"connector": "usb-micro-b"}, {"connector": "usb-c", "gender": "receptacle"}]
    adapter = cable("adapter", "usb-c", "usb-c", DATA, kind="adapter", ends=ends, length_mm=adapter_mm)
    asked = rig_of([body, grip(stage="roll-arm", carrier=GIMBAL)], [(lead, 1), (adapter, 1)], [RECORD])
    assert plan(asked).kept == kept


@pytest.mark.parametrize(("captive_mm", "kept"), [(600, ()), (700, ("record",))])
def test_so_is_a_lead_that_is_part_of_its_device(captive_mm: float, kept: tuple[str, ...]):
    out = port("out", "usb-c", control("p", "host"), captive_mm=captive_mm)
    asked = rig_of([camera(), grip(stage="handles", ports=[out], carrier=GIMBAL)], [], [RECORD])
    assert plan(asked).kept == kept


def test_a_feed_that_is_too_short_says_so():
    """A body in the cage without a battery, a bank on the handles, and a lead of 0.3 m."""
    body = camera(ports=[port("usb", "usb-c", control("p", "device")), port("dc", "usb-c", power("in"))])
    bare = body.model_copy(update={"power": body.power.model_copy(update={"inner_battery": None})})
    bank = profile(
        "bank",
        stage="handles",
        ports=[port("give", "usb-c", power("out", max_a=2))],
        power={"draw_w": 0, "inner_battery": {"name": "battery", "energy_wh": 40}},
    )
    data = cable("data", "usb-c", "usb-c", DATA, length_mm=1200)
    feed = cable("feed", "usb-c", "usb-c", {"medium": "power", "max_a": 3}, length_mm=300)
    asked = rig_of([bare, grip(stage="handles", carrier=GIMBAL), bank], [(data, 1), (feed, 1)], [RECORD])
    says = because(plan(asked), "record")
    assert "“feed” is too short to cross tilt, roll and pan: 0.7 m are needed, and it is 0.3 m long" in says


# Off the gimbal: the way, and a metre


@pytest.mark.parametrize(
    ("here", "there", "least_m"),
    [(None, None, 0), (None, 12, 13), (12, 12, 0), (12, 40, 29), (0.5, 12, 12.5)],
)
def test_of_two_that_stand_somewhere_what_nobody_said_is_beside_the_gimbal(
    here: float | None, there: float | None, least_m: float
):
    """A receiver of which nothing is said, and a village twelve metres off: two metres do not reach."""
    away_m = {"rx": here, "village": there}
    pieces = {key: {"distance_m": far} for key, far in away_m.items() if far is not None}
    asked = rig({"rx": "video-receiver-hdmi", "village": "large-monitor-hdmi"}, [], [], **pieces)
    ends = (LinkEnd(device="rx", endpoint="hdmi-out"), LinkEnd(device="village", endpoint="hdmi-in"))
    assert least_mm(asked, *ends) == 1000 * least_m
