"""Finding a rota: no load dark, then no take spoilt where that can be, then the fewest changes, then the least gear.

First as a careful crew would make it up; where that costs no more than every seat by itself at least, nothing can be
better, and only the gear is left to be looked at. Else CP-SAT: at moments alone where no take is spoilt, then at all.
"""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from isotact.core.day.rota.bounds import least_changes, least_gear, most_changes, runs_out
from isotact.core.day.rota.drawn_up import drawn_up
from isotact.core.day.rota.greedy import Drawn, by_greed
from isotact.core.day.rota.hints import hint
from isotact.core.day.rota.parts import parts, together
from isotact.core.day.rota.simulation import carried_out
from isotact.core.day.rota.stints_model import StintsModel
from isotact.core.day.rota.terms import Cost, Dark, Found, Rotation, Stint
from isotact.core.solver import Verdict, solve_within

WORK = 0.3
"""So much work for each of the questions asked, in the solver's own measure, where a second is about one."""
MORE_CHANGES = 2
"""So many changes of a seat more than it needs are reckoned with at first: a pack in part charged lasts less."""
MOST_PIECES = 60
"""With more stints than that the solver finds nothing in its time that a careful crew has not: measured on days of 40
packs."""

MOST_AT_ALL = 1500
"""So many stints times moments are looked through whole: with more the solver is not done within its work."""
EVERY = 3
"""Else at every third moment, beside those that suit."""

Moments = Mapping[str, Collection[int]]


class RotaError(Exception):
    """A rota was found that cannot be carried out: a defect of the search, never of the day."""


def rota_of(day: Rotation, work: float = WORK) -> Found:
    """The best rota that so much work finds for each part of the day that has to do with no other.

    Without `work` it is the one that a careful crew would make up.
    """
    found = together([_Search(part, work).found() for part in parts(day)])
    played = carried_out(day, found)
    if played.wrong or _lit(played.dark) != _lit(found.dark):
        raise RotaError(f"the rota does not hold when it is carried out: {played.wrong or played.dark}")
    return found


class _Search:
    def __init__(self, day: Rotation, work: float) -> None:
        self.day, self.work = day, work
        self.needed = {seat.key: least_changes(day, seat) for seat in day.seats}
        self.most = {seat.key: most_changes(seat) for seat in day.seats}
        known = [one or (0, 0) for one in self.needed.values()]
        self.least = Cost(0, sum(spoilt for spoilt, _ in known), sum(changes for _, changes in known))

    def found(self) -> Found:
        best = by_greed(self.day, self.least.ordered[:3])
        least = self.least
        if not best.cost.dark and _nothing_to_choose(self.day):
            return Found(best.stints, best.charges, best.dark, best.cost, best.cost)
        if best.cost.ordered[:3] > least.ordered[:3]:
            best, least = self._better(best)
        return self._with_least_gear(best, least)

    # What is lost by it

    def _better(self, best: Drawn) -> tuple[Drawn, Cost]:
        """What the solver makes of it, and what it has proven."""
        may_stay_lit = all(one is not None for one in self.needed.values()) and not runs_out(self.day)
        if may_stay_lit:
            best, _ = self._improved(best, self._counts(MORE_CHANGES), self._free_moments())
            if best.cost.ordered[:3] == self.least.ordered[:3]:
                return best, self.least
            best, least = self._at_all_moments(best, may_go_dark=False)
            if not best.cost.dark or least is None:
                return best, least or self.least
        # It goes dark, whatever is changed when. As little as can be, then.
        best, least = self._at_all_moments(best, may_go_dark=True)
        return best, least or replace(self.least, dark=1)

    def _at_all_moments(self, best: Drawn, may_go_dark: bool) -> tuple[Drawn, Cost | None]:
        """The best and its bound, of all rotas; None as the bound where nothing is proven.

        Where none was found without any dark, and that is proven, the bound is that of the one that is there.
        """
        more = MORE_CHANGES
        while True:
            counts = self._counts(more)
            whole = counts == self.most
            sizes = (sum(counts.values()) + len(counts)) * self.day.steps
            some = None if sizes <= MOST_AT_ALL else self._some_moments()
            best, verdict = self._improved(best, counts, some, may_go_dark)
            if verdict in ("unknown", "feasible") or some is not None:
                return best, None
            if verdict == "infeasible" and whole:
                return best, best.cost
            if verdict == "optimal" and (whole or self._no_more_helps(best.cost, counts)):
                return best, best.cost
            if whole:
                return best, None
            more = 2 * more + 2

    def _some_moments(self) -> Moments:
        """Where a change suits, and now and then besides."""
        return {
            seat.key: [at for at, liked in enumerate(seat.likes) if not liked or at % EVERY == 0]
            for seat in self.day.seats
            if not seat.fixed
        }

    def _counts(self, more: int) -> dict[str, int]:
        return {key: min(self.most[key], (self.needed[key] or (0, MORE_CHANGES))[1] + more) for key in self.most}

    def _free_moments(self) -> Moments:
        return {
            seat.key: [moment for moment, takes in enumerate(seat.spoils) if not takes]
            for seat in self.day.seats
            if not seat.fixed and not (self.needed[seat.key] or (1, 0))[0]
        }

    def _no_more_helps(self, cost: Cost, counts: Mapping[str, int]) -> bool:
        """Whether more changes of any seat than `counts` could only make it worse."""
        if cost.dark or cost.spoilt > self.least.spoilt:
            return False
        return all(
            counts[key] == self.most[key]
            or self.least.changes - (self.needed[key] or (0, 0))[1] + counts[key] + 1 > cost.changes
            for key in counts
        )

    def _improved(
        self, best: Drawn, counts: Mapping[str, int], moments: Moments | None, may_go_dark: bool = False
    ) -> tuple[Drawn, Verdict]:
        """The best of this model, where it is better than what is there, and what was proven of the model."""
        if sum(counts.values()) > MOST_PIECES or not self.work:
            return best, "unknown"
        built = StintsModel(self.day, counts, may_go_dark, moments)
        if may_go_dark or not best.cost.dark:
            hint(built, best.stints, best.charges)
        weights = _Weights(built)
        total = weights.of(built)
        if built.dark or built.spoilt or built.changes:
            built.model.add(total >= weights.worth(self.least))
            built.model.minimize(total)
        solver, verdict = solve_within(built.model, self.work, "rota")
        if verdict not in ("optimal", "feasible"):
            return best, verdict
        found = _drawn(self.day, built, solver)
        better = found.cost.ordered[:3] < best.cost.ordered[:3]
        return (found if better else best), verdict

    # With how much gear

    def _with_least_gear(self, best: Drawn, least: Cost) -> Found:
        floor = least_gear(self.day)
        proven = best.cost.gear <= floor
        if not proven and not best.cost.dark:
            best, proven, floor = self._less_gear(best, floor)
        gear = best.cost.gear if proven else floor
        return Found(best.stints, best.charges, best.dark, best.cost, replace(least, gear=gear))

    def _less_gear(self, best: Drawn, floor: int) -> tuple[Drawn, bool, int]:
        """With less gear than a careful crew needs; nothing else may get worse for it."""
        changed = {seat.key: -1 for seat in self.day.seats}
        for stint in best.stints:
            changed[stint.seat] += 1
        counts = {key: max(0, count) for key, count in changed.items()}
        if sum(counts.values()) > MOST_PIECES or not self.work:
            return best, False, floor
        built = StintsModel(self.day, counts, False, self._free_moments() if not best.cost.spoilt else None)
        hint(built, best.stints, best.charges)
        for terms, amount in ((built.spoilt, best.cost.spoilt), (built.changes, best.cost.changes)):
            if terms:
                built.model.add(sum(terms) <= amount)
        gear, disliked = _gear(built), sum(built.disliked)
        many = 1 + sum(max(seat.likes, default=0) * counts[seat.key] for seat in self.day.seats if not seat.fixed)
        if not built.taken_out and not built.charges:
            return best, True, 0
        built.model.add(gear >= floor)
        built.model.minimize(many * gear + disliked)
        solver, verdict = solve_within(built.model, self.work, "rota")
        if verdict not in ("optimal", "feasible"):
            return best, False, floor
        found = _drawn(self.day, built, solver)
        # Fewest changes elsewhere, or at a moment that was left out, might do with less gear still.
        proven = found.cost.gear == floor
        return (found if found.cost.ordered <= best.cost.ordered else best), proven, floor


