"""Cable types: which ends, carrying what, wired for whom, how long, how much current."""

from collections.abc import Iterable
from typing import Literal

from pydantic import Field, model_validator

from isotact.core.model.base import Document, Struct
from isotact.core.model.memo import once
from isotact.core.model.ports import PlugAngle
from isotact.core.model.units import Amps, Grams, Millimetres, Ohms
from isotact.core.model.vocabulary import ConnectorId
from isotact.core.model.words import Id, Name, PictureFormat, Text


class End(Struct):
    """One end. A receptacle is what an adapter offers to another cable's plug."""

    connector: ConnectorId
    angle: PlugAngle = "straight"
    gender: Literal["plug", "receptacle"] = "plug"
    marking: Text | None = None


class Conductor(Struct):
    """What runs between two of the ends."""

    medium: Id = Field(description="usb-data, power, hdmi, sdi, serial, network, pwm, bus ...")
    between: tuple[int, int] = Field(default=(1, 2), description="which ends, counted from 1")
    one_way: bool = Field(default=False, description="only from the first of `between` to the second")
    wired_for: list[Id] = Field(default=[], description="protocols it is wired for; empty: any of this medium")
    max_a: Amps | None = None
    max_format: PictureFormat | None = None

    def conducts(self, medium: str, wired: str) -> bool:
        """Whether it is of `medium`, and wired for `wired` or for anything."""
        return self.medium == medium and (not self.wired_for or wired in self.wired_for)

    def runs(self, first: int, second: int) -> bool:
        """Whether something at end `first` comes out at end `second`."""
        return self.between == (first, second) or (not self.one_way and self.between == (second, first))


class CableType(Document):
    """A kind of cable, adapter or splitter. Two ends for a cable or adapter, three and more for a Y."""

    format: Literal["isotact/cable"]
    version: Literal[1]
    id: Id
    name: Name
    kind: Literal["cable", "adapter", "splitter"] = "cable"
    family: Literal["control", "video", "power", "motor-bus"]
    ends: list[End] = Field(min_length=2, max_length=6)
    carries: list[Conductor] = Field(min_length=1)
    length_mm: Millimetres
    gauge_awg: int | None = Field(default=None, ge=4, le=36)
    contact_ohm: Ohms | None = Field(
        default=None, description="of both poles at one plug; left out: a hundredth of an ohm"
    )
    mass_g: Grams = 0
    note: Text | None = None

    @property
    def is_adapter(self) -> bool:
        return self.kind == "adapter"

    @property
    def is_splitter(self) -> bool:
        return self.kind == "splitter"

    @model_validator(mode="after")
    def _conductors_end_somewhere(self) -> "CableType":
        for conductor in self.carries:
            first, second = conductor.between
            if first == second or not (1 <= first <= len(self.ends) and 1 <= second <= len(self.ends)):
                raise ValueError(
                    f"found between {[first, second]}; expected two different ends from 1 to {len(self.ends)}"
                )
        return self

    @model_validator(mode="after")
    def _kind_has_its_ends(self) -> "CableType":
        plugs = [end.gender for end in self.ends].count("plug")
        if self.kind == "splitter" and (plugs < 3 or plugs < len(self.ends)):
            raise ValueError(f"found {plugs} plugs on {len(self.ends)} ends; a splitter has three plugs and more")
        if self.kind == "cable" and (plugs, len(self.ends)) != (2, 2):
            raise ValueError(f"found {plugs} plugs on {len(self.ends)} ends; a cable has two plugs")
        if self.kind == "adapter" and (plugs, len(self.ends)) != (1, 2):
            raise ValueError(
                f"found {plugs} plugs on {len(self.ends)} ends; an adapter has one plug and one receptacle"
            )
        return self

    def conducts(self, first: int, second: int, medium: str, wired: str) -> bool:
        """Whether it brings `medium`, wired for `wired`, from end `first` to end `second`."""
        known = once(self, _asked)
        asked = (first, second, medium, wired)
        if asked not in known:
            known[asked] = any(one.runs(first, second) and one.conducts(medium, wired) for one in self.carries)
        return known[asked]

    @property
    def make(self) -> str:
        """All that tells it from other types but how long and heavy it is."""
        return once(self, _make)

    def limit_of(self, medium: str) -> float | None:
        """The amps that it stands on `medium`, where that is known."""
        return once(self, _limits).get(medium)

    @property
    def max_format(self) -> str | None:
        """The most picture that it carries, where that is limited."""
        return next((one.max_format for one in self.carries if one.max_format), None)


def _asked(_: CableType) -> dict[tuple[int, int, str, str], bool]:
    """What was asked of a cable before: the same few things, of every pair of ports that it could lie between."""
    return {}


def _limits(cable: CableType) -> dict[str, float]:
    found: dict[str, float] = {}
    for one in cable.carries:
        if one.max_a is not None:
            found[one.medium] = min(one.max_a, found.get(one.medium, one.max_a))
    return found


def _make(cable: CableType) -> str:
    return cable.model_dump_json(include={"kind", "family", "ends", "carries"})


def conducts(
    cable: CableType | None, adapters: Iterable[CableType], ends: tuple[int, int], medium: str, wired: str
) -> bool:
    """Whether a cable, with what adapters are on it, brings `medium` from the first of `ends` to the second.

    Bare contact conducts whatever both sides have. The one place where this is decided.
    """
    if cable is None:
        return True
    passes = all(any(one.conducts(medium, wired) for one in adapter.carries) for adapter in adapters)
    return passes and cable.conducts(*ends, medium, wired)
