"""What must be fixed before anything is balanced."""

from typing import Literal, Self

from isotact.core.model.keys import Key
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id
from isotact.core.telling.build_words import place_words, seat_words
from isotact.core.trades.base import Check, Condition, Draft, Fault
from isotact.core.trades.mounting.acts import ComeLoose, Fix
from isotact.core.world import World
from isotact.core.world.mounting import Mounting
from isotact.core.world.observation import state

SCREW_S = 25.0
"""A clamp or a screw with its key, tight enough for a whip pan. Common practice, no source."""
S_PER_KG = 10.0
"""What is heavier is held longer before it sits. Common practice, no source."""
HEAVY_G = 7000.0
"""What is heavier is put up by one and held by another. Common practice, no source."""


class InPlace(Condition):
    """The device is fixed in its place."""

    kind: Literal["in-place"] = "in-place"
    device: Id
    carrier: Id | None = None
    """The gimbal whose payload it is part of."""
    fixed: str | None = None
    """With which small parts, in words."""
    on: Id | None = None
    """What it sits on, where the crew said so and that has to be fixed itself."""

    @property
    def key(self) -> Key:
        return Key.of("in-place", self.device)

    def holds(self, world: World) -> bool:
        return self.device in world[Mounting].fixed

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.device].name} is fixed in its place."

    def made_by(self) -> Key:
        return Key.of("fix", self.device)

    def needs(self) -> tuple[Key, ...]:
        return () if self.on is None else (Key.of("in-place", self.on),)

    def seen_in(self, world: World) -> Self:
        """What leaves a cage does so before that is balanced, its motors off."""
        if self.device not in world[Mounting].leaving:
            return self
        carrier = next((key for key, placed in world.rig.devices.items() if placed.is_balanced), None)
        return self.model_copy(update={"carrier": carrier})

    def draft(self, rig: ResolvedRig) -> Draft:
        placed = rig[self.device]
        title, detail, card = place_words(placed, rig[self.carrier].name if self.carrier else None)
        return Draft(
            key=self.made_by(),
            stage="build",
            title=title,
            detail=(*seat_words(placed, rig), *detail, *([self.fixed] if self.fixed else [])),
            device=self.device,
            expect="It stands when you shake it.",
            takes_s=round(SCREW_S + S_PER_KG * placed.mass_g / 1000),
            people=2 if placed.mass_g >= HEAVY_G else 1,
            act=Fix(device=self.device, on_gimbal=self.carrier is not None),
            card=card,
        )

    def check(self, rig: ResolvedRig) -> Check:
        return Check(
            id=Key.of("shake", self.device),
            says=f"Shake {rig[self.device].name} gently: nothing moves.",
            seconds=5,
            where=self.device,
            read=lambda world: state("firm" if self.holds(world) else "it gives"),
        )

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        # Rare while the screws are new, and it takes a balance to mend.
        says = f"{rig[self.device].name} has come loose"
        # Seldom, as one tightens what one touches; mending it costs the balance besides.
        return (Fault(id="loose", says=says, weight=0.7, mend_s=270, act=ComeLoose(device=self.device)),)
