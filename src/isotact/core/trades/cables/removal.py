"""Taking off what is no longer part of the rig, or stands where the plan wants something else."""

from collections.abc import Collection, Iterator
from typing import ClassVar, Literal

from isotact.core.model.keys import Key
from isotact.core.model.named_keys import ANY_BALANCE
from isotact.core.model.plan import Join
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id, Stage
from isotact.core.telling.build_words import base_and_hung
from isotact.core.trades.base import Draft, HandAct, HandPlace
from isotact.core.trades.cables.acts import meshed_with, out_draft
from isotact.core.trades.planned import Planned
from isotact.core.trades.waking.acts import on_and_straining, still_first
from isotact.core.world import Cables, Plugged, World
from isotact.core.world.mounting import Mounting
from isotact.core.world.power import bridge


class TakeOff(HandAct):
    """Take a device off, with all that is plugged into it."""

    kind: Literal["take-off"] = "take-off"
    device: Id
    on_gimbal: bool = False
    warns: ClassVar[bool] = False
    where: ClassVar[HandPlace] = "mount"
    hand_s: ClassVar[float] = 15.0
    """A screw or a clamp, the leads out, into its case."""

    def says(self, rig: ResolvedRig) -> str:
        return f"Take {rig[self.device].name} off, and put it in its case"

    def touches(self) -> tuple[str, ...]:
        return (self.device,)

    def why_not(self, world: World) -> str | None:
        meshed = next(self._meshed(world), None)
        if meshed is not None:
            return f"{meshed.tag} is meshed with what sits on it: swing it away first."
        return on_and_straining(world, self.spoils(world.rig))

    def _meshed(self, world: World) -> Iterator[Plugged]:
        """What is meshed with a lens that comes off, or off with it. A motor takes its own gear along."""
        for plug in meshed_with(world, self.device):
            if base_and_hung(world.rig, plug.a, plug.b)[1].device != self.device:
                yield plug

    def remedies(self, world: World) -> Iterator[Draft]:
        for plug in self._meshed(world):
            yield out_draft(world, plug)
        yield from still_first(world, self.spoils(world.rig))

    def do(self, world: World) -> str:
        bridge(world, self.device)
        for plug in list(world[Cables].plugs.values()):
            if self.device in (plug.a.device, plug.b.device):
                world[Cables].take(plug)  # it hangs there with its flag, and need not be laid out anew
        world[Mounting].fixed.discard(self.device)
        world.sleep(self.device)
        for key in self.spoils(world.rig):
            world.spoil(key)
        world.out.discard(self.device)
        return f"{world.rig[self.device].name} is back in its case."

    def spoils(self, rig: ResolvedRig) -> tuple[Key, ...]:
        return (ANY_BALANCE,) if self.on_gimbal else ()


def tidy(planned: Planned, world: World, gone: Collection[str]) -> Iterator[Draft]:
    """Devices that are gone come off; a cable that is not the one the plan means, or in the wrong port, comes out."""
    for device in sorted({*gone} & world.out):
        yield _off_draft(world, device)
    wanted = {frozenset(join.link.ends): join for join in planned.joins if not join.link.is_radio}
    missing = {join.tag: join for ends, join in wanted.items() if world[Cables].between(*join.link.ends) is None}
    for plug in world[Cables].plugs.values():
        meant = wanted.get(frozenset((plug.a, plug.b)))
        if meant is None and plug.tag in missing and plug.cable is not None:
            link = missing[plug.tag].link
            sound = not plug.dead and not plug.miswired and (plug.cable, plug.adapters) == (link.cable, link.adapters)
            yield out_draft(world, plug, stays=sound)  # it stands in the wrong port
        elif meant is None and _feeds_unasked(planned, world, plug):
            yield out_draft(world, plug)  # what it drains nobody reckoned with
        elif meant is not None and not _is_meant(plug, meant):
            yield out_draft(world, plug)


def _feeds_unasked(planned: Planned, world: World, plug: Plugged) -> bool:
    """Whether a lead that is no part of the plan could feed one thing in use from another."""
    ends = {plug.a.device, plug.b.device}
    return ends <= {*planned.in_use} and any(plug in world[Cables].feeding(world.rig, device) for device in ends)


def _is_meant(plug: Plugged, join: Join) -> bool:
    same = (plug.cable, plug.adapters) == (join.link.cable, join.link.adapters)
    turned = (plug.end_a, plug.end_b) if plug.a == join.link.a else (plug.end_b, plug.end_a)
    return same and turned == (join.link.end_a, join.link.end_b) and not plug.dead and not plug.miswired


def _off_draft(world: World, device: str) -> Draft:
    placed = world.rig[device]
    plugs = [plug for plug in world[Cables].plugs.values() if device in (plug.a.device, plug.b.device)]
    tags = list(dict.fromkeys(plug.tag for plug in plugs if plug.cable is not None))
    return Draft(
        key=Key.of("take-off", device),
        stage="build",
        title=f"Take {placed.name} off",
        detail=(f"And take out {', '.join(tags)}.",) if tags else (),
        device=device,
        expect="It is back in its case.",
        # A screw or a clamp, and each lead that goes out with it.
        takes_s=15 + 5 * len(tags),
        act=TakeOff(device=device, on_gimbal=placed.stage != Stage.OFF_GIMBAL),
        care=True,
    )
