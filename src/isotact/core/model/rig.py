"""A rig: one camera's build, its bag of cables, and what was promised to whom."""

from collections.abc import Collection, Iterator
from typing import Annotated, Any, ClassVar, Literal

from pydantic import Field, field_validator, model_validator

from isotact.core.model.base import Document, Struct, flawed
from isotact.core.model.gimbals import Sits, Stood, sits_flaws
from isotact.core.model.measures import Position
from isotact.core.model.pins import CablePin, KeepOutPin, OffPin, Pin, PortPoint, WayPin
from isotact.core.model.problems import Flaw, Path, nearest
from isotact.core.model.recipe import TakenRecipe
from isotact.core.model.shot import Energy, Schools, Shot
from isotact.core.model.small_parts import PartItem
from isotact.core.model.units import Grams, Hours, Metres, Milliseconds, SignedMillimetres
from isotact.core.model.vocabulary import FunctionId
from isotact.core.model.words import Day, Id, Name, PictureFormat, Stage, Text, Version


class Device(Struct):
    """One device of the rig, and what is known of this very piece."""

    id: Id
    profile: Id
    name: Name | None = Field(default=None, description="what the crew calls it; left out: the profile's name")
    stage: Stage | None = Field(default=None, description="where it sits; left out: where the profile says")
    tag: Name | None = Field(default=None, description="asset tag")
    firmware: Version | None = Field(default=None, description="left out: unknown, and the run sheet says to look")
    licences: list[Id] = []
    mode: Id | None = Field(default=None, description="the mode it is in now; left out: the factory's")
    settings: dict[Id, Id | PictureFormat] = Field(
        default={}, description="settings as they are now; others: as from the factory"
    )
    charge_percent: int | None = Field(
        default=None, ge=1, le=100, strict=True, description="how full its own battery is now; left out: full"
    )
    health_percent: int | None = Field(
        default=None,
        ge=20,
        le=100,
        strict=True,
        description="what a full charge of its own battery is of what it was when new; left out: as new",
    )
    spare_batteries: int | None = Field(
        default=None, ge=0, le=99, strict=True, description="charged ones at hand beside those in it; left out: unknown"
    )
    distance_m: Metres | None = Field(
        default=None, description="how far from the gimbal it stands or is held; left out: beside it"
    )
    mass_g: Grams | None = Field(default=None, description="as the crew weighed it; left out: as its profile says")
    centre: Position | None = Field(
        default=None, description="where its weight sits, as the crew found it; left out: as its profile says"
    )
    sits: Sits | None = Field(default=None, description="where it sits; left out: where its ports and gears put it")
    marks_mm: dict[Id, SignedMillimetres] = Field(
        default={}, description="on a gimbal: where each of its scales stands now"
    )
    hole_mm: SignedMillimetres | None = Field(
        default=None,
        description="on a gimbal: the hole of its plate that the camera is screwed to, from its middle one",
    )
    note: Text | None = None


class BagItem(Struct):
    """So many cables of one type."""

    cable: Id
    count: int = Field(ge=0, le=99, strict=True)


class Point(Struct):
    """A surface of a device: a button, a wheel, a screen."""

    device: Id
    surface: Id


class ControlPromise(Struct):
    """A function controlled from a surface."""

    kind: Literal["control"] = "control"
    id: Id
    who: Name
    function: FunctionId
    at: Point
    to: Id | None = Field(default=None, description="the device that must carry it out; left out: whichever does")
    weight: int = Field(default=3, ge=1, le=9, strict=True, description="how much it matters")
    is_picture: ClassVar[bool] = False
    comes_first: ClassVar[bool] = True
    latest_ms: ClassVar[None] = None

    @property
    def also_names(self) -> dict[str, Id]:
        """The devices that it names beside where it is proven, by field."""
        return {"to": self.to} if self.to else {}

    @property
    def devices(self) -> set[Id]:
        """The devices that it names."""
        return {self.at.device, *self.also_names.values()}

    def marks(self, schools: Schools) -> tuple[bool | None, bool | None]:
        """Of a way of it: whether a motor has to turn a ring, or must not; pictures only: with what look it is sent."""
        if self.function != "focus" or schools.focus == "either":
            return None, None
        return schools.focus == "motor", None

    @property
    def worked(self) -> str | None:
        """The function that is worked, if any."""
        return self.function

    @property
    def place(self) -> str | None:
        """The device at which it is proven; None when all of them are looked at."""
        return self.at.device

    @property
    def limits(self) -> str:
        """What it is held to besides, in words that go on from what is promised; nothing where nothing is."""
        return ""


