"""What a plan asks of networks, pairings, channels, addresses; how antennas stand."""

from collections.abc import Iterator

from isotact.core.model.plan import Join, LinkEnd
from isotact.core.trades.base import Draft
from isotact.core.trades.care.school_steps import of_school
from isotact.core.trades.planned import Planned, Removal
from isotact.core.trades.radio.conditions import AddressTyped, NetworkJoined, OnChannel, Paired
from isotact.core.trades.radio.server_conditions import NoGuest
from isotact.core.trades.trade import Derived
from isotact.core.world.radio import radio_at


def derive(planned: Planned) -> Derived:
    """The conditions that a plan asks of this trade, each with the promises that need it."""
    for join in planned.joins:
        link = join.link
        if not link.is_radio:
            yield from _of_network(planned, join)
            continue
        needing = planned.lost_without(Removal(links=frozenset((link.id,))))
        if radio_at(planned.rig, link.a).hears(radio_at(planned.rig, link.b)):
            continue
        if radio_at(planned.rig, link.a).is_network:
            yield NetworkJoined(a=link.a, b=link.b, channel=join.channel, promises=needing)
        else:
            others = tuple(
                other.link.ends
                for other in planned.joins
                if other.link.is_radio and other is not join and {*other.link.ends} & {*link.ends}
            )
            yield Paired(a=link.a, b=link.b, others=others, promises=needing)
    yield from _channels(planned)
    for join in planned.joins:
        yield from _of_server(planned, join)


def _channels(planned: Planned) -> Derived:
    """One condition per radio that stands on a channel, however many it hears there."""
    for end, channel in _tuned(planned).items():
        links = frozenset(join.link.id for join in planned.joins if end in join.link.ends)
        radio = radio_at(planned.rig, end)
        yield OnChannel(
            end=end,
            channel=channel,
            with_whom=tuple(_at(planned, end)),
            others=tuple(one for one in radio.channels if one != channel),
            promises=planned.lost_without(Removal(links=links)),
        )


def _tuned(planned: Planned) -> dict[LinkEnd, str]:
    return {
        end: join.channel
        for join in planned.joins
        if join.link.is_radio and join.channel is not None
        if radio_at(planned.rig, join.link.a).hears(radio_at(planned.rig, join.link.b))
        for end in join.link.ends
    }


def _at(planned: Planned, end: LinkEnd) -> Iterator[str]:
    """The devices with which a radio meets in the plan."""
    for join in planned.joins:
        if join.link.is_radio and end in join.link.ends:
            yield next(other for other in join.link.ends if other != end).device


def _of_network(planned: Planned, join: Join) -> Derived:
    """Over a network lead the two find each other by address, and by password."""
    for use in join.carries:
        ends = planned.roles(join, use)
        if any(role.is_addressed for _, role in ends):
            client = next((end for end, role in ends if role.is_host), join.link.b)
            leads = frozenset(
                (join.link.id, one) for one in join.link.uses if planned.role(join.link.a, one.role_a).is_addressed
            )
            yield AddressTyped(
                a=join.link.a,
                b=join.link.b,
                at=client.device,
                one_client=any(role.serves == 1 for _, role in ends),
                promises=planned.lost_without(Removal(uses=leads)),
            )


def _of_server(planned: Planned, join: Join) -> Derived:
    """Where there is room for one client only, it must be the rig's."""
    for use in join.carries:
        for end, role in planned.roles(join, use):
            if role.serves == 1 and (role.is_addressed or join.link.is_radio):
                yield NoGuest(
                    device=end.device,
                    protocol=role.name,
                    client=join.link.far(end.device).device,
                    a=join.link.a,
                    b=join.link.b,
                    by_radio=join.link.is_radio,
                    promises=planned.lost_without(Removal(uses=frozenset(((join.link.id, use),)))),
                )


_ANTENNAS = {
    "upright": (
        "Upright and spread, clear of the motors and of the camera.",
        "Each stands upright and touches nothing.",
    ),
    "inward": (
        "Turned inward, so that the plug beside them goes in. Walk the range with it before the first take.",
        "The plug beside them goes in whole.",
    ),
}


def care(planned: Planned) -> Iterator[Draft]:
    """How antennas stand is a matter of the school that the job has chosen."""
    far = [
        planned.rig[device].name
        for device in planned.in_use
        if any(radio.range_m for radio in planned.rig[device].profile.radios)
    ]
    if far:
        yield of_school("antennas", "pair", far, *_ANTENNAS[planned.rig.rig.schools.antennas])
