"""The state of an indicator that tells that a radio has met another."""

from isotact.core.model.behaviour import LampState
from isotact.core.world import Radio, Waking, World
from isotact.core.world.appearance import LampReader


def _networked(world: World, device: str, state: LampState) -> bool:
    return state.over is not None and world[Waking].is_awake(device) and world[Radio].has_met(device, state.over)


LAMPS: dict[str, LampReader] = {"networked": _networked}
