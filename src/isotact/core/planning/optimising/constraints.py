"""The choice itself, as a constraint model for OR-Tools CP-SAT.

One boolean per link, per span, per route, per value of a mode, setting or answer and per device.
A route asks for spans, a span for any one of its links. Every constraint belongs to a named group;
when a plan is asked why, the groups become assumptions and the solver names those that conflict.
"""

from __future__ import annotations

from collections import defaultdict
from itertools import pairwise
from typing import TYPE_CHECKING

from isotact.core.model.needed_pictures import needing, with_needed_pictures
from isotact.core.model.plan import Link, LinkEnd
from isotact.core.model.resolved import ResolvedRig
from isotact.core.planning.optimising.choice_model import PLAIN, ChoiceModel, Terms
from isotact.core.planning.optimising.path_flow import add_walks, knobs_walked
from isotact.core.planning.optimising.pins import add_pins
from isotact.core.planning.optimising.power_flow import add_power
from isotact.core.planning.optimising.relay_cuts import add_relay_cuts
from isotact.core.planning.optimising.symmetry import add_interchanging
from isotact.core.planning.optimising.whole_rig import add_whole_rig
from isotact.core.planning.ways.candidates import Span, spans_of
from isotact.core.planning.ways.feed_spans import feeds_among, is_power, power_ends
from isotact.core.planning.ways.requirements import Knob, Requirements, knobs_of
from isotact.core.solver import added, new_model

if TYPE_CHECKING:
    from ortools.sat.python import cp_model


def build(
    rig: ResolvedRig,
    links: list[Link],
    options: dict[str, list[Requirements]],
    terms: Terms = PLAIN,
    model: cp_model.CpModel | None = None,
) -> ChoiceModel:
    """The model of `rig`: `options` holds, per promise, what each of its ways needs.

    With `model`, it is written into that one, beside what is there already.
    """
    rig = with_needed_pictures(rig)
    spans = spans_of(rig, links)
    feeds = feeds_among(rig, spans.values())
    choosing = ChoiceModel(
        rig, {link.id: link for link in links}, options, terms, spans, feeds, new_model() if model is None else model
    )
    # Always in this order, and everything in it by id: of two plans that are worth the same the solver takes the one
    # that it comes upon first, and that must be the same one tomorrow.
    _variables(choosing)
    _routes(choosing)
    add_walks(choosing)
    _pictures(choosing)
    _links(choosing)
    _stock(choosing)
    _knobs(choosing)
    _exclusives(choosing)
    _clients(choosing)
    add_relay_cuts(choosing)
    _seats(choosing)
    add_power(choosing)
    add_whole_rig(choosing)
    _wake_order(choosing)
    add_pins(choosing)
    add_interchanging(choosing)
    return choosing


def _variables(c: ChoiceModel) -> None:
    for link in c.links.values():
        c.link[link.id] = c.model.new_bool_var(f"link {link.id}")
    for span in c.spans.values():
        # Power that feeds nothing of use has no variable: whether it is live is nobody's question.
        if not is_power(span) or span.key in c.feeds:
            c.span[span.key] = c.model.new_bool_var(f"span {span.key}")
    for device in c.rig.devices:
        c.awake[device] = c.model.new_bool_var(f"awake {device}")
    for promise in c.rig.rig.promises:
        c.kept[promise.id] = c.wishes["promise", (promise.id,)] = c.model.new_bool_var(f"kept {promise.id}")
        listed = [] if promise.id in c.terms.walks else c.options.get(promise.id, [])
        for number in range(len(listed)):
            c.route[promise.id, number] = c.model.new_bool_var(f"route {promise.id} {number}")
    knobs: set[Knob] = {knob for ways in c.options.values() for needs in ways for knob in needs.knobs}
    for graph in c.terms.walks.values():
        knobs |= knobs_walked(c, graph)
    for feed in c.feeds.values():
        for device, role in ((feed.giver, feed.outlet), (feed.taker, feed.inlet)):
            knobs |= {knob for knob, _ in knobs_of(device, role.when)}
    # A set has no order of its own, and another order of variables would be another model.
    for knob in sorted(knobs):
        values = c.rig[knob[0]].values_of(knob[1], knob[2])
        c.value[knob] = {value: c.model.new_bool_var(f"{knob} = {value}") for value in values}


def _routes(c: ChoiceModel) -> None:
    at: dict[tuple[str, str], list[cp_model.IntVar]] = defaultdict(list)
    for link in c.links.values():
        for end in (link.a, link.b):
            at[end.device, end.endpoint].append(c.link[link.id])
    for promise in c.rig.rig.routed:
        if promise.id in c.terms.walks:
            continue
        options = c.options.get(promise.id, [])
        ways = [c.route[promise.id, number] for number in range(len(options))]
        # One way and no more: a second would be paid for and prove nothing.
        c.model.add(added(ways) == c.kept[promise.id])
        for number, needs in enumerate(options):
            _route(c, c.route[promise.id, number], needs, at)
    for span in c.spans.values():
        if span.key in c.span:
            # Any one of several like cables will do.
            c.model.add_bool_or([c.span[span.key].negated(), *(c.link[link.id] for link in span.links)])


