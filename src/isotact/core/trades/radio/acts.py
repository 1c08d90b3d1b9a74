"""Radios meet, and lose each other."""

from typing import Literal

from isotact.core.model.plan import LinkEnd
from isotact.core.trades.base import Act
from isotact.core.world import Radio, World, now
from isotact.core.world.radio import pair


class OfPair(Act):
    """An act at two radios."""

    a: LinkEnd
    b: LinkEnd


class MeetByRadio(OfPair):
    """Join a network or pair two radios."""

    kind: Literal["meet-by-radio"] = "meet-by-radio"

    def touches(self) -> tuple[str, ...]:
        return (self.a.device, self.b.device)

    def why_not(self, world: World) -> str | None:
        for end in (self.a, self.b):
            placed = world.rig[end.device]
            if end.device not in now(world).alive:
                return f"{placed.name} is off: nothing to join."
            room = placed.endpoint(end.endpoint).takes
            if len([met for met in world[Radio].met if end in met]) >= room:
                return f"{placed.name} takes {room} at a time: no room."
        return None

    def do(self, world: World) -> str:
        world[Radio].met.add(pair(self.a, self.b))
        return "Connected."


class Part(OfPair):
    """The two lose each other: on another network, or the pairing is gone."""

    kind: Literal["part"] = "part"

    def do(self, world: World) -> str:
        world[Radio].met.discard(pair(self.a, self.b))
        return "Disconnected."
