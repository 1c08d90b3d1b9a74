"""A device as it is drawn: its sides to scale, and every port, lamp, switch and screen where the profile has it."""

from collections.abc import Iterable
from typing import get_args

from pydantic import Field

from isotact.core.model.base import Struct
from isotact.core.model.behaviour import Indicator, Surface
from isotact.core.model.places import Points, Side, Spot, Turned
from isotact.core.model.ports import Port
from isotact.core.model.profile_fields import ProfileFields
from isotact.core.model.vocabulary import ConnectorId, vocabulary
from isotact.core.model.words import Id
from isotact.core.telling.outlines import outline

ROW_GAP_MM = 8.0
"""Between ports that are drawn in a row since nobody said where they are: room for a marking."""

ROW_HEIGHT_MM = 30.0
"""Of a side of which no size is known: the height of a small box, such as most of these are."""

BAND_MM = 10.0
"""The width of a gear ring around a lens: the usual ten millimetres (common practice, no source)."""

MARK_MM: dict[str, tuple[float, float]] = {
    "lamp": (4, 4), "button": (10, 10), "switch": (12, 6), "wheel": (24, 12), "stick": (16, 16), "knob": (34, 34),
    "scale": (40, 6), "screen": (48, 30), "touch": (48, 30),
}  # fmt: skip
"""What is drawn of something whose size nobody gave: as large as a finger, an eye, a hand needs it."""


class FaceMark(Struct):
    """A lamp, a switch, a screen: what is touched or looked at."""

    id: Id
    name: str
    kind: str
    x_mm: float
    y_mm: float
    width_mm: float
    height_mm: float


class Socket(Struct):
    """A port on its side; `x_mm` and `y_mm` are its middle, from the side's upper left corner."""

    id: Id
    marking: str
    place: str
    connector: ConnectorId
    plug: str = Field(description="what its connector is called")
    x_mm: float
    y_mm: float
    width_mm: float
    height_mm: float
    turned: Turned = 0
    points: Points = "out"
    door: str | None = None
    note: str | None = None
    is_lead: bool = Field(default=False, description="it is the end of a lead of the device's own")
    is_band: bool = Field(
        default=False, description="a ring right around, such as the gear of a lens, seen from the side"
    )
    around_mm: float | None = Field(default=None, description="of a ring around another port: how wide its opening is")


class FaceSide(Struct):
    """One side of a device. `in_a_row`: where its ports are nobody said."""

    side: Side
    width_mm: float
    height_mm: float
    is_round: bool = False
    in_a_row: bool = False
    sockets: tuple[Socket, ...] = ()
    marks: tuple[FaceMark, ...] = ()


class Face(Struct):
    """All sides of a device on which there is something. Everything drawn lies inside its side."""

    profile: Id
    name: str
    to_scale: bool = Field(description="its size is known; else only the connectors are to scale")
    sides: tuple[FaceSide, ...]


def face(profile: ProfileFields) -> Face:
    """The face of a device, from its profile alone."""
    sides = [_side(profile, side) for side in get_args(Side)]
    return Face(
        profile=profile.id,
        name=profile.name,
        to_scale=profile.size_mm is not None,
        sides=tuple(side for side in sides if side.sockets or side.marks),
    )


def _side(profile: ProfileFields, side: Side) -> FaceSide:
    ports = [port for port in profile.ports if port.side == side]
    seen: list[Surface | Indicator] = [*profile.surfaces, *profile.indicators]
    width, height = _size(profile, side, ports)
    is_tube = profile.shape == "tube"
    # Half a side is worse than none: a port that stands where nobody said it is would be believed.
    is_known = profile.size_mm is not None and all(port.at is not None for port in ports)
    spots = {port.id: port.at for port in ports if port.at} if is_known else _in_a_row(ports, width)
    return FaceSide(
        side=side,
        width_mm=width,
        height_mm=height,
        is_round=is_tube and side in ("front", "back"),
        in_a_row=bool(ports) and not is_known,
        sockets=tuple(_ringed([_socket(port, spots[port.id], width, height, is_tube) for port in ports])),
        marks=tuple(_mark(one, one.at, width, height) for one in seen if one.side == side and one.at)
        if profile.size_mm
        else (),
    )


def _size(profile: ProfileFields, side: Side, ports: list[Port]) -> tuple[float, float]:
    """Width and height of a side as one looks at it; long enough for a row of its ports where nobody knows."""
    if profile.size_mm is None:
        return _row_length(ports), ROW_HEIGHT_MM + max((outline(port.connector).height_mm for port in ports), default=0)
    width, height, depth = profile.size_mm
    if side in ("front", "back"):
        return width, height
    return (depth, height) if side in ("left", "right") else (width, depth)


def _row_length(ports: Iterable[Port]) -> float:
    return ROW_GAP_MM + sum(outline(port.connector).width_mm + ROW_GAP_MM for port in ports)


def _in_a_row(ports: list[Port], width: float) -> dict[Id, Spot]:
    """Ports side by side in the order of the profile, closer where the side is too short for gaps."""
    # The order is told all the same where a side is too short for all of them with gaps.
    length = _row_length(ports)
    squeezed = min(1.0, width / length)
    spots: dict[Id, Spot] = {}
    x = ROW_GAP_MM + max(0.0, width - length) / 2
    for port in ports:
        own = outline(port.connector).width_mm
        spots[port.id] = ((x + own / 2) * squeezed / width, 0.5)
        x += own + ROW_GAP_MM
    return spots


def _socket(port: Port, at: Spot, width: float, height: float, is_tube: bool) -> Socket:
    drawn = outline(port.connector)
    is_band = is_tube and is_gear(port.connector)
    across, down = (drawn.width_mm, drawn.height_mm) if port.turned % 180 == 0 else (drawn.height_mm, drawn.width_mm)
    return Socket(
        id=port.id,
        marking=port.marking,
        place=port.place,
        connector=port.connector,
        plug=vocabulary().connectors[port.connector].name,
        x_mm=round(at[0] * width, 2),
        y_mm=round(at[1] * height, 2),
        width_mm=width if is_band else across,
        height_mm=BAND_MM if is_band else down,
        turned=port.turned,
        points=port.points,
        door=port.door,
        note=port.note,
        is_lead=port.captive_mm is not None,
        is_band=is_band,
    )


def _ringed(sockets: list[Socket]) -> list[Socket]:
    """A gear in the middle of which there is another port is a ring around that one."""
    # By place, not by name: a gear ring is strapped around whatever is in its middle.
    within = {(one.x_mm, one.y_mm): one.width_mm for one in sockets if not is_gear(one.connector)}
    return [
        one.model_copy(update={"around_mm": inner, "width_mm": inner + 2 * BAND_MM, "height_mm": inner + 2 * BAND_MM})
        if is_gear(one.connector) and (inner := within.get((one.x_mm, one.y_mm)))
        else one
        for one in sockets
    ]


def is_gear(connector: ConnectorId) -> bool:
    """Whether what is drawn is teeth."""
    return vocabulary().connectors[connector].gear


def _mark(one: Surface | Indicator, at: Spot, width: float, height: float) -> FaceMark:
    across, down = one.size_mm or MARK_MM[one.drawn_as]
    return FaceMark(
        id=one.id,
        name=one.name,
        kind=one.drawn_as,
        x_mm=round(at[0] * width, 2),
        y_mm=round(at[1] * height, 2),
        width_mm=across,
        height_mm=down,
    )
