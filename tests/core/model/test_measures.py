"""Signed lengths, where something sits, and curves: read with their units, refused at their place."""

from typing import Any

import pytest
from pydantic import TypeAdapter, ValidationError

from isotact.catalogue import read_document
from isotact.core.model import Profile, RefusedError
from isotact.core.model.measures import Curve, Position
from isotact.core.model.units import SignedMillimetres

LENS = """
format: isotact/profile
version: 1
id: long-lens
name: Long lens
kind: lens
summary: Made for a test.
mass_g: 2 kg
stage: tilt-cage
centre: {forward_mm: 12 cm, up_mm: -0.5 in}
power:
  draw_w: 1 W
  inner_battery:
    name: pack
    energy_wh: 20 Wh
    discharge: {points: [[0, 16.8], [0.5, 14.8], [1, 12]]}
"""


@pytest.mark.parametrize(("written", "mm"), [("-35 mm", -35), ("-3.5 cm", -35), ("+2 mm", 2), (-4, -4), ("1 in", 25.4)])
def test_a_length_may_go_either_way(written: object, mm: float):
    assert TypeAdapter(SignedMillimetres).validate_python(written) == pytest.approx(mm)


@pytest.mark.parametrize("written", ["-35 g", "-200 m", "behind", float("nan")])
def test_what_is_no_such_length_is_refused(written: object):
    with pytest.raises(ValidationError):
        TypeAdapter(SignedMillimetres).validate_python(written)


def test_a_profile_says_where_its_weight_sits_and_how_its_battery_empties():
    lens = read_document(LENS, Profile)
    assert lens.centre is not None
    assert (lens.centre.forward_mm, lens.centre.right_mm) == (120, 0)
    assert lens.centre.up_mm == pytest.approx(-12.7)
    assert lens.power is not None
    assert lens.power.inner_battery is not None
    assert lens.power.inner_battery.discharge == Curve(points=[(0, 16.8), (0.5, 14.8), (1, 12)])
    assert Position() == Position(forward_mm=0, right_mm=0, up_mm=0)


def test_between_its_points_a_curve_is_straight_and_beyond_them_level():
    curve = Curve(points=[(0, 16.8), (0.5, 14.8), (1, 12)])
    assert [curve.at(x) for x in (-1, 0, 0.25, 0.5, 0.75, 1, 2)] == pytest.approx(
        [16.8, 16.8, 15.8, 14.8, 13.4, 12, 12]
    )


@pytest.mark.parametrize(
    ("points", "place"), [([[0, 16.8], [0.5, 14], [0.5, 12]], 2), ([[0, 16.8], [-0.1, 14], [1, 12]], 1)]
)
def test_a_curve_that_turns_back_is_refused_at_its_point(points: list[Any], place: int):
    with pytest.raises(RefusedError) as caught:
        read_document(LENS.replace("[[0, 16.8], [0.5, 14.8], [1, 12]]", str(points)), Profile)
    (problem,) = caught.value.problems
    assert problem.path == f"power.inner_battery.discharge.points[{place}]"
    assert "each point lies further on than the one before it" in problem.message
    assert problem.line == LENS.split("\n").index(next(row for row in LENS.split("\n") if "discharge" in row)) + 1
