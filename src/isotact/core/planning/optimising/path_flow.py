"""Promises that have too many ways to list: each walks through its own graph, one path from where it starts to its end.

Six like motors on one bus have a way for every order of them, looped monitors likewise. The path is a flow of one unit
per promise; what a listed way asks of spans, devices and knobs is asked of every step of it.
"""

from __future__ import annotations

from collections import defaultdict
from typing import TYPE_CHECKING

from isotact.core.model.words import pixels_rate
from isotact.core.planning.optimising.choice_model import ChoiceModel, Path
from isotact.core.planning.ways.requirements import Knob, Requirements, knobs_of, requirements
from isotact.core.planning.ways.simple_ways import Crossing, link_roles
from isotact.core.planning.ways.way_graph import Place, Walk
from isotact.core.solver import added

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

TENTHS = 10
"""Delays are reckoned in tenths of a millisecond."""


def taken(c: ChoiceModel, path: Path, solver: cp_model.CpSolver) -> Requirements | None:
    """What the way that the solver took needs; None when the promise is not kept."""
    if not solver.value(c.kept[path.walk.promise.id]):
        return None
    steps = [step for step, var in path.steps.items() if solver.value(var)]
    hops = [hop for hop, var in path.hops.items() if solver.value(var)]
    return requirements(c.rig, path.walk.way(steps, hops))


def knobs_walked(c: ChoiceModel, walk: Walk) -> set[Knob]:
    """The knobs that some way of `walk` may want to turn."""
    knobs = {knob for step in walk.steps for when in step.leg.whens for knob, _ in knobs_of(step.leg.device, when)}
    return knobs | {knob for hop in walk.hops for knob in _format_knob(c, hop.crossing)}


def add_walks(c: ChoiceModel) -> None:
    """Add a path for each promise that walks."""
    for promise, walk in c.terms.walks.items():
        path = Path(
            walk,
            {step: c.model.new_bool_var(f"{promise} step {number}") for number, step in enumerate(walk.steps)},
            {hop: c.model.new_bool_var(f"{promise} hop {number}") for number, hop in enumerate(walk.hops)},
        )
        c.paths[promise] = path
        _flows(c, path)
        _needs(c, path)
        if walk.promise.is_picture:
            _in_time(c, path)
            _in_format(c, path)


def _flows(c: ChoiceModel, path: Path) -> None:
    """What comes in goes out, at every end of every device."""
    given: dict[Place, list[cp_model.IntVar]] = defaultdict(list)
    taken: dict[Place, list[cp_model.IntVar]] = defaultdict(list)
    for step, var in path.steps.items():
        if step.leaves:
            given[step.leaves].append(var)
        if step.enters:
            taken[step.enters].append(var)
    for hop, var in path.hops.items():
        taken[hop.out].append(var)
        given[hop.into].append(var)
    # A flow may also turn in a ring beside its path: it is paid for, and passed over when the way is read.
    for place in dict.fromkeys([*given, *taken]):
        c.model.add(added(given[place]) == added(taken[place]))
    starts = [var for step, var in path.steps.items() if step.enters is None]
    ends = [var for step, var in path.steps.items() if step.leaves is None]
    kept = c.kept[path.walk.promise.id]
    c.model.add(added(starts) == kept)
    c.model.add(added(ends) == kept)


def _needs(c: ChoiceModel, path: Path) -> None:
    through: dict[str, list[cp_model.IntVar]] = defaultdict(list)
    over: dict[str, list[cp_model.IntVar]] = defaultdict(list)
    wanting: dict[tuple[Knob, tuple[str, ...]], list[cp_model.IntVar]] = defaultdict(list)
    for step, var in path.steps.items():
        device = step.leg.device
        through[device].append(var)
        asked = dict.fromkeys(pair for when in step.leg.whens for pair in knobs_of(device, when))
        for knob, allowed in asked:
            wanting[knob, allowed].append(var)
        if step.leg.leaves is None and step.leg.surface is not None and step.leg.ends_picture:
            dark = c.rig[device].profile.surface(step.leg.surface).dark_when_used
            for link in c.links.values() if dark else ():
                if any((end.device, end.endpoint) == (device, dark) for end in link.ends):
                    c.clause(("dark", (device, dark or "")), [var.negated(), c.link[link.id].negated()])
    for hop, var in path.hops.items():
        over[hop.crossing.span.key].append(var)
    for device, those in through.items():
        c.model.add(added(those) <= c.awake[device])
    for key, those in over.items():
        c.model.add(added(those) <= c.span[key])
    for (knob, allowed), those in wanting.items():
        c.model.add(added(those) <= added(c.value[knob][value] for value in allowed))


def _in_time(c: ChoiceModel, path: Path) -> None:
    promise = path.walk.promise
    late = {step: round(TENTHS * step.leg.delay_ms) for step in path.steps}
    total = sum(late[step] * var for step, var in path.steps.items() if late[step])
    most = sum(late.values())
    # In whole tens of milliseconds, rounded up: as a listed way is priced.
    path.lag = c.model.new_int_var(0, 1 + most // (10 * TENTHS), f"{promise.id} lag")
    c.model.add(10 * TENTHS * path.lag >= total)
    if promise.latest_ms is not None:
        c.model.add(total <= round(TENTHS * promise.latest_ms))


def _in_format(c: ChoiceModel, path: Path) -> None:
    """Some format is taken by every link of the way, and no sender is set to one that is not."""
    hops = [(hop, var) for hop, var in path.hops.items() if hop.crossing.use.is_picture]
    fits = {hop: _fitting(c, hop.crossing) for hop, _ in hops}
    known = list(dict.fromkeys(picture for those in fits.values() for picture in those))
    good = {picture: c.model.new_bool_var(f"{path.walk.promise.id} in {picture}") for picture in known}
    for hop, var in hops:
        c.model.add_bool_or([var.negated(), *(good[picture] for picture in fits[hop])])
        for picture in known:
            # One format for the whole way: what one link does not take, no link of it may be in.
            if picture not in fits[hop]:
                c.model.add_bool_or([var.negated(), good[picture].negated()])
        for knob in _format_knob(c, hop.crossing):
            for picture, chosen in c.value[knob].items():
                allowed = [good[picture]] if picture in good else []
                c.model.add_bool_or([var.negated(), chosen.negated(), *allowed])


def _fitting(c: ChoiceModel, crossing: Crossing) -> list[str]:
    limit = crossing.span.max_format
    one, other = link_roles(c.rig, crossing)
    both = [picture for picture in one.pictures if picture in other.pictures]
    return [picture for picture in both if limit is None or pixels_rate(picture) <= pixels_rate(limit)]


def _format_knob(c: ChoiceModel, crossing: Crossing) -> list[Knob]:
    setting = link_roles(c.rig, crossing)[0].picture_setting if crossing.use.is_picture else None
    return [(crossing.at.device, "setting", setting)] if setting else []
