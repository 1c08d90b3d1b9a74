"""Writes a solved choice down as a plan: joins with tape flags, feeds, choices, routes, cost."""

from __future__ import annotations

from collections import defaultdict
from typing import TYPE_CHECKING, Literal, cast

from isotact.core.model.plan import Choice, CostLine, Feed, Hop, Join, Link, Plan, Requisite, Route, WakePair
from isotact.core.model.ports import Port
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import STAGES
from isotact.core.wiring import costs
from isotact.core.wiring.choosing import Choosing, power_ends, power_uses, price, wake_pairs
from isotact.core.wiring.legs import endpoint_words
from isotact.core.wiring.requirements import Requirements, UseKey, knob_now
from isotact.core.wiring.routes import Way, has_look

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

Status = Literal["proven-optimal", "best-so-far", "out-of-time"]


def write_plan(
    c: Choosing, solver: cp_model.CpSolver | None, links: list[Link], status: Status, cut_short: tuple[str, ...]
) -> Plan:
    """The plan that `solver` found; an empty one when it found none."""
    weighed = sum(len(ways) for ways in c.options.values())
    if solver is None:
        return Plan(
            rig=c.rig.rig.id, status=status, joins=(), feeds=(), choices=(), routes=(), wake_order=(), unmet=(),
            cost=(), candidates=len(links), routes_weighed=weighed,
            warnings=("No plan was found in the time allowed. Take devices or cables out of the rig and try again.",),
        )  # fmt: skip
    taken = _taken_routes(c, solver)
    fed = [key for key in _power_keys(c) if solver.value(c.use[key])]
    joins = _joins(c, solver, taken, fed)
    order, warnings = _order(c, taken, fed)
    if cut_short:
        warnings.append(f"Not every way was weighed for {', '.join(cut_short)}: there are too many.")
    routes = [_route(c.rig, key, needs.way) for key, needs in taken.items()]
    routes += [
        Route(promise=promise.id, hops=())
        for promise in c.rig.rig.promises
        if promise.kind == "power" and solver.value(c.kept[promise.id])
    ]
    place = {promise.id: number for number, promise in enumerate(c.rig.rig.promises)}
    return Plan(
        rig=c.rig.rig.id,
        status=status,
        joins=tuple(joins),
        feeds=tuple(_feeds(c, solver, fed)),
        choices=tuple(_choices(c, solver, taken)),
        requisites=tuple(_requisites(taken)),
        routes=tuple(sorted(routes, key=lambda route: place[route.promise])),
        wake_order=tuple(WakePair(first=first, second=second) for first, second in order),
        unmet=(),
        cost=tuple(_cost(c, solver)),
        warnings=tuple(warnings),
        candidates=len(links),
        routes_weighed=weighed,
    )


def _taken_routes(c: Choosing, solver: cp_model.CpSolver) -> dict[str, Requirements]:
    return {
        promise: needs
        for promise, ways in c.options.items()
        for number, needs in enumerate(ways)
        if solver.value(c.route[promise, number])
    }


def _power_keys(c: Choosing) -> list[UseKey]:
    return [(link.id, number) for link, number, _ in power_uses(c.links.values())]


def _joins(c: Choosing, solver: cp_model.CpSolver, taken: dict[str, Requirements], fed: list[UseKey]) -> list[Join]:
    users: dict[UseKey, list[str]] = defaultdict(list)
    for promise, needs in taken.items():
        for key in needs.uses:
            users[key].append(promise)
    for key in fed:
        users[key] += []
    chosen = [link for link in c.links.values() if solver.value(c.link[link.id])]
    chosen.sort(key=lambda link: (link.kind != "cable", link.kind == "radio", _inmost(c.rig, link), link.id))
    joins = []
    for number, link in enumerate(chosen, start=1):
        uses = tuple(use for n, use in enumerate(link.uses) if (link.id, n) in users)
        promises = sorted({promise for n in range(len(link.uses)) for promise in users.get((link.id, n), [])})
        joins.append(
            Join(
                tag=f"{c.rig.rig.camera}{number}",
                link=link,
                family=_family(link, uses[0].kind if uses else "power"),
                carries=uses,
                promises=tuple(promises),
                avoid=tuple(look_alikes(c.rig, link)),
            )
        )
    return joins


