"""What a hand can do for the balance of a gimbal."""

from collections.abc import Iterator

from isotact.core.trades.balance.acts import BalanceIt
from isotact.core.trades.base import HandAct
from isotact.core.world import World


def offers(world: World, device: str) -> Iterator[HandAct]:
    """Balance what is on it, whatever that is."""
    if world.rig[device].is_balanced:
        yield BalanceIt(device=device)
