"""What a hand can do at a device with what is plugged into it, and with the cables that lie flagged and ready."""

from collections.abc import Iterator

from isotact.core.model.plan import LinkEnd
from isotact.core.model.words import Stage
from isotact.core.trades.base import HandAct
from isotact.core.trades.cables.acts import Plug, PushHome, PutBack, Replug, Unplug
from isotact.core.trades.cables.removal import TakeOff
from isotact.core.world import Cables, World


def offers(world: World, device: str) -> Iterator[HandAct]:
    """Plugs pulled, pushed home, put back in; cables that lie ready put into any free port that takes their plug.

    Neither another cable nor one with more than two ends is offered: what flag it gets, and which end goes where, is
    the plan's to say.
    """
    for plug in world[Cables].plugs.values():
        if device in (plug.a.device, plug.b.device):
            yield Unplug(a=plug.a, b=plug.b)
            if plug.held:
                yield PutBack(a=plug.a, b=plug.b)
            elif not plug.seated:
                yield PushHome(a=plug.a, b=plug.b)
            else:
                yield Replug(a=plug.a, b=plug.b)
    yield from _mating(world, device)
    if device in world.out:
        yield from _plugging(world, device)
    if device in world.out:
        yield TakeOff(device=device, on_gimbal=world.rig[device].stage != Stage.OFF_GIMBAL)


def _plugging(world: World, device: str) -> Iterator[HandAct]:
    in_use = {plug.tag for plug in world[Cables].plugs.values()}
    for tag, laid in world[Cables].laid_out.items():
        cable = world.rig.cables.get(laid.cable)
        if tag in in_use or cable is None or laid.adapters or cable.is_splitter:
            continue
        alike = cable.ends[0].connector == cable.ends[1].connector
        for near, far in ((1, 2),) if alike else ((1, 2), (2, 1)):
            here, there = cable.ends[near - 1].connector, cable.ends[far - 1].connector
            for a in _free(world, device, here):
                for other in sorted(world.out - {device}):
                    for b in _free(world, other, there):
                        yield Plug(tag=tag, a=a, b=b, end_a=near, end_b=far)


def _mating(world: World, device: str) -> Iterator[HandAct]:
    """What goes straight in, without a cable: a battery on its plate, a lead that is part of a device."""
    for port in world.rig[device].profile.ports:
        a = LinkEnd(device=device, endpoint=port.id)
        for other in sorted({*world.rig.devices} - {device}) if _is_free(world, a) else ():
            for far in world.rig[other].profile.ports:
                b = LinkEnd(device=other, endpoint=far.id)
                straight = port.is_direct or (port.lead_mm is None) is not (far.lead_mm is None)
                if straight and port.mates(far) and _is_free(world, b):
                    yield Plug(tag=world.rig[other].name, a=a, b=b, direct=True)


def _free(world: World, device: str, connector: str) -> Iterator[LinkEnd]:
    """The sockets of a device with that connector in which nothing is."""
    for port in world.rig[device].profile.ports:
        end = LinkEnd(device=device, endpoint=port.id)
        straight = port.is_direct or port.lead_mm is not None
        if port.connector == connector and not straight and _is_free(world, end):
            yield end


def _is_free(world: World, end: LinkEnd) -> bool:
    return not world[Cables].at(end.device, end.endpoint)
