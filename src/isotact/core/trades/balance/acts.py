"""Balancing, and losing it."""

from typing import Literal

from isotact.core.model.words import Id
from isotact.core.trades.base import Act
from isotact.core.world import Balance, World


class BalanceIt(Act):
    """Balance the whole payload."""

    kind: Literal["balance"] = "balance"
    device: Id

    def touches(self) -> tuple[str, ...]:
        return (self.device,)

    def do(self, world: World) -> str:
        world[Balance].balanced.add(self.device)
        return "It stays wherever it is left."


class Unbalance(Act):
    """Something has slipped, or an axis is locked."""

    kind: Literal["unbalance"] = "unbalance"
    device: Id

    def do(self, world: World) -> str:
        world[Balance].balanced.discard(self.device)
        return "It falls to one side."
