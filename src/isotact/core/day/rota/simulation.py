"""A rota carried out: what is in every pack at every moment, and all that is wrong with it.

Knows nothing of how it was found. Time goes in parts of a step, so that it can be carried out by the minute.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from isotact.core.day.rota.terms import Charging, Dark, Found, Rotation, Seat, Stint

Drain = Callable[[Seat, str, int, float], float]
"""Of a seat, a pack, a step, and what is in the pack: the thousandths of a watt hour that the step takes."""


@dataclass(frozen=True)
class CarriedOut:
    """What came of it. `held_mwh`: pack -> what is in it at every moment; `wrong`: what cannot be done, in words."""

    held_mwh: dict[str, tuple[float, ...]]
    dark: tuple[Dark, ...]
    wrong: tuple[str, ...]


def carried_out(day: Rotation, found: Found, parts: int = 1, drain: Drain | None = None) -> CarriedOut:
    """Carry a rota out, every step in so many parts. `drain`: what a step really takes; None: what the day says."""
    return _Day(day, found, parts, drain or (lambda seat, _pack, step, _left: seat.load_mwh[step])).whole()


class _Day:
    def __init__(self, day: Rotation, found: Found, parts: int, drain: Drain) -> None:
        self.day, self.found, self.parts, self.drain = day, found, parts, drain
        self.held = {pack.key: float(pack.charge_mwh) for pack in day.packs}
        self.dead: set[tuple[str, str]] = set()
        self.dark: list[Dark] = []
        self.wrong: list[str] = []
        self.chargers = {one.key: one for one in day.chargers}

    def whole(self) -> CarriedOut:
        trail = {key: [held] for key, held in self.held.items()}
        for step in range(self.day.steps):
            stints = [one for one in self.found.stints if one.begins <= step < one.ends]
            charges = [one for one in self.found.charges if one.begins <= step < one.ends]
            self._places(step, stints, charges)
            dark = set()
            for _ in range(self.parts):
                for charging in charges:
                    self._charge(step, charging)
                dark |= {seat.key for seat in self.day.seats if not self._fed(step, seat, stints)}
            self.dark += [Dark(key, step, step + 1) for key in sorted(dark)]
            for key, held in self.held.items():
                trail[key].append(held)
        return CarriedOut({key: tuple(each) for key, each in trail.items()}, tuple(self.dark), tuple(self.wrong))

    def _places(self, step: int, stints: Sequence[Stint], charges: Sequence[Charging]) -> None:
        """Nothing is in two places, no seat or charger has more in it than it can, none more watts than there are."""
        fixed = {seat.key for seat in self.day.seats if seat.fixed}
        places = [one.pack for one in stints if one.seat not in fixed] + [one.pack for one in charges]
        seats = [one.seat for one in stints]
        for what, several in (("pack", places), ("seat", seats)):
            self.wrong += [f"step {step}: {what} {one} twice" for one in set(several) if several.count(one) > 1]
        sorts = {one.pack: self.day.pack(one.pack).sort for one in charges}
        for key, charger in self.chargers.items():
            if sum(charger.slots_for(sorts[one.pack]) for one in charges if one.charger == key) > charger.slots:
                self.wrong.append(f"step {step}: {key} has too many")
        given = self.day.watts[step] if self.day.watts else None
        if given and sum(self.chargers[one.charger].watts_for(sorts[one.pack]) for one in charges) > given:
            self.wrong.append(f"step {step}: more watts than there are")

    def _charge(self, step: int, charging: Charging) -> None:
        given = self.day.watts[step] if self.day.watts else None
        pack, charger = self.day.pack(charging.pack), self.chargers[charging.charger]
        if given != 0:
            gains = charger.gains_mwh[pack.sort] / self.parts
            self.held[pack.key] = min(float(pack.full_mwh), self.held[pack.key] + gains)

    def _fed(self, step: int, seat: Seat, stints: Sequence[Stint]) -> bool:
        if not seat.load_mwh[step]:
            self.dead = {one for one in self.dead if one[0] != seat.key}
            return True
        own = next((one for one in stints if one.seat == seat.key), None)
        if own is None or (seat.key, own.pack) in self.dead:
            return False
        takes = self.drain(seat, own.pack, step, self.held[own.pack]) / self.parts
        if self.held[own.pack] - takes < seat.keeps_mwh - 1e-6:
            self.dead.add((seat.key, own.pack))
            return False
        self.held[own.pack] -= takes
        return True
