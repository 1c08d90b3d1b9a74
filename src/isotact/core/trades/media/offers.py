"""What a hand can do with the card of a device."""

from collections.abc import Iterator

from isotact.core.trades.base import HandAct
from isotact.core.trades.media.acts import InsertCard, TakeCardOut
from isotact.core.world import Media, World


def offers(world: World, device: str) -> Iterator[HandAct]:
    """What a hand can do here with a card."""
    if world.rig[device].profile.card is not None:
        yield TakeCardOut(device=device) if device in world[Media].cards else InsertCard(device=device)
