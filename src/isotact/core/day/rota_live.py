"""A day while it runs: what was put in, what was read of it, and what that says of each pack."""

from dataclasses import dataclass, replace

from isotact.core.calc.batteries import Battery, left_at
from isotact.core.day.battery_seats import STEP_MIN, BatterySeat
from isotact.core.day.pack_pool import OnePack
from isotact.core.day.rota import Level, PutIn, Rotation, SoFar, so_far, with_health
from isotact.core.day.rota_day import RotaDay
from isotact.core.model.job import LampSeen, PackChanged, VoltsRead, clock_after, minutes_from

READ_TO = 0.03
"""A reading tells the share that is left to so much: a tenth of a volt at four cells. Common practice, no source."""
HEALTH_KNOWN_TO = 0.1
"""What is said of a pack's health, or taken from its age, is right to so much. Common practice, no source."""
LEAST_DEPTH = 0.15
"""Of so little used nothing is said of a pack's health."""


@dataclass(frozen=True)
class Health:
    """What is taken for the health of a pack, and how sure that is."""

    share: float
    known_to: float = HEALTH_KNOWN_TO

    def with_reading(self, share: float, known_to: float) -> "Health":
        """Both weighed by how well they are known: the mean of two normal distributions."""
        weight = self.known_to**2 / (self.known_to**2 + known_to**2)
        left = (1 / self.known_to**2 + 1 / known_to**2) ** -0.5
        return Health(min(1.0, self.share + weight * (share - self.share)), left)


@dataclass(frozen=True)
class Standing:
    """How the day stands. `day`: with what the readings say of every pack; `healths`: of which anything was read."""

    day: Rotation
    past: SoFar
    healths: dict[str, Health]
    notes: tuple[str, ...]
    put_in: frozenset[tuple[int, str, str]]
    """The changes that were said: moment, seat, pack."""


def standing_at(day: RotaDay, now_min: int) -> Standing:
    """How the day stands so many minutes after the call, by what was said of it until then."""
    return _Until(day, now_min).standing()


