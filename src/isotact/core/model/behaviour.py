"""What a device does: modes, settings, waking, power, and the functions and pictures it takes and gives."""

from typing import Literal

from pydantic import Field

from isotact.core.model.base import Struct
from isotact.core.model.base_role import When
from isotact.core.model.measures import Curve
from isotact.core.model.places import Side, Spot
from isotact.core.model.ports import EndpointRef, Upset
from isotact.core.model.units import (
    Degrees,
    Hours,
    Millimetres,
    Milliseconds,
    NewtonMetres,
    Ohms,
    Percent,
    Seconds,
    Volts,
    WattHours,
    Watts,
)
from isotact.core.model.vocabulary import FunctionId
from isotact.core.model.words import Id, JobStage, Name, PictureFormat, Text


class Value(Struct):
    """One value that a setting or mode can have, under the name that the device shows."""

    id: Id | PictureFormat
    name: Name
    upsets: list[Upset] = Field(default=[], description="what choosing it does besides")


def name_of(values: list[Value], value: str) -> str:
    """What the device calls one of `values`; the value itself where it knows none such."""
    return next((one.name for one in values if one.id == value), value)


class Modes(Struct):
    """The one big switch of a device, such as video or stills. A device is in exactly one mode."""

    how: Text = Field(description="how to choose; '{name}' stands for the mode's name")
    factory: Id
    values: list[Value] = Field(min_length=1)
    takes_s: Seconds = 2
    needs_awake: bool = False
    lapses: bool = Field(default=False, description="switched off it forgets its mode and wakes in the factory's")


class Setting(Struct):
    """A menu item: where it is, what it can be, what it is from the factory, when a change takes."""

    id: Id
    name: Name
    path: list[Text] = Field(min_length=1, description="the menu path, top first")
    values: list[Value] = Field(min_length=2)
    factory: Id | PictureFormat
    takes_effect: Literal["at-once", "at-reconnect", "at-boot"] = "at-once"
    needs_awake: bool = Field(default=True, description="no for a switch on the outside")
    before_lead: bool = Field(default=False, description="must stand before a lead goes into the ports that ask for it")
    takes_s: Seconds = 20
    note: Text | None = None

    def value_name(self, value: str) -> str:
        """What the device calls a value."""
        return name_of(self.values, value)

    @property
    def words(self) -> str:
        """The menu path, top first."""
        return " › ".join(self.path)


class Prompt(Struct):
    """A question that the device asks while it wakes."""

    id: Id
    asks: Text
    joined: Id | None = Field(default=None, description="asked only when something is in this port")
    answers: list[Value] = Field(min_length=2)
    default: Id = Field(description="what it takes when nobody answers")

    def value_name(self, value: str) -> str:
        """What the device calls an answer."""
        return name_of(self.answers, value)


class Wake(Struct):
    """How it is woken and put to sleep, and what it wants first."""

    how: Text
    off: Text = "Switch it off."
    with_feed: bool = Field(default=False, description="it has no switch: it wakes when its feed comes")
    boot_s: Seconds
    expect: Text = Field(default="its power lamp is steady", description="what tells that it is up")
    needs_balance: bool = False
    prompts: list[Prompt] = []


Drawing = Literal["power", "current", "resistance"]


class InnerBattery(Struct):
    """A battery that belongs to the device."""

    name: Name
    energy_wh: WattHours = Field(description="of all its packs together")
    packs: int = Field(default=1, ge=1, le=12, description="how many separate packs it is, each carried by itself")
    usable: float = Field(default=0.85, gt=0, le=1, description="the share that is there before it switches off")
    hot_swap: bool = False
    fitted: bool = Field(default=True, description="no when it is built in and only needs charging")
    chemistry: Literal["li-ion", "li-iron", "nimh", "lead"] = "li-ion"
    cells: int | None = Field(
        default=None, ge=1, le=24, strict=True, description="in series; left out: by the volts that it gives"
    )
    inner_ohm: Ohms | None = Field(
        default=None, description="of all of it, new and at 20 °C; left out: by its chemistry"
    )
    discharge: Curve | None = Field(default=None, description="volts, by the share of its energy that has been used")
    low_lamp_percent: Percent | None = Field(
        default=None, description="what is left when its lamp warns; left out: nobody said"
    )
    charge_h: Hours | None = Field(
        default=None, description="how long it takes from empty to full; left out: an hour and a half, at best"
    )
    feeds_only: Text | None = Field(default=None, description="the part it feeds, when it is not the whole device")


