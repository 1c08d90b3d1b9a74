"""How far the ends of a lead come from one another: closed cases by hand, the rest by trying every angle."""

from itertools import product
from math import hypot, pi, sqrt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from isotact.core.calc.leads import along_mm, farthest_mm, least_lead_mm, loop_mm, pull_nm, turned

FREE = None


@pytest.mark.parametrize(
    ("axis", "at", "then"),
    [
        ("tilt", (0, 100, 0), (0, 0, 100)),  # the front goes up
        ("roll", (0, 0, 100), (100, 0, 0)),  # the top goes to the right
        ("pan", (100, 0, 0), (0, 100, 0)),  # the right goes to the front: about up, against the clock from above
    ],
)
def test_a_quarter_turn(axis: str, at: tuple[float, float, float], then: tuple[float, float, float]):
    assert turned(at, axis, 90) == pytest.approx(then)


def test_about_one_axis_they_are_farthest_where_they_are_opposite():
    # 80 mm behind tilt and 90 mm behind it: half a turn apart they are 170 mm, and 40 mm along the axis.
    assert farthest_mm((20, -80, 0), (60, -90, 0), [("tilt", (-180, 180))]) == pytest.approx(hypot(170, 40))
    assert farthest_mm((20, -80, 0), (60, -90, 0), [("tilt", FREE)]) == pytest.approx(hypot(170, 40))


def test_a_stop_keeps_them_nearer():
    # A quarter turn each way at the most: the corner of a square of 100.
    assert farthest_mm((0, 100, 0), (0, 100, 0), [("tilt", (-90, 90))]) == pytest.approx(100 * sqrt(2))
    # The same the other way round only as far as 30 degrees: a side of a dodecagon.
    assert farthest_mm((0, 100, 0), (0, 100, 0), [("tilt", (-30, 10))]) == pytest.approx(200 * 0.258819, abs=1e-3)


def test_what_sits_on_the_axis_does_not_move():
    assert farthest_mm((50, 0, 0), (-30, 40, 0), [("tilt", (-120, 120))]) == pytest.approx(hypot(80, 40))


def test_with_no_axis_between_it_is_the_distance():
    assert farthest_mm((0, 0, 0), (30, 40, 0), []) == 50


def test_three_axes_bring_them_as_far_as_both_are_from_the_crossing():
    turns = [("tilt", (-180.0, 180.0)), ("roll", (-180.0, 180.0)), ("pan", FREE)]
    assert farthest_mm((0, 100, 0), (0, 0, -250), turns) == pytest.approx(350)


places = st.tuples(*[st.integers(-300, 300).map(float)] * 3)
ranges = st.tuples(st.integers(-170, -10), st.integers(10, 170)).map(lambda one: (float(one[0]), float(one[1])))


@given(inner=places, outer=places, tilt=ranges, roll=ranges)
def test_no_angle_brings_them_farther_than_is_said(inner, outer, tilt, roll):
    said = farthest_mm(inner, outer, [("tilt", tilt), ("roll", roll)])
    tried = 0.0
    for one, other in product(range(13), range(25)):
        at = turned(inner, "tilt", tilt[0] + (tilt[1] - tilt[0]) * one / 12)
        at = turned(at, "roll", roll[0] + (roll[1] - roll[0]) * other / 24)
        tried = max(tried, hypot(*(a - b for a, b in zip(at, outer, strict=True))))
    # Tilt is looked at every fifteen degrees: between two of them it is a fraction of a per cent more.
    assert tried <= said * 1.01 + 1
    assert said <= hypot(*inner) + hypot(*outer) + 1e-6
    assert said >= hypot(*(a - b for a, b in zip(inner, outer, strict=True))) * 0.8


@given(inner=places, outer=places, turn=ranges)
def test_more_turn_never_needs_less(inner, outer, turn):
    less = farthest_mm(inner, outer, [("tilt", turn)])
    more = farthest_mm(inner, outer, [("tilt", (turn[0] - 5, turn[1] + 5))])
    assert more >= less - 1e-6
    assert farthest_mm(inner, outer, [("tilt", FREE)]) >= more - 1e-6


def test_a_lead_has_a_tenth_more_and_its_bends():
    # By hand: 100 mm apart at the most, 110 with what does not lie straight, twice 35 of plug and bend.
    assert least_lead_mm((0, 0, 0), (100, 0, 0), []) == pytest.approx(180)
    assert least_lead_mm((0, 0, 0), (100, 0, 0), [], bends_mm=40) == pytest.approx(150)


def test_the_loop_at_an_axis_is_an_arc_and_there_is_none_without_a_stop():
    assert loop_mm((-90, 45), tied_mm=40) == pytest.approx(40 * pi / 2)
    assert loop_mm((-30, 120), tied_mm=40) == pytest.approx(40 * pi * 2 / 3)
    assert loop_mm(None) is None


def test_the_way_from_place_to_place():
    assert along_mm([(0, 0, 0), (30, 40, 0), (30, 40, 100)]) == 150
    assert along_mm([(0, 0, 0)]) == 0


def test_a_thicker_lead_may_pull_more():
    assert pull_nm(30, 500) == pytest.approx(0.024)
    assert pull_nm(60, 500) == 2 * pull_nm(30, 500)
    assert pull_nm(30, 0) == 0
