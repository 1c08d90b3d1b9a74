"""The state of an indicator that tells that a device asks something."""

from isotact.core.model.behaviour import LampState
from isotact.core.world import Menus, World
from isotact.core.world.appearance import LampReader


def _asking(world: World, device: str, state: LampState) -> bool:
    return world[Menus].asks(device) is not None


LAMPS: dict[str, LampReader] = {"asking": _asking}
