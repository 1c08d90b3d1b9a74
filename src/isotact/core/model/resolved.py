"""A rig with every name in it looked up: what the engines work on."""

from collections.abc import Hashable, Iterable, Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

from isotact.core.calc.batteries import CHEMISTRIES, Battery
from isotact.core.model.behaviour import Accepts, Emits, Makes, Passes, Prompt, Relays, Shows, name_of
from isotact.core.model.cable import CableType
from isotact.core.model.gimbals import Carrier
from isotact.core.model.plan import Link
from isotact.core.model.ports import Port, Radio, Upset
from isotact.core.model.power_role import PowerRole
from isotact.core.model.problems import Problem, RefusedError, path_text
from isotact.core.model.profile import Profile
from isotact.core.model.references import whens
from isotact.core.model.rig import Device, Rig
from isotact.core.model.roles import Role
from isotact.core.model.shot import Energy
from isotact.core.model.small_parts import PartBag, bag_of
from isotact.core.model.unknown_names import unknown_names
from isotact.core.model.vocabulary import vocabulary
from isotact.core.model.words import Stage, version_key


def _settings_at(end: Port | Radio) -> frozenset[str]:
    whens = (*(role.when for role in end.roles), *end.gates)
    return frozenset(setting for when in whens for setting in when.settings)


