"""Pictures as one tree: for promises that have too many ways to list.

A chain of monitors has a way for every order of them. Where listing hits its cap, the tree along which pictures
spread is itself a part of the model: a socket gets its picture from one sender, a leg passes it on, every screen sees
what its socket has. The ways that the solver takes are then handed to the planner as those to weigh.
"""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

from isotact.core.model.legs import Leg
from isotact.core.model.plan import Link
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import PicturePromise
from isotact.core.model.words import pixels_rate
from isotact.core.planning.choosing import costs
from isotact.core.planning.choosing.building import build
from isotact.core.planning.choosing.model import Choosing, Terms
from isotact.core.planning.choosing.pricing import FINE, gain
from isotact.core.planning.choosing.solving import Watch, solve
from isotact.core.planning.finding.requirements import Knob, Requirements, knobs_of
from isotact.core.planning.finding.ways import Crossing, Way, Ways, firmware_missing, licence_missing, link_roles

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

TENTHS = 10
"""Delays are reckoned in tenths of a millisecond."""

MOST_DELAY = 60_000
At = tuple[str, str, str]
"""A socket or sender: device, endpoint, role."""


@dataclass
class _Tree:
    """What may carry a picture, and the variables for it."""

    c: Choosing
    legs: dict[Leg, cp_model.IntVar] = field(default_factory=dict)
    arcs: dict[Crossing, cp_model.IntVar] = field(default_factory=dict)
    delay: dict[At, cp_model.IntVar] = field(default_factory=dict)
    look: dict[At, cp_model.IntVar] = field(default_factory=dict)
    place: dict[At, cp_model.IntVar] = field(default_factory=dict)
    sent: dict[tuple[At, str], cp_model.IntVar] = field(default_factory=dict)
    """Sender or socket, and a format: whether it has the picture in that."""


def flowing_ways(
    rig: ResolvedRig,
    links: list[Link],
    options: dict[str, list[Requirements]],
    pictures: list[PicturePromise],
    limit_s: float,
    watch: Watch | None = None,
) -> tuple[dict[str, Way], bool]:
    """The ways that `pictures` take in the best plan, beside the listed `options` of the others; and whether proven.

    A picture that the best plan does not keep has none.
    """
    ways = Ways(rig, links)
    legs = [leg for leg in ways.legs if not leg.functions and _works(rig, leg)]
    arcs = [crossing for crossing in ways.crossings() if crossing.use.is_picture]
    knobs = {knob for leg in legs for when in leg.whens for knob, _ in knobs_of(leg.device, when)}
    knobs |= {knob for arc in arcs for knob in _format_knob(rig, arc)}
    names = frozenset(picture.id for picture in pictures)
    listed = {key: [] if key in names else found for key, found in options.items()}
    c = build(rig, links, listed, Terms(flowing=names, knobs=frozenset(knobs)))
    tree = _tree(c, legs, arcs)
    lags = [_promised(tree, picture) for picture in pictures]
    most = FINE * costs.PER_10_MS * MOST_DELAY // TENTHS // 10 * len(lags)
    c.model.maximize(gain([c], most) - FINE * costs.PER_10_MS * sum(lags))
    solver, verdict = solve(c.model, limit_s, watch=watch, tree=True)
    if verdict not in ("optimal", "feasible"):
        return {}, False
    kept = [picture for picture in pictures if solver.value(c.kept[picture.id])]
    return {picture.id: _way(tree, solver, picture) for picture in kept}, verdict == "optimal"


def _works(rig: ResolvedRig, leg: Leg) -> bool:
    placed = rig[leg.device]
    return not any(firmware_missing(placed, when) or licence_missing(placed, when) for when in leg.whens)


def _format_knob(rig: ResolvedRig, arc: Crossing) -> list[Knob]:
    setting = link_roles(rig, arc)[0].picture_setting
    return [(arc.at.device, "setting", setting)] if setting else []


