"""Pins: what the user decides; the planner obeys, or says why it cannot."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from isotact.core.model.base import Struct
from isotact.core.model.words import Id


class PortPoint(Struct):
    """A port of a device."""

    device: Id
    port: Id


class CablePin(Struct):
    """This join is made, with this cable type if one is named."""

    kind: Literal["cable"] = "cable"
    a: PortPoint
    b: PortPoint
    cable: Id | None = None
    about: ClassVar[None] = None
    leaves: ClassVar[None] = None

    @property
    def devices(self) -> set[Id]:
        """The devices that it names."""
        return {self.a.device, self.b.device}


class KeepOutPin(Struct):
    """Nothing goes into this port."""

    kind: Literal["keep-out"] = "keep-out"
    at: PortPoint
    about: ClassVar[None] = None
    leaves: ClassVar[None] = None

    @property
    def devices(self) -> set[Id]:
        return {self.at.device}


class OffPin(Struct):
    """This device is not used."""

    kind: Literal["off"] = "off"
    device: Id
    about: ClassVar[None] = None

    @property
    def leaves(self) -> str:
        """The device that stays in its case."""
        return self.device

    @property
    def devices(self) -> set[Id]:
        return {self.device}


class WayPin(Struct):
    """This promise takes the way over these joins, each written `device.port--device.port`."""

    kind: Literal["way"] = "way"
    promise: Id
    over: list[Annotated[str, Field(max_length=300)]] = Field(max_length=12)
    leaves: ClassVar[None] = None

    @property
    def about(self) -> str:
        """The promise that it is about."""
        return self.promise

    @property
    def devices(self) -> set[Id]:
        return {end.partition(".")[0] for over in self.over for end in over.split("--")}


Pin = Annotated[CablePin | KeepOutPin | OffPin | WayPin, Field(discriminator="kind")]
"""What the user decides; the planner obeys, or says why it cannot."""
