"""What a lead of copper loses: ohms by gauge and length."""

from math import pi

OHM_METRE = 1.7241e-8
"""Annealed copper at 20 °C: 1/58 ohm mm² / m (International Annealed Copper Standard, IEC 60028)."""
PER_KELVIN = 0.00393
"""By so much of its resistance at 20 °C copper gains for each kelvin (IEC 60028)."""
WARM_C = 20.0
"""What the figures of gauges are given at."""


def gauge_mm(awg: int) -> float:
    """The diameter in mm of a solid wire of American wire gauge `awg`: ASTM B258, 0.127 mm times 92^((36 - n) / 39)."""
    return 0.127 * float(92 ** ((36 - awg) / 39))


def ohm_per_m(awg: int, celsius: float = WARM_C) -> float:
    """Ohms of a metre of one wire of `awg`, one way."""
    square_m = pi / 4 * (gauge_mm(awg) / 1000) ** 2
    return OHM_METRE * (1 + PER_KELVIN * (celsius - WARM_C)) / square_m


def lead_ohm(awg: int, length_mm: float, contacts_ohm: float = 0.0, celsius: float = WARM_C) -> float:
    """Ohms of a lead there and back, with its contacts."""
    return 2 * length_mm / 1000 * ohm_per_m(awg, celsius) + contacts_ohm
