"""What is done with cards."""

from typing import ClassVar, Literal

from isotact.core.model.resolved import ResolvedRig
from isotact.core.trades.base import HandAct, HandPlace
from isotact.core.trades.waking.acts import AtDevice
from isotact.core.world import Media, Waking, World


class InsertCard(AtDevice, HandAct):
    """Put an empty card in."""

    kind: Literal["insert-card"] = "insert-card"
    rank: ClassVar[int] = 2
    where: ClassVar[HandPlace] = "card"

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.device].name}: an empty card in"

    def why_not(self, world: World) -> str | None:
        placed = world.rig[self.device]
        if placed.profile.card is None:
            return f"{placed.name} takes no card."
        return f"There is a card in {placed.name} already." if self.device in world[Media].cards else None

    def do(self, world: World) -> str:
        world[Media].cards.add(self.device)
        return "The door closes over it."


class TakeCardOut(AtDevice, HandAct):
    """Take the card out, or leave it in the reader."""

    kind: Literal["take-card-out"] = "take-card-out"
    warns: ClassVar[bool] = False
    where: ClassVar[HandPlace] = "card"

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.device].name}: the card out"

    def why_not(self, world: World) -> str | None:
        return None if self.device in world[Media].cards else f"No card is in {world.rig[self.device].name}."

    def do(self, world: World) -> str:
        world[Media].cards.discard(self.device)
        world[Waking].recording.discard(self.device)
        return "The slot is empty."
