"""What a plan's devices are fixed to, in the order of building up."""

from collections.abc import Collection, Iterator, Sequence
from typing import Protocol

from isotact.core.model.plan import Join, LinkEnd
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Stage
from isotact.core.telling.build_words import base_and_hung, build_rank, has_stand
from isotact.core.trades.mounting.conditions import InPlace
from isotact.core.trades.mounting.small_parts import fix_words, fixed_with
from isotact.core.trades.planned import Planned, Removal
from isotact.core.trades.trade import Derived


class Building(Protocol):
    """What is built up, and what of it is joined: a plan, or what is supposed where there is none yet."""

    @property
    def rig(self) -> ResolvedRig: ...
    @property
    def in_use(self) -> Collection[str]: ...
    @property
    def joins(self) -> Sequence[Join]: ...


def derive(planned: Planned) -> Derived:
    """The conditions that a plan asks of this trade, each with the promises that need it."""
    carrier = carrier_of(planned)
    fixed = fixed_with(planned.rig, planned.in_use)
    built, up = built_up(planned), stood(planned)
    for device in (*built, *up):
        sits = planned.rig[device].device.sits
        on = sits.on if sits is not None and sits.on in (*built, *up) else None
        words = fix_words(planned.rig, device, fixed)
        if device in built and planned.rig[device].is_turned:
            needing = planned.lost_without(Removal(devices=frozenset((carrier,)))) if carrier else ()
            yield InPlace(device=device, carrier=carrier, fixed=words, on=on, promises=needing)
        else:
            yield InPlace(device=device, fixed=words, on=on)


def carrier_of(planned: Planned) -> str | None:
    """The gimbal in use that has to be balanced before it is woken."""
    return next((device for device in planned.in_use if planned.rig[device].is_balanced), None)


def built_up(planned: Planned) -> list[str]:
    """What has to be fixed by itself, in the order of building: all but what hangs on another by a mount."""
    hung = {end.device for _, (_, end) in mated(planned)}
    found = [
        device
        for device in planned.in_use
        if planned.rig[device].stage != Stage.OFF_GIMBAL and device not in hung and not planned.rig[device].is_balanced
    ]
    return sorted(found, key=lambda device: (build_rank(planned.rig[device]), device))


def stood(planned: Planned) -> list[str]:
    """What is built off the gimbal, and hangs on nothing there."""
    hung = {end.device for _, (_, end) in mated(planned)}
    off = [device for device in planned.in_use if planned.rig[device].stage == Stage.OFF_GIMBAL and device not in hung]
    return [device for device in off if has_stand(planned.rig[device])]


def mated(planned: Building) -> Iterator[tuple[Join, tuple[LinkEnd, LinkEnd]]]:
    """The joins by which one part hangs on another: the end of what stands already, and of what is put on it."""
    for join in planned.joins:
        end = planned.rig[join.link.a.device].endpoint(join.link.a.endpoint)
        if join.link.is_direct and end.mated and not end.is_gear:
            yield join, base_and_hung(planned.rig, *join.link.ends)
