"""What a way needs of the rig: links and their uses, modes, settings and answers; and what rules it out."""

from collections.abc import Iterator
from dataclasses import dataclass

from isotact.core.model.plan import Obstacle
from isotact.core.model.ports import When
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.rig import ControlPromise, PicturePromise
from isotact.core.wiring.routes import Way, common_formats, firmware_missing, has_look, licence_missing, link_roles

Knob = tuple[str, str, str]
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
            both = tuple(value for value in knobs.get(knob, allowed) if value in allowed)
            if not both:
                contradiction = knob
            knobs[knob] = both
    formats = common_formats(rig, way) if any(crossing.use.kind == "video" for crossing in way.crossings) else None
    for knob, allowed in _format_knobs(rig, way, formats or ()):
        knobs[knob] = tuple(value for value in knobs.get(knob, allowed) if value in allowed)
        if not knobs[knob]:
            contradiction = knob
    spans = tuple(crossing.span.key for crossing in way.crossings)
    return Requirements(way, spans, knobs, tuple(_idle_ports(rig, way)), formats, contradiction)


def knobs_of(device: str, when: When) -> Iterator[tuple[Knob, tuple[str, ...]]]:
    """The modes, settings and answers that `when` asks of `device`, each with the values that will do."""
    if when.mode:
        yield (device, "mode", ""), tuple(when.mode)
    for key in when.settings:
        yield (device, "setting", key), when.allowed(key)
    for key, answer in when.answers.items():
        yield (device, "answer", key), (answer,)


def knob_values(placed: Placed, knob: Knob) -> tuple[str, ...]:
    """Every value that a knob can have, in the order of the profile."""
    _, kind, key = knob
    profile = placed.profile
    if kind == "mode":
        return tuple(value.id for value in profile.modes.values) if profile.modes else ()
    if kind == "setting":
        return tuple(value.id for value in profile.setting(key).values)
    prompts = profile.wake.prompts if profile.wake else []
    return tuple(value.id for prompt in prompts if prompt.id == key for value in prompt.answers)


def knob_now(placed: Placed, knob: Knob) -> str | None:
    """What a knob is before anybody touches it; an answer has to be given each time."""
    _, kind, key = knob
    if kind == "mode":
        return placed.mode_now
    return placed.setting_now(key) if kind == "setting" else None


def _format_knobs(rig: ResolvedRig, way: Way, formats: tuple[str, ...]) -> Iterator[tuple[Knob, tuple[str, ...]]]:
    for crossing in way.crossings:
        if crossing.use.kind == "video":
            sender = link_roles(rig, crossing)[0]
            if sender.format_setting is not None:
                yield (crossing.at.device, "setting", sender.format_setting), formats


def _idle_ports(rig: ResolvedRig, way: Way) -> Iterator[tuple[str, str]]:
    """Ports that must stay unused, or the screen at the end of `way` goes dark."""
    last = way.legs[-1]
    if last.surface is not None and last.kind in ("shows", "own-picture"):
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
                says = f"{placed.name} needs the licence “{when.licence}”, which is not loaded."
                yield Obstacle(kind="licence", device=leg.device, says=says)
    if promise.kind == "picture":
        yield from _picture_obstacles(rig, promise, needs)
    else:
        yield from _school_obstacles(rig, promise, way)
    if needs.contradicts is not None:
        device, kind, key = needs.contradicts
        what = "mode" if kind == "mode" else f"{kind} “{key}”"
        says = f"{rig[device].name} would need two values of its {what} at once."
        yield Obstacle(kind="setting", device=device, says=says)


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


def _school_obstacles(rig: ResolvedRig, promise: ControlPromise, way: Way) -> Iterator[Obstacle]:
    school = rig.rig.schools.focus
    if promise.function != "focus" or school == "either" or by_motor(rig, way) == (school == "motor"):
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
        yield Obstacle(kind="look", says="Nothing on this way puts the look on the picture.")
    if promise.look == "clean" and has_look(way):
        yield Obstacle(kind="look", says="The look is burnt in on this way; a clean picture was promised.")
    wanted = {"clean": False, "look": True}.get(rig.rig.schools.chain)
    if wanted is not None and promise.look == "any" and _sent_with_look(way) not in (None, wanted):
        says = f"This job sends pictures on {'with the look' if wanted else 'clean'}; this way does not."
        yield Obstacle(kind="school", says=says)
    if needs.formats == ():
        yield Obstacle(kind="format", says="No picture format is taken by every link on this way.")


def _sent_with_look(way: Way) -> bool | None:
    """Whether the look is on the picture where it leaves by radio; None when it never does."""
    look = False
    for leg, crossing in zip(way.legs, way.crossings, strict=False):
        look = leg.look == "adds" or (look and leg.look == "keeps")
        if crossing.span.links[0].kind == "radio":
            return look
    return None
