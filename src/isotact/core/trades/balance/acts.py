"""Balancing, and losing it."""

from typing import ClassVar, Literal

from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id
from isotact.core.trades.base import Act, HandAct, HandPlace, Mishap
from isotact.core.world import Balance, World
from isotact.core.world.mounting import Mounting


class BalanceIt(HandAct):
    """Balance the whole payload."""

    kind: Literal["balance"] = "balance"
    device: Id
    carries: tuple[Id, ...] = ()
    where: ClassVar[HandPlace] = "mount"
    hand_s: ClassVar[float] = 300.0
    """All axes, one after the other."""

    def says(self, rig: ResolvedRig) -> str:
        return f"Balance {rig[self.device].name}"

    def is_like(self, other: Act) -> bool:
        return isinstance(other, BalanceIt) and other.device == self.device

    def touches(self) -> tuple[str, ...]:
        return (self.device,)

    def why_not(self, world: World) -> str | None:
        hangs = min(world[Mounting].leaving, default=None)
        if hangs is not None:
            return f"{world.rig[hangs].name} still weighs in the cage: take it off first."
        loose = next((device for device in self.carries if device not in world[Mounting].fixed), None)
        return None if loose is None else f"{world.rig[loose].name} is not fixed in its place: do that first."

    def do(self, world: World) -> str:
        world[Balance].balanced.add(self.device)
        return "It stays wherever it is left."


class Unbalance(Mishap):
    """Something has slipped, or an axis is locked."""

    kind: Literal["unbalance"] = "unbalance"
    device: Id

    def do(self, world: World) -> str:
        world[Balance].balanced.discard(self.device)
        return "It falls to one side."
