"""A gimbal at the front of a pole: where the holder at its back has to slide, each case worked out by hand beside it."""

from random import Random
from typing import Any

import pytest
from pydantic import ValidationError

from isotact.cli.balance_report import balance_report
from isotact.core.model.gimbals import Pole
from isotact.core.model.resolved import ResolvedRig
from isotact.core.planning import plan
from isotact.core.questions import balance_marks
from isotact.core.runsheet import run_sheet
from isotact.core.trades import Planned
from isotact.core.trades.balance.marks import balance_of
from isotact.core.trades.balance.pole import GRIP_MM, PoleBalance, pole_of
from isotact.core.trades.balance.pole_words import pole_lines, pole_says
from tests.core.trades.test_balance_marks import BODY, CARRIER
from tests.rigs import DATA, RECORD, camera, carried, grip, profile, rig_of

POLE: dict[str, Any] = {
    "front_mm": 400, "centre_mm": -50, "holder_g": 100, "from_mm": 200, "to_mm": 600, "step_mm": 5, "most_g": 3000,
}  # fmt: skip


def on_a_pole(
    back_g: float = 0, pole: dict[str, Any] | None = None, devices: dict[str, Any] | None = None
) -> tuple[ResolvedRig, PoleBalance | None]:
    """A body of 1,000 g on a gimbal of 1,000 g, at the front of a pole of 900 g with `back_g` at its back."""
    host = grip(carrier=CARRIER, stage="roll-arm", kind="gimbal", mass_g=1000)
    things = [camera(**BODY), host]
    if pole is not None:
        things.append(profile("pole", kind="plate", stage="handles", mass_g=900, pole=pole))
    if back_g:
        things.append(profile("weight", kind="counterweight", stage="handles", mass_g=back_g, ballast=True))
    rig = rig_of(things, [(DATA, 1)], [RECORD], devices=devices or {})
    balance = balance_of(Planned(rig, plan(rig)), "grip")
    assert balance is not None
    return rig, pole_of(balance)


def found(**more: Any) -> PoleBalance:
    _, pole = on_a_pole(pole=POLE, **more)
    assert pole is not None
    return pole


def test_without_a_pole_there_is_nothing_to_balance_on_it():
    assert on_a_pole(back_g=500)[1] is None


def test_the_back_weighs_against_the_front():
    """(2,000 x 400 - 800 x 50) / (100 + 1,500) = 475 mm behind the grip."""
    pole = found(back_g=1500)
    assert (pole.front_g, pole.back_g) == (2000, 1600)
    assert pole.wanted_mm == pytest.approx(475)
    assert pole.mark_mm == 475
    assert not pole.is_beyond
    assert pole.left_nm == pytest.approx(0)
    assert [*pole_lines(pole)] == [
        "Set the back holder to 475 mm behind the grip.",
        "weight taken to be at the back holder: nobody said so.",
    ]


def test_what_is_said_to_be_on_the_pole_itself_stays_there():
    """1,500 g 200 mm in front of the grip: (2,000 x 400 + 1,500 x 200 - 800 x 50) / 100 = far beyond."""
    pole = found(back_g=1500, devices={"weight": {"sits": {"on": "pole", "measured": {"forward_mm": 200}}}})
    assert pole.back_g == 100
    assert pole.wanted_mm == pytest.approx(10600)
    assert pole.mark_mm == 600
    assert pole.is_beyond


def test_too_light_at_the_back_weight_or_another_place_for_the_hands():
    """760,000 - 600 x 100 = 700,000 g mm are left: 1,166.7 g at 600 mm, or held 700,000 / 2,900 = 241 mm forwards."""
    pole = found()
    assert pole.left_g_mm == pytest.approx(700_000)
    assert pole.left_nm == pytest.approx(6.86, abs=0.01)
    assert pole.weight_g == 1170
    assert [*pole_lines(pole)][1:] == [
        "The back holder ends too soon: the front sinks with 6.9 N m.",
        "Put 1170 g on the back holder, at its end.",
        "Hold it 240 mm nearer to the front than the middle of its grip.",
    ]
    # And with that weight there it does.
    assert not found(back_g=1170).is_beyond


