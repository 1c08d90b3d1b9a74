"""Connectors as they look from the front, in true proportion: which of these lies in your hand?

Millimetres from the middle, x to the right, y down. What is drawn is the plug; a socket is drawn by the same outline.
Where nothing is published the source says so, and then only the count of contacts is to be trusted.
"""

from collections.abc import Mapping
from math import cos, pi, sin
from typing import Annotated, Literal

from pydantic import Field

from isotact.core.model.base import Struct
from isotact.core.model.vocabulary import ConnectorId

Point = tuple[float, float]
Part = Literal["shell", "contact", "key"]


class Round(Struct):
    """A circle."""

    kind: Literal["round"] = "round"
    part: Part
    at: Point
    radius_mm: float

    @property
    def extent(self) -> tuple[Point, ...]:
        """Points that span it."""
        (x, y), radius = self.at, self.radius_mm
        return ((x - radius, y - radius), (x + radius, y + radius))


class Patch(Struct):
    """A shape with corners."""

    kind: Literal["patch"] = "patch"
    part: Part
    corners: tuple[Point, ...]

    @property
    def extent(self) -> tuple[Point, ...]:
        """Points that span it."""
        return self.corners


Shape = Annotated[Round | Patch, Field(discriminator="kind")]


class Outline(Struct):
    """One kind of connector. `seen_aside`: the pin from the side, where the front tells too little."""

    width_mm: float
    height_mm: float
    shapes: tuple[Shape, ...]
    seen_aside: tuple[Shape, ...] = ()
    contacts: int = Field(description="how many contacts are drawn")
    source: str = Field(description="where its measures are from")


MEMORY = "; from memory"
NOT_PUBLISHED = "common practice, no source: the contacts are counted, the rest is about right"


def _box(part: Part, x: float, y: float, width: float, height: float) -> Patch:
    """A rectangle around its middle."""
    right, down = width / 2, height / 2
    return Patch(
        part=part, corners=((x - right, y - down), (x + right, y - down), (x + right, y + down), (x - right, y + down))
    )


def _cut(width: float, height: float, cut: float, at: float) -> Patch:
    """A rectangle whose lower corners are cut off: `cut` along the bottom, from the height `at` down."""
    right, down = width / 2, height / 2
    return Patch(
        part="shell",
        corners=((-right, -down), (right, -down), (right, at), (right - cut, down), (cut - right, down), (-right, at)),
    )


def _slot(width: float, height: float) -> Patch:
    """A rectangle with round ends."""
    radius = height / 2
    ends = [(1, -pi / 2), (-1, pi / 2)]
    corners = [
        (side * (width / 2 - radius) + radius * cos(start + step * pi / 8), radius * sin(start + step * pi / 8))
        for side, start in ends
        for step in range(9)
    ]
    return Patch(part="shell", corners=tuple(corners))


def _ring(count: int, radius: float, pin: float, first: float = 0.0) -> list[Round]:
    """Pins on a circle, the first at `first` turns from the top."""
    turns = [first + number / count for number in range(count)]
    return [
        Round(part="contact", at=(radius * sin(2 * pi * turn), -radius * cos(2 * pi * turn)), radius_mm=pin)
        for turn in turns
    ]


def _row(count: int, pitch: float, y: float, width: float, height: float) -> list[Patch]:
    """Contacts side by side."""
    return [_box("contact", (number - (count - 1) / 2) * pitch, y, width, height) for number in range(count)]


def _of(shapes: list[Round | Patch], source: str, aside: tuple[Round | Patch, ...] = ()) -> Outline:
    left, top, right, bottom = bounds(shapes)
    contacts = sum(1 for shape in shapes if shape.part == "contact")
    return Outline(
        width_mm=round(right - left, 2),
        height_mm=round(bottom - top, 2),
        shapes=tuple(shapes),
        seen_aside=aside,
        contacts=contacts,
        source=source,
    )


def bounds(shapes: "list[Round | Patch] | tuple[Round | Patch, ...]") -> tuple[float, float, float, float]:
    """Left, top, right and bottom of what is drawn, in millimetres."""
    points = [point for shape in shapes for point in shape.extent]
    return (
        min(x for x, _ in points),
        min(y for _, y in points),
        max(x for x, _ in points),
        max(y for _, y in points),
    )


def _pins(diameter: float, *rings: tuple[int, float, float]) -> Outline:
    """A round plug with its key at the top; `rings`: how many pins, on which radius, turned how far."""
    # Twelve pins in thirteen millimetres leave room for no thicker ones.
    pin = min(0.65, diameter * 0.07)
    shapes: list[Round | Patch] = [Round(part="shell", at=(0, 0), radius_mm=diameter / 2)]
    for count, radius, first in rings:
        shapes += _ring(count, radius, pin, first)
    shapes.append(_box("key", 0, 0.3 - diameter / 2, diameter / 6, 0.6))
    return _of(shapes, NOT_PUBLISHED)


