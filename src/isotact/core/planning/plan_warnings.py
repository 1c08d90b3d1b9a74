"""What a technician says of a plan that works all the same: the leash, the weight to add, the rods that are missing."""

from collections.abc import Iterator

from isotact.core.model.plan import Join
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Stage, told_apart
from isotact.core.telling.phrases import together


def warnings_of(rig: ResolvedRig, joins: list[Join], in_use: list[str]) -> list[str]:
    """Every one, a sentence each; `in_use` are the devices that the plan wakes."""
    return [*_leashes(rig, joins), *_too_light(rig, in_use), *_no_such_rods(rig, in_use)]


def _leashes(rig: ResolvedRig, joins: list[Join]) -> Iterator[str]:
    """Nobody who operates likes to hear of it only when the camera rolls."""
    for join in joins:
        if rig.is_leash(join.link):
            end = next(end for end in join.link.ends if rig[end.device].stage_of(end.endpoint) == Stage.OFF_GIMBAL)
            length_m = rig.cables[join.link.cable or ""].length_mm / 1000
            yield (
                f"{join.tag} ties the gimbal to {rig[end.device].name} by {length_m:g} m of cable: whoever "
                f"carries it goes no further. A radio link in its place sets them free."
            )


def _too_light(rig: ResolvedRig, in_use: list[str]) -> Iterator[str]:
    """A payload below the gimbal's range cannot be slid to the middle: it is flown all the same, with weight added."""
    for device in in_use:
        carrier, weight = rig[device].profile.carrier, rig.payload_g(in_use)
        if carrier is not None and weight < carrier.min_payload_g:
            least, lacks = carrier.min_payload_g / 1000, (carrier.min_payload_g - weight) / 1000
            yield (
                f"{rig[device].name} wants a payload of {least:g} kg at least; this one weighs "
                f"{told_apart(weight / 1000, least)} kg: add {told_apart(lacks, 0)} kg, such as a heavier plate, "
                "near its middle."
            )


def _no_such_rods(rig: ResolvedRig, in_use: list[str]) -> Iterator[str]:
    """A clamp goes on rods of its own size. Of rods that nobody named nothing is known."""
    mounts = [(placed, mount) for placed in rig.devices.values() for mount in placed.profile.mounts]
    rods = {mount.size: placed.name for placed, mount in mounts if mount.is_rods}
    for placed, mount in mounts:
        if mount.is_clamp and placed.id in in_use and rods and mount.size not in rods:
            there = together([f"{name} has {size} rods" for size, name in rods.items()])
            yield f"{placed.name} clamps on {mount.size} rods, and {there}: bring bushings, or rods of that size."
