"""Waking and putting to sleep; hanging, dimming, waking in the wrong order."""

from collections.abc import Iterator
from dataclasses import replace
from typing import ClassVar, Literal

from isotact.core.model.keys import Item, Key
from isotact.core.model.named_keys import ANY_BALANCE, awake_key, mode_key
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id, JobStage
from isotact.core.trades.base import Act, Draft, HandAct, HandPlace, Mishap
from isotact.core.world import Balance, Cables, Menus, Plugged, Waking, World, now
from isotact.core.world.power import live_feeds


class AtDevice(Act):
    """An act at one device."""

    device: Id

    def touches(self) -> tuple[str, ...]:
        return (self.device,)


class WakeUp(AtDevice, HandAct):
    """Wake a device and wait until it is up."""

    kind: Literal["wake"] = "wake"
    where: ClassVar[HandPlace] = "switch"

    def says(self, rig: ResolvedRig) -> str:
        return f"Switch {rig[self.device].name} on"

    def caution_stages(self, stage: JobStage) -> tuple[JobStage, ...]:
        return ("wake",)

    def why_not(self, world: World) -> str | None:
        placed = world.rig[self.device]
        wake = placed.profile.wake
        if wake is None or (world[Waking].is_on(self.device) and not _held(world, self.device)):
            return f"{placed.name} is on already."
        if not (wake.with_feed and _held(world, self.device)) and not now(world).supply.has_power(self.device):
            return f"{placed.name} stays dark: no power."
        if wake.needs_balance and self.device not in world[Balance].balanced:
            return f"{placed.name} strains, warns and switches off: it is not balanced."
        return None

    def waits_s(self, rig: ResolvedRig) -> float:
        wake = rig[self.device].profile.wake
        return wake.boot_s if wake is not None else 0.0

    def remedies(self, world: World) -> Iterator[Draft]:
        if world[Waking].is_on(self.device):
            yield off_draft(world, self.device)

    def do(self, world: World) -> str:
        placed = world.rig[self.device]
        wake = placed.profile.wake
        if wake is None:
            return f"{placed.name} is on already."
        if wake.with_feed:
            for plug in _held(world, self.device):
                put_in(world, plug)
        start(world, self.device)
        if not world[Waking].is_awake(self.device):
            return f"{placed.name} stays dark: no power."  # what it draws was too much for its feed
        return f"{placed.name}: {wake.expect}."


def put_in(world: World, plug: Plugged) -> None:
    """Put in the plug of a lead that was kept at hand."""
    world[Cables].put_in(plug, world.clock_s)
    for end in (plug.a, plug.b):
        world[Menus].connected(world.rig[end.device], end.endpoint)


def start(world: World, device: str) -> None:
    """Set a device going and wait until it is up, if it has what it needs."""
    wake, waking = world.rig[device].profile.wake, world[Waking]
    if wake is not None and not waking.is_on(device) and not wake.with_feed:
        waking.boot_started_s[device] = world.clock_s
    world.settle()
    if wake is not None:
        world.pass_time(wake.boot_s)


def _held(world: World, device: str) -> list[Plugged]:
    """The leads that could feed a device, of which one plug is kept out: where some give by now, those only."""
    held = [plug for plug in world[Cables].feeding(world.rig, device) if plug.held]
    up = [plug for plug in held if all(_is_up(world, end.device) for end in (plug.a, plug.b) if end.device != device)]
    return up or held


def _is_up(world: World, device: str) -> bool:
    return world.rig[device].profile.wake is None or world[Waking].is_awake(device)


class Sleep(AtDevice, HandAct):
    """Switch a device off."""

    kind: Literal["sleep"] = "sleep"
    warns: ClassVar[bool] = False
    where: ClassVar[HandPlace] = "switch"

    def says(self, rig: ResolvedRig) -> str:
        return f"Switch {rig[self.device].name} off"

    def do(self, world: World) -> str:
        wake = world.rig[self.device].profile.wake
        if wake is not None and wake.with_feed:
            for plug in live_feeds(world, self.device):
                world[Cables].hold(plug, held=True)
        world.sleep(self.device)
        return f"{world.rig[self.device].name} is dark."

    def spoils(self, rig: ResolvedRig) -> tuple[Key, ...]:
        modes = rig[self.device].profile.modes
        lapsing = (mode_key(self.device),) if modes is not None and modes.lapses else ()
        return (awake_key(self.device), *lapsing)


def off_draft(world: World, device: str) -> Draft:
    """Switch a device off that is on: to start it afresh, or to have it still."""
    placed = world.rig[device]
    wake = placed.profile.wake
    how = wake.off if wake is not None else ""
    if wake is not None and wake.with_feed:
        feeds = live_feeds(world, device)
        how = f"Pull {' and '.join(plug.tag for plug in feeds)}: it has no switch."
    return Draft(
        key=Key.of("sleep", device),
        stage="wake",
        title=f"Switch {placed.name} off",
        detail=(how,),
        device=device,
        expect="Its lamps and screen are dark.",
        # A switch held for two seconds, and a look whether it is dark.
        takes_s=5,
        act=Sleep(device=device),
    )


def still_first(world: World, spoils: tuple[Key, ...]) -> Iterator[Draft]:
    """What is switched off before weight is moved."""
    if ANY_BALANCE in spoils:
        for device in world[Waking].boot_started_s:
            if world.rig[device].is_balanced:
                yield replace(off_draft(world, device), stage="build")


def on_and_straining(world: World, spoils: tuple[Key, ...]) -> str | None:
    """Why weight cannot be moved now: a gimbal that is on fights the hand, and swings once it is free."""
    if ANY_BALANCE not in spoils:
        return None
    on = next((device for device in world[Waking].boot_started_s if world.rig[device].is_balanced), None)
    return None if on is None else f"{world.rig[on].name} is on and fights your hand: switch it off first."


class Hang(AtDevice, Mishap):
    """A device hangs: its lamps are as they were, and it does nothing."""

    kind: Literal["hang"] = "hang"

    def do(self, world: World) -> str:
        world[Waking].hung.add(self.device)
        return f"{world.rig[self.device].name} hangs."


class Dim(Mishap):
    """Turn a screen down until nothing is seen on it."""

    kind: Literal["dim"] = "dim"
    device: Id
    screen: Id

    def do(self, world: World) -> str:
        world[Waking].dimmed.add(Item(self.device, self.screen))
        return "The screen is dark."


class TurnUp(HandAct):
    """Turn a screen up."""

    kind: Literal["turn-up"] = "turn-up"
    device: Id
    screen: Id
    where: ClassVar[HandPlace] = "control"

    def says(self, rig: ResolvedRig) -> str:
        return f"Turn the {rig[self.device].profile.surface(self.screen).name} up"

    def part(self, device: str) -> str:
        return self.screen

    def touches(self) -> tuple[str, ...]:
        return (self.device,)

    def do(self, world: World) -> str:
        world[Waking].dimmed.discard(Item(self.device, self.screen))
        return "It is as bright as it can be."


class WakeTooEarly(Mishap):
    """A device was up before the one for which it should have waited."""

    kind: Literal["wake-too-early"] = "wake-too-early"
    device: Id
    peer: Id

    def do(self, world: World) -> str:
        waking, up_s = world[Waking], now(world).up_since_s(self.peer) or 0.0
        waking.boot_started_s[self.device] = up_s - 2
        waking.awake_since_s[self.device] = up_s - 1
        return f"{world.rig[self.device].name} was up before {world.rig[self.peer].name}."
