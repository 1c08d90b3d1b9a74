"""What stands in the way of a feed, or of hours, in sentences: one for each kind of constraint of the power flow."""

from collections.abc import Mapping, Sequence

from isotact.core.calc.batteries import LOW_LEFT
from isotact.core.model.behaviour import Power
from isotact.core.model.plan import Feed, Link, LinkEnd, Obstacle
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.rig import PowerPromise
from isotact.core.model.words import told_apart
from isotact.core.planning.explaining.missing_cables import too_short
from isotact.core.planning.explaining.power_remedies import could_feed
from isotact.core.planning.optimising.choice_model import Group
from isotact.core.planning.ways.candidates import Span
from isotact.core.planning.ways.feed_spans import is_power, power_ends
from isotact.core.telling.phrases import together
from isotact.core.world.circuit import circuit_of, limits_of


def outlet_of(rig: ResolvedRig, span: Span) -> LinkEnd:
    """The end of a feed from which it comes."""
    giver = power_ends(rig, span)[0]
    return span.a if span.a.device == giver else span.b


def feed(rig: ResolvedRig, key: tuple[str, ...], spans: Mapping[str, Span]) -> Obstacle:
    """A device that needs a feed has none."""
    (device,) = key
    says = no_feed(rig, device, spans) or f"{rig[device].name} needs one feed, and no other can be had."
    return Obstacle(kind="power", device=device, says=says)


def no_feed(rig: ResolvedRig, device: str, spans: Mapping[str, Span]) -> str | None:
    """Why nothing feeds a device, where it is not only that another feed is wanting."""
    name = rig[device].name
    given = [power_ends(rig, span) for span in spans.values() if is_power(span)]
    givers = [giver for giver, _ in could_feed(rig, device)]
    able = [rig[giver].name for giver in givers if rig.runs_alone(giver)]
    bays = [rig[device].port_words(port.id) for port in rig[device].profile.ports if port.is_battery_bay]
    if rig.runs_alone(device) and bays:
        return f"The battery of {name} is out for what goes into {' or '.join(bays)}, and nothing feeds it."
    if rig.runs_alone(device):
        return None
    if not givers and not any(taker == device for _, _, taker, _ in given):
        return f"{name} has no battery of its own, and nothing in this rig can feed it."
    if able and not any(taker == device and rig.runs_alone(giver) for giver, _, taker, _ in given):
        short = too_short(rig, [link for giver, link in could_feed(rig, device) if rig.runs_alone(giver)])
        why = short or f"nothing in the bag joins it with {' or '.join(dict.fromkeys(able))}"
        return f"{name} has no feed: {why}."
    return None


def _tightest(rig: ResolvedRig, span: Span, moment: bool) -> str:
    """What carries least on a feed, over the link that carries most: the outlet, the inlet or the cable, with amps."""
    giver, outlet, taker, inlet = power_ends(rig, span)
    give_a = outlet.max_a if not moment or outlet.peak_a is None else outlet.peak_a

    def parts(link: Link) -> list[tuple[float, str]]:
        at = {end.device: rig[end.device].port_words(end.endpoint) for end in link.ends}
        wires = [rig.cables[key] for key in link.stock]
        listed = [(give_a, at[giver]), (inlet.max_a, at[taker])]
        listed += [(wire.limit_of("power"), f"“{wire.name}”") for wire in wires]
        return [(limit, words) for limit, words in listed if limit is not None]

    limit, words = max(min(parts(link)) for link in span.links)
    return f"{words} carries {limit:g} A{' for a moment' if moment else ''} ({limit * outlet.min_v:.3g} W)"


def limit(
    rig: ResolvedRig,
    key: tuple[str, ...],
    spans: Mapping[str, Span],
    beside: frozenset[str] = frozenset(),
    _feeds: Sequence[Feed] = (),
) -> Obstacle:
    """More is drawn for good than outlet, inlet or cable carry; `beside`: other takers of which the same is said."""
    span = spans[key[0]]
    giver, _, taker, _ = power_ends(rig, span)
    most = _tightest(rig, span, moment=False)
    shared = _shared(rig, spans, taker, beside)
    if shared:
        draws = [(placed.name, power.draw_w) for placed, power in shared]
        says = (
            f"{most}; {together([name for name, _ in draws])} draw {sum(draw_w for _, draw_w in draws):.3g} W together."
        )
    else:
        says = f"{most}; {_hanging(rig, spans, taker)} from {rig[giver].name}."
    return Obstacle(kind="power", device=giver, says=says)


