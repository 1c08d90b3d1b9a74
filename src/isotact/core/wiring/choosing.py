"""The choice itself, as a constraint model for OR-Tools CP-SAT.

One boolean per link, per span, per route, per value of a mode, setting or answer and per device.
A route asks for spans, a span for any one of its links. Every constraint belongs to a named group;
when a plan is asked why, the groups become assumptions and the solver names those that conflict.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass, field
from itertools import pairwise
from typing import TYPE_CHECKING

from isotact.core.model.plan import Link, LinkEnd
from isotact.core.model.ports import ControlRole, PowerRole, Radio
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.rig import PowerPromise
from isotact.core.wiring import costs
from isotact.core.wiring.candidates import Span, spans_of
from isotact.core.wiring.requirements import Knob, Requirements, knob_now, knob_values, knobs_of
from isotact.core.wiring.solving import new_model

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

Group = tuple[str, str]
"""What a constraint is about: a kind and a key."""

FINE = 1000
"""Points are scaled by this, so that ties can be broken below one point by the order of the profile."""


@dataclass
class Choosing:
    """The variables of one rig's model. `guards` is filled only when the model is built to be questioned."""

    rig: ResolvedRig
    links: dict[str, Link]
    options: dict[str, list[Requirements]]
    guarded: bool = False
    spans: dict[str, Span] = field(default_factory=dict)
    model: cp_model.CpModel = field(default_factory=new_model)
    link: dict[str, cp_model.IntVar] = field(default_factory=dict)
    lead: dict[str, cp_model.IntVar] = field(default_factory=dict)
    span: dict[str, cp_model.IntVar] = field(default_factory=dict)
    route: dict[tuple[str, int], cp_model.IntVar] = field(default_factory=dict)
    kept: dict[str, cp_model.IntVar] = field(default_factory=dict)
    value: dict[Knob, dict[str, cp_model.IntVar]] = field(default_factory=dict)
    awake: dict[str, cp_model.IntVar] = field(default_factory=dict)
    battery: dict[str, cp_model.IntVar] = field(default_factory=dict)
    load_mw: dict[str, cp_model.LinearExpr] = field(default_factory=dict)
    guards: dict[Group, cp_model.IntVar] = field(default_factory=dict)

    def add(self, group: Group, constraint: cp_model.BoundedLinearExpression | bool) -> cp_model.Constraint:
        """Add a constraint under its group."""
        made = self.model.add(constraint)
        if self.guarded:
            made.only_enforce_if(self.guard(group))
        return made

    def clause(self, group: Group, literals: Iterable[cp_model.LiteralT]) -> None:
        """At least one of `literals` holds."""
        extra = [self.guard(group).negated()] if self.guarded else []
        self.model.add_bool_or([*literals, *extra])

    def guard(self, group: Group) -> cp_model.IntVar:
        """The literal that switches the constraints of `group` on; made at its first use."""
        if group not in self.guards:
            self.guards[group] = self.model.new_bool_var(f"guard {group}")
        return self.guards[group]


def build(
    rig: ResolvedRig, links: list[Link], options: dict[str, list[Requirements]], guarded: bool = False
) -> Choosing:
    """The model of `rig`: `options` holds, per promise, what each of its ways needs."""
    choosing = Choosing(rig, {link.id: link for link in links}, options, guarded, spans_of(rig, links))
    _variables(choosing)
    _routes(choosing)
    _links(choosing)
    _knobs(choosing)
    _exclusives(choosing)
    _power(choosing)
    _wake_order(choosing)
    return choosing


def is_power(span: Span) -> bool:
    """Whether a span carries power."""
    return span.use.kind == "power"


def power_ends(rig: ResolvedRig, span: Span) -> tuple[str, PowerRole, str, PowerRole]:
    """The giving device and its outlet, the taking device and its inlet."""
    role_a = rig[span.a.device].role(span.a.endpoint, span.use.role_a)
    role_b = rig[span.b.device].role(span.b.endpoint, span.use.role_b)
    if not isinstance(role_a, PowerRole) or not isinstance(role_b, PowerRole):
        raise LookupError(f"{span.key} is no feed")
    if span.use.flow == "a-to-b":
        return span.a.device, role_a, span.b.device, role_b
    return span.b.device, role_b, span.a.device, role_a


