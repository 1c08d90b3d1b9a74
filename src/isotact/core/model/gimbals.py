"""What a gimbal carries, what slides on it, and where on it or on one another things sit."""

from collections import Counter
from collections.abc import Iterator, Mapping
from typing import Literal, Self

from pydantic import Field, model_validator

from isotact.core.model.base import Struct, flawed
from isotact.core.model.measures import Position
from isotact.core.model.places import Fraction, Side
from isotact.core.model.problems import Flaw, Path, nearest
from isotact.core.model.units import Grams, Millimetres, NewtonMetres, SignedDegrees, SignedMillimetres
from isotact.core.model.words import Id, Name

Axis = Literal["tilt", "roll", "pan"]
"""Tilt turns about a line from left to right, roll about one from front to back, pan about one that stands upright."""

Rides = Literal["plate", "tilt-cage", "roll-arm", "pan-base"]
"""With what a thing moves: with the camera's plate, or with all that one axis turns."""

CARRIED: dict[Axis, tuple[Rides, ...]] = {
    "tilt": ("plate", "tilt-cage"),
    "roll": ("plate", "tilt-cage", "roll-arm"),
    "pan": ("plate", "tilt-cage", "roll-arm", "pan-base"),
}
"""What each axis turns."""

Way = Literal["forward", "back", "right", "left", "up", "down"]


class Slide(Struct):
    """Something on a gimbal that is slid to balance an axis, with the scale that is read beside it.

    Invariants: `from_mm` < `to_mm`; `step_mm` > 0; a slide of an axis moves nothing that the axis does not turn.
    """

    id: Id
    name: Name
    axis: Axis
    grows: Way = Field(description="which way what it moves goes while the figures on its scale grow")
    moves: Literal["plate", "tilt-cage", "roll-arm"] = Field(description="what moves with it, and all that sits there")
    from_mm: SignedMillimetres = Field(default=0, description="the least figure on its scale that can be reached")
    to_mm: SignedMillimetres = Field(description="the greatest")
    zero_mm: SignedMillimetres = Field(
        default=0, description="where it stands while plate, parts and axes are where this profile says"
    )
    step_mm: Millimetres = Field(default=1, gt=0, description="the finest that is set by its scale")
    fine: bool = Field(default=False, description="for the last millimetres, after another of the same direction")
    both: Name | None = Field(default=None, description="what is set to the same mark, where there are two of it")

    @property
    def along(self) -> int:
        """The direction as a place in (right, forward, up)."""
        return {"right": 0, "left": 0, "forward": 1, "back": 1, "up": 2, "down": 2}[self.grows]

    @property
    def sign(self) -> int:
        """Whether figures grow to the right, forwards and up, or the other way."""
        return 1 if self.grows in ("right", "forward", "up") else -1


class CarrierPart(Struct):
    """A piece of the gimbal itself that an axis turns: a ring, a motor, a plate."""

    name: Name
    rides: Rides
    mass_g: Grams
    centre: Position = Field(description="from the crossing of the axes, all scales at their zero")


class WeightSpot(Struct):
    """Where a counterweight can be put on a gimbal."""

    name: Name
    rides: Rides
    centre: Position = Field(description="from the crossing of the axes, all scales at their zero")
    most_g: Grams


class Turns(Struct):
    """How far an axis turns from where the camera stands level. Invariant: `from_deg` < `to_deg`."""

    from_deg: SignedDegrees
    to_deg: SignedDegrees

    @model_validator(mode="after")
    def _is_a_way(self) -> Self:
        if self.from_deg >= self.to_deg:
            raise flawed([(("to_deg",), f"found {self.to_deg:g} after {self.from_deg:g}; expected more.")])
        return self