@dataclass(frozen=True)
class Placed:
    """A device of the rig together with its profile."""

    device: Device
    profile: Profile
    energy: Energy = field(default_factory=Energy)

    @property
    def id(self) -> str:
        return self.device.id

    @property
    def name(self) -> str:
        return self.device.name or self.profile.name

    @property
    def mass_g(self) -> float:
        """As the crew weighed it, or else as its profile says."""
        return self.profile.mass_g if self.device.mass_g is None else self.device.mass_g

    @property
    def kind_name(self) -> str:
        """What a crew calls its kind of device."""
        return vocabulary().kinds[self.profile.kind].name

    @property
    def stage(self) -> Stage:
        return self.device.stage or self.profile.stage

    @property
    def is_turned(self) -> bool:
        """Whether an axis of a gimbal turns it: what sits on the handles weighs on nobody's balance."""
        return self.stage not in (Stage.HANDLES, Stage.OFF_GIMBAL)

    @property
    def is_balanced(self) -> bool:
        """Whether its payload must be balanced before it is woken."""
        return self.profile.wake is not None and self.profile.wake.needs_balance

    @cached_property
    def seat(self) -> str | None:
        """The end by which it sits on another; None for what sits on nothing."""
        return next((key for key, end in self._ends.items() if any(role.sits for role in end.roles)), None)

    @property
    def is_holder(self) -> bool:
        """Whether something sits on it: a body's mount, a mount adapter."""
        return any(role.holds for port in self.profile.ports for role in port.roles)

    @property
    def is_plain(self) -> bool:
        """Whether it does nothing but sit there, as a plate, rods, or a weight: no promise could ever ask for it."""
        one = self.profile
        return not (one.wake or one.power or one.carrier or one.surfaces or one.radios) and not any(
            port.roles for port in one.ports
        )

    @property
    def mode_now(self) -> str | None:
        modes = self.profile.modes
        if modes is None:
            return None
        return modes.factory if modes.lapses else self.device.mode or modes.factory

    def setting_now(self, key: str) -> str:
        """The value a setting has before anybody touches it."""
        return self.device.settings.get(key) or self.profile.setting(key).factory

    @cached_property
    def _ends(self) -> dict[str, Port | Radio]:
        return self.profile.endpoints

    @cached_property
    def _roles(self) -> dict[tuple[str, str], Role]:
        return {(key, role.name): role for key, end in self._ends.items() for role in reversed(end.roles)}

    def endpoint(self, key: str) -> Port | Radio:
        return self._ends[key]

    def asked_at(self, endpoint: str) -> frozenset[str]:
        """The settings on which something at that port turns; those that turn on no port count at every one."""
        return self._asked[endpoint]

    @cached_property
    def _asked(self) -> dict[str, frozenset[str]]:
        """By port. What is passed on counts at both ends, unless the setting is that of an end already."""
        profile = self.profile
        here = {key: {*_settings_at(end)} for key, end in self._ends.items()}
        ending: list[Accepts | Emits | Makes | Shows] = [
            *profile.accepts, *profile.emits, *profile.makes, *profile.shows
        ]  # fmt: skip
        passing: list[Relays | Passes] = [*profile.relays, *profile.passes]
        for one in ending:
            if one.over is not None:
                here[one.over.partition("/")[0]] |= {*one.when.settings}
        own = {setting for those in here.values() for setting in those}
        for passed in passing:
            for end in (passed.over, passed.to):
                here[end.partition("/")[0]] |= {*passed.when.settings} - own
        somewhere = {setting for those in here.values() for setting in those}
        nowhere = {setting.id for setting in profile.settings} - somewhere
        return {key: frozenset(those | nowhere) for key, those in here.items()}

    def role(self, endpoint: str, name: str) -> Role:
        return self._roles[endpoint, name]

    def power_role(self, endpoint: str, name: str) -> PowerRole:
        """A role by which power goes in or out. Raises LookupError where it is another."""
        role = self.role(endpoint, name)
        if not isinstance(role, PowerRole):
            raise LookupError(f"{self.id}.{endpoint}/{name} is no feed")
        return role

    def stage_of(self, endpoint: str) -> Stage:
        return self.endpoint(endpoint).own_stage or self.stage

    def port_words(self, endpoint: str) -> str:
        """A port by its marking and place, a radio by its name."""
        end = self.endpoint(endpoint)
        if isinstance(end, Port):
            return f"{self.name}, port marked “{end.marking}” ({end.place})"
        return f"{self.name}, {end.name}"

    def mode_name(self, mode: str) -> str:
        """What the device calls one of its modes."""
        return name_of(self.profile.modes.values, mode) if self.profile.modes else mode

    def prompt(self, key: str) -> Prompt:
        """A prompt by its id."""
        wake = self.profile.wake
        return next(prompt for prompt in (wake.prompts if wake else []) if prompt.id == key)

    def values_of(self, kind: str, key: str) -> tuple[str, ...]:
        """Every value that a mode, setting or answer can have, in the order of the profile."""
        if kind == "mode":
            return tuple(value.id for value in self.profile.modes.values) if self.profile.modes else ()
        if kind == "setting":
            return tuple(value.id for value in self.profile.setting(key).values)
        return tuple(value.id for value in self.prompt(key).answers)

    def upsets_of(self, kind: str, key: str, value: str) -> list[Upset]:
        """What choosing a mode or the value of a setting does besides; an answer does nothing."""
        values = self.profile.modes.values if kind == "mode" and self.profile.modes else []
        values = self.profile.setting(key).values if kind == "setting" else values
        return next((one.upsets for one in values if one.id == value), [])

    def knob_words(self, kind: str, key: str, value: str) -> str:
        """A mode, setting or answer with its value, as the device words it."""
        if kind == "mode":
            return f"{self.mode_name(value)} mode"
        if kind == "setting":
            setting = self.profile.setting(key)
            return f"{setting.words}: {setting.value_name(value)}"
        prompt = self.prompt(key)
        return f"when it asks “{prompt.asks}”: {prompt.value_name(value)}"

    def port(self, key: str) -> Port:
        """A port by its id. Raises LookupError where there is none."""
        end = self.endpoint(key)
        if not isinstance(end, Port):
            raise LookupError(f"{self.id}.{key} is no port")
        return end

    @property
    def firmware_now(self) -> str | None:
        """The firmware that is on it, as far as is known; where nothing is known, new enough for all it does."""
        if self.device.firmware is not None:
            return self.device.firmware
        asked = [when.firmware for _, when in whens(self.profile) if when.firmware is not None]
        known = [self.profile.firmware] if self.profile.firmware is not None else []
        return max((*known, *asked), key=version_key, default=None)

    @cached_property
    def battery(self) -> Battery | None:
        """Its own battery as cold and as old as it is known to be; None without one.

        Of how many cells nobody said it has as many as give the volts of its outlets; where it has none, just one.
        """
        own = self.profile.power.inner_battery if self.profile.power else None
        if own is None:
            return None
        chemistry = CHEMISTRIES[own.chemistry]
        curve = tuple((1 - used, volts) for used, volts in reversed(own.discharge.points)) if own.discharge else None
        health = 100 if self.device.health_percent is None else self.device.health_percent
        given_v = max(((one.min_v + one.max_v) / 2 for one in self.outlets_through), default=0.0)
        return Battery(
            chemistry=chemistry,
            cells=own.cells or max(1, round(given_v / chemistry.mean_v)),
            energy_wh=own.energy_wh,
            curve_v=curve,
            ohm=own.inner_ohm,
            celsius=self.energy.temperature_c,
            health=health / 100,
        )

    @property
    def outlets_through(self) -> list[PowerRole]:
        """Where it gives power at the volts at which it comes in, or at those of its battery."""
        roles = [role for port in self.profile.ports for role in port.roles if isinstance(role, PowerRole)]
        return [role for role in roles if role.gives and role.held_v is None]

    def outlets_at(self, endpoint: str) -> list[PowerRole]:
        """Where power goes out at one of its ends."""
        roles = [role for role in self.endpoint(endpoint).roles if isinstance(role, PowerRole)]
        return [role for role in roles if role.gives]

    @property
    def used_share(self) -> float:
        """The share of its battery that may be used: what its profile says, or the crew where that is less."""
        own = self.profile.power.inner_battery if self.profile.power else None
        by_crew = 1 - (self.energy.reserve_percent or 0) / 100
        return by_crew if own is None else min(by_crew, own.usable)

    @property
    def full_wh(self) -> float | None:
        """What a full battery of it gives before the reserve, as cold and as old as it is; None without one."""
        return None if self.battery is None else self.battery.there_wh * self.used_share

    @property
    def usable_wh(self) -> float | None:
        """What its own battery gives before it switches off, as full as it is known to be; None without one.

        The share that is kept back is kept back of whatever is in it: what a gauge shows is counted from there.
        """
        if self.full_wh is None:
            return None
        charge = 100 if self.device.charge_percent is None else self.device.charge_percent
        return self.full_wh * charge / 100

    def lasting_wh(self, changes: int) -> float | None:
        """What its battery gives, and the full ones put in after it at up to so many changes; None without one.

        One that is built in is not changed, and no more are put in than are known to be at hand.
        """
        battery = self.profile.power.inner_battery if self.profile.power else None
        if battery is None or self.usable_wh is None or self.full_wh is None:
            return None
        spares = changes if self.device.spare_batteries is None else self.device.spare_batteries
        return self.usable_wh + (min(changes, spares) if battery.fitted else 0) * self.full_wh

    @property
    def runs_alone(self) -> bool:
        """Whether it has a battery of its own that it can run from."""
        battery = self.profile.power.inner_battery if self.profile.power else None
        return battery is not None and battery.feeds_only is None


