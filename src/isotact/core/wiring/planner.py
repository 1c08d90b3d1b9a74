"""From a rig to its plan: find the ways, choose with CP-SAT, write the choice down, explain the rest."""

from dataclasses import dataclass

from isotact.core.model.plan import Link, Plan
from isotact.core.model.resolved import ResolvedRig
from isotact.core.wiring.candidates import candidates
from isotact.core.wiring.choosing import build
from isotact.core.wiring.explain import explain
from isotact.core.wiring.pinning import is_pinned
from isotact.core.wiring.pricing import aim
from isotact.core.wiring.requirements import Requirements, obstacles, requirements
from isotact.core.wiring.routes import Ways
from isotact.core.wiring.solving import solve
from isotact.core.wiring.writing import write_plan

TIME_LIMIT_S = 20.0


@dataclass(frozen=True)
class Searched:
    """What the search turned up before anything was chosen."""

    links: list[Link]
    options: dict[str, list[Requirements]]
    ruled_out: dict[str, list[Requirements]]
    cut_short: tuple[str, ...]


def search(rig: ResolvedRig, links: list[Link] | None = None) -> Searched:
    """Every way of every promise, apart by whether something fixed rules it out."""
    links = candidates(rig) if links is None else links
    ways = Ways(rig, links)
    options: dict[str, list[Requirements]] = {}
    ruled_out: dict[str, list[Requirements]] = {}
    cut_short = []
    for promise in rig.rig.promises:
        options[promise.id], ruled_out[promise.id] = [], []
        if promise.kind == "power":
            continue
        found, whole = ways.of(promise)
        if not whole:
            cut_short.append(promise.id)
        for way in found:
            needs = requirements(rig, way)
            blocked = any(True for _ in obstacles(rig, promise, needs))
            (ruled_out if blocked else options)[promise.id].append(needs)
    return Searched(links, options, ruled_out, tuple(cut_short))


def plan(rig: ResolvedRig, time_limit_s: float = TIME_LIMIT_S) -> Plan:
    """The best plan for `rig`, proven optimal unless its status says otherwise.

    The same rig always gives the same plan: one worker, a fixed seed, everything built in id order.
    """
    found = search(rig)
    useful = useful_links(rig, found)
    choosing = build(rig, useful, found.options)
    aim(choosing)
    solver, verdict = solve(choosing.model, time_limit_s)
    if verdict not in ("optimal", "feasible"):
        return write_plan(choosing, None, found.links, "out-of-time", found.cut_short)
    proven = verdict == "optimal" and not found.cut_short
    made = write_plan(choosing, solver, found.links, "proven-optimal" if proven else "best-so-far", found.cut_short)
    return made.model_copy(update={"unmet": tuple(explain(found, choosing, made))})


def useful_links(rig: ResolvedRig, found: Searched) -> list[Link]:
    """The links that some way takes, that carry power, or that a pin names; the rest can only cost."""
    taken = {
        link.id
        for ways in found.options.values()
        for needs in ways
        for crossing in needs.way.crossings
        for link in crossing.span.links
    }
    return [
        link
        for link in found.links
        if link.id in taken or any(use.kind == "power" for use in link.uses) or is_pinned(rig, link)
    ]
