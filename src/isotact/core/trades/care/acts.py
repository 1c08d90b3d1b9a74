"""Looking, taking care, and working a promise."""

from typing import ClassVar, Literal

from isotact.core.model.vocabulary import vocabulary
from isotact.core.model.words import Id
from isotact.core.trades.base import HandAct
from isotact.core.world import Waking, World, prove


class TakeCare(HandAct):
    """Look or take care; changes nothing on the bench."""

    kind: Literal["look"] = "look"
    rank: ClassVar[int] = 9
    leaves_all: ClassVar[bool] = True
    warns: ClassVar[bool] = False

    def do(self, world: World) -> str:
        return "Looked at."


class Prove(HandAct):
    """Work a promise and look."""

    kind: Literal["prove"] = "prove"
    promise: Id
    leaves_all: ClassVar[bool] = True

    @property
    def proves(self) -> str | None:
        return self.promise

    def do(self, world: World) -> str:
        proof = prove(world, self.promise)
        function = world.rig.rig.promise(self.promise).worked
        if proof.ok and proof.at and function is not None and vocabulary().functions[function].rolls:
            world[Waking].recording.add(proof.at)
        return proof.seen
