"""Care of waking comes after it; proofs come when all else is done."""

from isotact.core.model.keys import Between, Key
from isotact.core.model.named_keys import meet_key, plug_key, wake_key
from isotact.core.trades.balance.acts import BalanceIt
from isotact.core.trades.care.acts import Prove
from isotact.core.trades.mounting.acts import Fix
from isotact.core.trades.planned import Planned
from isotact.core.trades.step_graph import StepGraph


def _rest_first(planned: Planned, graph: StepGraph) -> None:
    """The camera is joined only once whatever works it rests."""
    for route in planned.plan.routes:
        if not route.hops:
            continue
        check = Key.of("resting", route.hops[0].device)
        crossed = [hop.link for hop in route.hops if hop.link is not None]
        cables = [planned.plan.join_of(link) for link in crossed]
        for join in cables:
            if join.link.is_radio:  # what it sends at rest is read once it is bound
                graph.wish(meet_key(Between(*join.link.ends)), check)
        last = next((join for join in reversed(cables) if join.link.is_cable), None)
        if planned.rig[route.hops[-1].device].profile.makes and graph.get(check) is not None:
            # The body that is worked so starts last, when all that it could be told is at rest.
            body = wake_key(route.hops[-1].device)
            for device in planned.in_use:
                graph.wish(wake_key(device), body)
        if last is not None:
            graph.order(wake_key(route.hops[0].device), check)
            graph.wish(check, plug_key(Between(last.link.a, last.link.b)))


def arrange(planned: Planned, graph: StepGraph) -> None:
    """Care of waking comes after it; proofs come when all is done that is not care."""
    _rest_first(planned, graph)
    proofs = graph.doing(Prove)
    doing = [node.key for node in graph if not node.care and not isinstance(node.act, Prove)]
    for node in graph:
        if node.key.kind == "care" and node.draft.stage in ("wake", "lens") and node.draft.device is not None:
            graph.order(wake_key(node.draft.device), node.key)
        if node.key.kind == "care" and node.draft.stage == "balance":  # a pole, once all that hangs on it does
            graph.order_all([one.key for one in graph.doing((Fix, BalanceIt))], node)
    for proof in proofs:
        graph.order_all(doing, proof)
