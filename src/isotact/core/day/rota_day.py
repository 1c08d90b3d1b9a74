"""A day and its rigs as a rotation: seats with their loads, packs, chargers, and when there is mains."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from math import floor

from isotact.core.day.battery_seats import STEP_MIN, BatterySeat, DayRig, seats_of
from isotact.core.day.pack_pool import OnePack, chargers_of, pool_of, sort_of
from isotact.core.day.rota import PackIs, Rotation, Rules, Seat
from isotact.core.model.job import Job, JobDay, minutes_from
from isotact.core.model.kit import Kit
from isotact.core.model.problems import IsotactError
from isotact.core.model.profile import Profile

MOST_MIN = 24 * 60
"""A day ends where the next begins."""


class NoDayError(IsotactError):
    """The day has no times yet, or none of its rigs draws on a battery."""


@dataclass(frozen=True)
class RotaDay:
    """A day of a job, with the rigs of it that are planned, and the kit of the van."""

    job: Job
    number: int
    rigs: Sequence[DayRig]
    kit: Kit | None
    profiles: Mapping[str, Profile]

    @property
    def day(self) -> JobDay:
        return self.job.days[self.number]

    @property
    def call(self) -> str:
        return self.day.call or "00:00"

    @cached_property
    def lasts_min(self) -> int:
        """From the call to the wrap, or to the end of the last block. Raises NoDayError where neither is known."""
        day = self.day
        if day.call is None or not day.blocks:
            raise NoDayError("Found no call, or no block; say when the call is, and what is shot when.")
        ends = max(minutes_from(day.call, block.ends) for block in day.blocks)
        return day.lasts_min or ends

    @cached_property
    def steps(self) -> int:
        return -(-self.lasts_min // STEP_MIN)

    @cached_property
    def seats(self) -> list[BatterySeat]:
        """The batteries of the rigs that are up at some time of the day. Raises NoDayError without any."""
        if not self.lasts_min:
            raise NoDayError("Found a day that ends when it begins; say when the wrap is.")
        found = [one for one in seats_of(self.day, self.rigs) if any(used.is_up for used in one.uses)]
        if not found:
            raise NoDayError("Found no rig in the blocks of this day that draws on a battery; say which rigs are used.")
        return found

    @cached_property
    def pool(self) -> tuple[list[OnePack], list[str]]:
        """The packs of the day, and what was taken to be so of them."""
        found = pool_of(self.seats, self.kit, self.profiles, self.day.date)
        return found.packs, found.assumed

    @cached_property
    def rotation(self) -> Rotation:
        """What a rota is looked for."""
        rules = self.job.packs
        chargers = chargers_of(self.kit, self.profiles, self.seats)
        of_sort = {sort_of(one.placed.profile, one.battery, self.profiles): one for one in reversed(self.seats)}
        packs = tuple(self._pack(one, of_sort[one.sort]) for one in self.pool[0])
        known = {one.key: one for one in packs}
        own = {one.seat: known[one.key] for one in self.pool[0] if one.seat is not None}
        return Rotation(
            self.steps,
            tuple(self._seat(one, own[one.key]) for one in self.seats),
            packs,
            tuple(chargers),
            self.watts,
            Rules(rules.packs_move, rules.part_charges, -(-rules.walk_min // STEP_MIN)),
            frozenset() if rules.charge_at_meals else frozenset(self._meal_moments()),
        )

    def _seat(self, seat: BatterySeat, pack: PackIs) -> Seat:
        reserve = 1 - seat.placed.used_share
        beyond = max(0.0, seat.floor_share - reserve) / seat.placed.used_share
        return Seat(
            seat.key,
            pack.sort,
            seat.loads_mwh(self.steps),
            seat.spoils(self.steps),
            seat.likes(self.steps),
            seat.of.rig.rig.id,
            pack.key,
            not seat.battery.fitted,
            floor(beyond * pack.full_mwh),
        )

    def _pack(self, pack: OnePack, seat: BatterySeat) -> PackIs:
        battery = seat.placed.battery
        cold = battery.cold_share if battery is not None else 1.0
        full = floor(1000 * pack.energy_wh * pack.health * cold * seat.placed.used_share)
        return PackIs(pack.key, pack.sort, full, floor(full * pack.charge))

    def _meal_moments(self) -> list[int]:
        spans = [(minutes_from(self.call, one.begins), minutes_from(self.call, one.ends)) for one in self.day.meals]
        return [
            moment for moment in range(self.steps) if any(begins <= moment * STEP_MIN < ends for begins, ends in spans)
        ]

    # Mains

    @cached_property
    def watts(self) -> tuple[int | None, ...]:
        """The watts that the chargers can have in every step: 0 for none, None for as many as they ask for."""
        if self.day.mains is not None:
            found: list[int | None] = [0] * self.steps
            for one in self.day.mains:
                begins, ends = minutes_from(self.call, one.begins), minutes_from(self.call, one.ends)
                for step in range(-(-begins // STEP_MIN), min(self.steps, ends // STEP_MIN)):
                    found[step] = one.watts
            return tuple(found)
        return tuple(None if self._has_mains(step * STEP_MIN) else 0 for step in range(self.steps))

    def _has_mains(self, minute: int) -> bool:
        return any(mains for place in self._places_at(minute) if (mains := self._mains_of.get(place)))

    def _places_at(self, minute: int) -> list[str]:
        day = self.day
        now = [
            block.place or day.place
            for block in day.blocks
            if minutes_from(self.call, block.begins) <= minute < minutes_from(self.call, block.ends)
        ]
        return [place for place in now or [day.place] if place is not None]

    @property
    def _mains_of(self) -> dict[str, bool | None]:
        return {place.name: place.mains for place in self.job.places}

    @property
    def assumed(self) -> list[str]:
        """What was taken to be so, since nobody said."""
        found = list(self.pool[1])
        here = {one.rig.rig.id for one in self.rigs}
        named = dict.fromkeys(used.rig for block in self.day.blocks for used in block.rigs)
        found += [f"Rig {rig} is not here: nothing of it is reckoned with." for rig in named if rig not in here]
        if self.job.kit is not None and self.kit is None:
            found.append(f"Kit {self.job.kit} is not here: reckoned without its packs and chargers.")
        if self.day.mains is None:
            unsaid = {
                place
                for step in range(self.steps)
                for place in self._places_at(step * STEP_MIN)
                if self._mains_of.get(place) is None
            }
            found += [f"Nobody said whether there is mains at {place}: reckoned without." for place in sorted(unsaid)]
            if not any(one.place for one in self.day.blocks) and self.day.place is None:
                found.append("Nobody said where the day is, or when there is mains: reckoned without.")
        if not self.rotation.chargers:
            found.append("No charger is in the kit: every pack is used once.")
        return found
