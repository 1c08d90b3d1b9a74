"""What a plan's joins ask of cables and ports: a condition for each, with the promises that need it."""

from collections.abc import Callable, Iterator

from isotact.core.model.plan import Join, LinkEnd, Use
from isotact.core.trades.cables.conditions import Joined, Seated
from isotact.core.trades.cables.wiring_conditions import Carries, FoundAtStart, Wired
from isotact.core.trades.planned import Planned, Removal
from isotact.core.trades.trade import Derived


def derive(planned: Planned) -> Derived:
    """The conditions that a plan asks of this trade, each with the promises that need it."""
    for join in planned.joins:
        if not join.link.is_radio:
            yield from _of_join(planned, join)


def _of_join(planned: Planned, join: Join) -> Derived:
    link = join.link
    link_devices = (link.a.device, link.b.device)
    needing = planned.lost_without(Removal(links=frozenset((link.id,))))
    media: dict[str, list[str]] = {}
    for carried, wired in (_conductor(planned, join, use) for use in join.carries):
        media.setdefault(carried, []).append(wired)
    yield Joined(
        tag=join.tag,
        a=link.a,
        b=link.b,
        cable=link.cable,
        adapter_a=link.adapter_a,
        adapter_b=link.adapter_b,
        end_a=link.end_a,
        end_b=link.end_b,
        lead=link.lead,
        outside=planned.leaves_cage(join),
        axes=link.axes,
        avoid=join.avoid,
        media=tuple(media) if link.cable else (),
        wrong=tuple(_wrong_ports(planned, join)) if link.cable else (),
        wakes=next((one for one in planned.in_use if one in link_devices and planned.holds(one, join)), None),
        promises=needing,
    )
    yield Seated(tag=join.tag, a=link.a, b=link.b, promises=needing)
    for medium, families in media.items() if link.cable else ():
        yield Carries(
            tag=join.tag,
            a=link.a,
            b=link.b,
            cable=link.cable or "",
            adapters=link.adapters,
            lead=link.lead,
            medium=medium,
            wired=tuple(dict.fromkeys(families)),
            media=tuple(media),
            promises=_needing(planned, join, lambda use, lost=medium: _conductor(planned, join, use)[0] == lost),
        )
    for use in join.carries:
        yield from _of_use(planned, join, use)


def _of_use(planned: Planned, join: Join, use: Use) -> Derived:
    link = join.link
    role = planned.role(link.a, use.role_a)
    if link.cable and role.is_control:
        medium, protocol = role.conductor
        promises = _needing(planned, join, lambda other: _conductor(planned, join, other)[1] == protocol)
        yield Wired(tag=join.tag, a=link.a, b=link.b, medium=medium, protocol=protocol, promises=promises)
    for end, own in planned.roles(join, use):
        waker = planned.waker(end.device)
        if own.notices_at_boot and waker is not None:
            promises = _needing(planned, join, lambda other, at=end: _notices(planned, join, other, at))
            yield FoundAtStart(tag=join.tag, a=link.a, b=link.b, device=end.device, waker=waker, promises=promises)


def _notices(planned: Planned, join: Join, use: Use, end: LinkEnd) -> bool:
    return any(at == end and role.notices_at_boot for at, role in planned.roles(join, use))


def _conductor(planned: Planned, join: Join, use: Use) -> tuple[str, str]:
    return planned.role(join.link.a, use.role_a).conductor


def _needing(planned: Planned, join: Join, lost: Callable[..., bool]) -> tuple[str, ...]:
    """The promises that need those of all that the join could carry, planned or not, for which `lost` says so."""
    return planned.lost_without(Removal(uses=frozenset((join.link.id, use) for use in join.link.uses if lost(use))))


def _wrong_ports(planned: Planned, join: Join) -> Iterator[LinkEnd]:
    """Free look-alikes of either port in which this cable would do nothing: a plug in one of them is a fault."""
    taken = {end for other in planned.joins for end in (other.link.a, other.link.b)}
    for end, far in ((join.link.a, join.link.b), (join.link.b, join.link.a)):
        placed = planned.rig[end.device]
        theirs = planned.rig[far.device].endpoint(far.endpoint).roles
        for port in placed.profile.ports:
            other = LinkEnd(device=end.device, endpoint=port.id)
            if other in taken or not placed.endpoint(end.endpoint).looks_like(port):
                continue
            if not any(mine.fits(yours) for mine in port.roles for yours in theirs):
                yield other
