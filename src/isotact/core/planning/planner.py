"""From a rig to its plan: find the ways, choose with CP-SAT, write the choice down, explain the rest."""

from dataclasses import replace

from isotact.core.model.plan import Link, Plan
from isotact.core.model.resolved import ResolvedRig
from isotact.core.planning.choosing.building import build
from isotact.core.planning.choosing.flowing import flowing_ways
from isotact.core.planning.choosing.model import Choosing
from isotact.core.planning.choosing.pinning import is_pinned
from isotact.core.planning.choosing.pricing import aim
from isotact.core.planning.choosing.solving import Watch, solve
from isotact.core.planning.explaining.explain import explain
from isotact.core.planning.finding.requirements import requirements
from isotact.core.planning.finding.searching import Searched, search
from isotact.core.planning.spares import with_spares
from isotact.core.planning.writing import Status, write_plan

# As long as somebody at a cart looks at a screen that says that it is looking.
TIME_LIMIT_S = 20.0
# The simplest few beside the best: enough for a reason in words when the best is lost.
BESIDE_FLOW = 6
FLOW_LIMIT_S = 6.0
"""Where pictures have too many ways to list, so long is looked for the best tree of them."""


def plan(rig: ResolvedRig, time_limit_s: float = TIME_LIMIT_S, watch: Watch | None = None) -> Plan:
    """The best plan for `rig`, proven optimal unless its status says otherwise, with reasons for what it cannot keep.

    The same rig always gives the same plan: one worker, a fixed seed, everything built in id order.
    """
    found, choosing, made = _chosen(rig, time_limit_s, watch)
    if made.status == "out-of-time":
        return made
    unmet = tuple(explain(found, choosing, made))
    few = [one.promise for one in unmet if one.promise in found.flowed]
    says = (
        (f"There are too many ways to list for {', '.join(few)}: the reason weighs only the simplest.",) if few else ()
    )
    return with_spares(rig, made.model_copy(update={"unmet": unmet, "warnings": (*made.warnings, *says)}))


def plan_only(rig: ResolvedRig, time_limit_s: float = TIME_LIMIT_S, links: list[Link] | None = None) -> Plan:
    """The same without the reasons, perhaps with these links only: for comparing, where nobody asks why."""
    return _chosen(rig, time_limit_s, None, links)[2]


def _chosen(
    rig: ResolvedRig, time_limit_s: float, watch: Watch | None, links: list[Link] | None = None
) -> tuple[Searched, Choosing, Plan]:
    found = search(rig, links)
    if found.cut_short:
        found = _with_flow(rig, found, time_limit_s, watch)
    choosing = build(rig, useful_links(rig, found), found.options)
    aim(choosing)
    solver, verdict = solve(choosing.model, time_limit_s, watch=watch)
    if verdict not in ("optimal", "feasible"):
        return found, choosing, write_plan(choosing, None, found.links, "out-of-time", found.cut_short)
    status: Status = "proven-optimal" if verdict == "optimal" and not found.cut_short else "best-so-far"
    return found, choosing, write_plan(choosing, solver, found.links, status, found.cut_short)


def _with_flow(rig: ResolvedRig, found: Searched, time_limit_s: float, watch: Watch | None) -> Searched:
    """Pictures with more ways than are listed: the way that the best plan takes, and the simplest few beside it."""
    pictures = [one for one in rig.rig.pictures if one.id in found.cut_short]
    if len(pictures) < len(found.cut_short) or rig.rig.schools.chain != "either":
        # A control has too many ways, or the school asks each way by itself: the answer stays the best of those listed.
        return found
    taken, proven = flowing_ways(rig, found.links, found.options, pictures, min(time_limit_s, FLOW_LIMIT_S), watch)
    options = dict(found.options)
    for picture in pictures:
        listed = options[picture.id][:BESIDE_FLOW]
        new = [requirements(rig, taken[picture.id])] if picture.id in taken else []
        options[picture.id] = [*new, *(needs for needs in listed if not new or needs.way.legs != new[0].way.legs)]
    names = tuple(picture.id for picture in pictures)
    return replace(found, options=options, cut_short=() if proven else found.cut_short, flowed=names)


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
        if link.id in taken or any(use.is_power or use.is_seat for use in link.uses) or is_pinned(rig, link)
    ]
