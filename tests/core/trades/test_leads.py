"""Leads across the axes of a gimbal: how long at the least, how long with loops, which one is taken, what its card says."""

from typing import Any

import pytest

from isotact.core.model.plan import LinkEnd
from isotact.core.model.reach import told_mm
from isotact.core.model.resolved import ResolvedRig, resolve
from isotact.core.model.rig import Rig
from isotact.core.planning import plan
from isotact.core.questions import balance_marks
from isotact.core.runsheet import run_sheet
from isotact.core.trades.balance.leads import least_mm, lengths_mm, tied
from isotact.core.trades.balance.leads_words import led_words
from isotact.core.trades.balance.supposed import end_at, gimbal_of, spots_of
from tests.core.trades.test_balance_marks import BODY, CARRIER, CUBE
from tests.rigs import RECORD, cable, camera, carried, control, grip, port, profile, rig_of, video

TURNS = {"tilt": {"from_deg": -180, "to_deg": 180}, "roll": {"from_deg": -60, "to_deg": 60}}
LED: dict[str, Any] = {
    "turns_deg": TURNS,
    "pivots": {"tilt": {"right_mm": 80}, "roll": {"forward_mm": -90}, "pan": {"up_mm": -120}},
    "outside": {"roll-arm": {"right_mm": 60, "forward_mm": -80}, "handles": {"up_mm": -250}},
    "outlets": {"out": {"right_mm": 60, "forward_mm": -80}},
}
DATA = {"medium": "usb-data"}
ENDS = LinkEnd(device="camera", endpoint="usb"), LinkEnd(device="grip", endpoint="out")


def held(
    *leads_mm: float, stage: str = "roll-arm", devices: dict[str, Any] | None = None, **carrier: Any
) -> ResolvedRig:
    """A body of 1 kg on a grip, its USB in the middle of its left side, with leads of these lengths in the bag."""
    usb = {**port("usb", "usb-c", control("p", "device")), "side": "left", "at": [0.5, 0.5]}
    body = camera(**{**BODY, "ports": [usb, port("hdmi", "hdmi-a", video("out"))]})
    host = grip(
        carrier={**CARRIER, **LED, **carrier},
        stage=stage,
        kind="gimbal",
        ports=[port("out", "usb-c", control("p", "host"))],
    )
    things = [body, host]
    if devices and "cube" in devices:
        things.append(profile("cube", **CUBE))
    bag = [(cable(f"lead-{mm:g}", "usb-c", "usb-c", DATA, length_mm=mm), 1) for mm in leads_mm]
    return rig_of(things, bag, [RECORD], devices=devices or {})


def test_what_is_in_balance_has_its_weight_where_the_axes_cross():
    rig = held(500)
    assert spots_of(rig) == {"camera": pytest.approx((0, 0, 0))}
    # Half of its width of 100 mm to the left.
    assert end_at(rig, ENDS[0]) == pytest.approx((-50, 0, 0))
    assert end_at(rig, ENDS[1]) == (60, -80, 0)
    # 500 g of 1.5 kg behind it, 60 mm from the middle of the body: that goes 20 mm forward.
    behind = held(500, devices={"cube": {"sits": {"on": "camera", "side": "back"}}})
    assert spots_of(behind)["camera"] == pytest.approx((0, 20, 0))
    assert end_at(behind, ENDS[0]) == pytest.approx((-50, 20, 0))


def test_at_the_least_it_reaches_in_every_position():
    # From the tilt axis 0 mm, and 80 mm behind it: tilt changes nothing. 110 across and 80 back are 136 mm.
    assert least_mm(held(500), *ENDS) == 220  # 1.1 x 136 + 70 = 219.6
    behind = held(500, devices={"cube": {"sits": {"on": "camera", "side": "back"}}})
    # 20 mm in front, swung behind and up: 100 apart at the most, 110 along the axis: 148.7.
    assert least_mm(behind, *ENDS) == 240  # 1.1 x 148.7 + 70 = 233.5


@pytest.mark.parametrize(("length_mm", "kept"), [(220, True), (219, False)])
def test_a_centimetre_less_is_no_lead(length_mm: float, kept: bool):
    made = plan(held(length_mm))
    assert (made.kept == ("record",)) is kept
    if not kept:
        assert "0.22 m are needed, and it is 0.219 m long" in made.unmet[0].because


def test_with_loops_it_wants_the_way_beside_the_motor():
    found = tied(held(500), *ENDS)
    assert found is not None
    # 130 mm from the port to the motor of tilt, then 82.5 to the outlet; half a turn at 40 mm is 125.7; bends 70.
    assert found.needs_mm == pytest.approx(130 + (20**2 + 80**2) ** 0.5 + 40 * 3.14159265 + 70)
    assert [axis for axis, _ in found.loops] == ["tilt"]
    assert found.wound == ()


