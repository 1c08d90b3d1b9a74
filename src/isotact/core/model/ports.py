"""Where things are plugged in or heard: ports and radios."""

from typing import Annotated, Literal

from pydantic import Field

from isotact.core.model.base import Struct
from isotact.core.model.base_role import When
from isotact.core.model.places import Points, Side, Spot, Turned
from isotact.core.model.roles import Role
from isotact.core.model.units import Metres, Millimetres, Milliseconds, Seconds
from isotact.core.model.vocabulary import ConnectorId, vocabulary
from isotact.core.model.words import Id, Name, Stage, Text

EndpointRef = Annotated[str, Field(pattern=r"^[a-z0-9-]+(/[a-z0-9-]+)?$", max_length=130)]
"""A port or radio of the same profile, and which of its roles: `usb/body-tether`, or just `hdmi`."""

PlugAngle = Literal["straight", "right", "coiled"]
Upset = Literal["restarts", "resets-settings", "forgets-pairing", "forgets-mapping", "drops-links", "restarts-driver"]


class Endpoint(Struct):
    """What ports and radios answer alike."""

    roles: list[Role] = []

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
    def mated(self) -> str:
        """What tells that two of its kind are home; nothing for what takes a plug."""
        return ""

    @property
    def opens_network(self) -> bool:
        """Whether what is here opens a network that others join."""
        return False

    @property
    def is_gear(self) -> bool:
        """Whether teeth mesh here, so that one end turns the other."""
        return False

    @property
    def advice(self) -> str | None:
        """What is said beside it wherever it is used."""
        return None

    @property
    def gates(self) -> tuple[When, ...]:
        """What must be true of the device for the whole endpoint to work."""
        return ()

    @property
    def is_battery_bay(self) -> bool:
        """Whether what goes in here takes the place of the device's own battery, as a dummy battery does."""
        return False

    def looks_like(self, _other: "Endpoint") -> bool:
        """Whether the same plug goes into both."""
        return False


class Port(Endpoint):
    """A socket, named by its marking and place so that nobody has to guess which of two it is."""

    id: Id
    marking: Text = Field(description="what is printed beside it, word for word")
    place: Text = Field(description="where on the device, as you would tell somebody who cannot see it")
    side: Side
    at: Spot | None = Field(
        default=None, description="where on that side; left out: nobody said, and it is drawn in a row"
    )
    turned: Turned = Field(default=0, description="by how many degrees its socket is turned clockwise")
    points: Points = Field(default="out", description="which way a lead leaves: out of the side, or along it")
    door: Text | None = Field(default=None, description="the door or flap that is opened first")
    connector: ConnectorId
    stage: Stage | None = Field(default=None, description="only when the port sits on another stage than its device")
    captive_mm: Millimetres | None = Field(
        default=None, description="length of a lead that is part of the device; its plug goes straight into a socket"
    )
    angles: list[PlugAngle] = Field(
        default=[], description="only plugs of these angles go in beside what stands in the way; empty: any"
    )
    roles: list[Role] = []
    battery_out: bool = Field(
        default=False,
        description="what goes in here stands where the device's own battery would be; of a bay always",
    )
    hard_stops: bool = Field(
        default=False, description="a ring that stops at both ends by itself; left out: it does not, or nobody knows"
    )
    note: Text | None = Field(default=None, description="said beside the port wherever it is shown")

    @property
    def words(self) -> str:
        return f"port “{self.marking}”"

    @property
    def shown(self) -> tuple[str, str, str]:
        return self.marking, self.place, vocabulary().connectors[self.connector].name

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
        return vocabulary().connectors[self.connector].direct

    @property
    def mated(self) -> str:
        return "" if self.captive_mm is not None else vocabulary().connectors[self.connector].mated

    @property
    def is_gear(self) -> bool:
        return vocabulary().connectors[self.connector].gear

    @property
    def advice(self) -> str | None:
        return self.note

    @property
    def is_battery_bay(self) -> bool:
        return self.battery_out or self.connector == "battery-bay"

    def looks_like(self, other: Endpoint) -> bool:
        return isinstance(other, Port) and other.id != self.id and other.connector == self.connector

    def mates(self, other: "Port") -> bool:
        """Whether the two go straight into each other."""
        return self.connector == other.connector


class Radio(Endpoint):
    """A radio, and what it carries. Two radios can meet when their `system` is the same."""

    id: Id
    name: Name
    system: Id = Field(description="wifi, bluetooth, or the name of a private radio family")
    part: Literal["access-point", "station", "peer", "sender", "receiver"]
    joins_by: Literal["network", "pairing", "channel"] = Field(description="what a person does to make two meet")
    meets_in: list[Id] = Field(default=[], description="a new link starts in one of these modes only; empty: all")
    wait_s: Seconds = Field(default=0, description="how long pairing takes once it is started on both ends")
    sign: Text | None = Field(default=None, description="what shows that the two have met")
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
    def by_channel(self) -> bool:
        """Whether two meet by standing on the same channel, with nothing to pair."""
        return self.joins_by == "channel"

    def hears(self, other: "Radio") -> bool:
        """Whether the two meet as soon as they stand on one channel."""
        return self.by_channel and other.by_channel and self.system == other.system

    @property
    def opens_network(self) -> bool:
        return self.is_network and self.part == "access-point"

    @property
    def is_network(self) -> bool:
        """Whether it is left when an end goes off; a pairing is kept."""
        return self.joins_by == "network"