class PicturePromise(Struct):
    """A picture on a screen."""

    kind: Literal["picture"] = "picture"
    id: Id
    who: Name
    at: Point
    of: Id | None = Field(default=None, description="the camera whose picture it is; left out: any in the rig")
    within_ms: Milliseconds | None = None
    look: Literal["any", "with", "clean"] = "any"
    weight: int = Field(default=3, ge=1, le=9, strict=True, description="how much it matters")
    is_picture: ClassVar[bool] = True
    comes_first: ClassVar[bool] = True

    @property
    def latest_ms(self) -> float | None:
        """How late it may be."""
        return self.within_ms

    def marks(self, schools: Schools) -> tuple[bool | None, bool | None]:
        """Of a way of it: whether the look has to be on at its end; and where it leaves by radio. None: as it comes."""
        sent = {"clean": False, "look": True}.get(schools.chain) if self.look == "any" else None
        return {"with": True, "clean": False}.get(self.look), sent

    @property
    def also_names(self) -> dict[str, Id]:
        return {"of": self.of} if self.of else {}

    @property
    def devices(self) -> set[Id]:
        return {self.at.device, *self.also_names.values()}

    @property
    def worked(self) -> str | None:
        return None

    @property
    def place(self) -> str | None:
        return self.at.device

    @property
    def limits(self) -> str:
        limit = "" if self.within_ms is None else f", at most {self.within_ms:g} ms late"
        return limit + {"any": "", "with": ", with the look", "clean": ", clean"}[self.look]

    @property
    def looks_wanted(self) -> tuple[bool, ...]:
        """Whether the look may be on the picture, must be, or must not."""
        return {"any": (True, False), "with": (True,), "clean": (False,)}[self.look]


class PowerPromise(Struct):
    """Everything that is in use runs this long, with so many changes of each battery and no more."""

    kind: Literal["power"] = "power"
    id: Id
    who: Name
    hours_h: Hours
    changes: int = Field(
        default=0,
        ge=0,
        le=20,
        strict=True,
        description="how often each battery may be changed meanwhile, for a full one",
    )
    over_others: bool = Field(default=False, description="kept even where another promise has to go for it")
    weight: int = Field(default=3, ge=1, le=9, strict=True, description="how much it matters")
    is_picture: ClassVar[bool] = False

    @property
    def comes_first(self) -> bool:
        """Whether it is weighed against the others, not only after them."""
        return self.over_others

    @property
    def meanwhile(self) -> str:
        """The changes of battery that it allows, to be said after the hours; nothing where it allows none."""
        several = "one battery change" if self.changes == 1 else f"{self.changes} battery changes"
        return f" with {several}" if self.changes else ""

    @property
    def also_names(self) -> dict[str, Id]:
        return {}

    @property
    def devices(self) -> set[Id]:
        return set()

    @property
    def worked(self) -> str | None:
        return None

    @property
    def place(self) -> str | None:
        return None

    @property
    def limits(self) -> str:
        return ""


Promise = Annotated[ControlPromise | PicturePromise | PowerPromise, Field(discriminator="kind")]


class Flag(Struct):
    """A tape flag that was given: it stays with the join that it names. `plugged`: that join was made."""

    tag: Annotated[str, Field(pattern=r"^[A-Z][0-9]{1,3}$")]
    a: PortPoint
    b: PortPoint
    cable: Id | None = None
    adapters: list[Id] = Field(default=[], max_length=2, description="by their ids in the alphabet's order")
    plugged: bool = False

    @model_validator(mode="before")
    @classmethod
    def _one_adapter(cls, data: Any) -> Any:
        """Documents of before a lead could have one at each end say `adapter`."""
        if isinstance(data, dict) and "adapter" in data and "adapters" not in data:
            data = dict(data)
            one = data.pop("adapter")
            return data if one is None else {**data, "adapters": [one]}
        return data