def _ends(arc: Crossing) -> tuple[At, At]:
    """The sender and the socket of a crossing."""
    use, from_a = arc.use, arc.at == arc.span.a
    roles = (use.role_a, use.role_b) if from_a else (use.role_b, use.role_a)
    return (arc.at.device, arc.at.endpoint, roles[0]), (arc.to.device, arc.to.endpoint, roles[1])


def _entered(leg: Leg) -> At | None:
    return (leg.device, *leg.enters) if leg.enters else None


def _left(leg: Leg) -> At | None:
    return (leg.device, *leg.leaves) if leg.leaves else None


def _tree(c: Choosing, legs: list[Leg], arcs: list[Crossing]) -> _Tree:
    m, tree = c.model, _Tree(c)
    fed: dict[At, list[cp_model.IntVar]] = defaultdict(list)
    given: dict[At, list[cp_model.IntVar]] = defaultdict(list)
    for number, arc in enumerate(arcs):
        tree.arcs[arc] = m.new_bool_var(f"arc {number}")
        fed[_ends(arc)[1]].append(tree.arcs[arc])
    for number, leg in enumerate(legs):
        tree.legs[leg] = m.new_bool_var(f"leg {number}")
        if leaving := _left(leg):
            given[leaving].append(tree.legs[leg])
    for at in dict.fromkeys([*fed, *given]):
        tree.delay[at] = m.new_int_var(0, MOST_DELAY, f"delay {at}")
        tree.look[at] = m.new_bool_var(f"look {at}")
        tree.place[at] = m.new_int_var(0, 2 * len(c.rig.devices), f"place {at}")
    for those in (*fed.values(), *given.values()):
        m.add_at_most_one(those)
    for leg, var in tree.legs.items():
        _leg(tree, leg, var, fed)
    for arc, var in tree.arcs.items():
        _arc(tree, arc, var, given)
    for at in tree.delay:
        m.add_at_most_one(var for (where, _), var in tree.sent.items() if where == at)
    return tree


def _leg(tree: _Tree, leg: Leg, var: cp_model.IntVar, fed: dict[At, list[cp_model.IntVar]]) -> None:
    """A leg works when its socket has a picture and its device is set for it; it hands on delay, look and format."""
    c, m = tree.c, tree.c.model
    m.add_implication(var, c.awake[leg.device])
    for when in leg.whens:
        for knob, allowed in knobs_of(leg.device, when):
            m.add_bool_or([var.negated(), *(c.value[knob][value] for value in allowed)])
    enters, leaves = _entered(leg), _left(leg)
    if enters:
        m.add_bool_or([var.negated(), *fed.get(enters, [])])
    if leaves is None:
        return
    before = tree.delay.get(enters, 0) if enters else 0
    m.add(tree.delay[leaves] == before + round(TENTHS * leg.delay_ms)).only_enforce_if(var)
    if leg.look == "adds":
        m.add_implication(var, tree.look[leaves])
    elif leg.look == "keeps" and enters in tree.look:
        m.add(tree.look[leaves] == tree.look[enters]).only_enforce_if(var)
    else:
        m.add_implication(var, tree.look[leaves].negated())
    if enters in tree.place:
        m.add(tree.place[leaves] >= tree.place[enters] + 1).only_enforce_if(var)
        for picture in _formats_at(c, leaves):
            mine, theirs = _sent(tree, leaves, picture), _sent(tree, enters, picture)
            m.add_bool_or([var.negated(), mine.negated(), theirs])


def _arc(tree: _Tree, arc: Crossing, var: cp_model.IntVar, given: dict[At, list[cp_model.IntVar]]) -> None:
    """A crossing carries what its sender has, in a format that both ends and the cable take."""
    c, m = tree.c, tree.c.model
    sender, socket = _ends(arc)
    m.add_implication(var, c.span[arc.span.key])
    m.add_bool_or([var.negated(), *given.get(sender, [])])
    if sender not in tree.delay:
        return
    m.add(tree.delay[socket] == tree.delay[sender]).only_enforce_if(var)
    m.add(tree.look[socket] == tree.look[sender]).only_enforce_if(var)
    m.add(tree.place[socket] >= tree.place[sender] + 1).only_enforce_if(var)
    roles, limit = link_roles(c.rig, arc), arc.span.max_format
    both = [picture for picture in roles[0].pictures if picture in roles[1].pictures]
    fits = [picture for picture in both if limit is None or pixels_rate(picture) <= pixels_rate(limit)]
    m.add_bool_or([var.negated(), *(_sent(tree, socket, picture) for picture in fits)])
    for picture in _formats_at(c, socket):
        has = _sent(tree, socket, picture)
        if picture not in fits:
            m.add_bool_or([var.negated(), has.negated()])
            continue
        m.add_bool_or([var.negated(), has.negated(), _sent(tree, sender, picture)])
        for knob in _format_knob(c.rig, arc):
            m.add_bool_or([var.negated(), has.negated(), c.value[knob][picture]])


