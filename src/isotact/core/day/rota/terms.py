"""The terms of a rota: what needs packs when, which packs there are, what charges them, and what was found.

Time goes in whole steps of equal length from 0 to `steps`; energy in thousandths of a watt hour, and always what may be
used: what a pack keeps back is not in it.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from itertools import accumulate


@dataclass(frozen=True)
class Seat:
    """Where a pack of one sort runs a part of a rig.

    `load_mwh`: what it takes in every step, 0 while it is off. `spoils`: for each moment, the takes that a change there
    spoils; `likes`: for each moment, 0 where a change is made best, more where it is only possible. `pack`: the one
    that is in to begin with. `fixed`: built in, so that it is never changed, and charged where it is while nothing is
    taken out of it. `keeps_mwh`: more than the pack's own reserve, since with less it cannot feed what hangs on it.
    Invariants: `spoils` and `likes` have one entry more than `load_mwh`; a fixed seat has a pack.
    """

    key: str
    sort: str
    load_mwh: tuple[int, ...]
    spoils: tuple[int, ...]
    likes: tuple[int, ...]
    rig: str = ""
    pack: str | None = None
    fixed: bool = False
    keeps_mwh: int = 0

    @cached_property
    def used_mwh(self) -> tuple[int, ...]:
        """What it has taken since the beginning, at every moment."""
        return (0, *accumulate(self.load_mwh))

    @cached_property
    def darkness(self) -> tuple[int, ...]:
        """What it costs to have been dark since the beginning, at every moment.

        Each step counts as many as are left of the day: later is better, since there is time to find a pack.
        """
        steps = len(self.load_mwh)
        return (0, *accumulate(steps - step if load else 0 for step, load in enumerate(self.load_mwh)))


@dataclass(frozen=True)
class PackIs:
    """A pack: what it holds when full, and what is in it at the beginning."""

    key: str
    sort: str
    full_mwh: int
    charge_mwh: int


@dataclass(frozen=True)
class ChargerIs:
    """A charger. `slots`: so many packs at once; `gains_mwh`: what one gains in a step, by its sort, and no other sort
    is charged in it; `watts`: what each slot takes; `pieces`: how many slots one takes, by its sort, where not one: a
    pair that is changed together.
    """

    key: str
    slots: int
    gains_mwh: Mapping[str, int]
    watts: int = 0
    pieces: Mapping[str, int] = field(default_factory=dict)

    def slots_for(self, sort: str) -> int:
        """How many slots a pack of a sort takes."""
        return min(self.slots, self.pieces.get(sort, 1))

    def watts_for(self, sort: str) -> int:
        """What a pack of a sort takes from the mains."""
        return self.watts * self.slots_for(sort)


@dataclass(frozen=True)
class Rules:
    """What the crew says. `walk_steps`: from a rig to a charger, and the same back."""

    packs_move: bool = True
    part_charges: bool = True
    walk_steps: int = 0


@dataclass(frozen=True)
class Rotation:
    """A day to find a rota for.

    `watts`: what can be had from the mains in every step, 0 without any; None: as much as the chargers ask for.
    `no_charge_from`: moments at which no charge may begin.
    """

    steps: int
    seats: tuple[Seat, ...]
    packs: tuple[PackIs, ...]
    chargers: tuple[ChargerIs, ...] = ()
    watts: tuple[int | None, ...] = ()
    rules: Rules = field(default=Rules())
    no_charge_from: frozenset[int] = frozenset()

    @cached_property
    def powered(self) -> tuple[int, ...]:
        """For how many steps there has been mains, at every moment."""
        return (0, *accumulate(0 if watts == 0 else 1 for watts in self.watts or (None,) * self.steps))

    @cached_property
    def by_sort(self) -> Mapping[str, Sequence[PackIs]]:
        """The packs of each sort."""
        found: dict[str, list[PackIs]] = {}
        for pack in self.packs:
            found.setdefault(pack.sort, []).append(pack)
        return found

    def pack(self, key: str) -> PackIs:
        """One pack."""
        return next(one for one in self.packs if one.key == key)


@dataclass(frozen=True)
class Stint:
    """A pack in a seat, from one moment to another."""

    seat: str
    pack: str
    begins: int
    ends: int


@dataclass(frozen=True)
class Charging:
    """A pack in a charger, from one moment to another."""

    charger: str
    pack: str
    begins: int
    ends: int


@dataclass(frozen=True)
class Dark:
    """A seat that needs power and has none, from one moment to another."""

    seat: str
    begins: int
    ends: int


@dataclass(frozen=True)
class Cost:
    """What is weighed, in this order: steps in the dark, the sooner the more; takes spoilt; changes; gear in use."""

    dark: int
    spoilt: int
    changes: int
    gear: int = 0

    @property
    def ordered(self) -> tuple[int, int, int, int]:
        """To be compared with that of another rota."""
        return self.dark, self.spoilt, self.changes, self.gear


@dataclass(frozen=True)
class Found:
    """A rota. `least`: no rota of this day costs less; where that is what it costs it is proven to be the best."""

    stints: tuple[Stint, ...]
    charges: tuple[Charging, ...]
    dark: tuple[Dark, ...]
    cost: Cost
    least: Cost

    @property
    def proven(self) -> bool:
        return self.cost == self.least
