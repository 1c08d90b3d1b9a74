"""A kit: what the crew has, piece by piece."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from isotact.core.model.base import Document, Struct, flawed
from isotact.core.model.problems import Flaw
from isotact.core.model.small_parts import PartItem
from isotact.core.model.units import WattHours
from isotact.core.model.words import Day, Id, Name, Text, Version

MOST_PIECES = 999
"""So many pieces of one sort stand in one line of a kit."""


class KitDevice(Struct):
    """Devices of one profile. Tags name the pieces; firmware and licences are those of all of them."""

    profile: Id
    count: int = Field(default=1, ge=0, le=MOST_PIECES, strict=True)
    tags: list[Name] = []
    firmware: Version | None = None
    licences: list[Id] = []
    note: Text | None = None


class KitCable(Struct):
    """Cables of one type."""

    cable: Id
    count: int = Field(default=1, ge=0, le=MOST_PIECES, strict=True)
    tags: list[Name] = []
    note: Text | None = None


class Pack(Struct):
    """One battery with an identity: what is written on it, and what it is.

    `battery`: a battery that the catalogue has as a device of its own; `fits`: one that goes into devices, by the name
    that their profiles give it. Just one of the two.
    """

    tag: Name
    battery: Id | None = None
    fits: Name | None = None
    energy_wh: WattHours | None = Field(default=None, description="as measured; left out: as its kind has it")
    health_percent: Annotated[int, Field(ge=20, le=100, strict=True)] | None = Field(
        default=None, description="what a full charge is of what it was when new; left out: by its age"
    )
    charge_percent: Annotated[int, Field(ge=0, le=100, strict=True)] | None = Field(
        default=None, description="how full it is at the call; left out: full"
    )
    bought: Day | None = Field(default=None, description="when it was new; left out: nobody said")
    note: Text | None = None


class Kit(Document):
    """What the crew has. A rig planned with `--kit` takes its cables, and its small parts where it
    has any, from here instead of its own bag."""

    format: Literal["isotact/kit"]
    version: Literal[1]
    id: Id
    name: Name
    devices: list[KitDevice] = Field(default=[], max_length=2000)
    cables: list[KitCable] = Field(default=[], max_length=2000)
    packs: list[Pack] = Field(default=[], max_length=2000)
    parts: list[PartItem] | None = Field(
        default=None, max_length=200, description="its small parts; left out: nobody said which there are"
    )
    note: Text | None = None

    @model_validator(mode="after")
    def _each_line_is_one_thing(self) -> "Kit":
        flaws: list[Flaw] = []
        for number, pack in enumerate(self.packs):
            if (pack.battery is None) == (pack.fits is None):
                says = "found neither 'battery' nor 'fits', or both; say which battery it is by one of them"
                flaws.append((("packs", number), says))
            if pack.tag in [one.tag for one in self.packs[:number]]:
                flaws.append(
                    (("packs", number, "tag"), f"found '{pack.tag}' on two packs; give each a mark of its own")
                )
        named = [item.part for item in self.parts or ()]
        for number, part in enumerate(named):
            if part in named[:number]:
                says = f"found '{part}' on two lines; say how many there are on one"
                flaws.append((("parts", number, "part"), says))
        if flaws:
            raise flawed(flaws)
        return self
