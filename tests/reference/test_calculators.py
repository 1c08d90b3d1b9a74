"""The calculators against values from outside the project."""

import pytest

from isotact.core.calc.moments import residual_torque_nm
from isotact.core.calc.optics import depth_of_field
from isotact.core.calc.radio_paths import free_space_loss_db


@pytest.mark.parametrize(
    ("distance_m", "frequency_hz", "loss_db"), [(100, 5.8e9, 87.7163), (1000, 2.4e9, 100.0520)]
)  # fmt: skip
def test_free_space_loss(distance_m: float, frequency_hz: float, loss_db: float):
    """Source: ITU-R P.525; values of the package spacelink 0.1.12."""
    assert free_space_loss_db(distance_m, frequency_hz) == pytest.approx(loss_db, abs=5e-4)


def test_depth_of_field_of_a_fifty():
    """Source: the thin lens equation solved with sympy: f 50 mm, f/2.8, 3 m, circle 0.025 mm."""
    depth = depth_of_field(50, 2.8, 3000, 0.025)
    assert depth.near_mm == pytest.approx(2771.107, abs=0.001)
    assert depth.far_mm == pytest.approx(3270.111, abs=0.001)
    assert depth.hyperfocal_mm == pytest.approx(35764.286, abs=0.001)


def test_a_kilogram_at_a_metre_is_a_kilopond_metre():
    """Source: the definition of the kilopond, 9.80665 N (CGPM 1901, standard gravity)."""
    assert residual_torque_nm([(1000, 1000)]) == pytest.approx(9.80665)
