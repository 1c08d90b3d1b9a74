"""What a hand can do with a device's switch and its screens."""

from collections.abc import Iterator

from isotact.core.model.keys import Item
from isotact.core.trades.base import HandAct
from isotact.core.trades.waking.acts import Sleep, TurnUp, WakeUp
from isotact.core.world import Waking, World


def offers(world: World, device: str) -> Iterator[HandAct]:
    """On, off, and every screen that is turned down turned up."""
    profile = world.rig[device].profile
    if profile.wake is not None:
        yield WakeUp(device=device)
        if world[Waking].is_on(device):
            yield Sleep(device=device)
    for surface in profile.surfaces:
        if Item(device, surface.id) in world[Waking].dimmed:
            yield TurnUp(device=device, screen=surface.id)
