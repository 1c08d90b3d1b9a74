"""One thing to get, to load, to charge, to allow or to give up for a rig, and the rig with it."""

from __future__ import annotations

import re
from collections.abc import Collection, Sequence
from dataclasses import replace
from typing import Annotated, Literal

from pydantic import Field, model_validator

from isotact.core.model.base import Struct
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import BagItem, Device, Rig
from isotact.core.model.small_parts import SMALL_PARTS, PartItem
from isotact.core.model.variants import of_devices, with_document, with_promise
from isotact.core.model.words import ID_PATTERN, VERSION_PATTERN, Id, free_id

# So many changes of battery a promise of hours may allow, as its format has it.
MOST_PROMISED = 20

ChangeKind = Literal["cable", "adapter", "part", "device", "firmware", "licence", "charge", "spare", "changes", "drop"]


class Change(Struct):
    """One thing to get, to load, to charge, to allow or to give up.

    `device`, `value` and `count` are what a rig needs to take it in. `value`: what is got, loaded or given up; of a
    battery the profile of its device, of changes that are allowed the promise of hours.
    """

    kind: ChangeKind
    says: str
    value: Annotated[str, Field(max_length=64)]
    device: Id | None = None
    count: int = Field(default=1, ge=1, le=99, strict=True)
    points: int = Field(strict=True)

    @model_validator(mode="after")
    def _value_is_of_its_kind(self) -> Change:
        pattern = VERSION_PATTERN if self.kind == "firmware" else ID_PATTERN
        if not re.match(pattern, self.value):
            wanted = "a version such as '2.10'" if self.kind == "firmware" else "the id of what is to be changed"
            raise ValueError(f"found value '{self.value}'; expected {wanted}")
        return self

    @property
    def gives_up(self) -> bool:
        """Whether a promise is given up; everything else is got or loaded."""
        return self.kind == "drop"

    def is_of(self, kinds: Collection[str]) -> bool:
        return self.kind in kinds


def with_changes(rig: ResolvedRig, changes: Sequence[Change]) -> Rig:
    """The document of `rig` with every change made; one that names nothing here is passed over."""
    bag = {item.cable: item.count for item in rig.rig.bag}
    devices = {device.id: device for device in rig.rig.devices}
    dropped = {change.value for change in changes if change.gives_up}
    for change in changes:
        device = devices.get(change.device or "")
        if change.is_of(("cable", "adapter")):
            bag[change.value] = min(99, bag.get(change.value, 0) + change.count)
        elif device is not None:
            devices[device.id] = _mended(device, change)
        elif change.is_of(("device",)) and change.device:
            key = free_id(change.value, devices)
            devices[key] = Device(id=key, profile=change.value)
    more = {change.value: change.count for change in changes if change.is_of(("changes",))}
    left = rig.rig.without_promises(dropped)
    looser = {
        promise.id: promise.model_copy(update={"changes": min(MOST_PROMISED, promise.changes + more[promise.id])})
        for promise in left.lasting
        if promise.id in more
    }
    return left.model_copy(
        update={
            "promises": [looser.get(promise.id, promise) for promise in left.promises],
            "devices": list(devices.values()),
            "parts": _with_parts(rig.rig, changes),
            "bag": [BagItem(cable=key, count=number) for key, number in bag.items()],
        }
    )


def _with_parts(rig: Rig, changes: Sequence[Change]) -> list[PartItem] | None:
    """The bag of small parts with those that are got; None where nobody said what lies in it, and none is got."""
    got = [change for change in changes if change.is_of(("part",))]
    parts = {item.part: item for item in rig.parts or ()}
    for change in got:
        had = parts.get(change.value)
        if had is None and change.value not in SMALL_PARTS:
            continue
        had = had or PartItem(part=change.value, count=0)
        parts[had.part] = had.model_copy(update={"count": min(99, had.count + change.count)})
    return [*parts.values()] if parts or rig.parts is not None else None


def changed(rig: ResolvedRig, changes: Sequence[Change]) -> ResolvedRig:
    """`rig` with what is loaded, charged, brought, allowed and fixed with; cables and promises are left to the plan."""
    pieces = dict(rig.devices)
    for change in changes:
        if change.device in pieces:
            placed = pieces[change.device]
            pieces[placed.id] = replace(placed, device=_mended(placed.device, change))
    found = with_document(of_devices(rig, pieces), parts=_with_parts(rig.rig, changes))
    for promise in rig.rig.lasting:
        more = sum(change.count for change in changes if change.is_of(("changes",)) and change.value == promise.id)
        found = with_promise(found, promise.id, changes=promise.changes + more) if more else found
    return found


def _mended(device: Device, change: Change) -> Device:
    """A piece with what is loaded on it, or done about its battery."""
    match change.kind:
        case "firmware":
            return device.model_copy(update={"firmware": change.value})
        case "licence" if change.value not in device.licences:
            return device.model_copy(update={"licences": [*device.licences, change.value]})
        case "charge":
            return device.model_copy(update={"charge_percent": None})
        case "spare":
            lying = min(99, (device.spare_batteries or 0) + change.count)
            return device.model_copy(update={"spare_batteries": lying})
        case _:
            return device
