"""Where everything of a rig would sit on its gimbal, before there is a plan: all of it on, by its mounts and rings."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from isotact.core.calc.moments import Place
from isotact.core.model.plan import Join, Link, LinkEnd
from isotact.core.model.ports import Port
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.words import Stage
from isotact.core.trades.balance.places import Cage, place, size_of, spot_on


@dataclass(frozen=True)
class Supposed:
    """A rig with all of it built up, as far as a cage asks for it."""

    rig: ResolvedRig
    in_use: tuple[str, ...]
    joins: tuple[Join, ...]


def supposed(rig: ResolvedRig) -> Supposed:
    """What would sit on a gimbal, each thing hung on the first that it goes on.

    One camera, without what finds nothing to hang on, as a second lens, without counterweights, and without the
    heaviest of what is more together than the gimbal carries. What is only thought of, as something that could be
    brought, moves nothing.
    """
    own = {device.id for device in rig.rig.devices}
    on = {
        key: placed
        for key, placed in rig.devices.items()
        if key in own and placed.stage != Stage.OFF_GIMBAL and not placed.profile.ballast
    }
    bodies = [key for key, placed in on.items() if placed.profile.makes and placed.stage == Stage.TILT_CAGE]
    for key in bodies[1:]:
        on.pop(key)
    joins = [*_hung(on)]
    hung = {join.link.b.device for join in joins}
    left = {key: placed for key, placed in on.items() if placed.seat is None or key in hung or placed.is_holder}
    caged = [key for key, placed in left.items() if placed.stage == Stage.TILT_CAGE]
    most_g = max((carrier.max_payload_g for carrier in rig.carriers), default=0.0)
    while len(caged) > 1 and sum(left[key].mass_g for key in caged) > most_g:
        heaviest = max(caged, key=lambda key: (not left[key].profile.makes, left[key].mass_g, key))
        caged.remove(heaviest)
        left.pop(heaviest)
    kept = tuple(join for join in joins if {end.device for end in join.link.ends} <= {*left})
    return Supposed(rig, tuple(left), kept)


def _hung(on: dict[str, Placed]) -> Iterator[Join]:
    taken: set[tuple[str, str]] = set()
    for key, placed in on.items():
        for own in placed.profile.ports:
            if not _hangs(placed, own):
                continue
            free = (
                (other, port.id)
                for other, holder in on.items()
                if other != key
                for port in holder.profile.ports
                if own.is_direct and own.mates(port) and not _hangs(holder, port) and (other, port.id) not in taken
            )
            found = next(free, None)
            if found is not None:
                taken.add(found)
                ends = LinkEnd(device=found[0], endpoint=found[1]), LinkEnd(device=key, endpoint=own.id)
                yield _join(*ends)
                break


def _hangs(placed: Placed, port: Port) -> bool:
    """Whether it is by this port that something hangs on another, or turns a ring of it."""
    return port.id == placed.seat or any(role.turns for role in port.roles)


def _join(a: LinkEnd, b: LinkEnd) -> Join:
    link = Link(id=f"{a}--{b}", kind="direct", a=a, b=b, uses=())
    return Join(tag="", link=link, family="mount", carries=(), promises=())


def spots_of(rig: ResolvedRig) -> dict[str, Place]:
    """Device -> the middle of its outline from the crossing of the axes, in balance, of all that sits in a cage."""
    found = rig.memory.get(spots_of)
    if found is None:
        found = rig.memory[spots_of] = _spots(rig)
    return dict(found)


def _spots(rig: ResolvedRig) -> dict[str, Place]:
    gimbal = gimbal_of(rig)
    if gimbal is None:
        return {}
    cage = Cage(supposed(rig), gimbal)
    boxes = [box for box in cage.boxes.values() if box.rides in ("plate", "tilt-cage")]
    weight = sum(rig[box.key].mass_g for box in boxes)
    # What is in balance has its weight where the axes cross.
    right, forward, up = (
        sum(rig[box.key].mass_g * box.centre[along] for box in boxes) / weight if weight else 0.0 for along in range(3)
    )
    found = {box.key: (box.middle[0] - right, box.middle[1] - forward, box.middle[2] - up) for box in boxes}
    # What else could sit there, as another camera, is taken to come into the place of what is on the plate.
    instead = found.get(cage.root or "", (0.0, 0.0, 0.0))
    others = [key for key, placed in rig.devices.items() if placed.stage == Stage.TILT_CAGE and key not in found]
    return found | dict.fromkeys(others, instead)


def gimbal_of(rig: ResolvedRig) -> str | None:
    """The one gimbal of a rig whose profile says where its plate is and how far its axes turn; None of several."""
    those = [key for key, placed in rig.devices.items() if placed.profile.carrier is not None]
    carrier = rig[those[0]].profile.carrier if len(those) == 1 else None
    return those[0] if carrier is not None and carrier.plate is not None and carrier.turns_deg else None


def end_at(rig: ResolvedRig, end: LinkEnd) -> Place | None:
    """Where one end of a lead is from the crossing of the axes, the camera level; None where nobody said."""
    gimbal, placed = gimbal_of(rig), rig[end.device]
    if gimbal is None:
        return None
    carrier = rig[gimbal].profile.carrier
    assert carrier is not None  # it is a gimbal
    port, stage = placed.endpoint(end.endpoint), placed.stage_of(end.endpoint)
    if end.device == gimbal and end.endpoint in carrier.outlets:
        return place(carrier.outlets[end.endpoint])
    if stage == Stage.TILT_CAGE and end.device != gimbal:
        middle = spots_of(rig).get(end.device)
        if middle is None or not isinstance(port, Port) or port.side is None:
            return middle
        at = spot_on(port.side, port.at or (0.5, 0.5), size_of(placed))
        return middle[0] + at[0], middle[1] + at[1], middle[2] + at[2]
    return next((place(at) for key, at in carrier.outside.items() if key == stage.value), None)
