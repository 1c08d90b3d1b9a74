"""What a hand can do with the battery of a device."""

from collections.abc import Iterator

from isotact.core.trades.base import HandAct
from isotact.core.trades.power.acts import FitBattery
from isotact.core.world import World


def offers(world: World, device: str) -> Iterator[HandAct]:
    """A full battery for the one that is in it, or a charge of one that is built in."""
    if world.rig[device].usable_wh is not None:
        yield FitBattery(device=device)