class _Until:
    def __init__(self, day: RotaDay, now_min: int) -> None:
        self.day, self.now = day, min(day.steps, max(0, now_min // STEP_MIN))
        self.put_in: list[PutIn] = []
        self.levels: list[Level] = []
        self.healths: dict[str, Health] = {}
        self.notes: list[str] = []
        self.seats = {(one.of.rig.rig.id, one.device): one for one in day.seats}
        self.packs = {one.key: one for one in day.pool[0]}

    def standing(self) -> Standing:
        # What went in is known first: whatever was read is read of what is in then.
        for change in self.day.day.packs_changed:
            if (minute := self._minute(change.at)) is not None:
                self._put_in(change, minute)
        for reading in sorted(self.day.day.batteries_read, key=lambda one: minutes_from(self.day.call, one.at)):
            if (minute := self._minute(reading.at)) is not None:
                self._read(reading, minute)
        rotation = self._rotation()
        past = so_far(rotation, self.now, self.put_in, self.levels)
        self._say_dark(past)
        put_in = frozenset((one.moment, one.seat, one.pack) for one in self.put_in)
        return Standing(rotation, past, self.healths, tuple(self.notes), put_in)

    def _rotation(self) -> Rotation:
        shares = {key: health.share / self.packs[key].health for key, health in self.healths.items()}
        return replace(self.day.rotation, packs=with_health(self.day.rotation.packs, shares))

    def _minute(self, at: str) -> int | None:
        """When it was; None where that is not yet."""
        minute = minutes_from(self.day.call, at)
        return minute if minute <= self.now * STEP_MIN + STEP_MIN else None

    def _seat(self, at: str, rig: str, device: str) -> BatterySeat | None:
        seat = self.seats.get((rig, device))
        if seat is None:
            self.notes.append(f"{at}: no battery of this day is at {device} of {rig}; left out.")
        return seat

    def _put_in(self, one: PackChanged, minute: int) -> None:
        seat = self._seat(one.at, one.rig, one.device)
        if seat is not None and one.pack not in self.packs:
            self.notes.append(f"{one.at}: pack {one.pack} is not among those of the day; left out.")
        elif seat is not None:
            self.put_in.append(PutIn(min(self.now, minute // STEP_MIN), seat.key, one.pack))

    def _read(self, one: VoltsRead | LampSeen, minute: int) -> None:
        seat = self._seat(one.at, one.rig, one.device)
        if seat is None:
            return
        moment = min(self.now, minute // STEP_MIN)
        past = so_far(self._rotation(), moment, self.put_in, self.levels)
        key = past.in_seat[seat.key]
        if key is None:
            self.notes.append(f"{one.at}: nothing was in {seat.placed.name}; what was read of it is left out.")
            return
        pack = self.packs[key]
        watts = sum(seat.watts(used.use) for used in seat.uses if used.begins <= minute < used.ends)
        left, says = _by_lamp(seat, pack) if one.volts is None else self._by_volts(one.volts, seat, pack, watts)
        if left is None:
            self.notes.append(f"{one.at}: {says}")
            return
        self._learn(seat, pack, past, left)
        full = self._rotation().pack(key).full_mwh
        usable = max(0.0, seat.usable(left))
        self.levels.append(Level(moment, seat.key, round(usable * full)))
        if one.volts is None and watts:
            says += f", about {round(usable * full / 1000 / watts * 60)} min left"
        health = self.healths.get(key)
        says = f"{one.at}: {says}"
        self.notes.append(
            f"{says}, which holds {100 * health.share:.0f} % of when it was new." if health else f"{says}."
        )

    def _by_volts(self, volts: float, seat: BatterySeat, pack: OnePack, watts: float) -> tuple[float | None, str]:
        battery = self._battery(seat, pack)
        left = left_at(battery, volts, watts)
        if left is None:
            lowest, highest = battery.rest_v(0), battery.rest_v(1)
            return None, (
                f"{volts:g} V is no charge of {pack.key}, which has {lowest:.1f} to {highest:.1f} V; "
                "left out. Read it again."
            )
        return left, f"{volts:g} V under {watts:.0f} W is {100 * left:.0f} % of {pack.key}"

    def _battery(self, seat: BatterySeat, pack: OnePack) -> Battery:
        battery = seat.placed.battery
        assert battery is not None  # a seat has one
        health = self.healths[pack.key].share if pack.key in self.healths else pack.health
        return replace(battery, energy_wh=pack.energy_wh, health=health)

    def _learn(self, seat: BatterySeat, pack: OnePack, past: SoFar, left: float) -> None:
        """What was taken out since it went in, against the share by which it fell."""
        begins = max((one.begins for one in past.stints if one.seat == seat.key), default=0)
        begins = max([begins, *(one.moment for one in self.levels if one.seat == seat.key)])
        term = next(one for one in self.day.rotation.seats if one.key == seat.key)
        taken_wh = (term.used_mwh[past.now] - term.used_mwh[begins]) / 1000
        full = self._rotation().pack(pack.key).full_mwh
        used_share = seat.placed.used_share
        before = 1 - used_share * (1 - past.held_mwh[pack.key][begins] / full)
        depth = before - left
        battery = seat.placed.battery
        if depth < LEAST_DEPTH or battery is None:
            return
        found = taken_wh / depth / (pack.energy_wh * battery.cold_share)
        known = self.healths.get(pack.key, Health(pack.health))
        self.healths[pack.key] = known.with_reading(max(0.2, min(1.0, found)), READ_TO / depth)

    def _say_dark(self, past: SoFar) -> None:
        for key in dict.fromkeys(one.seat for one in past.dark):
            first = min(one.begins for one in past.dark if one.seat == key)
            seat = next(one for one in self.day.seats if one.key == key)
            at = clock_after(self.day.call, first * STEP_MIN)
            self.notes.append(
                f"By what was said {seat.placed.name} of {seat.of.rig.rig.camera} is empty since {at}: "
                "say which pack is in it, or read its volts."
            )


def _by_lamp(seat: BatterySeat, pack: OnePack) -> tuple[float | None, str]:
    percent = seat.battery.low_lamp_percent
    if percent is None:
        return None, f"nobody says at what charge the lamp of {seat.placed.name} comes on; left out. Read its volts."
    return percent / 100, f"the lamp of {seat.placed.name} is on: {percent:g} % of {pack.key}"