def _variables(c: Choosing) -> None:
    for link in c.links.values():
        c.link[link.id] = c.model.new_bool_var(f"link {link.id}")
    for span in c.spans.values():
        if not is_power(span) or _is_feed(c.rig, span):
            c.span[span.key] = c.model.new_bool_var(f"span {span.key}")
    for device in c.rig.devices:
        c.awake[device] = c.model.new_bool_var(f"awake {device}")
    for promise in c.rig.rig.promises:
        c.kept[promise.id] = c.model.new_bool_var(f"kept {promise.id}")
        for number in range(len(c.options.get(promise.id, []))):
            c.route[promise.id, number] = c.model.new_bool_var(f"route {promise.id} {number}")
    knobs: set[Knob] = {knob for ways in c.options.values() for needs in ways for knob in needs.knobs}
    for span in c.spans.values():
        if is_power(span) and span.key in c.span:
            giver, outlet, taker, inlet = power_ends(c.rig, span)
            for device, role in ((giver, outlet), (taker, inlet)):
                knobs |= {knob for knob, _ in knobs_of(device, role.when)}
    for knob in sorted(knobs):
        values = knob_values(c.rig[knob[0]], knob)
        c.value[knob] = {value: c.model.new_bool_var(f"{knob} = {value}") for value in values}


def _is_feed(rig: ResolvedRig, span: Span) -> bool:
    """Whether the taker of a power span could run from it: the rest only charges, or nothing."""
    giver, _, taker, inlet = power_ends(rig, span)
    return rig[taker].profile.power is not None and rig[giver].profile.power is not None and can_feed(rig, taker, inlet)


def _routes(c: Choosing) -> None:
    at: dict[tuple[str, str], list[cp_model.IntVar]] = defaultdict(list)
    for link in c.links.values():
        for end in (link.a, link.b):
            at[end.device, end.endpoint].append(c.link[link.id])
    for promise in c.rig.rig.promises:
        if promise.kind == "power":
            continue
        options = c.options.get(promise.id, [])
        ways = [c.route[promise.id, number] for number in range(len(options))]
        c.model.add(sum(ways) == c.kept[promise.id])
        for number, needs in enumerate(options):
            _route(c, c.route[promise.id, number], needs, at)
    for span in c.spans.values():
        if span.key in c.span:
            c.model.add_bool_or([c.span[span.key].negated(), *(c.link[link.id] for link in span.links)])


def _route(
    c: Choosing, chosen: cp_model.IntVar, needs: Requirements, at: dict[tuple[str, str], list[cp_model.IntVar]]
) -> None:
    for key in needs.spans:
        c.model.add_implication(chosen, c.span[key])
    for device in needs.way.devices:
        c.model.add_implication(chosen, c.awake[device])
    for knob, allowed in needs.knobs.items():
        c.model.add_bool_or([chosen.negated(), *(c.value[knob][value] for value in allowed)])
    for device, port in needs.idle_ports:
        for link in at[device, port]:
            c.clause(("dark", f"{device}.{port}"), [chosen.negated(), link.negated()])


def _links(c: Choosing) -> None:
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
        c.model.add_bool_or([var.negated(), *serves[link.id]])
        for end, number in ((link.a, link.end_a), (link.b, link.end_b)):
            key = f"{link.lead}/{number}@{end}" if link.lead else link.id
            at[end.device, end.endpoint][key] = plugged[link.lead, number, end] if link.lead else var
        for cable in (link.cable, link.adapter):
            if cable:
                of[cable][link.lead or link.id] = c.lead[link.lead] if link.lead else var
    for (device, endpoint), those in at.items():
        port = c.rig[device].endpoint(endpoint)
        limit = port.peers if isinstance(port, Radio) else 1
        if len(those) > limit:
            c.add(("port", f"{device}.{endpoint}"), sum(those.values()) <= limit)
    for cable, those in of.items():
        if len(those) > c.rig.stock.get(cable, 0):
            c.add(("stock", cable), sum(those.values()) <= c.rig.stock.get(cable, 0))


def _leads(c: Choosing) -> dict[tuple[str, int, LinkEnd], cp_model.IntVar]:
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
        c.model.add_implication(c.link[link.id], one)
        c.model.add_implication(c.link[link.id], other)
        c.model.add_bool_or([one.negated(), other.negated(), c.link[link.id]])
    ends: dict[tuple[str, int], list[cp_model.IntVar]] = defaultdict(list)
    for (lead, number, _), var in plugged.items():
        ends[lead, number].append(var)
    for those in ends.values():
        c.model.add_at_most_one(those)
    pieces = sorted(c.lead)
    for one_piece, next_piece in pairwise(pieces):
        if one_piece.partition("#")[0] == next_piece.partition("#")[0]:
            c.model.add_implication(c.lead[next_piece], c.lead[one_piece])  # like pieces: the first is taken first
    return plugged


def _knobs(c: Choosing) -> None:
    for knob, values in c.value.items():
        if knob[1] != "answer":  # a prompt that nothing depends on may stay unanswered
            c.model.add_bool_or(values.values())
        c.add(("knob", "/".join(knob)), sum(values.values()) <= 1)


