"""What a gimbal would balance like with something taken off it and something put on, before anything is touched."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace

from isotact.core.calc.moments import Mass
from isotact.core.model.places import Side, Spot
from isotact.core.model.resolved import Placed
from isotact.core.trades.balance.marks import GimbalBalance
from isotact.core.trades.balance.places import OUT, Box, beside, mount_spot, size_of


@dataclass(frozen=True)
class Extra:
    """Something that is not on the gimbal yet, and where it would go.

    `instead_of`: whose place it takes; else it goes on a side of `on`, of the one on the plate where that is None.
    """

    placed: Placed
    on: str | None = None
    side: Side = "top"
    at: Spot = (0.5, 0.5)
    instead_of: str | None = None


def tried(balance: GimbalBalance, off: Collection[str], extras: Sequence[Extra]) -> GimbalBalance:
    """The gimbal without `off` and with `extras`; what sat on something that is off is taken to stay where it is.

    With what is off go its leads and what held nothing else; what comes in its place is held by the same.

    Raises LookupError where something would go on, or come off, that is not there.
    """
    boxes = balance.cage.boxes
    named = {*off, *(one.on for one in extras if one.on), *(one.instead_of for one in extras if one.instead_of)}
    if missing := sorted(named - {*boxes}):
        raise LookupError(missing[0])
    replaced = {one.instead_of for one in extras if one.instead_of}
    gone = {*off} | replaced
    leads = {
        join.tag for join in balance.cage.planned.joins if any(end.device in gone - replaced for end in join.link.ends)
    }
    fixings = {held.mass.key for held in balance.cage.held if held.holds <= gone - replaced}
    found = [_mass(balance, number, one) for number, one in enumerate(extras, start=1)]

    def left(masses: tuple[Mass, ...]) -> tuple[Mass, ...]:
        return (*(one for one in masses if one.key not in gone | leads | fixings), *found)

    return replace(
        balance,
        balancing=replace(balance.balancing, masses=left(balance.balancing.masses)),
        raw=replace(balance.raw, masses=left(balance.raw.masses)),
    )


def _mass(balance: GimbalBalance, number: int, extra: Extra) -> Mass:
    box = _box(balance, extra)
    return Mass(f"extra {number}", extra.placed.mass_g, box.centre, box.rides, box.spread, box.size)


def _box(balance: GimbalBalance, extra: Extra) -> Box:
    cage, placed = balance.cage, extra.placed
    if extra.instead_of is not None:
        return _instead(balance, cage.boxes[extra.instead_of], placed)
    on = extra.on or cage.root
    if on is None:  # an empty gimbal: it is what goes onto the plate
        plate = balance.carrier.plate
        at = (plate.right_mm, plate.forward_mm, plate.up_mm) if plate is not None else (0.0, 0.0, 0.0)
        own = mount_spot(placed)
        return cage.made(placed, (at[0] - own[0], at[1] - own[1], at[2] - own[2]), "plate", "said")
    base = cage.boxes[on]
    return cage.made(placed, beside(base, extra.side, extra.at, placed), base.rides, "said", on)


def _instead(balance: GimbalBalance, old: Box, placed: Placed) -> Box:
    """In the place of another: touching what that touched, on the same side and as far across."""
    cage, size = balance.cage, size_of(placed)
    middle = list(old.middle)
    if old.on is None:
        was, own = mount_spot(cage.rig[old.key]), mount_spot(placed)
        middle = [one + spot - other for one, spot, other in zip(middle, was, own, strict=True)]
    else:
        base = cage.boxes[old.on]

        def outside(side: Side) -> float:
            along, way = OUT[side]
            return way * (old.middle[along] - base.middle[along]) - (base.size[along] + old.size[along]) / 2

        along, way = OUT[max(OUT, key=outside)]
        middle[along] = base.middle[along] + way * (base.size[along] + size[along]) / 2
    return cage.made(placed, (middle[0], middle[1], middle[2]), old.rides, old.how, old.on)


def touched_by(balance: GimbalBalance, off: Collection[str]) -> list[str]:
    """What sits on something that is to come off, and stays on itself."""
    return [box.key for box in balance.cage.boxes.values() if box.on in off and box.key not in off]
