"""What must be in a device before it rolls."""

from typing import Literal

from isotact.core.model.keys import Key
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id
from isotact.core.trades.base import Check, Condition, Draft, Fault
from isotact.core.trades.media.acts import InsertCard, TakeCardOut
from isotact.core.world import Media, World
from isotact.core.world.observation import state


class CardIn(Condition):
    """A card is in the device that is to record."""

    kind: Literal["card-in"] = "card-in"
    device: Id

    @property
    def key(self) -> Key:
        return Key.of("card-in", self.device)

    def holds(self, world: World) -> bool:
        return self.device in world[Media].cards

    def says(self, rig: ResolvedRig) -> str:
        return f"A card is in {rig[self.device].name}."

    def made_by(self) -> Key:
        return Key.of("insert-card", self.device)

    def draft(self, rig: ResolvedRig) -> Draft:
        placed = rig[self.device]
        card = placed.profile.card
        if card is None:
            raise LookupError(f"{self.device} takes no card")
        return Draft(
            key=self.made_by(),
            stage="gather",
            title=f"{placed.name}: {card.name} in, and empty",
            detail=(f"{card.place[0].upper()}{card.place[1:]}.", "Nothing on it that has not been copied twice."),
            device=self.device,
            expect="The door closes over it.",
            # The door, the card, and the count of minutes that the body shows for it.
            takes_s=15,
            act=InsertCard(device=self.device),
            card="Cards in, and empty",
        )

    def check(self, rig: ResolvedRig) -> Check:
        return Check(
            id=Key.of("look-for-card", self.device),
            says=f"Open the card door of {rig[self.device].name}, or read what it says of its card.",
            seconds=5,
            where=self.device,
            read=lambda world: state("a card is in" if self.holds(world) else "no card"),
        )

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        # It is in the reader more often than lost: whoever copies it means to bring it back.
        says = f"no card is in {rig[self.device].name}"
        # It is taken out to be copied, and the body is handed back without.
        return (Fault(id="out", says=says, weight=1.5, mend_s=20, act=TakeCardOut(device=self.device)),)
