"""Which motors know the ends of their rings, and which lens tables are loaded where."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from typing import ClassVar

from isotact.core.model.keys import Item, Key
from isotact.core.model.legs import Leg
from isotact.core.model.plan import LinkEnd
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.vocabulary import vocabulary
from isotact.core.world.cables import Cables
from isotact.core.world.circuit import circuit_of
from isotact.core.world.menus import Menus
from isotact.core.world.signals import now
from isotact.core.world.world import State, World


@dataclass
class LensDrive(State):
    """`ends` holds, per gear of a motor, the ring whose ends it knows. `tables` are the lenses, by
    profile, of which a driver has the table.
    """

    word: ClassVar[str] = "lens-drive"
    ends: dict[Item, str] = field(default_factory=dict)
    tables: set[Item] = field(default_factory=set)

    def knows(self, motor: LinkEnd, ring: LinkEnd) -> bool:
        return self.ends.get(Item(motor.device, motor.endpoint)) == str(ring)

    def settle(self, world: World) -> bool:
        """A motor that lost its feed, or whose driver did, has lost its ends; so has one that left its ring."""
        lost = [item for item, ring in self.ends.items() if not self._stands(world, item, ring)]
        for item in lost:
            del self.ends[item]
        return bool(lost)

    def _stands(self, world: World, item: Item, ring: str) -> bool:
        meshed = any(ring in (str(plug.a), str(plug.b)) for plug in world[Cables].at(item.device, item.name))
        return meshed and is_driven(world, item.device)

    def spoil(self, key: Key) -> None:
        """Some modes make the driver forget, though power was never away."""
        if key == Key.of("mapping"):
            self.ends.clear()

    def stopped(self, world: World, leg: Leg) -> frozenset[str]:
        """A motor turns nothing, and tells nothing, until it knows both ends and is alone on its axis."""
        ends = circuit_of(world.rig).gears.get(leg)
        return frozenset().union(*(self._kept_back(world, leg, motor) for motor in ends)) if ends else frozenset()

    def instead(self, world: World, function: str) -> str | None:
        """Two motors on one axis turn together."""
        turning = [
            LinkEnd(device=leg.device, endpoint=leg.leaves[0])
            for leg in circuit_of(world.rig).legs
            if leg.leaves is not None and function in leg.functions and Item(leg.device, leg.leaves[0]) in self.ends
            if leg.leaves[1] in _axes(world, leg.device) and is_driven(world, leg.device)
        ]
        return "Two rings turn at once." if any(rivals(world, motor) for motor in turning) else None

    def _kept_back(self, world: World, leg: Leg, motor: LinkEnd) -> frozenset[str]:
        ring = ring_of(world, motor)
        if ring is None or not self.knows(motor, ring) or rivals(world, motor):
            return leg.passing
        keepers = [device for device in world.out if world.rig[device].profile.keeps_tables]
        lens = world.rig[ring.device].profile.id
        if any(Item(one, lens) in self.tables for one in (driver_of(world, motor.device), *keepers) if one is not None):
            return frozenset()
        return frozenset(function for function in leg.functions if vocabulary().functions[function].reads_table)


def ring_of(world: World, motor: LinkEnd) -> LinkEnd | None:
    """The ring with which a motor's gear meshes."""
    for plug in world[Cables].at(motor.device, motor.endpoint):
        return plug.b if plug.a == motor else plug.a
    return None


def is_driven(world: World, motor: str) -> bool:
    """Whether a motor has power, and so has what drives it."""
    driver = driver_of(world, motor)
    return driver is not None and now(world).supply.has_power(motor) and driver in now(world).alive


def driver_of(world: World, motor: str) -> str | None:
    """The device whose orders a motor takes: itself, where it has a driver inside, else the host of its bus."""
    known = world.once(_known_drivers)
    if motor not in known:
        known[motor] = _driver_of(world, motor)
    return known[motor]


def _known_drivers(world: World) -> dict[str, str | None]:
    """What was found out already in the world as it is now."""
    return {}


def _driver_of(world: World, motor: str) -> str | None:
    return up_the_bus(world.rig, motor, lambda device: _hosts(world, device))


def up_the_bus(rig: ResolvedRig, motor: str, hosts: Callable[[str], Iterator[str]]) -> str | None:
    """The first device that is woken, from a motor up its bus; `hosts` tells what a device's bus leads to."""
    here, seen = motor, {motor}
    while rig[here].profile.wake is None:
        above = next((device for device in hosts(here) if device not in seen), None)
        if above is None:
            return None
        seen.add(above)
        here = above
    return here


def _hosts(world: World, device: str) -> Iterator[str]:
    """What a device's bus leads to, one plug up."""
    circuit = circuit_of(world.rig)
    for plug in world[Cables].plugs.values():
        for near, far in ((plug.a, plug.b), (plug.b, plug.a)):
            if near.device == device and any(
                mine.conductor[0] == "bus" and theirs.is_host for mine, theirs in circuit.fits(near, far)
            ):
                yield far.device


def rivals(world: World, motor: LinkEnd) -> list[str]:
    """Other motors of the same driver that are set to turn the same axis."""
    turning, driver = circuit_of(world.rig).turning, driver_of(world, motor.device)
    mine = _axes(world, motor.device)
    return [
        other
        for other in turning
        if other != motor.device and driver is not None and mine & _axes(world, other)
        if driver_of(world, other) == driver
    ]


def _axes(world: World, device: str) -> frozenset[str]:
    """What a device's gears are set to turn now."""
    roles = circuit_of(world.rig).turning.get(device, ())
    return frozenset(role.name for role in roles if world[Menus].allows(device, role.when))