def _exclusives(c: Choosing) -> None:
    for device, placed in c.rig.devices.items():
        for number, group in enumerate(placed.profile.exclusive):
            taken = []
            for ref in group:
                busy = c.model.new_bool_var(f"busy {device} {ref}")
                for span in _touching(c, device, ref):
                    c.model.add_implication(span, busy)
                taken.append(busy)
            c.add(("exclusive", f"{device}/{number}"), sum(taken) <= 1)


def _touching(c: Choosing, device: str, ref: str) -> list[cp_model.IntVar]:
    end_id, _, role = ref.partition("/")
    return [
        c.span[span.key]
        for span in c.spans.values()
        for end, name in ((span.a, span.use.role_a), (span.b, span.use.role_b))
        if span.key in c.span and end.device == device and end.endpoint == end_id and role in ("", name)
    ]


@dataclass
class _Flows:
    """Per device what feeds it, and what it passes on, in milliwatts."""

    into: dict[str, list[cp_model.IntVar]]
    out: dict[str, list[cp_model.LinearExpr]]
    most_mw: int


def _power(c: Choosing) -> None:
    draws = [placed.profile.power.draw_w for placed in c.rig.devices.values() if placed.profile.power]
    flows = _Flows(defaultdict(list), defaultdict(list), round(1000 * sum(draws)))
    feeds = [span for span in c.spans.values() if is_power(span) and span.key in c.span]
    givers = {power_ends(c.rig, span)[0] for span in feeds}
    for device, placed in c.rig.devices.items():
        power = placed.profile.power
        if power and device in givers:
            c.load_mw[device] = c.model.new_int_var(0, flows.most_mw, f"load {device}")
        elif power:
            c.load_mw[device] = draw_mw(placed) * c.awake[device]  # a leaf passes nothing on
    for span in feeds:
        _feed(c, span, flows, givers)
    for device, placed in c.rig.devices.items():
        power = placed.profile.power
        if power is None:
            continue
        own = c.model.new_bool_var(f"battery {device}")
        c.battery[device] = own
        if not c.rig.runs_alone(device):
            c.model.add(own == 0)
        c.add(("feed", device), sum(flows.into[device]) + own == c.awake[device])
        if device in givers:
            c.model.add(c.load_mw[device] == draw_mw(placed) * c.awake[device] + sum(flows.out[device]))
        for promise in c.rig.rig.promises:
            if promise.kind == "power" and power.inner_battery is not None:
                _lasts(c, promise, device, power.inner_battery.energy_wh * power.inner_battery.usable)


def draw_mw(placed: Placed) -> int:
    """What a device draws itself, in whole milliwatts."""
    return round(1000 * placed.profile.power.draw_w) if placed.profile.power else 0


def _feed(c: Choosing, span: Span, flows: _Flows, givers: set[str]) -> None:
    giver, outlet, taker, inlet = power_ends(c.rig, span)
    fed = c.span[span.key]
    unwanted = []
    for device, role in ((giver, outlet), (taker, inlet)):
        for knob, allowed in knobs_of(device, role.when):
            c.model.add_bool_or([fed.negated(), *(c.value[knob][value] for value in allowed)])
            unwanted += [var for value, var in c.value[knob].items() if value not in allowed]
    c.model.add_implication(fed, c.awake[giver])
    c.model.add_implication(fed, c.awake[taker])
    # A cable that carries power feeds whether it was wanted or not, unless a setting stops it.
    both = [c.awake[giver].negated(), c.awake[taker].negated()]
    for link in span.links:
        c.model.add_bool_or([c.link[link.id].negated(), *both, fed, *unwanted])
    flows.into[taker].append(fed)
    limits = {link.id: limit_mw(c.rig, span, link) for link in span.links}
    if taker not in givers:
        draw = draw_mw(c.rig[taker])
        flows.out[giver].append(draw * fed)
        for key, limit in limits.items():
            if draw > limit:
                c.clause(("limit", span.key), [fed.negated(), c.link[key].negated()])
        return
    flow = c.model.new_int_var(0, flows.most_mw, f"flow {span.key}")
    c.model.add(flow == c.load_mw[taker]).only_enforce_if(fed)
    c.model.add(flow == 0).only_enforce_if(fed.negated())
    flows.out[giver].append(flow)
    for key, limit in limits.items():
        if limit < flows.most_mw:
            made = c.model.add(flow <= limit)
            guard = [c.guard(("limit", span.key))] if c.guarded else []
            made.only_enforce_if([c.link[key], *guard])


def can_feed(rig: ResolvedRig, taker: str, inlet: PowerRole) -> bool:
    """Whether `taker` can run from `inlet` at all.

    A device without a battery of its own cannot open its menu to let the feed in that would wake it.
    """
    placed = rig[taker]
    if inlet.feeds == "charge":
        return False
    if rig.runs_alone(taker):
        return True
    locked = [key for key in inlet.when.settings if placed.profile.setting(key).needs_awake]
    return all(placed.setting_now(key) in inlet.when.allowed(key) for key in locked)


