"""Whether what is in a hand goes into two ports: by its plugs, the room beside them, and its length."""

from collections.abc import Iterator
from itertools import permutations

from isotact.core.model.cable import CableType, End
from isotact.core.model.plan import LinkEnd
from isotact.core.model.ports import Port
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.vocabulary import vocabulary
from isotact.core.trades.balance.leads import least_mm
from isotact.core.world.cables import Laid


def has_port(rig: ResolvedRig, end: LinkEnd) -> bool:
    """Whether a rig has that port."""
    placed = rig.devices.get(end.device)
    return placed is not None and any(port.id == end.endpoint for port in placed.profile.ports)


def goes_in(rig: ResolvedRig, laid: Laid | None, ends: tuple[LinkEnd, LinkEnd], numbers: tuple[int, int]) -> str | None:
    """Why `laid`, or with None the two parts by themselves, does not go between two ports, as a hand feels it.

    `numbers`: which end of the cable, counted from 1, is to go into which of the two. None: it goes in.
    """
    ports = [rig[end.device].port(end.endpoint) for end in ends]
    if laid is None:
        return _together(rig, ends, ports)
    cable = rig.cables[laid.cable]
    if len(set(numbers)) < 2 or not all(1 <= number <= len(cable.ends) for number in numbers):
        return f"{cable.name} has no such ends."
    straight = next((port for port in ports if port.is_direct or port.lead_mm is not None), None)
    if straight is not None:
        return f"No cable goes into “{straight.marking}”."
    refused = ""
    for plugs in _plugs(cable, [rig.cables[one] for one in laid.adapters], numbers):
        refused = next((said for said in map(_kept_out, plugs, ports) if said), "")
        if not refused:
            break
    length_mm = cable.length_mm + sum(rig.cables[one].length_mm for one in laid.adapters)
    wanted_mm = least_mm(rig, *ends)
    if not refused and length_mm < wanted_mm:
        return f"It does not reach: {length_mm / 10:g} cm, and {wanted_mm / 10:g} cm are wanted."
    return refused or None


def _together(rig: ResolvedRig, ends: tuple[LinkEnd, LinkEnd], ports: list[Port]) -> str | None:
    leads = [port.lead_mm for port in ports if port.lead_mm is not None]
    if not ports[0].mates(ports[1]) or len(leads) == 2 or not (leads or all(port.is_direct for port in ports)):
        return "The two do not go together."
    wanted_mm = least_mm(rig, *ends)
    if leads and leads[0] < wanted_mm:
        return f"Its lead does not reach: {leads[0] / 10:g} cm, and {wanted_mm / 10:g} cm are wanted."
    return None


def _plugs(cable: CableType, adapters: list[CableType], numbers: tuple[int, int]) -> Iterator[tuple[End, End]]:
    """The plugs at its two ends, one way after the other in which its adapters can be on it."""
    own = [cable.ends[number - 1] for number in numbers]
    places: list[CableType | None] = [*adapters, *[None] * (2 - len(adapters))]
    for one, other in dict.fromkeys(permutations(range(2))):
        on = (places[one], places[other])
        if all(adapter is None or _goes_on(adapter, end) for adapter, end in zip(on, own, strict=True)):
            first, second = (_plug_of(adapter) if adapter else end for adapter, end in zip(on, own, strict=True))
            yield first, second


def _goes_on(adapter: CableType, end: End) -> bool:
    return any(one.gender == "receptacle" and one.connector == end.connector for one in adapter.ends)


def _plug_of(adapter: CableType) -> End:
    return next(end for end in adapter.ends if end.gender == "plug")


def _kept_out(plug: End, port: Port) -> str:
    if plug.connector != port.connector:
        shapes = vocabulary().connectors
        return (
            f"It does not go in: {shapes[plug.connector].name}, and “{port.marking}” is {shapes[port.connector].name}."
        )
    if port.angles and plug.angle not in port.angles:
        return f"It does not go in beside what stands there: “{port.marking}” wants a {' or '.join(port.angles)} plug."
    return ""