class Charger(Struct):
    """A charger. Invariant: its slots together take no more than `total_w`; what is more waits its turn."""

    charges: list[Name] = Field(
        min_length=1,
        max_length=40,
        description="what it is made for: batteries by the name that profiles give theirs, or by a profile's id",
    )
    slots: int = Field(ge=1, le=32, strict=True, description="how many at once")
    slot_w: Watts = Field(gt=0, description="what it gives to each")
    total_w: Watts | None = Field(default=None, gt=0, description="to all together; left out: enough for every slot")

    @property
    def at_once(self) -> int:
        """How many get their full watts at once."""
        return self.slots if self.total_w is None else max(1, min(self.slots, int(self.total_w / self.slot_w)))

    @property
    def gives_w(self) -> float:
        """What one slot gives."""
        return self.slot_w if self.total_w is None else min(self.slot_w, self.total_w)


class Power(Struct):
    """What it draws and what it holds."""

    draw_w: Watts = Field(description="what it draws as a rule")
    waiting_w: Watts | None = Field(
        default=None, description="what it draws while it is up and waits between takes; left out: as a rule"
    )
    peak_w: Watts | None = Field(default=None, description="what it draws for a moment; left out: as a rule")
    stall_w: Watts | None = Field(
        default=None, description="what it draws while it is held, as a motor at a stop; left out: as for a moment"
    )
    draws: Drawing = Field(
        default="power", description="what stays as its volts fall: watts, amps, or ohms, as of a heater"
    )
    held_draws: Drawing = Field(
        default="current", description="the same of what it draws more while it is held: a driver holds the amps"
    )
    rated_v: Volts | None = Field(
        default=None, description="the volts at which its watts were measured; left out: the middle of what feeds it"
    )
    inner_battery: InnerBattery | None = None
    two_feeds: Literal["higher-volts", "never"] = Field(
        default="higher-volts",
        description="two live feeds: the higher volts carry, or there must never be two",
    )
    bridges: bool = Field(default=False, description="keeps what it feeds awake while the battery before it is changed")

    @property
    def idle_w(self) -> float:
        """The watts that it draws while it waits."""
        return self.draw_w if self.waiting_w is None else min(self.draw_w, self.waiting_w)

    @property
    def moment_w(self) -> float:
        """The watts that it draws for a moment."""
        return max(self.draw_w, self.peak_w or 0.0)

    @property
    def stalling_w(self) -> float:
        """The watts that it draws more while it is held than for a moment."""
        return max(0.0, (self.stall_w or 0.0) - self.moment_w)


class OnASide(Struct):
    """Where something is drawn on its device; left out, it is not drawn."""

    side: Side | None = None
    at: Spot | None = Field(default=None, description="where on that side its middle is")
    size_mm: tuple[Millimetres, Millimetres] | None = Field(
        default=None, description="width and height; left out: what such a thing usually has"
    )

    @property
    def drawn_as(self) -> str:
        """What is drawn of it: a lamp, where nothing else is known."""
        return "lamp"


class Surface(OnASide):
    """Something that a person touches or looks at."""

    id: Id
    name: Name
    kind: Literal["button", "wheel", "knob", "stick", "switch", "touch", "screen", "lamp", "scale"]
    place: Text | None = None
    dark_when_used: Id | None = Field(default=None, description="a screen that goes dark when this port is in use")
    rests: Literal["up", "middle", "down"] | None = Field(default=None, description="where a stick or switch must rest")
    pulse_us: tuple[int, int, int] | None = Field(default=None, description="low, rest and high, for a stick channel")

    @property
    def drawn_as(self) -> str:
        return self.kind

    @property
    def is_screen(self) -> bool:
        """Whether a picture can be seen on it."""
        return self.kind in ("screen", "touch")


