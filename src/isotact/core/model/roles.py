"""What passes at a port or radio: control, picture, power or a motor bus, and what must be set for it."""

from collections.abc import Iterator
from typing import Annotated, Literal

from pydantic import Field, model_validator

from isotact.core.model.base import Struct
from isotact.core.model.units import Amps, Volts, Watts
from isotact.core.model.words import Id, PictureFormat, Version


class When(Struct):
    """What must be true of this device for something in its profile to work."""

    mode: list[Id] = Field(default=[], description="works in any one of these modes; empty: in all")
    settings: dict[Id, Id | list[Id]] = Field(
        default={}, description="setting -> value, or values any of which will do"
    )
    answers: dict[Id, Id] = Field(default={}, description="boot prompt -> the answer that must have been given")
    firmware: Version | None = Field(default=None, description="at least this firmware, quoted")
    licence: Id | None = None

    def allowed(self, setting: str) -> tuple[str, ...]:
        """The values of `setting` that will do, in order of preference."""
        value = self.settings[setting]
        return (value,) if isinstance(value, str) else tuple(value)

    def knobs(self) -> Iterator[tuple[Literal["mode", "setting", "answer"], str, tuple[str, ...]]]:
        """What it asks for that can be turned: kind (mode, setting or answer), key, the values that will do."""
        if self.mode:
            yield "mode", "", tuple(self.mode)
        for key in self.settings:
            yield "setting", key, self.allowed(key)
        for key, answer in self.answers.items():
            yield "answer", key, (answer,)


Flow = Literal["a-to-b", "b-to-a", "both"]


class BaseRole(Struct):
    """What every role answers, so that nobody has to ask which kind it is.

    `gives` is True at the end that sends, False at the one that takes, None where it goes both ways. `conductor` is
    the medium that it needs of a cable, and the name that the conductor must be wired for.
    """

    @property
    def name(self) -> str:
        """What a reference calls it."""
        raise NotImplementedError

    @property
    def conductor(self) -> tuple[str, str]:
        raise NotImplementedError

    def fits(self, other: "Role") -> bool:
        """Whether the two have anything to say to each other."""
        raise NotImplementedError

    def faces(self, _other: "Role") -> bool:
        """Whether one end gives what the other takes, of whatever sort that is."""
        return False

    @property
    def spoken(self) -> tuple[str, ...]:
        """What two roles must share to have anything to say to each other."""
        return (type(self).__name__, self.name)

    @property
    def gives(self) -> bool | None:
        return None

    @property
    def is_inlet(self) -> bool:
        """Whether power comes in here."""
        return False

    @property
    def keeps_going(self) -> bool:
        """Whether a device runs from what comes in here; another inlet only charges."""
        return False

    @property
    def is_outlet(self) -> bool:
        """Whether power goes out here."""
        return False

    @property
    def is_control(self) -> bool:
        """Whether functions are spoken of here, so that a lamp can tell that the other end was found."""
        return False

    @property
    def wake_rule(self) -> Literal["any", "peer-first", "self-first"]:
        """Who must be awake first for the two ends to find each other."""
        return "any"

    @property
    def notices_at_boot(self) -> bool:
        """Whether this end looks for a cable only while it boots."""
        return False

    @property
    def is_host(self) -> bool:
        return False

    @property
    def holds(self) -> bool:
        """Whether a lens can sit here."""
        return False

    @property
    def sits(self) -> bool:
        """Whether its device is of no use until this end sits on another."""
        return False

    @property
    def turns(self) -> bool:
        """Whether this is the end of a gear that turns the other."""
        return False

    @property
    def is_addressed(self) -> bool:
        """Whether address and password of one end have to be typed in at the other."""
        return False

    @property
    def serves(self) -> int | None:
        """How many clients it serves at one time, over all ends of its device; None: as many as there are sockets."""
        return None

    @property
    def pictures(self) -> tuple[str, ...]:
        """The picture formats that it takes or gives, best first; none where no picture passes."""
        return ()

    @property
    def picture_setting(self) -> str | None:
        """The setting that chooses the format."""
        return None

    @property
    def flow_from_here(self) -> Flow:
        """Which way something goes when this role is at end a."""
        if self.gives is None:
            return "both"
        return "a-to-b" if self.gives else "b-to-a"


