"""A rig: one camera's build, its bag of cables, and what was promised to whom."""

from collections.abc import Iterator
from typing import Annotated, Literal

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from isotact.core.model.base import Part
from isotact.core.model.problems import Fault, nearest
from isotact.core.model.units import Hours, Milliseconds
from isotact.core.model.words import FunctionId, Id, PictureFormat, Stage, Text, Version


class Device(Part):
    """One device of the rig, and what is known of this very piece."""

    id: Id
    profile: Id
    name: Text | None = Field(default=None, description="what the crew calls it; left out: the profile's name")
    stage: Stage | None = Field(default=None, description="where it sits; left out: where the profile says")
    tag: Text | None = Field(default=None, description="asset tag")
    firmware: Version | None = Field(default=None, description="left out: unknown, and the run sheet says to look")
    licences: list[Id] = []
    mode: Id | None = Field(default=None, description="the mode it is in now; left out: the factory's")
    settings: dict[Id, Id | PictureFormat] = Field(
        default={}, description="settings as they are now; others: as from the factory"
    )
    note: Text | None = None


class BagItem(Part):
    """So many cables of one type."""

    cable: Id
    count: int = Field(ge=0, le=99)


class Point(Part):
    """A surface of a device: a button, a wheel, a screen."""

    device: Id
    surface: Id


class ControlPromise(Part):
    """A function controlled from a surface."""

    kind: Literal["control"] = "control"
    id: Id
    who: Text
    function: FunctionId
    at: Point
    to: Id | None = Field(default=None, description="the device that must carry it out; left out: whichever does")
    weight: int = Field(default=3, ge=1, le=9, description="how much it matters")


class PicturePromise(Part):
    """A picture on a screen."""

    kind: Literal["picture"] = "picture"
    id: Id
    who: Text
    at: Point
    within_ms: Milliseconds | None = None
    look: Literal["any", "with", "clean"] = "any"
    weight: int = Field(default=3, ge=1, le=9, description="how much it matters")


class PowerPromise(Part):
    """Everything that is in use runs this long without a battery change."""

    kind: Literal["power"] = "power"
    id: Id
    who: Text
    hours_h: Hours
    weight: int = Field(default=3, ge=1, le=9, description="how much it matters")


Promise = Annotated[ControlPromise | PicturePromise | PowerPromise, Field(discriminator="kind")]


class Schools(Part):
    """Where crews differ. `profile` leaves it to what each device says."""

    wake: Literal["profile", "host-first", "camera-first"] = "profile"
    balance: Literal["before-outer-cables", "after-outer-cables"] = "before-outer-cables"


class Rig(Part):
    """One camera's build: what is in it, what joins are at hand, and the promises."""

    format: Literal["isotact/rig"]
    version: Literal[1]
    id: Id
    name: Text
    camera: Annotated[str, Field(pattern=r"^[A-Z]$", description="the camera's letter")] = "A"
    production: Text | None = None
    devices: list[Device] = Field(min_length=1, max_length=60)
    bag: list[BagItem] = Field(default=[], max_length=200)
    promises: list[Promise] = Field(default=[], max_length=60)
    schools: Schools = Schools()
    note: Text | None = None

    @model_validator(mode="after")
    def _ids_are_single_and_known(self) -> "Rig":
        faults = list(_rig_faults(self))
        if faults:
            raise PydanticCustomError(
                "references", "{count} wrong references", {"count": len(faults), "faults": faults}
            )
        return self

    def device(self, key: str) -> Device:
        return next(device for device in self.devices if device.id == key)


def _rig_faults(rig: Rig) -> Iterator[Fault]:
    for field, key in (("devices", "id"), ("promises", "id"), ("bag", "cable")):
        seen: set[str] = set()
        for number, item in enumerate(getattr(rig, field)):
            value = getattr(item, key)
            if value in seen:
                yield (field, number, key), f"found '{value}' twice; give each its own"
            seen.add(value)
    devices = [device.id for device in rig.devices]
    for number, promise in enumerate(rig.promises):
        if promise.kind != "power" and promise.at.device not in devices:
            found = promise.at.device
            yield (
                ("promises", number, "at", "device"),
                f"found '{found}', which is not in this rig{nearest(found, devices)}",
            )
        if promise.kind == "control" and promise.to is not None and promise.to not in devices:
            yield (
                ("promises", number, "to"),
                f"found '{promise.to}', which is not in this rig{nearest(promise.to, devices)}",
            )