def _jack(diameter: float, length: float, poles: int) -> Outline:
    """Looked at from the front a jack is a disc: its poles are seen from the side."""
    # Poles are drawn alike long: which is longer differs from maker to maker, and nobody counts by it.
    step = length / (poles + 1)
    aside: list[Round | Patch] = [_box("shell", 0, 0, length, diameter)]
    aside += [_box("contact", step * number - length / 2, 0, length / 24, diameter) for number in range(1, poles)]
    front: list[Round | Patch] = [Round(part="shell", at=(0, 0), radius_mm=diameter / 2)]
    return _of(front, f"IEC 60603-11: {diameter:g} mm across{MEMORY}", tuple(aside))


def _disc(diameter: float, inner: float, source: str) -> Outline:
    """A ring around an opening."""
    rings = [Round(part="shell", at=(0, 0), radius_mm=radius / 2) for radius in (diameter, inner)]
    return _of([*rings], source)


def _gear(pitch_mm: float, teeth: int) -> Outline:
    """A gear of 0.8 module: teeth of twice the module deep around the circle on which they mesh."""
    tip, root = pitch_mm / 2 + 0.8, pitch_mm / 2 - 0.8
    corners = []
    for tooth in range(teeth):
        for part, radius in ((0.0, root), (0.3, tip), (0.6, tip), (0.9, root)):
            turn = 2 * pi * (tooth + part) / teeth
            corners.append((radius * sin(turn), -radius * cos(turn)))
    shapes: list[Round | Patch] = [Patch(part="shell", corners=tuple(corners))]
    shapes.append(Round(part="shell", at=(0, 0), radius_mm=2.5))
    return _of(shapes, f"0.8 module times {teeth} teeth is {pitch_mm:g} mm where they mesh")


_HDMI = "HDMI 1.4b, 4.1.10"
_USB = "USB 2.0"
_MINI_B = ((-2.7, -1.55), (2.7, -1.55), (3.4, -0.75), (3.4, 0.1), (2.9, 0.6), (2.9, 1.55), (-2.9, 1.55), (-2.9, 0.6))
_MICRO_B = ((-2.6, -0.9), (2.6, -0.9), (3.425, -0.1), (3.425, 0.9), (-3.425, 0.9), (-3.425, -0.1))
_HDMI_D = (
    (-2.915, -1.1),
    (2.915, -1.1),
    (2.915, 0.25),
    (2.3, 0.25),
    (2.3, 1.1),
    (-2.3, 1.1),
    (-2.3, 0.25),
    (-2.915, 0.25),
)
_TAP = ((-7.0, -4.0), (4.0, -4.0), (7.0, -1.6), (7.0, 1.6), (4.0, 4.0), (-7.0, 4.0))

