"""The plan as a picture and as words: the rig map's devices and ports, and the cable schedule."""

from isotact.core.model.base import Struct
from isotact.core.model.memo import once
from isotact.core.model.plan import Join, LinkEnd, Plan
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.vocabulary import kind_like
from isotact.core.model.words import Id, Stage
from isotact.core.telling.faces import Face, face
from isotact.core.telling.phrases import PromiseLine, crossing_words, lead_words, promise_line, promise_words


class MapPort(Struct):
    """A port or radio that the plan uses."""

    id: Id
    marking: str
    place: str
    connector: str
    is_radio: bool
    stage: Stage


class MapDevice(Struct):
    """A device of the rig, with the ports that are used; `used` is false for one that stays in its case."""

    id: Id
    name: str
    profile: Id
    kind: str
    stage: Stage
    used: bool
    ports: tuple[MapPort, ...]


class ScheduleRow(Struct):
    """One line of the cable schedule."""

    tag: str
    family: str
    link: str
    item: str
    length_mm: float | None
    from_words: str
    to_words: str
    carries: tuple[str, ...]
    axes: tuple[str, ...]
    crosses: tuple[str, ...] = ()
    avoid: tuple[str, ...]
    promises: tuple[Id, ...]


class Drawing(Struct):
    """What the screens draw and print of a plan."""

    devices: tuple[MapDevice, ...]
    schedule: tuple[ScheduleRow, ...]
    promises: dict[Id, str]
    lines: dict[Id, PromiseLine]
    """The same promises, short."""
    faces: dict[Id, Face]
    """By profile: how each device of the rig looks."""


def draw(rig: ResolvedRig, plan: Plan) -> Drawing:
    """The map's devices in id order, the schedule in the order of the tape flags, the promises in words."""
    return Drawing(
        devices=tuple(_device(rig, plan, device) for device in rig.devices),
        schedule=tuple(_row(rig, join) for join in plan.joins),
        promises={promise.id: promise_words(rig, promise) for promise in rig.rig.promises},
        lines={promise.id: promise_line(rig, promise) for promise in rig.rig.promises},
        faces={rig[device].profile.id: once(rig[device].profile, face) for device in rig.devices},
    )


def _device(rig: ResolvedRig, plan: Plan, device: str) -> MapDevice:
    placed = rig[device]
    ends = [end for join in plan.joins for end in (join.link.a, join.link.b) if end.device == device]
    ports = [_port(rig, end) for end in dict.fromkeys(ends)]
    return MapDevice(
        id=device,
        name=placed.name,
        profile=placed.profile.id,
        kind=kind_like(placed.profile.kind),
        stage=placed.stage,
        used=any(feed.device == device for feed in plan.feeds),
        ports=tuple(ports),
    )


def _port(rig: ResolvedRig, end: LinkEnd) -> MapPort:
    placed = rig[end.device]
    port = placed.endpoint(end.endpoint)
    stage = placed.stage_of(end.endpoint)
    marking, place, connector = port.shown
    return MapPort(
        id=end.endpoint, marking=marking, place=place, connector=connector, is_radio=not port.is_socket, stage=stage
    )


def _row(rig: ResolvedRig, join: Join) -> ScheduleRow:
    link = join.link
    length_mm = sum(rig.cables[key].length_mm for key in link.stock) or None
    return ScheduleRow(
        tag=join.tag,
        family=join.family,
        link=link.id,
        item=_item(rig, join),
        length_mm=length_mm,
        from_words=rig[link.a.device].port_words(link.a.endpoint),
        to_words=rig[link.b.device].port_words(link.b.endpoint),
        carries=tuple(dict.fromkeys(use.kind for use in join.carries)),
        axes=link.axes,
        crosses=crossing_words(link.axes),
        avoid=join.avoid,
        promises=join.promises,
    )


def _item(rig: ResolvedRig, join: Join) -> str:
    link = join.link
    if link.is_radio:
        return "by radio"
    if link.cable is None:
        return "mounted directly"
    return lead_words(rig, link)
