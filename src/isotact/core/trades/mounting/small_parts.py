"""With which of the small parts in the bag each device is fixed, and what is wanting."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from dataclasses import dataclass, field

from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.small_parts import SMALL_PARTS, Fixing, counted
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


def doing(fixing: Fixing, stock: Collection[str]) -> list[str]:
    """The parts of some that will do, the lightest first."""
    those = [key for key in stock if fixing.takes(SMALL_PARTS[key])]
    return sorted(those, key=lambda key: (SMALL_PARTS[key].mass_g, key))


def fixed_with(rig: ResolvedRig, devices: Collection[str]) -> Fixed:
    """As many needs as can be are met: each part once, but for what serves all that need it."""
    needs = needs_of(rig, devices)
    if rig.rig.parts is None:
        return Fixed(known=False)
    stock, found = counted(rig.rig.parts), Fixed(known=True)
    pieces: list[str] = []
    for key, count in stock.items():
        pieces += [key] * (0 if SMALL_PARTS[key].is_tool else count)
    taken: dict[int, Need] = {}

    def place(need: Need, seen: set[int]) -> bool:
        """An augmenting path: a piece that is free, or whose own need can go elsewhere."""
        able = doing(needs[need], stock)
        for number in sorted((n for n, key in enumerate(pieces) if key in able), key=lambda n: able.index(pieces[n])):
            if number in seen:
                continue
            seen.add(number)
            if number not in taken or place(taken[number], seen):
                taken[number] = need
                return True
        return False

    for need, fixing in needs.items():
        tool = next((key for key in doing(fixing, stock) if SMALL_PARTS[key].is_tool), None)
        if tool is not None:
            found.by[need] = tool
        elif not place(need, set()):
            found.missing.append(need)
    found.by |= {need: pieces[number] for number, need in taken.items()}
    return found


def fix_words(rig: ResolvedRig, device: str, fixed: Fixed) -> str | None:
    """What one device is fixed with; None for what needs nothing."""
    fixings = rig[device].profile.fixed_by
    if not fixings:
        return None
    if not fixed.known:
        return f"It takes {together([fixing.words for fixing in fixings])}."
    wanting = [fixings[number].words for one, number in fixed.missing if one == device]
    lacks = f" Wanting: {together(wanting)}." if wanting else ""
    names = [SMALL_PARTS[part].name for part in fixed.of(device)]
    return (f"With {together(names)}." if names else "") + (lacks if names else lacks.strip())


def wanting_words(rig: ResolvedRig, fixed: Fixed) -> Iterator[str]:
    """What is wanting of the bag, a line a device."""
    for device in dict.fromkeys(one for one, _ in fixed.missing):
        wanting = [rig[device].profile.fixed_by[number].words for one, number in fixed.missing if one == device]
        yield f"{rig[device].name}: {together(wanting)}"
