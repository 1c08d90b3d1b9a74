"""Turns a minimal conflicting set into sentences that say who wants what."""

from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from typing import Literal, cast

from isotact.core.model.behaviour import Accepts, Power, Relays
from isotact.core.model.plan import Feed, Link, LinkEnd, Obstacle
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.rig import PowerPromise, Promise
from isotact.core.model.vocabulary import vocabulary
from isotact.core.model.words import Stage, told_apart
from isotact.core.planning.explaining.missing_cables import too_short
from isotact.core.planning.explaining.power_remedies import could_feed
from isotact.core.planning.optimising.choice_model import ChoiceModel, Group
from isotact.core.planning.optimising.pins import pin_words
from isotact.core.planning.ways.candidates import Span
from isotact.core.planning.ways.feed_spans import is_power, power_ends
from isotact.core.planning.ways.requirements import Knob, Requirements
from isotact.core.telling.phrases import function_words, promise_words


def conflict_obstacles(
    c: ChoiceModel, promise: Promise, core: list[Group], feeds: Sequence[Feed]
) -> Iterator[Obstacle]:
    """One sentence per member of `core` that is not itself a promise; `feeds` are those of the plan as it is."""
    rig, spans = c.rig, c.spans
    asked = _clashing(promise, core)
    quiet = untold(c, promise, core)
    flat = any(kind == "battery" for kind, _ in core)
    fed = {kind: {_outlet_of(rig, spans[key[0]]) for other, key in core if other == kind} for kind in _AT_OUTLETS}
    beside: set[Group] = set()
    if flat:
        battery = _battery(rig, core, feeds)
        yield battery
        if promise in rig.rig.lasting:
            beside = {group for group in core if _is_of_others(c, group, battery.device or "", feeds)}
    for kind, key in core:
        if (kind, key) in quiet or (kind, key) in beside:
            continue
        if kind in _AT_OUTLETS:  # one sentence for an outlet, whichever of several could hang on it
            outlet = _outlet_of(rig, spans[key[0]])
            if outlet not in fed[kind]:
                continue
            fed[kind].remove(outlet)
        if kind == "knob":
            yield _knob(rig, c.options, asked, cast(Knob, key))
        elif kind in _WORDS:
            yield _WORDS[kind](rig, key, spans)


def untold(c: ChoiceModel, promise: Promise, core: list[Group]) -> set[Group]:
    """Those of a conflict that are no reason to anybody, beside the others of it."""
    asked = _clashing(promise, core)
    flat = any(kind == "battery" for kind, _ in core)
    weak = any(kind in _AT_OUTLETS for kind, _ in core)

    def is_quiet(kind: str, key: tuple[str, ...]) -> bool:
        if (kind == "feed" and flat) or (kind == "seat" and _can_sit(c.spans, key[0])):
            return True
        # Of hours the reason is the battery that is empty first; that no two share a device is why so much is on.
        if promise in c.rig.rig.lasting and (kind == "battery" or (flat and _is_between_others(c, asked, kind, key))):
            return True
        return weak and _follows(c, kind, key)

    return {(kind, key) for kind, key in core if is_quiet(kind, key)}


def _clashing(promise: Promise, core: list[Group]) -> list[str]:
    """The promise that is asked about, and those that it clashes with."""
    return [promise.id, *(key for kind, (key, *_) in core if kind == "promise")]


def _follows(c: ChoiceModel, kind: str, key: tuple[str, ...]) -> bool:
    """Whether a constraint only says that so much has to be fed: where a feed is too weak, that is the reason."""
    if kind == "feed":
        return _no_feed(c.rig, key[0], c.spans) is None
    of_motor = kind in ("knob", "port") and c.rig[key[0]].profile.motor is not None
    return of_motor or (kind == "port" and c.rig[key[0]].endpoint(key[1]).is_gear)


def _is_of_others(c: ChoiceModel, group: Group, first: str, feeds: Sequence[Feed]) -> bool:
    """Whether a constraint is about what hangs on the battery of `first`, or feeds another device than that."""
    kind, key = group
    on_it = {feed.device for feed in feeds if feed.battery == first}
    if kind in _AT_OUTLETS:
        giver, _, taker, _ = power_ends(c.rig, c.spans[key[0]])
        return giver in on_it or taker != first
    return kind == "port" and key[0] in on_it


