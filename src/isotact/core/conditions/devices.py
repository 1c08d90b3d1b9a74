"""Conditions of one device as a whole: fed, balanced, awake, woken in order, its screen lit."""

from typing import Literal

from isotact.core.conditions.base import Condition, Fault
from isotact.core.conditions.world import World, feeder_of
from isotact.core.model.plan import LinkEnd
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.steps import Balance, FitBattery, Step, WakeUp
from isotact.core.model.words import Id


class OfDevice(Condition):
    """A condition of one device."""

    device: Id


class Fed(OfDevice):
    """The device has power, from its own battery or a join.

    A feed is live only while its giver is awake, so a device without a battery is seen to be fed when it wakes.
    """

    kind: Literal["fed"] = "fed"
    join: tuple[LinkEnd, LinkEnd] | None = None
    join_words: str = ""
    has_battery: bool = True
    wakes_with: Id | None = None
    """The device whose waking brings the power, when it is not the device itself."""

    @property
    def key(self) -> str:
        return f"fed:{self.device}"

    def holds(self, world: World) -> bool:
        return feeder_of(world, self.device) is not None

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.device].name} has power{f' by {self.join_words}' if self.join else ''}."

    def made_by(self) -> str:
        if self.has_battery:
            return f"fit:{self.device}"
        if self.wakes_with is None and self.join is not None:
            return f"plug:{self.join[0]}--{self.join[1]}"
        return f"wake:{self.wakes_with or self.device}"

    def needs(self) -> tuple[str, ...]:
        if self.has_battery or self.join is None:
            return ()
        return (f"joined:{self.join[0]}--{self.join[1]}",)

    def step(self, rig: ResolvedRig) -> Step | None:
        return None if self.join else battery_step(rig, self.device)

    def check(self, rig: ResolvedRig) -> str:
        return f"Read the battery level of {rig[self.device].name}; look for its power lamp."

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        says = f"{rig[self.device].name} has a flat battery or a dead feed"
        return (Fault(says=says, weight=2, look_s=5, mend_s=60),)

    def break_it(self, world: World) -> None:
        """The battery flat and the lead out."""
        state = world.devices[self.device]
        state.battery_wh = 0
        lead = world.plug_between(*self.join) if self.join else None
        if lead is not None:
            world.plugged.remove(lead)
        if feeder_of(world, self.device) is None:
            state.awake_since_s = None


def battery_step(rig: ResolvedRig, device: str, care: bool = False) -> Step | None:
    """Fit or charge the device's own battery."""
    placed = rig[device]
    battery = placed.profile.power.inner_battery if placed.profile.power else None
    if battery is None:
        return None
    verb = "Fit a charged" if battery.fitted else "Charge the"
    return Step(
        id=f"fit:{device}",
        stage="gather",
        title=f"{verb} {battery.name}: {placed.name}",
        detail=(f"{battery.energy_wh:g} Wh, {battery.energy_wh * battery.usable:.1f} Wh of it usable.",),
        device=device,
        expect="Its level reads full.",
        takes_s=30,
        action=FitBattery(device=device),
        care=care,
        cautions=("Use only the charger made for this pack; put a swollen or wet one aside.",),
    )


class Balanced(OfDevice):
    """The gimbal's axes are free and its whole payload is balanced."""

    kind: Literal["balanced"] = "balanced"
    joins: tuple[str, ...] = ()

    @property
    def key(self) -> str:
        return f"balanced:{self.device}"

    def holds(self, world: World) -> bool:
        return world.devices[self.device].balanced

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.device].name} is balanced, its axes free."

    def made_by(self) -> str:
        return f"balance:{self.device}"

    def needs(self) -> tuple[str, ...]:
        return self.joins

    def step(self, rig: ResolvedRig) -> Step:
        placed = rig[self.device]
        return Step(
            id=self.made_by(),
            stage="balance",
            title=f"Balance {placed.name}",
            detail=(
                "Complete: battery, card, lens, cap off, leads in.",
                "Tilt fore and aft, roll left and right, tilt height, fore and aft again, roll again, then pan.",
            ),
            device=self.device,
            expect="It stays where you leave it, in any position.",
            takes_s=240,
            action=Balance(device=self.device),
        )

    def check(self, rig: ResolvedRig) -> str:
        return f"Switch {rig[self.device].name} off and tip it: it must neither fall nor swing back."

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        return (Fault(says=f"{rig[self.device].name} is out of balance or locked", weight=1, look_s=15, mend_s=240),)

    def break_it(self, world: World) -> None:
        state = world.devices[self.device]
        state.balanced = False
        state.awake_since_s = None  # an unbalanced gimbal strains and switches its motors off


