"""What must be fixed before anything is balanced."""

from typing import Literal

from isotact.core.model.behaviour import Mount
from isotact.core.model.keys import Key
from isotact.core.model.profile import DeviceKind
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.words import Id
from isotact.core.trades.base import Condition, Draft, Fault, Look
from isotact.core.trades.mounting.acts import ComeLoose, Fix
from isotact.core.trades.mounting.state import Mounting
from isotact.core.world import World


class InPlace(Condition):
    """The device is fixed in its place."""

    kind: Literal["in-place"] = "in-place"
    device: Id
    carrier: Id | None = None
    """The gimbal whose payload it is part of."""

    @property
    def key(self) -> Key:
        return Key.of("in-place", self.device)

    def holds(self, world: World) -> bool:
        return self.device in world[Mounting].fixed

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.device].name} is fixed in its place."

    def made_by(self) -> Key:
        return Key.of("fix", self.device)

    def draft(self, rig: ResolvedRig) -> Draft:
        placed = rig[self.device]
        title, detail = _words(placed, rig[self.carrier].name if self.carrier else None)
        return Draft(
            key=self.made_by(),
            stage="build",
            title=title,
            detail=detail,
            device=self.device,
            expect="It does not move when you shake it.",
            takes_s=30,
            act=Fix(device=self.device, on_gimbal=self.carrier is not None),
            card="Clamp driver and motors on the rods" if placed.profile.kind in ("motor", "driver") else "",
        )

    def look(self, rig: ResolvedRig) -> Look:
        return Look(
            id=Key.of("shake", self.device),
            says=f"Shake {rig[self.device].name} gently: nothing moves.",
            seconds=5,
            where=self.device,
            read=lambda world: "firm" if self.holds(world) else "it gives",
        )

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        # Rare while the screws are new, and it takes a balance to mend.
        says = f"{rig[self.device].name} has come loose"
        return (Fault(id="loose", says=says, weight=0.7, mend_s=270, act=ComeLoose(device=self.device)),)


BUILD_ORDER: tuple[DeviceKind, ...] = (
    "camera-body", "plate", "lens", "module", "network-grip", "matte-box", "driver", "motor",
)  # fmt: skip
"""Body, plate, lens after the body so that nothing dear hangs while hands fumble, then what drives it. Common practice,
no source. What is not named comes after."""


def build_rank(placed: Placed) -> int:
    """Where a device comes in building the rig up."""
    kind = placed.profile.kind
    return BUILD_ORDER.index(kind) if kind in BUILD_ORDER else len(BUILD_ORDER)


def _words(placed: Placed, carrier: str | None) -> tuple[str, tuple[str, ...]]:
    name = placed.name
    match placed.profile.kind:
        case "camera-body" if carrier:
            return f"Put {name} on {carrier}", (
                "Slide its plate in until the safety snap is heard, and mark where it stands.",
            )
        case "camera-body":
            return f"Set {name} up", ("On its head or plate, tight.",)
        case "lens":
            return f"Put {name} into the mount", ("With one hand under it until the mount is tight.",)
        case "motor" | "driver":
            return f"Clamp {name} on the rods", ("Loose enough to swing away from the ring for now.",)
    mounts = [_mount_words(mount) for mount in placed.profile.mounts]
    where = placed.stage.value.replace("-", " ")
    return f"Fix {name} in its place", (f"On the {where}.", *mounts, "Safety-tie what hangs over people.")


def _mount_words(mount: Mount) -> str:
    length = f", {mount.length_mm:g} mm" if mount.length_mm is not None else ""
    return f"By its {mount.size}{length}{f', {mount.place}' if mount.place else ''}."