OUTLINES: Mapping[ConnectorId, Outline] = {
    "usb-c": _of(
        [_slot(8.25, 2.40), *_row(12, 0.5, -0.6, 0.25, 0.3), *_row(12, 0.5, 0.6, 0.25, 0.3)],
        f"USB Type-C 2.0, figure 3-3: plug 8.25 by 2.40{MEMORY}",
    ),
    "usb-micro-b": _of(
        [Patch(part="shell", corners=_MICRO_B), *_row(5, 0.65, 0.2, 0.35, 0.4)],
        f"{_USB}, Micro-USB 1.01: plug 6.85 by 1.80{MEMORY}",
    ),
    "usb-mini-b": _of(
        [Patch(part="shell", corners=(*_MINI_B, (-3.4, 0.1), (-3.4, -0.75))), *_row(5, 0.8, 0.1, 0.4, 0.5)],
        f"{_USB}, Mini-B: plug 6.8 by 3.1{MEMORY}",
    ),
    "usb-a": _of(
        [_box("shell", 0, 0, 12.0, 4.5), *_row(4, 2.25, 1.0, 1.0, 0.5)], f"{_USB}, 6.5.4: plug 12.0 by 4.5{MEMORY}"
    ),
    "hdmi-a": _of(
        [_cut(13.9, 4.45, 1.9, 0.7), *_row(10, 1.0, -0.5, 0.45, 0.4), *_row(9, 1.0, 0.5, 0.45, 0.4)],
        f"{_HDMI}: plug 13.9 by 4.45{MEMORY}",
    ),
    "hdmi-c": _of(
        [_cut(10.42, 2.42, 1.0, -0.1), *_row(19, 0.4, -0.2, 0.2, 0.4)], f"{_HDMI}: plug 10.42 by 2.42{MEMORY}"
    ),
    "hdmi-d": _of(
        [Patch(part="shell", corners=_HDMI_D), *_row(10, 0.4, -0.4, 0.2, 0.3), *_row(9, 0.4, 0.4, 0.2, 0.3)],
        f"{_HDMI}: plug 5.83 by 2.20{MEMORY}",
    ),
    "bnc": _of(
        [
            Round(part="shell", at=(0, 0), radius_mm=7.25),
            Round(part="shell", at=(0, 0), radius_mm=4.8),
            Round(part="contact", at=(0, 0), radius_mm=0.68),
            _box("key", -7.0, 0, 1.4, 1.9),
            _box("key", 7.0, 0, 1.4, 1.9),
        ],
        f"IEC 61169-8: 9.6 mm across the socket, pin 1.35; the collar about 14.5{MEMORY}",
    ),
    "rj45": _of(
        [_box("shell", 0, -0.7, 11.68, 6.6), _box("key", 0, 3.4, 6.0, 1.6), *_row(8, 1.02, -3.2, 0.5, 1.2)],
        f"IEC 60603-7: plug 11.68 wide, contacts 1.02 apart{MEMORY}",
    ),
    "jack-2-5-3": _jack(2.5, 11.0, 3),
    "jack-2-5-4": _jack(2.5, 11.0, 4),
    "jack-3-5-3": _jack(3.5, 14.0, 3),
    "multi-remote": _of([_cut(8.6, 3.4, 1.6, -0.2), *_row(5, 1.2, -0.2, 0.5, 0.6)], NOT_PUBLISHED),
    "serial-4": _pins(9.0, (4, 2.0, 0.125)),
    "motor-bus-4": _pins(7.5, (4, 1.7, 0.0)),
    "power-2": _pins(9.0, (2, 1.5, 0.25)),
    "driver-7": _pins(11.0, (6, 2.9, 0.0), (1, 0.0, 0.0)),
    "remote-8": _pins(11.0, (7, 3.1, 0.0), (1, 0.0, 0.0)),
    "extension-9": _pins(11.0, (8, 3.2, 0.0), (1, 0.0, 0.0)),
    "lens-12": _pins(13.0, (9, 4.2, 0.0), (3, 1.6, 0.0)),
    "power-8": _pins(14.0, (7, 4.0, 0.0), (1, 0.0, 0.0)),
    "power-4": _of(
        [
            Round(part="shell", at=(0, 0), radius_mm=9.5),
            *_ring(4, 4.1, 1.25, 0.125),
            _box("key", 0, -8.6, 3.0, 1.4),
        ],
        f"IEC 61076-2-103 (XLR): 19 mm across, pins about 2.5{MEMORY}",
    ),
    "tap": _of(
        [Patch(part="shell", corners=_TAP), *(Round(part="contact", at=(x, 0), radius_mm=1.2) for x in (-3.2, 2.6))],
        NOT_PUBLISHED,
    ),
    "barrel": _of(
        [Round(part="shell", at=(0, 0), radius_mm=2.75), Round(part="contact", at=(0, 0), radius_mm=1.05)],
        f"EIAJ RC-5320A and the like: 5.5 mm outside, 2.1 inside{MEMORY}",
    ),
    "pwm-3": _of(
        [_box("shell", 0, 0, 7.62, 2.54), *_row(3, 2.54, 0, 0.64, 0.64)],
        f"pin headers of 0.1 in: three in a row, pins 0.64{MEMORY}",
    ),
    "battery-plate": _of([_box("shell", 0, 0, 60.0, 78.0), *_row(4, 8.0, 24.0, 3.0, 8.0)], NOT_PUBLISHED),
    "battery-bay": _of([_box("shell", 0, 0, 38.0, 22.0), *_row(3, 6.0, 0, 2.0, 8.0)], NOT_PUBLISHED),
    "module-bay": _of([_box("shell", 0, 0, 34.0, 11.0), *_row(8, 3.6, 0, 1.6, 5.0)], NOT_PUBLISHED),
    "contact-shoe": _of(
        [_box("shell", 0, 0, 18.6, 18.0), *_row(5, 2.6, -6.5, 1.2, 2.4)], f"ISO 518: shoe 18.6 wide{MEMORY}"
    ),
    "bayonet-mount": _disc(62.0, 48.0, NOT_PUBLISHED),
    "pl-mount": _disc(66.0, 54.0, f"positive lock mount: throat 54 mm{MEMORY}"),
    "gear-0-8": _gear(28.0, 35),
    "control-ring": _disc(74.0, 68.0, NOT_PUBLISHED),
}
"""By connector. A connector of somebody's own words has none."""

UNKNOWN = _of([_box("shell", 0, 0, 10.0, 10.0)], "nobody has drawn this connector yet")


def outline(connector: ConnectorId) -> Outline:
    """The outline of a connector; a plain square for one that nobody has drawn."""
    return OUTLINES.get(connector, UNKNOWN)
