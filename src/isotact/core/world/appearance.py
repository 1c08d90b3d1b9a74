"""What a person sees of each device: lamps, screens, and what is plugged."""

from collections.abc import Callable, Iterator, Mapping

from pydantic import Field

from isotact.core.model.base import Struct
from isotact.core.model.behaviour import Indicator, LampState
from isotact.core.model.vocabulary import vocabulary
from isotact.core.model.words import Id
from isotact.core.world.cables import Cables
from isotact.core.world.handled import Handled
from isotact.core.world.menus import Menus
from isotact.core.world.mounting import Mounting
from isotact.core.world.power import Power
from isotact.core.world.signals import now
from isotact.core.world.waking import Waking
from isotact.core.world.world import World

LampReader = Callable[[World, str, LampState], bool]
"""Whether an indicator of a device is in a certain state now."""
Lamps = Mapping[str, LampReader]
"""Who tells of which state, by the word that profiles use. Each trade brings its own."""


class LampView(Struct):
    """One indicator, as it looks."""

    id: Id
    name: str
    place: str
    looks: str
    state: str


class ScreenView(Struct):
    """One screen: dark, lit, or showing a camera's picture: whose, how late, with the look or not, and if it rolls."""

    id: Id
    name: str
    shows: str
    delay_ms: float | None = None
    of: str | None = None
    look: bool = False
    rolling: bool = False


class PluggedView(Struct):
    """What is in a port, as one sees it: that a plug is not quite home one does not."""

    port: Id
    tag: str
    to: str = Field(description="the device at the other end")
    held: bool = Field(default=False, description="one plug hangs beside its port")


class NumberView(Struct):
    """A number, or a ring, that follows a wheel: at which tenth of its way it stands."""

    function: Id
    name: str
    tenths: int


class DeviceView(Struct):
    """One device, as it looks."""

    device: Id
    name: str
    state: str
    asks: str | None = None
    lamps: tuple[LampView, ...]
    screens: tuple[ScreenView, ...]
    plugged: tuple[str, ...]
    joined: tuple[PluggedView, ...] = ()
    numbers: tuple[NumberView, ...] = ()
    mode: str | None = None
    charge: float | None = Field(default=None, description="of its own battery, as a share of full")
    rolling: bool = False
    in_case: bool = Field(default=False, description="nobody has taken it in hand yet")
    is_fixed: bool = Field(default=False, description="in its place, and does not move when it is shaken")


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
        joined=tuple(_joined(world, device)),
        numbers=tuple(
            NumberView(function=item.name, name=vocabulary().functions[item.name].name, tenths=tenths)
            for item, tenths in world[Handled].tenths.items()
            if item.device == device
        ),
        mode=world.rig[device].mode_name(world[Menus].mode[device]) if device in world[Menus].mode else None,
        charge=_charge(world, device),
        rolling=device in world[Waking].recording,
        in_case=device not in world.out,
        is_fixed=device in world[Mounting].fixed,
    )


def _joined(world: World, device: str) -> Iterator[PluggedView]:
    for plug in world[Cables].plugs.values():
        for here, there in ((plug.a, plug.b), (plug.b, plug.a)):
            if here.device == device:
                to = world.rig[there.device].name
                yield PluggedView(port=here.endpoint, tag=plug.tag, to=to, held=plug.held)


def _charge(world: World, device: str) -> float | None:
    """What its own battery holds of what it can give; None without one, or where it is out."""
    full, held = world.rig[device].usable_wh, world[Power].battery_wh.get(device)
    return None if not full or held is None else round(min(1.0, held / full), 3)


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
            return LampView(
                id=indicator.id, name=indicator.name, place=indicator.place, looks=look.looks, state=look.when
            )
    return LampView(id=indicator.id, name=indicator.name, place=indicator.place, looks="dark", state="asleep")


def screen_view(world: World, device: str, surface: str) -> ScreenView:
    """A screen as it is: dark, with no picture, or with the picture that comes first."""
    name = world.rig[device].profile.surface(surface).name
    if device not in now(world).alive:
        return ScreenView(id=surface, name=name, shows="dark")
    found = now(world).pictures(device, surface)
    if found:
        first = found[0]
        return ScreenView(
            id=surface,
            name=name,
            shows="picture",
            delay_ms=first.delay_ms,
            of=world.rig[first.devices[0]].name,
            look=first.look,
            rolling=first.devices[0] in world[Waking].recording,
        )
    return ScreenView(id=surface, name=name, shows="no picture")


def _markings(world: World, device: str) -> list[str]:
    ends = [end for plug in world[Cables].plugs.values() for end in (plug.a, plug.b) if end.device == device]
    return [world.rig[device].port(end.endpoint).marking for end in ends]
