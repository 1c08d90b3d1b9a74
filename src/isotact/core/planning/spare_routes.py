"""What else there is over the joins of a plan: other ways that are live besides, or would be after one change.

A promise that comes through by two ways does not fall with one of them; to say what it needs, all have to be known.
"""

from collections.abc import Iterator
from itertools import product

from isotact.core.model.needed_pictures import merged, needing, with_needed_pictures
from isotact.core.model.plan import Plan, Route
from isotact.core.model.resolved import ResolvedRig
from isotact.core.planning.routes import route_of
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
    live: dict[str, list[Route]] = {}
    asked = with_needed_pictures(rig)
    owner = needing(asked)
    for promise in asked.rig.routed:
        if owner.get(promise.id, promise.id) in taken:
            live[promise.id] = []
            for way in ways.of(promise)[0]:
                needs = requirements(asked, way)
                if any(True for _ in obstacles(asked, promise, needs)) or len(list(_amiss(planned, needs))) > 1:
                    continue
                live[promise.id].append(route_of(asked, promise.id, needs, links))
    for key, route in taken.items():
        pictures = next((those for one, those in live.items() if owner.get(one) == key), None)
        pairs = product(live.get(key, []), [()] if pictures is None else [(one,) for one in pictures])
        others = [both for one, picture in pairs for both in merged([one, *picture], owner)]
        spares += [one for one in others if _way(one) != _way(route)]
    return plan.model_copy(update={"spares": tuple(spares)})


def _way(route: Route) -> tuple[object, ...]:
    return route.hops, route.picture, route.wants


def _amiss(planned: Planned, needs: Requirements) -> Iterator[str]:
    """The knobs that stand otherwise than this way wants them."""
    for knob, values in needs.knobs.items():
        if planned.now.get(knob, "") not in values:
            yield knob[2] or knob[1]
