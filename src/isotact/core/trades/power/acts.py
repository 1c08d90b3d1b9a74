"""What is done with batteries, and how power is lost."""

from typing import ClassVar, Literal

from isotact.core.model.plan import LinkEnd
from isotact.core.model.words import Id
from isotact.core.trades.base import Act
from isotact.core.world import Power, World


class FitBattery(Act):
    """Put a charged battery in, or charge the one that is built in."""

    kind: Literal["fit-battery"] = "fit-battery"
    device: Id
    gather_rank: ClassVar[int] = 1

    def why_not(self, world: World) -> str | None:
        return "It has no battery of its own." if world.rig[self.device].usable_wh is None else None

    def do(self, world: World) -> str:
        placed = world.rig[self.device]
        world[Power].battery_wh[self.device] = placed.usable_wh or 0.0
        battery = placed.profile.power.inner_battery if placed.profile.power else None
        return f"{battery.name} full." if battery else ""

    def touches(self) -> tuple[str, ...]:
        return (self.device,)


class RunFlat(Act):
    """The battery is empty."""

    kind: Literal["run-flat"] = "run-flat"
    device: Id

    def do(self, world: World) -> str:
        world[Power].battery_wh[self.device] = 0.0
        return f"The battery of {world.rig[self.device].name} is flat."


class BlowFuse(Act):
    """The device takes power from nowhere: its own fuse has gone, or its contacts."""

    kind: Literal["blow-fuse"] = "blow-fuse"
    device: Id

    def do(self, world: World) -> str:
        world[Power].blown.add(self.device)
        return f"{world.rig[self.device].name} is dead."


class BlowOutlet(Act):
    """An outlet gives nothing any more."""

    kind: Literal["blow-outlet"] = "blow-outlet"
    outlet: LinkEnd

    def do(self, world: World) -> str:
        world[Power].dead_outlets.add(self.outlet)
        return "Nothing comes out of it."
