"""The part of the choice that is about volts: nobody browns out when motors are held at the end of a charge.

It is `core.calc.brown_out` written as constraints. Most rigs have leads so thick that no choice could brown out, and
are spared all of it.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from math import ceil, floor, inf, prod
from typing import TYPE_CHECKING

from isotact.core.calc.brown_out import taken_a
from isotact.core.calc.loads import Line, Load
from isotact.core.planning.optimising.choice_model import ChoiceModel
from isotact.core.planning.ways.feed_spans import FeedSpan
from isotact.core.world.circuit import circuit_of

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

MILLI = 1000
"""The solver knows whole numbers only: milliamps, millivolts."""
FINE_OHM = 10_000
"""Ohms in tenths of a milliohm: a short thick lead has some tens of milliohms."""
MOST_V = 100
"""More than any battery has: no limit at all."""


@dataclass
class _Amps:
    """What each device takes from each feed, and what it and all below could take in all, in amps."""

    loads: Mapping[str, Load]
    most: dict[str, float] = field(default_factory=dict)

    def taken(self, device: str, line: Line) -> float:
        load = self.loads[device]
        return taken_a(load.moment_w, load.draws, load.rated_v, line.lowest_v, line.highest_v)

    def held(self, device: str, line: Line) -> float:
        load = self.loads[device]
        return taken_a(load.stall_w, load.held_draws, load.rated_v, line.lowest_v, line.highest_v)


def add_volts(c: ChoiceModel, feeds: Sequence[FeedSpan]) -> None:
    """Add what keeps every device at its lowest volts or above, where some choice could leave it fewer."""
    circuit = circuit_of(c.rig)
    floors = {feed.giver: 0.0 for feed in feeds} | {one: source.floor_v for one, source in circuit.sources.items()}
    lowest = _lowest(feeds, floors)
    amps = _Amps(circuit.loads)
    amps.most = _most(c, feeds, amps, lowest)
    if not _could_be_short(c, feeds, amps.most):
        return
    devices = list(amps.most)
    # Twice as much as could come together: what is rounded up on the way must find room as well.
    upper = {one: 2 * _milli(amps.most[one]) + len(devices) for one in devices}
    total = {one: c.model.new_int_var(0, upper[one], f"amps {one}") for one in devices}
    held = {one: c.model.new_int_var(0, upper[one], f"held amps {one}") for one in devices}
    volts = {one: c.model.new_int_var(0, MOST_V * MILLI, f"volts {one}") for one in devices}
    drawn: dict[str, list[cp_model.LinearExpr]] = defaultdict(list)
    for feed in feeds:
        carries, line = c.carries[feed.span.key], feed.usual.line
        drawn[feed.taker].append(_milli(amps.taken(feed.taker, line)) * carries)
        c.model.add(held[feed.taker] >= _milli(amps.held(feed.taker, line)) * carries)
        passing = c.model.new_int_var(0, upper[feed.giver], f"amps over {feed.span.key}")
        _passes(c, feed, (total[feed.taker], passing), (held[feed.taker], held[feed.giver]), lowest[feed.giver])
        drawn[feed.giver].append(passing)
        _drops(c, feed, total, held, volts)
    for device in devices:
        own, source = c.battery.get(device), circuit.sources.get(device)
        if own is not None and source is not None and source.open_v:
            line = Line(0.0, source.floor_v, source.floor_v)
            drawn[device].append(_milli(amps.taken(device, line)) * own)
            lost = round(source.ohm * FINE_OHM) * (total[device] + held[device])
            brought = floor(source.open_v * MILLI) * FINE_OHM
            c.model.add(volts[device] * FINE_OHM <= brought - lost).only_enforce_if(own)
        c.model.add(total[device] >= sum(drawn[device]))


def _passes(
    c: ChoiceModel,
    feed: FeedSpan,
    total: tuple[cp_model.IntVar, cp_model.IntVar],
    held: tuple[cp_model.IntVar, cp_model.IntVar],
    before_v: float,
) -> None:
    """What a device and all below it take (the first of each pair) is taken of its giver (the second)."""
    # Thousandths of the share, rounded up: no amps are lost by rounding.
    share = ceil(_share(feed.usual.line, before_v) * MILLI)
    for below, above in (total, held):
        c.model.add(above * MILLI >= share * below).only_enforce_if(c.carries[feed.span.key])


def _share(line: Line, before_v: float) -> float:
    """Amps before an outlet for each amp behind it: other ones, where it holds its volts."""
    if line.held_v is None:
        return 1.0
    return line.held_v / line.efficiency / before_v if before_v else 0.0


def _drops(
    c: ChoiceModel,
    feed: FeedSpan,
    total: Mapping[str, cp_model.IntVar],
    held: Mapping[str, cp_model.IntVar],
    volts: Mapping[str, cp_model.IntVar],
) -> None:
    """Volts at the end of a feed, by the link that is chosen, and what they must be at least."""
    key, carries = feed.span.key, c.carries[feed.span.key]
    amps = total[feed.taker] + held[feed.taker]
    for link, most in feed.by_link.items():
        line = most.line
        before = volts[feed.giver] if line.held_v is None else floor(line.held_v * MILLI)
        lost = round(line.ohm * FINE_OHM)
        left = c.model.add(volts[feed.taker] * FINE_OHM <= before * FINE_OHM - lost * amps)
        left.only_enforce_if([carries, c.link[link]])
    line = feed.usual.line
    c.add(("volts", (key,)), volts[feed.taker] >= _milli(line.lowest_v)).only_enforce_if(carries)
    if line.needs_v:
        c.add(("volts", (key,)), volts[feed.giver] >= _milli(line.needs_v)).only_enforce_if(carries)


def _most(c: ChoiceModel, feeds: Sequence[FeedSpan], amps: _Amps, lowest: Mapping[str, float]) -> dict[str, float]:
    """What each device and all that could hang on it take, however it is chosen."""
    below: dict[str, set[str]] = defaultdict(set)
    own = {one: 0.0 for feed in feeds for one in (feed.giver, feed.taker)}
    stepped_up = dict.fromkeys(own, 1.0)
    for feed in feeds:
        line = feed.usual.line
        below[feed.giver].add(feed.taker)
        own[feed.taker] = max(own[feed.taker], amps.taken(feed.taker, line) + amps.held(feed.taker, line))
        stepped_up[feed.taker] = max(stepped_up[feed.taker], _share(line, lowest[feed.giver]))
    for device, source in circuit_of(c.rig).sources.items():
        if device in own and source.floor_v:
            own[device] = max(own[device], amps.taken(device, Line(0.0, source.floor_v, source.floor_v)))
    grown = True
    while grown:
        grown = False
        for those in list(below.values()):
            more = set().union(*(below.get(one, ()) for one in those)) - those
            those |= more
            grown = grown or bool(more)
    # Outlets that give more volts than they take in are few, and each passes on what hangs on all that follow.
    every = prod(stepped_up.values())
    return {device: every * sum(own[one] for one in {device, *below.get(device, ())}) for device in own}


def _could_be_short(c: ChoiceModel, feeds: Sequence[FeedSpan], most: Mapping[str, float]) -> bool:
    """Whether any choice at all could leave a device too few volts: by what could come together at the worst."""
    volts = dict.fromkeys(most, inf)
    for device, source in circuit_of(c.rig).sources.items():
        if device in most and source.open_v:
            volts[device] = source.open_v - source.ohm * most[device]
    for _ in most:
        for feed in feeds:
            for limits in feed.by_link.values():
                line = limits.line
                before_v = volts[feed.giver] if line.held_v is None else line.held_v
                amps = min(most[feed.taker], limits.peak_w / line.lowest_v)
                volts[feed.taker] = min(volts[feed.taker], before_v - line.ohm * amps)
    return any(
        volts[feed.taker] < feed.usual.line.lowest_v or volts[feed.giver] < feed.usual.line.needs_v for feed in feeds
    )


def _lowest(feeds: Sequence[FeedSpan], floors: Mapping[str, float]) -> dict[str, float]:
    """The fewest volts at which each device could run: there it takes most amps of what is before it."""
    found = {device: floor_v for device, floor_v in floors.items() if floor_v}
    for feed in feeds:
        found[feed.taker] = min(found.get(feed.taker, inf), feed.usual.line.lowest_v)
    return {device: found.get(device, 0.0) for device in {*floors, *found}}


def _milli(amount: float) -> int:
    """In thousandths, rounded up."""
    # A millionth less, so that what comes out of a sum of floats a hair above a whole number is that number.
    return ceil(amount * MILLI - 1e-6)
