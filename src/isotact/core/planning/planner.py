"""From a rig to its plan: find the ways, choose with CP-SAT, write the choice down, explain the rest."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from isotact.core.model.plan import Link, Plan
from isotact.core.model.resolved import ResolvedRig
from isotact.core.planning.choosing.building import build
from isotact.core.planning.choosing.model import PLAIN, Choosing, Terms
from isotact.core.planning.choosing.pinning import is_pinned
from isotact.core.planning.choosing.pricing import aim
from isotact.core.planning.choosing.solving import Watch, solve
from isotact.core.planning.explaining.explain import explain
from isotact.core.planning.finding.searching import Searched, search
from isotact.core.planning.spares import with_spares
from isotact.core.planning.writing import Status, write_plan

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

# As long as somebody at a cart looks at a screen that says that it is looking.
TIME_LIMIT_S = 20.0

TRIED_S = 2.0
"""Within this a way out is tried: one that takes longer is not named."""


@dataclass(frozen=True)
class Chosen:
    """A plan without its reasons, and what it was chosen from."""

    found: Searched
    choosing: Choosing
    plan: Plan
    worth: int
    """What `pricing.gain` makes of it."""


def plan(rig: ResolvedRig, time_limit_s: float = TIME_LIMIT_S, watch: Watch | None = None) -> Plan:
    """The best plan for `rig`, proven optimal unless its status says otherwise, with reasons for what it cannot keep.

    The same rig always gives the same plan: one worker, a fixed seed, everything built in id order.
    """
    return with_reasons(rig, choose(rig, time_limit_s, watch))


def plan_only(rig: ResolvedRig, time_limit_s: float = TIME_LIMIT_S, links: list[Link] | None = None) -> Plan:
    """The same without the reasons, perhaps with these links only: for comparing, where nobody asks why."""
    return choose(rig, time_limit_s, links=links).plan


def choose(
    rig: ResolvedRig,
    time_limit_s: float = TIME_LIMIT_S,
    watch: Watch | None = None,
    links: list[Link] | None = None,
) -> Chosen:
    """Find the ways and choose among them."""
    found = search(rig, links)
    choosing = build_found(rig, found, Terms(guarded=True))
    choosing.hold()
    aim(choosing)
    solver, verdict = solve(choosing.model, time_limit_s, watch=watch)
    if verdict not in ("optimal", "feasible"):
        return Chosen(found, choosing, write_plan(choosing, None, found.links, "out-of-time"), 0)
    status: Status = "proven-optimal" if verdict == "optimal" else "best-so-far"
    return Chosen(found, choosing, write_plan(choosing, solver, found.links, status), round(solver.objective_value))


def with_reasons(rig: ResolvedRig, chosen: Chosen) -> Plan:
    """The chosen plan, with what stands in the way of what it cannot keep and its spare ways."""
    if chosen.plan.status == "out-of-time":
        return chosen.plan
    unmet = tuple(explain(chosen.found, chosen.choosing, chosen.plan, lambda other: choose(other, TRIED_S).plan.kept))
    return with_spares(rig, chosen.plan.model_copy(update={"unmet": unmet}))


def build_found(
    rig: ResolvedRig, found: Searched, terms: Terms = PLAIN, model: cp_model.CpModel | None = None
) -> Choosing:
    """The model of what `found` turned up, without the links that can only cost."""
    return build(rig, useful_links(rig, found), found.options, replace(terms, walks=found.walks), model)


def useful_links(rig: ResolvedRig, found: Searched) -> list[Link]:
    """The links that some way takes, that carry power, or that a pin names; the rest can only cost."""
    taken = {
        link.id
        for ways in found.options.values()
        for needs in ways
        for crossing in needs.way.crossings
        for link in crossing.span.links
    }
    taken |= {link.id for walk in found.walks.values() for hop in walk.hops for link in hop.crossing.span.links}
    return [
        link
        for link in found.links
        if link.id in taken or any(use.is_power or use.is_seat for use in link.uses) or is_pinned(rig, link)
    ]
