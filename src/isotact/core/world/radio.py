"""Which radios have met."""

from dataclasses import dataclass, field
from typing import ClassVar

from isotact.core.model.keys import Between
from isotact.core.model.plan import LinkEnd
from isotact.core.model.ports import Radio as RadioEnd
from isotact.core.model.resolved import ResolvedRig
from isotact.core.world.world import State, World


@dataclass
class Radio(State):
    """Pairs of radios that have met, each in the order of its ends' names."""

    word: ClassVar[str] = "radio"
    met: set[Between] = field(default_factory=set)

    def have_met(self, one: LinkEnd, other: LinkEnd) -> bool:
        return pair(one, other) in self.met

    def has_met(self, device: str, radio: str) -> bool:
        return any((end.device, end.endpoint) == (device, radio) for two in self.met for end in two)

    def sleeps(self, world: World, device: str) -> None:
        """A network is left when either end goes off; a pairing is kept."""
        self.met = {two for two in self.met if not _is_left(world.rig, two, device)}


def pair(one: LinkEnd, other: LinkEnd) -> Between:
    """The two ends in the order of their names."""
    return Between(*sorted((one, other), key=str))


def _is_left(rig: ResolvedRig, two: Between, device: str) -> bool:
    ends = [rig[end.device].endpoint(end.endpoint) for end in two]
    by_network = any(isinstance(end, RadioEnd) and end.is_network for end in ends)
    return by_network and any(end.device == device for end in two)
