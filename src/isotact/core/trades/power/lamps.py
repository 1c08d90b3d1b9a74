"""The state of an indicator that tells that a device is charged."""

from isotact.core.model.behaviour import LampState
from isotact.core.world import World, now
from isotact.core.world.appearance import LampReader


def _charging(world: World, device: str, state: LampState) -> bool:
    return now(world).supply.root(device) not in (None, device)


LAMPS: dict[str, LampReader] = {"charging": _charging}
