"""Moments add up, and the plate slides to where they cancel."""

import pytest

from isotact.core.calc.moments import residual_torque_nm, slide_mm

PAYLOAD = [(1000, 20), (420, -35), (610, 8)]


def test_sliding_by_the_answer_leaves_no_torque():
    move = slide_mm(PAYLOAD, 1000)
    moved = [(1000, 20 + move), *PAYLOAD[1:]]
    assert residual_torque_nm(moved) == pytest.approx(0, abs=1e-9)


def test_a_side_that_is_heavier_pulls_its_way():
    assert residual_torque_nm([(165, 80)]) > 0 > residual_torque_nm([(165, -80)])
