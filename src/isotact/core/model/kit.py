"""A kit: what the crew has, piece by piece."""

from typing import Literal

from pydantic import Field

from isotact.core.model.base import Document, Struct
from isotact.core.model.words import Id, Name, Text, Version

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


class Kit(Document):
    """What the crew has. A rig planned with `--kit` takes its cables from here instead of its own bag."""

    format: Literal["isotact/kit"]
    version: Literal[1]
    id: Id
    name: Name
    devices: list[KitDevice] = Field(default=[], max_length=2000)
    cables: list[KitCable] = Field(default=[], max_length=2000)
    note: Text | None = None
