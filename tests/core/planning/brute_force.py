"""The planner's problem solved by trying everything: slow, plain, and written apart from the planner.

It reads the profiles itself, makes its own list of joins, finds paths with networkx, and tries every
choice of paths, settings and feeds. Only the price list is shared.
"""

from collections import Counter
from collections.abc import Collection, Iterator
from dataclasses import dataclass, field
from itertools import combinations, product
from typing import Any

import networkx as nx

from isotact.core.model import ResolvedRig
from isotact.core.planning.optimising import price_list

Knob = tuple[str, str, str]


@dataclass(frozen=True)
class Lead:
    """A join that could be made: two ends, the cable if any, and the pairs of roles that it serves."""

    a: tuple[str, str]
    b: tuple[str, str]
    cable: str | None
    pairs: tuple[tuple[int, int], ...]


@dataclass
class Path:
    """One way of a promise."""

    devices: tuple[str, ...]
    leads: tuple[tuple[Lead, tuple[int, int]], ...]
    knobs: dict[Knob, set[str]]
    delay_ms: float = 0
    dark: set[tuple[str, str]] = field(default_factory=set)


def role(rig: ResolvedRig, end: tuple[str, str], number: int) -> Any:
    return rig[end[0]].profile.endpoints[end[1]].roles[number]


def leads(rig: ResolvedRig) -> list[Lead]:
    found = []
    for one, other in combinations(sorted(rig.devices), 2):
        for a, b in product(rig[one].profile.endpoints.values(), rig[other].profile.endpoints.values()):
            pairs = [(i, j) for i, x in enumerate(a.roles) for j, y in enumerate(b.roles) if _talk(x, y)]
            if hasattr(a, "system") or hasattr(b, "system"):
                if pairs and getattr(a, "system", 1) == getattr(b, "system", 2) and a.part != b.part:
                    found.append(Lead((one, a.id), (other, b.id), None, tuple(pairs)))
                continue
            for key, count in rig.stock.items():
                cable = rig.cables[key]
                fits = sorted(end.connector for end in cable.ends) == sorted([a.connector, b.connector])
                media = {conductor.medium for conductor in cable.carries}
                kept = tuple((i, j) for i, j in pairs if _medium(a.roles[i]) in media)
                if count and fits and kept and _reaches(rig, (one, a.id), (other, b.id), cable.length_mm):
                    found.append(Lead((one, a.id), (other, b.id), key, kept))
    return found


STAGES = ["tilt-cage", "roll-arm", "pan-base", "handles", "off-gimbal"]
LOOP_MM = {"tilt": 300, "roll": 200, "pan": 200}


def _reaches(rig: ResolvedRig, a: tuple[str, str], b: tuple[str, str], length_mm: float) -> bool:
    """Whether a cable is long enough for the axes that it crosses; made for rigs with one gimbal and all of it on it."""
    low, high = sorted(STAGES.index(rig[end[0]].stage_of(end[1])) for end in (a, b))
    wanted = [placed.profile.carrier.loops_mm for placed in rig.devices.values() if placed.profile.carrier]
    loops = {**LOOP_MM, **wanted[0]} if wanted else {}
    return length_mm >= sum(loops.get(axis, 0) for axis in ("tilt", "roll", "pan")[low:high])


def _medium(r: Any) -> str:
    return {"control": getattr(r, "medium", ""), "video": getattr(r, "signal", ""), "power": "power"}[r.kind]


def _talk(x: Any, y: Any) -> bool:
    if x.kind != y.kind:
        return False
    if x.kind == "control":
        return x.protocol == y.protocol and {x.end, y.end} in ({"host", "device"}, {"peer"})
    if x.flow == y.flow:
        return False
    if x.kind == "video":
        return x.signal == y.signal
    out, into = (x, y) if x.flow == "out" else (y, x)
    return into.min_v <= out.min_v and out.max_v <= into.max_v


