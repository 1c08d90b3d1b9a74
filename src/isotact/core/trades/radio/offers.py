"""What a hand can do with the radios of a device: start a link, end one, another channel, an address typed in."""

from collections.abc import Iterator

from isotact.core.model.plan import LinkEnd
from isotact.core.model.ports import Radio as RadioEnd
from isotact.core.trades.base import HandAct
from isotact.core.trades.radio.acts import MeetByRadio, PartRadios, ShowOut, Tune, TypeIn
from isotact.core.world import Cables, Radio, World


def offers(world: World, device: str) -> Iterator[HandAct]:
    """Links between radios of one family that both lie out; those that stand ended; channels; addresses over leads."""
    links = world[Radio]
    for radio in world.rig[device].profile.radios:
        end = LinkEnd(device=device, endpoint=radio.id)
        for channel in radio.channels if radio.by_channel else ():
            if links.channel(end) != channel:
                yield Tune(end=end, channel=channel)
        for far, other in _others(world, device, radio):
            if radio.hears(other):
                continue  # they meet and part by their channels
            yield PartRadios(a=end, b=far) if links.have_met(end, far) else MeetByRadio(a=end, b=far)
    for plug in world[Cables].plugs.values():
        ends = (plug.a, plug.b)
        if device in (plug.a.device, plug.b.device) and all(_is_addressed(world, end) for end in ends):
            yield TypeIn(a=plug.a, b=plug.b)
    for server in sorted(links.guests):
        if server.device == device:
            yield ShowOut(device=device, protocol=server.name)


def _others(world: World, device: str, radio: RadioEnd) -> Iterator[tuple[LinkEnd, RadioEnd]]:
    """The radios of the same family that the other devices have which lie out."""
    for other in sorted(world.out - {device}):
        for far in world.rig[other].profile.radios:
            if far.system == radio.system and (far.is_guest != radio.is_guest or far.part == radio.part == "peer"):
                yield LinkEnd(device=other, endpoint=far.id), far


def _is_addressed(world: World, end: LinkEnd) -> bool:
    return any(role.is_addressed for role in world.rig[end.device].endpoint(end.endpoint).roles)