def _inmost(rig: ResolvedRig, link: Link) -> int:
    return min(STAGES.index(rig[end.device].stage_of(end.endpoint)) for end in (link.a, link.b))


def _family(link: Link, kind: str) -> Literal["control", "video", "power", "motor-bus", "mount", "radio"]:
    if link.kind != "cable":
        return "mount" if link.kind == "direct" else "radio"
    named = "motor-bus" if kind == "bus" else kind
    return cast(Literal["control", "video", "power", "motor-bus"], named)


def look_alikes(rig: ResolvedRig, link: Link) -> list[str]:
    """Ports beside the right ones that take the same plug, in words."""
    words = []
    for end in (link.a, link.b):
        placed = rig[end.device]
        right = placed.endpoint(end.endpoint)
        if link.kind == "cable" and isinstance(right, Port):
            words += [
                f"{placed.name}: not “{other.marking}” ({other.place})"
                for other in placed.profile.ports
                if other.id != right.id and other.connector == right.connector
            ]
    return words


def _feeds(c: Choosing, solver: cp_model.CpSolver, fed: list[UseKey]) -> list[Feed]:
    source: dict[str, tuple[str | None, str | None]] = {}
    for key in fed:
        link = c.links[key[0]]
        giver, _, taker, _ = power_ends(c.rig, link, link.uses[key[1]])
        source[taker] = (giver, link.id)
    feeds = []
    for device in c.rig.devices:
        if not solver.value(c.awake[device]):
            continue
        if device not in c.load_mw:
            feeds.append(Feed(device=device, source="none-needed", load_w=0))
            continue
        root = device
        while (above := source.get(root, (None, None))[0]) is not None:
            root = above
        hours = _hours(c, solver, root)
        load = solver.value(c.load_mw[device]) / 1000
        fed_from, link_id = source.get(device, (None, None))
        kind: Literal["join", "inner-battery"] = "join" if fed_from else "inner-battery"
        feeds.append(
            Feed(
                device=device, source=kind, join=link_id, from_device=fed_from, load_w=load, hours_h=hours, battery=root
            )
        )
    return feeds


def _hours(c: Choosing, solver: cp_model.CpSolver, device: str) -> float | None:
    power = c.rig[device].profile.power
    load_w = solver.value(c.load_mw[device]) / 1000
    if power is None or power.inner_battery is None or not load_w:
        return None
    return round(power.inner_battery.energy_wh * power.inner_battery.usable / load_w, 2)


def _choices(c: Choosing, solver: cp_model.CpSolver, taken: dict[str, Requirements]) -> list[Choice]:
    wanted: dict[tuple[str, str, str], list[str]] = defaultdict(list)
    for promise, needs in taken.items():
        for knob in needs.knobs:
            wanted[knob].append(promise)
    choices = []
    for knob, values in c.value.items():
        device, kind, key = knob
        value = next((value for value, var in values.items() if solver.value(var)), None)
        now = knob_now(c.rig[device], knob)
        if value is not None and (
            knob in wanted
            or (kind != "answer" and value != now)
            or (kind == "setting" and _guards_power(c, solver, knob))
        ):
            choices.append(
                Choice(
                    device=device,
                    kind=cast(Literal["mode", "setting", "answer"], kind),
                    key=key,
                    value=value,
                    before=now,
                    promises=tuple(wanted.get(knob, [])),
                )
            )
    return choices


def _requisites(taken: dict[str, Requirements]) -> list[Requisite]:
    wanted: dict[tuple[str, Literal["firmware", "licence"], str], list[str]] = defaultdict(list)
    for promise, needs in taken.items():
        for leg in needs.way.legs:
            for when in leg.whens:
                if when.firmware is not None:
                    wanted[leg.device, "firmware", when.firmware].append(promise)
                if when.licence is not None:
                    wanted[leg.device, "licence", when.licence].append(promise)
    return [
        Requisite(device=device, kind=kind, value=value, promises=tuple(dict.fromkeys(promises)))
        for (device, kind, value), promises in sorted(wanted.items())
    ]


