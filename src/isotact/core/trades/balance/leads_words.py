"""What a card says of a lead that crosses axes: where it is tied, its loops, and whether it is long enough for them."""

from collections.abc import Iterator

from isotact.core.model.cable import CableType
from isotact.core.model.plan import LinkEnd
from isotact.core.model.resolved import ResolvedRig
from isotact.core.telling.phrases import crossing_words, together
from isotact.core.trades.balance.leads import KNOWN_MM, Tied, least_mm, tied


def led_words(
    rig: ResolvedRig, ends: tuple[LinkEnd, LinkEnd], axes: tuple[str, ...], length_mm: float
) -> Iterator[str]:
    """How a lead between two ends is led, by what is known of the gimbal; in general words where that is little."""
    led = tied(rig, *ends) if axes else None
    if led is None or not led.loops:
        yield from crossing_words(axes)
        return
    yield f"{_crosses(led)} {tie_words(led, length_mm, least_mm(rig, *ends))}"
    if led.wound:
        yield f"{together(list(led.wound)).capitalize()} has no stop, so no length is enough: half a turn either way."


def _crosses(led: Tied) -> str:
    axes = [axis for axis, _ in led.loops]
    return f"Crosses the {together(list(axes))} {'axis' if len(axes) == 1 else 'axes'}."


def tie_words(led: Tied, length_mm: float, least_mm: float) -> str:
    """Where to tie it and with which loops, or that it is too short to be tied."""
    spare = length_mm - led.needs_mm
    if spare < -KNOWN_MM:
        wants, has = _cm(led.needs_mm), _cm(length_mm)
        free = "leave it free between its ends, and turn each axis to its stops by hand before power"
        reaches = "It reaches" if length_mm - least_mm >= KNOWN_MM else "It only just reaches, as far as is known"
        return f"{reaches}, but loops want {wants} and it has {has}: {free}."
    if len(led.loops) == 1:
        [(axis, loop)] = led.loops
        where = f"the {axis} motor, {_cm(loop)} of loop"
    else:
        where = f"the motors of {together([f'{axis} ({_cm(loop)} of loop)' for axis, loop in led.loops])}"
    left = f"{_cm(spare)} to spare" if spare > KNOWN_MM else "nothing to spare, so try full travel first"
    return f"Tie it beside {where}: {left}."


def _cm(length_mm: float) -> str:
    return f"{length_mm / 10:.0f} cm"


def longer_words(rig: ResolvedRig, ends: tuple[LinkEnd, LinkEnd], cable: CableType, length_mm: float) -> Iterator[str]:
    """Of one that is too short to be tied: the shortest of the bag that carries as much and is not."""
    led = tied(rig, *ends)
    if led is None or length_mm >= led.needs_mm - KNOWN_MM:
        return
    more_mm = led.needs_mm - length_mm
    longer = [
        one
        for key, count in rig.stock.items()
        if count and _does_as_much(one := rig.cables[key], cable) and _fits(rig, ends, one)
        if one.length_mm >= cable.length_mm + more_mm
    ]
    best = min(longer, key=lambda one: (one.length_mm, one.id), default=None)
    if best is not None:
        yield f"{best.name} is long enough to be tied: take it where you can."


def _does_as_much(one: CableType, other: CableType) -> bool:
    """Whether one has the plugs of another and carries all that it does."""
    connectors = (sorted(end.connector for end in cable.ends) for cable in (one, other))
    carried, wanted = ({(each.medium, *each.wired_for) for each in cable.carries} for cable in (one, other))
    return len({*map(tuple, connectors)}) == 1 and wanted <= carried


def _fits(rig: ResolvedRig, ends: tuple[LinkEnd, LinkEnd], one: CableType) -> bool:
    """Whether its plugs clear what stands beside the two sockets, the one way round or the other."""
    wanted = [getattr(rig[end.device].endpoint(end.endpoint), "angles", []) for end in ends]
    angles = [end.angle for end in one.ends]
    return any(
        all(not clear or angle in clear for clear, angle in zip(wanted, turned, strict=True))
        for turned in (angles, angles[::-1])
    )
