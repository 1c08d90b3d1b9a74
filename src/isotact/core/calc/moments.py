"""The arithmetic of balance: what hangs off an axis, and how far the plate has to slide."""

from collections.abc import Iterable

GRAVITY_M_S2 = 9.80665
"""Standard gravity (CGPM 1901)."""


def residual_torque_nm(weights: Iterable[tuple[float, float]]) -> float:
    """The torque about an axis of `(mass_g, offset_mm)` pairs, in newton metres: g times the sum of m x."""
    return GRAVITY_M_S2 * sum(mass_g * offset_mm for mass_g, offset_mm in weights) / 1e6


def slide_mm(weights: Iterable[tuple[float, float]], sliding_g: float) -> float:
    """How far a plate with `sliding_g` on it has to slide so that the moments add up to nought."""
    return -sum(mass_g * offset_mm for mass_g, offset_mm in weights) / sliding_g
