"""Building a rig up, in words: in which order things go on, and how each is fixed. No rule of the trade hangs on it."""

from isotact.core.model.behaviour import InnerBattery, Mount
from isotact.core.model.places import Side
from isotact.core.model.plan import LinkEnd
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.vocabulary import kind_like
from isotact.core.model.words import Stage

BUILD_ORDER = (
    "camera-body", "plate", "lens", "module", "network-grip", "matte-box", "driver", "motor",
)  # fmt: skip
"""Body, plate, lens after the body so that nothing dear hangs while hands fumble, then what drives it. Common practice,
no source. What is not named comes after."""


def build_rank(placed: Placed) -> int:
    """Where a device comes in building the rig up."""
    kind = kind_like(placed.profile.kind)
    return BUILD_ORDER.index(kind) if kind in BUILD_ORDER else len(BUILD_ORDER)


_STANDING = ("monitor", "receiver", "transmitter", "module", "battery", "plate", "splitter", "power-bank", "controller")


def has_stand(placed: Placed) -> bool:
    """Whether it stands on a stand, plate or arm where it is not on the gimbal; the rest is in somebody's hand."""
    return kind_like(placed.profile.kind) in _STANDING


def full_words(placed: Placed, battery: InnerBattery) -> str:
    """What is to be seen of a battery that is full; of what is nothing but one, no more than that."""
    if kind_like(placed.profile.kind) in ("battery", "power-bank"):
        return "charged, and full"
    return f"{battery.name} {'in, and full' if battery.fitted else 'charged, and full'}"


def base_and_hung(rig: ResolvedRig, a: LinkEnd, b: LinkEnd) -> tuple[LinkEnd, LinkEnd]:
    """Of two parts that mate, the end of the one that stands already, and that of the one that is put on it."""

    def place(end: LinkEnd) -> tuple[bool, int, str]:
        sits = any(role.sits for role in rig[end.device].endpoint(end.endpoint).roles)
        return sits, build_rank(rig[end.device]), end.device

    one, other = sorted((a, b), key=place)
    return one, other


_STAND = "On its stand, plate or arm, tight, its leads out of the way."


def place_words(placed: Placed, carrier: str | None) -> tuple[str, tuple[str, ...], str]:
    """How a device is fixed in its place: the title, the lines under it, and what the like are called together."""
    name = placed.name
    match kind_like(placed.profile.kind):
        case "camera-body" if carrier:
            return (
                f"Put {name} on {carrier}",
                ("Slide its plate in until the safety snap is heard, and mark where it stands.",),
                "",
            )
        case "camera-body":
            return f"Set {name} up", ("On its head or plate, tight.",), ""
        case "lens":
            return f"Put {name} into the mount", ("With one hand under it until the mount is tight.",), ""
        case "motor" | "driver":
            clamp = next((f"{mount.size} " for mount in placed.profile.mounts if mount.is_clamp), "")
            turns = placed.profile.motor is not None
            return (
                f"Clamp {name} on the {clamp}rods",
                ("Loose enough to swing away from the ring for now." if turns else "Tight, its ports to be reached.",),
                "Clamp driver and motors on the rods",
            )
    mounts = [_mount_words(mount) for mount in placed.profile.mounts]
    if placed.profile.pole is not None:
        return f"Put the gimbal at the front of {name}", ("Its lock shut and tugged, motors off; two hold it.",), ""
    if placed.stage == Stage.OFF_GIMBAL:
        return (
            f"Stand {name} where it is used",
            (_STAND if placed.device.sits is None else "Tight, its leads out of the way.", *mounts),
            "",
        )
    where = (
        "On the camera."
        if carrier is None and placed.stage != Stage.HANDLES
        else f"On the {placed.stage.value.replace('-', ' ')}."
    )
    if placed.device.sits is not None and placed.device.sits.on is not None:  # on what, its card says already
        return f"Fix {name} in its place", ("Safety-tie what hangs over people.",), ""
    return f"Fix {name} in its place", (where, *mounts, "Safety-tie what hangs over people."), ""


_SIDES: dict[Side, str] = {
    "top": "On top of", "bottom": "Below", "left": "On the left of", "right": "On the right of",
    "back": "At the back of", "front": "In front of",
}  # fmt: skip


def seat_words(placed: Placed, rig: ResolvedRig) -> tuple[str, ...]:
    """On what a device sits, and on which side of it, where the crew said so."""
    sits = placed.device.sits
    if sits is None or sits.on is None or sits.on not in rig.devices:
        return ()
    if (pole := rig[sits.on].profile.pole) is not None:
        name, at = rig[sits.on].name, sits.measured
        if at is None:
            return (f"On the {pole.holder} of {name}.",)
        return (f"On {name}, {abs(at.forward_mm):g} mm {'in front of' if at.forward_mm > 0 else 'behind'} its grip.",)
    if sits.measured is not None:
        return (f"On {rig[sits.on].name}, where it was measured.",)
    return (f"{_SIDES[sits.side]} {rig[sits.on].name}.",)


def _mount_words(mount: Mount) -> str:
    length = f", {mount.length_mm:g} mm" if mount.length_mm is not None else ""
    return f"By its {mount.size}{length}{f', {mount.place}' if mount.place else ''}."