class Rig(Document):
    """One camera's build: what is in it, what joins are at hand, and the promises."""

    format: Literal["isotact/rig"]
    version: Literal[1]
    id: Id
    name: Name
    camera: Annotated[str, Field(pattern=r"^[A-Z]$", description="the camera's letter")] = "A"
    production: Name | None = Field(default=None, description="the job that it belongs to")
    days: list[Day] = Field(default=[], max_length=60, description="when it is used; empty: every day of its job")
    devices: list[Device] = Field(default=[], max_length=60)
    bag: list[BagItem] = Field(default=[], max_length=200)
    parts: list[PartItem] | None = Field(
        default=None, max_length=100, description="the small parts that lie in the bag; left out: nobody said"
    )
    promises: list[Promise] = Field(default=[], max_length=60)
    schools: Schools = Schools()
    shot: Shot = Shot()
    energy: Energy = Energy()
    pins: list[Pin] = Field(default=[], max_length=60)
    recipes: list[TakenRecipe] = Field(
        default=[],
        max_length=20,
        description="for promises that are to rest on one, where they have no way of their own",
    )
    channels: dict[Id, list[Text]] = Field(
        default={},
        max_length=20,
        description="per radio family, the channels to use; left out: by the letter",
    )
    built: "Rig | None" = Field(
        default=None, description="the document by which the rig stands built now; left out: it lies in its cases"
    )
    flags: list[Flag] = Field(
        default=[], max_length=200, description="tape flags given, so that what stays keeps its own"
    )
    stood: list[Stood] = Field(
        default=[], max_length=100, description="builds that were in balance: marks learn from them"
    )
    note: Text | None = None

    @field_validator("built")
    @classmethod
    def _built_stands_alone(cls, built: "Rig | None") -> "Rig | None":
        """What was built before that is of no use to anybody."""
        return None if built is None else built.model_copy(update={"built": None})

    @model_validator(mode="after")
    def _ids_are_single_and_known(self) -> "Rig":
        flaws = list(_rig_flaws(self))
        if flaws:
            raise flawed(flaws)
        return self

    @property
    def routed(self) -> list[ControlPromise | PicturePromise]:
        """The promises that take a way, in their order: all but those about hours of power."""
        return [promise for promise in self.promises if not isinstance(promise, PowerPromise)]

    @property
    def controls(self) -> list[ControlPromise]:
        """The promised functions, in their order."""
        return [promise for promise in self.promises if isinstance(promise, ControlPromise)]

    @property
    def pictures(self) -> list[PicturePromise]:
        """The promised pictures, in their order."""
        return [promise for promise in self.promises if isinstance(promise, PicturePromise)]

    @property
    def lasting(self) -> list[PowerPromise]:
        """The promised hours, in their order."""
        return [promise for promise in self.promises if isinstance(promise, PowerPromise)]

    @property
    def left_in_case(self) -> set[str]:
        """The devices that are not to be used."""
        return {pin.leaves for pin in self.pins if pin.leaves is not None}

    def without_promises(self, gone: Collection[str]) -> "Rig":
        """This without some of its promises, and without what is said of those."""
        return self.model_copy(
            update={
                "promises": [promise for promise in self.promises if promise.id not in gone],
                "pins": [pin for pin in self.pins if pin.about not in gone],
                "recipes": [taken for taken in self.recipes if taken.promise not in gone],
            }
        )

    def promise(self, key: str) -> Promise:
        return next(promise for promise in self.promises if promise.id == key)

    def device(self, key: str) -> Device:
        return next(device for device in self.devices if device.id == key)


def _rig_flaws(rig: Rig) -> Iterator[Flaw]:
    for field, key in (("devices", "id"), ("promises", "id"), ("bag", "cable"), ("parts", "part")):
        seen: set[str] = set()
        for number, item in enumerate(getattr(rig, field) or ()):
            value = getattr(item, key)
            if value in seen:
                yield (field, number, key), f"found '{value}' twice; give each its own"
            seen.add(value)
    devices = [device.id for device in rig.devices]
    yield from sits_flaws({device.id: device.sits for device in rig.devices})
    yield from _pin_flaws(rig, devices)
    yield from _recipe_flaws(rig)
    for number, promise in enumerate(rig.promises):
        if promise.kind != "power" and promise.at.device not in devices:
            found = promise.at.device
            yield (
                ("promises", number, "at", "device"),
                f"found '{found}', which is not in this rig{nearest(found, devices)}",
            )
        for field, named in promise.also_names.items():
            if named not in devices:
                yield ("promises", number, field), f"found '{named}', which is not in this rig{nearest(named, devices)}"


def _pin_flaws(rig: Rig, devices: list[str]) -> Iterator[Flaw]:
    promises = [promise.id for promise in rig.promises]
    for number, pin in enumerate(rig.pins):
        named: list[tuple[Path, str, list[str], str]] = []
        match pin:
            case CablePin():
                named = [(("a", "device"), pin.a.device, devices, "in"), (("b", "device"), pin.b.device, devices, "in")]
            case KeepOutPin():
                named = [(("at", "device"), pin.at.device, devices, "in")]
            case OffPin():
                named = [(("device",), pin.device, devices, "in")]
            case WayPin():
                named = [(("promise",), pin.promise, promises, "promised in")]
        for path, found, known, word in named:
            if found not in known:
                yield ("pins", number, *path), f"found '{found}', which is not {word} this rig{nearest(found, known)}"


def _recipe_flaws(rig: Rig) -> Iterator[Flaw]:
    promises = {promise.id: promise for promise in rig.promises}
    profiles = {device.id: device.profile for device in rig.devices}
    seen: set[str] = set()
    for number, taken in enumerate(rig.recipes):
        yield from ((("recipes", number, *path), says) for path, says in taken.flaws(promises, profiles))
        if taken.promise in seen:
            yield ("recipes", number, "promise"), f"found '{taken.promise}' twice; a promise rests on one recipe"
        seen.add(taken.promise)
