"""The part of the choice that is about power: one feed per device in use, loads that add up, limits, hours."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass
from typing import TYPE_CHECKING

from isotact.core.model.rig import PowerPromise
from isotact.core.planning.choosing.model import Choosing
from isotact.core.planning.finding.candidates import Span
from isotact.core.planning.finding.feeds import draw_mw, is_power, limit_mw, power_ends
from isotact.core.planning.finding.requirements import knobs_of

if TYPE_CHECKING:
    from ortools.sat.python import cp_model


@dataclass
class _Flows:
    """Per device what feeds it, the spans that could, and what it passes on, in milliwatts."""

    into: dict[str, list[cp_model.IntVar]]
    out: dict[str, list[cp_model.LinearExpr]]
    most_mw: int
    could: dict[str, list[Span]]


def add_power(c: Choosing) -> None:
    """Add the constraints of power, and with them the loads and batteries, to `c`."""
    draws = [placed.profile.power.draw_w for placed in c.rig.devices.values() if placed.profile.power]
    feeds = [span for span in c.spans.values() if is_power(span) and span.key in c.span]
    could: dict[str, list[Span]] = defaultdict(list)
    for span in feeds:
        could[power_ends(c.rig, span)[2]].append(span)
    flows = _Flows(defaultdict(list), defaultdict(list), round(1000 * sum(draws)), could)
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
        c.add(("feed", (device,)), sum(flows.into[device]) + own == c.awake[device])
        if device in givers:
            c.model.add(c.load_mw[device] == draw_mw(placed) * c.awake[device] + sum(flows.out[device]))
        usable_wh = placed.usable_wh
        for promise in c.rig.rig.lasting if usable_wh is not None else ():
            _lasts(c, promise, device, usable_wh or 0.0)


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
    flows.into[taker].append(fed)
    limits = {link.id: limit_mw(c.rig, span, link) for link in span.links}
    _feeds_unasked(c, span, flows, [fed, *unwanted], limits)
    if taker not in givers:
        draw = draw_mw(c.rig[taker])
        flows.out[giver].append(draw * fed)
        for key, limit in limits.items():
            if draw > limit:
                c.clause(("limit", (span.key,)), [fed.negated(), c.link[key].negated()])
        return
    flow = c.model.new_int_var(0, flows.most_mw, f"flow {span.key}")
    c.model.add(flow == c.load_mw[taker]).only_enforce_if(fed)
    c.model.add(flow == 0).only_enforce_if(fed.negated())
    flows.out[giver].append(flow)
    for key, limit in limits.items():
        if limit < flows.most_mw:
            made = c.model.add(flow <= limit)
            guard = [c.guard(("limit", (span.key,)))] if c.guarded else []
            made.only_enforce_if([c.link[key], *guard])


def _feeds_unasked(
    c: Choosing, span: Span, flows: _Flows, unless: list[cp_model.IntVar], limits: dict[str, int]
) -> None:
    """A cable that carries power feeds whether it was wanted or not, unless a setting stops it.

    A device fed at two ports takes from either; the plan reckons with one, and the other must stand the load too.
    """
    giver, _, taker, _ = power_ends(c.rig, span)
    mine = _inlet(span, taker)
    others = [c.span[other.key] for other in flows.could[taker] if _inlet(other, taker) != mine]
    both = [c.awake[giver].negated(), c.awake[taker].negated()]
    for link in span.links:
        c.model.add_bool_or([c.link[link.id].negated(), *both, *unless, *others])
        if others and limits[link.id] < flows.most_mw:
            c.model.add(c.load_mw[taker] <= limits[link.id]).only_enforce_if(c.link[link.id])


def _inlet(span: Span, taker: str) -> str:
    return next(end.endpoint for end in (span.a, span.b) if end.device == taker)


def _lasts(c: Choosing, promise: PowerPromise, device: str, usable_wh: float) -> None:
    minutes = round(promise.hours_h * 60)
    made = c.add(("battery", (promise.id, device)), c.load_mw[device] * minutes <= int(usable_wh * 60_000))
    guard = [c.guards["battery", (promise.id, device)]] if c.guarded else []
    made.only_enforce_if([c.kept[promise.id], c.battery[device], *guard])
