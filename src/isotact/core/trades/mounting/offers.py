"""What a hand can do to fix a device."""

from collections.abc import Iterator

from isotact.core.model.words import Stage
from isotact.core.trades.base import HandAct
from isotact.core.trades.mounting.acts import Fix
from isotact.core.world import Mounting, World


def offers(world: World, device: str) -> Iterator[HandAct]:
    """Fix it in its place, where it hangs loose or lies in its case."""
    placed = world.rig[device]
    if device not in world[Mounting].fixed and not placed.is_balanced:
        on_it = placed.stage != Stage.OFF_GIMBAL
        yield Fix(device=device, on_gimbal=on_it and any(one.is_balanced for one in world.rig.devices.values()))
