"""What a plan asks of motors, rings and lens tables; where motors hang."""

from collections.abc import Iterator

from isotact.core.model.keys import Item
from isotact.core.model.plan import Join, LinkEnd
from isotact.core.model.roles import Role
from isotact.core.model.vocabulary import vocabulary
from isotact.core.trades.base import Draft
from isotact.core.trades.care.school_steps import of_school
from isotact.core.trades.lens_drive.conditions import AloneOnAxis, EndsKnown, TableLoaded
from isotact.core.trades.planned import Planned, Removal
from isotact.core.trades.trade import Derived
from isotact.core.world.lens_drive import up_the_bus


def derive(planned: Planned) -> Derived:
    """The conditions that a plan asks of this trade, each with the promises that need it."""
    for join in planned.joins:
        for use in join.carries:
            for motor, role in planned.roles(join, use):
                if role.turns:
                    yield from _of_motor(planned, join, motor, role)


def _of_motor(planned: Planned, join: Join, motor: LinkEnd, role: Role) -> Derived:
    ring = join.link.far(motor.device)
    lens = planned.rig[ring.device]
    driver = _driver(planned, motor.device)
    needing = planned.lost_without(Removal(links=frozenset((join.link.id,))))
    wakers = (planned.waker(motor.device), driver)
    chosen = next(iter(role.when.settings), None)
    axis = Item(motor.device, chosen) if chosen else None
    yield EndsKnown(
        motor=motor,
        ring=ring,
        join=(join.link.a, join.link.b),
        by="stops" if lens.port(ring.endpoint).hard_stops else "hand",
        wakers=tuple(dict.fromkeys(one for one in wakers if one is not None)),
        axis=axis,
        repeats=lens.profile.lens is None or lens.profile.lens.focus != "by-wire",
        promises=needing,
    )
    others = tuple(_others(planned, motor.device, role, driver))
    if others:
        yield AloneOnAxis(motor=motor, others=others, axis=axis, join=(join.link.a, join.link.b), promises=needing)
    if driver is not None and lens.profile.lens is not None:
        reading = tuple(one for one in needing if _reads_table(planned, one))
        yield TableLoaded(at=_keeper(planned, needing) or driver, lens=ring.device, promises=reading)


def _keeper(planned: Planned, promises: tuple[str, ...]) -> str | None:
    """The device on the way of some of `promises` in which lens tables are kept."""
    hops = (hop.device for route in planned.plan.routes if route.promise in promises for hop in route.hops)
    return next((device for device in hops if planned.rig[device].profile.keeps_tables), None)


def _reads_table(planned: Planned, promise: str) -> bool:
    worked = planned.rig.rig.promise(promise).worked
    return worked is not None and vocabulary().functions[worked].reads_table


def _driver(planned: Planned, motor: str) -> str | None:
    """The device whose orders a motor takes, as planned: itself, or the host of its bus."""
    return up_the_bus(planned.rig, motor, lambda device: _hosts(planned, device))


def _hosts(planned: Planned, device: str) -> Iterator[str]:
    for join in planned.joins:
        for use in join.link.uses:
            for end, role in planned.roles(join, use):
                far = join.link.far(end.device).device
                if end.device != device == far and role.conductor[0] == "bus" and role.is_host:
                    yield end.device


def _others(planned: Planned, motor: str, role: Role, driver: str | None) -> Iterator[tuple[str, str, str]]:
    """Other motors of the driver that a wrong setting would put on the same axis."""
    for device in planned.in_use:
        if device == motor or driver is None or _driver(planned, device) != driver:
            continue
        for end in planned.rig[device].profile.endpoints.values():
            for theirs in end.roles:
                if theirs.turns and theirs.name == role.name:
                    for setting in theirs.when.settings:
                        yield device, setting, theirs.when.allowed(setting)[0]


_MOTORS = {
    "above": ("On the rods above the lens, so that the roll axis stays on the lens.", "They hang over the lens."),
    "beside": (
        "Beside the lens, to counter a body that is heavy on the other side. Balance the roll axis again.",
        "They hang on the light side.",
    ),
}


def care(planned: Planned) -> Iterator[Draft]:
    """Where motors hang is a matter of the school that the job has chosen."""
    motors = [planned.rig[d].name for d in planned.in_use if planned.rig[d].profile.motor is not None]
    if motors:
        yield of_school("motors", "build", motors, *_MOTORS[planned.rig.rig.schools.motor])