def _wants(device: str, when: Any) -> dict[Knob, set[str]]:
    knobs: dict[Knob, set[str]] = {}
    if when.mode:
        knobs[device, "mode", ""] = set(when.mode)
    for key, value in when.settings.items():
        knobs[device, "setting", key] = {value} if isinstance(value, str) else set(value)
    for key, value in when.answers.items():
        knobs[device, "answer", key] = {value}
    return knobs


def _too_old(rig: ResolvedRig, device: str, when: Any) -> bool:
    has = rig[device].device.firmware
    if when.firmware and has:
        return [int(part) for part in has.split(".")] < [int(part) for part in when.firmware.split(".")]
    return False


def paths(rig: ResolvedRig, promise: Any, joins: list[Lead]) -> Iterator[Path]:
    """Every simple path of a promise, through a graph whose nodes are (device, end, role number)."""
    graph = nx.MultiDiGraph()
    graph.add_nodes_from(["start", "goal"])
    for device, placed in rig.devices.items():
        _inside(graph, device, placed.profile, promise)
    for lead in joins:
        for i, j in lead.pairs:
            x, y = role(rig, lead.a, i), role(rig, lead.b, j)
            one, other = (
                (*lead.a, x.protocol if x.kind == "control" else x.kind),
                (
                    *lead.b,
                    y.protocol if y.kind == "control" else y.kind,
                ),
            )
            for source, target, sender in ((one, other, x), (other, one, y)):
                if x.kind == "control" or (x.kind == "video" and sender.flow == "out"):
                    graph.add_edge(source, target, lead=(lead, (i, j)), when=None, delay=0)
    if promise.kind == "power":
        return
    for edges in nx.all_simple_edge_paths(graph, "start", "goal"):
        path = _path(rig, graph, edges, promise)
        if path is not None:
            yield path


def _inside(graph: nx.MultiDiGraph, device: str, profile: Any, promise: Any) -> None:
    def node(ref: str, kind: str) -> tuple[str, str, str]:
        end, _, name = ref.partition("/")
        roles = [r for r in profile.endpoints[end].roles if r.kind == kind]
        protocol = name or (roles[0].protocol if kind == "control" else "")
        return device, end, protocol if kind == "control" else "video"

    if promise.kind == "control":
        for item in profile.emits:
            if (device, item.surface) == (promise.at.device, promise.at.surface) and promise.function in item.functions:
                graph.add_edge("start", node(item.over, "control"), when=(device, item.when), delay=0)
        for item in profile.accepts:
            if promise.function in item.functions and item.over:
                graph.add_edge(node(item.over, "control"), "goal", when=(device, item.when), delay=0)
        for item in profile.relays:
            if promise.function in item.functions:
                graph.add_edge(
                    node(item.over, "control"), node(item.to, "control"), when=(device, item.when), delay=item.delay_ms
                )
    elif promise.kind == "picture":
        for item in profile.makes if promise.of in (None, device) else ():
            graph.add_edge("start", node(item.over, "video"), when=(device, item.when), delay=item.delay_ms)
        for item in profile.passes:
            graph.add_edge(
                node(item.over, "video"), node(item.to, "video"), when=(device, item.when), delay=item.delay_ms
            )
        for item in profile.shows:
            if (device, item.screen) == (promise.at.device, promise.at.surface):
                source = "start" if item.over is None else node(item.over, "video")
                graph.add_edge(source, "goal", when=(device, item.when), delay=item.delay_ms)


def _path(rig: ResolvedRig, graph: nx.MultiDiGraph, edges: list[Any], promise: Any) -> Path | None:
    devices, used, knobs, delay = [], [], {}, 0.0
    for edge in edges:
        data = graph.edges[edge]
        delay += data["delay"]
        if data["when"] is not None:
            device, when = data["when"]
            devices.append(device)
            if _too_old(rig, device, when) or (when.licence and when.licence not in rig[device].device.licences):
                return None
            _narrow(knobs, _wants(device, when))
        else:
            used.append(data["lead"])
    if len(devices) != len(set(devices)):
        return None
    if promise.kind == "picture":
        if promise.within_ms is not None and delay > promise.within_ms:
            return None
        if not _formats(rig, used, knobs):
            return None
    if any(not allowed for allowed in knobs.values()):
        return None
    dark = set()
    if promise.kind == "picture":
        port = rig[promise.at.device].profile.surface(promise.at.surface).dark_when_used
        dark = {(promise.at.device, port)} if port else set()
    return Path(tuple(devices), tuple(used), knobs, delay, dark)


