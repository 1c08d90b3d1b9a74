"""Links that start in some modes of their device only, where the plan wants it in another."""

from collections.abc import Iterator

from isotact.core.model.plan import LinkEnd
from isotact.core.trades.planned import Planned
from isotact.core.world.radio import radio_at


def started_elsewhere(planned: Planned, device: str) -> Iterator[LinkEnd]:
    """The ends of a device's links that are started in another mode than the one in which the plan leaves it.

    Its mode is chosen once they stand.
    """
    wanted = planned.now.get((device, "mode", ""))
    for join in planned.joins:
        for end in join.link.ends:
            if end.device == device and join.link.is_radio and wanted is not None:
                modes = radio_at(planned.rig, end).meets_in
                if modes and wanted not in modes:
                    yield end
