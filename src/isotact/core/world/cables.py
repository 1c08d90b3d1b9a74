"""What is plugged where: each cable or contact between two ends, and how it can be bad."""

from collections import Counter
from dataclasses import dataclass, field, replace
from typing import ClassVar

from isotact.core.model.cable import CableType, conducts
from isotact.core.model.keys import Between
from isotact.core.model.plan import LinkEnd
from isotact.core.model.resolved import ResolvedRig
from isotact.core.world.world import State


@dataclass(frozen=True)
class Laid:
    """A cable out of the bag, with its tape flag on."""

    cable: str
    adapters: tuple[str, ...] = ()


@dataclass(frozen=True)
class Plugged:
    """A cable, or bare contact, between two ends. `dead` media and `miswired` families do not get through."""

    a: LinkEnd
    b: LinkEnd
    tag: str
    cable: str | None
    adapters: tuple[str, ...]
    end_a: int
    end_b: int
    at_s: float
    seated: bool = True
    held: bool = False
    """Whether one plug is still out, ready to go in: a device that wakes with its feed is woken by that."""
    dead: frozenset[str] = frozenset()
    miswired: frozenset[str] = frozenset()

    def has(self, device: str, endpoint: str) -> bool:
        return any(end.device == device and end.endpoint == endpoint for end in (self.a, self.b))

    @property
    def stock(self) -> tuple[str, ...]:
        """What of the bag lies there: a cable and the adapters on it."""
        return (self.cable, *self.adapters) if self.cable else ()

    def types(self, rig: ResolvedRig) -> tuple[CableType | None, list[CableType]]:
        """The cable type and those of the adapters on it."""
        return rig.cables[self.cable] if self.cable else None, [rig.cables[key] for key in self.adapters]

    @property
    def is_felt(self) -> bool:
        """Whether a device that looks for what is plugged finds it: home at both ends, its data wires whole."""
        return self.seated and not self.held and not self.dead - {"power"}

    def conducts(self, rig: ResolvedRig, medium: str, wired: str, from_a: bool = True) -> bool:
        """Whether it brings `medium`, wired for `wired`, across in that direction."""
        if not self.seated or self.held or medium in self.dead or wired in self.miswired:
            return False
        cable, adapters = self.types(rig)
        ends = (self.end_a, self.end_b) if from_a else (self.end_b, self.end_a)
        return conducts(cable, adapters, ends, medium, wired)


def _takes_power(rig: ResolvedRig, end: LinkEnd) -> bool:
    return any(role.is_inlet for role in rig[end.device].endpoint(end.endpoint).roles)


@dataclass
class Cables(State):
    """Every plug by its two ends, in the order in which they went in; and what lies flagged and ready."""

    word: ClassVar[str] = "cables"
    plugs: dict[str, Plugged] = field(default_factory=dict)
    laid_out: dict[str, Laid] = field(default_factory=dict)

    def between(self, a: LinkEnd, b: LinkEnd) -> Plugged | None:
        return self.plugs.get(str(Between(a, b))) or self.plugs.get(str(Between(b, a)))

    def put(self, plug: Plugged) -> None:
        self.plugs[str(Between(plug.a, plug.b))] = plug

    def take(self, plug: Plugged) -> None:
        del self.plugs[str(Between(plug.a, plug.b))]

    def change(self, a: LinkEnd, b: LinkEnd, **changes: object) -> None:
        """Put the plug between `a` and `b` back changed, in its old place in the order."""
        plug = self.between(a, b)
        if plug is not None:
            self.put(replace(plug, **changes))  # type: ignore[arg-type]

    def left_in_bag(self, rig: ResolvedRig) -> dict[str, int]:
        """How many of each cable type and adapter still lie in the bag."""
        used = Counter(key for laid in self.laid_out.values() for key in (laid.cable, *laid.adapters))
        return {key: count - used[key] for key, count in rig.stock.items() if count > used[key]}

    def feeding(self, rig: ResolvedRig, device: str) -> list[Plugged]:
        """The leads by which a device could be fed."""
        return [
            plug
            for plug in self.plugs.values()
            if any(_takes_power(rig, end) for end in (plug.a, plug.b) if end.device == device)
        ]

    def hold(self, plug: Plugged, held: bool) -> None:
        """Take one plug of a lead out and keep it at hand, or put it in."""
        self.put(replace(plug, held=held))

    def put_in(self, plug: Plugged, at_s: float) -> None:
        """Put in the plug that was kept at hand."""
        self.put(replace(plug, held=False, at_s=at_s))

    def move(self, plug: Plugged, **ends: LinkEnd) -> None:
        """Put a plug into other ends."""
        self.take(plug)
        self.put(replace(plug, **ends))  # type: ignore[arg-type]

    def at(self, device: str, endpoint: str) -> list[Plugged]:
        return [plug for plug in self.plugs.values() if plug.has(device, endpoint)]
