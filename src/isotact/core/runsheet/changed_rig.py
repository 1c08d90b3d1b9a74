"""A built rig whose document was changed: the world as it stands, of the rig that is wanted now."""

import re
from typing import Any

from isotact.core.model.named_keys import ANY_BALANCE
from isotact.core.model.plan import Plan
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.runsheet.partial_sheet import sheet_between
from isotact.core.runsheet.sheet import RunSheet
from isotact.core.trades import Condition, parts
from isotact.core.world import Mounting, World


def mid_day(world: World, rig: ResolvedRig, plan: Plan, conditions: tuple[Condition, ...] | None = None) -> RunSheet:
    """The sheet from `world`, built from an earlier document, to `plan` of `rig`, the document as it is now."""
    moved, gone = moved_to(world, rig)
    return sheet_between(moved, plan, conditions, gone)


def moved_to(world: World, rig: ResolvedRig) -> tuple[World, tuple[str, ...]]:
    """`world` as one of `rig`, and the devices that stand in it and are gone from `rig`.

    A device that is another kind now under the same name is both: the old one goes under a name of its own.
    """
    old = world.rig
    exchanged = {
        key: _free(f"{key}-before", {*old.devices, *rig.devices})
        for key, placed in old.devices.items()
        if key in rig.devices and placed.profile.id != rig[key].profile.id
    }
    gone = {
        exchanged.get(key, key): placed
        for key, placed in old.devices.items()
        if key in exchanged or key not in rig.devices
    }
    union = _with(rig, old, gone)
    if not exchanged:
        return _put_elsewhere(world.moved(union), old, gone), tuple(gone)
    data = world.to_data()
    for key, other in exchanged.items():
        data = _renamed(data, key, other)
    data["rig"] = union.rig.id
    # Read as a world of the old devices under their new names first; what has come since is as found.
    kept = World.from_data(union, data, parts())
    return _put_elsewhere(kept.moved(union), old, gone), tuple(gone)


def _put_elsewhere(moved: World, old: ResolvedRig, gone: dict[str, Placed]) -> World:
    """What is to sit elsewhere now is not fixed there yet, nor is a body whose gimbal is another."""
    stays = [key for key in moved.rig.devices if key in old.devices and key not in gone]
    loose = [key for key in stays if moved.rig[key].stage != old[key].stage]
    if any(placed.profile.carrier is not None for placed in gone.values()):
        loose += [key for key in stays if moved.rig[key].profile.makes]
    for key in loose:
        if key in moved[Mounting].fixed:
            moved[Mounting].fixed.discard(key)
            if old[key].is_turned and not moved.rig[key].is_turned:
                moved[Mounting].leaving.add(key)
            moved.spoil(ANY_BALANCE)
    return moved


def _with(rig: ResolvedRig, old: ResolvedRig, gone: dict[str, Placed]) -> ResolvedRig:
    """`rig` with the devices that are gone from it, and the cables that still hang in it."""
    if not gone:
        return rig
    left = {key: _left(rig, key, placed) for key, placed in gone.items()}
    return ResolvedRig(rig.rig, {**old.cables, **rig.cables}, dict(sorted({**rig.devices, **left}.items())))


def _left(rig: ResolvedRig, key: str, placed: Placed) -> Placed:
    """A device that is gone from `rig`, told from one that has its name there now."""
    name = placed.name
    if any(name == other.name for other in rig.devices.values()):
        name = f"the earlier {name}"
    return Placed(placed.device.model_copy(update={"id": key, "name": name}), placed.profile, placed.energy)


def _free(stem: str, taken: set[str]) -> str:
    return stem if stem not in taken else _free(f"{stem}-2", taken)


def _renamed(data: Any, old: str, new: str) -> Any:
    """Written data with one device under another name: as a key, in a list, as the device of an end, before a dot."""
    if isinstance(data, dict):
        return {
            _name(key, old, new): new if key == "device" and value == old else _renamed(value, old, new)
            for key, value in data.items()
        }
    if isinstance(data, list):
        return [_name(one, old, new) if isinstance(one, str) else _renamed(one, old, new) for one in data]
    return _before_dot(data, old, new) if isinstance(data, str) else data


def _name(text: str, old: str, new: str) -> str:
    return new if text == old else _before_dot(text, old, new)


def _before_dot(text: str, old: str, new: str) -> str:
    """Ids hold no dots, and two ends are written with two dashes between."""
    return re.sub(rf"(^|--){re.escape(old)}(?=\.)", rf"\g<1>{new}", text)
