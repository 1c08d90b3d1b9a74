"""What it would take, where something goes dark or a take is spoilt: a pack more, a charger, mains, a hot-swap plate.

Each is tried by itself, and what is found is a rota that does it: nothing is promised that was not drawn up.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from isotact.core.day.battery_seats import STEP_MIN
from isotact.core.day.rota import ChargerIs, Cost, Found, PackIs, Rotation, parts, rota_of
from isotact.core.day.rota_answers import RotaRemedy
from isotact.core.day.rota_day import RotaDay
from isotact.core.day.rota_says import sort_name
from isotact.core.model.job import clock_after
from isotact.core.telling.phrases import counted

MOST_PACKS = 64
"""A night on one camera without mains takes nine: so many carry seven cameras. Tried in doubles, then between."""
BY_HAND = 0.0
"""Each is tried as a careful crew would make it up: what is found so can be done, and it is there at once."""
HOURS_OF_MAINS = (1, 2, 4)
"""So many hours of mains are tried."""


@dataclass(frozen=True)
class _Offer:
    """Something that could be had, and the day with it."""

    says: str
    day: Rotation


def remedies(day: RotaDay, rest: Rotation, found: Found, now: int) -> list[RotaRemedy]:
    """For each trouble by itself: what alone leaves nothing dark and no take spoilt; where nothing does, what helps.

    `rest`, `found`: what was looked for from the step `now` on, and the rota of it.
    """
    told: list[RotaRemedy] = []
    trouble = _in_trouble(rest, found)
    for part in parts(rest):
        if {seat.key for seat in part.seats} & trouble:
            told += _Helping(day, part, _of_part(part, found), now).told()
    return told


def _of_part(part: Rotation, found: Found) -> Found:
    """What of a rota concerns a part of the day."""
    seats, packs = {seat.key: seat for seat in part.seats}, {pack.key for pack in part.packs}
    stints = tuple(one for one in found.stints if one.seat in seats)
    dark = tuple(one for one in found.dark if one.seat in seats)
    spoilt = sum(seats[one.seat].spoils[one.begins] for one in stints if one.begins)
    weight = sum(part.steps - step for one in dark for step in range(one.begins, one.ends))
    cost = Cost(weight, spoilt, 0)
    return Found(stints, tuple(one for one in found.charges if one.pack in packs), dark, cost, cost)


@dataclass(frozen=True)
class _Helping:
    """A part of the day that has trouble."""

    day: RotaDay
    rotation: Rotation
    found: Found
    now: int

    def told(self) -> list[RotaRemedy]:
        whole: list[RotaRemedy] = []
        partly: list[tuple[tuple[int, ...], RotaRemedy]] = []
        trouble = f"{self._trouble()}: "
        for offers in self._offers():
            best: tuple[tuple[int, ...], RotaRemedy] | None = None
            for offer in offers:
                with_it = rota_of(offer.day, BY_HAND)
                left = with_it.cost.ordered[:2]
                if left == (0, 0):
                    whole.append(RotaRemedy(says=f"{trouble}{offer.says}.", gone=True))
                    best = None
                    break
                if left < self.found.cost.ordered[:2] and (best is None or left < best[0]):
                    best = (left, RotaRemedy(says=f"{trouble}{offer.says}; {self._left(with_it)}.", gone=False))
            if best is not None:
                partly.append(best)
        return whole or [remedy for _, remedy in sorted(partly, key=lambda one: one[0])]

    def _clock(self, step: int) -> str:
        return clock_after(self.day.call, (self.now + step) * STEP_MIN)

    def _name(self, key: str) -> str:
        seat = next(one for one in self.day.seats if one.key == key)
        return f"{seat.placed.name} of {seat.of.rig.rig.camera}"

    def _trouble(self) -> str:
        first = min(self.found.dark, key=lambda one: one.begins, default=None)
        if first is not None:
            return f"{self._name(first.seat)}, dark at {self._clock(first.begins)}"
        return counted(self.found.cost.spoilt, "take spoilt", "takes spoilt")

    def _left(self, found: Found) -> str:
        first = min(found.dark, key=lambda one: one.begins, default=None)
        if first is not None:
            return f"then {self._name(first.seat)} goes dark at {self._clock(first.begins)}"
        return f"then {counted(found.cost.spoilt, 'take is', 'takes are')} spoilt"

    def _offers(self) -> Iterator[Sequence[_Offer]]:
        """What could be had, each sort of thing from little to much."""
        rotation = self.rotation
        seats = [seat for seat in rotation.seats if seat.key in _in_trouble(rotation, self.found)]
        for sort in dict.fromkeys(seat.sort for seat in seats if not seat.fixed):
            yield [self._packs(sort, count) for count in self._counts(sort)]
        if rotation.chargers and any(rotation.powered):
            more = replace(rotation, chargers=(*rotation.chargers, _like(rotation.chargers[0])))
            yield [_Offer(f"one more charger such as {rotation.chargers[0].key}", more)]
        if rotation.chargers and 0 in rotation.watts:
            yield list(self._more_mains())
        yield from self._plates()
        for seat in seats:
            if seat.fixed:
                fed = tuple(
                    replace(one, load_mwh=(0,) * rotation.steps) if one.key == seat.key else one
                    for one in rotation.seats
                )
                says = f"feed {self._name(seat.key)} from a bigger battery while it runs, and plan the rig with that"
                yield [_Offer(says, replace(rotation, seats=fed))]

    def _packs(self, sort: str, count: int) -> _Offer:
        says = f"{counted(count, 'more pack')} ({sort_name(self.day, sort)})"
        return _Offer(says, _with_packs(self.rotation, sort, count))

    def _counts(self, sort: str) -> Sequence[int]:
        """The fewest packs more of a sort that leave no trouble, or else nothing dark; all, where none do."""

        costs: dict[int, tuple[int, ...]] = {}

        def does(count: int, goals: int) -> bool:
            if count not in costs:
                costs[count] = rota_of(self._packs(sort, count).day, BY_HAND).cost.ordered
            return not any(costs[count][:goals])

        tried = [2**power for power in range(MOST_PACKS.bit_length())]
        # Nothing dark and no take spoilt; where no packs bring that, nothing dark.
        for goals in (2, 1):
            enough = next((count for count in tried if does(count, goals)), None)
            if enough is None:
                continue
            few = enough // 2  # with these there is trouble still
            while enough - few > 1:
                middle = (few + enough) // 2
                few, enough = (few, middle) if does(middle, goals) else (middle, enough)
            return [enough]
        return tried

    def _more_mains(self) -> Iterator[_Offer]:
        """So many hours more of it: where it ends, early, or about the middle of the day."""
        rotation = self.rotation
        for hours in HOURS_OF_MAINS:
            length = hours * 60 // STEP_MIN
            for begins in dict.fromkeys((*_ends_of_mains(rotation), rotation.steps // 3, rotation.steps // 2)):
                until = min(rotation.steps, begins + length)
                watts = tuple(
                    None if begins <= step < until and given == 0 else given
                    for step, given in enumerate(rotation.watts)
                )
                if watts != rotation.watts:
                    times = f"{self._clock(begins)} to {self._clock(until)}"
                    yield _Offer(f"mains for the chargers from {times}", replace(rotation, watts=watts))

    def _plates(self) -> Iterator[Sequence[_Offer]]:
        """A hot-swap plate before a battery whose change spoils a take."""
        rotation, changed = self.rotation, {one.seat for one in self.found.stints if one.begins}
        for seat in rotation.seats:
            if seat.key in changed and any(seat.spoils):
                bridged = replace(seat, spoils=(0,) * len(seat.spoils))
                seats = tuple(bridged if one.key == seat.key else one for one in rotation.seats)
                yield [_Offer(f"a hot-swap plate before {self._name(seat.key)}", replace(rotation, seats=seats))]


def _in_trouble(rotation: Rotation, found: Found) -> set[str]:
    seats = {seat.key: seat for seat in rotation.seats}
    spoilt = {one.seat for one in found.stints if one.begins and seats[one.seat].spoils[one.begins]}
    return {one.seat for one in found.dark} | spoilt


def _with_packs(rotation: Rotation, sort: str, count: int) -> Rotation:
    full = max(pack.full_mwh for pack in rotation.by_sort[sort])
    more = tuple(PackIs(f"one more {number}", sort, full, full) for number in range(count))
    return replace(rotation, packs=(*rotation.packs, *more))


def _like(charger: ChargerIs) -> ChargerIs:
    return replace(charger, key=f"another {charger.key}")


def _ends_of_mains(rotation: Rotation) -> list[int]:
    return [step for step in range(1, rotation.steps) if rotation.watts[step] == 0 and rotation.watts[step - 1] != 0]
