"""A rig with one thing changed: what plans are compared by, and ways out tried on. The rig itself stays as it is.

Each returns another `ResolvedRig` that shares all that was not changed with the first. Names are not looked up again:
what is put in has to be known already.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from typing import Any

from isotact.core.model.profile import Profile
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.rig import BagItem, Promise
from isotact.core.model.small_parts import PartItem

MOST_OF_A_TYPE = 99
"""So many cables of one type a bag holds, as its format has it."""


def with_document(rig: ResolvedRig, **fields: Any) -> ResolvedRig:
    """`rig` with some fields of its document at other values."""
    return replace(rig, rig=rig.rig.model_copy(update=fields))


def with_bag(rig: ResolvedRig, counts: Mapping[str, int]) -> ResolvedRig:
    """`rig` with so many cables of each type in its bag; types that are not known are left out."""
    bag = [BagItem(cable=key, count=min(count, MOST_OF_A_TYPE)) for key, count in counts.items() if key in rig.cables]
    return with_document(rig, bag=bag)


def with_parts(rig: ResolvedRig, parts: Sequence[PartItem] | None) -> ResolvedRig:
    """`rig` with these small parts in its bag; None leaves it what it has."""
    return rig if parts is None else with_document(rig, parts=[*parts])


def with_schools(rig: ResolvedRig, **schools: str) -> ResolvedRig:
    """`rig` as if its crew were of these schools."""
    return with_document(rig, schools=rig.rig.schools.model_copy(update=schools))


def with_promises(rig: ResolvedRig, promises: Sequence[Promise]) -> ResolvedRig:
    """`rig` with these promises and no others."""
    return with_document(rig, promises=[*promises])


def with_promise(rig: ResolvedRig, promise: str, **fields: Any) -> ResolvedRig:
    """`rig` with something else asked for by one promise."""
    return with_promises(rig, [one.model_copy(update=fields) if one.id == promise else one for one in rig.rig.promises])


def without_pin(rig: ResolvedRig, number: int) -> ResolvedRig:
    """`rig` without one of its pins."""
    return with_document(rig, pins=[pin for place, pin in enumerate(rig.rig.pins) if place != number])


def with_devices(rig: ResolvedRig, devices: Iterable[Placed]) -> ResolvedRig:
    """`rig` with these devices besides, in the place of those of like ids; all of them in id order."""
    others = {one.id: one for one in devices}
    return replace(rig, devices=dict(sorted({**rig.devices, **others}.items())))


def of_devices(rig: ResolvedRig, devices: Mapping[str, Placed]) -> ResolvedRig:
    """`rig` with these devices and no others, in their order."""
    return replace(rig, devices=devices)


def with_every_piece(rig: ResolvedRig, **known: Any) -> ResolvedRig:
    """`rig` as if the same were known of every piece in it."""
    return replace(rig, devices={key: with_piece(placed, **known) for key, placed in rig.devices.items()})


def beside_the_gimbal(rig: ResolvedRig) -> ResolvedRig:
    """`rig` with all of it beside the gimbal, so that no distance is too far."""
    near = with_every_piece(rig, distance_m=None)
    return with_document(near, shot=rig.rig.shot.model_copy(update={"screens_m": None}))


def with_piece(placed: Placed, **known: Any) -> Placed:
    """The same device, with something else known of this very piece: firmware, licences, charge."""
    return replace(placed, device=placed.device.model_copy(update=known))


def with_profile(placed: Placed, profile: Profile | None = None, **fields: Any) -> Placed:
    """The same device, if its profile were another, or had other values in some fields."""
    return replace(placed, profile=profile or placed.profile.model_copy(update=fields))
