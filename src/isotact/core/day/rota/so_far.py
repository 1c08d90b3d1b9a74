"""A day until now: what was put in where, as it was said, and what is in every pack by that and by what was read."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from random import Random

from isotact.core.day.rota.greedy import Try
from isotact.core.day.rota.simulation import CarriedOut, carried_out
from isotact.core.day.rota.terms import Charging, Cost, Dark, Found, PackIs, Rotation, Seat, Stint


@dataclass(frozen=True)
class PutIn:
    """A pack that was put into a seat at a moment."""

    moment: int
    seat: str
    pack: str


@dataclass(frozen=True)
class Level:
    """What is known to be in the pack of a seat at a moment: it was measured."""

    moment: int
    seat: str
    charge_mwh: int


@dataclass(frozen=True)
class SoFar:
    """How a day stands at `now`. `held_mwh`: pack -> what was in it at every moment until then."""

    now: int
    stints: tuple[Stint, ...]
    charges: tuple[Charging, ...]
    dark: tuple[Dark, ...]
    held_mwh: Mapping[str, tuple[float, ...]]
    in_seat: Mapping[str, str | None]


def so_far(day: Rotation, now: int, put_in: Sequence[PutIn], levels: Sequence[Level] = ()) -> SoFar:
    """The day until `now`. Nobody says what goes on charge: whoever is out is charged as soon as there is a slot."""
    played = _Played(day, put_in, levels)
    played.through(now)
    played.told_at(now)
    for held in played.held.values():
        if held.charger is not None and now > held.since:
            played.charges.append(Charging(held.charger.key, held.pack.key, held.since, now))
    inside = {key: held.pack.key if held is not None else None for key, held in played.in_seat.items()}
    stints = list(played.stints)
    stints += [Stint(key, pack, played.begun[key], now) for key, pack in inside.items() if pack is not None]
    trail = {key: (*each, played.held[key].charge) for key, each in played.trail.items()}
    return SoFar(now, tuple(stints), tuple(played.charges), tuple(played.dark), trail, inside)


class _Played(Try):
    """The day as it was said to be."""

    def __init__(self, day: Rotation, put_in: Sequence[PutIn], levels: Sequence[Level]) -> None:
        super().__init__(day, {seat.key: [] for seat in day.seats}, Random(0), 0)
        self.put_in, self.levels = put_in, levels
        self.trail: dict[str, tuple[float, ...]] = {pack.key: () for pack in day.packs}

    def told_at(self, moment: int) -> None:
        """What was said of a moment."""
        for seat in self.day.seats:
            self._seat(seat, moment)
        for level in self.levels:
            held = self.in_seat.get(level.seat)
            if level.moment == moment and held is not None:
                held.charge = min(held.pack.full_mwh, max(0, level.charge_mwh))
                self.dead.discard(level.seat)

    def _leave(self, moment: int) -> None:
        self.told_at(moment)
        for key, held in self.held.items():
            self.trail[key] = (*self.trail[key], held.charge)

    def _seat(self, seat: Seat, moment: int) -> None:
        for one in self.put_in:
            held = self.held.get(one.pack)
            if held is not None and held.seat is not seat and (one.moment, one.seat) == (moment, seat.key):
                self._take_out(seat, moment)
                if held.seat is not None:
                    self._take_out(held.seat, moment)
                self._out_of_charger(held, moment)
                self._put_in(seat, held, moment)

    def _planned(self, seat: Seat, held: object, moment: int) -> int | None:
        return None


def the_rest(day: Rotation, past: SoFar) -> Rotation:
    """The day from now on, with what is in every pack by now."""
    now = past.now
    packs = tuple(replace(pack, charge_mwh=int(past.held_mwh[pack.key][now])) for pack in day.packs)
    return replace(
        day,
        steps=day.steps - now,
        seats=tuple(_from(seat, now, past.in_seat[seat.key]) for seat in day.seats),
        packs=packs,
        watts=day.watts[now:],
        no_charge_from=frozenset(moment - now for moment in day.no_charge_from if moment >= now),
    )


def _from(seat: Seat, now: int, pack: str | None) -> Seat:
    return replace(seat, load_mwh=seat.load_mwh[now:], spoils=seat.spoils[now:], likes=seat.likes[now:], pack=pack)


def as_one_day(past: SoFar, rest: Rotation, found: Found) -> tuple[Found, CarriedOut]:
    """The past and the rota for the rest of it as one, and what is in every pack from beginning to end."""
    now = past.now
    later = [Stint(one.seat, one.pack, one.begins + now, one.ends + now) for one in found.stints]
    stints = _joined([*past.stints, *later])
    charges = _as_one_charge(
        [*past.charges, *(replace(one, begins=one.begins + now, ends=one.ends + now) for one in found.charges)]
    )
    dark = (*past.dark, *(Dark(one.seat, one.begins + now, one.ends + now) for one in found.dark))
    ahead = carried_out(rest, found)
    held = {key: (*trail[:-1], *ahead.held_mwh[key]) for key, trail in past.held_mwh.items()}
    changes = sum(1 for one in stints if one.begins) - found.cost.changes
    cost = Cost(found.cost.dark, found.cost.spoilt, found.cost.changes + max(0, changes), found.cost.gear)
    least = replace(found.least, changes=found.least.changes + max(0, changes))
    return Found(stints, charges, dark, cost, least), CarriedOut(held, dark, ahead.wrong)


def _joined(stints: Sequence[Stint]) -> tuple[Stint, ...]:
    """Who goes on where it was is one stint."""
    kept: list[Stint] = []
    for stint in sorted(stints, key=lambda one: (one.seat, one.begins)):
        last = kept[-1] if kept else None
        if last is not None and (last.seat, last.pack, last.ends) == (stint.seat, stint.pack, stint.begins):
            kept[-1] = replace(last, ends=stint.ends)
        else:
            kept.append(stint)
    return tuple(kept)


def _as_one_charge(charges: Sequence[Charging]) -> tuple[Charging, ...]:
    """Who goes on charging where it was is charged once."""
    kept: list[Charging] = []
    for charge in sorted(charges, key=lambda one: (one.charger, one.pack, one.begins)):
        last = kept[-1] if kept else None
        if last is not None and (last.charger, last.pack, last.ends) == (charge.charger, charge.pack, charge.begins):
            kept[-1] = replace(last, ends=charge.ends)
        else:
            kept.append(charge)
    return tuple(kept)


def with_health(packs: Sequence[PackIs], shares: Mapping[str, float]) -> tuple[PackIs, ...]:
    """The packs, of which some hold another share of what they were taken to hold."""
    return tuple(
        replace(
            pack,
            full_mwh=int(pack.full_mwh * shares[pack.key]),
            charge_mwh=int(pack.charge_mwh * shares[pack.key]),
        )
        if pack.key in shares
        else pack
        for pack in packs
    )
