"""Mounting: what is fixed where, in the order in which a rig is built up."""

from itertools import pairwise

from isotact.core.model.words import Stage
from isotact.core.telling.building import build_rank
from isotact.core.trades.graph import StepGraph
from isotact.core.trades.mounting.acts import ComeLoose, Fix
from isotact.core.trades.mounting.conditions import InPlace
from isotact.core.trades.mounting.state import Mounting
from isotact.core.trades.planned import Planned, Without
from isotact.core.trades.trade import Derived, Trade


def _derive(planned: Planned) -> Derived:
    carrier = carrier_of(planned)
    for device in built_up(planned):
        needing = planned.needed_by(Without(devices=frozenset((carrier,)))) if carrier else ()
        yield InPlace(device=device, carrier=carrier, promises=needing)


def carrier_of(planned: Planned) -> str | None:
    """The gimbal in use that has to be balanced before it is woken."""
    return next((device for device in planned.in_use if planned.rig[device].is_balanced), None)


def built_up(planned: Planned) -> list[str]:
    """What has to be fixed by itself, in the order of building: all but what hangs on another by a mount."""
    hung = {hung_of(planned, join.link.a.device, join.link.b.device) for join in planned.joins if join.link.is_direct
            and planned.rig[join.link.a.device].endpoint(join.link.a.endpoint).mated
            and not planned.rig[join.link.a.device].endpoint(join.link.a.endpoint).is_gear}  # fmt: skip
    found = [
        device
        for device in planned.in_use
        if planned.rig[device].stage != Stage.OFF_GIMBAL and device not in hung and not planned.rig[device].is_balanced
    ]
    return sorted(found, key=lambda device: (build_rank(planned.rig[device]), device))


def hung_of(planned: Planned, one: str, other: str) -> str:
    """Of two parts that mate, the one that is put on the other."""
    return max((one, other), key=lambda device: (build_rank(planned.rig[device]), device))


def _arrange(planned: Planned, graph: StepGraph) -> None:
    """One after the other, in the order of building."""
    steps = [node for device in built_up(planned) for node in graph.doing(Fix, device)]
    for one, other in pairwise(steps):
        graph.order(one.key, other.key)


TRADE = Trade(
    name="mounting",
    state=(Mounting,),
    acts=(Fix, ComeLoose),
    conditions=(InPlace,),
    derive=_derive,
    arrange=_arrange,
)
