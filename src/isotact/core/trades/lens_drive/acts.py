"""What is done with motors and lenses: ends mapped, tables loaded; and how they are lost."""

from typing import ClassVar, Literal

from isotact.core.model.keys import Item
from isotact.core.model.plan import LinkEnd
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id, JobStage
from isotact.core.trades.base import HandAct, HandPlace, Mishap
from isotact.core.world import World, now
from isotact.core.world.lens_drive import LensDrive, is_driven, ring_of


class MapEnds(HandAct):
    """Teach a motor both ends of its ring: by hand, or by running it against the stops."""

    kind: Literal["map-ends"] = "map-ends"
    motor: LinkEnd
    ring: LinkEnd
    by: Literal["stops", "hand"]
    rank: ClassVar[int] = 6
    where: ClassVar[HandPlace] = "motor"
    hand_s: ClassVar[float] = 20.0
    """Run to one end, and to the other."""

    def says(self, rig: ResolvedRig) -> str:
        how = "against its stops" if self.by == "stops" else "by hand"
        ring = rig[self.ring.device].port(self.ring.endpoint).marking
        return f"Teach {rig[self.motor.device].name} both ends of “{ring}”, {how}"

    def part(self, device: str) -> str:
        return self.motor.endpoint if device == self.motor.device else self.ring.endpoint

    def touches(self) -> tuple[str, ...]:
        return (self.motor.device, self.ring.device)

    def why_not(self, world: World) -> str | None:
        name = world.rig[self.motor.device].name
        if ring_of(world, self.motor) != self.ring:
            return f"{name} turns nothing: its gear does not mesh."
        if not is_driven(world, self.motor.device):
            return f"{name} does not move: it has no power, or nothing drives it."
        if self.by == "stops" and not world.rig[self.ring.device].port(self.ring.endpoint).hard_stops:
            return f"{name} turns on and on: that ring has no stops. Set both ends by hand."
        return None

    def do(self, world: World) -> str:
        world[LensDrive].ends[Item(self.motor.device, self.motor.endpoint)] = str(self.ring)
        return f"{world.rig[self.motor.device].name} knows both ends."


class LoadTable(HandAct):
    """Load a lens's table where its driver reads it."""

    kind: Literal["load-table"] = "load-table"
    at: Id
    lens: Id
    rank: ClassVar[int] = 7
    where: ClassVar[HandPlace] = "menu"
    hand_s: ClassVar[float] = 30.0
    """Into its list of lenses, to the right one, loaded."""

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.at].name}: load the table of {rig[self.lens].name}"

    def caution_stages(self, stage: JobStage) -> tuple[JobStage, ...]:
        """Nothing turns for it: what is warned of stands where a motor runs."""
        return ()

    def touches(self) -> tuple[str, ...]:
        return (self.at,)

    def why_not(self, world: World) -> str | None:
        return None if self.at in now(world).alive else f"{world.rig[self.at].name} is off."

    def do(self, world: World) -> str:
        world[LensDrive].tables.add(Item(self.at, world.rig[self.lens].profile.id))
        return f"{world.rig[self.at].name} names {world.rig[self.lens].name}."


class LoseEnds(Mishap):
    """A motor has lost its ends: it slipped on its rod, or its feed was away for a moment."""

    kind: Literal["lose-ends"] = "lose-ends"
    motor: LinkEnd

    def do(self, world: World) -> str:
        world[LensDrive].ends.pop(Item(self.motor.device, self.motor.endpoint), None)
        return "It looks as before."


class AnotherTable(Mishap):
    """The table of another lens is loaded."""

    kind: Literal["another-table"] = "another-table"
    at: Id
    lens: Id

    def do(self, world: World) -> str:
        world[LensDrive].tables.discard(Item(self.at, world.rig[self.lens].profile.id))
        return "It names another lens."
