"""Where things are plugged in or heard: ports, radios, and the roles that each can take."""

from collections.abc import Iterator
from typing import Annotated, Literal

from pydantic import Field, model_validator

from isotact.core.model.base import Part
from isotact.core.model.units import Amps, Metres, Millimetres, Milliseconds, Volts
from isotact.core.model.words import CONNECTORS, ConnectorId, Id, PictureFormat, Stage, Text, Version

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

    def knobs(self) -> Iterator[tuple[Literal["mode", "setting", "answer"], str, tuple[str, ...]]]:
        """What it asks for that can be turned: kind (mode, setting or answer), key, the values that will do."""
        if self.mode:
            yield "mode", "", tuple(self.mode)
        for key in self.settings:
            yield "setting", key, self.allowed(key)
        for key, answer in self.answers.items():
            yield "answer", key, (answer,)


Flow = Literal["a-to-b", "b-to-a", "both"]


class BaseRole(Part):
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

    def fits(self, other: "Role") -> bool:
        """The same protocol; a host faces a device, a peer a peer."""
        if not isinstance(other, ControlRole) or self.protocol != other.protocol:
            return False
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


class PowerRole(BaseRole):
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
    def is_outlet(self) -> bool:
        return self.gives

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


Role = Annotated[ControlRole | VideoRole | PowerRole | BusRole, Field(discriminator="kind")]


class Endpoint(Part):
    """What ports and radios answer alike."""

    @property
    def words(self) -> str:
        """How it is called, short: `port “CAM”`, or the radio's name."""
        raise NotImplementedError

    @property
    def shown(self) -> tuple[str, str, str]:
        """Marking, place and connector, as they stand on the map."""
        raise NotImplementedError

    @property
    def air(self) -> str:
        """The radio family; nothing for a socket."""
        return ""

    @property
    def claimed_m(self) -> float | None:
        """The range that is claimed for it in the open; None for a socket, and where nothing is claimed."""
        return None

    @property
    def is_direct(self) -> bool:
        """Whether it mates without a cable."""
        return False

    @property
    def is_socket(self) -> bool:
        """Whether something is plugged in here; a radio is not."""
        return False

    @property
    def takes(self) -> int:
        """How many things can be joined to it at a time."""
        return 1

    @property
    def own_stage(self) -> Stage | None:
        """The stage it sits on, where that is not its device's."""
        return None

    @property
    def lead_mm(self) -> float | None:
        """The length of its lead, where it ends in one."""
        return None

    @property
    def gates(self) -> tuple[When, ...]:
        """What must be true of the device for the whole endpoint to work."""
        return ()

    @property
    def is_battery_bay(self) -> bool:
        """Whether a dummy battery goes in here."""
        return False

    def looks_like(self, _other: "Endpoint") -> bool:
        """Whether the same plug goes into both."""
        return False


class Port(Endpoint):
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

    @property
    def words(self) -> str:
        return f"port “{self.marking}”"

    @property
    def shown(self) -> tuple[str, str, str]:
        return self.marking, self.place, CONNECTORS[self.connector].name

    @property
    def is_socket(self) -> bool:
        return True

    @property
    def own_stage(self) -> Stage | None:
        return self.stage

    @property
    def lead_mm(self) -> float | None:
        return self.captive_mm

    @property
    def is_direct(self) -> bool:
        """Whether two of its connector mate without a cable."""
        return CONNECTORS[self.connector].direct

    @property
    def is_battery_bay(self) -> bool:
        return self.connector == "battery-bay"

    def looks_like(self, other: Endpoint) -> bool:
        return isinstance(other, Port) and other.id != self.id and other.connector == self.connector

    def mates(self, other: "Port") -> bool:
        """Whether the two go straight into each other."""
        return self.connector == other.connector


class Radio(Endpoint):
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

    @property
    def words(self) -> str:
        return self.name

    @property
    def shown(self) -> tuple[str, str, str]:
        return self.name, "radio", self.system

    @property
    def air(self) -> str:
        return self.system

    @property
    def claimed_m(self) -> float | None:
        return self.range_m

    @property
    def takes(self) -> int:
        return self.peers

    @property
    def gates(self) -> tuple[When, ...]:
        return (self.when,)

    @property
    def is_guest(self) -> bool:
        """Whether this end joins the other, so that it is here that a person does it."""
        return self.part in ("station", "receiver")

    @property
    def is_network(self) -> bool:
        """Whether it is left when an end goes off; a pairing is kept."""
        return self.joins_by == "network"
