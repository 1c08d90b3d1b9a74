"""What is woken after what feeds it."""

from collections.abc import Iterator

from isotact.core.model.keys import Between, Item, Key
from isotact.core.model.named_keys import mode_key, plug_key, wake_key
from isotact.core.model.plan import Feed
from isotact.core.trades.planned import Planned
from isotact.core.trades.power.derive import gives_power
from isotact.core.trades.step_graph import StepGraph


def arrange(planned: Planned, graph: StepGraph) -> None:
    """What has no battery of its own is woken after all that its power comes through, and what lets that feed."""
    for device in planned.in_use:
        for feed in planned.feeds_above(device):
            for earlier in _first(planned, feed):
                for later in ("menu-wake", "wake"):
                    graph.order(earlier, Key.of(later, device))
    for device, giver, _ in planned.too_weak:
        # Its own feed goes in again as it wakes: until then it would start, brown out and start over on the other.
        graph.wish(wake_key(device), wake_key(giver))


def _first(planned: Planned, feed: Feed) -> Iterator[Key]:
    giver = feed.from_device or ""
    join = planned.plan.join_of(feed.join or "")
    yield plug_key(Between(join.link.a, join.link.b))
    yield wake_key(giver)
    yield mode_key(giver)
    for use in join.carries:
        for end, role in planned.roles(join, use):
            if end.device == giver and gives_power(role):
                yield from (Key.of("set", Item(giver, key)) for key in role.when.settings)
