"""The part of the choice that is about power: what is live, which feed carries, loads that add up, limits, hours.

It is the power flow of the world, written as constraints: see `core.calc.power.supply`.
"""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

from isotact.core.model.resolved import Placed
from isotact.core.model.rig import PowerPromise
from isotact.core.planning.optimising.choice_model import ChoiceModel
from isotact.core.planning.optimising.volts_left import add_volts
from isotact.core.planning.ways.feed_spans import FeedSpan, draw_mw, milliwatts, peak_mw, stall_mw
from isotact.core.planning.ways.requirements import knobs_of
from isotact.core.solver import added, weighted

if TYPE_CHECKING:
    from ortools.sat.python import cp_model


@dataclass
class _Flow:
    """Something that adds up along the feeds: per device in all, per feed what passes it and the most that could."""

    total: dict[str, cp_model.LinearExpr] = field(default_factory=dict)
    over: dict[str, cp_model.LinearExpr] = field(default_factory=dict)
    most: dict[str, int] = field(default_factory=dict)


def add_power(c: ChoiceModel) -> None:
    """Add the constraints of power, and with them the loads and batteries, to `c`."""
    feeds = [*c.feeds.values()]
    into: dict[str, list[FeedSpan]] = defaultdict(list)
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
        _at_most(c, "limit", watts, feed, {link: milliwatts(most.limit_w) for link, most in feed.by_link.items()})
    _moments(c, feeds, watts)
    _electronics(c, feeds)
    in_bays = _in_bays(c)
    for device, placed in powered.items():
        alone = c.rig.runs_alone(device)
        own = c.battery[device] = c.model.new_bool_var(f"battery {device}") if alone else c.model.new_constant(0)
        # What hangs in a bay has taken the battery's place.
        for link in in_bays[device]:
            c.model.add_implication(c.link[link], own.negated())
        # Awake is fed, and by one alone: of two that could, the rank of the feeds says which carries.
        c.add(
            ("feed", (device,)), added([*(c.carries[feed.span.key] for feed in into[device]), own]) == c.awake[device]
        )
        for promise in c.rig.rig.lasting:
            usable_wh = placed.lasting_wh(promise.changes)
            if usable_wh is not None:
                more = _recharged(c, promise, placed) if c.terms.recharged else 0
                _lasts(c, promise, device, usable_wh, more)
    add_volts(c, feeds)


def _in_bays(c: ChoiceModel) -> dict[str, list[str]]:
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


def _lives(c: ChoiceModel, feed: FeedSpan) -> None:
    """A cable that carries power is live whether it was wanted or not, unless a setting stops it."""
    live = c.span[feed.span.key]
    unwanted = []
    c.model.add_bool_and(c.awake[feed.giver], c.awake[feed.taker]).only_enforce_if(live)
    for device, role in ((feed.giver, feed.outlet), (feed.taker, feed.inlet)):
        for knob, allowed in knobs_of(device, role.when):
            c.model.add_bool_or([live.negated(), *(c.value[knob][value] for value in allowed)])
            unwanted += [var for value, var in c.value[knob].items() if value not in allowed]
    # The other way round: plugged, both awake, no setting against it, and it is live whether anybody wants it or not.
    asleep = [c.awake[device].negated() for device in (feed.giver, feed.taker)]
    for link in feed.span.links:
        c.model.add_bool_or([c.link[link.id].negated(), *asleep, *unwanted, live])


def _carries(c: ChoiceModel, feeds: list[FeedSpan]) -> None:
    """Of the live feeds of one device the one of the best rank carries; at one inlet there is only one."""
    for feed in feeds:
        live = c.span[feed.span.key]
        # At its own inlet there is one lead at most, so only one at another inlet can outbid it.
        better = [
            c.span[other.span.key]
            for other in feeds
            if other.at != feed.at and other.usual.rank < feed.usual.rank
        ]  # fmt: skip
        if not better:
            c.carries[feed.span.key] = live
            continue
        carries = c.carries[feed.span.key] = c.model.new_bool_var(f"carries {feed.span.key}")
        c.model.add_bool_and(live, *(other.negated() for other in better)).only_enforce_if(carries)
        c.model.add_bool_or([carries, live.negated(), *better])
    power = c.rig[feeds[0].taker].profile.power
    if power is not None and power.two_feeds == "never" and len({feed.at for feed in feeds}) > 1:
        c.add(("two-feeds", (feeds[0].taker,)), added(c.span[feed.span.key] for feed in feeds) <= 1)