def _narrow(knobs: dict[Knob, set[str]], more: dict[Knob, set[str]]) -> None:
    for knob, allowed in more.items():
        knobs[knob] = knobs.get(knob, allowed) & allowed


def _formats(rig: ResolvedRig, used: list[Any], knobs: dict[Knob, set[str]]) -> bool:
    common: set[str] | None = None
    senders = []
    for lead, (i, j) in used:
        for end, number in ((lead.a, i), (lead.b, j)):
            r = role(rig, end, number)
            common = set(r.formats) if common is None else common & set(r.formats)
            if r.flow == "out" and r.format_setting:
                senders.append((end[0], "setting", r.format_setting))
    if common is not None and not common:
        return False
    for knob in senders:
        _narrow(knobs, {knob: common or set()})
    return True


def best(rig: ResolvedRig) -> tuple[int, int, int]:
    """The greatest weight of promises that can work, that of the hours kept beside them, and the least cost then."""
    joins = leads(rig)
    options: list[list[Any]] = []
    for promise in rig.rig.promises:
        found: list[Any] = [True] if promise.kind == "power" else list(paths(rig, promise, joins))
        options.append([None, *found])
    feeders = [(lead, pair) for lead in joins for pair in lead.pairs if role(rig, lead.a, pair[0]).kind == "power"]
    top = (0, 0, 0)
    hours = {p.id for p in rig.rig.promises if p.kind == "power"}
    for chosen in product(*options):
        kept = [p for p, path in zip(rig.rig.promises, chosen, strict=True) if path is not None]
        weight = weighed(rig, [p.id for p in kept])
        # Hours of nothing that is on are none.
        if weight < top[:2] or (kept and {p.id for p in kept} <= hours):
            continue
        cost = cheapest(rig, chosen, feeders)
        if cost is not None and (weight > top[:2] or cost < top[2]):
            top = (*weight, cost)
    return top


def weighed(rig: ResolvedRig, kept: Collection[str]) -> tuple[int, int]:
    """The weight of what works, then that of the hours, which never cost a promise that could work."""
    hours = {p.id: p.weight for p in rig.rig.promises if p.kind == "power"}
    others = {p.id: p.weight for p in rig.rig.promises if p.kind != "power"}
    return sum(others.get(key, 0) for key in kept), sum(hours.get(key, 0) for key in kept)


def cheapest(rig: ResolvedRig, chosen: tuple[Any, ...], feeders: list[Any]) -> int | None:
    """The least cost at which these paths can all be had; None when they cannot."""
    routed = [path for path in chosen if isinstance(path, Path)]
    knobs: dict[Knob, set[str]] = {}
    for path in routed:
        _narrow(knobs, path.knobs)
    if any(not allowed for allowed in knobs.values()):
        return None
    used = {device for path in routed for device in path.devices}
    flown = _flown(rig, used) - used
    costs = [_least(rig, chosen, routed, used | flown, knobs, feeders)]
    if flown and (grounded := _least(rig, chosen, routed, used, knobs, feeders)) is not None:
        costs.append(grounded + price_list.GROUNDED)
    return min((cost for cost in costs if cost is not None), default=None)


def _least(
    rig: ResolvedRig, chosen: tuple[Any, ...], routed: list[Path], used: set[str], knobs: Any, feeders: list[Any]
) -> int | None:
    """The least cost with these devices in use at the least, and what feeds them."""
    ways = {lead for path in routed for lead, _ in path.leads}
    best_cost = None
    # One feed for each at most, so of those that feed one device one or none.
    by_taker: dict[str, list[Any]] = {}
    for feeder in feeders:
        by_taker.setdefault(_taker(rig, *feeder)[0], [None]).append(feeder)
    for choice in product(*by_taker.values()):
        extra = [feeder for feeder in choice if feeder is not None]
        cost = _priced(rig, chosen, routed, used, ways, knobs, extra)
        if cost is not None and (best_cost is None or cost < best_cost):
            best_cost = cost
    return best_cost


