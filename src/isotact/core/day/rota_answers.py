"""What a rota tells: every battery over the day, every charger, what is to be done when, and what it would take.

All times are minutes from the call. Percentages are of what a full pack gives before its reserve.
"""

from typing import Literal

from pydantic import Field

from isotact.core.model.base import Struct
from isotact.core.model.words import Id

ActKind = Literal["change", "out", "charge", "off-charge"]
"""A pack put in, for another or into an empty seat; one taken out; one put on charge; one taken from it."""


class PackStint(Struct):
    """A pack in a seat, from one minute to another, with what is in it at both."""

    pack: str
    begins_min: int
    ends_min: int
    begins_percent: float
    ends_percent: float


class MinutesDark(Struct):
    """From when to when something has no power that should have it."""

    begins_min: int
    ends_min: int


class PackLevel(Struct):
    """What is in the pack of a seat at one moment."""

    at_min: int
    percent: float


class SeatRow(Struct):
    """A battery's place over the day.

    `rolling_w`, `waiting_w`: what its cells give. `alone_min`: when it is empty if nothing is done, None where it
    lasts. `lamp_min`: when its lamp warns first, `lamp_left_min` before that pack is empty. `rolls_from_lamp_min`: how
    long it rolls from its lamp on, with the pack that is in; None where it has no lamp.
    """

    key: str
    rig: Id
    camera: str
    device: Id
    name: str
    sort: str
    fixed: bool
    rolling_w: float
    waiting_w: float
    stints: tuple[PackStint, ...]
    levels: tuple[PackLevel, ...]
    dark: tuple[MinutesDark, ...]
    alone_min: int | None
    lamp_min: int | None = None
    lamp_left_min: int | None = None
    rolls_from_lamp_min: int | None = None
    change_says: str = ""


class ChargeSpan(Struct):
    """A pack on charge. `lane`: the slot, from 0."""

    pack: str
    lane: int
    begins_min: int
    ends_min: int
    ends_percent: float


class ChargerRow(Struct):
    """A charger over the day."""

    key: str
    slots: int
    charges: tuple[ChargeSpan, ...]


class RotaAct(Struct):
    """Something to be done at a minute of the day. `clock`: that time of day; `where`: what is shot then."""

    at_min: int
    clock: str
    kind: ActKind
    says: str
    where: str
    rig: Id | None = None
    camera: str = ""
    device: Id | None = None
    pack: str
    old: str | None = None
    takes_min: int = 0
    spoils: bool = False
    changed: bool = Field(default=False, description="a change that was ticked")


class PackRow(Struct):
    """A pack of the day: what it gives full, how healthy it is taken to be and why, and whether the rota uses it."""

    key: str
    sort: str
    energy_wh: float
    gives_wh: float
    charge_percent: int
    health_percent: int
    health_says: str = ""
    used: bool


class RotaRemedy(Struct):
    """What would help, and what would then be left of it."""

    says: str
    gone: bool = Field(description="whether nothing goes dark and no take is spoilt any more")


class CarryRow(Struct):
    """Batteries of one sort in the kit, each of so many watt hours, and how they fly as a rule."""

    name: str
    count: int
    each_wh: float
    carry: Literal["cabin", "ask", "cargo", "other"]
    says: str


class DayRota(Struct):
    """The rota of a day. `status`: whether it is proven that none is better; `least_says`: what is proven of it."""

    says: str
    status: Literal["proven", "best-so-far"]
    least_says: str = ""
    date: str
    call: str
    lasts_min: int
    now_min: int | None = None
    dark_min: int
    first_dark: str = ""
    spoilt: int
    changes: int
    spares: int
    chargers_used: int
    clock_says: str = ""
    seats: tuple[SeatRow, ...]
    chargers: tuple[ChargerRow, ...]
    mains: tuple[MinutesDark, ...] = Field(description="when there is none")
    acts: tuple[RotaAct, ...]
    packs: tuple[PackRow, ...]
    remedies: tuple[RotaRemedy, ...] = ()
    packs_says: tuple[str, ...] = Field(default=(), description="by sort: how many it takes, and which")
    overnight_says: str = ""
    transport: tuple[CarryRow, ...] = ()
    noted: tuple[str, ...] = Field(default=(), description="what was said of the day so far, and what it tells")
    assumed: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
