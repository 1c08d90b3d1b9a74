"""Which devices of a plan need a card."""

from isotact.core.model.keys import Item
from isotact.core.model.vocabulary import vocabulary
from isotact.core.trades.media.conditions import CardIn
from isotact.core.trades.planned import Planned, Removal
from isotact.core.trades.trade import Derived


def derive(planned: Planned) -> Derived:
    """A card in each device with a slot that a promise makes roll: without it that is lost, and nothing else."""
    rolling = [key for key, function in vocabulary().functions.items() if function.rolls]
    for device in planned.in_use:
        if planned.rig[device].profile.card is not None:
            needing = planned.lost_without(Removal(functions=frozenset(Item(device, one) for one in rolling)))
            if needing:
                yield CardIn(device=device, promises=needing)
