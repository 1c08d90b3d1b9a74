"""The part of the choice that is about power: what is live, which feed carries, loads that add up, limits, hours.

It is the power flow of the world, written as constraints: see `core.power.supply`.
"""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

from isotact.core.model.rig import PowerPromise
from isotact.core.planning.choosing.model import Choosing, Group
from isotact.core.planning.choosing.solving import added
from isotact.core.planning.finding.candidates import Span
from isotact.core.planning.finding.feeds import draw_mw, is_power, limits, milliwatts, peak_mw, power_ends, stall_mw
from isotact.core.planning.finding.requirements import knobs_of
from isotact.core.world.circuit import Limits

if TYPE_CHECKING:
    from ortools.sat.python import cp_model


@dataclass(frozen=True)
class _Feed:
    """A span by which a device could be fed."""

    span: Span
    giver: str
    taker: str
    inlet: str
    by_link: dict[str, Limits]

    @property
    def key(self) -> str:
        return self.span.key

    @property
    def usual(self) -> Limits:
        return next(iter(self.by_link.values()))


@dataclass
class _Flow:
    """Something that adds up along the feeds: per device in all, per feed what passes it."""

    most: int
    total: dict[str, cp_model.LinearExpr] = field(default_factory=dict)
    over: dict[str, cp_model.LinearExpr] = field(default_factory=dict)


def add_power(c: Choosing) -> None:
    """Add the constraints of power, and with them the loads and batteries, to `c`."""
    feeds = [_feed_of(c, span) for span in c.spans.values() if is_power(span) and span.key in c.span]
    into: dict[str, list[_Feed]] = defaultdict(list)
    for feed in feeds:
        into[feed.taker].append(feed)
    for feed in feeds:
        _lives(c, feed)
    for those in into.values():
        _carries(c, those)
    powered = {device: placed for device, placed in c.rig.devices.items() if placed.profile.power}
    watts = _flow(c, feeds, {device: draw_mw(placed) for device, placed in powered.items()}, "load")
    c.load_mw = watts.total
    for feed in feeds:
        for link, most in feed.by_link.items():
            _at_most(c, ("limit", (feed.key,)), watts, feed, link, milliwatts(most.limit_w))
    _moments(c, feeds, watts)
    _electronics(c, feeds)
    in_bays = _in_bays(c)
    for device, placed in powered.items():
        own = c.model.new_bool_var(f"battery {device}")
        c.battery[device] = own
        if not c.rig.runs_alone(device):
            c.model.add(own == 0)
        for link in in_bays[device]:
            c.model.add_implication(c.link[link], own.negated())
        c.add(("feed", (device,)), added([*(c.carries[feed.key] for feed in into[device]), own]) == c.awake[device])
        for promise in c.rig.rig.lasting:
            usable_wh = placed.lasting_wh(promise.changes)
            if usable_wh is not None:
                _lasts(c, promise, device, usable_wh)


def _in_bays(c: Choosing) -> dict[str, list[str]]:
    """Device -> the links by which something would take the place of its own battery."""
    found: dict[str, list[str]] = defaultdict(list)
    bays = {
        (device, port.id)
        for device, placed in c.rig.devices.items()
        for port in placed.profile.ports
        if port.is_battery_bay
    }
    for link in c.links.values() if bays else ():
        for end in link.ends:
            if (end.device, end.endpoint) in bays:
                found[end.device].append(link.id)
    return found


def _feed_of(c: Choosing, span: Span) -> _Feed:
    giver, _, taker, _ = power_ends(c.rig, span)
    inlet = next(end.endpoint for end in (span.a, span.b) if end.device == taker)
    return _Feed(span, giver, taker, inlet, {link.id: limits(c.rig, span, link) for link in span.links})


def _lives(c: Choosing, feed: _Feed) -> None:
    """A cable that carries power is live whether it was wanted or not, unless a setting stops it."""
    _, outlet, _, inlet = power_ends(c.rig, feed.span)
    live = c.span[feed.key]
    unwanted = []
    c.model.add_bool_and(c.awake[feed.giver], c.awake[feed.taker]).only_enforce_if(live)
    for device, role in ((feed.giver, outlet), (feed.taker, inlet)):
        for knob, allowed in knobs_of(device, role.when):
            c.model.add_bool_or([live.negated(), *(c.value[knob][value] for value in allowed)])
            unwanted += [var for value, var in c.value[knob].items() if value not in allowed]
    asleep = [c.awake[device].negated() for device in (feed.giver, feed.taker)]
    for link in feed.span.links:
        c.model.add_bool_or([c.link[link.id].negated(), *asleep, *unwanted, live])


def _carries(c: Choosing, feeds: list[_Feed]) -> None:
    """Of the live feeds of one device the one of the best rank carries; at one inlet there is only one."""
    for feed in feeds:
        live = c.span[feed.key]
        better = [
            c.span[other.key]
            for other in feeds
            if other.inlet != feed.inlet and other.usual.rank < feed.usual.rank
        ]  # fmt: skip
        if not better:
            c.carries[feed.key] = live
            continue
        carries = c.carries[feed.key] = c.model.new_bool_var(f"carries {feed.key}")
        c.model.add_bool_and(live, *(other.negated() for other in better)).only_enforce_if(carries)
        c.model.add_bool_or([carries, live.negated(), *better])
    power = c.rig[feeds[0].taker].profile.power
    if power is not None and power.two_feeds == "never" and len({feed.inlet for feed in feeds}) > 1:
        c.add(("two-feeds", (feeds[0].taker,)), added(c.span[feed.key] for feed in feeds) <= 1)