def _priced(
    rig: ResolvedRig, chosen: Any, routed: list[Path], used: set[str], ways: set[Lead], knobs: Any, fed: Any
) -> int | None:
    made = ways | {lead for lead, _ in fed}
    if not _room(rig, made, routed) or not _served(rig, routed):
        return None
    feeds: dict[str, tuple[str, Any, Any, Lead]] = {}
    awake = set(used)
    for lead, (i, j) in fed:
        out_first = role(rig, lead.a, i).flow == "out"
        giver, taker = (lead.a, lead.b) if out_first else (lead.b, lead.a)
        outlet, inlet = (role(rig, lead.a, i), role(rig, lead.b, j))[:: 1 if out_first else -1]
        if inlet.feeds == "charge" or taker[0] in feeds:
            return None
        feeds[taker[0]] = (giver[0], outlet, inlet, lead)
        awake |= {giver[0], taker[0]}
    wanted = {knob: set(allowed) for knob, allowed in knobs.items()}
    for taker, (giver, outlet, inlet, _) in feeds.items():
        _narrow(wanted, _wants(giver, outlet.when))
        _narrow(wanted, _wants(taker, inlet.when))
        own = rig[taker].profile.power.inner_battery
        locked = [key for key, value in inlet.when.settings.items() if rig[taker].setting_now(key) != value]
        if own is None and locked:
            return None
    if any(not allowed for allowed in wanted.values()) or _fed_twice(rig, made):
        return None
    if not _powered(rig, chosen, awake, feeds) or not _wakes(rig, routed, feeds):
        return None
    if not _carried(rig, awake) or not _may_hang(rig, feeds):
        return None
    settings = _settings_cost(rig, wanted, made, awake, fed)
    if settings is None:
        return None
    return settings + _fixed_cost(rig, made, awake, routed, chosen) + _dark_cost(rig, feeds)


def _dark_cost(rig: ResolvedRig, feeds: dict[str, Any]) -> int:
    """Where battery changes are promised: what hangs on a battery that is taken out for one, and is not bridged."""
    if not any(getattr(promise, "changes", 0) for promise in rig.rig.promises):
        return 0
    batteries = {device: rig[device].profile.power.inner_battery for device in {giver for giver, *_ in feeds.values()}}
    changed = {device for device, one in batteries.items() if one is not None and one.fitted and not one.hot_swap}
    dark = [taker for taker, (giver, *_) in feeds.items() if giver in changed]
    return price_list.DARK * sum(not rig[taker].profile.power.bridges for taker in dark)


def _fed_twice(rig: ResolvedRig, made: set[Lead]) -> bool:
    """Whether something that must not be has two live feeds; made for profiles whose feeds ask for no setting."""
    takers = [
        _taker(rig, lead, pair)
        for lead in made
        for pair in lead.pairs
        if role(rig, lead.a, pair[0]).kind == "power" and not role(rig, lead.a, pair[0]).when.settings
    ]
    powers = {device: rig[device].profile.power for device, _ in takers}
    return any(
        powers[device].two_feeds == "never" and len({inlet for other, inlet in takers if other == device}) > 1
        for device, _ in takers
    )


def _room(rig: ResolvedRig, made: set[Lead], routed: list[Path]) -> bool:
    taken = Counter(end for lead in made for end in (lead.a, lead.b))
    stock = Counter(lead.cable for lead in made if lead.cable)
    dark = {port for path in routed for port in path.dark}
    ports = all(count == 1 for count in taken.values())
    return ports and not (dark & set(taken)) and all(rig.stock[key] >= count for key, count in stock.items())


