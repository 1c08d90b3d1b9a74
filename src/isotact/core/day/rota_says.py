"""What a rota comes to in words: the packs it takes, and what is to be charged after the wrap."""

from math import ceil

from isotact.core.day.battery_seats import STEP_MIN
from isotact.core.day.overnight import ToCharge, full_by
from isotact.core.day.rota import CarriedOut, Found, Rotation
from isotact.core.day.rota_day import RotaDay
from isotact.core.telling.phrases import counted, together

OVERNIGHT_WORK = 0.02
"""So much work for the charging after the wrap, in the solver's own measure: one by one is hardly ever worse."""


def packs_says(day: RotaDay, rotation: Rotation, found: Found) -> tuple[str, ...]:
    """For each sort of pack that is changed: how many it takes, which of the spares, and which stay in the van."""
    said = []
    begun = {seat.pack for seat in rotation.seats}
    used = {one.pack for one in found.stints}
    for sort, packs in sorted(rotation.by_sort.items()):
        spares = [pack.key for pack in packs if pack.key not in begun]
        if not spares:
            continue
        taken, left = [one for one in spares if one in used], [one for one in spares if one not in used]
        own = counted(len(packs) - len(spares), "pack")
        says = f"{sort_name(day, sort)}: {own} in the rigs, "
        says += f"{counted(len(taken), 'spare')}: {together(taken)}" if taken else "no spare"
        said.append(f"{says}." + (f" Not needed: {together(left)}." if left else ""))
    return tuple(said)


def sort_name(day: RotaDay, sort: str) -> str:
    """What a crew calls packs of a sort."""
    profile = day.profiles.get(sort)
    return profile.name if profile is not None else sort[0].upper() + sort[1:]


def overnight_says(rotation: Rotation, played: CarriedOut) -> str:
    """What is to be charged after the wrap, and how long that takes with these chargers; nothing without any."""
    charges, missing_wh = [], 0.0
    for pack in rotation.packs:
        missing = pack.full_mwh - played.held_mwh[pack.key][-1]
        able = [one for one in rotation.chargers if pack.sort in one.gains_mwh]
        if able and missing > 1:
            # Into the slowest that takes it, where it does not matter which: no promise that is not kept.
            steps = ceil(missing / min(one.gains_mwh[pack.sort] for one in able))
            slots = tuple(f"{one.key} {lane}" for one in able for lane in range(one.slots))
            charges.append(ToCharge(pack.key, steps * STEP_MIN, slots))
            missing_wh += missing / 1000
    if not charges:
        return ""
    hours, minutes = divmod(full_by(charges, OVERNIGHT_WORK).end, 60)
    several = counted(len(charges), "pack")
    return f"After the wrap {several} to charge, {missing_wh:.0f} Wh: at the mains full in {hours} h {minutes:02d}."
