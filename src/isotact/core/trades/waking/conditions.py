"""What must hold of waking: awake, in the right order, the screen lit."""

from typing import ClassVar, Literal

from isotact.core.model.keys import Between, Item, Key
from isotact.core.model.named_keys import awake_key, plug_key, wake_key
from isotact.core.model.plan import LinkEnd
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id
from isotact.core.trades.base import Check, Condition, Draft, Fault
from isotact.core.trades.waking.acts import Dim, Hang, Sleep, TurnUp, WakeTooEarly, WakeUp
from isotact.core.world import Waking, World, now
from isotact.core.world.observation import Observation, state
from isotact.core.world.signals import is_dark


class Awake(Condition):
    """The device is switched on and has finished waking."""

    kind: Literal["awake"] = "awake"
    lasts_while_up: ClassVar[bool] = True
    device: Id
    waker: Id | None = None
    """What a hand wakes so that it wakes; None: it wakes as soon as it is joined with what feeds it."""
    feed: tuple[LinkEnd, LinkEnd] | None = None
    feed_words: tuple[tuple[str, str], ...] = ()
    """For what has no switch: the flag of the lead that wakes it, and where its other plug goes in; then of others."""
    lamp: str = ""
    """What is left when the lamp of its own battery warns, in words."""

    @property
    def key(self) -> Key:
        return awake_key(self.device)

    def holds(self, world: World) -> bool:
        return world[Waking].is_awake(self.device)

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.device].name} is awake."

    def made_by(self) -> Key:
        if self.waker is None and self.feed is not None:
            return plug_key(Between(*self.feed))
        return wake_key(self.waker or self.device)

    def needs(self) -> tuple[Key, ...]:
        return (Key.of("fed", self.device), Key.of("balanced", self.device))

    def rests_on(self) -> tuple[Key, ...]:
        return tuple(awake_key(device) for device in dict.fromkeys((self.device, self.waker)) if device)

    def draft(self, rig: ResolvedRig) -> Draft | None:
        placed = rig[self.device]
        wake = placed.profile.wake
        if wake is None or self.waker != self.device:
            return None
        title, detail = f"Wake {placed.name}", [wake.how]
        if self.feed_words:
            (tag, where), *others = self.feed_words
            title, detail = f"Feed {placed.name} by {tag}", [f"Put its plug into {where}.", "It has no switch."]
            detail += [
                f"Then put the plug of {tag} into {where}, which could not feed it alone." for tag, where in others
            ]
        detail += [self.lamp] if self.lamp else []
        return Draft(
            key=self.made_by(),
            stage="wake",
            title=title,
            detail=tuple(detail),
            device=self.device,
            expect=f"{wake.expect[0].upper()}{wake.expect[1:]}. Wait.",
            # The press; what comes after it is waited for.
            takes_s=3,
            act=WakeUp(device=self.device),
        )

    def check(self, rig: ResolvedRig) -> Check:
        wake = rig[self.device].profile.wake
        return Check(
            id=Key.of("is-it-on", self.device),
            says=f"Look at {rig[self.device].name}: {wake.expect if wake else 'in place'}.",
            seconds=3,
            where=self.device,
            read=lambda world: state("on" if world[Waking].is_on(self.device) else "off"),
        )

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        name = rig[self.device].name
        # It falls asleep by itself, or is switched off to save its battery; the lamp tells.
        return (Fault(id="asleep", says=f"{name} is off", weight=1.5, mend_s=20, act=Sleep(device=self.device)),)


