"""Turns a minimal conflicting set into sentences that say who wants what."""

from collections import defaultdict
from collections.abc import Callable, Iterator, Mapping, Sequence
from typing import Literal, cast

from isotact.core.model.behaviour import Accepts, Relays
from isotact.core.model.plan import Feed, Obstacle
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.rig import Promise
from isotact.core.model.vocabulary import vocabulary
from isotact.core.model.words import Stage, told_apart
from isotact.core.planning.explaining import power_words
from isotact.core.planning.optimising.choice_model import ChoiceModel, Group
from isotact.core.planning.optimising.pins import pin_words
from isotact.core.planning.ways.candidates import Span
from isotact.core.planning.ways.feed_spans import power_ends
from isotact.core.planning.ways.requirements import Knob, Requirements
from isotact.core.telling.phrases import function_words, plain, promise_words, together


def conflict_obstacles(
    c: ChoiceModel, promise: Promise, core: list[Group], feeds: Sequence[Feed]
) -> Iterator[Obstacle]:
    """One sentence per member of `core` that is not itself a promise; `feeds` are those of the plan as it is."""
    rig, spans = c.rig, c.spans
    asked = _clashing(promise, core)
    quiet = untold(c, promise, core)
    flat = any(kind == "battery" for kind, _ in core)
    fed = {
        kind: {power_words.outlet_of(rig, spans[key[0]]) for other, key in core if other == kind}
        for kind in _AT_OUTLETS
    }
    takers = {
        kind: frozenset(power_ends(rig, spans[key[0]])[2] for other, key in core if other == kind)
        for kind in _AT_OUTLETS
    }
    beside: set[Group] = set()
    if flat:
        battery = power_words.battery(rig, core, feeds)
        yield battery
        if promise in rig.rig.lasting:
            beside = {group for group in core if _is_of_others(c, group, battery.device or "", feeds)}
    for kind, key in core:
        if (kind, key) in quiet or (kind, key) in beside:
            continue
        if kind in _AT_OUTLETS:  # one sentence for an outlet, whichever of several could hang on it
            outlet = power_words.outlet_of(rig, spans[key[0]])
            if outlet not in fed[kind]:
                continue
            fed[kind].remove(outlet)
            yield _AT_OUTLETS[kind](rig, key, spans, takers[kind], feeds)
        elif kind == "knob":
            yield _knob(rig, c.options, asked, cast(Knob, key))
        elif kind in _WORDS:
            yield _WORDS[kind](rig, key, spans)


def untold(c: ChoiceModel, promise: Promise, core: list[Group]) -> set[Group]:
    """Those of a conflict that are no reason to anybody, beside the others of it."""
    asked = _clashing(promise, core)
    flat = any(kind == "battery" for kind, _ in core)
    weak = any(kind in _AT_OUTLETS for kind, _ in core)

    def is_quiet(kind: str, key: tuple[str, ...]) -> bool:
        if kind == "knob" and not any(cast(Knob, key) in way.knobs for one in asked for way in c.options.get(one, ())):
            return True  # nobody who is asked about wants anything of it
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
        return power_words.no_feed(c.rig, key[0], c.spans) is None
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


_AT_OUTLETS: Mapping[str, Callable[..., Obstacle]] = {
    "limit": power_words.limit,
    "peak": power_words.peak,
    "electronics": power_words.electronics,
    "volts": power_words.volts,
}
"""What is said of an outlet, with all the others of which the same is said."""


def _knob(rig: ResolvedRig, options: Mapping[str, list[Requirements]], asked: list[str], knob: Knob) -> Obstacle:
    device, kind, _ = knob
    placed = rig[device]
    wants = []
    for promise in asked:
        values = {value for needs in options.get(promise, []) for value in needs.knobs.get(knob, ())}
        if values:
            names = " or ".join(sorted(_value_name(placed, knob, value) for value in values))
            wants.append(f"{_short(rig, promise)} needs {names}")
    what = "mode" if kind == "mode" else _knob_name(placed, knob)
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
        "answer": lambda: f"“{placed.prompt(key).value_name(value)}”",
    }
    return named[kind]() if kind in named else value