class Awake(OfDevice):
    """The device is switched on and has finished waking."""

    kind: Literal["awake"] = "awake"
    wants: tuple[str, ...] = ()

    @property
    def key(self) -> str:
        return f"awake:{self.device}"

    def holds(self, world: World) -> bool:
        return world.is_alive(self.device)

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.device].name} is awake."

    def made_by(self) -> str:
        return f"wake:{self.device}"

    def needs(self) -> tuple[str, ...]:
        return self.wants

    def step(self, rig: ResolvedRig) -> Step | None:
        placed = rig[self.device]
        wake = placed.profile.wake
        if wake is None:
            return None
        return Step(
            id=self.made_by(),
            stage="wake",
            title=f"Wake {placed.name}",
            detail=(wake.how,),
            device=self.device,
            expect=f"{wake.expect[0].upper()}{wake.expect[1:]}. Wait for it.",
            takes_s=3,
            action=WakeUp(device=self.device),
        )

    def check(self, rig: ResolvedRig) -> str:
        wake = rig[self.device].profile.wake
        return f"Look at {rig[self.device].name}: {wake.expect if wake else 'in place'}."

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        return (Fault(says=f"{rig[self.device].name} is asleep or hung", weight=1.5, look_s=3, mend_s=20),)

    def break_it(self, world: World) -> None:
        world.devices[self.device].awake_since_s = None


class WokenAfter(OfDevice):
    """The device woke after its peer, or the two do not find each other."""

    kind: Literal["woken-after"] = "woken-after"
    peer: Id

    @property
    def key(self) -> str:
        return f"woken-after:{self.device}:{self.peer}"

    def holds(self, world: World) -> bool:
        mine, theirs = world.devices[self.device].boot_started_s, world.devices[self.peer].awake_since_s
        return mine is not None and theirs is not None and mine >= theirs

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.device].name} woke after {rig[self.peer].name}."

    def made_by(self) -> str:
        return f"wake:{self.device}"

    def needs(self) -> tuple[str, ...]:
        return (f"awake:{self.peer}",)

    def check(self, rig: ResolvedRig) -> str:
        return f"Restart {rig[self.device].name} while {rig[self.peer].name} is on."

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        says = f"{rig[self.device].name} was woken before {rig[self.peer].name}"
        return (Fault(says=says, weight=3, look_s=30, mend_s=30),)

    def break_it(self, world: World) -> None:
        peer = world.devices[self.peer].awake_since_s or 0
        state = world.devices[self.device]
        state.boot_started_s, state.awake_since_s = peer - 2, peer - 1


class ScreenLive(OfDevice):
    """The screen at the end is lit, and nothing in use turns it dark."""

    kind: Literal["screen-live"] = "screen-live"
    screen: Id

    @property
    def key(self) -> str:
        return f"screen:{self.device}.{self.screen}"

    def holds(self, world: World) -> bool:
        surface = world.rig[self.device].profile.surface(self.screen)
        dark = surface.dark_when_used
        in_use = dark is not None and any(plug.has(self.device, dark) for plug in world.plugged)
        return world.is_alive(self.device) and not in_use

    def says(self, rig: ResolvedRig) -> str:
        return f"The {rig[self.device].profile.surface(self.screen).name} of {rig[self.device].name} is lit."

    def made_by(self) -> str:
        return f"wake:{self.device}"

    def check(self, rig: ResolvedRig) -> str:
        return f"Look at the {rig[self.device].profile.surface(self.screen).name} of {rig[self.device].name}."

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        return (Fault(says=f"the screen of {rig[self.device].name} is dark", weight=1, look_s=2, mend_s=20),)

    def break_it(self, world: World) -> None:
        world.devices[self.device].awake_since_s = None