def _hanging(rig: ResolvedRig, spans: Mapping[str, Span], taker: str) -> str:
    """What a device draws with all that has no other feed than it: by name, and the sum."""
    draws = [(placed.name, power.draw_w) for placed, power in _below(rig, spans, taker)]
    total = sum(draw_w for _, draw_w in draws)
    if len(draws) == 1:
        return f"{rig[taker].name} and what hangs on it draw more"
    return f"{together([name for name, _ in draws])} draw {total:.3g} W together, with what hangs on them,"


def _shared(
    rig: ResolvedRig, spans: Mapping[str, Span], taker: str, beside: frozenset[str]
) -> list[tuple[Placed, Power]]:
    """What could hang on a device or another of which the same is said; nothing where that is no more than its own."""
    every = _below(rig, spans, taker, *beside)
    alone = [one for each in {taker, *beside} for one in _below(rig, spans, each)]
    return every if len(every) > len({placed.id for placed, _ in alone}) else []


def _below(rig: ResolvedRig, spans: Mapping[str, Span], *takers: str) -> list[tuple[Placed, Power]]:
    """Devices and all that has no other feed than them, with what each draws."""
    givers: dict[str, set[str]] = {}
    for span in spans.values():
        if is_power(span):
            giver, _, fed, _ = power_ends(rig, span)
            givers.setdefault(fed, set()).add(giver)
    below, grown = {*takers}, True
    while grown:
        more = {one for one, those in givers.items() if those <= below and not rig.runs_alone(one)} - below
        below, grown = below | more, bool(more)
    return [(rig[one], power) for one in sorted(below) if (power := rig[one].profile.power) is not None]


def peak(
    rig: ResolvedRig,
    key: tuple[str, ...],
    spans: Mapping[str, Span],
    beside: frozenset[str] = frozenset(),
    _feeds: Sequence[Feed] = (),
) -> Obstacle:
    """More is drawn for a moment than they carry; `beside` as for `limit`."""
    span = spans[key[0]]
    giver, _, taker, _ = power_ends(rig, span)
    power, most = rig[taker].profile.power, _tightest(rig, span, moment=True)
    hanging = _shared(rig, spans, taker, beside) or _below(rig, spans, taker)
    starting = [(placed.name, one.moment_w) for placed, one in hanging]
    total = sum(moment_w for _, moment_w in starting)
    says = f"{most}; {rig[taker].name} and what hangs on it ask for more when they start."
    if len(starting) > 1:
        says = f"{most}; {together([name for name, _ in starting])} ask for {total:.3g} W together when they start."
    if power is not None and power.stalling_w:
        says = f"{most}; {rig[taker].name} draws {power.moment_w + power.stalling_w:g} W while it is held at a stop."
    elif any(power.stalling_w for power in _hungry(rig, spans, taker)):
        says = f"{most}; what hangs on {rig[taker].name} asks for more while a motor is held at a stop."
    return Obstacle(kind="power", device=giver, says=says)


def _hungry(rig: ResolvedRig, spans: Mapping[str, Span], giver: str) -> list[Power]:
    """The power of what could be fed from a device."""
    takers = {
        power_ends(rig, span)[2] for span in spans.values() if is_power(span) and power_ends(rig, span)[0] == giver
    }
    return [power for taker in sorted(takers) if (power := rig[taker].profile.power) is not None]


def electronics(
    rig: ResolvedRig,
    key: tuple[str, ...],
    spans: Mapping[str, Span],
    _beside: frozenset[str] = frozenset(),
    _feeds: Sequence[Feed] = (),
) -> Obstacle:
    """Motors would hang on what stands electronics only."""
    span = spans[key[0]]
    giver, outlet, taker, _ = power_ends(rig, span)
    at = span.a if span.a.device == giver else span.b
    where = rig[giver].port_words(at.endpoint)
    says = f"{where} gives {outlet.max_a:g} A for electronics only, and motors hang on {rig[taker].name}."
    return Obstacle(kind="power", device=giver, says=says)


