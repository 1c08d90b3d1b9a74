"""Which radios have met."""

from dataclasses import dataclass, field
from typing import ClassVar

from isotact.core.model.keys import Between, Item
from isotact.core.model.plan import LinkEnd
from isotact.core.model.ports import Radio as RadioEnd
from isotact.core.model.resolved import ResolvedRig
from isotact.core.world.world import State, World


@dataclass
class Radio(State):
    """Pairs of radios that have met, each in the order of its ends' names.

    `channels` are the numbers that radios are set to; `typed` the network leads over which address and password
    were typed in at the other end. `guests` are servers, by device and protocol, that somebody's client from outside
    the rig is on.
    """

    word: ClassVar[str] = "radio"
    met: set[Between] = field(default_factory=set)
    channels: dict[Item, str] = field(default_factory=dict)
    typed: set[Between] = field(default_factory=set)
    guests: set[Item] = field(default_factory=set)

    def tune(self, rig: ResolvedRig, end: LinkEnd, channel: str) -> None:
        """Set a radio to a channel: it leaves whom it heard, and hears the others of its family there."""
        mine = radio_at(rig, end)
        self.channels[Item(end.device, end.endpoint)] = channel
        self.met = {two for two in self.met if end not in two or not mine.by_channel}
        for item, theirs in self.channels.items():
            other = LinkEnd(device=item.device, endpoint=item.name)
            if theirs == channel and other != end and radio_at(rig, other).hears(mine):
                self.met.add(pair(end, other))

    def channel(self, end: LinkEnd) -> str | None:
        return self.channels.get(Item(end.device, end.endpoint))

    def have_met(self, one: LinkEnd, other: LinkEnd) -> bool:
        return pair(one, other) in self.met

    def has_met(self, device: str, radio: str) -> bool:
        return any((end.device, end.endpoint) == (device, radio) for two in self.met for end in two)

    def sleeps(self, world: World, device: str) -> None:
        """A network is left when either end goes off; a pairing is kept."""
        self.leave(world.rig, device)
        self.guests = {server for server in self.guests if server.device != device}

    def leave(self, rig: ResolvedRig, device: str) -> None:
        """Drop every network that a device is on, or has."""
        self.met = {two for two in self.met if not _is_left(rig, two, device)}

    def forget(self, device: str) -> None:
        """Drop all that a device has met."""
        self.met = {two for two in self.met if all(end.device != device for end in two)}


def radio_at(rig: ResolvedRig, end: LinkEnd) -> RadioEnd:
    """The radio at an end. Raises LookupError where it is a port."""
    found = rig[end.device].endpoint(end.endpoint)
    if not isinstance(found, RadioEnd):
        raise LookupError(f"{end} is no radio")
    return found


def pair(one: LinkEnd, other: LinkEnd) -> Between:
    """The two ends in the order of their names."""
    return Between(*sorted((one, other), key=str))


def _is_left(rig: ResolvedRig, two: Between, device: str) -> bool:
    ends = [rig[end.device].endpoint(end.endpoint) for end in two]
    by_network = any(isinstance(end, RadioEnd) and end.is_network for end in ends)
    return by_network and any(end.device == device for end in two)
