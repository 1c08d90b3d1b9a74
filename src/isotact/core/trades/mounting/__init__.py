"""Mounting: what is fixed where, in the order in which a rig is built up."""

from collections.abc import Iterator
from itertools import pairwise

from isotact.core.model.keys import Between, Key
from isotact.core.model.plan import Join, LinkEnd
from isotact.core.model.words import Stage
from isotact.core.telling.build_words import base_and_hung, build_rank
from isotact.core.trades.mounting.acts import ComeLoose, Fix
from isotact.core.trades.mounting.conditions import InPlace
from isotact.core.trades.planned import Planned, Removal
from isotact.core.trades.step_graph import StepGraph
from isotact.core.trades.trade import Derived, Trade
from isotact.core.world.mounting import Mounting


def _derive(planned: Planned) -> Derived:
    carrier = carrier_of(planned)
    for device in built_up(planned):
        needing = planned.lost_without(Removal(devices=frozenset((carrier,)))) if carrier else ()
        yield InPlace(device=device, carrier=carrier, promises=needing)


def carrier_of(planned: Planned) -> str | None:
    """The gimbal in use that has to be balanced before it is woken."""
    return next((device for device in planned.in_use if planned.rig[device].is_balanced), None)


def built_up(planned: Planned) -> list[str]:
    """What has to be fixed by itself, in the order of building: all but what hangs on another by a mount."""
    hung = {end.device for _, (_, end) in mated(planned)}
    found = [
        device
        for device in planned.in_use
        if planned.rig[device].stage != Stage.OFF_GIMBAL and device not in hung and not planned.rig[device].is_balanced
    ]
    return sorted(found, key=lambda device: (build_rank(planned.rig[device]), device))


def mated(planned: Planned) -> Iterator[tuple[Join, tuple[LinkEnd, LinkEnd]]]:
    """The joins by which one part hangs on another: the end of what stands already, and of what is put on it."""
    for join in planned.joins:
        end = planned.rig[join.link.a.device].endpoint(join.link.a.endpoint)
        if join.link.is_direct and end.mated and not end.is_gear:
            yield join, base_and_hung(planned.rig, *join.link.ends)


def _arrange(planned: Planned, graph: StepGraph) -> None:
    """One after the other, in the order of building."""
    steps = [node for device in built_up(planned) for node in graph.doing(Fix, device)]
    for one, other in pairwise(steps):
        graph.order(one.key, other.key)
    hangs = {hung.device: Key.of("plug", Between(*join.link.ends)) for join, (_, hung) in mated(planned)}
    for join, (base, _) in mated(planned):
        if base.device in hangs:  # on the body first, and only then what hangs on it
            graph.order(hangs[base.device], Key.of("plug", Between(*join.link.ends)))


TRADE = Trade(
    name="mounting",
    state=(Mounting,),
    acts=(Fix, ComeLoose),
    conditions=(InPlace,),
    derive=_derive,
    arrange=_arrange,
)
