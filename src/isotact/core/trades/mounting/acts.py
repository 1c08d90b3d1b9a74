"""Fixing things in their place, and what comes loose."""

from collections.abc import Iterator
from dataclasses import replace
from typing import Literal

from isotact.core.model.keys import Key
from isotact.core.model.resolved import ResolvedRig
from isotact.core.trades.base import Draft
from isotact.core.trades.mounting.state import Mounting
from isotact.core.trades.waking.acts import AtDevice, off_draft
from isotact.core.world import Waking, World


class Fix(AtDevice):
    """Fix a device in its place."""

    kind: Literal["fix"] = "fix"
    on_gimbal: bool = False

    def why_not(self, world: World) -> str | None:
        if Key.of("balance") not in self.spoils(world.rig):
            return None
        on = next((device for device in world[Waking].boot_started_s if world.rig[device].is_balanced), None)
        return None if on is None else f"{world.rig[on].name} is on and fights your hand: switch it off first."

    def remedies(self, world: World) -> Iterator[Draft]:
        if self.why_not(world) is not None:
            for device in world[Waking].boot_started_s:
                if world.rig[device].is_balanced:
                    yield replace(off_draft(world, device), stage="build")

    def do(self, world: World) -> str:
        world[Mounting].fixed.add(self.device)
        for key in self.spoils(world.rig):
            world.spoil(key)
        return f"{world.rig[self.device].name} does not move when you shake it."

    def spoils(self, rig: ResolvedRig) -> tuple[Key, ...]:
        return (Key.of("balance"),) if self.on_gimbal else ()


class ComeLoose(AtDevice):
    """A screw has worked loose: the device hangs, and its weight with it."""

    kind: Literal["come-loose"] = "come-loose"

    def do(self, world: World) -> str:
        world[Mounting].fixed.discard(self.device)
        world.spoil(Key.of("balance"))
        return "It hangs a little lower than before."
