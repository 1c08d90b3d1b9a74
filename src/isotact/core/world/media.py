"""Which cards are in."""

from dataclasses import dataclass, field
from typing import ClassVar

from isotact.core.model.legs import Leg
from isotact.core.model.vocabulary import vocabulary
from isotact.core.world.world import State, World


@dataclass
class Media(State):
    """The devices in which a card is. One that takes none records as it is."""

    word: ClassVar[str] = "media"
    cards: set[str] = field(default_factory=set)

    def stopped(self, world: World, leg: Leg) -> frozenset[str]:
        """Without its card a device rolls nothing; all else that it does goes on."""
        slot = world.rig[leg.device].profile.card
        if slot is None or leg.leaves is not None or leg.device in self.cards:
            return frozenset()
        return frozenset(one for one in leg.functions if vocabulary().functions[one].rolls)