class Responds(Condition):
    """The device does what it is asked: awake, and not hung."""

    kind: Literal["responds"] = "responds"
    device: Id
    waker: Id

    @property
    def key(self) -> Key:
        return Key.of("responds", self.device)

    def holds(self, world: World) -> bool:
        return self.device in now(world).alive

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.device].name} does what it is asked."

    def made_by(self) -> Key:
        return wake_key(self.waker)

    def rests_on(self) -> tuple[Key, ...]:
        return tuple(awake_key(device) for device in dict.fromkeys((self.device, self.waker)))

    def check(self, rig: ResolvedRig) -> Check:
        return Check(
            id=Key.of("press", self.device),
            says=f"Open a menu on {rig[self.device].name}, or press a button: it must follow.",
            seconds=5,
            where=self.device,
            read=self._follows,
        )

    def _follows(self, world: World) -> Observation:
        if not world[Waking].is_awake(self.device):
            return state("nothing: it is off")
        return state("nothing" if self.device in world[Waking].hung else "it follows")

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        # Half as often as simply being off, and it looks awake: the press of a button tells.
        says = f"{rig[self.device].name} hangs"
        return (Fault(id="hung", says=says, weight=0.8, mend_s=30, act=Hang(device=self.device)),)


class WokenAfter(Condition):
    """The device started after its peer was up, or the two do not find each other."""

    kind: Literal["woken-after"] = "woken-after"
    is_remembered: ClassVar[bool] = True
    device: Id
    peer: Id
    waker: Id
    """What is switched on so that the device starts: mostly itself."""
    peer_waker: Id

    @property
    def key(self) -> Key:
        return Key.of("woken-after", self.device, self.peer)

    def holds(self, world: World) -> bool:
        began_s, up_s = now(world).began_s(self.device), now(world).up_since_s(self.peer)
        return began_s is not None and up_s is not None and began_s >= up_s

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.device].name} woke after {rig[self.peer].name}."

    def made_by(self) -> Key:
        return wake_key(self.waker)

    def needs(self) -> tuple[Key, ...]:
        return (awake_key(self.peer_waker),)

    def rests_on(self) -> tuple[Key, ...]:
        return (awake_key(self.waker), awake_key(self.peer_waker))

    def check(self, rig: ResolvedRig) -> Check:
        return Check(
            id=Key.of("restart", self.device, self.peer),
            says=f"Restart {rig[self.device].name} while {rig[self.peer].name} is on.",
            seconds=30,
            where=self.device,
            disturbs=(Sleep(device=self.waker), WakeUp(device=self.waker)),
            read=self._after_a_restart,
        )

    def _after_a_restart(self, world: World) -> Observation:
        if not {self.device, self.peer} <= now(world).alive:
            return state("one of the two is not up")
        return state("the same as before" if self.holds(world) else "now they find each other")

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        # One of the first suspicions of anybody who has used the two together.
        says = f"{rig[self.device].name} was woken before {rig[self.peer].name}"
        act = WakeTooEarly(device=self.waker, peer=self.peer)
        return (Fault(id="order", says=says, weight=3, mend_s=30, act=act),)


class ScreenLive(Condition):
    """The screen at the end is lit, and nothing in use turns it dark."""

    kind: Literal["screen-live"] = "screen-live"
    device: Id
    screen: Id

    @property
    def key(self) -> Key:
        return Key.of("screen", Item(self.device, self.screen))

    def holds(self, world: World) -> bool:
        return self.device in now(world).alive and not is_dark(world, self.device, self.screen)

    def says(self, rig: ResolvedRig) -> str:
        return f"The {rig[self.device].profile.surface(self.screen).name} of {rig[self.device].name} is lit."

    def made_by(self) -> Key:
        return wake_key(self.device)

    def rests_on(self) -> tuple[Key, ...]:
        return (awake_key(self.device),)

    def check(self, rig: ResolvedRig) -> Check:
        name = rig[self.device].profile.surface(self.screen).name
        return Check(
            id=Key.of("turn-up", Item(self.device, self.screen)),
            says=f"Turn up the {name} of {rig[self.device].name}.",
            seconds=5,
            where=self.device,
            disturbs=(TurnUp(device=self.device, screen=self.screen),),
            read=self._turned_up,
        )

    def _turned_up(self, world: World) -> Observation:
        if self.device not in now(world).alive:
            return state("dark")
        dimmed = Item(self.device, self.screen) in world[Waking].dimmed
        return state("it was turned down" if dimmed else "it was turned up")

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        # Turned down for the night and forgotten.
        says = f"the screen of {rig[self.device].name} is turned down"
        return (Fault(id="dim", says=says, weight=1, mend_s=20, act=Dim(device=self.device, screen=self.screen)),)