def volts(
    rig: ResolvedRig,
    key: tuple[str, ...],
    spans: Mapping[str, Span],
    beside: frozenset[str] = frozenset(),
    feeds: Sequence[Feed] = (),
) -> Obstacle:
    """Too few volts are left when a motor is held at the end of a charge; `feeds`: what is fed already besides."""
    span = spans[key[0]]
    giver, outlet, taker, inlet = power_ends(rig, span)
    at = span.a if span.a.device == taker else span.b
    lines = [(limits_of(rig, outlet, at, inlet, link.stock).line, link) for link in span.links]
    line, link = min(lines, key=lambda one: one[0].ohm)
    hanging = _shared(rig, spans, taker, beside) or _below(rig, spans, taker)
    lowest_v = inlet.lowest_v(outlet)
    held_w, held = max(((one.stalling_w, placed.name) for placed, one in hanging), default=(0.0, ""))
    amps = (sum(one.moment_w for _, one in hanging) + held_w) / lowest_v
    when = f"when {held} is held at a stop" if held_w else "at the most that is drawn"
    wire = f"“{rig.cables[link.cable].name}”" if link.cable else rig[taker].port_words(at.endpoint)
    says = f"{wire} loses {amps * line.ohm:.2g} V {when}"
    needs = f"{rig[taker].name} needs {line.lowest_v:g} V."
    source = circuit_of(rig).sources.get(giver)
    given_v, by = line.held_v, ""
    if given_v is None and source is not None and source.open_v:
        others = {placed.id for placed, _ in hanging}
        drawn = amps + sum(_amps(rig, spans, one) for one in feeds if one.battery == giver and one.device not in others)
        given_v = source.open_v - source.ohm * drawn
        by = f" that {rig[giver].name} gives at {100 * LOW_LEFT:.0f} % charge"
    if given_v is not None and given_v - amps * line.ohm < line.lowest_v:
        left_v = told_apart(given_v - amps * line.ohm, line.lowest_v)
        says += f": {left_v} V are left of the {given_v:.1f} V{by}, and {needs}"
    else:
        says += f", after what is lost before it, and {needs}"
    return Obstacle(kind="power", device=taker, says=says)


def _amps(rig: ResolvedRig, spans: Mapping[str, Span], feed: Feed) -> float:
    """What a device that is fed already takes at the most, by itself, of the lead that feeds it."""
    power = rig[feed.device].profile.power
    for span in spans.values():
        if power is not None and is_power(span) and any(link.id == feed.join for link in span.links):
            _, outlet, taker, inlet = power_ends(rig, span)
            if taker == feed.device:
                return power.moment_w / inlet.lowest_v(outlet)
    return 0.0


def two_feeds(rig: ResolvedRig, key: tuple[str, ...], _spans: Mapping[str, Span]) -> Obstacle:
    """Something that must not be fed twice would be."""
    says = f"{rig[key[0]].name} must not be fed at two inlets at once."
    return Obstacle(kind="power", device=key[0], says=says)


def nothing_on(rig: ResolvedRig, _key: tuple[str, ...], _spans: Mapping[str, Span]) -> Obstacle:
    """Hours of which nothing is known, for nothing is on."""
    says = "Nothing else that was promised holds" if rig.rig.routed else "Not all that has power in this rig can run"
    return Obstacle(kind="power", says=f"{says}: of what would last nothing is known.")


def battery(rig: ResolvedRig, core: list[Group], feeds: Sequence[Feed]) -> Obstacle:
    """The battery that is empty first as the plan stands; one of those that clash where the plan has none."""
    asked = [key for kind, key in core if kind == "battery"]
    promise = next(one for one in rig.rig.lasting if one.id == asked[0][0])
    lasting = [
        (feed.hours_h * wh / usable_wh, feed.device, feed.load_w)
        for feed in feeds
        if feed.battery == feed.device and feed.load_w and feed.hours_h is not None
        if (wh := rig[feed.device].lasting_wh(promise.changes)) is not None
        if (usable_wh := rig[feed.device].usable_wh)
    ]
    device = min(lasting)[1] if lasting else asked[0][1]
    says = f"The battery of {rig[device].name} does not last that long"
    if lasting:
        hours_h, _, load_w = min(lasting)
        lasts = f"{told_apart(hours_h, promise.hours_h)} h{_meanwhile(rig[device], promise)}"
        holds = f"It holds {rig[device].usable_wh:.1f} Wh usable, and {load_w:.3g} W hang on it"
        says += f": it is empty first, after {lasts}. {holds}"
    return Obstacle(kind="power", device=device, says=f"{says}.")


def _meanwhile(placed: Placed, promise: PowerPromise) -> str:
    battery = placed.profile.power.inner_battery if placed.profile.power else None
    spares = placed.device.spare_batteries
    if not promise.changes or battery is None:
        return ""
    if not battery.fitted:
        return ", and built in: it is not changed"
    if spares is not None and spares < promise.changes:
        there = "the one spare that lies there" if spares == 1 else f"the {spares} spares that lie there"
        return f" with {there}" if spares else ", and no spare lies there"
    return promise.meanwhile
