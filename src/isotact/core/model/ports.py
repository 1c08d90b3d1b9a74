"""Where things are plugged in or heard: ports, radios, and the roles that each can take."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from isotact.core.model.base import Part
from isotact.core.model.units import Amps, Metres, Millimetres, Milliseconds, Volts
from isotact.core.model.words import ConnectorId, Id, PictureFormat, Stage, Text, Version

EndpointRef = Annotated[str, Field(pattern=r"^[a-z0-9-]+(/[a-z0-9-]+)?$", max_length=130)]
"""A port or radio of the same profile, and which of its roles: `usb/body-tether`, or just `hdmi`."""

PlugAngle = Literal["straight", "right", "coiled"]
Upset = Literal["restarts", "resets-settings", "forgets-pairing", "forgets-mapping", "drops-links", "restarts-driver"]


class When(Part):
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


class ControlRole(Part):
    """The port speaks a protocol by which functions are carried, either way."""

    kind: Literal["control"] = "control"
    protocol: Id = Field(description="a name of your own for what is spoken; both ends must use the same")
    medium: Id = Field(default="air", description="what the conductor must be: usb-data, serial, network, pwm ...")
    end: Literal["host", "device", "peer"] = "peer"
    wake: Literal["any", "peer-first", "self-first"] = Field(
        default="any", description="who must be awake first for the two to find each other"
    )
    joined_before_wake: bool = Field(default=False, description="this end looks for a cable only while it boots")
    when: When = When()

    @property
    def name(self) -> str:
        return self.protocol


class VideoRole(Part):
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


class PowerRole(Part):
    """Power enters or leaves here."""

    kind: Literal["power"] = "power"
    flow: Literal["in", "out"]
    min_v: Volts
    max_v: Volts
    max_a: Amps | None = Field(default=None, description="out: the limit of this outlet")
    feeds: Literal["run", "charge"] = Field(default="run", description="in: can run from it, or only charges by it")
    when: When = When()

    @property
    def name(self) -> str:
        return f"power-{self.flow}"

    def takes(self, outlet: "PowerRole") -> bool:
        """Whether this inlet stands every voltage that `outlet` gives."""
        return self.min_v <= outlet.min_v and outlet.max_v <= self.max_v

    @model_validator(mode="after")
    def _volts_in_order(self) -> "PowerRole":
        if self.min_v > self.max_v:
            raise ValueError(f"found min_v {self.min_v:g} above max_v {self.max_v:g}; swap them")
        if self.flow == "out" and self.max_a is None:
            raise ValueError("an outlet needs max_a, the most it gives; found none")
        return self


class BusRole(Part):
    """A motor bus: daisy-chained, any end to any end."""

    kind: Literal["bus"] = "bus"
    bus: Id
    max_a: Amps | None = None
    when: When = When()

    @property
    def name(self) -> str:
        return self.bus


Role = Annotated[ControlRole | VideoRole | PowerRole | BusRole, Field(discriminator="kind")]


class Port(Part):
    """A socket, named by its marking and place so that nobody has to guess which of two it is."""

    id: Id
    marking: Text = Field(description="what is printed beside it, word for word")
    place: Text = Field(description="where on the device, as you would tell somebody who cannot see it")
    side: Literal["left", "right", "front", "back", "top", "bottom"]
    connector: ConnectorId
    stage: Stage | None = Field(default=None, description="only when the port sits on another stage than its device")
    captive_mm: Millimetres | None = Field(
        default=None, description="length of a lead that is part of the device; its plug goes straight into a socket"
    )
    angles: list[PlugAngle] = Field(
        default=[], description="only plugs of these angles go in beside what stands in the way; empty: any"
    )
    roles: list[Role] = []
    note: Text | None = Field(default=None, description="said beside the port wherever it is shown")


class Radio(Part):
    """A radio, and what it carries. Two radios can meet when their `system` is the same."""

    id: Id
    name: Text
    system: Id = Field(description="wifi, bluetooth, or the name of a private radio family")
    part: Literal["access-point", "station", "peer", "sender", "receiver"]
    joins_by: Literal["network", "pairing", "channel"] = Field(description="what a person does to make two meet")
    peers: int = Field(default=1, ge=1, le=64)
    band: Text | None = Field(default=None, description="such as '2.4 GHz' or '5 GHz'")
    channels: list[Text] = []
    power_dbm: float | None = Field(default=None, ge=-40, le=40)
    range_m: Metres | None = Field(default=None, description="claimed, in the open")
    network_label: Text | None = Field(default=None, description="where its network name and password are written")
    pairing: Text | None = Field(default=None, description="how pairing is started on this end")
    delay_ms: Milliseconds = 0
    roles: list[Role] = []
    when: When = When()
