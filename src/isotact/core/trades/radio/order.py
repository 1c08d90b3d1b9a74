"""A link that is started in another mode only: into that mode, start it, and back."""

from isotact.core.model.keys import Between
from isotact.core.model.named_keys import meet_key, mode_key, wake_key
from isotact.core.model.plan import LinkEnd
from isotact.core.trades.planned import Planned
from isotact.core.trades.radio.acts import (
    mode_draft,
)
from isotact.core.trades.radio.starting_mode import started_elsewhere
from isotact.core.trades.step_graph import Node, StepGraph
from isotact.core.world.radio import radio_at


def arrange(planned: Planned, graph: StepGraph) -> None:
    """A link that is started in another mode only: into that mode, start it, and back."""
    for device in planned.in_use:
        for end in started_elsewhere(planned, device):
            for join in planned.joins:
                meet = graph.get(meet_key(Between(join.link.a, join.link.b)))
                if meet is not None and end in join.link.ends:
                    _start_in_mode(planned, graph, end, meet)


def _start_in_mode(planned: Planned, graph: StepGraph, end: LinkEnd, meet: Node) -> None:
    device, wake = end.device, graph.get(wake_key(end.device))
    modes, wanted = radio_at(planned.rig, end).meets_in, planned.now[device, "mode", ""]
    change = graph.get(mode_key(device)) or graph.add(mode_draft(planned.rig, "mode", device, wanted), meet.promises)
    if wake is not None:
        # A mode that restarts its device brings it back by itself: it is no start that comes after it.
        wake.after.pop(change.key, None)
        graph.order(wake.key, meet.key)
    graph.order(meet.key, change.key)
    change.stage = "pair"
    if planned.rig[device].mode_now not in modes:
        first = graph.add(mode_draft(planned.rig, "mode-for-link", device, modes[0]), meet.promises)
        graph.order(wake_key(device), first.key)
        graph.order(first.key, meet.key)
        graph.before_what_it_spoils(first, first.act.spoils(planned.rig))
