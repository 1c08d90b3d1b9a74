"""What is done with batteries, and how power is lost."""

from typing import ClassVar, Literal

from isotact.core.model.plan import LinkEnd
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id
from isotact.core.trades.base import HandAct, HandPlace, Mishap
from isotact.core.world import Cables, Power, World
from isotact.core.world.power import supply_of


class FitBattery(HandAct):
    """Put a charged battery in, or charge the one that is built in."""

    kind: Literal["fit-battery"] = "fit-battery"
    device: Id
    rank: ClassVar[int] = 1
    where: ClassVar[HandPlace] = "battery"
    hand_s: ClassVar[float] = 15.0
    """The old one out, a full one in."""

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.device].name}: a full battery"

    def why_not(self, world: World) -> str | None:
        placed = world.rig[self.device]
        if placed.usable_wh is None:
            return "It has no battery of its own."
        bays = [end.id for end in placed.profile.ports if end.is_battery_bay]
        taken = any(world[Cables].at(self.device, bay) for bay in bays)
        return f"The bay of {placed.name} is taken." if taken else None

    def do(self, world: World) -> str:
        placed = world.rig[self.device]
        battery = placed.profile.power.inner_battery if placed.profile.power else None
        if battery is not None and not battery.hot_swap and not self._bridged(world):
            world[Power].battery_wh[self.device] = 0.0
            world.settle()  # the old one is out: what hung on it goes dark
        world[Power].battery_wh[self.device] = placed.usable_wh or 0.0
        return f"{battery.name} full." if battery else ""

    def _bridged(self, world: World) -> bool:
        """Whether all that hangs on it is kept alive meanwhile, as by a plate made for it."""
        found = world.once(supply_of)
        leads = [lead for lead in found.fed.values() if lead is not None and lead.giver == self.device]
        powers = [world.rig[lead.taker].profile.power for lead in leads]
        own = world.rig[self.device].profile.wake is not None
        return bool(leads) and not own and all(power is not None and power.bridges for power in powers)

    def touches(self) -> tuple[str, ...]:
        return (self.device,)


class RunFlat(Mishap):
    """The battery is empty."""

    kind: Literal["run-flat"] = "run-flat"
    device: Id

    def do(self, world: World) -> str:
        world[Power].battery_wh[self.device] = 0.0
        return f"The battery of {world.rig[self.device].name} is flat."


class BlowFuse(Mishap):
    """The device takes power from nowhere: its own fuse has gone, or its contacts."""

    kind: Literal["blow-fuse"] = "blow-fuse"
    device: Id

    def do(self, world: World) -> str:
        world[Power].blown.add(self.device)
        return f"{world.rig[self.device].name} is dead."


class BlowOutlet(Mishap):
    """An outlet gives nothing any more."""

    kind: Literal["blow-outlet"] = "blow-outlet"
    outlet: LinkEnd

    def do(self, world: World) -> str:
        world[Power].dead_outlets.add(self.outlet)
        return "Nothing comes out of it."
