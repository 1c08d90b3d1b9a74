"""What a person sees of each device: lamps, screens, and what is plugged."""

from collections.abc import Callable, Mapping

from isotact.core.model.base import Struct
from isotact.core.model.behaviour import Indicator, LampState
from isotact.core.model.words import Id
from isotact.core.world.cables import Cables
from isotact.core.world.menus import Menus
from isotact.core.world.signals import now
from isotact.core.world.waking import Waking
from isotact.core.world.world import World

LampReader = Callable[[World, str, LampState], bool]
"""Whether an indicator of a device is in a certain state now."""
Lamps = Mapping[str, LampReader]
"""Who tells of which state, by the word that profiles use. Each trade brings its own."""


class LampView(Struct):
    """One indicator, as it looks."""

    name: str
    place: str
    looks: str
    state: str


class ScreenView(Struct):
    """One screen: dark, lit, or showing the camera's picture."""

    name: str
    shows: str
    delay_ms: float | None = None


class DeviceView(Struct):
    """One device, as it looks."""

    device: Id
    name: str
    state: str
    asks: str | None = None
    lamps: tuple[LampView, ...]
    screens: tuple[ScreenView, ...]
    plugged: tuple[str, ...]


def views_of(world: World, lamps: Lamps) -> list[DeviceView]:
    """Every device as a person would see it now."""
    return [_device(world, device, lamps) for device in world.rig.devices]


def _device(world: World, device: str, lamps: Lamps) -> DeviceView:
    profile = world.rig[device].profile
    return DeviceView(
        device=device,
        name=world.rig[device].name,
        state=general_state(world, device),
        asks=prompt_shown(world, device),
        lamps=tuple(lamp_view(world, device, indicator, lamps) for indicator in profile.indicators),
        screens=tuple(screen_view(world, device, surface.id) for surface in profile.surfaces if surface.is_screen),
        plugged=tuple(sorted(set(_markings(world, device)))),
    )


def general_state(world: World, device: str) -> str:
    """In place, off, waking or awake."""
    if world.rig[device].profile.wake is None:
        return "in place"
    if world[Waking].is_awake(device):
        return "awake"
    return "waking" if world[Waking].is_on(device) else "off"


def prompt_shown(world: World, device: str) -> str | None:
    """What a device asks now, word for word."""
    wake, asking = world.rig[device].profile.wake, world[Menus].asks(device)
    return next((prompt.asks for prompt in (wake.prompts if wake else []) if prompt.id == asking), None)


def lamp_view(world: World, device: str, indicator: Indicator, lamps: Lamps) -> LampView:
    """The first state of an indicator that applies; dark when none does."""
    for look in indicator.states:
        if lamps[look.when](world, device, look):
            return LampView(name=indicator.name, place=indicator.place, looks=look.looks, state=look.when)
    return LampView(name=indicator.name, place=indicator.place, looks="dark", state="asleep")


def screen_view(world: World, device: str, surface: str) -> ScreenView:
    """A screen as it is: dark, with no picture, or with the picture that comes first."""
    name = world.rig[device].profile.surface(surface).name
    if device not in now(world).alive:
        return ScreenView(name=name, shows="dark")
    found = now(world).pictures(device, surface)
    if found:
        return ScreenView(name=name, shows="picture", delay_ms=found[0].delay_ms)
    return ScreenView(name=name, shows="no picture")


def _markings(world: World, device: str) -> list[str]:
    ends = [end for plug in world[Cables].plugs.values() for end in (plug.a, plug.b) if end.device == device]
    return [world.rig[device].port(end.endpoint).marking for end in ends]
