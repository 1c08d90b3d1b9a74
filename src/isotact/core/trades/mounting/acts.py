"""Fixing things in their place, and what comes loose."""

from collections.abc import Iterator
from typing import ClassVar, Literal

from isotact.core.model.keys import Key
from isotact.core.model.named_keys import ANY_BALANCE
from isotact.core.model.resolved import ResolvedRig
from isotact.core.trades.base import Act, Draft, HandAct, HandPlace, Mishap
from isotact.core.trades.waking.acts import AtDevice, on_and_straining, still_first
from isotact.core.world import World
from isotact.core.world.mounting import Mounting


class Fix(AtDevice, HandAct):
    """Fix a device in its place."""

    kind: Literal["fix"] = "fix"
    on_gimbal: bool = False
    where: ClassVar[HandPlace] = "mount"
    hand_s: ClassVar[float] = 60.0
    """Held in its place, screwed or clamped, shaken."""

    def says(self, rig: ResolvedRig) -> str:
        return f"Fix {rig[self.device].name} in its place"

    def is_like(self, other: Act) -> bool:
        return isinstance(other, Fix) and other.device == self.device

    def why_not(self, world: World) -> str | None:
        return on_and_straining(world, self.spoils(world.rig))

    def remedies(self, world: World) -> Iterator[Draft]:
        yield from still_first(world, self.spoils(world.rig))

    def do(self, world: World) -> str:
        world[Mounting].fixed.add(self.device)
        world[Mounting].leaving.discard(self.device)
        for key in self.spoils(world.rig):
            world.spoil(key)
        return f"{world.rig[self.device].name} does not move when you shake it."

    def spoils(self, rig: ResolvedRig) -> tuple[Key, ...]:
        return (ANY_BALANCE,) if self.on_gimbal else ()


class ComeLoose(AtDevice, Mishap):
    """A screw has worked loose: the device hangs, and its weight with it."""

    kind: Literal["come-loose"] = "come-loose"

    def do(self, world: World) -> str:
        world[Mounting].fixed.discard(self.device)
        if world.rig[self.device].is_turned:
            world.spoil(ANY_BALANCE)
        return "It hangs a little lower than before."