def test_a_pan_without_a_stop_is_said_to_want_no_length():
    found = tied(held(900, stage="handles", outlets={}), *ENDS)
    assert found is not None
    assert (found.wound, [axis for axis, _ in found.loops]) == (("pan",), ["tilt", "roll", "pan"])
    says = [*led_words(held(900, stage="handles", outlets={}), ENDS, ("tilt", "roll", "pan"), 900)]
    assert says[1] == "Pan has no stop, so no length is enough: half a turn either way."


@pytest.mark.parametrize(
    ("length_mm", "says"),
    [
        (250, "It only just reaches, as far as is known, but loops want 41 cm and it has 25 cm: leave it free"),
        (300, "It reaches, but loops want 41 cm and it has 30 cm: leave it free between its ends, and turn each axis"),
        (400, "Tie it beside the tilt motor, 13 cm of loop: nothing to spare, so try full travel first."),
        (600, "Tie it beside the tilt motor, 13 cm of loop: 19 cm to spare."),
    ],
)
def test_the_card_says_where_to_tie_it_and_what_is_to_spare(length_mm: float, says: str):
    [found] = led_words(held(length_mm), ENDS, ("tilt",), length_mm)
    assert found.startswith(f"Crosses the tilt axis. {says}")


def test_where_the_bag_has_one_that_can_be_tied_the_card_of_a_short_one_names_it():
    def card(*leads_mm: float) -> str:
        asked = held(*leads_mm)
        steps = run_sheet(asked, plan(asked)).steps
        return " ".join(next(step for step in steps if step.id == "plug:camera.usb--grip.out").detail)

    assert "lead-450 is long enough to be tied: take it where you can." in card(300, 450, 1000)
    assert "long enough to be tied" not in card(300, 350)
    assert "long enough to be tied" not in card(450)


def test_what_the_crew_says_of_its_loops_is_believed():
    assert least_mm(held(500, loops_mm={"tilt": 350}), *ENDS) == 350


@pytest.mark.parametrize("left_out", ["turns_deg", "plate"])
def test_where_the_profile_says_too_little_it_is_as_is_usual(left_out: str):
    without = {left_out: {} if left_out == "turns_deg" else None}
    if left_out == "plate":
        without["slides"] = []
    rig = held(500, **without)
    assert gimbal_of(rig) is None
    assert least_mm(rig, *ENDS) == told_mm(rig, *ENDS) == 300
    assert tied(rig, *ENDS) is None
    [says] = led_words(rig, ENDS, ("tilt",), 500)
    assert says == "Crosses the tilt axis: leave a loop, tie it, full travel."


def test_spare_pieces_do_not_move_the_rest():
    """A second camera and a second lens stay in their cases; a counterweight goes on only where it is wanted."""
    body = camera(**BODY)
    spare = body.model_copy(update={"id": "spare", "mass_g": 3000})
    weight = profile("weight", mass_g=900, ballast=True)
    host = grip(carrier={**CARRIER, **LED}, stage="roll-arm", kind="gimbal")
    alone = rig_of([body, host], [], [RECORD])
    several = rig_of([body, host, spare, weight], [], [RECORD])
    assert spots_of(several)["camera"] == spots_of(alone)["camera"]


def test_leads_of_a_shelf_are_tried_at_every_length_that_does_more():
    rig = held(250, 300, 450, 1000)
    found = lengths_mm(rig)
    assert {250, 300, 450} <= {*found}
    assert found == sorted(found)


def test_the_answer_has_each_lead_with_its_way_and_what_it_may_pull():
    rig = held(500)
    [lead] = balance_marks(rig, plan(rig)).gimbals[0].leads
    assert [(one.right, one.forward) for one in lead.through] == [(-50, 0), (80, 0), (60, -80)]
    assert [(one.right, one.forward) for one in lead.ties] == [(80, 0)]
    assert (lead.has_mm, lead.least_mm, lead.is_tied) == (500, 220, True)


def test_on_a_light_rig_what_leads_pull_is_said():
    rig = carried("night-ferry-b").rig
    heavy = balance_marks(rig, plan(rig)).gimbals[0]
    # 18 g on 30 cm: 60 g to the metre, 0.024 N m of the tilt motor's 0.06 that may be left.
    assert next(one for one in heavy.axes if one.axis == "tilt").pull_nm == pytest.approx(0.0004 * 18 / 0.3, rel=0.5)
    assert not any("Leads may pull" in one for one in heavy.remarks)
    weak = {"torque_nm": {"tilt": 0.2, "roll": 0.2, "pan": 0.2}}
    carrier = rig["gimbal"].profile.carrier
    assert carrier is not None
    weaker = rig["gimbal"].profile.model_copy(update={"carrier": carrier.model_copy(update=weak)})
    profiles = {placed.profile.id: placed.profile for placed in rig.devices.values()} | {weaker.id: weaker}
    light = resolve(Rig.model_validate(rig.rig.model_dump()), profiles, rig.cables)
    found = balance_marks(light, plan(light)).gimbals[0]
    tilt = next(one for one in found.axes if one.axis == "tilt")
    assert any("Leads may pull" in one for one in found.remarks) is (tilt.left_nm + tilt.pull_nm > tilt.allowed_nm)