def _lit(dark: Sequence[Dark]) -> set[tuple[str, int]]:
    return {(one.seat, step) for one in dark for step in range(one.begins, one.ends)}


@dataclass(frozen=True)
class _Weights:
    """What one step in the dark and one take count in changes, so that all of what comes after counts less."""

    built: StintsModel

    @property
    def spoilt(self) -> int:
        return len(self.built.changes) + 1

    @property
    def dark(self) -> int:
        return self.spoilt * self.spoilt

    def of(self, built: StintsModel) -> Any:
        return self.dark * sum(built.dark) + self.spoilt * sum(built.spoilt) + sum(built.changes)

    def worth(self, cost: Cost) -> int:
        return self.dark * cost.dark + self.spoilt * cost.spoilt + cost.changes


def _gear(built: StintsModel) -> Any:
    """Packs taken from the shelf, and chargers in use."""
    used = []
    for charger in built.day.chargers:
        ones = [one for _, key, one, _, _ in built.charges if key == charger.key]
        if ones:
            taken = built.model.new_bool_var(f"{charger.key} used")
            built.model.add_max_equality(taken, ones)
            used.append(taken)
    return sum(built.taken_out) + sum(used)


def _drawn(day: Rotation, built: StintsModel, solver: Any) -> Drawn:
    stints, charges, dark = drawn_up(day, built, solver.value)
    sums = [sum(round(solver.value(one)) for one in terms) for terms in (built.dark, built.spoilt, built.changes)]
    # A pack that is charged and not used again is no gear of this rota: its charge is left out.
    charges = tuple(one for one in charges if _is_used_after(one.pack, one.ends, stints))
    taken = sum(round(solver.value(one)) for one in built.taken_out)
    gear = taken + len({one.charger for one in charges})
    return Drawn(stints, charges, dark, Cost(sums[0], sums[1], sums[2], gear))


def _is_used_after(pack: str, moment: int, stints: Sequence[Stint]) -> bool:
    return any(one.pack == pack and one.begins >= moment for one in stints)


def _nothing_to_choose(day: Rotation) -> bool:
    """Whether all are built in, with a slot for each: whoever is off is charged, and nothing is gained by waiting."""
    if not all(seat.fixed for seat in day.seats):
        return False
    asked = [sum(one.slots_for(seat.sort) for seat in day.seats if seat.sort in one.gains_mwh) for one in day.chargers]
    limited = any(watts for watts in day.watts)
    return (
        not limited
        and len(day.chargers) <= 1
        and all(slots <= one.slots for slots, one in zip(asked, day.chargers, strict=True))
    )
