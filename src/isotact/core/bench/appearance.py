"""What a person sees of each device: lamps, screens, and what is plugged."""

from isotact.core.bench.signals import arrivals, link_is_live
from isotact.core.conditions.world import World, feeder_of
from isotact.core.model.base import Part
from isotact.core.model.behaviour import Looks
from isotact.core.model.plan import LinkEnd
from isotact.core.model.rig import PicturePromise, Point
from isotact.core.model.words import Id
from isotact.core.wiring.candidates import roles_fit


class LampLook(Part):
    """One indicator, as it looks."""

    name: str
    place: str
    looks: str
    state: str


class ScreenLook(Part):
    """One screen: dark, lit, or showing the camera's picture."""

    name: str
    shows: str
    delay_ms: float | None = None


class DeviceLook(Part):
    """One device, as it looks."""

    device: Id
    state: str
    asks: str | None = None
    lamps: tuple[LampLook, ...]
    screens: tuple[ScreenLook, ...]
    plugged: tuple[str, ...]


def looks_of(world: World) -> list[DeviceLook]:
    """Every device as a person would see it now."""
    return [_device(world, device) for device in world.rig.devices]


def _device(world: World, device: str) -> DeviceLook:
    placed, state = world.rig[device], world.devices[device]
    wake = placed.profile.wake
    asks = next((p.asks for p in (wake.prompts if wake else []) if p.id in state.asking), None)
    lamps = []
    for indicator in placed.profile.indicators:
        look = next((look for look in indicator.states if _applies(world, device, look)), None)
        lamps.append(
            LampLook(
                name=indicator.name,
                place=indicator.place,
                looks=look.looks if look else "dark",
                state=look.when if look else "asleep",
            )
        )
    general = "in place" if wake is None else "awake" if state.is_awake else "waking" if state.booting else "off"
    return DeviceLook(
        device=device,
        state=general,
        asks=asks,
        lamps=tuple(lamps),
        screens=tuple(_screens(world, device)),
        plugged=tuple(sorted({_marking(world, end) for end in _plugs(world, device)})),
    )


def _plugs(world: World, device: str) -> list[LinkEnd]:
    return [end for plug in world.plugged for end in (plug.a, plug.b) if end.device == device]


def _marking(world: World, end: LinkEnd) -> str:
    port = next(port for port in world.rig[end.device].profile.ports if port.id == end.endpoint)
    return port.marking


def _applies(world: World, device: str, look: Looks) -> bool:
    state = world.devices[device]
    match look.when:
        case "asleep":
            return not state.is_awake and not state.booting
        case "booting":
            return state.booting
        case "asking":
            return bool(state.asking)
        case "recording":
            return state.recording
        case "linked":
            return state.is_awake and look.over is not None and _is_linked(world, device, look.over)
        case "networked":
            return state.is_awake and _has_met(world, device, look.over)
        case "waiting":
            found = look.over is not None and _is_linked(world, device, look.over)
            return state.is_awake and not found and not _has_met(world, device, look.over)
        case "charging":
            return feeder_of(world, device) not in (None, device)
        case "awake":
            return state.is_awake
    return False


def _has_met(world: World, device: str, radio: str | None) -> bool:
    return any((end.device, end.endpoint) == (device, radio) for pair in world.met for end in pair)


def _is_linked(world: World, device: str, endpoint: str) -> bool:
    here = LinkEnd(device=device, endpoint=endpoint)
    for plug in world.plugged:
        if here in (plug.a, plug.b):
            there = plug.b if plug.a == here else plug.a
            for role in world.rig[device].endpoint(endpoint).roles:
                for other in world.rig[there.device].endpoint(there.endpoint).roles:
                    if (
                        role.kind == "control"
                        and roles_fit(role, other)
                        and link_is_live(world, here, role, there, other)
                    ):
                        return True
    return False


def _screens(world: World, device: str) -> list[ScreenLook]:
    looks = []
    for surface in world.rig[device].profile.surfaces:
        if surface.kind not in ("screen", "touch"):
            continue
        if not world.is_alive(device):
            looks.append(ScreenLook(name=surface.name, shows="dark"))
            continue
        at = Point(device=device, surface=surface.id)
        found = arrivals(world, PicturePromise(id="screen", who="anyone", at=at))
        if found:
            looks.append(ScreenLook(name=surface.name, shows="picture", delay_ms=found[0].delay_ms))
        else:
            looks.append(ScreenLook(name=surface.name, shows="no picture"))
    return looks
