"""What a hand can work at a device: every function of every surface, and a look at the device itself."""

from collections.abc import Iterator

from isotact.core.model.legs import legs_of
from isotact.core.model.rig import Point
from isotact.core.model.vocabulary import vocabulary
from isotact.core.trades.base import HandAct
from isotact.core.trades.care.acts import TakeCare, Work
from isotact.core.world import World


def offers(world: World, device: str) -> Iterator[HandAct]:
    """Each function of each surface, in whatever mode it stands: pressed, or one up and one down."""
    worked = dict.fromkeys(
        (leg.surface, function)
        for leg in legs_of(world.rig[device])
        if leg.surface is not None and leg.functions
        for function in sorted(leg.functions)
    )
    for surface, function in worked:
        at = Point(device=device, surface=surface)
        for turn in (-1, 1) if vocabulary().functions[function].has_number else (0,):
            yield Work(at=at, function=function, turn=turn)
    yield TakeCare()
