"""What a hand can do with the card of a device."""

from collections.abc import Iterator

from isotact.core.trades.base import HandAct
from isotact.core.trades.media.acts import InsertCard, TakeCardOut
from isotact.core.world import World


def offers(world: World, device: str) -> Iterator[HandAct]:
    """What a hand can do here with a card."""
    yield InsertCard(device=device)
    yield TakeCardOut(device=device)
