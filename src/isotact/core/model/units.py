"""Numbers with units: read once here, kept in one unit inside.

A field's name says its unit (`mass_g`, `draw_w`). A document may give a bare number, taken to be in
that unit, or a written quantity such as "0.6 kg", which is converted.
"""

import re
from collections.abc import Callable
from functools import cache
from typing import Annotated, Any

from pydantic import BeforeValidator, Field, WithJsonSchema

_WRITTEN = re.compile(
    r"^\s*(?P<number>[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d{1,3})?)\s*(?P<unit>(?:[A-Za-zµ°]{1,12}(?:\*[A-Za-z]{1,8})?)?)\s*$"
)
"""A number and a unit. The unit library would work out whole sums, and a sum can be made to take for ever."""
LONGEST = 60
"""So long may a written quantity be."""


@cache
def _registry() -> Any:
    """The unit registry, made on first use: loading it takes longer than most runs need it for."""
    import pint

    return pint.UnitRegistry(cache_folder=None)


def read_quantity(written: object, unit: str) -> object:
    """Return `written` as a number in `unit`; leave what is not text for the field to judge.

    Raises ValueError when the text has no number or a unit of another dimension.
    """
    if isinstance(written, bool):
        raise ValueError(f"found {str(written).lower()}; expected a number, as in {unit}")
    if not isinstance(written, str):
        return written
    found = _WRITTEN.match(written) if len(written) <= LONGEST else None
    try:
        if found is None:
            raise ValueError(written)
        if found["unit"] in ("", unit, unit.replace("*", "")):
            return float(found["number"])  # nothing to convert: the unit library need not be loaded
        return float(_registry().Quantity(written).to(unit).magnitude)
    except Exception as error:
        raise ValueError(f"found '{written}'; expected a number, or a quantity such as '1 {unit}'") from error


def _reader(unit: str) -> Callable[[object], object]:
    def read(written: object) -> object:
        return read_quantity(written, unit)

    return read


def _quantity(unit: str) -> tuple[BeforeValidator, WithJsonSchema]:
    schema = {
        "anyOf": [{"type": "number"}, {"type": "string", "description": f"a quantity in {unit}"}],
    }
    return BeforeValidator(_reader(unit)), WithJsonSchema(schema, mode="validation")


_mm, _mm_schema = _quantity("mm")
_g, _g_schema = _quantity("g")
_v, _v_schema = _quantity("V")
_a, _a_schema = _quantity("A")
_w, _w_schema = _quantity("W")
_wh, _wh_schema = _quantity("W*h")
_ms, _ms_schema = _quantity("ms")
_s, _s_schema = _quantity("s")
_h, _h_schema = _quantity("h")
_m, _m_schema = _quantity("m")
_nm, _nm_schema = _quantity("N*m")
_ohm, _ohm_schema = _quantity("ohm")
_deg, _deg_schema = _quantity("deg")

Millimetres = Annotated[float, Field(ge=0, le=100_000, allow_inf_nan=False), _mm, _mm_schema]
SignedMillimetres = Annotated[float, Field(ge=-100_000, le=100_000, allow_inf_nan=False), _mm, _mm_schema]
"""A distance from where one counts: what lies behind, to the left or below is less than nothing."""
Grams = Annotated[float, Field(ge=0, le=200_000, allow_inf_nan=False), _g, _g_schema]
Volts = Annotated[float, Field(gt=0, le=60, allow_inf_nan=False), _v, _v_schema]
Amps = Annotated[float, Field(gt=0, le=60, allow_inf_nan=False), _a, _a_schema]
Watts = Annotated[float, Field(ge=0, le=2_000, allow_inf_nan=False), _w, _w_schema]
WattHours = Annotated[float, Field(gt=0, le=5_000, allow_inf_nan=False), _wh, _wh_schema]
Milliseconds = Annotated[float, Field(ge=0, le=60_000, allow_inf_nan=False), _ms, _ms_schema]
Seconds = Annotated[float, Field(ge=0, le=3_600, allow_inf_nan=False), _s, _s_schema]
Hours = Annotated[float, Field(gt=0, le=48, allow_inf_nan=False), _h, _h_schema]
Metres = Annotated[float, Field(gt=0, le=100_000, allow_inf_nan=False), _m, _m_schema]
Ohms = Annotated[float, Field(ge=0, le=100, allow_inf_nan=False), _ohm, _ohm_schema]
Celsius = Annotated[float, Field(ge=-40, le=60, allow_inf_nan=False, strict=True)]
"""No unit is read with it: a temperature in another is no multiple of one in this."""
Percent = Annotated[int, Field(ge=1, le=100, strict=True)]
NewtonMetres = Annotated[float, Field(gt=0, le=100, allow_inf_nan=False), _nm, _nm_schema]
SignedDegrees = Annotated[float, Field(ge=-720, le=720, allow_inf_nan=False), _deg, _deg_schema]
Degrees = Annotated[float, Field(gt=0, le=3_600, allow_inf_nan=False), _deg, _deg_schema]