def _pictures(c: ChoiceModel) -> None:
    """What is worked on a picture holds just with it."""
    for picture, promise in needing(c.rig).items():
        c.model.add(c.kept[picture] == c.kept[promise])


def _route(
    c: ChoiceModel, chosen: cp_model.IntVar, needs: Requirements, at: dict[tuple[str, str], list[cp_model.IntVar]]
) -> None:
    wanted = [*(c.span[key] for key in needs.spans), *(c.awake[device] for device in needs.way.devices)]
    for knob, allowed in needs.knobs.items():
        c.model.add_bool_or([chosen.negated(), *(c.value[knob][value] for value in allowed)])
    for change in needs.changes:
        if change not in c.change:
            c.change[change] = c.model.new_bool_var(f"change {change}")
        wanted.append(c.change[change])
    c.model.add_bool_and(wanted).only_enforce_if(chosen)
    for device, port in needs.idle_ports:
        for link in at[device, port]:
            c.clause(("dark", (device, port)), [chosen.negated(), link.negated()])


def _links(c: ChoiceModel) -> None:
    at: dict[tuple[str, str], dict[str, cp_model.IntVar]] = defaultdict(dict)
    of: dict[str, dict[str, cp_model.IntVar]] = defaultdict(dict)
    serves: dict[str, list[cp_model.IntVar]] = defaultdict(list)
    for span in c.spans.values():
        for link in span.links:
            if span.key in c.span:
                serves[link.id].append(c.span[span.key])
    plugged = _leads(c)
    for link in c.links.values():
        var = c.link[link.id]
        # What serves nothing is not plugged. Its price would keep it out as well, but only once everything else is
        # settled.
        c.model.add_bool_or([var.negated(), *serves[link.id]])
        for end, number in ((link.a, link.end_a), (link.b, link.end_b)):
            key = f"{link.lead}/{number}@{end}" if link.lead else link.id
            at[end.device, end.endpoint][key] = plugged[link.lead, number, end] if link.lead else var
        for number, cable in enumerate(link.stock):
            of[cable][f"{link.piece}/{number}"] = c.lead[link.lead] if link.lead else var
    for (device, endpoint), those in at.items():
        limit = c.rig[device].endpoint(endpoint).takes
        # Where no more could meet at an end than it takes there is nothing to say.
        if len(those) > limit:
            c.add(("port", (device, endpoint)), added(those.values()) <= limit)
    c.pieces = {cable: list(those.values()) for cable, those in of.items()}


def _stock(c: ChoiceModel) -> None:
    """No more pieces of a type than there are, or than may be got."""
    if not c.terms.own_stock:
        return
    for cable, those in c.pieces.items():
        have = c.rig.stock.get(cable, 0)
        if c.terms.extra:
            c.got[cable] = c.model.new_int_var(0, c.terms.extra, f"got {cable}")
            c.model.add(added(those) <= have + c.got[cable])
        elif len(those) > have:
            c.add(("stock", (cable,)), added(those) <= have)


def _leads(c: ChoiceModel) -> dict[tuple[str, int, LinkEnd], cp_model.IntVar]:
    """Pieces with three and more ends: each end sits in one port at most, and what is plugged conducts."""
    plugged: dict[tuple[str, int, LinkEnd], cp_model.IntVar] = {}
    split = [link for link in c.links.values() if link.lead]
    for link in split:
        lead = link.lead or ""
        if lead not in c.lead:
            c.lead[lead] = c.model.new_bool_var(f"lead {lead}")
        for key in ((lead, link.end_a, link.a), (lead, link.end_b, link.b)):
            if key not in plugged:
                plugged[key] = c.model.new_bool_var(f"plugged {key}")
                c.model.add_implication(plugged[key], c.lead[lead])
    for link in split:
        one, other = (
            plugged[link.lead or "", number, end] for number, end in ((link.end_a, link.a), (link.end_b, link.b))
        )
        # Either way round: a link is both its ends plugged, and both ends plugged conduct, wanted or not.
        c.model.add_bool_and(one, other).only_enforce_if(c.link[link.id])
        c.model.add_bool_or([one.negated(), other.negated(), c.link[link.id]])
    ends: dict[tuple[str, int], list[cp_model.IntVar]] = defaultdict(list)
    for (lead, number, _), var in plugged.items():
        ends[lead, number].append(var)
    for those in ends.values():
        c.model.add_at_most_one(those)
    types = {link.lead: link.cable for link in split}
    for one_piece, next_piece in pairwise(sorted(c.lead)):
        if types[one_piece] == types[next_piece]:
            c.model.add_implication(c.lead[next_piece], c.lead[one_piece])  # like pieces: the first is taken first
    return plugged


