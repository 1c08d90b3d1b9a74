"""One after the other, in the order of building; what sits on the handles after balance."""

from itertools import pairwise

from isotact.core.model.keys import Between, Key
from isotact.core.model.named_keys import plug_key
from isotact.core.telling.build_words import build_rank
from isotact.core.trades.balance.acts import BalanceIt
from isotact.core.trades.mounting.acts import Fix
from isotact.core.trades.mounting.derive import built_up, mated
from isotact.core.trades.planned import Planned
from isotact.core.trades.step_graph import StepGraph


def arrange(planned: Planned, graph: StepGraph) -> None:
    """One after the other, in the order of building."""
    turned = [device for device in built_up(planned) if planned.rig[device].is_turned]
    steps = [node for device in turned for node in graph.doing(Fix, device)]
    for one, other in pairwise(steps):
        graph.order(one.key, other.key)
    # What nobody balances is put on when that is done: nothing is in the way of hands in the cage.
    for device in built_up(planned):
        for node in graph.doing(Fix, device) if device not in turned else ():
            for balanced in graph.doing(BalanceIt):
                graph.wish(balanced.key, node.key)
    hangs = {hung.device: plug_key(Between(*join.link.ends)) for join, (_, hung) in mated(planned)}
    ranks = {device: build_rank(planned.rig[device]) for device in planned.in_use}
    for join, (base, hung) in mated(planned):
        plug = plug_key(Between(*join.link.ends))
        graph.wish(Key.of("fix", base.device), plug)
        # The lens before what hangs on it: nothing dear is in the way while it goes on.
        for device in built_up(planned):
            if ranks[hung.device] < ranks[device]:
                graph.wish(plug, Key.of("fix", device))
    for join, (base, _) in mated(planned):
        if base.device in hangs:  # on the body first, and only then what hangs on it
            graph.order(hangs[base.device], plug_key(Between(*join.link.ends)))