class ControlRole(BaseRole):
    """The port speaks a protocol by which functions are carried, either way."""

    kind: Literal["control"] = "control"
    protocol: Id = Field(description="a name of your own for what is spoken; both ends must use the same")
    medium: Id = Field(default="air", description="what the conductor must be: usb-data, serial, network, pwm ...")
    end: Literal["host", "device", "peer"] = "peer"
    wake: Literal["any", "peer-first", "self-first"] = Field(
        default="any", description="who must be awake first for the two to find each other"
    )
    joined_before_wake: bool = Field(default=False, description="this end looks for a cable only while it boots")
    clients: int | None = Field(
        default=None,
        ge=1,
        le=64,
        description="the most clients it serves at one time, over every end of the device that speaks this protocol",
    )
    when: When = When()

    @property
    def name(self) -> str:
        return self.protocol

    @property
    def conductor(self) -> tuple[str, str]:
        return self.medium, self.protocol

    @property
    def is_control(self) -> bool:
        return True

    @property
    def wake_rule(self) -> Literal["any", "peer-first", "self-first"]:
        return self.wake

    @property
    def notices_at_boot(self) -> bool:
        return self.joined_before_wake

    @property
    def is_host(self) -> bool:
        return self.end == "host"

    @property
    def serves(self) -> int | None:
        return self.clients

    @property
    def turns(self) -> bool:
        return self.medium == "gear" and self.is_host

    @property
    def is_addressed(self) -> bool:
        return self.medium == "network"

    @model_validator(mode="after")
    def _serves_as_device(self) -> "ControlRole":
        if self.clients is not None and self.end == "host":
            raise ValueError("found clients at an end that is host; write them at the end that serves: end: device")
        return self

    def fits(self, other: "Role") -> bool:
        """The same protocol; a host faces a device, a peer a peer."""
        return isinstance(other, ControlRole) and self.protocol == other.protocol and self._may_answer(other)

    def faces(self, other: "Role") -> bool:
        return isinstance(other, ControlRole) and self.medium == other.medium and self._may_answer(other)

    def _may_answer(self, other: "ControlRole") -> bool:
        return {self.end, other.end} in ({"host", "device"}, {"peer"})


class VideoRole(BaseRole):
    """A picture leaves or enters here."""

    kind: Literal["video"] = "video"
    flow: Literal["in", "out"]
    signal: Id = Field(description="hdmi, sdi, or the name of a radio picture link")
    formats: list[PictureFormat] = Field(min_length=1, description="best first")
    format_setting: Id | None = Field(default=None, description="the setting that chooses; its value ids are formats")
    when: When = When()

    @property
    def name(self) -> str:
        return self.signal

    @property
    def conductor(self) -> tuple[str, str]:
        return self.signal, self.signal

    @property
    def gives(self) -> bool:
        return self.flow == "out"

    @property
    def pictures(self) -> tuple[str, ...]:
        return tuple(self.formats)

    @property
    def picture_setting(self) -> str | None:
        return self.format_setting

    def fits(self, other: "Role") -> bool:
        """The same signal, one end out and the other in."""
        return isinstance(other, VideoRole) and self.signal == other.signal and self.flow != other.flow

    def faces(self, other: "Role") -> bool:
        return isinstance(other, VideoRole) and (self.flow, other.flow) == ("out", "in")


USUAL_TOLERANCE = 0.1
"""What is made for a voltage by its name runs a tenth below it as well. Common practice, no source."""


