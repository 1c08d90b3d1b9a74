"""A rota as a constraint model: stints in seats, chains of them that one pack goes through, charges between them."""

from collections import defaultdict
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field
from itertools import pairwise
from typing import Any

from isotact.core.day.rota.terms import PackIs, Rotation, Seat
from isotact.core.solver import new_int_var_of, new_model


@dataclass
class Piece:
    """A stint that may be, or a part-charged pack on the shelf, which is one of no length and no seat.

    `begins`, `ends`: moments; `starts_mwh`, `left_mwh`: what is in the pack at both; `gain_mwh`: what it is charged
    with afterwards. All of them are variables, or constants of the model. `of`: the pack, where it is known.
    """

    key: str
    sort: str
    rig: str
    begins: Any
    ends: Any
    here: Any
    starts_mwh: Any
    left_mwh: Any
    full_mwh: Any
    seat: Seat | None = None
    number: int = 0
    of: str | None = None
    free_from: int | None = None
    """When it is off, where that is known, and not only when its pack is empty."""
    gain_mwh: Any = 0
    charged: Any = 0
    charge_ends: Any = None
    before: dict[str, Any] = field(default_factory=dict)
    """By the key of a piece or a class of packs: whether the pack comes from there."""


@dataclass(frozen=True)
class PackClass:
    """Full packs on the shelf that are alike: which of them is taken makes no difference."""

    key: str
    sort: str
    full_mwh: int
    packs: tuple[str, ...]