def _is_between_others(c: ChoiceModel, asked: list[str], kind: str, key: tuple[str, ...]) -> bool:
    """Whether a constraint keeps promises apart that want something of one device each: a knob, the ring of a motor."""
    if kind == "port":
        return c.rig[key[0]].endpoint(key[1]).is_gear
    knob = cast(Knob, key)
    return kind == "knob" and sum(any(knob in way.knobs for way in c.options.get(one, ())) for one in asked) > 1


def _can_sit(spans: Mapping[str, Span], device: str) -> bool:
    """Whether something here holds it: then that it has to sit is no obstacle, only the way to one."""
    return any(span.use.is_seat and device in (span.a.device, span.b.device) for span in spans.values())


_AT_OUTLETS = ("limit", "peak", "electronics")


def _outlet_of(rig: ResolvedRig, span: Span) -> LinkEnd:
    giver = power_ends(rig, span)[0]
    return span.a if span.a.device == giver else span.b


def _knob(rig: ResolvedRig, options: Mapping[str, list[Requirements]], asked: list[str], knob: Knob) -> Obstacle:
    device, kind, _ = knob
    placed = rig[device]
    wants = []
    for promise in asked:
        values = {value for needs in options.get(promise, []) for value in needs.knobs.get(knob, ())}
        if values:
            names = " or ".join(sorted(_value_name(placed, knob, value) for value in values))
            wants.append(f"{_short(rig, promise)} needs {names}")
    what = "mode" if kind == "mode" else f"“{_knob_name(placed, knob)}”"
    says = f"{placed.name} has one {what} at a time: {', '.join(wants)}."
    taken = _taken_words(placed, knob)
    kinds: dict[str, Literal["mode", "answer", "setting"]] = {"mode": "mode", "answer": "answer"}
    obstacle = kinds.get(kind, "setting")
    return Obstacle(kind=obstacle, device=device, says=f"{says}{taken}")


def _short(rig: ResolvedRig, key: str) -> str:
    promise = next(promise for promise in rig.rig.promises if promise.id == key)
    if promise.place is None:
        return promise_words(rig, promise)
    where = rig[promise.place].name
    control = next((one for one in rig.rig.controls if one.id == key), None)
    return f"{function_words(rig, control)} from {where}" if control is not None else f"the picture on {where}"


def _value_name(placed: Placed, knob: Knob, value: str) -> str:
    _, kind, key = knob
    named = {
        "mode": lambda: f"{placed.mode_name(value)} mode",
        "setting": lambda: placed.profile.setting(key).value_name(value),
    }
    return named[kind]() if kind in named else value


def _knob_name(placed: Placed, knob: Knob) -> str:
    _, kind, key = knob
    return placed.profile.setting(key).name if kind == "setting" else key


def _taken_words(placed: Placed, knob: Knob) -> str:
    """For a mode: what the device takes over its cables in each."""
    if knob[1] != "mode" or placed.profile.modes is None:
        return ""
    by_mode: dict[str, list[str]] = defaultdict(list)
    everywhere = [value.id for value in placed.profile.modes.values]
    incoming: list[Accepts | Relays] = [*placed.profile.accepts, *placed.profile.relays]
    for taken in incoming:
        if taken.over is not None:
            for mode in taken.when.mode or everywhere:
                by_mode[mode] += [vocabulary().functions[function].name for function in taken.functions]
    parts = [
        f"in {value.name} mode it takes {', '.join(dict.fromkeys(by_mode[value.id]))}"
        for value in placed.profile.modes.values
        if by_mode[value.id]
    ]
    return f" From outside, {'; '.join(parts)}." if parts else ""


def _port(rig: ResolvedRig, key: tuple[str, ...], _spans: Mapping[str, Span]) -> Obstacle:
    device, endpoint = key
    end = rig[device].endpoint(endpoint)
    if any(role.holds for role in end.roles):
        return Obstacle(kind="port", device=device, says=f"{rig[device].name} holds one lens, and two would be needed.")
    if end.is_gear and not any(role.is_host for role in end.roles):
        return Obstacle(kind="port", device=device, says=f"One motor goes on the {end.words} of {rig[device].name}.")
    if end.is_gear:
        says = f"{rig[device].name} turns one ring, and two would have to be turned."
        return Obstacle(kind="port", device=device, says=says)
    if end.is_socket:
        says = f"{rig[device].port_words(endpoint)} takes one plug, and two would be needed."
        return Obstacle(kind="port", device=device, says=says)
    says = f"The {end.words} of {rig[device].name} takes {end.takes} at a time; one more would be needed."
    return Obstacle(kind="radio", device=device, says=says)