class Carrier(Struct):
    """What a gimbal carries, how its axes are named from the camera outwards, and what is slid to balance each.

    Invariants: a slide, a torque and a loop are of an axis that it has; no two slides of one name; at most one coarse
    and one fine slide of an axis and direction.
    """

    min_payload_g: Grams
    max_payload_g: Grams
    axes: list[Axis] = Field(min_length=1)
    hold_torque_nm: NewtonMetres | None = Field(
        default=None, description="of every motor of which `torque_nm` is silent"
    )
    torque_nm: dict[Axis, NewtonMetres] = Field(default={}, description="what each motor holds")
    loops_mm: dict[Axis, Millimetres] = Field(
        default={}, description="what a lead needs to cross each axis, way and service loop together"
    )
    turns_deg: dict[Axis, Turns] = Field(
        default={}, description="how far each axis turns; where some are given, the others have no stop"
    )
    pivots: dict[Axis, Position] = Field(
        default={}, description="where a lead is led across each axis, beside its motor, from the crossing of the axes"
    )
    outside: dict[Literal["roll-arm", "pan-base", "handles"], Position] = Field(
        default={}, description="where what is fixed to each of these sits, from the crossing of the axes"
    )
    outlets: dict[Id, Position] = Field(
        default={}, description="where its own ports are, from the crossing of the axes; left out: where their stage is"
    )
    plate: Position | None = Field(
        default=None,
        description="where its middle hole is from the crossing of the axes, all scales at their zero",
    )
    holes_mm: list[SignedMillimetres] = Field(
        default=[], description="the plate's holes for a camera, forwards of its middle one; left out: just that one"
    )
    slides: list[Slide] = Field(default=[], description="in the order in which they are set")
    parts: list[CarrierPart] = []
    weights: list[WeightSpot] = Field(default=[], description="where a counterweight can go")

    @model_validator(mode="after")
    def _hangs_together(self) -> Self:
        faults = [*self._faults()]
        if faults:
            raise flawed(faults)
        return self

    def _faults(self) -> Iterator[Flaw]:
        has = ", ".join(self.axes)
        for field in ("torque_nm", "turns_deg", "pivots"):
            for axis in getattr(self, field):
                if axis not in self.axes:
                    yield (field, axis), f"found {axis}; expected an axis that it has: {has}."
        ids = Counter(slide.id for slide in self.slides)
        taken: set[tuple[Axis, int, bool]] = set()
        for number, slide in enumerate(self.slides):
            at: Path = ("slides", number)
            if slide.axis not in self.axes:
                yield (*at, "axis"), f"found {slide.axis}; expected an axis that it has: {has}."
            if ids[slide.id] > 1:
                yield (*at, "id"), f"found '{slide.id}' twice; expected a name of its own for each."
            if slide.from_mm >= slide.to_mm:
                yield (*at, "to_mm"), f"found {slide.to_mm:g} after {slide.from_mm:g}; expected more."
            if slide.moves not in CARRIED[slide.axis]:
                yield (*at, "moves"), f"found {slide.moves}; expected something that {slide.axis} turns."
            if (slide.axis, slide.along, slide.fine) in taken:
                says = (
                    f"found a second one of {slide.axis} that goes {slide.grows}; expected one, and one that is fine."
                )
                yield (*at, "grows"), says
            taken.add((slide.axis, slide.along, slide.fine))
        if self.slides and self.plate is None:
            yield ("plate",), "found none; expected where the plate is, for what slides it."

    def turn_of(self, axis: Axis) -> tuple[float, float] | None:
        """How far an axis turns either way; None where it has no stop."""
        turn = self.turns_deg.get(axis)
        return None if turn is None else (turn.from_deg, turn.to_deg)

    def torque_of(self, axis: Axis) -> float | None:
        """What the motor of an axis holds, in newton metres; None where nobody said."""
        return self.torque_nm.get(axis, self.hold_torque_nm)


POLE_SCALE = "back"
"""By this name it is noted where the holder of a pole stands."""


class Pole(Struct):
    """A pole with a gimbal at its front, held by its grip, and a holder that slides at its back.

    Its scale reads how far the holder is behind the grip. Invariant: `from_mm` < `to_mm`.
    """

    front_mm: Millimetres = Field(description="from the middle of the grip forwards to the pan axis")
    centre_mm: SignedMillimetres = Field(
        default=0, description="where the pole's own weight sits, forwards of the grip"
    )
    holder: Name = Field(default="back holder", description="what slides, as it is called")
    holder_g: Grams = Field(default=0, description="of the pole's weight what slides")
    from_mm: Millimetres
    to_mm: Millimetres
    step_mm: Millimetres = Field(default=5, gt=0)
    most_g: Grams = Field(description="what the holder carries at most")

    @model_validator(mode="after")
    def _is_a_way(self) -> Self:
        if self.from_mm >= self.to_mm:
            raise flawed([(("to_mm",), f"found {self.to_mm:g} after {self.from_mm:g}; expected more.")])
        return self


class Sits(Struct):
    """Where a device of a rig sits: on which other one, on which side of it, and where there.

    `on` left out: on the gimbal's plate. Invariant: measured places come with no side and spot beside them.
    """

    on: Id | None = Field(default=None, description="the device that it is fixed to; left out: the gimbal itself")
    rides: Rides = Field(default="plate", description="on the gimbal: with what it moves")
    side: Side = Field(default="top", description="on which side of the other it is")
    from_left: Fraction = Field(default=0.5, description="where on that side, as one looks at it")
    from_top: Fraction = 0.5
    measured: Position | None = Field(
        default=None,
        description="instead of side and spot: from the middle of what the other is mounted by, or the plate's middle "
        "hole, to the middle of what this one is mounted by",
    )


class StoodReading(Struct):
    """By how much all that an axis turned was off, in one direction, from where it was reckoned to be.

    `shares`: each thing, as it was described then, with its share in the weight.
    """

    axis: Axis
    along: Literal["right", "forward", "up"]
    off_mm: SignedMillimetres
    shares: dict[Name, Fraction] = Field(max_length=60)


class Stood(Struct):
    """A build that was in balance where its scales stood: what later marks are learned from."""

    gimbal: Id
    readings: list[StoodReading] = Field(min_length=1, max_length=6)
    note: Name | None = None


def sits_flaws(places: Mapping[str, Sits | None]) -> Iterator[Flaw]:
    """What sits on nothing that is in the rig, or in a ring on itself; `places`: each device with where it sits."""
    for number, (device, sits) in enumerate(places.items()):
        at: Path = ("devices", number, "sits", "on")
        if sits is None or sits.on is None:
            continue
        if sits.on not in places:
            yield at, f"found '{sits.on}', which is not in this rig{nearest(sits.on, places)}"
            continue
        below: str | None = device
        passed: set[str] = set()
        while below is not None and below not in passed:
            passed.add(below)
            under = places.get(below)
            below = under.on if under is not None else None
        if below == device:
            yield at, f"found '{sits.on}', which sits on {device} itself in turn; expected something below it"
