"""Radio: networks joined, receivers paired, antennas."""

from collections.abc import Iterator

from isotact.core.model.behaviour import Looks
from isotact.core.model.ports import Radio as RadioEnd
from isotact.core.trades.base import Draft
from isotact.core.trades.care.manners import of_school
from isotact.core.trades.planned import Planned, Without
from isotact.core.trades.radio.acts import MeetByRadio, Part
from isotact.core.trades.radio.conditions import NetworkJoined, Paired
from isotact.core.trades.trade import Derived, Trade
from isotact.core.world import Radio, Waking, World


def _derive(planned: Planned) -> Derived:
    for join in planned.joins:
        radio = planned.rig[join.link.a.device].endpoint(join.link.a.endpoint)
        if isinstance(radio, RadioEnd):
            made = NetworkJoined if radio.is_network else Paired
            needing = planned.needed_by(Without(links=frozenset((join.link.id,))))
            yield made(a=join.link.a, b=join.link.b, promises=needing)


_ANTENNAS = {
    "upright": "Upright and spread, clear of the motors and of the camera.",
    "inward": "Turned inward, so that the plug beside them goes in. Walk the range with it before the first take.",
}


def _care(planned: Planned) -> Iterator[Draft]:
    """How antennas stand is a matter of the school that the job has chosen."""
    far = [
        planned.rig[device].name
        for device in planned.in_use
        if any(radio.range_m for radio in planned.rig[device].profile.radios)
    ]
    if far:
        yield of_school("antennas", "pair", far, _ANTENNAS[planned.rig.rig.schools.antennas])


def _networked(world: World, device: str, look: Looks) -> bool:
    return look.over is not None and world[Waking].is_awake(device) and world[Radio].has_met(device, look.over)


TRADE = Trade(
    name="radio",
    state=(Radio,),
    acts=(MeetByRadio, Part),
    conditions=(NetworkJoined, Paired),
    lamps={"networked": _networked},
    derive=_derive,
    care=_care,
)