def limit_mw(rig: ResolvedRig, span: Span, link: Link) -> int:
    """The most that a feed carries: the smallest of the outlet's, inlet's and cable's amps, at the outlet's volts."""
    _, outlet, _, inlet = power_ends(rig, span)
    amps = [role.max_a for role in (outlet, inlet) if role.max_a is not None]
    for key in (link.cable, link.adapter):
        if key:
            amps += [c.max_a for c in rig.cables[key].carries if c.medium == "power" and c.max_a is not None]
    return int(1000 * outlet.min_v * min(amps))


def _lasts(c: Choosing, promise: PowerPromise, device: str, usable_wh: float) -> None:
    minutes = round(promise.hours_h * 60)
    made = c.add(("battery", f"{promise.id}/{device}"), c.load_mw[device] * minutes <= int(usable_wh * 60_000))
    guard = [c.guards["battery", f"{promise.id}/{device}"]] if c.guarded else []
    made.only_enforce_if([c.kept[promise.id], c.battery[device], *guard])


def _wake_order(c: Choosing) -> None:
    pairs = {span.key: wake_pairs(c.rig, span) for span in c.spans.values() if span.key in c.span}
    ordered = sorted({device for those in pairs.values() for pair in those for device in pair})
    rank = {device: c.model.new_int_var(0, len(ordered), f"rank {device}") for device in ordered}
    for key, those in pairs.items():
        for first, second in those:
            made = c.model.add(rank[second] >= rank[first] + 1)
            guard = [c.guard(("order", key))] if c.guarded else []
            made.only_enforce_if([c.span[key], *guard])


def wake_pairs(rig: ResolvedRig, span: Span) -> list[tuple[str, str]]:
    """The wake order that one span asks for: pairs, the first awake before the second.

    A control role may insist on it; a device with no battery of its own wakes after what feeds it.
    """
    if is_power(span):
        giver, _, taker, _ = power_ends(rig, span)
        return [] if rig.runs_alone(taker) or rig[taker].profile.wake is None else [(giver, taker)]
    pairs = []
    for end, other, name in ((span.a, span.b, span.use.role_a), (span.b, span.a, span.use.role_b)):
        role = rig[end.device].role(end.endpoint, name)
        if isinstance(role, ControlRole) and role.wake != "any":
            pair = (other.device, end.device)
            pairs.append(pair if role.wake == "peer-first" else pair[::-1])
    return pairs


def price(c: Choosing) -> dict[str, list[tuple[int, cp_model.IntVar]]]:
    """Per kind of cost, how many units each variable stands for."""
    lines: dict[str, list[tuple[int, cp_model.IntVar]]] = defaultdict(list)
    for link in c.links.values():
        lines["axis"].append((len(link.axes), c.link[link.id]))
        if not link.lead:
            _price_of_piece(c, lines, link, c.link[link.id])
    for lead, var in c.lead.items():
        _price_of_piece(c, lines, next(link for link in c.links.values() if link.lead == lead), var)
    for knob, values in c.value.items():
        now = knob_now(c.rig[knob[0]], knob)
        for value, var in values.items():
            if value != now:
                lines[knob[1]].append((1, var))
    for var in c.awake.values():
        lines["device"].append((1, var))
    for promise in c.rig.rig.promises:
        for number, needs in enumerate(c.options.get(promise.id, [])):
            if promise.kind == "picture":
                lines["delay"].append((costs.delay_units(needs.way.delay_ms), c.route[promise.id, number]))
    return lines


def _price_of_piece(
    c: Choosing, lines: dict[str, list[tuple[int, cp_model.IntVar]]], link: Link, var: cp_model.IntVar
) -> None:
    lines["join" if link.kind == "cable" else link.kind].append((1, var))
    if link.adapter:
        lines["adapter"].append((1, var))
    length = sum(c.rig.cables[key].length_mm for key in (link.cable, link.adapter) if key)
    lines["length"].append((costs.length_units(length), var))


def aim(c: Choosing) -> None:
    """Keep the most promises by weight; among those the cheapest; among those by the order of the profiles."""
    points = [
        (FINE * costs.WORDS[kind][1] * count, var) for kind, items in price(c).items() for count, var in items if count
    ]
    points += [(min(place, 9), var) for values in c.value.values() for place, var in enumerate(values.values())]
    dear = 1 + sum(weight for weight, _ in points)
    gain = [(dear * promise.weight, c.kept[promise.id]) for promise in c.rig.rig.promises]
    c.model.maximize(sum(weight * var for weight, var in gain) - sum(weight * var for weight, var in points))