def _knobs(c: ChoiceModel) -> None:
    for knob, values in c.value.items():
        if knob[1] != "answer":  # a prompt that nothing depends on may stay unanswered
            c.model.add_bool_or(values.values())
        c.add(("knob", knob), added(values.values()) <= 1)
        if knob[1] == "answer" and (port := c.rig[knob[0]].prompt(knob[2]).joined) is not None:
            # What is never asked cannot be answered.
            found = [
                c.link[link.id] for link in c.links.values() if LinkEnd(device=knob[0], endpoint=port) in link.ends
            ]
            for var in values.values():
                c.clause(("asked", knob), [var.negated(), *found])


def _exclusives(c: ChoiceModel) -> None:
    for device, placed in c.rig.devices.items():
        for number, group in enumerate(placed.profile.exclusive):
            taken = []
            for ref in group:
                busy = c.model.new_bool_var(f"busy {device} {ref}")
                # One way only: that a member is called busy for nothing forbids more, and so never happens.
                for span in _touching(c, device, ref):
                    c.model.add_implication(span, busy)
                taken.append(busy)
            c.add(("exclusive", (device, str(number))), added(taken) <= 1)


def _clients(c: ChoiceModel) -> None:
    """A server is told from its protocol, whatever the socket: two leads and a radio may lead to the same one."""
    asking: dict[tuple[str, str], list[cp_model.IntVar]] = defaultdict(list)
    room: dict[tuple[str, str], int] = {}
    for span in c.spans.values():
        for end, name in ((span.a, span.use.role_a), (span.b, span.use.role_b)):
            serves = c.rig[end.device].role(end.endpoint, name).serves if span.key in c.span else None
            if serves is not None:
                asking[end.device, name].append(c.span[span.key])
                room[end.device, name] = min(serves, room.get((end.device, name), serves))
    for server, those in asking.items():
        if len(those) > room[server]:
            c.add(("clients", (*server, str(room[server]))), added(those) <= room[server])


def _seats(c: ChoiceModel) -> None:
    """A lens is of use on a body only, on its own mount or by an adapter that sits on one."""
    for device, placed in c.rig.devices.items():
        if placed.seat is not None:
            sitting = _touching(c, device, f"{placed.seat}/seat")
            c.clause(("seat", (device,)), [c.awake[device].negated(), *sitting])
    for span in c.spans.values():
        if span.use.is_seat:
            both = [c.awake[end.device] for end in (span.a, span.b)]
            c.model.add_bool_and(both).only_enforce_if(c.span[span.key])


def _touching(c: ChoiceModel, device: str, ref: str) -> list[cp_model.IntVar]:
    end_id, _, role = ref.partition("/")
    return [
        c.span[span.key]
        for span in c.spans.values()
        for end, name in ((span.a, span.use.role_a), (span.b, span.use.role_b))
        if span.key in c.span and end.device == device and end.endpoint == end_id and role in ("", name)
    ]


def _wake_order(c: ChoiceModel) -> None:
    pairs = {span.key: wake_pairs(c.rig, span) for span in c.spans.values() if span.key in c.span}
    ordered = sorted({device for those in pairs.values() for pair in those for device in pair})
    # A ring of "after" is all that must not be, and a ring is what has no ranks.
    rank = {device: c.model.new_int_var(0, len(ordered), f"rank {device}") for device in ordered}
    for key, those in pairs.items():
        for first, second in those:
            made = c.model.add(rank[second] >= rank[first] + 1)
            guard = [c.guard(("order", (key,)))] if c.guarded else []
            # A feed that only stands by asks nobody to wait for it: it is the one that carries.
            made.only_enforce_if([c.carries.get(key, c.span[key]), *guard])


def wake_pairs(rig: ResolvedRig, span: Span) -> list[tuple[str, str]]:
    """The wake order that one span asks for: pairs, the first awake before the second.

    A control role may insist on it, over a wire: radio links come up in any order. A device with no battery of its own
    wakes after what feeds it.
    """
    if is_power(span):
        giver, _, taker, _ = power_ends(rig, span)
        by_bay = any(rig[end.device].endpoint(end.endpoint).is_battery_bay for end in (span.a, span.b))
        return [] if rig.runs_alone(taker) and not by_bay else [(giver, taker)]
    pairs: list[tuple[str, str]] = []
    if span.links[0].is_radio:
        return pairs
    for end, other, name in ((span.a, span.b, span.use.role_a), (span.b, span.a, span.use.role_b)):
        role = rig[end.device].role(end.endpoint, name)
        if role.wake_rule != "any":
            pair = (other.device, end.device)
            pairs.append(pair if role.wake_rule == "peer-first" else pair[::-1])
    return pairs
