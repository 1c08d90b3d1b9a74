"""What is done with cables: laid out, plugged, pulled; and what befalls them."""

from typing import ClassVar, Literal

from isotact.core.model.keys import Between, Key
from isotact.core.model.plan import LinkEnd
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id, JobStage, Stage
from isotact.core.trades.base import Act
from isotact.core.world import Cables, Menus, Plugged, World
from isotact.core.world.cables import Laid

_CABLES: tuple[JobStage, ...] = ("inner-cables", "outer-cables")


class LayOut(Act):
    """Take a cable out of the bag and look at its marking."""

    kind: Literal["lay-out"] = "lay-out"
    tag: str
    cable: Id
    adapter: Id | None = None
    gather_rank: ClassVar[int] = 0

    def do(self, world: World) -> str:
        world[Cables].laid_out[self.tag] = Laid(self.cable, self.adapter)
        return f"{self.tag} lies ready."


class OfEnds(Act):
    """An act at a cable between two ends, or at the two ends themselves."""

    a: LinkEnd
    b: LinkEnd

    def touches(self) -> tuple[str, ...]:
        return (self.a.device, self.b.device)


class Plug(OfEnds):
    """Join two ends: by the cable laid out under `tag`, or directly."""

    kind: Literal["plug"] = "plug"
    tag: str
    end_a: int = 1
    end_b: int = 2
    direct: bool = False
    held: bool = False
    """Whether one plug stays out for now."""

    def caution_stages(self, stage: JobStage) -> tuple[JobStage, ...]:
        """Cautions about cables hold for every cable, whether it leaves the cage or not."""
        return _CABLES if stage in _CABLES else (stage,)

    def why_not(self, world: World) -> str | None:
        if not self.direct and self.tag not in world[Cables].laid_out:
            return f"{self.tag} is not at hand."
        if world[Cables].between(self.a, self.b) is not None:
            return f"{self.tag} is in already."
        return None

    def do(self, world: World) -> str:
        laid = Laid("") if self.direct else world[Cables].laid_out[self.tag]
        world[Cables].put(
            Plugged(
                a=self.a,
                b=self.b,
                tag=self.tag,
                cable=laid.cable or None,
                adapter=laid.adapter,
                end_a=self.end_a,
                end_b=self.end_b,
                at_s=world.clock_s,
                held=self.held,
            )
        )
        for end in (self.a, self.b):
            world[Menus].connected(world.rig[end.device], end.endpoint)
        for key in self.spoils(world.rig):
            world.spoil(key)
        return f"{self.tag} lies ready." if self.held else f"{self.tag} holds at both ends."

    def spoils(self, rig: ResolvedRig) -> tuple[Key, ...]:
        """Whatever is added wholly inside the rig moves its centre; a lead that hangs out is tied off instead."""
        ends = [(end, rig[end.device].endpoint(end.endpoint)) for end in (self.a, self.b)]
        if any(socket.is_gear for _, socket in ends):
            return ()  # it swings in from where it hangs already
        stages = {rig[end.device].stage_of(end.endpoint) for end, _ in ends}
        return (Key.of("balance"),) if len(stages) == 1 and Stage.OFF_GIMBAL not in stages else ()


class Unplug(OfEnds):
    """Pull a cable, or take off what was mounted."""

    kind: Literal["unplug"] = "unplug"

    def why_not(self, world: World) -> str | None:
        if world[Cables].between(self.a, self.b) is None:
            return "There is nothing in between."
        return None

    def do(self, world: World) -> str:
        plug = world[Cables].between(self.a, self.b)
        if plug is not None:
            world[Cables].take(plug)
        return "It is out."

    def spoils(self, rig: ResolvedRig) -> tuple[Key, ...]:
        return (Key.of("joined", Between(self.a, self.b)),)


class Misplug(OfEnds):
    """Put the plug at one end into the look-alike beside the right port."""

    kind: Literal["misplug"] = "misplug"
    wrong: LinkEnd

    def do(self, world: World) -> str:
        plug = world[Cables].between(self.a, self.b)
        if plug is not None:
            moved = {"a": self.wrong} if self.wrong.device == plug.a.device else {"b": self.wrong}
            world[Cables].move(plug, **moved)
        return "It is in a port."


class HalfSeat(OfEnds):
    """Leave a plug not fully home."""

    kind: Literal["half-seat"] = "half-seat"

    def do(self, world: World) -> str:
        world[Cables].change(self.a, self.b, seated=False)
        return "It looks as if it were in."


class PushHome(OfEnds):
    """Push both plugs home."""

    kind: Literal["push-home"] = "push-home"

    def do(self, world: World) -> str:
        world[Cables].change(self.a, self.b, seated=True)
        return "Both plugs are home."


class WearOut(OfEnds):
    """The cable no longer carries one medium: broken inside, or a charge-only one in its place."""

    kind: Literal["wear-out"] = "wear-out"
    medium: Id

    def do(self, world: World) -> str:
        plug = world[Cables].between(self.a, self.b)
        if plug is not None:
            world[Cables].change(self.a, self.b, dead=plug.dead | {self.medium})
        return "It looks as before."


class Miswire(OfEnds):
    """A cable wired for another family lies in the place of the right one."""

    kind: Literal["miswire"] = "miswire"
    protocol: Id

    def do(self, world: World) -> str:
        plug = world[Cables].between(self.a, self.b)
        if plug is not None:
            world[Cables].change(self.a, self.b, miswired=plug.miswired | {self.protocol})
        return "It looks as before."


class PlugLate(OfEnds):
    """Plug a cable only when the device that looks for it at its start is already up."""

    kind: Literal["plug-late"] = "plug-late"

    def do(self, world: World) -> str:
        world[Cables].change(self.a, self.b, at_s=world.clock_s)
        return "It holds at both ends."
