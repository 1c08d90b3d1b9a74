"""Writes a solved choice down as a plan: joins with tape flags, feeds, choices, routes, cost."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from typing import TYPE_CHECKING, Literal, cast

from isotact.core.calc.power import hours
from isotact.core.model.needed_pictures import merged, needing
from isotact.core.model.plan import Choice, CostLine, Feed, Join, Link, LinkEnd, Plan, Requisite, Route, WakePair
from isotact.core.model.ports import Endpoint, Port
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import STAGES
from isotact.core.planning.channels import channels_of
from isotact.core.planning.maybes import maybes_of, not_needed
from isotact.core.planning.optimising import price_list
from isotact.core.planning.optimising.choice_model import ChoiceModel
from isotact.core.planning.optimising.constraints import wake_pairs
from isotact.core.planning.optimising.objective import price
from isotact.core.planning.optimising.path_flow import taken as way_walked
from isotact.core.planning.optimising.pins import pin_answers
from isotact.core.planning.plan_warnings import Choices, warnings_of
from isotact.core.planning.routes import route_of
from isotact.core.planning.tape_flags import tags_of
from isotact.core.planning.ways.candidates import Span
from isotact.core.planning.ways.feed_spans import is_power, power_ends
from isotact.core.planning.ways.requirements import Requirements, by_motor, knob_now
from isotact.core.solver import weighted

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

Family = Literal["control", "video", "power", "motor-bus", "mount", "radio"]
Status = Literal["proven-optimal", "best-so-far", "out-of-time"]


def write_plan(c: ChoiceModel, solver: cp_model.CpSolver | None, links: list[Link], status: Status) -> Plan:
    """The plan that `solver` found; an empty one when it found none."""
    # How many ways there were tells a reader whether the choice was one at all.
    weighed = sum(len(ways) for ways in c.options.values())
    if solver is None:
        return Plan(
            rig=c.rig.rig.id, status=status, joins=(), feeds=(), choices=(), routes=(), wake_order=(), unmet=(),
            cost=(), candidates=len(links), routes_weighed=weighed,
            warnings=("No plan was found in the time allowed. Take devices or cables out of the rig and try again.",),
        )  # fmt: skip
    taken = taken_routes(c, solver)
    fed = [key for key, var in c.carries.items() if solver.value(var)]
    chosen = {link.id for link in c.links.values() if solver.value(c.link[link.id])}
    joins = _joins(c, chosen, taken, fed)
    order, warnings = _order(c, taken, fed, _too_weak(c, solver, chosen))
    in_use = [device for device, var in c.awake.items() if solver.value(var)]
    on_ways = {device for needs in taken.values() for device in needs.way.devices}
    by_body = [one.id for one in c.rig.rig.controls if one.function == "focus" and one.id in taken]
    by_body = [key for key in by_body if len(taken[key].way.legs) > 1 and not by_motor(c.rig, taken[key].way)]
    warnings += warnings_of(Choices(c.rig, joins, in_use, on_ways, links, tuple(by_body)))
    routes = merged([route_of(c.rig, key, needs, chosen) for key, needs in taken.items()], needing(c.rig))
    # Hours lead nowhere: they hold or they do not.
    routes += [Route(promise=promise.id, hops=()) for promise in c.rig.rig.lasting if solver.value(c.kept[promise.id])]
    place = {promise.id: number for number, promise in enumerate(c.rig.rig.promises)}
    kept = {route.promise for route in routes}
    warnings += not_needed(c.rig, kept)
    return Plan(
        rig=c.rig.rig.id,
        status=status,
        joins=tuple(joins),
        feeds=tuple(_feeds(c, solver, chosen, fed)),
        choices=tuple(_choices(c, solver, taken)),
        requisites=tuple(_requisites(taken, needing(c.rig))),
        routes=tuple(sorted(routes, key=lambda route: place[route.promise])),
        wake_order=tuple(WakePair(first=first, second=second) for first, second in order),
        unmet=(),
        maybe=tuple(maybes_of(c.rig, kept, in_use)),
        cost=tuple(_cost(c, solver)),
        warnings=tuple(warnings),
        pins=tuple(pin_answers(c, [solver.value(var) for var in c.obeyed], links)),
        candidates=len(links),
        routes_weighed=weighed,
    )


def taken_routes(c: ChoiceModel, solver: cp_model.CpSolver) -> dict[str, Requirements]:
    """Promise -> the route that the solver took for it; promises that it dropped are not there."""
    walked = {promise: way_walked(c, path, solver) for promise, path in c.paths.items()}
    listed = {promise: c.options[promise][number] for (promise, number), var in c.route.items() if solver.value(var)}
    return listed | {promise: needs for promise, needs in walked.items() if needs is not None}


def _joins(c: ChoiceModel, chosen: set[str], taken: dict[str, Requirements], fed: list[str]) -> list[Join]:
    # A picture that a screen control needs is nobody's promise: what lies on its way belongs to that control.
    users: dict[str, list[str]] = defaultdict(list)
    owner = needing(c.rig)
    for promise, needs in taken.items():
        for key in needs.spans:
            users[key].append(owner.get(promise, promise))
    carries: dict[str, list[Span]] = defaultdict(list)
    for span in c.spans.values():
        for link in span.links:
            # A lead may be able to carry what nobody asked of it: that is no part of what it is laid for.
            if link.id in chosen and (span.key in users or span.key in fed or span.use.is_seat):
                carries[link.id].append(span)
    links = [c.links[key] for key in chosen]
    # Flags count in the order of the build: cables first, from the cage outwards, then what mates, radios last.
    links.sort(key=lambda link: (not link.is_cable, link.is_radio, _inmost(c.rig, link), link.id))
    # All at once, since a number given before is kept and none is given twice.
    tags = tags_of(c.rig.rig, links)
    channels = channels_of(c.rig, links)
    joins = []
    for link in links:
        spans = carries[link.id]
        uses = tuple(use for use in link.uses if any(span.use == use for span in spans))
        joins.append(
            Join(
                tag=tags[link.lead or link.id],
                link=link,
                family=_family(c.rig, link, uses[0].kind if uses else "power"),
                carries=uses,
                promises=tuple(sorted({promise for span in spans for promise in users.get(span.key, [])})),
                avoid=tuple(look_alikes(c.rig, link)),
                beside=tuple(LinkEnd(device=end.device, endpoint=port.id) for end, port in wrong_ports(c.rig, link)),
                channel=channels.get(link.id),
            )
        )
    return joins


def _inmost(rig: ResolvedRig, link: Link) -> int:
    return min(STAGES.index(rig[end.device].stage_of(end.endpoint)) for end in (link.a, link.b))


def _family(rig: ResolvedRig, link: Link, kind: str) -> Family:
    if link.is_radio:
        return "radio"
    if link.is_direct and not is_captive(rig, link):
        return "mount"
    if link.cable:
        return rig.cables[link.cable].family
    named = "motor-bus" if kind == "bus" else kind
    return cast(Family, named)


def is_captive(rig: ResolvedRig, link: Link) -> bool:
    """Whether one end is a lead that is part of its device."""
    return any(rig[end.device].endpoint(end.endpoint).lead_mm is not None for end in link.ends)


def look_alikes(rig: ResolvedRig, link: Link) -> list[str]:
    """Ports beside the right ones that take the same plug, in words."""
    return [
        f"{rig[end.device].name}: not “{other.marking}” ({other.place}){_because(other)}"
        for end, other in wrong_ports(rig, link)
    ]


def wrong_ports(rig: ResolvedRig, link: Link) -> list[tuple[LinkEnd, Port]]:
    """Each end of a link with a port beside it that takes the same plug, and does something else."""
    return [
        (end, other)
        for end in (link.ends if link.is_cable else ())
        for other in rig[end.device].profile.ports
        # Of two sockets that do the same neither is wrong, however much they look alike.
        if (right := rig[end.device].endpoint(end.endpoint)).looks_like(other) and not _does_the_same(right, other)
    ]


def _because(port: Port) -> str:
    """What a look-alike is good for, in the first sentence that its profile says of it."""
    if not port.note:
        return ""
    first = port.note.partition(". ")[0].rstrip(".")
    return f": {first[0].lower()}{first[1:]}"


def _does_the_same(one: Endpoint, other: Endpoint) -> bool:
    """Whether it makes no difference into which of two look-alikes a plug goes."""
    return (one.roles, one.own_stage, one.gates) == (other.roles, other.own_stage, other.gates)


def _feeds(c: ChoiceModel, solver: cp_model.CpSolver, chosen: set[str], fed: list[str]) -> list[Feed]:
    source: dict[str, tuple[str | None, str | None]] = {}
    for key in fed:
        giver, _, taker, _ = power_ends(c.rig, c.spans[key])
        # One feed carries each device: which of its leads is live is the solver's to say, and the bench's to check.
        source[taker] = (giver, next(link.id for link in c.spans[key].links if link.id in chosen))
    feeds = []
    for device in c.rig.devices:
        if not solver.value(c.awake[device]):
            continue
        if device not in c.load_mw:
            feeds.append(Feed(device=device, source="none-needed", load_w=0))
            continue
        # Hours are those of the battery at the root: what lies between gives on what it gets.
        root = device
        while (above := source.get(root, (None, None))[0]) is not None:
            root = above
        hours = _hours(c, solver, root)
        # The model counts in whole milliwatts, so that no rounding makes a feed carry a little too much.
        load = solver.value(c.load_mw[device]) / 1000
        fed_from, link_id = source.get(device, (None, None))
        kind: Literal["join", "inner-battery"] = "join" if fed_from else "inner-battery"
        feeds.append(
            Feed(
                device=device, source=kind, join=link_id, from_device=fed_from, load_w=load, hours_h=hours, battery=root
            )
        )
    return feeds


def _hours(c: ChoiceModel, solver: cp_model.CpSolver, device: str) -> float | None:
    usable = c.rig[device].usable_wh
    load_w = solver.value(c.load_mw[device]) / 1000
    return round(hours(usable, load_w), 2) if usable is not None and load_w else None


def _choices(c: ChoiceModel, solver: cp_model.CpSolver, taken: dict[str, Requirements]) -> list[Choice]:
    wanted: dict[tuple[str, str, str], list[str]] = defaultdict(list)
    owner = needing(c.rig)
    for promise, needs in taken.items():
        for knob in needs.knobs:
            wanted[knob].append(owner.get(promise, promise))
    choices = []
    for knob, values in c.value.items():
        device, kind, key = knob
        value = next((value for value, var in values.items() if solver.value(var)), None)
        now = knob_now(c.rig[device], knob)
        if value is not None and (
            # Said are what a way needs, what is other than it stands now, and what decides whether a lead feeds: a
            # prompt that nobody waits for is answered when it comes, or not at all.
            knob in wanted
            or (kind != "answer" and value != now)
            or (kind == "setting" and _guards_power(c, solver, knob))
        ):
            choices.append(
                Choice(
                    device=device,
                    kind=kind,
                    key=key,
                    value=value,
                    before=now,
                    promises=tuple(dict.fromkeys(wanted.get(knob, []))),
                )
            )
    return choices


def _requisites(taken: dict[str, Requirements], owner: dict[str, str]) -> list[Requisite]:
    # Loaded on prep day at the latest, so they stand apart from what is set on the rig itself.
    wanted: dict[tuple[str, Literal["firmware", "licence"], str], list[str]] = defaultdict(list)
    for promise, needs in taken.items():
        for leg in needs.way.legs:
            for when in leg.whens:
                if when.firmware is not None:
                    wanted[leg.device, "firmware", when.firmware].append(owner.get(promise, promise))
                if when.licence is not None:
                    wanted[leg.device, "licence", when.licence].append(owner.get(promise, promise))
    return [
        Requisite(device=device, kind=kind, value=value, promises=tuple(dict.fromkeys(promises)))
        for (device, kind, value), promises in sorted(wanted.items())
    ]


def _guards_power(c: ChoiceModel, solver: cp_model.CpSolver, knob: tuple[str, str, str]) -> bool:
    """Whether this knob decides if a joined cable feeds power."""
    for key in c.span:
        span = c.spans[key]
        if is_power(span) and any(solver.value(c.link[link.id]) for link in span.links):
            giver, outlet, taker, inlet = power_ends(c.rig, span)
            if (giver == knob[0] and knob[2] in outlet.when.settings) or (
                taker == knob[0] and knob[2] in inlet.when.settings
            ):
                return True
    return False


def _too_weak(c: ChoiceModel, solver: cp_model.CpSolver, chosen: set[str]) -> list[tuple[str, str]]:
    """What wakes with its feed, and whoever gives besides by a lead that is in before it wakes and could not carry it.

    Woken the other way round the device would start on that lead, brown out, start over. Common practice, no source.
    """
    found = []
    for key, carries in c.carries.items():
        feed = c.feeds[key]
        span, giver, taker = feed.span, feed.giver, feed.taker
        wake = c.rig[taker].profile.wake
        if solver.value(carries) or not solver.value(c.span[key]) or wake is None or not wake.with_feed:
            continue
        at = span.a if span.a.device == giver else span.b
        most = next(most for link, most in feed.by_link.items() if link in chosen)
        weak = most.light or 1000 * most.limit_w < solver.value(c.load_mw[taker])
        if weak and any(role.notices_at_boot for role in c.rig[giver].endpoint(at.endpoint).roles):
            found.append((taker, giver))
    return found


def _order(
    c: ChoiceModel, taken: dict[str, Requirements], fed: list[str], too_weak: list[tuple[str, str]]
) -> tuple[list[tuple[str, str]], list[str]]:
    """The wake order: what the profiles insist on, then what the school prefers where they leave it open."""
    hard: list[tuple[str, str]] = []
    soft: list[tuple[str, str]] = []
    school = c.rig.rig.schools.wake
    for key in sorted({key for needs in taken.values() for key in needs.spans} | set(fed)):
        span = c.spans[key]
        if is_power(span):
            hard += wake_pairs(c.rig, span)
        if not span.use.is_control or span.links[0].is_direct:
            continue
        hard += wake_pairs(c.rig, span)
        if span.links[0].is_radio:
            # A radio link comes up in any order, but for a network that its clients look for when they start.
            soft += _network_first(c.rig, span)
            continue
        ends = ((span.a, span.b, span.use.role_a), (span.b, span.a, span.use.role_b))
        for host, guest, name in ends:
            if _is_host(c.rig, host.device, host.endpoint, name):
                pair = (host.device, guest.device)
                soft.append(pair[::-1] if school == "camera-first" else pair)
    warnings = []
    order = list(dict.fromkeys(hard))
    # What would brown out comes before taste, and after what profiles insist on: a ring of waits is no order at all.
    order += [pair for pair in too_weak if pair not in order and not _reaches(order, *pair[::-1])]
    for first, second in soft:
        if (second, first) in too_weak and (second, first) not in hard and school != "profile":
            warnings.append(
                f"You wake {school.replace('-', ' ')}, but {c.rig[first].name} would feed {c.rig[second].name} by a "
                f"lead that cannot carry it alone. The run sheet wakes {c.rig[second].name} first."
            )
        elif (second, first) in order and school != "profile":
            warnings.append(
                f"You wake {school.replace('-', ' ')}, but {c.rig[first].name} and {c.rig[second].name} only find each "
                f"other when {c.rig[second].name} is awake first. The run sheet keeps their order."
            )
        elif (first, second) not in order and not _reaches(order, second, first):
            order.append((first, second))
    return _of_those_that_wake(c.rig, order), list(dict.fromkeys(warnings))


def _network_first(rig: ResolvedRig, span: Span) -> Iterator[tuple[str, str]]:
    """A network exists before its client; other radios come up in any order."""
    for end, other in ((span.a, span.b), (span.b, span.a)):
        if rig[end.device].endpoint(end.endpoint).opens_network:
            yield end.device, other.device


def _of_those_that_wake(rig: ResolvedRig, order: list[tuple[str, str]]) -> list[tuple[str, str]]:
    """The order without the devices that nobody switches on: what wanted one of them awake wants what feeds it."""
    for device in dict.fromkeys(key for pair in order for key in pair):
        if rig[device].profile.wake is None:
            before = [first for first, second in order if second == device]
            after = [second for first, second in order if first == device]
            order = [pair for pair in order if device not in pair]
            order += [(first, second) for first in before for second in after]
    return list(dict.fromkeys(pair for pair in order if pair[0] != pair[1]))


def _is_host(rig: ResolvedRig, device: str, endpoint: str, role_name: str) -> bool:
    return rig[device].role(endpoint, role_name).is_host


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


def _cost(c: ChoiceModel, solver: cp_model.CpSolver) -> list[CostLine]:
    lines = []
    counts = price(c)
    for kind, (what, points) in price_list.WORDS.items():
        count = solver.value(weighted(counts.get(kind, [])))
        if count:
            lines.append(CostLine(what=what, count=count, points=points * count))
    return lines