def _stock(rig: ResolvedRig, key: tuple[str, ...], _spans: Mapping[str, Span]) -> Obstacle:
    (cable,) = key
    count = rig.stock.get(cable, 0)
    return Obstacle(
        kind="stock", says=f"The bag holds {count} of “{rig.cables[cable].name}”; one more would be needed."
    )


def _exclusive(rig: ResolvedRig, key: tuple[str, ...], _spans: Mapping[str, Span]) -> Obstacle:
    device, number = key
    group = rig[device].profile.exclusive[int(number)]
    says = f"{rig[device].name} can use only one of {', '.join(group)} at a time."
    return Obstacle(kind="exclusive", device=device, says=says)


def _clients(rig: ResolvedRig, key: tuple[str, ...], _spans: Mapping[str, Span]) -> Obstacle:
    device, protocol, room = key
    clients = "one client" if room == "1" else f"{room} clients"
    says = f"{rig[device].name} serves {clients} at a time ({protocol}), and one more would be needed."
    return Obstacle(kind="clients", device=device, says=says)


def _feed(rig: ResolvedRig, key: tuple[str, ...], spans: Mapping[str, Span]) -> Obstacle:
    (device,) = key
    says = _no_feed(rig, device, spans) or f"{rig[device].name} needs one feed, and no other can be had."
    return Obstacle(kind="power", device=device, says=says)


def _no_feed(rig: ResolvedRig, device: str, spans: Mapping[str, Span]) -> str | None:
    """Why nothing feeds a device, where it is not only that another feed is wanting."""
    name = rig[device].name
    given = [power_ends(rig, span) for span in spans.values() if is_power(span)]
    givers = [giver for giver, _ in could_feed(rig, device)]
    able = [rig[giver].name for giver in givers if rig.runs_alone(giver)]
    bays = [rig[device].port_words(port.id) for port in rig[device].profile.ports if port.is_battery_bay]
    if rig.runs_alone(device) and bays:
        return f"The battery of {name} is out for what goes into {' or '.join(bays)}, and nothing feeds it."
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
        wires = [rig.cables[key] for key in (link.cable, link.adapter) if key]
        listed = [(give_a, at[giver]), (inlet.max_a, at[taker])]
        listed += [(wire.limit_of("power"), f"“{wire.name}”") for wire in wires]
        return [(limit, words) for limit, words in listed if limit is not None]

    limit, words = max(min(parts(link)) for link in span.links)
    return f"{words} carries {limit:g} A{' for a moment' if moment else ''} ({limit * outlet.min_v:.3g} W)"


def _limit(rig: ResolvedRig, key: tuple[str, ...], spans: Mapping[str, Span]) -> Obstacle:
    span = spans[key[0]]
    giver, _, taker, _ = power_ends(rig, span)
    most = _tightest(rig, span, moment=False)
    says = f"{most}; {rig[taker].name} and what hangs on it draw more from {rig[giver].name}."
    return Obstacle(kind="power", device=giver, says=says)


def _peak(rig: ResolvedRig, key: tuple[str, ...], spans: Mapping[str, Span]) -> Obstacle:
    span = spans[key[0]]
    giver, _, taker, _ = power_ends(rig, span)
    power, most = rig[taker].profile.power, _tightest(rig, span, moment=True)
    says = f"{most}; {rig[taker].name} and what hangs on it ask for more when they start."
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


def _electronics(rig: ResolvedRig, key: tuple[str, ...], spans: Mapping[str, Span]) -> Obstacle:
    span = spans[key[0]]
    giver, outlet, taker, _ = power_ends(rig, span)
    at = span.a if span.a.device == giver else span.b
    where = rig[giver].port_words(at.endpoint)
    says = f"{where} gives {outlet.max_a:g} A for electronics only, and motors hang on {rig[taker].name}."
    return Obstacle(kind="power", device=giver, says=says)


def _two_feeds(rig: ResolvedRig, key: tuple[str, ...], _spans: Mapping[str, Span]) -> Obstacle:
    says = f"{rig[key[0]].name} must not be fed at two inlets at once."
    return Obstacle(kind="power", device=key[0], says=says)


def _seat(rig: ResolvedRig, key: tuple[str, ...], _spans: Mapping[str, Span]) -> Obstacle:
    (device,) = key
    placed = rig[device]
    mount = placed.endpoint(placed.seat or "").shown[-1]
    others = [
        f"{other.name} has a {end.shown[-1]}"
        for other in rig.devices.values()
        for end in other.profile.endpoints.values()
        if other.id != device and any(role.holds for role in end.roles)
    ]
    says = f"{placed.name} has a {mount}, and {'; '.join(others) or 'nothing here holds a lens'}."
    return Obstacle(kind="seat", device=device, says=says)