def _flow(c: ChoiceModel, feeds: list[FeedSpan], own: dict[str, int], name: str) -> _Flow:
    """`own` of every device that is awake, and of all that it feeds."""
    flow = _Flow()
    feeds = _passing(feeds, own)
    most = _most(feeds, own)
    out: dict[str, list[cp_model.LinearExpr]] = defaultdict(list)
    givers = {feed.giver for feed in feeds}
    between = givers & {feed.taker for feed in feeds}
    for device in own:
        # Only what is fed and feeds others needs a number of its own; elsewhere the sum is written where it is used.
        if device in between:
            flow.total[device] = c.model.new_int_var(0, most[device], f"{name} {device}")
    for feed in feeds:
        key, carries = feed.span.key, c.carries[feed.span.key]
        if feed.taker not in givers:
            flow.over[key] = own[feed.taker] * carries  # a leaf passes nothing on
        else:
            passing = flow.over[key] = c.model.new_int_var(0, most[feed.taker], f"{name} over {key}")
            # Said twice, since the product of a sum and a switch is none that the solver knows.
            c.model.add(passing == flow.total[feed.taker]).only_enforce_if(carries)
            c.model.add(passing == 0).only_enforce_if(carries.negated())
        flow.most[key] = most[feed.taker]
        out[feed.giver].append(flow.over[key])
    for device, amount in own.items():
        total = amount * c.awake[device] + sum(out[device])
        if device in between:
            c.model.add(flow.total[device] == total)
        else:
            flow.total[device] = total
    return flow


def _most(feeds: list[FeedSpan], own: dict[str, int]) -> dict[str, int]:
    """The most that could add up at each device: its own, and that of all that could hang on it."""
    below: dict[str, set[str]] = {device: {device} for device in own}
    grown = True
    while grown:
        grown = False
        for feed in feeds:
            more = below[feed.taker] - below[feed.giver]
            below[feed.giver] |= more
            grown = grown or bool(more)
    return {device: sum(own[one] for one in those) for device, those in below.items()}


def _at_most(c: ChoiceModel, kind: str, flow: _Flow, feed: FeedSpan, limits: dict[str, int]) -> None:
    """Hold what passes `feed` to what its links can carry, as far as more than that could come together."""
    key = feed.span.key
    most = flow.most.get(key, 0)
    alike = len({*limits.values()}) == 1
    for link, limit in limits.items():
        # Less could never come together: then there is nothing to hold.
        if limit < most:
            made = c.add((kind, (key,)), flow.over[key] <= limit)
            # One constraint for all of them, where like leads carry as much.
            if alike:
                return
            made.only_enforce_if(c.link[link])


def _moments(c: ChoiceModel, feeds: list[FeedSpan], watts: _Flow) -> None:
    """What is drawn for a moment, where anything draws more then than as a rule."""
    powered = {device: placed for device, placed in c.rig.devices.items() if placed.profile.power}
    more = {device: peak_mw(placed) - draw_mw(placed) for device, placed in powered.items()}
    held = {device: stall_mw(placed) for device, placed in powered.items()}
    # Most rigs draw no more for a moment than as a rule, and are spared a second flow.
    if not any(more.values()) and not any(held.values()):
        return
    extra, stalls = _flow(c, feeds, more, "peak"), _largest(c, feeds, held)
    peaks = _Flow()
    for feed in feeds:
        key = feed.span.key
        if key in watts.over:
            peaks.over[key] = watts.over[key] + extra.over.get(key, 0) + stalls.over.get(key, 0)
            peaks.most[key] = watts.most[key] + extra.most.get(key, 0) + stalls.most.get(key, 0)
    for feed in feeds:
        _at_most(c, "peak", peaks, feed, {link: milliwatts(most.peak_w) for link, most in feed.by_link.items()})


