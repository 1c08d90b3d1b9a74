"""What a rig names that nobody knows: profiles, cables, surfaces, modes, settings, scales, licences and ports."""

from collections.abc import Iterable, Iterator, Mapping

from isotact.core.model.cable import CableType
from isotact.core.model.gimbals import POLE_SCALE
from isotact.core.model.pins import PortPoint
from isotact.core.model.problems import Flaw, nearest
from isotact.core.model.profile import Profile
from isotact.core.model.rig import Device, Rig


def unknown_names(rig: Rig, profiles: Mapping[str, Profile], cables: Mapping[str, CableType]) -> Iterator[Flaw]:
    """Every name of `rig` that leads nowhere, at its place."""
    for number, device in enumerate(rig.devices):
        if device.profile not in profiles:
            yield from _miss(("devices", number, "profile"), "profile", device.profile, profiles)
        else:
            yield from _device_flaws(number, device, profiles[device.profile])
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


def _device_flaws(number: int, device: Device, profile: Profile) -> Iterator[Flaw]:
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
    slides = [slide.id for slide in profile.carrier.slides] if profile.carrier else []
    slides += [POLE_SCALE] if profile.pole is not None else []
    for key in device.marks_mm:
        if key not in slides:
            yield from _miss((*at, "marks_mm", key), f"scale of {profile.id}", key, slides)
    for index, licence in enumerate(device.licences):
        if licence not in profile.licences:
            yield from _miss((*at, "licences", index), f"licence of {profile.id}", licence, profile.licences)


def _pinned(rig: Rig, profiles: Mapping[str, Profile], cables: Mapping[str, CableType]) -> Iterator[Flaw]:
    for number, pin in enumerate(rig.pins):
        if pin.kind == "cable" and pin.cable is not None and pin.cable not in cables:
            yield from _miss(("pins", number, "cable"), "cable type", pin.cable, cables)
        ends = {"cable": ("a", "b"), "keep-out": ("at",)}.get(pin.kind, ())
        for name in ends:
            point: PortPoint = getattr(pin, name)
            profile = profiles.get(rig.device(point.device).profile)
            known = [port.id for port in profile.ports] if profile else []
            if profile and point.port not in known:
                yield from _miss(("pins", number, name, "port"), f"port of {profile.id}", point.port, known)


def _miss(path: tuple[str | int, ...], what: str, key: str, known: Iterable[str]) -> Iterator[Flaw]:
    known = list(known)
    choices = f"; expected one of {', '.join(known)}" if 0 < len(known) <= 8 else ""
    yield path, f"found '{key}', which is no {what}{choices}{nearest(key, known)}"