def _served(rig: ResolvedRig, routed: list[Path]) -> bool:
    """Whether no server is asked by more than it has room for, whatever the socket."""
    asking: dict[tuple[str, str], set[Any]] = {}
    room = {}
    for path in routed:
        for lead, (i, j) in path.leads:
            for end, number in ((lead.a, i), (lead.b, j)):
                serves = role(rig, end, number)
                if getattr(serves, "clients", None):
                    asking.setdefault((end[0], serves.protocol), set()).add((lead, i, j))
                    room[end[0], serves.protocol] = serves.clients
    return all(len(those) <= room[server] for server, those in asking.items())


def _carried(rig: ResolvedRig, awake: set[str]) -> bool:
    """Whether no gimbal is flown empty, or with more in its cage than it carries."""
    cage = {device: placed.profile for device, placed in rig.devices.items() if placed.stage == "tilt-cage"}
    cameras = {device for device, profile in cage.items() if profile.makes}
    weight_g = sum(profile.mass_g for device, profile in cage.items() if device in awake)
    carriers = [one for device in awake if (one := rig[device].profile.carrier) is not None]
    return all(weight_g <= one.max_payload_g and (not cameras or cameras & awake) for one in carriers)


def _flown(rig: ResolvedRig, used: set[str]) -> set[str]:
    """The gimbal of a camera that is in use; made for rigs with one that has a battery of its own."""
    cameras = [device for device in used if rig[device].stage == "tilt-cage" and rig[device].profile.makes]
    return {device for device, placed in rig.devices.items() if placed.profile.carrier and cameras}


def _may_hang(rig: ResolvedRig, feeds: Any) -> bool:
    """Whether no motor hangs on what stands electronics only, at first hand or further down."""

    def motors(device: str) -> bool:
        on_it = [taker for taker, (giver, *_) in feeds.items() if giver == device]
        return rig[device].profile.motor is not None or any(motors(taker) for taker in on_it)

    return not any(outlet.good_for == "electronics" and motors(taker) for taker, (_, outlet, *_) in feeds.items())


def _fulls(rig: ResolvedRig, device: str, promise: Any) -> int:
    spares = rig[device].device.spare_batteries
    return 1 + min(promise.changes, promise.changes if spares is None else spares)


def _powered(rig: ResolvedRig, chosen: Any, awake: set[str], feeds: Any) -> bool:
    load = {}

    def load_of(device: str, seen: tuple[str, ...] = (), most: bool = False) -> float:
        if device in seen:
            return float("inf")
        power = rig[device].profile.power
        mine = (most and power.peak_w) or power.draw_w if power else 0
        fed = [taker for taker, (giver, *_) in feeds.items() if giver == device]
        return mine + sum(load_of(taker, (*seen, device), most) for taker in fed)

    def stall_of(device: str) -> float:
        power = rig[device].profile.power
        mine = max(0.0, (power.stall_w or 0) - (power.peak_w or power.draw_w)) if power else 0.0
        return max([mine, *(stall_of(taker) for taker, (giver, *_) in feeds.items() if giver == device)])

    for device in awake:
        if rig[device].profile.power is None:
            continue
        load[device] = load_of(device)
        if load[device] == float("inf"):
            return False
        if device in feeds:
            _, outlet, inlet, lead = feeds[device]
            amps = [a for a in (outlet.max_a, inlet.max_a) if a is not None]
            amps += [c.max_a for c in rig.cables[lead.cable].carries if c.medium == "power" and c.max_a]
            if load[device] > min(amps) * outlet.min_v + 1e-9:
                return False
            if _left(rig, feeds, device) < _lowest(rig, feeds, device) - 1e-6:
                return False
            amps[0] = outlet.peak_a or outlet.max_a
            if load_of(device, most=True) + stall_of(device) > min(amps) * outlet.min_v + 1e-9:
                return False
        elif rig[device].profile.power.inner_battery is None:
            return False
        else:
            own = rig[device].profile.power.inner_battery
            for promise, kept in zip(rig.rig.promises, chosen, strict=True):
                if (
                    promise.kind == "power"
                    and kept
                    and load[device] * promise.hours_h
                    > _fulls(rig, device, promise) * own.energy_wh * own.usable + 1e-9
                ):
                    return False
    return True


