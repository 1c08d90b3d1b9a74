"""What is fixed in its place."""

from dataclasses import dataclass, field
from typing import ClassVar

from isotact.core.model.legs import Leg
from isotact.core.model.plan import LinkEnd
from isotact.core.world.cables import Cables
from isotact.core.world.circuit import circuit_of
from isotact.core.world.world import State, World


@dataclass
class Mounting(State):
    """The devices that are fixed in their place on the gimbal or on the camera.

    `leaving`: those that are to sit where no axis turns them, and still weigh in a cage.
    """

    word: ClassVar[str] = "mounting"
    fixed: set[str] = field(default_factory=set)
    leaving: set[str] = field(default_factory=set)

    def stopped(self, world: World, leg: Leg) -> frozenset[str]:
        """A lens that sits on nothing makes no picture, whoever turns its rings."""
        return leg.passing if leg.device in world.once(_off) else frozenset()


def _off(world: World) -> frozenset[str]:
    return frozenset(device for device in circuit_of(world.rig).seated if not sits(world, device))


def sits(world: World, device: str) -> bool:
    """Whether a device sits where it must, and so does what it sits on; what sits on nothing always does."""
    seat = world.rig[device].seat
    if seat is None:
        return True
    here = LinkEnd(device=device, endpoint=seat)
    below = [plug.b if plug.a == here else plug.a for plug in world[Cables].at(device, seat) if plug.seated]
    return any(sits(world, end.device) for end in below)