class Emits(Struct):
    """Functions that start at a surface of this device."""

    functions: list[FunctionId] = Field(min_length=1)
    surface: Id
    over: EndpointRef
    on_picture: bool = Field(default=False, description="on a page that is there only with a picture on the screen")
    when: When = When()


class Accepts(Struct):
    """Functions that this device carries out. `surface` instead of `over`: it does so from its own surface."""

    functions: list[FunctionId] = Field(min_length=1)
    over: EndpointRef | None = None
    surface: Id | None = None
    when: When = When()


class Relays(Struct):
    """Functions that come in by one way and leave by another."""

    functions: list[FunctionId] = Field(min_length=1)
    over: EndpointRef
    to: EndpointRef
    delay_ms: Milliseconds = 0
    when: When = When()


class Makes(Struct):
    """A picture that starts here."""

    over: EndpointRef
    delay_ms: Milliseconds
    look: bool = Field(default=False, description="the look is already in it")
    when: When = When()


class Passes(Struct):
    """A picture that comes in by one way and leaves by another."""

    over: EndpointRef
    to: EndpointRef
    delay_ms: Milliseconds
    look: Literal["keeps", "adds", "strips"] = "keeps"
    when: When = When()


class Shows(Struct):
    """A picture that ends on a screen of this device."""

    screen: Id
    over: EndpointRef | None = Field(default=None, description="left out for the camera's own screen")
    delay_ms: Milliseconds
    look: Literal["keeps", "adds", "strips"] = "keeps"
    when: When = When()


class LampState(Struct):
    """One state of an indicator: the first that applies is what a person sees."""

    when: Id = Field(description="asleep, booting, asking, recording, linked, networked, waiting, charging or awake")
    over: Id | None = Field(default=None, description="the port or radio that is linked")
    looks: Text


class Indicator(OnASide):
    """A lamp or readout that tells how the device is."""

    id: Id
    name: Name
    place: Text
    states: list[LampState] = Field(min_length=1)


class Lens(Struct):
    """What a focus puller has to know of a lens."""

    focus: Literal["by-wire", "mechanical-with-stops", "mechanical-endless"]
    throw_deg: Degrees | None = None
    gear_module: float | None = Field(default=None, gt=0, le=2)


class Motor(Struct):
    """A lens motor."""

    axes: list[Literal["focus", "iris", "zoom", "nd"]] = Field(min_length=1)
    torque_nm: NewtonMetres
    gear_module: float = Field(default=0.8, gt=0, le=2)


class Mount(Struct):
    """A thread, rod, shoe or plate."""

    kind: Literal["thread", "rod", "shoe", "plate", "clamp"]
    size: Text = Field(description="such as 1/4-20, 3/8-16 or 15 mm")
    length_mm: Millimetres | None = None
    place: Text | None = None
    side: Side = Field(default="bottom", description="on which side of its device it is")
    at: Spot = Field(default=(0.5, 0.5), description="where on that side its middle is")

    @property
    def is_clamp(self) -> bool:
        """Whether it goes on rods."""
        return self.kind == "clamp"

    @property
    def is_rods(self) -> bool:
        """Whether clamps go on it."""
        return self.kind == "rod"


class Card(Struct):
    """The card that a device records on: what it is, and where it goes in."""

    name: Name
    place: Text


class Caution(Struct):
    """A warning, and the stage of the job at which it matters."""

    at: JobStage
    says: Text
    over: Id | None = Field(default=None, description="the port about whose plug it is; left out: the whole device")
    mode: Id | None = Field(default=None, description="the mode that it is about; left out: all")
