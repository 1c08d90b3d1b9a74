"""A day taken apart into what has nothing to do with each other: other sorts of packs in other chargers."""

from collections.abc import Sequence
from dataclasses import replace

from isotact.core.day.rota.terms import Cost, Found, Rotation


def parts(day: Rotation) -> list[Rotation]:
    """Days that share neither packs nor chargers, nor mains of which there is too little for all."""
    day = _without_idle_limits(day)
    groups: list[set[str]] = [{seat.sort} for seat in day.seats]
    shared = [set(charger.gains_mwh) for charger in day.chargers]
    if any(day.watts):
        shared.append({sort for each in shared for sort in each})
    for sorts in shared:
        touched = [group for group in groups if group & sorts]
        if touched:
            groups = [group for group in groups if not group & sorts] + [set().union(*touched)]
    unlike = list({tuple(sorted(group)) for group in groups})
    return [_part(day, frozenset(group)) for group in sorted(unlike)]


def _part(day: Rotation, sorts: frozenset[str]) -> Rotation:
    return replace(
        day,
        seats=tuple(one for one in day.seats if one.sort in sorts),
        packs=tuple(one for one in day.packs if one.sort in sorts),
        chargers=tuple(one for one in day.chargers if sorts & set(one.gains_mwh)),
    )


def _without_idle_limits(day: Rotation) -> Rotation:
    """Mains that give more than all chargers together ask for give as much as they ask for."""
    most = sum(charger.watts * charger.slots for charger in day.chargers)
    watts = tuple(None if given is not None and given >= most and given else given for given in day.watts)
    return replace(day, watts=watts)


def together(found: Sequence[Found]) -> Found:
    """One rota of those of the parts of a day."""
    return Found(
        tuple(one for each in found for one in each.stints),
        tuple(one for each in found for one in each.charges),
        tuple(one for each in found for one in each.dark),
        _sum([each.cost for each in found]),
        _sum([each.least for each in found]),
    )


def _sum(costs: Sequence[Cost]) -> Cost:
    return Cost(*(sum(numbers) for numbers in zip(*(one.ordered for one in costs), strict=True)))
