"""Care of waking comes after it; proofs come when all else is done."""

from isotact.core.model.keys import Between, Key
from isotact.core.model.named_keys import plug_key, wake_key
from isotact.core.trades.care.acts import Prove
from isotact.core.trades.planned import Planned
from isotact.core.trades.step_graph import StepGraph


def _rest_first(planned: Planned, graph: StepGraph) -> None:
    """The camera is joined only once whatever works it rests."""
    for route in planned.plan.routes:
        check = Key.of("resting", route.hops[0].device) if route.hops else None
        crossed = [hop.link for hop in route.hops if hop.link is not None]
        cables = [planned.plan.join_of(link) for link in crossed]
        last = next((join for join in reversed(cables) if join.link.is_cable), None)
        if check is not None and last is not None:
            graph.order(wake_key(route.hops[0].device), check)
            graph.wish(check, plug_key(Between(last.link.a, last.link.b)))


def arrange(planned: Planned, graph: StepGraph) -> None:
    """Care of waking comes after it; proofs come when all is done that is not care."""
    _rest_first(planned, graph)
    proofs = graph.doing(Prove)
    doing = [node.key for node in graph if not node.care and not isinstance(node.act, Prove)]
    for node in graph:
        if node.key.kind == "care" and node.draft.stage == "wake" and node.draft.device is not None:
            graph.order(wake_key(node.draft.device), node.key)
    for proof in proofs:
        graph.order_all(doing, proof)
