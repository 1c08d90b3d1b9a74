"""With which of the small parts in the bag each device is fixed, and what is wanting."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass, field
from typing import TypeVar

from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.small_parts import Fixing, PartBag
from isotact.core.telling.phrases import together

Need = tuple[str, int]
"""A device, and which of the things that it needs."""


@dataclass
class Fixed:
    """What each device is fixed with. `known`: whether anybody said what lies in the bag."""

    known: bool
    by: dict[Need, str] = field(default_factory=dict)
    missing: list[Need] = field(default_factory=list)

    def of(self, device: str) -> Iterator[str]:
        """The parts for one device."""
        return (part for (one, _), part in sorted(self.by.items()) if one == device)


def needs_of(rig: ResolvedRig, devices: Collection[str]) -> dict[Need, Fixing]:
    """All that some devices need to be fixed."""
    return {
        (device, number): fixing
        for device in devices
        if device in rig.devices
        for number, fixing in enumerate(rig[device].profile.fixed_by)
    }


def fixed_with(rig: ResolvedRig, devices: Collection[str]) -> Fixed:
    """As many needs as can be are met: each part once, but for what serves all that need it."""
    bag, needs = rig.part_bag, needs_of(rig, devices)
    if not bag.known:
        return Fixed(known=False)
    served = {need: able[0] for need, fixing in needs.items() if (able := tools_for(bag, fixing))}
    by, missing = handed_out(bag, {need: fixing for need, fixing in needs.items() if need not in served})
    return Fixed(True, {**served, **by}, missing)


def tools_for(bag: PartBag, fixing: Fixing) -> list[str]:
    """The parts of a bag that will do, and serve all that need one."""
    return [key for key in bag.doing(fixing) if bag.kinds[key].is_tool]


K = TypeVar("K")


def handed_out(bag: PartBag, needs: Mapping[K, Fixing]) -> tuple[dict[K, str], list[K]]:
    """Which piece of a bag meets which need, as many as can be, and the needs that none is left for."""
    pieces = [key for key, count in bag.counts.items() for _ in range(count)]
    taken: dict[int, K] = {}

    def place(need: K, seen: set[int]) -> bool:
        """An augmenting path: a piece that is free, or whose own need can go elsewhere."""
        able = bag.doing(needs[need])
        for number in sorted((n for n, key in enumerate(pieces) if key in able), key=lambda n: able.index(pieces[n])):
            if number in seen:
                continue
            seen.add(number)
            if number not in taken or place(taken[number], seen):
                taken[number] = need
                return True
        return False

    missing = [need for need in needs if not place(need, set())]
    return {need: pieces[number] for number, need in taken.items()}, missing


def fix_words(rig: ResolvedRig, device: str, fixed: Fixed) -> str | None:
    """What one device is fixed with; None for what needs nothing."""
    fixings = rig[device].profile.fixed_by
    if not fixings:
        return None
    if not fixed.known:
        return f"It takes {together([fixing.words for fixing in fixings])}."
    wanting = [fixings[number].words for one, number in fixed.missing if one == device]
    lacks = f" Wanting: {together(wanting)}." if wanting else ""
    names = [rig.part_bag.kinds[part].name for part in fixed.of(device)]
    return (f"With {together(names)}." if names else "") + (lacks if names else lacks.strip())


def wanting_words(rig: ResolvedRig, fixed: Fixed) -> Iterator[str]:
    """What is wanting of the bag, a line a device."""
    for device in dict.fromkeys(one for one, _ in fixed.missing):
        wanting = [rig[device].profile.fixed_by[number].words for one, number in fixed.missing if one == device]
        yield f"{rig[device].name}: {together(wanting)}"
