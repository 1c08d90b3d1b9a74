"""Follows a function or a picture through the world as it is now, hop by hop, until it arrives or dies.

Looks only at what is plugged, awake, set and met: never at a plan or at conditions.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from weakref import WeakKeyDictionary

from isotact.core.conditions.cables import sent_format
from isotact.core.conditions.world import Plugged, World, up_since_s
from isotact.core.model.plan import LinkEnd
from isotact.core.model.ports import ControlRole, Role, VideoRole, When
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import ControlPromise, PicturePromise
from isotact.core.model.words import pixels_rate, version_key
from isotact.core.wiring.candidates import medium_of, roles_fit
from isotact.core.wiring.legs import Leg, legs_of


@dataclass(frozen=True)
class Arrival:
    """A signal that came through: the devices on its way, its delay, and whether it carries the look."""

    devices: tuple[str, ...]
    delay_ms: float
    look: bool
    end: Leg


@dataclass(frozen=True)
class _Signal:
    leg: Leg
    devices: tuple[str, ...]
    delay_ms: float
    look: bool


def live_legs(world: World) -> list[Leg]:
    """The legs that work now: device alive, mode, settings, answers, firmware and licence as they want."""
    return [
        leg
        for device in world.rig.devices
        if world.is_alive(device)
        for leg in _legs(world.rig, device)
        if all(_allows(world, device, when) for when in leg.whens)
    ]


_KNOWN: WeakKeyDictionary[ResolvedRig, dict[str, tuple[Leg, ...]]] = WeakKeyDictionary()


def _legs(rig: ResolvedRig, device: str) -> tuple[Leg, ...]:
    """The legs of a device, worked out once per rig: profiles do not change on the bench."""
    legs = _KNOWN.setdefault(rig, {})
    if device not in legs:
        legs[device] = tuple(legs_of(rig[device]))
    return legs[device]


def _allows(world: World, device: str, when: When) -> bool:
    state = world.devices[device]
    if when.mode and state.mode not in when.mode:
        return False
    if any(state.effective.get(key) not in when.allowed(key) for key in when.settings):
        return False
    if any(state.answers.get(key) != answer for key, answer in when.answers.items()):
        return False
    if when.firmware and version_key(state.firmware or "0") < version_key(when.firmware):
        return False
    return when.licence is None or when.licence in state.licences


def arrivals(world: World, promise: ControlPromise | PicturePromise) -> list[Arrival]:
    """Every way by which what was promised comes through now, the quickest first."""
    legs = live_legs(world)
    function = promise.function if promise.kind == "control" else None
    starts = [leg for leg in legs if leg.enters is None and _starts(leg, promise)]
    ahead = [_Signal(leg, (leg.device,), leg.delay_ms, leg.look == "adds") for leg in starts]
    found = []
    while ahead:
        signal = ahead.pop()
        if signal.leg.leaves is None:
            if _ends(signal.leg, promise, world):
                found.append(Arrival(signal.devices, signal.delay_ms, signal.look, signal.leg))
            continue
        for end in _reached(world, signal.leg):
            ahead += [
                _through(signal, leg)
                for leg in legs
                if (leg.device, leg.enters) == end
                and leg.device not in signal.devices
                and (function in leg.functions if function else not leg.functions)
            ]
    return sorted(found, key=lambda arrival: (arrival.delay_ms, arrival.devices))


def _through(signal: _Signal, leg: Leg) -> _Signal:
    look = leg.look == "adds" or (signal.look and leg.look == "keeps")
    return _Signal(leg, (*signal.devices, leg.device), signal.delay_ms + leg.delay_ms, look)


def _starts(leg: Leg, promise: ControlPromise | PicturePromise) -> bool:
    if promise.kind == "picture":
        return leg.kind in ("makes", "own-picture")
    return (leg.device, leg.surface) == (promise.at.device, promise.at.surface) and promise.function in leg.functions


def _ends(leg: Leg, promise: ControlPromise | PicturePromise, world: World) -> bool:
    if promise.kind == "control":
        return promise.to in (None, leg.device)
    if (leg.device, leg.surface) != (promise.at.device, promise.at.surface):
        return False
    dark = world.rig[leg.device].profile.surface(promise.at.surface).dark_when_used
    return dark is None or not any(plug.has(leg.device, dark) for plug in world.plugged)


def _reached(world: World, leg: Leg) -> Iterator[tuple[str, tuple[str, str]]]:
    """The far ends, with their roles, that what leaves by `leg` reaches now."""
    if leg.leaves is None:
        return
    here = LinkEnd(device=leg.device, endpoint=leg.leaves[0])
    role = world.rig[leg.device].role(*leg.leaves)
    for there in _neighbours(world, here):
        for other in world.rig[there.device].endpoint(there.endpoint).roles:
            if roles_fit(role, other) and link_is_live(world, here, role, there, other):
                yield there.device, (there.endpoint, other.name)


def _neighbours(world: World, here: LinkEnd) -> list[LinkEnd]:
    plugged = [plug.b if plug.a == here else plug.a for plug in world.plugged if here in (plug.a, plug.b)]
    met = [next(end for end in pair if end != here) for pair in world.met if here in pair]
    return sorted((*plugged, *met), key=str)


def link_is_live(world: World, here: LinkEnd, role: Role, there: LinkEnd, other: Role) -> bool:
    """Whether something passes between two fitting roles now."""
    if not (world.is_alive(here.device) and world.is_alive(there.device)):
        return False
    plug = world.plug_between(here, there)
    if plug is None:
        if frozenset((here, there)) not in world.met:
            return False
    elif not (plug.seated and plug.conducts(*medium_of(role), from_a=plug.a == here)):
        return False
    if isinstance(role, VideoRole) and isinstance(other, VideoRole):
        if role.flow == "in":
            return False
        picture = sent_format(world, here, there, role.signal)
        return picture is not None and (plug is None or _fits_cable(plug, picture))
    return all(
        _found_each_other(world, mine, end, peer.device, plug)
        for end, mine, peer in ((here, role, there), (there, other, here))
        if isinstance(mine, ControlRole)
    )


def _fits_cable(plug: Plugged, picture: str) -> bool:
    limits = [c.max_format for c in plug.cable.carries if c.max_format] if plug.cable else []
    return all(pixels_rate(picture) <= pixels_rate(limit) for limit in limits)


def _found_each_other(world: World, role: ControlRole, end: LinkEnd, peer: str, plug: Plugged | None) -> bool:
    """Whether `role` came up as it must: after or before its peer, with the cable already in."""
    mine, theirs = world.devices[end.device], world.devices[peer]
    if role.joined_before_wake and plug is not None and plug.at_s > (mine.boot_started_s or 0):
        return False
    if role.wake == "peer-first":
        up_s = up_since_s(world, peer)
        return up_s is not None and (mine.boot_started_s or 0) >= up_s
    if role.wake == "self-first":
        return mine.awake_since_s is not None and (theirs.boot_started_s or 0) >= mine.awake_since_s
    return True
