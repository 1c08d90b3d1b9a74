"""The state of a simulated rig: what is plugged, awake, set and joined. State only; the bench changes it."""

from dataclasses import dataclass, field

from isotact.core.model.cable import CableType, Conductor
from isotact.core.model.plan import LinkEnd
from isotact.core.model.ports import PowerRole
from isotact.core.model.resolved import ResolvedRig


@dataclass
class DeviceState:
    """One device, as it is now. `stored` settings are chosen, `effective` ones have taken."""

    mode: str | None
    stored: dict[str, str]
    effective: dict[str, str]
    firmware: str | None
    licences: tuple[str, ...]
    battery_wh: float = 0
    booting: bool = False
    boot_started_s: float | None = None
    awake_since_s: float | None = None
    asking: set[str] = field(default_factory=set)
    answers: dict[str, str] = field(default_factory=dict)
    balanced: bool = False
    recording: bool = False

    @property
    def is_awake(self) -> bool:
        return self.awake_since_s is not None


@dataclass
class Plugged:
    """A cable (or bare contact) between two ends. The last two fields are how it can be bad."""

    a: LinkEnd
    b: LinkEnd
    cable: CableType | None
    adapter: CableType | None
    end_a: int
    end_b: int
    at_s: float
    seated: bool = True
    data_dead: bool = False
    wired_for: tuple[str, ...] | None = None

    def joins(self, one: LinkEnd, other: LinkEnd) -> bool:
        return {one, other} == {self.a, self.b}

    def has(self, device: str, endpoint: str) -> bool:
        return any(end.device == device and end.endpoint == endpoint for end in (self.a, self.b))

    def conducts(self, medium: str, wired: str, from_a: bool = True) -> bool:
        """Whether it carries `medium`, wired for `wired`, in that direction."""
        if self.cable is None:
            return True
        if self.data_dead and medium != "power":
            return False
        if self.wired_for is not None and wired not in self.wired_for:
            return False
        return any(self._one(c, medium, wired, from_a) for c in self.cable.carries) and (
            self.adapter is None or any(c.conducts(medium, wired) for c in self.adapter.carries)
        )

    def _one(self, conductor: Conductor, medium: str, wired: str, from_a: bool) -> bool:
        """Whether one conductor runs between the two ends that are plugged, and conducts that way."""
        first, second = (self.end_a, self.end_b) if from_a else (self.end_b, self.end_a)
        runs = conductor.between == (first, second) or (not conductor.one_way and conductor.between == (second, first))
        return runs and conductor.conducts(medium, wired)


@dataclass
class World:
    """A whole simulated rig at one moment."""

    rig: ResolvedRig
    devices: dict[str, DeviceState]
    clock_s: float = 0
    plugged: list[Plugged] = field(default_factory=list)
    met: set[frozenset[LinkEnd]] = field(default_factory=set)
    laid_out: dict[str, tuple[CableType, CableType | None]] = field(default_factory=dict)

    def plug_between(self, one: LinkEnd, other: LinkEnd) -> Plugged | None:
        return next((plug for plug in self.plugged if plug.joins(one, other)), None)

    def is_alive(self, device: str) -> bool:
        """Awake; of the kind that is never switched on, whether it has the power that it wants."""
        profile = self.rig[device].profile
        if profile.wake is None:
            return profile.power is None or feeder_of(self, device) is not None
        return self.devices[device].is_awake


def fresh_world(rig: ResolvedRig) -> World:
    """Everything in its case: unplugged, asleep, batteries out, settings as the rig says they are now."""
    devices = {}
    for key, placed in rig.devices.items():
        settings = {setting.id: placed.setting_now(setting.id) for setting in placed.profile.settings}
        devices[key] = DeviceState(
            mode=placed.mode_now,
            stored=settings,
            effective=dict(settings),
            firmware=placed.device.firmware or placed.profile.firmware,
            licences=tuple(placed.device.licences),
        )
    return World(rig, devices)


def feeder_of(world: World, device: str, seen: tuple[str, ...] = ()) -> str | None:
    """The device whose battery `device` runs from now: its own, or the one at the far end of live feeds."""
    if device in seen:
        return None
    power = world.rig[device].profile.power
    if power is None:
        return device
    for plug in world.plugged:
        for here, there in ((plug.a, plug.b), (plug.b, plug.a)):
            if here.device == device and _feeds(world, plug, there, here):
                root = feeder_of(world, there.device, (*seen, device))
                if root is not None:
                    return root
    own = power.inner_battery
    if own is not None and own.feeds_only is None and world.devices[device].battery_wh > 0:
        return device
    return None


def up_since_s(world: World, device: str, seen: tuple[str, ...] = ()) -> float | None:
    """Since when a device is up; for one that nobody switches on, since the feed that it runs from. None: it is not."""
    if world.rig[device].profile.wake is not None:
        return world.devices[device].awake_since_s
    if world.rig[device].profile.power is None or world.rig.runs_alone(device):
        return 0.0
    for plug in world.plugged:
        for here, there in ((plug.a, plug.b), (plug.b, plug.a)):
            if here.device == device and there.device not in seen and _feeds(world, plug, there, here):
                since = up_since_s(world, there.device, (*seen, device))
                return None if since is None else max(since, plug.at_s)
    return None


def _feeds(world: World, plug: Plugged, giver: LinkEnd, taker: LinkEnd) -> bool:
    asleep = world.rig[giver.device].profile.wake is not None and not world.devices[giver.device].is_awake
    if asleep or not plug.seated:
        return False
    if not plug.conducts("power", "power", from_a=giver == plug.a):
        return False
    outlets = [outlet for outlet in _power_roles(world, giver, "out") if not _browns_out(world, plug, outlet, taker)]
    inlets = [inlet for inlet in _power_roles(world, taker, "in") if inlet.feeds == "run"]
    return any(inlet.takes(outlet) for outlet in outlets for inlet in inlets)


def _browns_out(world: World, plug: Plugged, outlet: PowerRole, taker: LinkEnd) -> bool:
    """Whether the taker alone already draws more than the outlet or the cable gives."""
    power = world.rig[taker.device].profile.power
    limits = (
        [outlet.max_a] + [c.max_a for c in plug.cable.carries if c.medium == "power"] if plug.cable else [outlet.max_a]
    )
    amps = min(limit for limit in limits if limit is not None)
    return power is not None and power.draw_w > amps * outlet.min_v


def _power_roles(world: World, end: LinkEnd, flow: str) -> list[PowerRole]:
    """The power roles of an end that its device's settings allow now."""
    state = world.devices[end.device]
    roles = [role for role in world.rig[end.device].endpoint(end.endpoint).roles if isinstance(role, PowerRole)]
    return [
        role
        for role in roles
        if role.flow == flow
        and (not role.when.mode or state.mode in role.when.mode)
        and all(state.effective.get(key) in role.when.allowed(key) for key in role.when.settings)
    ]