def _knob_name(placed: Placed, knob: Knob) -> str:
    _, kind, key = knob
    return f"“{placed.profile.setting(key).name}”" if kind == "setting" else f"answer to “{placed.prompt(key).asks}”"


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
        says = f"{rig[device].port_words(endpoint)} takes one plug; two are needed."
        return Obstacle(kind="port", device=device, says=says)
    says = f"The {end.words} of {rig[device].name} takes {end.takes} at a time; one more is needed."
    return Obstacle(kind="radio", device=device, says=says)


def _stock(rig: ResolvedRig, key: tuple[str, ...], _spans: Mapping[str, Span]) -> Obstacle:
    (cable,) = key
    count = rig.stock.get(cable, 0)
    return Obstacle(kind="stock", says=f"The bag holds {count} of “{rig.cables[cable].name}”; one more is needed.")


def _exclusive(rig: ResolvedRig, key: tuple[str, ...], _spans: Mapping[str, Span]) -> Obstacle:
    device, number = key
    group = rig[device].profile.exclusive[int(number)]
    names = together([_part_words(rig[device], ref) for ref in group])
    says = f"{rig[device].name} can use only one at a time of {names}."
    return Obstacle(kind="exclusive", device=device, says=says)


def _part_words(placed: Placed, ref: str) -> str:
    """A port with what it is used for, where only some of it is meant."""
    end, _, role = ref.partition("/")
    return f"{placed.endpoint(end).words}{f' for {plain(role)}' if role else ''}"


def _clients(rig: ResolvedRig, key: tuple[str, ...], _spans: Mapping[str, Span]) -> Obstacle:
    device, _, room = key
    clients = "one client" if room == "1" else f"{room} clients"
    says = f"{rig[device].name} serves {clients} at a time, and one more would be needed."
    return Obstacle(kind="clients", device=device, says=says)


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
    cage.sort(key=lambda placed: -placed.mass_g)
    named = ", ".join(f"{placed.name} {placed.mass_g / 1000:.2g} kg" for placed in cage[:3])
    weight, bare = rig.payload_g(placed.id for placed in cage) / 1000, sum(placed.mass_g for placed in cage) / 1000
    named += f", small parts {weight - bare:.2g} kg" if weight > bare else ""
    sits = f"in its cage sit {told_apart(weight, most)} kg: {named} and the rest."
    says = f"{rig[gimbal].name} carries {most:g} kg at most; {sits}"
    return Obstacle(kind="weight", device=gimbal, says=says if len(cage) > 3 else says.replace(" and the rest", ""))


def _fixing(rig: ResolvedRig, key: tuple[str, ...], _spans: Mapping[str, Span]) -> Obstacle:
    device, number = key
    fixing, bag = rig[device].profile.fixed_by[int(number)], rig.part_bag
    lying = sum(bag.counts[part] for part in bag.doing(fixing))
    has = f"{lying} for all that wants one" if lying else "none"
    says = f"{rig[device].name} is fixed by {fixing.words}, and the bag of small parts has {has}."
    return Obstacle(kind="stock", device=device, says=says)


def _aloft(rig: ResolvedRig, key: tuple[str, ...], _spans: Mapping[str, Span]) -> Obstacle:
    return Obstacle(kind="weight", device=key[0], says=f"{rig[key[0]].name} is not flown without its camera.")


def _order(rig: ResolvedRig, key: tuple[str, ...], spans: Mapping[str, Span]) -> Obstacle:
    span = spans[key[0]]
    one, other = rig[span.a.device].name, rig[span.b.device].name
    says = f"{one} and {other} cannot both wait for each other: what joins them here asks for each to be up first."
    return Obstacle(kind="order", says=says)


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
    "feed": power_words.feed,
    "seat": _seat,
    "payload": _payload,
    "fixing": _fixing,
    "aloft": _aloft,
    "on": power_words.nothing_on,
    "two-feeds": power_words.two_feeds,
    "order": _order,
    "dark": _dark,
    "asked": _asked,
    "sheet": _sheet,
}
