"""What a way needs of the rig: links and their uses, modes, settings and answers; and what rules it out."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any, Literal

from isotact.core.model.base_role import When
from isotact.core.model.legs import legs_of, look_after
from isotact.core.model.plan import Obstacle
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.rig import ControlPromise, PicturePromise
from isotact.core.planning.ways.simple_ways import (
    Way,
    common_formats,
    firmware_missing,
    has_look,
    licence_missing,
    link_roles,
)
from isotact.core.telling.phrases import plain

Knob = tuple[str, Literal["mode", "setting", "answer"], str]
"""device, kind (mode, setting or answer), key (empty for the mode)."""


Change = tuple[str, str, str]
"""device, kind (firmware or licence), value: something to be loaded before the day."""


@dataclass(frozen=True)
class Requirements:
    """What must be chosen for one way of one promise."""

    way: Way
    spans: tuple[str, ...]
    knobs: dict[Knob, tuple[str, ...]]
    idle_ports: tuple[tuple[str, str], ...]
    formats: tuple[str, ...] | None = None
    """The picture formats that every link of the way takes; None for a way without video links."""
    contradicts: Knob | None = None
    changes: tuple[Change, ...] = ()
    """What would have to be loaded first; empty unless the asker may load things."""


def requirements(rig: ResolvedRig, way: Way) -> Requirements:
    """Collect what `way` needs. `contradicts` names a knob that would have to have two values at once."""
    knobs: dict[Knob, tuple[str, ...]] = {}
    contradiction: Knob | None = None
    wanted = [(leg.device, when) for leg in way.legs for when in leg.whens]
    for device, when in wanted:
        for knob, allowed in knobs_of(device, when):
            # Two legs through one device may each ask for its mode: what is left is what pleases both.
            both = tuple(value for value in knobs.get(knob, allowed) if value in allowed)
            if not both:
                contradiction = knob
            knobs[knob] = both
    # A format is set once and stays: what the first link sends every link after it must take.
    formats = common_formats(rig, way) if any(crossing.use.is_picture for crossing in way.crossings) else None
    for knob, allowed in _format_knobs(rig, way, formats or ()):
        knobs[knob] = tuple(value for value in knobs.get(knob, allowed) if value in allowed)
        if not knobs[knob]:
            contradiction = knob
    spans = tuple(crossing.span.key for crossing in way.crossings)
    return Requirements(way, spans, knobs, tuple(_idle_ports(rig, way)), formats, contradiction)


def knobs_of(device: str, when: When) -> Iterator[tuple[Knob, tuple[str, ...]]]:
    """The modes, settings and answers that `when` asks of `device`, each with the values that will do."""
    for kind, key, values in when.knobs():
        yield (device, kind, key), values


def knob_now(placed: Placed, knob: Knob) -> str | None:
    """What a knob is before anybody touches it; an answer has to be given each time."""
    _, kind, key = knob
    if kind == "mode":
        return placed.mode_now
    return placed.setting_now(key) if kind == "setting" else None


def _format_knobs(rig: ResolvedRig, way: Way, formats: tuple[str, ...]) -> Iterator[tuple[Knob, tuple[str, ...]]]:
    for crossing in way.crossings:
        chooses = link_roles(rig, crossing)[0].picture_setting
        # Only a maker of pictures chooses: what passes them on takes what comes.
        if chooses is not None:
            yield (crossing.at.device, "setting", chooses), formats


def _idle_ports(rig: ResolvedRig, way: Way) -> Iterator[tuple[str, str]]:
    """Ports that must stay unused, or the screen at the end of `way` goes dark."""
    # Only the last leg ends on a screen, so that only its surface can go dark.
    last = way.legs[-1]
    if last.surface is not None and last.ends_picture:
        surface = rig[last.device].profile.surface(last.surface)
        if surface.dark_when_used is not None:
            yield last.device, surface.dark_when_used


def obstacles(rig: ResolvedRig, promise: ControlPromise | PicturePromise, needs: Requirements) -> Iterator[Obstacle]:
    """What rules this way out whatever is chosen: firmware, licence, delay, look, format."""
    way = needs.way
    for leg in way.legs:
        placed = rig[leg.device]
        for when in leg.whens:
            if firmware_missing(placed, when):
                has = placed.device.firmware
                says = f"{placed.name} has firmware {has}; this needs {when.firmware} or newer."
                yield Obstacle(kind="firmware", device=leg.device, says=says)
            if licence_missing(placed, when):
                says = f"{placed.name} needs the licence “{plain(when.licence or '')}”, which is not loaded."
                yield Obstacle(kind="licence", device=leg.device, says=says)
    yield from _OBSTACLES[promise.kind](rig, promise, needs)
    if needs.contradicts is not None:
        device, kind, key = needs.contradicts
        says = f"{rig[device].name} would need {_two_of(rig[device], kind, key)} at once."
        yield Obstacle(kind="setting", device=device, says=says)


def _two_of(placed: Placed, kind: str, key: str) -> str:
    if kind == "mode":
        return "two modes"
    return f"two values of “{placed.profile.setting(key).name}”" if kind == "setting" else "two answers"


def changes_for(rig: ResolvedRig, way: Way) -> tuple[Change, ...]:
    """The firmware and licences that `way` lacks."""
    lacking: dict[Change, None] = {}
    for leg in way.legs:
        placed = rig[leg.device]
        for when in leg.whens:
            if firmware_missing(placed, when):
                lacking[leg.device, "firmware", when.firmware or ""] = None
            if licence_missing(placed, when):
                lacking[leg.device, "licence", when.licence or ""] = None
    return tuple(lacking)


def by_motor(rig: ResolvedRig, way: Way) -> bool:
    """Whether a motor on the way turns a ring."""
    return any(rig[leg.device].profile.motor is not None for leg in way.legs)


def _school_obstacles(rig: ResolvedRig, promise: ControlPromise, needs: Requirements) -> Iterator[Obstacle]:
    way, school = needs.way, rig.rig.schools.focus
    wanted, _ = promise.marks(rig.rig.schools)
    if wanted is None or by_motor(rig, way) == wanted:
        return
    names = {"motor": "a motor on the ring", "through-body": "the body"}
    says = f"This job pulls focus by {names[school]}; this way does not."
    yield Obstacle(kind="school", device=way.legs[-1].device, says=says)


def _picture_obstacles(rig: ResolvedRig, promise: PicturePromise, needs: Requirements) -> Iterator[Obstacle]:
    way = needs.way
    if promise.within_ms is not None and way.delay_ms > promise.within_ms:
        via = " to ".join(dict.fromkeys(rig[leg.device].name for leg in way.legs))
        says = f"By way of {via} the picture is {way.delay_ms:g} ms late; {promise.within_ms:g} ms was promised."
        yield Obstacle(kind="delay", device=way.legs[-1].device, says=says)
    if promise.look == "with" and not has_look(way):
        able = [placed.name for placed in rig.devices.values() if any(leg.look == "adds" for leg in legs_of(placed))]
        there = f"; {' or '.join(able)} would, where the picture goes through it" if able else ""
        yield Obstacle(kind="look", says=f"Nothing on this way puts the look on the picture{there}.")
    if promise.look == "clean" and has_look(way):
        device = next(leg.device for number, leg in enumerate(way.legs, start=1) if look_after(way.legs[:number]))
        says = f"{rig[device].name} puts the look on the picture on this way; a clean one was promised."
        yield Obstacle(kind="look", device=device, says=says)
    _, wanted = promise.marks(rig.rig.schools)
    if wanted is not None and _sent_with_look(way) not in (None, wanted):
        says = f"This job sends pictures on {'with the look' if wanted else 'clean'}; this way does not."
        yield Obstacle(kind="school", says=says)
    # None at all is not the same as no picture on the way, which is None.
    if needs.formats == ():
        yield Obstacle(kind="format", says="No picture format is taken by every link on this way.")


def _sent_with_look(way: Way) -> bool | None:
    """Whether the look is on the picture where it leaves by radio; None when it never does."""
    for number, crossing in enumerate(way.crossings, start=1):
        if crossing.span.links[0].is_radio:
            return look_after(way.legs[:number])
    return None


_OBSTACLES: dict[str, Callable[[ResolvedRig, Any, Requirements], Iterator[Obstacle]]] = {
    "control": _school_obstacles,
    "picture": _picture_obstacles,
}
