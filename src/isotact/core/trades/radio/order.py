"""A link that is started in another mode only: into that mode, start it, and back."""

from isotact.core.model.keys import Between
from isotact.core.model.named_keys import meet_key, mode_key, wake_key
from isotact.core.model.plan import LinkEnd
from isotact.core.trades.planned import Planned
from isotact.core.trades.radio.acts import (
    mode_draft,
)
from isotact.core.trades.step_graph import Node, StepGraph
from isotact.core.world.radio import radio_at


def arrange(planned: Planned, graph: StepGraph) -> None:
    """A link that is started in another mode only: into that mode, start it, and back."""
    for join in planned.joins:
        meet = graph.get(meet_key(Between(join.link.a, join.link.b)))
        for end in join.link.ends:
            if meet is not None:
                _start_in_mode(planned, graph, end, meet)


def _start_in_mode(planned: Planned, graph: StepGraph, end: LinkEnd, meet: Node) -> None:
    modes, device = radio_at(planned.rig, end).meets_in, end.device
    wanted, found = planned.now.get((device, "mode", "")), planned.rig[device].mode_now
    if not modes or wanted is None or wanted in modes:
        return
    change = graph.get(mode_key(device)) or graph.add(
        mode_draft(planned.rig, "mode", end.device, wanted), meet.promises
    )
    graph.order(wake_key(device), meet.key)
    graph.order(meet.key, change.key)
    change.stage = "pair"
    if found not in modes:
        first = graph.add(mode_draft(planned.rig, "mode-for-link", end.device, modes[0]), meet.promises)
        graph.order(wake_key(device), first.key)
        graph.order(first.key, meet.key)