def _amps(rig: ResolvedRig, feeds: Any, device: str, held: bool) -> float:
    """What passes into a device at the most; `held`: only what is added by the one below that is held at its stop."""
    placed = rig[device]
    power = placed.profile.power
    _, outlet, _, _ = feeds.get(device, (None, None, None, None))
    lowest = _lowest(rig, feeds, device)
    rated = power.rated_v or (lowest + (outlet.max_v if outlet else lowest)) / 2
    most = max(power.draw_w, power.peak_w or 0)
    sort, watts = (power.held_draws, max(0.0, (power.stall_w or 0) - most)) if held else (power.draws, most)
    factor = {"power": 1 / lowest, "current": 1 / rated, "resistance": (outlet.max_v if outlet else lowest) / rated**2}
    amps = [watts * factor[sort]]
    for taker, (giver, out, _, _) in feeds.items():
        if giver == device:
            passed = _amps(rig, feeds, taker, held)
            if out.min_v == out.max_v:
                passed *= out.min_v / (out.efficiency or 0.9) / lowest
            amps.append(passed)
    return max(amps) if held else sum(amps)


def _lowest(rig: ResolvedRig, feeds: Any, device: str) -> float:
    if device in feeds:
        _, outlet, inlet, _ = feeds[device]
        nominal = 0.9 if inlet.min_v >= outlet.min_v else 1.0
        return nominal * inlet.min_v + rig.rig.energy.margin_v
    outs = [
        r for end in rig[device].profile.endpoints.values() for r in end.roles if r.kind == "power" and r.flow == "out"
    ]
    return min([r.min_v for r in outs if r.min_v != r.max_v], default=0.0) or 1e9


def could_feed(rig: ResolvedRig, lead: Lead) -> bool:
    """Whether anything could run from what is at the other end, once all is set that may be set."""
    for i, j in lead.pairs:
        one, other = (lead.a[0], role(rig, lead.a, i)), (lead.b[0], role(rig, lead.b, j))
        if one[1].kind != "power":
            continue
        taker, inlet = one if one[1].flow == "in" else other
        if inlet.feeds == "charge":
            continue
        own = rig[taker].profile.power.inner_battery
        if own or all(rig[taker].setting_now(key) == value for key, value in inlet.when.settings.items()):
            return True
    return False


def ohm_of(cable: Any) -> float:
    """Ohms of a lead there and back."""
    # 0.127 mm x 92^((36 - n) / 39), 1.7241e-8 ohm metres; two plugs of a hundredth of an ohm.
    square = 3.14159265 / 4 * (0.000127 * 92 ** ((36 - (cable.gauge_awg or 24)) / 39)) ** 2
    return float(2 * cable.length_mm / 1000 * 1.7241e-8 / square + 0.02)


def _left(rig: ResolvedRig, feeds: Any, device: str) -> float:
    """The volts at a device with a fifth of the charge left; without end where nobody knows them."""
    amps = _amps(rig, feeds, device, held=False) + _amps(rig, feeds, device, held=True)
    if device not in feeds:
        battery = rig[device].battery
        known = _lowest(rig, feeds, device) < 1e9
        return battery.rest_v(0.2) - battery.inner_ohm * amps if battery and known else float("inf")
    giver, outlet, _, lead = feeds[device]
    cable = rig.cables[lead.cable]
    ohm = ohm_of(cable)
    before = _left(rig, feeds, giver)
    if outlet.min_v == outlet.max_v:
        if before < (outlet.needs_v or 0):
            return 0.0
        before = outlet.min_v
    return before - ohm * amps


def _wakes(rig: ResolvedRig, routed: list[Path], feeds: Any) -> bool:
    order = nx.DiGraph()
    for path in routed:
        for lead, (i, j) in path.leads:
            for mine, peer, number in ((lead.a, lead.b, i), (lead.b, lead.a, j)):
                wake = getattr(role(rig, mine, number), "wake", "any")
                if wake == "peer-first":
                    order.add_edge(peer[0], mine[0])
                elif wake == "self-first":
                    order.add_edge(mine[0], peer[0])
    for taker, (giver, *_) in feeds.items():
        if rig[taker].profile.power.inner_battery is None and rig[taker].profile.wake is not None:
            order.add_edge(giver, taker)
    return nx.is_directed_acyclic_graph(order)