@dataclass(frozen=True, eq=False)
class ResolvedRig:
    """A rig, its devices by id in id order, the cable types of its bag, and every cable type we know."""

    rig: Rig
    cables: Mapping[str, CableType]
    devices: Mapping[str, Placed]
    memory: dict[Hashable, Any] = field(init=False, default_factory=dict, compare=False, repr=False)
    """What was worked out for it already, by whoever asked."""

    @cached_property
    def stock(self) -> dict[str, int]:
        """Cable type -> how many are in the bag, in id order, none left out that has a count of nought."""
        return {item.cable: item.count for item in sorted(self.rig.bag, key=lambda item: item.cable)}

    @cached_property
    def part_bag(self) -> PartBag:
        """The small parts that lie in the bag."""
        return bag_of(self.rig.parts)

    @cached_property
    def carriers(self) -> list[Carrier]:
        """What its gimbals carry."""
        return [one for placed in self.devices.values() if (one := placed.profile.carrier) is not None]

    @property
    def is_flown(self) -> bool:
        """Whether somebody carries a gimbal about."""
        return bool(self.carriers)

    def is_leash(self, link: Link) -> bool:
        """Whether a cable ties a gimbal that is carried about to something that is not on it."""
        return self.is_flown and link.is_cable and "off" in link.axes

    def payload_g(self, devices: Iterable[str], links: Iterable[Link] = ()) -> float:
        """What those of `devices` weigh together that sit in the cage of a gimbal, with what hangs there of `links`.

        With the small parts by which they are fixed, where somebody said which lie in the bag.
        """
        cage = [self[device] for device in devices if self[device].stage == Stage.TILT_CAGE]
        pieces = {link.piece or link.id: link for link in links}
        hung = sum(self.hung_g(link) for link in pieces.values())
        fixed = self.part_bag.weights_g((placed.id, placed.profile.fixed_by) for placed in cage)
        return hung + fixed + sum(placed.mass_g for placed in cage)

    def hung_g(self, link: Link) -> float:
        """What a cable weighs in the cage: all of it between two ends in there, half where one hangs out."""
        inside = {end: self[end.device].stage_of(end.endpoint) == Stage.TILT_CAGE for end in link.ends}
        cable = self.cables[link.cable].mass_g if link.cable else 0.0
        on = ((link.a, link.adapter_a), (link.b, link.adapter_b))
        return cable * sum(inside.values()) / 2 + sum(self.cables[key].mass_g for at, key in on if key and inside[at])

    def runs_alone(self, device: str) -> bool:
        """Whether a device has a battery of its own that it can run from."""
        return self.devices[device].runs_alone

    def __getitem__(self, key: str) -> Placed:
        return self.devices[key]


def resolve(rig: Rig, profiles: Mapping[str, Profile], cables: Mapping[str, CableType]) -> ResolvedRig:
    """Look up every profile, cable, surface, mode and setting that `rig` names.

    Raises RefusedError with every name that leads nowhere.
    """
    flaws = list(unknown_names(rig, profiles, cables))
    if flaws:
        raise RefusedError(
            [Problem(code="unknown-name", path=path_text(path), message=message) for path, message in flaws]
        )
    placed = {
        device.id: Placed(device, profiles[device.profile], rig.energy)
        for device in sorted(rig.devices, key=lambda item: item.id)
    }
    return ResolvedRig(rig, cables, placed)
