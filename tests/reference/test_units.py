"""Written quantities against exact definitions.

Source: the international yard and pound agreement of 1959 (1 in = 25.4 mm, 1 lb = 453.59237 g) and the SI
brochure (1 W = 1 J/s, so 1 Wh = 3600 J); values as given by GNU units 2.22.
"""

import pytest
from pydantic import TypeAdapter

from isotact.core.model.units import Degrees, Grams, Metres, Millimetres, Milliseconds, NewtonMetres, WattHours


@pytest.mark.parametrize(
    ("kind", "written", "value"),
    [
        (Millimetres, "1 inch", 25.4),
        (Millimetres, "6 ft", 1828.8),
        (Grams, "1 lb", 453.59237),
        (Grams, "16 oz", 453.59237),
        (WattHours, "3600 J", 1.0),
        (WattHours, "97.68 Wh", 97.68),
        (Milliseconds, "1 min", 60_000),
        (Metres, "1 mile", 1609.344),
        (Degrees, "0.5 turn", 180.0),
        (NewtonMetres, "100 cN*m", 1.0),
    ],
)
def test_a_quantity_comes_to_its_defined_value(kind, written: str, value: float):
    assert TypeAdapter(kind).validate_python(written) == pytest.approx(value, rel=1e-12)