def _settings_cost(rig: ResolvedRig, wanted: Any, made: set[Lead], awake: set[str], fed: Any) -> int | None:
    """The cheapest values of every setting, such that no cable feeds that was not asked to."""
    chosen = {(id(lead), pair) for lead, pair in fed}
    silent = []
    for lead in made:
        for i, j in lead.pairs:
            x, y = role(rig, lead.a, i), role(rig, lead.b, j)
            if x.kind != "power" or (id(lead), (i, j)) in chosen or not {lead.a[0], lead.b[0]} <= awake:
                continue
            inlet, taker = (y, lead.b[0]) if x.flow == "out" else (x, lead.a[0])
            own = rig[taker].profile.power.inner_battery
            locked = own is None and any(
                rig[taker].setting_now(key) != value for key, value in inlet.when.settings.items()
            )
            carrying = next((one for one in fed if _taker(rig, *one)[0] == taker), None)
            outranked = carrying is not None and _rank(rig, *carrying) < _rank(rig, lead, (i, j))
            if inlet.feeds != "charge" and not locked and not outranked:
                silent.append({**_wants(lead.a[0], x.when), **_wants(lead.b[0], y.when)})
    knobs = sorted({*wanted, *(knob for gate in silent for knob in gate)})
    values = [sorted(wanted[knob]) if knob in wanted else _values(rig, knob) for knob in knobs]
    cheapest_cost = None
    for tried in product(*values):
        now = dict(zip(knobs, tried, strict=True))
        if any(all(now[knob] in allowed for knob, allowed in gate.items()) for gate in silent):
            continue
        cost = sum(_price(rig, knob, value) for knob, value in now.items())
        if cheapest_cost is None or cost < cheapest_cost:
            cheapest_cost = cost
    return cheapest_cost


def _taker(rig: ResolvedRig, lead: Lead, pair: tuple[int, int]) -> tuple[str, str]:
    return lead.b if role(rig, lead.a, pair[0]).flow == "out" else lead.a


def _rank(rig: ResolvedRig, lead: Lead, pair: tuple[int, int]) -> tuple[float, float, int]:
    """Of two live feeds the one of the higher volts carries, then the inlet that its profile names first."""
    one, other = role(rig, lead.a, pair[0]), role(rig, lead.b, pair[1])
    outlet, (device, inlet) = one if one.flow == "out" else other, _taker(rig, lead, pair)
    return -outlet.max_v, -outlet.min_v, list(rig[device].profile.endpoints).index(inlet)


def _values(rig: ResolvedRig, knob: Knob) -> list[str]:
    return [value.id for value in rig[knob[0]].profile.setting(knob[2]).values]


def _price(rig: ResolvedRig, knob: Knob, value: str) -> int:
    device, kind, key = knob
    if kind == "answer":
        return price_list.ANSWER
    now = rig[device].mode_now if kind == "mode" else rig[device].setting_now(key)
    return 0 if now == value else {"mode": price_list.MODE, "setting": price_list.SETTING}[kind]


def _fixed_cost(rig: ResolvedRig, made: set[Lead], awake: set[str], routed: list[Path], chosen: Any) -> int:
    cost = price_list.DEVICE * len(awake)
    for lead in made:
        if lead.cable is None:
            cost += price_list.RADIO
            continue
        here, there = (STAGES.index(rig[end[0]].stage_of(end[1])) for end in (lead.a, lead.b))
        cost += price_list.JOIN + price_list.AXIS * abs(here - there)
        cost += price_list.PER_100_MM * -(-int(rig.cables[lead.cable].length_mm) // 100)
        cost += price_list.THIN * int(ohm_of(rig.cables[lead.cable]) * 20) * could_feed(rig, lead)
    for promise, path in zip(rig.rig.promises, chosen, strict=True):
        if promise.kind == "picture" and path is not None:
            cost += price_list.PER_10_MS * -(-int(path.delay_ms) // 10)
    return cost