class PowerRole(BaseRole):
    """Power enters or leaves here."""

    kind: Literal["power"] = "power"
    flow: Literal["in", "out"]
    min_v: Volts
    max_v: Volts
    max_a: Amps | None = Field(default=None, description="out: what this outlet gives for good")
    peak_a: Amps | None = Field(default=None, description="out: what it gives for a moment; left out: as for good")
    good_for: Literal["anything", "electronics"] = Field(
        default="anything", description="out: electronics only, where it cannot stand motors"
    )
    efficiency: float | None = Field(
        default=None,
        gt=0,
        le=1,
        strict=True,
        description="out, where it holds its volts: what it gives of what it takes in; left out: nine tenths",
    )
    needs_v: Volts | None = Field(
        default=None, description="out, where it holds its volts: with fewer coming in it gives nothing"
    )
    least_w: Watts | None = Field(default=None, description="out: it falls asleep while less than this is taken")
    feeds: Literal["run", "charge"] = Field(default="run", description="in: can run from it, or only charges by it")
    charge_w: Watts | None = Field(
        default=None, description="in: what it takes besides, while its own battery is not full; left out: nothing"
    )
    when: When = When()

    @property
    def name(self) -> str:
        return f"power-{self.flow}"

    @property
    def conductor(self) -> tuple[str, str]:
        return "power", "power"

    @property
    def gives(self) -> bool:
        return self.flow == "out"

    @property
    def is_inlet(self) -> bool:
        return not self.gives

    @property
    def keeps_going(self) -> bool:
        return not self.gives and self.feeds == "run"

    @property
    def is_outlet(self) -> bool:
        return self.gives

    @property
    def held_v(self) -> float | None:
        """The volts that an outlet holds whatever comes in; None where it gives what comes in."""
        return self.min_v if self.gives and self.min_v == self.max_v else None

    def lowest_v(self, outlet: "PowerRole") -> float:
        """The fewest volts at which this inlet runs when `outlet` feeds it.

        Where both name the same as their least, as a socket of five volts and a device for five volts, that is what
        they are called, and a lead may take its part.
        """
        return self.min_v if self.min_v < outlet.min_v else (1 - USUAL_TOLERANCE) * self.min_v

    def takes(self, outlet: "PowerRole") -> bool:
        """Whether this inlet stands every voltage that `outlet` gives."""
        return self.min_v <= outlet.min_v and outlet.max_v <= self.max_v

    def fits(self, other: "Role") -> bool:
        """An outlet and an inlet that stands its volts."""
        if not isinstance(other, PowerRole) or self.flow == other.flow:
            return False
        outlet, inlet = (self, other) if self.gives else (other, self)
        return inlet.takes(outlet)

    @model_validator(mode="after")
    def _volts_in_order(self) -> "PowerRole":
        if self.min_v > self.max_v:
            raise ValueError(f"found min_v {self.min_v:g} above max_v {self.max_v:g}; swap them")
        if self.flow == "out" and self.max_a is None:
            raise ValueError("an outlet needs max_a, the most it gives; found none")
        if self.peak_a is not None and self.max_a is not None and self.peak_a < self.max_a:
            raise ValueError(f"found peak_a {self.peak_a:g} below max_a {self.max_a:g}; swap them")
        for field, asks in (("efficiency", "held"), ("needs_v", "held"), ("least_w", "out"), ("charge_w", "in")):
            where = {"held": self.held_v is not None, "out": self.gives, "in": not self.gives}[asks]
            if getattr(self, field) is not None and not where:
                ends = {"held": "an outlet whose min_v and max_v are the same", "out": "an outlet", "in": "an inlet"}
                raise ValueError(f"found {field} elsewhere than at {ends[asks]}; take it away")
        return self


class BusRole(BaseRole):
    """A motor bus: daisy-chained, any end to any end."""

    kind: Literal["bus"] = "bus"
    bus: Id
    max_a: Amps | None = None
    when: When = When()

    @property
    def name(self) -> str:
        return self.bus

    @property
    def conductor(self) -> tuple[str, str]:
        return "bus", self.bus

    def fits(self, other: "Role") -> bool:
        """The same bus."""
        return isinstance(other, BusRole) and self.bus == other.bus


class SeatRole(BaseRole):
    """Where a lens sits on a body, or on an adapter between the two. Which fit is told by the connectors."""

    kind: Literal["seat"] = "seat"
    part: Literal["holds", "sits"] = Field(description="the body's side holds, the lens's side sits on it")
    when: When = When()

    @property
    def name(self) -> str:
        return "seat"

    @property
    def conductor(self) -> tuple[str, str]:
        return "seat", "seat"

    @property
    def holds(self) -> bool:
        return self.part == "holds"

    @property
    def sits(self) -> bool:
        return self.part == "sits"

    def fits(self, other: "Role") -> bool:
        """One holds, the other sits."""
        return isinstance(other, SeatRole) and self.part != other.part


Role = Annotated[ControlRole | VideoRole | PowerRole | BusRole | SeatRole, Field(discriminator="kind")]
