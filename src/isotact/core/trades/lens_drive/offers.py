"""What a hand can do with motors and lens tables."""

from collections.abc import Iterator

from isotact.core.model.plan import LinkEnd
from isotact.core.trades.base import HandAct
from isotact.core.trades.lens_drive.acts import LoadTable, MapEnds
from isotact.core.world import World
from isotact.core.world.circuit import circuit_of
from isotact.core.world.lens_drive import ring_of


def offers(world: World, device: str) -> Iterator[HandAct]:
    """The ends of the ring that a motor meshes with, by its stops or by hand; the tables of the lenses that lie out."""
    placed = world.rig[device]
    for end in placed.profile.endpoints.values() if device in circuit_of(world.rig).turning else ():
        motor = LinkEnd(device=device, endpoint=end.id)
        ring = ring_of(world, motor) if any(role.turns for role in end.roles) else None
        if ring is not None:
            yield MapEnds(motor=motor, ring=ring, by="stops")
            yield MapEnds(motor=motor, ring=ring, by="hand")
    drives = any(role.is_host and role.conductor[0] == "bus" for end in placed.profile.ports for role in end.roles)
    # Some motors are their own driver.
    if placed.profile.keeps_tables or drives or device in circuit_of(world.rig).turning:
        for lens in sorted(world.rig.devices):
            if world.rig[lens].profile.lens is not None:
                yield LoadTable(at=device, lens=lens)