def test_more_weight_than_the_holder_carries_is_not_named():
    lines = [*pole_lines(on_a_pole(pole={**POLE, "most_g": 1000})[1] or found())]
    assert not any(line.startswith("Put") for line in lines)


def test_too_heavy_at_the_back_the_back_sinks():
    """4,000 + 100 g at no less than 200 mm: 820,000 against 760,000."""
    pole = found(back_g=4000)
    assert pole.mark_mm == 200
    assert pole.left_g_mm == pytest.approx(-60_000)
    # Held 60,000 / 6,900 = 9 mm further back nobody feels it.
    assert abs(pole.hold_mm) < GRIP_MM
    heavier = found(back_g=6000)
    assert heavier.is_beyond
    assert heavier.weight_g is None
    assert any("the back sinks" in line for line in pole_lines(heavier))
    assert any("nearer to the back" in line for line in pole_lines(heavier))


def test_a_holder_without_weight_has_no_mark_that_would_do():
    rig, pole = on_a_pole(pole={**POLE, "holder_g": 0})
    assert pole is not None
    assert pole.wanted_mm == float("inf")
    row = balance_marks(rig, plan(rig)).gimbals[0].pole
    assert row is not None
    assert (row.wanted_mm, row.mark_mm) == (None, 600)


@pytest.mark.parametrize(
    ("now", "says"),
    [
        (400, "Slide the back holder 75 mm back, from 400 mm to 475 mm."),
        (500, "Slide the back holder 25 mm forward, from 500 mm to 475 mm."),
        (476, "Leave the back holder at 475 mm."),
    ],
)
def test_from_where_it_was_noted_to_stand(now: float, says: str):
    assert pole_says(found(back_g=1500, devices={"pole": {"marks_mm": {"back": now}}})) == says


def test_wherever_there_is_travel_a_hand_feels_nothing():
    """Held by the middle of the grip, within half a step of the holder's weight: tried by turning it."""
    chance, tried = Random(3), 0
    for _ in range(60):
        terms = {**POLE, "front_mm": chance.uniform(200, 600), "centre_mm": chance.uniform(-100, 100)}
        _, pole = on_a_pole(back_g=chance.uniform(500, 3500), pole=terms)
        assert pole is not None
        assert POLE["from_mm"] <= pole.mark_mm <= POLE["to_mm"]
        moment = sum(grams * at for grams, at in [*pole.weights, (pole.back_g, -pole.mark_mm)])
        assert pole.left_g_mm == pytest.approx(moment)
        if POLE["from_mm"] <= pole.wanted_mm <= POLE["to_mm"]:
            tried += 1
            assert abs(moment) <= pole.back_g * POLE["step_mm"] / 2 + 1e-6
    assert tried > 20


def test_it_comes_once_all_is_on_and_the_gimbal_is_balanced():
    rig = carried("pole-with-weight").rig
    steps = {step.id: step for step in run_sheet(rig, plan(rig)).steps}
    order = [*steps]
    assert order.index("balance:grip") < order.index("fix:pole") < order.index("care:pole.back")
    assert order.index("fix:second") < order.index("care:pole.back")
    assert steps["fix:second"].detail[0] == "On the back holder of Pole."
    card = steps["care:pole.back"]
    assert (card.people, card.detail[0]) == (2, "Set the back holder to 610 mm behind the grip.")


def test_the_command_line_says_it():
    rig, _ = on_a_pole(back_g=1500, pole=POLE)
    lines = balance_report(balance_marks(rig, plan(rig)))
    assert any("front against back: Set the back holder to 475 mm behind the grip. Known to" in line for line in lines)


def test_a_scale_that_ends_before_it_begins_is_refused():
    with pytest.raises(ValidationError):
        Pole.model_validate({**POLE, "from_mm": 600})
