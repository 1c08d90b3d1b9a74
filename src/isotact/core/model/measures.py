"""Where something sits on a device, and what changes along with something else."""

from itertools import pairwise
from typing import Annotated, Self

from pydantic import Field, model_validator

from isotact.core.calc.curves import along
from isotact.core.model.base import Struct, flawed
from isotact.core.model.units import SignedMillimetres

Number = Annotated[float, Field(ge=-1e9, le=1e9, strict=True)]


class Position(Struct):
    """Where something sits, from the middle of what its device is mounted by, seen from behind the device.

    Behind, to the left and below are less than nothing.
    """

    forward_mm: SignedMillimetres = 0.0
    right_mm: SignedMillimetres = 0.0
    up_mm: SignedMillimetres = 0.0


class Curve(Struct):
    """A figure that changes along with another: `points` of (x, y), straight between them, level beyond the ends.

    Invariant: x rises from point to point.
    """

    points: list[tuple[Number, Number]] = Field(min_length=2)

    @model_validator(mode="after")
    def _rises(self) -> Self:
        for number, ((before, _), (x, _)) in enumerate(pairwise(self.points), start=1):
            if x <= before:
                says = (
                    f"found {x:g} after {before:g}; expected more: each point lies further on than the one before it."
                )
                raise flawed([(("points", number), says)])
        return self

    def at(self, x: float) -> float:
        """The figure at `x`."""
        return along(self.points, x)
