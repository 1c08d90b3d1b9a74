"""What a person sees of each device: lamps, screens, and what is plugged."""

from collections.abc import Callable, Mapping

from isotact.core.model.base import Part
from isotact.core.model.behaviour import Indicator, Looks
from isotact.core.model.words import Id
from isotact.core.world.cables import Cables
from isotact.core.world.menus import Menus
from isotact.core.world.signals import now
from isotact.core.world.waking import Waking
from isotact.core.world.world import World

LampReader = Callable[[World, str, Looks], bool]
"""Whether an indicator of a device is in a certain state now."""
Lamps = Mapping[str, LampReader]
"""Who tells of which state, by the word that profiles use. Each trade brings its own."""


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
    name: str
    state: str
    asks: str | None = None
    lamps: tuple[LampLook, ...]
    screens: tuple[ScreenLook, ...]
    plugged: tuple[str, ...]


def seen_of(world: World, lamps: Lamps) -> list[DeviceLook]:
    """Every device as a person would see it now."""
    return [_device(world, device, lamps) for device in world.rig.devices]


def _device(world: World, device: str, lamps: Lamps) -> DeviceLook:
    profile = world.rig[device].profile
    return DeviceLook(
        device=device,
        name=world.rig[device].name,
        state=general_state(world, device),
        asks=prompt_shown(world, device),
        lamps=tuple(lamp_look(world, device, indicator, lamps) for indicator in profile.indicators),
        screens=tuple(screen_look(world, device, surface.id) for surface in profile.surfaces if surface.is_screen),
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


def lamp_look(world: World, device: str, indicator: Indicator, lamps: Lamps) -> LampLook:
    """The first state of an indicator that applies; dark when none does."""
    for look in indicator.states:
        if lamps[look.when](world, device, look):
            return LampLook(name=indicator.name, place=indicator.place, looks=look.looks, state=look.when)
    return LampLook(name=indicator.name, place=indicator.place, looks="dark", state="asleep")


def screen_look(world: World, device: str, surface: str) -> ScreenLook:
    """A screen as it is: dark, with no picture, or with the picture that comes first."""
    name = world.rig[device].profile.surface(surface).name
    if device not in now(world).alive:
        return ScreenLook(name=name, shows="dark")
    found = now(world).pictures(device, surface)
    if found:
        return ScreenLook(name=name, shows="picture", delay_ms=found[0].delay_ms)
    return ScreenLook(name=name, shows="no picture")


def _markings(world: World, device: str) -> list[str]:
    ends = [end for plug in world[Cables].plugs.values() for end in (plug.a, plug.b) if end.device == device]
    return [world.rig[device].port(end.endpoint).marking for end in ends]
