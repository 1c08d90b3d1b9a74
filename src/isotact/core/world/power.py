"""Who runs from what, for how long, and what browns out."""

from collections import defaultdict
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from typing import ClassVar

from isotact.core.model.plan import LinkEnd
from isotact.core.power import Lead, Supply, supply
from isotact.core.world.cables import Cables
from isotact.core.world.circuit import circuit_of
from isotact.core.world.menus import Menus
from isotact.core.world.waking import Waking
from isotact.core.world.world import State, World


@dataclass
class Power(State):
    """What every battery holds, in watt-hours; outlets that give nothing; devices whose own fuse has gone."""

    word: ClassVar[str] = "power"
    battery_wh: dict[str, float] = field(default_factory=dict)
    dead_outlets: set[LinkEnd] = field(default_factory=set)
    blown: set[str] = field(default_factory=set)

    def settle(self, world: World) -> bool:
        """Whatever has lost power sleeps."""
        dark = [device for device in world[Waking].boot_started_s if not world.once(supply_of).has_power(device)]
        for device in dark:
            world.sleep(device)
        return bool(dark)

    def until_s(self, world: World) -> float | None:
        """The moment at which the first battery in use is empty."""
        loads = world.once(supply_of).roots()
        left = [(self.battery_wh.get(device, 0.0), load_w) for device, load_w in loads.items() if load_w > 0]
        # A microsecond on, so that rounding never leaves a battery that is neither empty nor able to go on.
        return min((3600 * charge / load_w + 1e-6 for charge, load_w in left if charge > 0), default=None)

    def passes(self, world: World, seconds: float) -> None:
        """Take what is drawn from every battery, down to nothing."""
        for device, load_w in world.once(supply_of).roots().items():
            self.battery_wh[device] = max(0.0, self.battery_wh.get(device, 0.0) - load_w * seconds / 3600)


def supply_of(world: World) -> Supply:
    """Where every device of `world` draws from now, and how much."""
    rig, power = world.rig, world[Power]
    return supply(
        draws=dict(_draws(world)),
        batteries={device for device, charge in power.battery_wh.items() if charge > 0 and rig.runs_alone(device)},
        leads=list(_leads(world)),
    )


def _draws(world: World) -> Iterator[tuple[str, float | None]]:
    """What each device draws now: nothing while it is off; None for what needs no power at all."""
    switched, on, blown = circuit_of(world.rig).switched, world[Waking].boot_started_s, world[Power].blown
    for device, placed in world.rig.devices.items():
        power = placed.profile.power
        if device not in blown:
            off = device not in world.out or (device in switched and device not in on)
            yield device, None if power is None else 0.0 if off else power.draw_w


def _leads(world: World) -> Iterator[Lead]:
    """Every lead that would feed now, in the order in which they were plugged."""
    rig, circuit, allows = world.rig, circuit_of(world.rig), world[Menus].allows
    dead, awake = world[Power].dead_outlets, world[Waking].awake_since_s
    for key, plug in world[Cables].plugs.items():
        for feed in circuit.feeds(plug):
            giver = feed.giver.device
            if feed.giver in dead or (giver in circuit.switched and giver not in awake):
                continue
            if not allows(giver, feed.outlet.when) or not allows(feed.taker.device, feed.inlet.when):
                continue
            if plug.conducts(rig, "power", "power", feed.from_a):
                yield Lead(key, giver, feed.taker.device, feed.limit_w)


def hours_of(world: World, devices: Iterable[str]) -> dict[str, float]:
    """Battery -> the hours it lasts from full at the load that it carries now, over those that feed `devices`."""
    found = world.once(supply_of)
    loads: dict[str, float] = defaultdict(float)
    for device in devices:
        root = found.root(device)
        if root is not None:
            loads[root] = found.roots().get(root, 0.0)
    return {
        device: usable / load_w
        for device, load_w in loads.items()
        if load_w and (usable := world.rig[device].usable_wh) is not None
    }
