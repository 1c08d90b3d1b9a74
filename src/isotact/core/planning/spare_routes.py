"""What else there is over the joins of a plan: other ways that are live besides, or would be after one change.

A promise that comes through by two ways does not fall with one of them; to say what it needs, all have to be known.
"""

from collections.abc import Iterator

from isotact.core.model.plan import Plan, Route
from isotact.core.model.resolved import ResolvedRig
from isotact.core.planning.plan_writer import route_of
from isotact.core.planning.ways.requirements import Requirements, obstacles, requirements
from isotact.core.planning.ways.simple_ways import Ways
from isotact.core.trades import Planned


def with_spares(rig: ResolvedRig, plan: Plan) -> Plan:
    """`plan` with the other ways of what it keeps: those that are live, or would be with one knob turned."""
    ways = Ways(rig, [join.link for join in plan.joins])
    links = {join.link.id for join in plan.joins}
    planned = Planned(rig, plan)
    taken = {route.promise: route for route in plan.routes}
    spares: list[Route] = []
    for promise in rig.rig.routed:
        if promise.id in taken:
            found, _ = ways.of(promise)
            for way in found:
                needs = requirements(rig, way)
                if any(True for _ in obstacles(rig, promise, needs)) or len(list(_amiss(planned, needs))) > 1:
                    continue
                route = route_of(rig, promise.id, needs, links)
                if route.hops != taken[promise.id].hops or route.wants != taken[promise.id].wants:
                    spares.append(route)
    return plan.model_copy(update={"spares": tuple(spares)})


def _amiss(planned: Planned, needs: Requirements) -> Iterator[str]:
    """The knobs that stand otherwise than this way wants them."""
    for knob, values in needs.knobs.items():
        if planned.now.get(knob, "") not in values:
            yield knob[2] or knob[1]
