"""A rota as a careful crew would make it up as the day goes: never better than the best, and there at once.

Every seat has its pack changed where the rest of its day then costs least; whoever comes out goes to a charger as soon
as there is a slot, and the least that will do goes in. Several ways of breaking ties are tried, always the same.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from math import inf
from random import Random

from isotact.core.day.rota.terms import ChargerIs, Charging, Cost, Dark, PackIs, Rotation, Seat, Stint

TRIES = 24
"""So many ways of breaking ties: with twice as many one day in fifty gets better, and the solver sees to those."""

ToGo = tuple[float, float]


@dataclass(frozen=True)
class Drawn:
    """What one try came to."""

    stints: tuple[Stint, ...]
    charges: tuple[Charging, ...]
    dark: tuple[Dark, ...]
    cost: Cost


def by_greed(day: Rotation, enough: tuple[int, int, int], tries: int = TRIES) -> Drawn:
    """The best of several tries. `enough`: with no more in the dark, spoilt and changed, no other is needed."""
    ahead = {seat.key: _to_go(day, seat) for seat in day.seats}
    best: Drawn | None = None
    for number in range(tries):
        found = Try(day, ahead, Random(number), number).carried_through()
        if best is None or found.cost.ordered < best.cost.ordered:
            best = found
        if best.cost.ordered[:3] <= enough and number >= 3:
            break
    assert best is not None
    return best


def _to_go(day: Rotation, seat: Seat) -> list[ToGo]:
    """For every moment, the takes and changes that the rest of the day costs at least, a full pack put in there."""
    full = max((pack.full_mwh for pack in day.by_sort.get(seat.sort, ())), default=0) - seat.keeps_mwh
    found: list[ToGo] = [(inf, inf)] * day.steps + [(0.0, 0.0)]
    for moment in range(day.steps - 1, -1, -1):
        found[moment] = _next(day, seat, found, moment, full)[0]
    return found


def _next(day: Rotation, seat: Seat, ahead: Sequence[ToGo], moment: int, charge: int) -> tuple[ToGo, list[int]]:
    """The least that the rest costs with so much in the pack now, and the moments for the next change that give it."""
    used = seat.used_mwh
    if used[-1] - used[moment] <= charge:
        return (0.0, 0.0), []
    best: ToGo = (inf, inf)
    at: list[int] = []
    for later in range(moment + 1, day.steps):
        if used[later] - used[moment] > charge:
            break
        cost = (seat.spoils[later] + ahead[later][0], 1 + ahead[later][1])
        if cost < best:
            best, at = cost, [later]
        elif cost == best:
            at.append(later)
    return best, at


@dataclass
class Held:
    """A pack as it stands. `free_from`: the moment at which it is at hand where it was carried to."""

    pack: PackIs
    charge: int
    free_from: int = 0
    charger: ChargerIs | None = None
    since: int = 0
    trail: list[int] = field(default_factory=list)
    """What was in it at every moment since it came into the charger."""
    seat: Seat | None = None
    home: str | None = None
    used: bool = False


class Try:
    """One way through the day. `ahead`: for each seat, what the rest of its day costs; `number`: which way it is."""

    def __init__(self, day: Rotation, ahead: dict[str, list[ToGo]], random: Random, number: int) -> None:
        self.day, self.ahead, self.random = day, ahead, random
        self.late, self.fullest_first = number % 2 == 0, number % 4 < 2
        self.held = {pack.key: Held(pack, pack.charge_mwh) for pack in day.packs}
        self.stints: list[Stint] = []
        self.charges: list[Charging] = []
        self.dark: list[Dark] = []
        self.in_seat: dict[str, Held | None] = {}
        self.begun: dict[str, int] = {}
        self.change_at: dict[str, int | None] = {}
        self.dead: set[str] = set()
        self.spoilt = self.changes = 0

    def carried_through(self) -> Drawn:
        """The whole day."""
        self.through(self.day.steps)
        for held in self.held.values():
            self._out_of_charger(held, self.day.steps)
        for seat in self.day.seats:
            self._take_out(seat, self.day.steps)
        self._as_one()
        last = {one.pack: one.begins for one in sorted(self.stints, key=lambda one: one.begins)}
        for seat in self.day.seats:
            if seat.fixed and seat.pack is not None:
                last[seat.pack] = max((step for step, load in enumerate(seat.load_mwh) if load), default=-1)
        # What is charged for another day has its own time.
        self.charges = [one for one in self.charges if last.get(one.pack, -1) >= one.ends]
        used = sum(1 for one in self.held.values() if one.used) - sum(1 for seat in self.day.seats if seat.pack)
        gear = used + len({one.charger for one in self.charges})
        dark = sum(self.day.steps - one.begins for one in self.dark)
        cost = Cost(dark, self.spoilt, self.changes, gear)
        return Drawn(tuple(self.stints), tuple(self.charges), tuple(self.dark), cost)

    def through(self, until: int) -> None:
        """From the beginning to a moment."""
        for seat in self.day.seats:
            self.in_seat[seat.key] = None
            if seat.pack is not None:
                self._put_in(seat, self.held[seat.pack], 0)
        for moment in range(until):
            self._leave(moment)
            for seat in self._by_need(moment):
                self._seat(seat, moment)
            self._chargers(moment)
            self._pass(moment)

    def _as_one(self) -> None:
        """Who was taken out and put in again as it was had better stayed in: that is no change."""
        kept: list[Stint] = []
        for stint in sorted(self.stints, key=lambda one: (one.seat, one.begins)):
            last = kept[-1] if kept else None
            same = last is not None and (last.seat, last.pack) == (stint.seat, stint.pack)
            seat = next(one for one in self.day.seats if one.key == stint.seat)
            stood = same and last is not None and seat.used_mwh[last.ends] == seat.used_mwh[stint.begins]
            if last is not None and stood and not self._charged_between(last, stint):
                kept[-1] = Stint(stint.seat, stint.pack, last.begins, stint.ends)
                if not seat.fixed:
                    self.changes -= 1
                    self.spoilt -= seat.spoils[stint.begins]
            else:
                kept.append(stint)
        self.stints = kept

    def _charged_between(self, last: Stint, stint: Stint) -> bool:
        return any(
            one.pack == stint.pack and last.ends <= one.begins and one.ends <= stint.begins for one in self.charges
        )

    # Seats

    def _by_need(self, moment: int) -> list[Seat]:
        """Whoever takes most is served first."""
        return sorted(self.day.seats, key=lambda seat: (-seat.load_mwh[moment], seat.key))

    def _leave(self, moment: int) -> None:
        """A pack that is to be changed comes out as soon as nothing is taken from it any more."""
        for seat in self.day.seats:
            at = self.change_at.get(seat.key)
            if self.in_seat[seat.key] is None or at is None or seat.fixed:
                continue
            if moment < at and seat.used_mwh[moment] == seat.used_mwh[at]:
                self._take_out(seat, moment)

    def _seat(self, seat: Seat, moment: int) -> None:
        held, load = self.in_seat[seat.key], seat.load_mwh[moment]
        if seat.fixed:
            return
        if held is None:
            at = self.change_at.get(seat.key)
            if load or (at is not None and at <= moment):
                self._change(seat, moment)
        elif self.change_at[seat.key] == moment or (load and held.charge - load < seat.keeps_mwh):
            self._change(seat, moment)

    def _change(self, seat: Seat, moment: int) -> None:
        choice = self._choice(seat, moment)
        if choice is None:
            self._go_on(seat, moment)
            return
        was_empty = seat.pack is None and seat.key not in self.begun
        self._take_out(seat, moment)
        held = choice[0]
        held.charge = choice[1]
        self._out_of_charger(held, moment - self.day.rules.walk_steps)
        if not was_empty:
            self.changes += 1
            self.spoilt += seat.spoils[moment]
        self._put_in(seat, held, moment)

    def _go_on(self, seat: Seat, moment: int) -> None:
        """There is nothing to put in: what is in goes on for as long as it can."""
        held = self.in_seat[seat.key]
        can = held is not None and held.charge - seat.load_mwh[moment] >= seat.keeps_mwh
        self.change_at[seat.key] = moment + 1 if can else None
        if not can:
            self._take_out(seat, moment)

    def _choice(self, seat: Seat, moment: int) -> tuple[Held, int] | None:
        """The pack that will do with the least in it: one that is in use already before one that is not."""
        needs = max(1, seat.load_mwh[moment]) + seat.keeps_mwh
        able = [(held, charge) for held, charge in self._at_hand(seat, moment) if charge >= needs]
        if not able:
            return None
        ahead = self.ahead[seat.key]
        rated = [
            (_next(self.day, seat, ahead, moment, charge - seat.keeps_mwh)[0], not held.used, charge, held)
            for held, charge in able
        ]
        chosen: tuple[ToGo, bool, int, Held]
        best = min(cost for cost, *_ in rated)
        those = [one for one in rated if one[0] == best]
        if best[0] == inf:
            chosen = max(those, key=lambda one: (one[2], one[3].pack.key))
        else:
            chosen = min(those, key=lambda one: (one[1], one[2], one[3].pack.key))
        return chosen[3], chosen[2]

    def _at_hand(self, seat: Seat, moment: int) -> Iterator[tuple[Held, int]]:
        walk = self.day.rules.walk_steps
        for held in self.held.values():
            if held.pack.sort != seat.sort or held.seat is not None:
                continue
            if not self.day.rules.packs_move and held.home not in (None, seat.rig):
                continue
            if held.charger is None:
                if held.free_from <= moment:
                    yield held, held.charge
            elif moment - walk >= held.since:
                # It had to be taken out a walk ago, with what was in it then.
                charge = [*held.trail, held.charge][moment - walk - held.since]
                if self.day.rules.part_charges or charge == held.pack.full_mwh:
                    yield held, charge

    def _put_in(self, seat: Seat, held: Held, moment: int) -> None:
        self.in_seat[seat.key] = held
        held.seat, held.home, held.used = seat, seat.rig, True
        self.begun[seat.key] = moment
        self.dead.discard(seat.key)
        self.change_at[seat.key] = self._planned(seat, held, moment)

    def _planned(self, seat: Seat, held: Held, moment: int) -> int | None:
        if seat.fixed:
            return None
        _, at = _next(self.day, seat, self.ahead[seat.key], moment, held.charge - seat.keeps_mwh)
        if not at:
            return None
        liked = min(seat.likes[one] for one in at)
        at = [one for one in at if seat.likes[one] == liked]
        return at[-1] if self.late else self.random.choice(at)

    def _take_out(self, seat: Seat, moment: int) -> None:
        held = self.in_seat[seat.key]
        if held is None:
            return
        if moment > self.begun[seat.key]:
            self.stints.append(Stint(seat.key, held.pack.key, self.begun[seat.key], moment))
        held.seat, held.free_from = None, moment + self.day.rules.walk_steps
        self.in_seat[seat.key] = None

    # Chargers

    def _chargers(self, moment: int) -> None:
        for held in self.held.values():
            full = held.charger is not None and held.charge >= held.pack.full_mwh
            back = held.charger is not None and held.seat is not None and held.seat.load_mwh[moment]
            if full or back:
                self._out_of_charger(held, moment)
        self._within_the_mains(moment)
        if moment in self.day.no_charge_from or not self._mains(moment):
            return
        for held in self._waiting(moment):
            for charger in self.day.chargers:
                if held.pack.sort in charger.gains_mwh and self._has_room(charger, held.pack.sort, moment):
                    held.charger, held.since, held.trail = charger, moment, []
                    break

    def _waiting(self, moment: int) -> list[Held]:
        those = [one for one in self.held.values() if one.charger is None and one.charge < one.pack.full_mwh]
        those = [
            one
            for one in those
            if (one.seat is None and one.free_from <= moment)
            or (one.seat is not None and one.seat.fixed and not one.seat.load_mwh[moment])
        ]
        # Who is built in has only this time for it; of the others who is soonest full, or who has come first.
        return sorted(
            those,
            key=lambda one: (
                one.seat is None,
                -one.charge if self.fullest_first else one.free_from,
                one.pack.key,
            ),
        )

    def _mains(self, moment: int) -> float:
        given = self.day.watts[moment] if self.day.watts else None
        return inf if given is None else given

    def _has_room(self, charger: ChargerIs, sort: str, moment: int) -> bool:
        taken = sum(charger.slots_for(held.pack.sort) for held, other in self._charged() if other == charger)
        room = taken + charger.slots_for(sort) <= charger.slots
        return room and self._watts() + charger.watts_for(sort) <= self._mains(moment)

    def _charged(self) -> list[tuple[Held, ChargerIs]]:
        return [(one, one.charger) for one in self.held.values() if one.charger is not None]

    def _watts(self) -> int:
        return sum(charger.watts_for(held.pack.sort) for held, charger in self._charged())

    def _within_the_mains(self, moment: int) -> None:
        given = self._mains(moment)
        latest = sorted((held for held, _ in self._charged()), key=lambda one: (one.since, one.pack.key))
        while given and latest and self._watts() > given:
            held = latest.pop()
            self._out_of_charger(held, moment)
            if not self.day.rules.part_charges and held.seat is None and held.charge < held.pack.full_mwh:
                # Begun and not full: by the crew's rule it is of no use to anybody today.
                held.free_from = self.day.steps + 1

    def _out_of_charger(self, held: Held, moment: int) -> None:
        if held.charger is None:
            return
        if moment > held.since:
            self.charges.append(Charging(held.charger.key, held.pack.key, held.since, moment))
        held.charger = None
        if held.seat is None:
            held.free_from = moment + self.day.rules.walk_steps

    # A step goes by

    def _pass(self, moment: int) -> None:
        for held in self.held.values():
            if held.charger is None:
                continue
            held.trail.append(held.charge)
            if self._mains(moment):
                held.charge = min(held.pack.full_mwh, held.charge + held.charger.gains_mwh[held.pack.sort])
        for seat in self.day.seats:
            load, inside = seat.load_mwh[moment], self.in_seat[seat.key]
            if not load:
                self.dead.discard(seat.key)
            elif inside is None or inside.charge - load < seat.keeps_mwh or seat.key in self.dead:
                self.dark.append(Dark(seat.key, moment, moment + 1))
                self.dead.add(seat.key)
            else:
                inside.charge -= load
