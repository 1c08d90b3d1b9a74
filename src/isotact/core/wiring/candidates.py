"""Every link that could be made: pairs of ends whose plugs mate and whose roles fit."""

from collections.abc import Iterator
from itertools import combinations, product
from typing import Literal

from isotact.core.model.cable import CableType
from isotact.core.model.plan import Link, LinkEnd, Use
from isotact.core.model.ports import BusRole, ControlRole, Port, PowerRole, Radio, Role, VideoRole
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.words import CONNECTORS, axes_between

_MEETS = {
    ("access-point", "station"),
    ("station", "access-point"),
    ("peer", "peer"),
    ("sender", "receiver"),
    ("receiver", "sender"),
}


def candidates(rig: ResolvedRig) -> list[Link]:
    """Every link that could be made with the bag, sorted by id."""
    return sorted(_links(rig, {key: rig.cables[key] for key, count in rig.stock.items() if count}), key=_by_id)


def would_be(rig: ResolvedRig) -> list[Link]:
    """Every link that could be made if the bag held one of each cable type there is."""
    return sorted(_links(rig, dict(sorted(rig.cables.items()))), key=_by_id)


def _by_id(link: Link) -> str:
    return link.id


def _links(rig: ResolvedRig, cables: dict[str, CableType]) -> Iterator[Link]:
    plain = [cable for cable in cables.values() if cable.kind == "cable" and len(cable.ends) == 2]
    adapters = [cable for cable in cables.values() if cable.kind == "adapter" and len(cable.ends) == 2]
    for one, other in combinations(rig.devices.values(), 2):
        for port_a, port_b in product(one.profile.ports, other.profile.ports):
            yield from _port_links(one, port_a, other, port_b, plain, adapters)
        for radio_a, radio_b in product(one.profile.radios, other.profile.radios):
            yield from _radio_links(one, radio_a, other, radio_b)


def _port_links(
    one: Placed, port_a: Port, other: Placed, port_b: Port, plain: list[CableType], adapters: list[CableType]
) -> Iterator[Link]:
    fitting = [pair for pair in product(port_a.roles, port_b.roles) if roles_fit(*pair)]
    if not fitting:
        return
    ends = LinkEnd(device=one.id, endpoint=port_a.id), LinkEnd(device=other.id, endpoint=port_b.id)
    if CONNECTORS[port_a.connector].direct or CONNECTORS[port_b.connector].direct:
        if port_a.connector == port_b.connector:
            uses = tuple(_use(a, b) for a, b in fitting)
            yield Link(id=f"{ends[0]}--{ends[1]}", kind="direct", a=ends[0], b=ends[1], uses=uses)
        return
    axes = axes_between(one.stage_of(port_a.id), other.stage_of(port_b.id))
    for cable in plain:
        for way in _ways_in(cable, port_a.connector, port_b.connector, adapters):
            end_a, adapter, adapter_at = way
            carried = tuple(_use(a, b) for a, b in fitting if _carries(cable, adapter, end_a, a))
            if carried:
                tail = f"~{cable.id}" + (f"+{adapter.id}@{adapter_at}" if adapter else "")
                yield Link(
                    id=f"{ends[0]}--{ends[1]}{tail}",
                    kind="cable",
                    a=ends[0],
                    b=ends[1],
                    cable=cable.id,
                    adapter=adapter.id if adapter else None,
                    adapter_at=adapter_at,
                    end_a=end_a,
                    uses=carried,
                    axes=axes,
                )


Way = tuple[int, CableType | None, Literal["a", "b"] | None]


def _ways_in(cable: CableType, want_a: str, want_b: str, adapters: list[CableType]) -> Iterator[Way]:
    """How `cable` can lie between two sockets: its end at a, and the adapter at one end if it needs one.

    A cable that fits without an adapter is not offered with one.
    """
    found = False
    for end_a, (first, second) in ((1, cable.ends), (2, cable.ends[::-1])):
        if first.connector == want_a and second.connector == want_b:
            found = True
            yield end_a, None, None
            if first == second and not any(conductor.one_way for conductor in cable.carries):
                break
    if found:
        return
    for adapter in adapters:
        plug = next(end for end in adapter.ends if end.gender == "plug")
        socket = next((end for end in adapter.ends if end.gender == "receptacle"), None)
        if socket is None:
            continue
        for end_a, (first, second) in ((1, cable.ends), (2, cable.ends[::-1])):
            if plug.connector == want_a and first.connector == socket.connector and second.connector == want_b:
                yield end_a, adapter, "a"
            elif plug.connector == want_b and second.connector == socket.connector and first.connector == want_a:
                yield end_a, adapter, "b"


def roles_fit(a: Role, b: Role) -> bool:
    """Whether two roles have anything to say to each other."""
    match a, b:
        case ControlRole(), ControlRole():
            ends = {a.end, b.end}
            return a.protocol == b.protocol and (ends == {"host", "device"} or ends == {"peer"})
        case VideoRole(), VideoRole():
            return a.signal == b.signal and a.flow != b.flow
        case PowerRole(), PowerRole():
            if a.flow == b.flow:
                return False
            out, into = (a, b) if a.flow == "out" else (b, a)
            return into.takes(out)
        case BusRole(), BusRole():
            return a.bus == b.bus
    return False


def _use(a: Role, b: Role) -> Use:
    flow: Literal["a-to-b", "b-to-a", "both"] = "both"
    if isinstance(a, VideoRole | PowerRole):
        flow = "a-to-b" if a.flow == "out" else "b-to-a"
    return Use(kind=a.kind, role_a=a.name, role_b=b.name, flow=flow)


def medium_of(role: Role) -> tuple[str, str]:
    """The medium that a role needs, and the name that a cable must be wired for."""
    match role:
        case ControlRole():
            return role.medium, role.protocol
        case VideoRole():
            return role.signal, role.signal
        case PowerRole():
            return "power", "power"
        case BusRole():
            return "bus", role.bus


def _carries(cable: CableType, adapter: CableType | None, end_a: int, a: Role) -> bool:
    medium, wired = medium_of(a)
    from_a = not isinstance(a, VideoRole | PowerRole) or a.flow == "out"
    for conductor in cable.carries:
        if conductor.one_way and (conductor.between[0] == end_a) != from_a:
            continue
        if conductor.conducts(medium, wired):
            return adapter is None or any(other.conducts(medium, wired) for other in adapter.carries)
    return False


def _radio_links(one: Placed, radio_a: Radio, other: Placed, radio_b: Radio) -> Iterator[Link]:
    if radio_a.system != radio_b.system or (radio_a.part, radio_b.part) not in _MEETS:
        return
    uses = tuple(_use(a, b) for a, b in product(radio_a.roles, radio_b.roles) if roles_fit(a, b))
    if uses:
        ends = LinkEnd(device=one.id, endpoint=radio_a.id), LinkEnd(device=other.id, endpoint=radio_b.id)
        yield Link(id=f"{ends[0]}--{ends[1]}", kind="radio", a=ends[0], b=ends[1], uses=uses)
