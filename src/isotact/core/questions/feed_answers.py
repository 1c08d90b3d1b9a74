"""What the feed tree tells: devices, leads, batteries and how they empty, what to know of them."""

from typing import Literal

from pydantic import Field

from isotact.core.model.base import Struct
from isotact.core.model.calculation import Calculation
from isotact.core.model.words import Id

When = Literal["rule", "start", "held", "end"]
"""As a rule; for a moment, with everything at its most; the same with a motor held at a stop; that, at a low charge."""
WHENS: tuple[When, ...] = ("rule", "start", "held", "end")


class Flows(Struct):
    """Volts at one end, amps and watts that come in there."""

    volts: float | None = Field(description="None where nobody knows the volts of its battery")
    amps: float
    watts: float


class TreeDevice(Struct):
    """A device of the tree. `draws_w`: of its own. `at`: by when; None where it could not be fed."""

    device: Id
    name: str
    draws_w: float
    lowest_v: float | None = None
    join: str | None = Field(default=None, description="the join that it runs from; none: its own battery")
    giver: Id | None = None
    at: dict[When, Flows | None]
    near: bool = Field(default=False, description="at the end of a charge few volts are left above its lowest")


class TreeLead(Struct):
    """A lead of the tree: what it carries and loses. `share`: of the limit that is nearest, at the worst."""

    join: str
    tag: str
    giver: Id
    taker: Id
    words: str
    ohm: float
    lost_v: dict[When, float]
    limit_w: float | None
    limit_a: float | None
    limited_by: str
    share: float
    closest: bool = False
    asleep: str | None = Field(default=None, description="why its outlet falls asleep, where it would")
    assumed: str | None = Field(default=None, description="what nobody said of it, and was taken to be so")


class CurvePoint(Struct):
    """A moment of a charge: hours from now, per cent left, volts under load."""

    hours_h: float
    percent: float
    volts: float


class BatteryChange(Struct):
    """What changing a battery comes to: promises that fail meanwhile, what is forgotten for good, and for how long."""

    lost: tuple[Id, ...]
    forgotten: tuple[str, ...]
    takes_s: float
    says: str


class TreeBattery(Struct):
    """A battery, and how it empties with what hangs on it. `hours_h`: until what is kept back, None without a load."""

    device: Id
    name: str
    pack: str
    chemistry: str
    feeds: tuple[Id, ...]
    watts: float
    hours_h: float | None
    by_watts_h: float | None = Field(description="without what is lost on the way")
    curve: tuple[CurvePoint, ...]
    volts_known: bool
    lamp_h: float | None = Field(default=None, description="hours until its lamp warns")
    lamp_left_min: float | None = Field(default=None, description="minutes from then on")
    stops: str | None = Field(default=None, description="what goes dark before it is empty, and at how many per cent")
    first: bool = False
    source: str
    why: Calculation | None = None
    change: BatteryChange | None = Field(default=None, description="None where it is built in, or nobody asked")


class Remark(Struct):
    """Something to know about power, with its numbers. `about`: the devices concerned."""

    kind: Literal["over", "volts", "near", "asleep", "charges", "clock", "switch", "unknown"]
    says: str
    about: tuple[Id, ...] = ()


class FeedTree(Struct):
    """The feeds of a plan. `devices`: each after the one that feeds it."""

    says: str
    devices: tuple[TreeDevice, ...]
    leads: tuple[TreeLead, ...]
    batteries: tuple[TreeBattery, ...]
    remarks: tuple[Remark, ...]
    stalls: bool = Field(description="whether anything can be held at a stop; else `held` is as `start`")
    temperature_c: float
    margin_v: float
