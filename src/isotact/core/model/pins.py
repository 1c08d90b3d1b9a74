"""Pins: what the user decides; the planner obeys, or says why it cannot."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from isotact.core.model.base import Struct
from isotact.core.model.words import Id


class PortPoint(Struct):
    """A port of a device."""

    device: Id
    port: Id

    def __str__(self) -> str:
        return f"{self.device}.{self.port}"


class _Pin(Struct):
    """What every pin can be asked; what it says nothing of is none, or empty."""

    @property
    def leaves(self) -> str | None:
        """The device that stays in its case."""
        return None

    @property
    def joins_itself(self) -> str | None:
        """The device that it would join with itself."""
        return None

    @property
    def fills(self) -> frozenset[str]:
        """The ports into which something goes, each as `device.port`."""
        return frozenset()

    @property
    def takes_whole(self) -> frozenset[str]:
        """Those of them that one lead takes for itself."""
        return frozenset()

    @property
    def empties(self) -> frozenset[str]:
        """The ports that are to stay free."""
        return frozenset()


class CablePin(_Pin):
    """This join is made, with this cable type if one is named."""

    kind: Literal["cable"] = "cable"
    a: PortPoint
    b: PortPoint
    cable: Id | None = None
    about: ClassVar[None] = None

    @property
    def devices(self) -> set[Id]:
        """The devices that it names."""
        return {self.a.device, self.b.device}

    @property
    def joins_itself(self) -> str | None:
        return self.a.device if self.a.device == self.b.device else None

    @property
    def fills(self) -> frozenset[str]:
        return frozenset((str(self.a), str(self.b)))

    @property
    def takes_whole(self) -> frozenset[str]:
        return self.fills


class KeepOutPin(_Pin):
    """Nothing goes into this port."""

    kind: Literal["keep-out"] = "keep-out"
    at: PortPoint
    about: ClassVar[None] = None

    @property
    def devices(self) -> set[Id]:
        return {self.at.device}

    @property
    def empties(self) -> frozenset[str]:
        return frozenset((str(self.at),))


class OffPin(_Pin):
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


class WayPin(_Pin):
    """This promise takes the way over these joins, each written `device.port--device.port`."""

    kind: Literal["way"] = "way"
    promise: Id
    over: list[Annotated[str, Field(max_length=300)]] = Field(max_length=12)

    @property
    def about(self) -> str:
        """The promise that it is about."""
        return self.promise

    @property
    def devices(self) -> set[Id]:
        return {end.partition(".")[0] for over in self.over for end in over.split("--")}

    @property
    def fills(self) -> frozenset[str]:
        return frozenset(end for over in self.over for end in over.split("--"))


Pin = Annotated[CablePin | KeepOutPin | OffPin | WayPin, Field(discriminator="kind")]
"""What the user decides; the planner obeys, or says why it cannot."""


def contradict(one: Pin, other: Pin) -> bool:
    """Whether two pins cannot both be obeyed, whatever else is in the rig."""
    away = {pin.leaves for pin in (one, other) if pin.leaves is not None}
    if away and away & (one.devices if one.leaves is None else other.devices):
        return one.leaves is None or other.leaves is None
    return bool(one.empties & other.fills or other.empties & one.fills or one.takes_whole & other.takes_whole)
