"""The choice itself, as a constraint model for OR-Tools CP-SAT.

One boolean per link, per use of a link, per route, per value of a mode, setting or answer, per
device and per feed. Every constraint belongs to a named group; when a plan is asked why, the groups
become assumptions and the solver names those that conflict.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

from isotact.core.model.plan import Link, Use
from isotact.core.model.ports import ControlRole, PowerRole, Radio
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import PowerPromise
from isotact.core.wiring import costs
from isotact.core.wiring.requirements import Knob, Requirements, UseKey, knob_now, knob_values, knobs_of
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
    model: cp_model.CpModel = field(default_factory=new_model)
    link: dict[str, cp_model.IntVar] = field(default_factory=dict)
    use: dict[UseKey, cp_model.IntVar] = field(default_factory=dict)
    route: dict[tuple[str, int], cp_model.IntVar] = field(default_factory=dict)
    kept: dict[str, cp_model.IntVar] = field(default_factory=dict)
    value: dict[Knob, dict[str, cp_model.IntVar]] = field(default_factory=dict)
    awake: dict[str, cp_model.IntVar] = field(default_factory=dict)
    battery: dict[str, cp_model.IntVar] = field(default_factory=dict)
    load_mw: dict[str, cp_model.IntVar] = field(default_factory=dict)
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
    choosing = Choosing(rig, {link.id: link for link in links}, options, guarded)
    _variables(choosing)
    _routes(choosing)
    _links(choosing)
    _knobs(choosing)
    _exclusives(choosing)
    _power(choosing)
    _wake_order(choosing)
    return choosing


def power_uses(links: Iterable[Link]) -> list[tuple[Link, int, Use]]:
    """Every use of a link that carries power."""
    return [(link, n, use) for link in links for n, use in enumerate(link.uses) if use.kind == "power"]


def power_ends(rig: ResolvedRig, link: Link, use: Use) -> tuple[str, PowerRole, str, PowerRole]:
    """The giving device and its outlet, the taking device and its inlet."""
    role_a, role_b = (
        rig[link.a.device].role(link.a.endpoint, use.role_a),
        rig[link.b.device].role(link.b.endpoint, use.role_b),
    )
    if not isinstance(role_a, PowerRole) or not isinstance(role_b, PowerRole):
        raise LookupError(f"{link.id}: use {use.role_a}--{use.role_b} is no feed")
    if use.flow == "a-to-b":
        return link.a.device, role_a, link.b.device, role_b
    return link.b.device, role_b, link.a.device, role_a


def _variables(c: Choosing) -> None:
    for link in c.links.values():
        c.link[link.id] = c.model.new_bool_var(f"link {link.id}")
        for number in range(len(link.uses)):
            c.use[link.id, number] = c.model.new_bool_var(f"use {link.id} {number}")
    for device in c.rig.devices:
        c.awake[device] = c.model.new_bool_var(f"awake {device}")
    for promise in c.rig.rig.promises:
        c.kept[promise.id] = c.model.new_bool_var(f"kept {promise.id}")
        for number in range(len(c.options.get(promise.id, []))):
            c.route[promise.id, number] = c.model.new_bool_var(f"route {promise.id} {number}")
    knobs: set[Knob] = {knob for ways in c.options.values() for needs in ways for knob in needs.knobs}
    for link, _, use in power_uses(c.links.values()):
        giver, outlet, taker, inlet = power_ends(c.rig, link, use)
        for device, role in ((giver, outlet), (taker, inlet)):
            knobs |= {knob for knob, _ in knobs_of(device, role.when)}
    for knob in sorted(knobs):
        values = knob_values(c.rig[knob[0]], knob)
        c.value[knob] = {value: c.model.new_bool_var(f"{knob} = {value}") for value in values}


def _routes(c: Choosing) -> None:
    for promise in c.rig.rig.promises:
        if promise.kind == "power":
            continue
        ways = [c.route[promise.id, number] for number in range(len(c.options[promise.id]))]
        c.model.add(sum(ways) == c.kept[promise.id])
        for number, needs in enumerate(c.options[promise.id]):
            _route(c, c.route[promise.id, number], needs)
    for key, var in c.use.items():
        c.model.add_implication(var, c.link[key[0]])


def _route(c: Choosing, chosen: cp_model.IntVar, needs: Requirements) -> None:
    for key in needs.uses:
        c.model.add_implication(chosen, c.use[key])
    for device in needs.way.devices:
        c.model.add_implication(chosen, c.awake[device])
    for knob, allowed in needs.knobs.items():
        c.model.add_bool_or([chosen.negated(), *(c.value[knob][value] for value in allowed)])
    for device, port in needs.idle_ports:
        for link in c.links.values():
            if any(end.device == device and end.endpoint == port for end in (link.a, link.b)):
                c.clause(("dark", f"{device}.{port}"), [chosen.negated(), c.link[link.id].negated()])


def _links(c: Choosing) -> None:
    at: dict[tuple[str, str], list[cp_model.IntVar]] = defaultdict(list)
    of: dict[str, list[cp_model.IntVar]] = defaultdict(list)
    for link in c.links.values():
        var = c.link[link.id]
        c.model.add_bool_or([var.negated(), *(c.use[link.id, n] for n in range(len(link.uses)))])
        for end in (link.a, link.b):
            at[end.device, end.endpoint].append(var)
        for cable in (link.cable, link.adapter):
            if cable:
                of[cable].append(var)
    for (device, endpoint), those in at.items():
        port = c.rig[device].endpoint(endpoint)
        limit = port.peers if isinstance(port, Radio) else 1
        if len(those) > limit:
            c.add(("port", f"{device}.{endpoint}"), sum(those) <= limit)
    for cable, those in of.items():
        if len(those) > c.rig.stock.get(cable, 0):
            c.add(("stock", cable), sum(those) <= c.rig.stock.get(cable, 0))


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
                for key in _touching(c, device, ref):
                    c.model.add_implication(c.use[key], busy)
                taken.append(busy)
            c.add(("exclusive", f"{device}/{number}"), sum(taken) <= 1)


def _touching(c: Choosing, device: str, ref: str) -> list[UseKey]:
    end_id, _, role = ref.partition("/")
    keys = []
    for link in c.links.values():
        for number, use in enumerate(link.uses):
            for end, name in ((link.a, use.role_a), (link.b, use.role_b)):
                if end.device == device and end.endpoint == end_id and role in ("", name):
                    keys.append((link.id, number))
    return keys


def _power(c: Choosing) -> None:
    into: dict[str, list[cp_model.IntVar]] = defaultdict(list)
    out: dict[str, list[cp_model.IntVar]] = defaultdict(list)
    most = int(1000 * sum(placed.profile.power.draw_w for placed in c.rig.devices.values() if placed.profile.power))
    for device, placed in c.rig.devices.items():
        if placed.profile.power:
            c.load_mw[device] = c.model.new_int_var(0, most, f"load {device}")
    for link, number, use in power_uses(c.links.values()):
        _feed(c, link, number, use, into, out, most)
    for device, placed in c.rig.devices.items():
        power = placed.profile.power
        if power is None:
            continue
        own = c.model.new_bool_var(f"battery {device}")
        c.battery[device] = own
        if not c.rig.runs_alone(device):
            c.model.add(own == 0)
        c.add(("feed", device), sum(into[device]) + own == c.awake[device])
        c.model.add(c.load_mw[device] == round(1000 * power.draw_w) * c.awake[device] + sum(out[device]))
        for promise in c.rig.rig.promises:
            if promise.kind == "power" and power.inner_battery is not None:
                _lasts(c, promise, device, power.inner_battery.energy_wh * power.inner_battery.usable)


def _feed(
    c: Choosing,
    link: Link,
    number: int,
    use: Use,
    into: dict[str, list[cp_model.IntVar]],
    out: dict[str, list[cp_model.IntVar]],
    most_mw: int,
) -> None:
    giver, outlet, taker, inlet = power_ends(c.rig, link, use)
    fed = c.use[link.id, number]
    if c.rig[taker].profile.power is None or c.rig[giver].profile.power is None or not can_feed(c.rig, taker, inlet):
        c.model.add(fed == 0)
        return
    unwanted = []
    for device, role in ((giver, outlet), (taker, inlet)):
        for knob, allowed in knobs_of(device, role.when):
            c.model.add_bool_or([fed.negated(), *(c.value[knob][value] for value in allowed)])
            unwanted += [var for value, var in c.value[knob].items() if value not in allowed]
    c.model.add_implication(fed, c.awake[giver])
    c.model.add_implication(fed, c.awake[taker])
    # A cable that carries power feeds whether it was wanted or not, unless a setting stops it.
    both = [c.link[link.id].negated(), c.awake[giver].negated(), c.awake[taker].negated()]
    c.model.add_bool_or([*both, fed, *unwanted])
    flow = c.model.new_int_var(0, most_mw, f"flow {link.id}")
    c.model.add(flow == c.load_mw[taker]).only_enforce_if(fed)
    c.model.add(flow == 0).only_enforce_if(fed.negated())
    c.add(("limit", link.id), flow <= limit_mw(c.rig, link, use))
    into[taker].append(fed)
    out[giver].append(flow)


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


def limit_mw(rig: ResolvedRig, link: Link, use: Use) -> int:
    """The most that a feed carries: the smallest of the outlet's, inlet's and cable's amps, at the outlet's volts."""
    _, outlet, _, inlet = power_ends(rig, link, use)
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
    last = len(c.rig.devices)
    rank = {device: c.model.new_int_var(0, last, f"rank {device}") for device in c.rig.devices}
    for link in c.links.values():
        for number, use in enumerate(link.uses):
            for first, second in wake_pairs(c.rig, link, use):
                made = c.model.add(rank[second] >= rank[first] + 1)
                guard = [c.guard(("order", link.id))] if c.guarded else []
                made.only_enforce_if([c.use[link.id, number], *guard])


def wake_pairs(rig: ResolvedRig, link: Link, use: Use) -> list[tuple[str, str]]:
    """The wake order that one use asks for: pairs, the first awake before the second.

    A control role may insist on it; a device with no battery of its own wakes after what feeds it.
    """
    if use.kind == "power":
        giver, _, taker, _ = power_ends(rig, link, use)
        return [] if rig.runs_alone(taker) or rig[taker].profile.wake is None else [(giver, taker)]
    pairs = []
    for end, name in ((link.a, use.role_a), (link.b, use.role_b)):
        role = rig[end.device].role(end.endpoint, name)
        if isinstance(role, ControlRole) and role.wake != "any":
            pair = (link.far(end.device).device, end.device)
            pairs.append(pair if role.wake == "peer-first" else pair[::-1])
    return pairs


def price(c: Choosing) -> dict[str, list[tuple[int, cp_model.IntVar]]]:
    """Per kind of cost, how many units each variable stands for."""
    lines: dict[str, list[tuple[int, cp_model.IntVar]]] = defaultdict(list)
    for link in c.links.values():
        var = c.link[link.id]
        lines["join" if link.kind == "cable" else link.kind].append((1, var))
        if link.adapter:
            lines["adapter"].append((1, var))
        lines["axis"].append((len(link.axes), var))
        length = sum(c.rig.cables[key].length_mm for key in (link.cable, link.adapter) if key)
        lines["length"].append((costs.length_units(length), var))
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


def aim(c: Choosing) -> None:
    """Keep the most promises by weight; among those the cheapest; among those by the order of the profiles."""
    points = [
        (FINE * costs.WORDS[kind][1] * count, var) for kind, items in price(c).items() for count, var in items if count
    ]
    points += [(min(place, 9), var) for values in c.value.values() for place, var in enumerate(values.values())]
    dear = 1 + sum(weight for weight, _ in points)
    gain = [(dear * promise.weight, c.kept[promise.id]) for promise in c.rig.rig.promises]
    c.model.maximize(sum(weight * var for weight, var in gain) - sum(weight * var for weight, var in points))
