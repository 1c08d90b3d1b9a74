"""Who runs from what, for how long, and what browns out."""

from collections import defaultdict
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from typing import ClassVar, NamedTuple

from isotact.core.model.plan import LinkEnd
from isotact.core.model.ports import PowerRole
from isotact.core.model.resolved import ResolvedRig
from isotact.core.power import Lead, Supply, supply
from isotact.core.world.cables import Cables, Plugged
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
    rig = world.rig
    return supply(
        draws={device: _draw_w(world, device) for device in rig.devices if device not in world[Power].blown},
        batteries={
            device for device, charge in world[Power].battery_wh.items() if charge > 0 and rig.runs_alone(device)
        },
        leads=list(_leads(world)),
    )


def _draw_w(world: World, device: str) -> float | None:
    """What a device draws now: nothing while it is off; None for what needs no power at all."""
    profile = world.rig[device].profile
    if profile.power is None:
        return None
    off = profile.wake is not None and not world[Waking].is_on(device)
    return 0.0 if off or device not in world.out else profile.power.draw_w


class _Direction(NamedTuple):
    giver: LinkEnd
    taker: LinkEnd
    from_a: bool


def _leads(world: World) -> Iterator[Lead]:
    """Every lead that would feed now, in the order in which they were plugged."""
    for plug in world[Cables].plugs.values():
        for way in (_Direction(plug.a, plug.b, True), _Direction(plug.b, plug.a, False)):
            found = _lead(world, plug, way)
            if found is not None:
                yield found


def _lead(world: World, plug: Plugged, way: _Direction) -> Lead | None:
    rig, giver = world.rig, way.giver
    if rig[giver.device].profile.power is None or giver in world[Power].dead_outlets:
        return None
    if rig[giver.device].profile.wake is not None and not world[Waking].is_awake(giver.device):
        return None
    limits = [
        limit_w(rig, outlet, inlet, plug.cable, plug.adapter)
        for outlet in power_roles(rig, giver)
        for inlet in power_roles(rig, way.taker)
        if outlet.gives and can_run(outlet, inlet)
        if world[Menus].allows(giver.device, outlet.when) and world[Menus].allows(way.taker.device, inlet.when)
    ]
    if not limits or not plug.conducts(rig, "power", "power", way.from_a):
        return None
    return Lead(str(plug.a) + "--" + str(plug.b), giver.device, way.taker.device, max(limits))


def power_roles(rig: ResolvedRig, end: LinkEnd) -> list[PowerRole]:
    """The power roles of an end."""
    return [role for role in rig[end.device].endpoint(end.endpoint).roles if isinstance(role, PowerRole)]


def can_run(outlet: PowerRole, inlet: PowerRole) -> bool:
    """Whether a device can run by `inlet` from `outlet`: an inlet that only charges keeps nothing going."""
    return inlet.feeds == "run" and inlet.fits(outlet)


def limit_w(
    rig: ResolvedRig, outlet: PowerRole, inlet: PowerRole, cable: str | None, adapter: str | None = None
) -> float:
    """The most that a feed carries: the least amps of outlet, inlet and cable, at the outlet's lowest volts."""
    amps = [outlet.max_a, inlet.max_a, *(rig.cables[key].limit_of("power") for key in (cable, adapter) if key)]
    return outlet.min_v * min(limit for limit in amps if limit is not None)


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
