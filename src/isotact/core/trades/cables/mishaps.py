"""What befalls cables, or is done wrong with them."""

from typing import Literal

from isotact.core.model.plan import LinkEnd
from isotact.core.model.words import Id
from isotact.core.trades.base import Mishap
from isotact.core.trades.cables.acts import OfEnds
from isotact.core.world import Cables, World


class Misplug(OfEnds, Mishap):
    """Put the plug at one end into the look-alike beside the right port."""

    kind: Literal["misplug"] = "misplug"
    wrong: LinkEnd

    def do(self, world: World) -> str:
        plug = world[Cables].between(self.a, self.b)
        if plug is not None:
            moved = {"a": self.wrong} if self.wrong.device == plug.a.device else {"b": self.wrong}
            world[Cables].move(plug, **moved)
        return "It is in a port."


class HalfSeat(OfEnds, Mishap):
    """Leave a plug not fully home."""

    kind: Literal["half-seat"] = "half-seat"

    def do(self, world: World) -> str:
        world[Cables].change(self.a, self.b, seated=False)
        return "It looks as if it were in."


class WearOut(OfEnds, Mishap):
    """The cable no longer carries one medium: broken inside, or a charge-only one in its place."""

    kind: Literal["wear-out"] = "wear-out"
    medium: Id

    def do(self, world: World) -> str:
        plug = world[Cables].between(self.a, self.b)
        if plug is not None:
            world[Cables].change(self.a, self.b, dead=plug.dead | {self.medium})
        return "It looks as before."


class Miswire(OfEnds, Mishap):
    """A cable wired for another family lies in the place of the right one."""

    kind: Literal["miswire"] = "miswire"
    protocol: Id

    def do(self, world: World) -> str:
        plug = world[Cables].between(self.a, self.b)
        if plug is not None:
            world[Cables].change(self.a, self.b, miswired=plug.miswired | {self.protocol})
        return "It looks as before."


class PlugLate(OfEnds, Mishap):
    """Plug a cable only when the device that looks for it at its start is already up."""

    kind: Literal["plug-late"] = "plug-late"

    def do(self, world: World) -> str:
        world[Cables].change(self.a, self.b, at_s=world.clock_s)
        return "It holds at both ends."