class StintsModel:
    """The model of a day. `counts`: for each seat, how often it may be changed at most; `moments`: when, where not at
    every moment. `may_go_dark`: that costs, and is no law.
    """

    def __init__(
        self,
        day: Rotation,
        counts: Mapping[str, int],
        may_go_dark: bool = False,
        moments: Mapping[str, Collection[int]] | None = None,
    ) -> None:
        self.day, self.counts, self.may_go_dark, self.moments = day, counts, may_go_dark, moments or {}
        self.model = new_model()
        self.pieces: list[Piece] = []
        self.charges: list[tuple[Piece, str, Any, Any, Any]] = []
        self.dark: list[Any] = []
        self.spoilt: list[Any] = []
        self.changes: list[Any] = []
        self.disliked: list[Any] = []
        in_seats = {seat.pack for seat in day.seats}
        self.shelf = [pack for pack in day.packs if pack.key not in in_seats]
        self.classes = _classes(self.shelf)
        for seat in day.seats:
            self._seat(seat)
        for pack in self.shelf:
            if pack.charge_mwh < pack.full_mwh:
                self._on_the_shelf(pack)
        self._charge()
        self.taken_out = self._link()

    # Seats

    def _seat(self, seat: Seat) -> None:
        if seat.fixed:
            self._built_in(seat)
            return
        day, model = self.day, self.model
        pieces = []
        for number in range(self.counts[seat.key] + 1):
            first = number == 0
            name = f"{seat.key} {number}"
            begins = model.new_constant(0) if first else self._moment(seat, f"{name} begins")
            ends = self._moment(seat, f"{name} ends")
            known = first and seat.pack is not None
            here = model.new_constant(1) if known else model.new_bool_var(f"{name} here")
            pieces.append(self._piece(seat, number, begins, ends, here))
            if first and not known:
                model.add(ends == 0).only_enforce_if(here.negated())
        for one, after in pairwise(pieces):
            if one.number:
                model.add(after.here <= one.here)
            model.add(after.begins >= one.ends)
        for one in pieces[1:]:
            model.add(one.begins == day.steps).only_enforce_if(one.here.negated())
            model.add(one.ends == day.steps).only_enforce_if(one.here.negated())
            model.add(one.ends >= one.begins + 1).only_enforce_if(one.here)
            self.changes.append(one.here)
            self._costs(seat, one)
        self._gaps(seat, pieces)

    def _moment(self, seat: Seat, name: str) -> Any:
        """A moment at which this seat may be changed."""
        own = self.moments.get(seat.key)
        if own is None:
            return self.model.new_int_var(0, self.day.steps, name)
        return new_int_var_of(self.model, {0, self.day.steps, *own}, name)

    def _piece(self, seat: Seat, number: int, begins: Any, ends: Any, here: Any) -> Piece:
        day, model = self.day, self.model
        name = f"{seat.key} {number}"
        own = day.by_sort.get(seat.sort, ())
        fullest = max((pack.full_mwh for pack in own), default=0)
        known = day.pack(seat.pack) if number == 0 and seat.pack is not None else None
        used = self._between(seat.used_mwh, begins, ends, f"{name} used")
        alike = {pack.full_mwh for pack in own}
        full = model.new_constant(known.full_mwh if known else fullest)
        if known is None and len(alike) > 1:
            full = model.new_int_var(0, fullest, f"{name} full")
        starts = model.new_constant(known.charge_mwh) if known else model.new_int_var(0, fullest, f"{name} starts")
        left = model.new_int_var(0, fullest, f"{name} left")
        model.add(left == starts - used)
        if seat.keeps_mwh:
            model.add(left >= seat.keeps_mwh).only_enforce_if(here)
        if known is None:
            model.add(starts <= full)
        piece = Piece(name, seat.sort, seat.rig, begins, ends, here, starts, left, full, seat=seat, number=number)
        piece.of = known.key if known else None
        self.pieces.append(piece)
        return piece

    def _between(self, table: Sequence[int], begins: Any, ends: Any, name: str) -> Any:
        """What a running total gains from one moment to another."""
        return self._at(table, ends, f"{name} by") - self._at(table, begins, f"{name} from")

    def _at(self, table: Sequence[int], moment: Any, name: str) -> Any:
        value = self.model.new_int_var(min(table), max(table), name)
        self.model.add_element(moment, list(table), value)
        return value

    def _costs(self, seat: Seat, piece: Piece) -> None:
        """What a change there spoils. A stint that is not there begins at the end, where nothing is spoilt."""
        for table, costs in ((seat.spoils, self.spoilt), (seat.likes, self.disliked)):
            table = (*table[:-1], 0)
            if any(table):
                costs.append(self._at(table, piece.begins, f"{piece.key} costs {len(costs)}"))

    def _gaps(self, seat: Seat, pieces: Sequence[Piece]) -> None:
        """Between two packs nothing is taken; or it is dark meanwhile, where that may be."""
        if not any(seat.load_mwh):
            return
        table = seat.darkness
        for number, one in enumerate(pieces):
            last = number + 1 == len(pieces)
            after = self.model.new_constant(self.day.steps) if last else pieces[number + 1].begins
            gap = self._at(table, after, f"{one.key} gap to") - self._at(table, one.ends, f"{one.key} gap from")
            if self.may_go_dark:
                self.dark.append(gap)
            else:
                self.model.add(gap == 0)

    def _built_in(self, seat: Seat) -> None:
        """A stint for each time that it is on, the same pack in all of them."""
        day, model = self.day, self.model
        known = day.pack(seat.pack or "")
        before: Piece | None = None
        for number, (begins, ends) in enumerate(_times_on(seat)):
            name = f"{seat.key} {number}"
            used: Any = seat.used_mwh[ends] - seat.used_mwh[begins]
            stops = model.new_constant(ends)
            if self.may_go_dark:
                stops = model.new_int_var(begins, ends, f"{name} ends")
                used = self._at(seat.used_mwh, stops, f"{name} used by") - seat.used_mwh[begins]
                self.dark.append(seat.darkness[ends] - self._at(seat.darkness, stops, f"{name} lit until"))
            starts = model.new_constant(known.charge_mwh)
            if before is not None:
                starts = model.new_int_var(0, known.full_mwh, f"{name} starts")
            left = model.new_int_var(seat.keeps_mwh, known.full_mwh, f"{name} left")
            model.add(left == starts - used)
            full, one = model.new_constant(known.full_mwh), model.new_constant(1)
            piece = Piece(
                name, seat.sort, seat.rig, model.new_constant(begins), stops, one, starts, left, full, seat, number
            )
            piece.free_from = ends
            piece.of = known.key
            # It is charged in its own time, and known to be the same pack: there is nothing to choose.
            piece.before = {} if before is None else {before.key: one}
            self.pieces.append(piece)
            before = piece

    def _on_the_shelf(self, pack: PackIs) -> None:
        """A pack that is not full, in no seat yet."""
        zero, one = self.model.new_constant(0), self.model.new_constant(1)
        charge, full = self.model.new_constant(pack.charge_mwh), self.model.new_constant(pack.full_mwh)
        piece = Piece(f"shelf {pack.key}", pack.sort, "", zero, zero, one, charge, charge, full)
        piece.of = pack.key
        self.pieces.append(piece)

    # Chargers

    def _charge(self) -> None:
        """After each piece its pack may be charged once, in one of the chargers that take it."""
        day, model = self.day, self.model
        slots: dict[str, list[tuple[Any, int]]] = defaultdict(list)
        watts: list[tuple[Any, int]] = []
        for piece in self.pieces:
            able = [charger for charger in day.chargers if piece.sort in charger.gains_mwh]
            if not able or not day.powered[-1]:
                continue
            walk = 0 if piece.seat is None or piece.seat.fixed else day.rules.walk_steps
            chosen = []
            most = max(charger.gains_mwh[piece.sort] for charger in able) * day.steps
            begins = model.new_int_var(0, day.steps, f"{piece.key} charge begins")
            ends = model.new_int_var(0, day.steps, f"{piece.key} charge ends")
            lasts = model.new_int_var(0, day.steps, f"{piece.key} charge lasts")
            gain = model.new_int_var(0, most, f"{piece.key} gain")
            there = self._between(day.powered, begins, ends, f"{piece.key} mains") if 0 in day.watts else lasts
            model.add(ends == begins + lasts)
            for charger in able:
                one = model.new_bool_var(f"{piece.key} in {charger.key}")
                chosen.append(one)
                held = model.new_optional_interval_var(begins, lasts, ends, one, f"{piece.key} held {charger.key}")
                slots[charger.key].append((held, charger.slots_for(piece.sort)))
                watts.append((held, charger.watts_for(piece.sort)))
                model.add(gain <= charger.gains_mwh[piece.sort] * there).only_enforce_if(one)
                self.charges.append((piece, charger.key, one, begins, ends))
            piece.charged = model.new_bool_var(f"{piece.key} charged")
            model.add(sum(chosen) == piece.charged)
            model.add(piece.charged <= piece.here)
            model.add(gain == 0).only_enforce_if(piece.charged.negated())
            model.add(lasts == 0).only_enforce_if(piece.charged.negated())
            free_from = piece.ends if piece.free_from is None else piece.free_from
            model.add(begins >= free_from + walk).only_enforce_if(piece.charged)
            model.add(gain <= piece.full_mwh - piece.left_mwh)
            if not day.rules.part_charges and not (piece.seat is not None and piece.seat.fixed):
                model.add(gain == piece.full_mwh - piece.left_mwh).only_enforce_if(piece.charged)
            for moment in sorted(day.no_charge_from):
                model.add(begins != moment).only_enforce_if(piece.charged)
            piece.gain_mwh, piece.charge_ends = gain, ends
        for charger in day.chargers:
            if slots[charger.key]:
                intervals, demands = zip(*slots[charger.key], strict=True)
                model.add_cumulative(intervals, demands, charger.slots)
        self._within_the_mains(watts)

    def _within_the_mains(self, watts: Sequence[tuple[Any, int]]) -> None:
        """Where the mains give only so much, the rest of what they could give at most is taken already."""
        known = [one for one in self.day.watts if one]
        if not known or not watts:
            return
        most = max(*known, sum(amount for _, amount in watts))
        intervals, demands = [one for one, _ in watts], [amount for _, amount in watts]
        for step, given in enumerate(self.day.watts):
            if given and given < most:
                intervals.append(self.model.new_fixed_size_interval_var(step, 1, f"mains {step}"))
                demands.append(most - given)
        self.model.add_cumulative(intervals, demands, most)

    # Chains

    def _link(self) -> list[Any]:
        """Every stint gets its pack from the shelf, or from another stint. Gives what is taken from the shelf."""
        model = self.model
        taken: dict[str, list[Any]] = defaultdict(list)
        after: dict[str, list[Any]] = defaultdict(list)
        shelf = []
        for piece in self.pieces:
            if piece.seat is None or piece.of is not None:
                for key in piece.before:
                    self._after_charge(piece, self._of(key), None)
                continue
            for one in self.classes:
                if one.sort == piece.sort:
                    link = model.new_bool_var(f"{one.key} to {piece.key}")
                    model.add(piece.full_mwh == one.full_mwh).only_enforce_if(link)
                    taken[one.key].append(link)
                    shelf.append(link)
                    piece.before[one.key] = link
            for other in self.pieces:
                if self._may_follow(piece, other):
                    link = model.new_bool_var(f"{other.key} to {piece.key}")
                    self._after_charge(piece, other, link)
                    after[other.key].append(link)
                    piece.before[other.key] = link
                    shelf += [link] if other.seat is None else []
            model.add(sum(piece.before.values()) == piece.here)
        for one in self.classes:
            if len(taken[one.key]) > len(one.packs):
                model.add(sum(taken[one.key]) <= len(one.packs))
        for links in after.values():
            model.add_at_most_one(links)
        return shelf

    def _may_follow(self, piece: Piece, other: Piece) -> bool:
        """Whether a piece may have the pack of another."""
        if other.sort != piece.sort or other is piece or other.seat is None:
            return other.sort == piece.sort and other is not piece
        if other.seat.fixed or (other.seat is piece.seat and other.number >= piece.number):
            return False
        return self.day.rules.packs_move or other.rig == piece.rig

    def _of(self, key: str) -> Piece:
        return next(one for one in self.pieces if one.key == key)

    def _after_charge(self, piece: Piece, other: Piece, link: Any) -> None:
        """`piece` has the pack of `other`, where `link` says so; None: it always has."""
        model, walk = self.model, self.day.rules.walk_steps
        walk = 0 if piece.seat is not None and piece.seat.fixed else walk

        def say(constraint: Any, also: Any = None) -> None:
            those = [one for one in (link, also) if one is not None]
            if those:
                constraint.only_enforce_if(those)

        say(model.add(piece.starts_mwh <= other.left_mwh + other.gain_mwh))
        if len({pack.full_mwh for pack in self.day.by_sort[piece.sort]}) > 1:
            say(model.add(piece.full_mwh == other.full_mwh))
        if link is not None:
            say(model.add(other.here == 1))
            if other.seat is not None:
                say(model.add(piece.begins >= other.ends + walk))
        if other.charge_ends is not None:
            say(model.add(piece.begins >= other.charge_ends + walk), other.charged)


def _times_on(seat: Seat) -> list[tuple[int, int]]:
    """From when to when a seat takes something, without a break."""
    found: list[tuple[int, int]] = []
    for step, load in enumerate(seat.load_mwh):
        if load and found and found[-1][1] == step:
            found[-1] = (found[-1][0], step + 1)
        elif load:
            found.append((step, step + 1))
    return found


def _classes(shelf: Sequence[PackIs]) -> list[PackClass]:
    alike: dict[tuple[str, int], list[str]] = {}
    for pack in shelf:
        if pack.charge_mwh == pack.full_mwh:
            alike.setdefault((pack.sort, pack.full_mwh), []).append(pack.key)
    return [PackClass(f"full {sort} {full}", sort, full, tuple(keys)) for (sort, full), keys in alike.items()]
