"""The states of indicators that tell whether a device is off, starting, up, or rolling."""

from isotact.core.model.behaviour import LampState
from isotact.core.world import Radio, Waking, World, now
from isotact.core.world.appearance import LampReader


def _asleep(world: World, device: str, state: LampState) -> bool:
    return not world[Waking].is_on(device)


def _booting(world: World, device: str, state: LampState) -> bool:
    return world[Waking].is_on(device) and not world[Waking].is_awake(device)


def _awake(world: World, device: str, state: LampState) -> bool:
    return world[Waking].is_awake(device)


def _recording(world: World, device: str, state: LampState) -> bool:
    return device in world[Waking].recording


def _waiting(world: World, device: str, state: LampState) -> bool:
    """Up, and neither the port nor the radio has found anything."""
    found = state.over is not None and (
        now(world).is_linked(device, state.over) or world[Radio].has_met(device, state.over)
    )
    return world[Waking].is_awake(device) and not found


LAMPS: dict[str, LampReader] = {
    "asleep": _asleep,
    "booting": _booting,
    "awake": _awake,
    "recording": _recording,
    "waiting": _waiting,
}
