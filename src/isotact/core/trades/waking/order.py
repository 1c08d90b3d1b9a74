"""The wake order of the plan."""

from isotact.core.model.keys import Key
from isotact.core.trades.planned import Planned
from isotact.core.trades.step_graph import StepGraph


def arrange(planned: Planned, graph: StepGraph) -> None:
    """Put what this trade knows of order into the graph of steps."""
    for pair in planned.plan.wake_order:
        graph.order(Key.of("wake", pair.first), Key.of("wake", pair.second))
