"""A kit: what the crew has, piece by piece."""

from typing import Literal

from pydantic import Field

from isotact.core.model.base import Part
from isotact.core.model.words import Id, Text, Version


class KitDevice(Part):
    """Devices of one profile. Tags name the pieces; firmware and licences are those of all of them."""

    profile: Id
    count: int = Field(default=1, ge=0, le=99, strict=True)
    tags: list[Text] = []
    firmware: Version | None = None
    licences: list[Id] = []
    note: Text | None = None


class KitCable(Part):
    """Cables of one type."""

    cable: Id
    count: int = Field(default=1, ge=0, le=999, strict=True)
    tags: list[Text] = []
    note: Text | None = None


class Kit(Part):
    """What the crew has. A rig planned with `--kit` takes its cables from here instead of its own bag."""

    format: Literal["isotact/kit"]
    version: Literal[1]
    id: Id
    name: Text
    devices: list[KitDevice] = []
    cables: list[KitCable] = []
    note: Text | None = None