def _guards_power(c: Choosing, solver: cp_model.CpSolver, knob: tuple[str, str, str]) -> bool:
    """Whether this knob decides if a joined cable feeds power."""
    for link, _, use in power_uses(c.links.values()):
        if solver.value(c.link[link.id]):
            giver, outlet, taker, inlet = power_ends(c.rig, link, use)
            if (giver == knob[0] and knob[2] in outlet.when.settings) or (
                taker == knob[0] and knob[2] in inlet.when.settings
            ):
                return True
    return False


def _route(rig: ResolvedRig, promise: str, way: Way) -> Route:
    hops = []
    for number, leg in enumerate(way.legs):
        placed = rig[leg.device]
        enters = "/".join(leg.enters) if leg.enters else None
        leaves = "/".join(leg.leaves) if leg.leaves else None
        words = f"{placed.name}: {placed.profile.surface(leg.surface).name}" if leg.surface else placed.name
        hops.append(Hop(device=leg.device, enters=enters, leaves=leaves, delay_ms=leg.delay_ms, words=words))
        if number < len(way.crossings):
            crossing = way.crossings[number]
            node = (crossing.at.endpoint, leg.leaves[1] if leg.leaves else "")
            hops.append(
                Hop(device=crossing.to.device, link=crossing.link.id, words=f"out by {endpoint_words(placed, node)}")
            )
    return Route(promise=promise, hops=tuple(hops), delay_ms=way.delay_ms, look=has_look(way))


def _order(c: Choosing, taken: dict[str, Requirements], fed: list[UseKey]) -> tuple[list[tuple[str, str]], list[str]]:
    """The wake order: what the profiles insist on, then what the school prefers where they leave it open."""
    hard: list[tuple[str, str]] = []
    soft: list[tuple[str, str, str]] = []
    school = c.rig.rig.schools.wake
    for key in sorted({key for needs in taken.values() for key in needs.uses} | set(fed)):
        link = c.links[key[0]]
        use = link.uses[key[1]]
        if use.kind == "power":
            hard += wake_pairs(c.rig, link, use)
        if use.kind != "control" or link.kind == "direct":
            continue
        pairs = wake_pairs(c.rig, link, use)
        hard += pairs
        ends = ((link.a, use.role_a), (link.b, use.role_b))
        host = next((end.device for end, name in ends if _is_host(c.rig, end.device, end.endpoint, name)), None)
        if host is not None:
            pair = (host, link.far(host).device)
            soft.append((*(pair[::-1] if school == "camera-first" else pair), link.id))
    warnings = []
    order = list(dict.fromkeys(hard))
    for first, second, _ in soft:
        if (second, first) in order and school != "profile":
            warnings.append(
                f"You wake {school.replace('-', ' ')}, but {c.rig[first].name} and {c.rig[second].name} only find each "
                f"other when {c.rig[second].name} is awake first. The run sheet keeps their order."
            )
        elif (first, second) not in order and not _reaches(order, second, first):
            order.append((first, second))
    return order, list(dict.fromkeys(warnings))


def _is_host(rig: ResolvedRig, device: str, endpoint: str, role_name: str) -> bool:
    role = rig[device].role(endpoint, role_name)
    return role.kind == "control" and role.end == "host"


def _reaches(pairs: list[tuple[str, str]], start: str, goal: str) -> bool:
    ahead, seen = [start], {start}
    while ahead:
        here = ahead.pop()
        if here == goal:
            return True
        new = [second for first, second in pairs if first == here and second not in seen]
        seen.update(new)
        ahead += new
    return False


def _cost(c: Choosing, solver: cp_model.CpSolver) -> list[CostLine]:
    lines = []
    counts = price(c)
    for kind, (what, points) in costs.WORDS.items():
        count = sum(units * solver.value(var) for units, var in counts.get(kind, []))
        if count:
            lines.append(CostLine(what=what, count=count, points=points * count))
    return lines