def _payload(rig: ResolvedRig, key: tuple[str, ...], _spans: Mapping[str, Span]) -> Obstacle:
    (gimbal,) = key
    carrier = rig[gimbal].profile.carrier
    most = carrier.max_payload_g / 1000 if carrier else 0.0
    sitting = [placed for placed in rig.devices.values() if placed.stage == Stage.TILT_CAGE]
    cage = [placed for placed in sitting if not placed.profile.ballast]
    cage.sort(key=lambda placed: -placed.profile.mass_g)
    named = ", ".join(f"{placed.name} {placed.profile.mass_g / 1000:.2g} kg" for placed in cage[:3])
    weight = sum(placed.profile.mass_g for placed in cage) / 1000
    sits = f"in its cage sit {told_apart(weight, most)} kg: {named} and the rest."
    says = f"{rig[gimbal].name} carries {most:g} kg at most; {sits}"
    return Obstacle(kind="weight", device=gimbal, says=says if len(cage) > 3 else says.replace(" and the rest", ""))


def _aloft(rig: ResolvedRig, key: tuple[str, ...], _spans: Mapping[str, Span]) -> Obstacle:
    return Obstacle(kind="weight", device=key[0], says=f"{rig[key[0]].name} is not flown without its camera.")


def _on(rig: ResolvedRig, _key: tuple[str, ...], _spans: Mapping[str, Span]) -> Obstacle:
    says = "Nothing else that was promised holds" if rig.rig.routed else "Not all that has power in this rig can run"
    return Obstacle(kind="power", says=f"{says}: of what would last nothing is known.")


def _battery(rig: ResolvedRig, core: list[Group], feeds: Sequence[Feed]) -> Obstacle:
    """The battery that is empty first as the plan stands; one of those that clash where the plan has none."""
    asked = [key for kind, key in core if kind == "battery"]
    promise = next(one for one in rig.rig.lasting if one.id == asked[0][0])
    roots = [(rig[feed.device].lasting_wh(promise.changes), feed) for feed in feeds if feed.battery == feed.device]
    lasting = [(wh / feed.load_w, feed.device, feed.load_w) for wh, feed in roots if wh is not None and feed.load_w]
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


def _order(rig: ResolvedRig, key: tuple[str, ...], spans: Mapping[str, Span]) -> Obstacle:
    span = spans[key[0]]
    one, other = rig[span.a.device].name, rig[span.b.device].name
    return Obstacle(kind="order", says=f"{one} and {other} each want the other awake first, directly or in a ring.")


def _asked(rig: ResolvedRig, key: tuple[str, ...], _spans: Mapping[str, Span]) -> Obstacle:
    device, _, prompt = key
    asks = rig[device].prompt(prompt)
    says = f"{rig[device].name} asks “{asks.asks}” only with something in {rig[device].port_words(asks.joined or '')}."
    return Obstacle(kind="answer", device=device, says=says)


def _sheet(_rig: ResolvedRig, key: tuple[str, ...], _spans: Mapping[str, Span]) -> Obstacle:
    says = f"In whatever order it is built, this is not so in the end: {key[1]}"
    return Obstacle(kind="order", says=says)


def _dark(rig: ResolvedRig, key: tuple[str, ...], _spans: Mapping[str, Span]) -> Obstacle:
    device, port = key
    says = f"The screen of {rig[device].name} goes dark when {rig[device].port_words(port)} is in use."
    return Obstacle(kind="screen", device=device, says=says)


def _pin(rig: ResolvedRig, key: tuple[str, ...], _spans: Mapping[str, Span]) -> Obstacle:
    return Obstacle(kind="pin", says=f"You pinned it: {pin_words(rig, rig.rig.pins[int(key[0])])}.")


_WORDS = {
    "pin": _pin,
    "port": _port,
    "stock": _stock,
    "exclusive": _exclusive,
    "clients": _clients,
    "feed": _feed,
    "limit": _limit,
    "seat": _seat,
    "payload": _payload,
    "aloft": _aloft,
    "on": _on,
    "peak": _peak,
    "electronics": _electronics,
    "two-feeds": _two_feeds,
    "order": _order,
    "dark": _dark,
    "asked": _asked,
    "sheet": _sheet,
}
