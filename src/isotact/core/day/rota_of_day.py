"""The rota of a day, told: rows of batteries and chargers, what is to be done when, and what is proven of it."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import inf

from isotact.core.day.battery_seats import STEP_MIN, BatterySeat, Used
from isotact.core.day.pack_pool import OnePack
from isotact.core.day.rota import CarriedOut, Found, Rotation, as_one_day, carried_out, rota_of, the_rest
from isotact.core.day.rota_answers import (
    ActKind,
    ChargerRow,
    ChargeSpan,
    DayRota,
    MinutesDark,
    PackLevel,
    PackRow,
    PackStint,
    RotaAct,
    SeatRow,
)
from isotact.core.day.rota_day import RotaDay
from isotact.core.day.rota_live import Standing, standing_at
from isotact.core.day.rota_remedies import remedies
from isotact.core.day.rota_says import overnight_says, packs_says
from isotact.core.day.transport import transport
from isotact.core.model.job import clock_after, minutes_from
from isotact.core.telling.phrases import counted

CAUTIONS = (
    "Each pack only into the charger made for its cells; a swollen, wet or hot one goes aside, outdoors.",
    "Somebody is with the chargers while they charge.",
)
COLD_CAUTION = "Lithium packs are not charged below 0 °C: warm them first, or charge where it is warm."


def day_rota(day: RotaDay, now: str | None = None) -> DayRota:
    """The rota of a day; from `now` on, a time of that day, where it has begun.

    Raises NoDayError where there is nothing to go by yet.
    """
    if now is None:
        found = rota_of(day.rotation)
        return Told(day, day.rotation, found, carried_out(day.rotation, found), day.rotation, found).whole()
    now_min = min(day.lasts_min, minutes_from(day.call, now))
    standing = standing_at(day, now_min)
    rest = the_rest(standing.day, standing.past)
    ahead = rota_of(rest)
    found, played = as_one_day(standing.past, rest, ahead)
    return Told(day, standing.day, found, played, rest, ahead, standing).whole()


@dataclass(frozen=True)
class Told:
    """A rota that was found, and the day it is for.

    `rotation`, `found`, `played`: of the whole day, with what is in every pack at every moment; `rest`, `ahead`: of
    what was looked for, which begins at `standing`.
    """

    day: RotaDay
    rotation: Rotation
    found: Found
    played: CarriedOut
    rest: Rotation
    ahead: Found
    standing: Standing | None = None

    @property
    def now(self) -> int:
        """The step from which on it was looked for."""
        return 0 if self.standing is None else self.standing.past.now

    def whole(self) -> DayRota:
        """All of it, as an answer."""
        found, cost = self.found, self.found.cost
        dark_steps = sum(one.ends - one.begins for one in found.dark)
        taken_out = {one.pack for one in found.stints} - {seat.pack for seat in self.rotation.seats}
        seats = tuple(self._seat(seat) for seat in self.day.seats)
        cold = self.day.day.temperature_c
        return DayRota(
            says=self._says(),
            status="proven" if found.cost.ordered[:3] == found.least.ordered[:3] else "best-so-far",
            least_says=self._least_says(),
            date=self.day.day.date,
            call=self.day.call,
            lasts_min=self.day.lasts_min,
            dark_min=dark_steps * STEP_MIN,
            first_dark=self._first_dark(),
            spoilt=cost.spoilt,
            changes=cost.changes,
            spares=len(taken_out),
            chargers_used=len({one.charger for one in found.charges}),
            clock_says=self._clock_says(seats),
            seats=seats,
            chargers=tuple(self._chargers()),
            mains=tuple(_spans([watts == 0 for watts in self.day.watts])),
            acts=tuple(sorted(self._acts(), key=lambda one: (one.at_min, _ORDER[one.kind], one.camera, one.pack))),
            packs=tuple(self._pack(one) for one in self.day.pool[0]),
            now_min=None if self.standing is None else self.now * STEP_MIN,
            remedies=tuple(remedies(self.day, self.rest, self.ahead, self.now)),
            noted=() if self.standing is None else self.standing.notes,
            overnight_says=overnight_says(self.rotation, self.played),
            packs_says=packs_says(self.day, self.rotation, self.found),
            transport=transport(self.day.kit, self.day.profiles),
            assumed=tuple(self.day.assumed),
            cautions=(*CAUTIONS, *((COLD_CAUTION,) if cold is not None and cold <= 0 else ())),
        )

    # In words

    def at(self, step: int) -> str:
        """The time of day of a moment."""
        return clock_after(self.day.call, step * STEP_MIN)

    def _says(self) -> str:
        cost = self.found.cost
        if self.ahead.dark:
            return f"{self._first_dark()}."
        changes = counted(cost.changes, "change") if cost.changes else "no change"
        takes = f", {counted(cost.spoilt, 'of them', 'of them')} within a take" if cost.spoilt else ""
        spoilt = "" if cost.spoilt or not cost.changes else ", none within a take"
        nothing = "Nothing goes dark" if self.standing is None else f"From {self.at(self.now)} on nothing goes dark"
        return f"{nothing}: {changes}{takes}{spoilt}."

    def _first_dark(self) -> str:
        first = min(self.ahead.dark, key=lambda one: (one.begins, one.seat), default=None)
        if first is None:
            return ""
        seat = next(one for one in self.day.seats if one.key == first.seat)
        return f"{seat.placed.name} of {seat.of.rig.rig.name} goes dark at {self.at(self.now + first.begins)}"

    def _least_says(self) -> str:
        """What is proven, and what is not."""
        cost, least = self.found.cost, self.found.least
        if cost.ordered[:3] != least.ordered[:3]:
            if cost.dark and not least.dark:
                return "Not proven: perhaps it can be done without going dark."
            if cost.dark != least.dark:
                return "Proven that it goes dark; not that it could not be less."
            if cost.spoilt != least.spoilt:
                return f"Not proven: {least.spoilt} takes are spoilt at least."
            return f"Not proven: {counted(least.changes, 'change')} at least."
        if cost.gear != least.gear:
            return "Proven, but for the gear: fewer packs or chargers might do."
        return "Proven: no rota goes dark less, spoils fewer takes, or does with fewer changes or less gear."

    def _clock_says(self, seats: Sequence[SeatRow]) -> str:
        first = min(
            (one for one in seats if one.alone_min is not None), key=lambda one: one.alone_min or 0, default=None
        )
        if first is None:
            return "Every battery lasts the day."
        at = clock_after(self.day.call, first.alone_min or 0)
        return f"{first.name} of {first.camera} is the clock: as it is now, empty at {at}. Have its volts in sight."

    # Rows

    def _percent(self, pack: str, step: int) -> float:
        full = self.rotation.pack(pack).full_mwh
        return round(100 * self.played.held_mwh[pack][step] / full, 1) if full else 0.0

    def _seat(self, seat: BatterySeat) -> SeatRow:
        own = sorted((one for one in self.found.stints if one.seat == seat.key), key=lambda one: one.begins)
        term = next(one for one in self.rotation.seats if one.key == seat.key)
        levels = []
        for stint in own:
            levels += [
                PackLevel(at_min=step * STEP_MIN, percent=self._percent(stint.pack, step))
                for step in range(stint.begins, stint.ends + 1)
                if step in (stint.begins, stint.ends) or step % 3 == 0
            ]
        without = [one for one in self.found.dark if one.seat == seat.key]
        dark = [any(one.begins <= step < one.ends for one in without) for step in range(self.day.steps)]
        lamp = self._lamp(seat)
        return SeatRow(
            key=seat.key,
            rig=seat.of.rig.rig.id,
            camera=seat.of.rig.rig.camera,
            device=seat.device,
            name=seat.placed.name,
            sort=term.sort,
            fixed=term.fixed,
            rolling_w=round(seat.rolling_w, 2),
            waiting_w=round(seat.waiting_w, 2),
            stints=tuple(
                PackStint(
                    pack=one.pack,
                    begins_min=one.begins * STEP_MIN,
                    ends_min=one.ends * STEP_MIN,
                    begins_percent=self._percent(one.pack, one.begins),
                    ends_percent=self._percent(one.pack, one.ends),
                )
                for one in own
            ),
            levels=tuple(levels),
            dark=tuple(_spans(dark)),
            alone_min=self._alone(term.key),
            lamp_min=lamp[0] if lamp else None,
            lamp_left_min=lamp[1] if lamp else None,
            rolls_from_lamp_min=self._rolls_from_lamp(seat),
            change_says="" if seat.change is None else seat.change.says,
        )

    def _alone(self, key: str) -> int | None:
        """When the pack that is in now is empty, if it is neither changed nor charged."""
        seat = next(one for one in self.rest.seats if one.key == key)
        there = self.rest.pack(seat.pack).charge_mwh - seat.keeps_mwh if seat.pack is not None else 0
        steps = range(self.rest.steps)
        return next(((self.now + step) * STEP_MIN for step in steps if seat.used_mwh[step + 1] > there), None)

    def _lamp(self, seat: BatterySeat) -> tuple[int, int] | None:
        """When the lamp of a battery warns first, and the minutes from there until it is empty, were it left in."""
        share = seat.lamp_share
        if share is None:
            return None
        term = next(one for one in self.rotation.seats if one.key == seat.key)
        for stint in sorted((one for one in self.found.stints if one.seat == seat.key), key=lambda one: one.begins):
            full = self.rotation.pack(stint.pack).full_mwh
            warns = share * full
            for step in range(stint.begins, stint.ends):
                if self.played.held_mwh[stint.pack][step + 1] <= warns and term.load_mwh[step]:
                    left = (warns - term.keeps_mwh) / (term.load_mwh[step] / STEP_MIN)
                    return (step + 1) * STEP_MIN, max(0, round(left))
        return None

    def _rolls_from_lamp(self, seat: BatterySeat) -> int | None:
        own = [one for one in self.found.stints if one.seat == seat.key]
        if seat.lamp_share is None or not own or not seat.rolling_w:
            return None
        now = next((one for one in own if one.begins <= self.now < one.ends), own[-1])
        term = next(one for one in self.rotation.seats if one.key == seat.key)
        left_wh = (seat.lamp_share * self.rotation.pack(now.pack).full_mwh - term.keeps_mwh) / 1000
        return max(0, round(60 * left_wh / seat.rolling_w))

    def _chargers(self) -> Iterator[ChargerRow]:
        for charger in self.rotation.chargers:
            free = [0] * charger.slots
            spans = []
            charges = [one for one in self.found.charges if one.charger == charger.key]
            for one in sorted(charges, key=lambda one: (one.begins, one.pack)):
                lanes = [lane for lane, until in enumerate(free) if until <= one.begins]
                taken = lanes[: charger.slots_for(self.rotation.pack(one.pack).sort)]
                for lane in taken:
                    free[lane] = one.ends
                    spans.append(
                        ChargeSpan(
                            pack=one.pack,
                            lane=lane,
                            begins_min=one.begins * STEP_MIN,
                            ends_min=one.ends * STEP_MIN,
                            ends_percent=self._percent(one.pack, one.ends),
                        )
                    )
            yield ChargerRow(key=charger.key, slots=charger.slots, charges=tuple(spans))

    def _pack(self, pack: OnePack) -> PackRow:
        term = self.rotation.pack(pack.key)
        used = any(one.pack == pack.key for one in self.found.stints)
        health = self.standing.healths.get(pack.key) if self.standing is not None else None
        return PackRow(
            key=pack.key,
            sort=pack.sort,
            energy_wh=round(pack.energy_wh, 1),
            gives_wh=round(term.full_mwh / 1000, 1),
            charge_percent=round(100 * pack.charge),
            health_percent=round(100 * (pack.health if health is None else health.share)),
            health_says=pack.said if health is None else "by what was read today",
            used=used,
        )

    # What is to be done

    def _acts(self) -> Iterator[RotaAct]:
        yield from self._changes()
        fixed = {seat.pack: seat for seat in self.rotation.seats if seat.fixed}
        for one in self.found.charges:
            where = self._where(None, one.begins)
            built_in = fixed.get(one.pack)
            name = self._seat_name(built_in.key) if built_in is not None else one.pack
            yield self._act(one.begins, "charge", f"{name} on charge, {one.charger}", where, one.pack)
            to = self._percent(one.pack, one.ends)
            again = any(stint.pack == one.pack and stint.begins >= one.ends for stint in self.found.stints)
            if again:
                says = f"{name} off charge, at {to:.0f} %"
                yield self._act(one.ends, "off-charge", says, self._where(None, one.ends), one.pack)

    def _changes(self) -> Iterator[RotaAct]:
        for seat in self.day.seats:
            if not seat.battery.fitted:
                continue
            own = sorted((one for one in self.found.stints if one.seat == seat.key), key=lambda one: one.begins)
            term = next(one for one in self.rotation.seats if one.key == seat.key)
            name = self._seat_name(seat.key)
            old = None
            for number, one in enumerate(own):
                if number == 0 and one.begins == 0:
                    old = one
                    continue
                came_out = one.begins
                if old is not None and self._is_wanted_between(old.pack, old.ends, one.begins):
                    came_out = old.ends
                if old is not None and came_out < one.begins:
                    where = self._where(seat, came_out)
                    says = f"{name}: {old.pack} out"
                    yield self._act(came_out, "out", says, where, old.pack, seat)
                spoils = bool(term.spoils[one.begins])
                instead = f" for {old.pack}" if old is not None and came_out == one.begins else ""
                act = self._act(one.begins, "change", f"{name}: {one.pack} in{instead}", "", one.pack, seat)
                yield act.model_copy(
                    update={
                        "where": self._where(seat, one.begins),
                        "old": old.pack if old is not None else None,
                        "takes_min": 0 if seat.is_changed_in_use else seat.change_min,
                        "spoils": spoils,
                        "changed": self.standing is not None
                        and (one.begins, seat.key, one.pack) in self.standing.put_in,
                    }
                )
                old = one

    def _is_wanted_between(self, pack: str, begins: int, ends: int) -> bool:
        """Whether a pack is charged, or goes in elsewhere, from one moment to another."""
        used = [(one.pack, one.begins) for one in self.found.stints]
        used += [(one.pack, one.begins) for one in self.found.charges]
        return any(one == pack and begins <= moment < ends for one, moment in used)

    def _seat_name(self, key: str) -> str:
        seat = next(one for one in self.day.seats if one.key == key)
        return f"{seat.of.rig.rig.camera}, {seat.placed.name}"

    def _act(
        self, step: int, kind: ActKind, says: str, where: str, pack: str, seat: BatterySeat | None = None
    ) -> RotaAct:
        return RotaAct(
            at_min=step * STEP_MIN,
            clock=self.at(step),
            kind=kind,
            says=says,
            where=where,
            rig=seat.of.rig.rig.id if seat is not None else None,
            camera=seat.of.rig.rig.camera if seat is not None else "",
            device=seat.device if seat is not None else None,
            pack=pack,
        )

    def _where(self, seat: BatterySeat | None, step: int) -> str:
        """What is going on then: for a rig, or for everybody."""
        minute = step * STEP_MIN
        uses: Sequence[Used] = seat.uses if seat is not None else [one for each in self.day.seats for one in each.uses]
        ends = [one for one in uses if one.ends == minute]
        begins = [one for one in uses if one.begins == minute]
        if seat is not None and ends and begins and ends[0].block != begins[0].block:
            return f"between {ends[0].block} and {begins[0].block}"
        now = next((one for one in uses if one.begins <= minute < one.ends), None)
        if begins:
            return f"before {begins[0].block}"
        if now is not None and any(start <= minute < stop for start, stop in now.pauses):
            return f"in the pause of {now.block}"
        if now is not None:
            return f"{now.block}, {now.use.use}" if seat is not None else now.block
        before = max((one for one in uses if one.ends <= minute), key=lambda one: one.ends, default=None)
        after = min((one for one in uses if one.begins > minute), key=lambda one: one.begins, default=None)
        if after is not None:
            return f"before {after.block}"
        return "" if before is None else f"after {before.block}"


_ORDER: dict[ActKind, int] = {"out": 0, "off-charge": 1, "change": 2, "charge": 3}


def _spans(flags: Sequence[bool]) -> Iterator[MinutesDark]:
    """From when to when a flag is up, step by step."""
    begun: float = inf
    for step, up in enumerate([*flags, False]):
        if up and begun == inf:
            begun = step
        elif not up and begun != inf:
            yield MinutesDark(begins_min=round(begun) * STEP_MIN, ends_min=step * STEP_MIN)
            begun = inf