def _formats_at(c: Choosing, at: At) -> list[str]:
    role = c.rig[at[0]].role(at[1], at[2])
    return list(role.pictures)


def _sent(tree: _Tree, at: At, picture: str) -> cp_model.IntVar:
    if (at, picture) not in tree.sent:
        tree.sent[at, picture] = tree.c.model.new_bool_var(f"{at} in {picture}")
    return tree.sent[at, picture]


def _promised(tree: _Tree, promise: PicturePromise) -> cp_model.IntVar:
    """Tie a promise to the legs that end on its screen. Returns its delay in tens of milliseconds."""
    c, m = tree.c, tree.c.model
    at = (promise.at.device, promise.at.surface)
    ends = {leg: var for leg, var in tree.legs.items() if leg.leaves is None and (leg.device, leg.surface) == at}
    lag = m.new_int_var(0, MOST_DELAY // TENTHS // 10, f"lag {promise.id}")
    taken = {leg: m.new_bool_var(f"{promise.id} by {number}") for number, leg in enumerate(ends)}
    m.add(sum(taken.values()) == c.kept[promise.id])
    for leg, var in taken.items():
        m.add_implication(var, ends[leg])
        enters = _entered(leg)
        before = tree.delay.get(enters, 0) if enters else 0
        tenths = before + round(TENTHS * leg.delay_ms)
        m.add(10 * TENTHS * lag >= tenths).only_enforce_if(var)
        if promise.within_ms is not None:
            m.add(tenths <= round(TENTHS * promise.within_ms)).only_enforce_if(var)
        _looks(tree, promise, leg, var)
        port = c.rig[leg.device].profile.surface(promise.at.surface).dark_when_used
        for link in c.links.values() if port else ():
            if any((end.device, end.endpoint) == (leg.device, port) for end in (link.a, link.b)):
                m.add_bool_or([var.negated(), c.link[link.id].negated()])
    return lag


def _looks(tree: _Tree, promise: PicturePromise, leg: Leg, var: cp_model.IntVar) -> None:
    m, enters = tree.c.model, _entered(leg)
    before = tree.look.get(enters) if enters else None
    if promise.look == "with" and leg.look != "adds":
        m.add_bool_or([var.negated(), before] if before is not None and leg.look == "keeps" else [var.negated()])
    if promise.look == "clean" and leg.look == "adds":
        m.add(var == 0)
    elif promise.look == "clean" and leg.look == "keeps" and before is not None:
        m.add_implication(var, before.negated())


def _way(tree: _Tree, solver: cp_model.CpSolver, promise: PicturePromise) -> Way:
    """The branch that ends on a promise's screen, from its source."""
    at = (promise.at.device, promise.at.surface)
    into = {_ends(arc)[1]: arc for arc, var in tree.arcs.items() if solver.value(var)}
    onto = {_left(leg): leg for leg, var in tree.legs.items() if solver.value(var) and leg.leaves}
    legs = [
        next(
            leg
            for leg, var in tree.legs.items()
            if leg.leaves is None and (leg.device, leg.surface) == at and solver.value(var)
        )
    ]
    crossings: list[Crossing] = []
    while (socket := _entered(legs[0])) is not None:
        arc = into[socket]
        crossings.insert(0, arc)
        legs.insert(0, onto[_ends(arc)[0]])
    return Way(tuple(legs), tuple(crossings))
