"""Who runs from what, for how long, and what browns out."""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from itertools import chain
from math import inf
from typing import ClassVar

from isotact.core.calc.loads import Lead, Load, Source
from isotact.core.calc.power import Supply, supply
from isotact.core.model.keys import Item
from isotact.core.model.plan import LinkEnd
from isotact.core.world.cables import Cables, Plugged
from isotact.core.world.circuit import circuit_of
from isotact.core.world.feed_volts import lasting_h
from isotact.core.world.menus import Menus
from isotact.core.world.waking import Waking
from isotact.core.world.world import State, World

TICK_S = 1e-6
"""So that rounding never leaves a battery that is neither empty nor able to go on, or a device that is never up."""


@dataclass
class Power(State):
    """What every battery holds, in watt-hours; outlets that give nothing; devices whose own fuse has gone.

    `bridged`: what keeps going by itself while the battery before it is changed, and until when, on the world's clock.
    """

    word: ClassVar[str] = "power"
    battery_wh: dict[str, float] = field(default_factory=dict)
    dead_outlets: set[LinkEnd] = field(default_factory=set)
    blown: set[str] = field(default_factory=set)
    bridged: dict[str, float] = field(default_factory=dict)

    def settle(self, world: World) -> bool:
        """Whatever has lost power sleeps; what wakes with its feed starts; what has booted is up."""
        supply, waking = world.once(supply_of), world[Waking]
        over = [
            key for key, until_s in self.bridged.items() if supply.fed.get(key) or until_s <= world.clock_s + TICK_S
        ]
        for device in over:
            del self.bridged[device]
        if over:
            return True
        dark = [device for device in waking.boot_started_s if not supply.has_power(device)]
        for device in dark:
            world.sleep(device)
        if dark:
            return True  # whom that leaves without power is told by another look
        fed = [
            device
            for device in circuit_of(world.rig).by_feed
            if device in world.out and not waking.is_on(device) and supply.has_power(device)
        ]
        waking.boot_started_s |= dict.fromkeys(sorted(fed), world.clock_s)
        up = [device for device, left_s in self.booting(world) if left_s <= TICK_S]
        for device in up:
            wake_up(world, device)
        return bool(fed or up)

    def booting(self, world: World) -> Iterator[tuple[str, float]]:
        """What is on its way up, and the seconds until it is."""
        waking = world[Waking]
        for device, began_s in waking.boot_started_s.items():
            wake = world.rig[device].profile.wake
            if wake is not None and not waking.is_awake(device):
                yield device, began_s + wake.boot_s - world.clock_s

    def until_s(self, world: World) -> float | None:
        """The moment at which the first battery in use is empty, or the next device is up."""
        booted = [left_s for _, left_s in self.booting(world)]
        drained = world.once(drained_of)
        left = [(self.battery_wh.get(device, 0.0), load_w) for device, load_w in drained.items() if load_w > 0]
        empty = [3600 * charge / load_w + TICK_S for charge, load_w in left if charge > 0]
        bridged = [until_s - world.clock_s for until_s in self.bridged.values()]
        return min([*empty, *booted, *bridged], default=None)

    def passes(self, world: World, seconds: float) -> None:
        """Take what is drawn from every battery, down to nothing."""
        for device, load_w in world.once(drained_of).items():
            if device in self.bridged:
                continue
            self.battery_wh[device] = max(0.0, self.battery_wh.get(device, 0.0) - load_w * seconds / 3600)


def wake_up(world: World, device: str) -> None:
    """A device has booted: its settings take, and it asks what it asks."""
    world[Waking].awake_since_s[device] = world.clock_s
    world[Menus].take(device)
    wake = world.rig[device].profile.wake
    world[Menus].asking |= {
        Item(device, prompt.id)
        for prompt in (wake.prompts if wake else ())
        if prompt.joined is None or any(plug.is_felt for plug in world[Cables].at(device, prompt.joined))
    }


def supply_of(world: World) -> Supply:
    """Where every device of `world` draws from now, and how much."""
    rig, power = world.rig, world[Power]
    charged = [device for device, charge in power.battery_wh.items() if charge > 0 and rig.runs_alone(device)]
    sources = circuit_of(rig).sources
    bridged = (Source(device) for device in power.bridged)
    return supply(_loads(world), chain((sources[device] for device in charged), bridged), _leads(world))


def drained_of(world: World) -> dict[str, float]:
    """What runs from its own battery -> the watts by which that is emptied: what is drawn, and lost on the way.

    The mean over its charge, so that it is empty at the hour that the sheet says. Where what it feeds would not run
    from it, or nobody knows a battery, what is drawn.
    """
    loads = world.once(supply_of).roots()
    lasts_h = hours_of(world, (device for device, load_w in loads.items() if load_w > 0))
    held_wh = {device: world.rig[device].usable_wh or 0.0 for device in lasts_h}
    lost = {device: held_wh[device] / hours for device, hours in lasts_h.items() if 0 < hours < inf}
    return {device: lost.get(device, load_w) for device, load_w in loads.items()}


BRIDGED_S = 120.0
"""So long a plate that bridges a change goes on by itself: a battery off and the next one on. Common practice."""


def bridge(world: World, giver: str) -> None:
    """Something that feeds others is about to be taken off: what is made for it keeps them going meanwhile."""
    for device, lead in world.once(supply_of).fed.items():
        power = world.rig[device].profile.power
        if lead is not None and lead.giver == giver and power is not None and power.bridges:
            world[Power].bridged[device] = world.clock_s + BRIDGED_S


def _loads(world: World) -> Iterator[Load]:
    """What each device takes now: nothing while it is off. One whose fuse has gone takes none and passes none on."""
    circuit = circuit_of(world.rig)
    switched, on, blown = circuit.switched - circuit.by_feed, world[Waking].boot_started_s, world[Power].blown
    for device in world.rig.devices:
        if device not in blown:
            off = device not in world.out or (device in switched and device not in on)
            yield (circuit.idle if off else circuit.loads)[device]


def _leads(world: World) -> Iterator[Lead]:
    """Every lead that would feed now, in the order in which they were plugged."""
    rig, circuit, allows = world.rig, circuit_of(world.rig), world[Menus].allows
    dead, awake = world[Power].dead_outlets, world[Waking].awake_since_s
    for key, plug in world[Cables].plugs.items():
        for feed in circuit.feeds(key, plug):
            giver = feed.giver.device
            if (dead and feed.giver in dead) or (giver in circuit.switched and giver not in awake):
                continue
            if feed.asks and not (allows(giver, feed.outlet.when) and allows(feed.taker.device, feed.inlet.when)):
                continue
            if plug.conducts(rig, "power", "power", feed.from_a):
                yield feed.limits.lead(key, giver, feed.taker.device)


def live_feeds(world: World, device: str) -> list[Plugged]:
    """The leads that give a device power now, whichever of them it runs from."""
    return [world[Cables].plugs[lead.id] for lead in _leads(world) if lead.taker == device]


def hours_of(world: World, devices: Iterable[str], changes: int = 0) -> dict[str, float]:
    """Battery -> the hours it lasts at the load that it carries now, over those that feed `devices`.

    As full as it is known to be, and with up to so many changes for a full one; what is lost on the way counts.
    """
    found = world.once(supply_of)
    roots = {root: found.roots().get(root, 0.0) for device in devices if (root := found.root(device)) is not None}
    return lasting_h(world.rig, found, (device for device, load_w in roots.items() if load_w), changes)
