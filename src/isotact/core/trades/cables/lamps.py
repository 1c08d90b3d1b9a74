"""The state of an indicator that tells that a port has found something."""

from isotact.core.model.behaviour import LampState
from isotact.core.world import Waking, World, now
from isotact.core.world.appearance import LampReader


def _linked(world: World, device: str, state: LampState) -> bool:
    return state.over is not None and world[Waking].is_awake(device) and now(world).is_linked(device, state.over)


LAMPS: dict[str, LampReader] = {"linked": _linked}