def _largest(c: ChoiceModel, feeds: list[FeedSpan], own: dict[str, int]) -> _Flow:
    """The most that one device alone asks for beyond a feed. Never less than that, and bounded by limits from above."""
    flow = _Flow()
    beyond = _passing(feeds, own)
    passing = {feed.span.key: [other for other in beyond if other.giver == feed.taker] for feed in beyond}
    for feed in beyond:
        key = feed.span.key
        flow.most[key] = max(own.values())
        if passing[key]:
            flow.over[key] = c.model.new_int_var(0, flow.most[key], f"stall over {key}")
            # From below only: nothing is won by a greater number, and the limits press from above.
            c.model.add(flow.over[key] >= own[feed.taker] * c.carries[key])
        else:
            flow.over[key] = own[feed.taker] * c.carries[key]
    for feed in beyond:
        key = feed.span.key
        for other in passing[key]:
            c.model.add(flow.over[key] >= flow.over[other.span.key]).only_enforce_if(c.carries[key])
    return flow


def _passing(feeds: list[FeedSpan], own: dict[str, int]) -> list[FeedSpan]:
    """The feeds over which something of `own` could pass; the rest would only be nothing in many words."""
    asking, grown = {device for device, amount in own.items() if amount}, True
    while grown:
        more = {feed.giver for feed in feeds if feed.taker in asking} - asking
        asking, grown = asking | more, bool(more)
    return [feed for feed in feeds if feed.taker in asking]


def _electronics(c: ChoiceModel, feeds: list[FeedSpan]) -> None:
    """No motor hangs on an outlet that stands electronics only, alone or through anything."""
    light = [feed for feed in feeds if feed.usual.light]
    if light:
        placed = c.rig.devices
        own = {device: int(one.profile.motor is not None) for device, one in placed.items() if one.profile.power}
        motors = _flow(c, feeds, own, "motors")
        for feed in light:
            # A limit of nothing at all: not one motor.
            _at_most(c, "electronics", motors, feed, dict.fromkeys(feed.by_link, 0))


MILLIWATT_MINUTES = 60_000
"""So many in a watt hour."""
# Who is to change a battery more often than that, or to bring more of them, wants another feed.
MOST_CHANGES = 3


def _recharged(c: ChoiceModel, promise: PowerPromise, placed: Placed) -> cp_model.LinearExpr | int:
    """What a battery gives besides, in milliwatt minutes, once it is charged first, changed more often, or brought."""
    battery = placed.profile.power.inner_battery if placed.profile.power else None
    full_wh = placed.full_wh
    if battery is None or full_wh is None:
        return 0
    model, device = c.model, placed.id
    gains: list[tuple[int, cp_model.IntVar]] = []
    if (lacks_wh := full_wh - (placed.usable_wh or full_wh)) > 0:
        if device not in c.charged:
            c.charged[device] = model.new_bool_var(f"charge {device}")
        gains.append((int(lacks_wh * MILLIWATT_MINUTES), c.charged[device]))
    if battery.fitted:
        most = max(promise.changes, MOST_CHANGES)
        if promise.id not in c.allowed:
            c.allowed[promise.id] = model.new_int_var(0, most - promise.changes, f"changes {promise.id}")
        known = placed.device.spare_batteries
        lying = promise.changes if known is None else min(promise.changes, known)
        put_in = model.new_int_var(0, most - lying, f"put in {promise.id} {device}")
        model.add(put_in <= c.allowed[promise.id] + (promise.changes - lying))
        if known is not None:
            if device not in c.spare:
                c.spare[device] = model.new_int_var(0, MOST_CHANGES, f"spare {device}")
            model.add(put_in <= c.spare[device] + (known - lying))
        gains.append((int(full_wh * MILLIWATT_MINUTES), put_in))
    return weighted(gains)


def _lasts(
    c: ChoiceModel, promise: PowerPromise, device: str, usable_wh: float, more: cp_model.LinearExpr | int
) -> None:
    # Whole numbers, since the solver knows no others.
    minutes = round(promise.hours_h * 60)
    lasting = int(usable_wh * MILLIWATT_MINUTES) + more
    made = c.add(("battery", (promise.id, device)), c.load_mw[device] * minutes <= lasting)
    guard = [c.guards["battery", (promise.id, device)]] if c.guarded else []
    made.only_enforce_if([c.kept[promise.id], c.battery[device], *guard])
