"""The wake order of the plan."""

from isotact.core.model.named_keys import wake_key
from isotact.core.trades.planned import Planned
from isotact.core.trades.step_graph import StepGraph


def arrange(planned: Planned, graph: StepGraph) -> None:
    """Put what this trade knows of order into the graph of steps.

    What a device insists on is tied by its conditions, and what a feed asks for by power; the rest is what the school
    prefers, as far as nothing else says otherwise.
    """
    for pair in planned.plan.wake_order:
        graph.wish(wake_key(pair.first), wake_key(pair.second))