def _flow(c: Choosing, feeds: list[_Feed], own: dict[str, int], name: str) -> _Flow:
    """`own` of every device that is awake, and of all that it feeds."""
    flow = _Flow(sum(own.values()))
    feeds = _passing(feeds, own)
    givers = {feed.giver for feed in feeds}
    out: dict[str, list[cp_model.LinearExpr]] = defaultdict(list)
    for device, amount in own.items():
        if device in givers:
            flow.total[device] = c.model.new_int_var(0, flow.most, f"{name} {device}")
        else:
            flow.total[device] = amount * c.awake[device]  # a leaf passes nothing on
    for feed in feeds:
        carries = c.carries[feed.key]
        if feed.taker not in givers:
            flow.over[feed.key] = own[feed.taker] * carries
        else:
            passing = c.model.new_int_var(0, flow.most, f"{name} over {feed.key}")
            c.model.add(passing == flow.total[feed.taker]).only_enforce_if(carries)
            c.model.add(passing == 0).only_enforce_if(carries.negated())
            flow.over[feed.key] = passing
        out[feed.giver].append(flow.over[feed.key])
    for device in own:
        if device in givers:
            c.model.add(flow.total[device] == own[device] * c.awake[device] + sum(out[device]))
    return flow


def _at_most(c: Choosing, group: Group, flow: _Flow, feed: _Feed, link: str, limit: int) -> None:
    if limit < flow.most and feed.key in flow.over:
        made = c.model.add(flow.over[feed.key] <= limit)
        made.only_enforce_if([c.link[link], *([c.guard(group)] if c.guarded else [])])


def _moments(c: Choosing, feeds: list[_Feed], watts: _Flow) -> None:
    """What is drawn for a moment, where anything draws more then than as a rule."""
    powered = {device: placed for device, placed in c.rig.devices.items() if placed.profile.power}
    more = {device: peak_mw(placed) - draw_mw(placed) for device, placed in powered.items()}
    held = {device: stall_mw(placed) for device, placed in powered.items()}
    if any(more.values()) or any(held.values()):
        extra, stalls = _flow(c, feeds, more, "peak"), _largest(c, feeds, held)
        over = {key: mw + extra.over.get(key, 0) + stalls.get(key, 0) for key, mw in watts.over.items()}
        peaks = _Flow(watts.most + extra.most + max(held.values()), over=over)
        for feed in feeds:
            for link, most in feed.by_link.items():
                _at_most(c, ("peak", (feed.key,)), peaks, feed, link, milliwatts(most.peak_w))


def _largest(c: Choosing, feeds: list[_Feed], own: dict[str, int]) -> dict[str, cp_model.LinearExpr]:
    """The most that one device alone asks for beyond a feed. Never less than that, and bounded by limits from above."""
    over: dict[str, cp_model.LinearExpr] = {}
    beyond = _passing(feeds, own)
    passing = {feed.key: [other for other in beyond if other.giver == feed.taker] for feed in beyond}
    for feed in beyond:
        if passing[feed.key]:
            over[feed.key] = c.model.new_int_var(0, max(own.values()), f"stall over {feed.key}")
            c.model.add(over[feed.key] >= own[feed.taker] * c.carries[feed.key])
        else:
            over[feed.key] = own[feed.taker] * c.carries[feed.key]
    for feed in beyond:
        for other in passing[feed.key]:
            c.model.add(over[feed.key] >= over[other.key]).only_enforce_if(c.carries[feed.key])
    return over


def _passing(feeds: list[_Feed], own: dict[str, int]) -> list[_Feed]:
    """The feeds over which something of `own` could pass; the rest would only be nothing in many words."""
    asking, grown = {device for device, amount in own.items() if amount}, True
    while grown:
        more = {feed.giver for feed in feeds if feed.taker in asking} - asking
        asking, grown = asking | more, bool(more)
    return [feed for feed in feeds if feed.taker in asking]


def _electronics(c: Choosing, feeds: list[_Feed]) -> None:
    """No motor hangs on an outlet that stands electronics only, alone or through anything."""
    light = [feed for feed in feeds if feed.usual.light]
    if light:
        placed = c.rig.devices
        own = {device: int(one.profile.motor is not None) for device, one in placed.items() if one.profile.power}
        motors = _flow(c, feeds, own, "motors")
        for feed in light:
            for link in feed.by_link:
                _at_most(c, ("electronics", (feed.key,)), motors, feed, link, 0)


def _lasts(c: Choosing, promise: PowerPromise, device: str, usable_wh: float) -> None:
    minutes = round(promise.hours_h * 60)
    made = c.add(("battery", (promise.id, device)), c.load_mw[device] * minutes <= int(usable_wh * 60_000))
    guard = [c.guards["battery", (promise.id, device)]] if c.guarded else []
    made.only_enforce_if([c.kept[promise.id], c.battery[device], *guard])
