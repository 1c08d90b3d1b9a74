"""A rig with every name in it looked up: what the engines work on."""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property

from isotact.core.model.cable import CableType
from isotact.core.model.ports import Port, Radio, Role
from isotact.core.model.problems import Fault, Problem, RefusedError, nearest, path_text
from isotact.core.model.profile import Profile
from isotact.core.model.rig import Device, PortPoint, Rig
from isotact.core.model.words import Stage


@dataclass(frozen=True)
class Placed:
    """A device of the rig together with its profile."""

    device: Device
    profile: Profile

    @property
    def id(self) -> str:
        return self.device.id

    @property
    def name(self) -> str:
        return self.device.name or self.profile.name

    @property
    def stage(self) -> Stage:
        return self.device.stage or self.profile.stage

    @property
    def mode_now(self) -> str | None:
        return self.device.mode or (self.profile.modes.factory if self.profile.modes else None)

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

    def role(self, endpoint: str, name: str) -> Role:
        return self._roles[endpoint, name]

    def stage_of(self, endpoint: str) -> Stage:
        end = self.endpoint(endpoint)
        own = end.stage if isinstance(end, Port) else None
        return own or self.stage

    def port_words(self, endpoint: str) -> str:
        """A port by its marking and place, a radio by its name."""
        end = self.endpoint(endpoint)
        if isinstance(end, Port):
            return f"{self.name}, port marked “{end.marking}” ({end.place})"
        return f"{self.name}, {end.name}"


@dataclass(frozen=True, eq=False)
class ResolvedRig:
    """A rig, its devices by id in id order, the cable types of its bag, and every cable type we know."""

    rig: Rig
    cables: Mapping[str, CableType]
    devices: Mapping[str, Placed]

    @cached_property
    def stock(self) -> dict[str, int]:
        """Cable type -> how many are in the bag, in id order, none left out that has a count of nought."""
        return {item.cable: item.count for item in sorted(self.rig.bag, key=lambda item: item.cable)}

    def runs_alone(self, device: str) -> bool:
        """Whether a device has a battery of its own that it can run from."""
        power = self.devices[device].profile.power
        return power is not None and power.inner_battery is not None and power.inner_battery.feeds_only is None

    def __getitem__(self, key: str) -> Placed:
        return self.devices[key]


def resolve(rig: Rig, profiles: Mapping[str, Profile], cables: Mapping[str, CableType]) -> ResolvedRig:
    """Look up every profile, cable, surface, mode and setting that `rig` names.

    Raises RefusedError with every name that leads nowhere.
    """
    faults = list(_unknown(rig, profiles, cables))
    if faults:
        raise RefusedError(
            [Problem(code="unknown-name", path=path_text(path), message=message) for path, message in faults]
        )
    placed = {
        device.id: Placed(device, profiles[device.profile]) for device in sorted(rig.devices, key=lambda item: item.id)
    }
    return ResolvedRig(rig, cables, placed)


def _unknown(rig: Rig, profiles: Mapping[str, Profile], cables: Mapping[str, CableType]) -> Iterator[Fault]:
    for number, device in enumerate(rig.devices):
        if device.profile not in profiles:
            yield from _miss(("devices", number, "profile"), "profile", device.profile, profiles)
        else:
            yield from _device_faults(number, device, profiles[device.profile])
    for number, item in enumerate(rig.bag):
        if item.cable not in cables:
            yield from _miss(("bag", number, "cable"), "cable type", item.cable, cables)
    yield from _pinned(rig, profiles, cables)
    for number, promise in enumerate(rig.promises):
        if promise.kind == "power":
            continue
        profile = profiles.get(rig.device(promise.at.device).profile)
        surfaces = [surface.id for surface in profile.surfaces] if profile else []
        if profile and promise.at.surface not in surfaces:
            path = ("promises", number, "at", "surface")
            yield from _miss(path, f"surface of {promise.at.device}", promise.at.surface, surfaces)


def _device_faults(number: int, device: Device, profile: Profile) -> Iterator[Fault]:
    at = ("devices", number)
    modes = [value.id for value in profile.modes.values] if profile.modes else []
    if device.mode is not None and device.mode not in modes:
        yield from _miss((*at, "mode"), f"mode of {profile.id}", device.mode, modes)
    settings = {setting.id: [value.id for value in setting.values] for setting in profile.settings}
    for key, value in device.settings.items():
        if key not in settings:
            yield from _miss((*at, "settings", key), f"setting of {profile.id}", key, settings)
        elif value not in settings[key]:
            yield from _miss((*at, "settings", key), f"value of {key}", value, settings[key])
    for index, licence in enumerate(device.licences):
        if licence not in profile.licences:
            yield from _miss((*at, "licences", index), f"licence of {profile.id}", licence, profile.licences)


def _pinned(rig: Rig, profiles: Mapping[str, Profile], cables: Mapping[str, CableType]) -> Iterator[Fault]:
    for number, pin in enumerate(rig.pins):
        if pin.kind == "cable" and pin.cable is not None and pin.cable not in cables:
            yield from _miss(("pins", number, "cable"), "cable type", pin.cable, cables)
        ends = {"cable": ("a", "b"), "keep-out": ("at",)}.get(pin.kind, ())
        for field in ends:
            point: PortPoint = getattr(pin, field)
            profile = profiles.get(rig.device(point.device).profile)
            known = [port.id for port in profile.ports] if profile else []
            if profile and point.port not in known:
                yield from _miss(("pins", number, field, "port"), f"port of {profile.id}", point.port, known)


def _miss(path: tuple[str | int, ...], what: str, key: str, known: Iterable[str]) -> Iterator[Fault]:
    known = list(known)
    choices = f"; expected one of {', '.join(known)}" if 0 < len(known) <= 8 else ""
    yield path, f"found '{key}', which is no {what}{choices}{nearest(key, known)}"
