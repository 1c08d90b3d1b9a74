"""What the changes of a seat come to at least, were there always a full pack at hand: a shortest path over its day."""

from collections.abc import Iterator, Sequence

from isotact.core.day.rota.terms import PackIs, Rotation, Seat


def least_changes(day: Rotation, seat: Seat) -> tuple[int, int] | None:
    """The fewest takes spoilt, and with those the fewest changes; None where even then it goes dark."""
    if seat.fixed:
        return (0, 0)
    own = day.by_sort.get(seat.sort, ())
    most = max((pack.full_mwh for pack in own), default=0) - seat.keeps_mwh
    first = first_charge(day, seat, own) - seat.keeps_mwh
    used = seat.used_mwh
    best: list[tuple[int, int] | None] = [None] * (day.steps + 1)
    best[0] = (0, 0)
    for moment in range(day.steps):
        here = best[moment]
        if here is None:
            continue
        there = first if moment == 0 else most
        if moment == 0 and not used[-1] <= there:
            # Changed at once, before anything is taken out of the one that is in.
            again = (seat.spoils[0], 1)
            if used[-1] <= most:
                best[-1] = again
            for later in _reached(day, seat, 0, most):
                best[later] = (again[0] + seat.spoils[later], again[1] + 1)
        if used[-1] - used[moment] <= there:
            best[-1] = min(best[-1] or here, here)
            continue
        for later in _reached(day, seat, moment, there):
            cost = (here[0] + seat.spoils[later], here[1] + 1)
            known = best[later]
            best[later] = cost if known is None else min(known, cost)
    return best[-1]


def _reached(day: Rotation, seat: Seat, moment: int, charge: int) -> Iterator[int]:
    """The moments until which so much lasts."""
    for later in range(moment + 1, day.steps):
        if seat.used_mwh[later] - seat.used_mwh[moment] > charge:
            return
        yield later


def most_changes(seat: Seat) -> int:
    """More changes of a seat than this make no sense: a pack a step in which it takes anything."""
    return 0 if seat.fixed else sum(1 for load in seat.load_mwh if load)


def first_charge(day: Rotation, seat: Seat, own: Sequence[PackIs]) -> int:
    """What is in the pack that a seat begins with; of none yet, what the fullest has."""
    if seat.pack is not None:
        return day.pack(seat.pack).charge_mwh
    return max((pack.charge_mwh for pack in own), default=0)


def least_gear(day: Rotation) -> int:
    """So many packs from the shelf and chargers are needed at least: by what is taken, and what could be charged.

    For each moment, all that was taken until then came out of packs that were full, or out of chargers that ran all the
    time. A sort of which nothing need be charged needs no charger, and one charger may do for several sorts.
    """
    found, charging = 0, 0
    for sort, packs in day.by_sort.items():
        seats = [seat for seat in day.seats if seat.sort == sort and not seat.fixed]
        if not seats:
            continue
        begun = {seat.pack for seat in seats}
        there = sum(pack.charge_mwh for pack in packs if pack.key in begun)
        shelf = sorted((pack.full_mwh for pack in packs if pack.key not in begun), reverse=True)
        per_step = sum(one.slots * one.gains_mwh[sort] for one in day.chargers if sort in one.gains_mwh)
        with_all = _packs_for(day, seats, there, shelf, per_step)
        found += with_all
        charging = max(charging, min(1, _packs_for(day, seats, there, shelf, 0) - with_all))
    return found + charging


def _packs_for(day: Rotation, seats: Sequence[Seat], there: int, shelf: Sequence[int], per_step: int) -> int:
    needed = 0
    for moment in range(1, day.steps + 1):
        taken = sum(seat.used_mwh[moment] for seat in seats)
        short = taken - there - per_step * day.powered[moment]
        while needed < len(shelf) and short > sum(shelf[:needed]):
            needed += 1
    return needed


def runs_out(day: Rotation) -> bool:
    """Whether there is too little energy by some moment, in packs and out of chargers that run all the time."""
    for sort, packs in day.by_sort.items():
        seats = [seat for seat in day.seats if seat.sort == sort]
        there = sum(pack.charge_mwh for pack in packs)
        per_step = sum(one.slots * one.gains_mwh[sort] for one in day.chargers if sort in one.gains_mwh)
        for moment in range(day.steps + 1):
            if sum(seat.used_mwh[moment] for seat in seats) > there + per_step * day.powered[moment]:
                return True
    return False
