"""What passes at a port or radio: control, picture, power or a motor bus, and what must be set for it."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from isotact.core.model.base_role import BaseRole, When
from isotact.core.model.power_role import PowerRole
from isotact.core.model.units import Amps
from isotact.core.model.words import Id, PictureFormat


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

    def fits(self, other: BaseRole) -> bool:
        """The same protocol; a host faces a device, a peer a peer."""
        return isinstance(other, ControlRole) and self.protocol == other.protocol and self._may_answer(other)

    def faces(self, other: BaseRole) -> bool:
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

    def fits(self, other: BaseRole) -> bool:
        """The same signal, one end out and the other in."""
        return isinstance(other, VideoRole) and self.signal == other.signal and self.flow != other.flow

    def faces(self, other: BaseRole) -> bool:
        return isinstance(other, VideoRole) and (self.flow, other.flow) == ("out", "in")


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

    def fits(self, other: BaseRole) -> bool:
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

    def fits(self, other: BaseRole) -> bool:
        """One holds, the other sits."""
        return isinstance(other, SeatRole) and self.part != other.part


Role = Annotated[ControlRole | VideoRole | PowerRole | BusRole | SeatRole, Field(discriminator="kind")]
