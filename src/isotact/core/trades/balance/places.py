"""Where everything on a gimbal sits: by ports and gears, by what the crew said, or as is usual, which is then said."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from isotact.core.calc.moments import Mass, Place
from isotact.core.model.gimbals import CARRIED, Carrier, Rides
from isotact.core.model.measures import Position
from isotact.core.model.places import Side, Spot
from isotact.core.model.plan import Join, LinkEnd
from isotact.core.model.ports import Port
from isotact.core.model.resolved import Placed
from isotact.core.model.small_parts import SmallPart
from isotact.core.model.words import Stage
from isotact.core.trades.mounting.derive import Building, mated

OUT: Mapping[Side, tuple[int, int]] = {
    "right": (0, 1), "left": (0, -1), "front": (1, 1), "back": (1, -1), "top": (2, 1), "bottom": (2, -1)
}  # fmt: skip
"""Each side: its direction as a place in (right, forward, up), and which way."""
_OPPOSITE: Mapping[Side, Side] = {
    "right": "left", "left": "right", "front": "back", "back": "front", "top": "bottom", "bottom": "top"
}  # fmt: skip
_RIDES: Mapping[Stage, Rides] = {Stage.TILT_CAGE: "plate", Stage.ROLL_ARM: "roll-arm", Stage.PAN_BASE: "pan-base"}

FOUND_MM = 1.0
"""How well two marks tell where a thing balances, one standard deviation. Common practice, no source."""
TOLD_MM = 3.0
"""How well a profile tells it: two pieces of one kind differ by so much. Common practice, no source."""
UNKNOWN_SHARE = 0.1
"""Of what nobody knows the centre it is taken to be the middle, to a tenth of its size each way, one standard
deviation: batteries, glass and motors sit to one side. Common practice, no source."""
ASSUMED_SHARE = 0.25
"""Of what nobody said where it sits: to a quarter of the size of what it is taken to sit on."""
LEAD_MM = 30.0
"""How well the middle of a lead is known that goes from one port to another in a bow. Common practice, no source."""

HELD_MM = 10.0
"""How well it is known where a screw, an arm or a clamp sits: at the mount of what it holds. Common practice, no
source."""

How = Literal["measured", "said", "mated", "meshed", "plate", "assumed", "part", "lead", "fixing"]


@dataclass(frozen=True)
class Box:
    """A device in its place: the middle of its outline, its size, where its weight sits; from the crossing of the axes.

    `how`: by what its place is known.
    """

    key: str
    middle: Place
    size: Place
    centre: Place
    rides: Rides
    how: How
    spread: Place
    on: str | None = None
    """What it sits on, where that is a device."""


@dataclass(frozen=True)
class Held:
    """A small part in the cage: its mass, and the devices that it holds, of which it is at the first."""

    part: SmallPart
    mass: Mass
    holds: frozenset[str]


class Cage:
    """All that the gimbal of a plan carries, each in its place; without what sits on its handles or off it."""

    def __init__(self, planned: Building, gimbal: str) -> None:
        self.planned, self.gimbal, self.rig = planned, gimbal, planned.rig
        carrier = self.rig[gimbal].profile.carrier
        if carrier is None or carrier.plate is None:
            raise LookupError(f"{gimbal} says nothing of where its plate and its axes are")
        self.carrier: Carrier = carrier
        self._boxes: dict[str, Box] = {}
        self._open: set[str] = set()

    @cached_property
    def boxes(self) -> dict[str, Box]:
        """Each device that an axis turns."""
        return {device: self._box(device) for device in self.carried}

    @cached_property
    def carried(self) -> list[str]:
        """The devices in use that an axis turns, the one on the plate first."""
        turned = [
            device for device in self.planned.in_use if device != self.gimbal and self.rig[device].stage in _RIDES
        ]
        return sorted(turned, key=lambda device: (device != self._root(turned), device))

    def _root(self, turned: Iterable[str]) -> str | None:
        """What is on the plate: of what hangs on nothing else a body before all, then what has a thread."""
        free = [
            device
            for device in turned
            if self.rig[device].stage == Stage.TILT_CAGE and not self.rig[device].profile.ballast
            if device not in self._hung and device not in self._meshed
            if (sits := self.rig[device].device.sits) is None or sits.on in (None, self.gimbal)
        ]

        def fit(device: str) -> tuple[bool, bool, float, str]:
            profile = self.rig[device].profile
            return bool(profile.makes), any(one.kind == "thread" for one in profile.mounts), profile.mass_g, device

        return max(free, key=fit, default=None)

    @cached_property
    def root(self) -> str | None:
        """What is on the plate, or None where nothing is."""
        return self._root(self.carried)

    @cached_property
    def _hung(self) -> dict[str, tuple[LinkEnd, LinkEnd]]:
        return {hung.device: (base, hung) for _, (base, hung) in mated(self.planned)}

    @cached_property
    def _meshed(self) -> dict[str, LinkEnd]:
        """What turns a ring -> that ring."""
        found = {}
        for join in self.planned.joins:
            ends = [self.rig[end.device].endpoint(end.endpoint) for end in join.link.ends]
            if not ends[0].is_gear:
                continue
            for turner, ring in (join.link.ends, join.link.ends[::-1]):
                if any(role.turns for role in self.rig[turner.device].endpoint(turner.endpoint).roles):
                    found[turner.device] = ring
        return found

    def _box(self, device: str) -> Box:
        if device in self._open:  # said to sit on what hangs on it: one of the two has to stand somewhere
            return self._on_gimbal(self.rig[device], _RIDES[self.rig[device].stage], None)
        if device not in self._boxes:
            self._open.add(device)
            self._boxes[device] = self._placed(device)
            self._open.discard(device)
        return self._boxes[device]

    def _placed(self, device: str) -> Box:
        placed = self.rig[device]
        sits, size = placed.device.sits, size_of(placed)
        rides = _RIDES[placed.stage]
        on = sits.on if sits is not None and sits.on not in (None, self.gimbal, device) else None
        if sits is not None and on is not None and on in self.planned.in_use and self.rig[on].stage in _RIDES:
            base = self._box(on)
            if sits.measured is not None:
                middle = _minus(_plus(self._mount_of(base), place(sits.measured)), mount_spot(placed))
                return self.made(placed, middle, base.rides, "measured", on)
            return self.made(
                placed, beside(base, sits.side, (sits.from_left, sits.from_top), placed), base.rides, "said", on
            )
        if sits is not None and on is None:
            return self._on_gimbal(placed, sits.rides if rides == "plate" else rides, sits.measured)
        if device in self._hung:
            base_end, end = self._hung[device]
            if self.rig[base_end.device].stage in _RIDES and base_end.device != self.gimbal:
                return self._mated(placed, base_end, end)
        if device in self._meshed and self.rig[self._meshed[device].device].stage in _RIDES:
            return self._at_ring(placed, self._meshed[device])
        if device == self.root:
            return self._on_gimbal(placed, "plate", None)
        return self._assumed(placed, size, rides)

    def _on_gimbal(self, placed: Placed, rides: Rides, measured: Position | None) -> Box:
        carrier, piece = self.carrier, self.rig[self.gimbal].device
        plate = place(carrier.plate or Position())
        if measured is not None:
            return self.made(placed, _minus(_plus(plate, place(measured)), mount_spot(placed)), rides, "measured")
        if placed.id == self.root or rides == "plate":
            hole = piece.hole_mm or 0.0
            at = _plus(plate, (0.0, hole if placed.id == self.root else 0.0, 0.0))
            how: How = "plate" if placed.id == self.root else "assumed"
            return self.made(placed, _minus(at, mount_spot(placed)), rides, how)
        return self.made(placed, (0.0, 0.0, 0.0), rides, "assumed")

    def _mated(self, placed: Placed, base_end: LinkEnd, end: LinkEnd) -> Box:
        base, holder = self._box(base_end.device), self.rig[base_end.device].endpoint(base_end.endpoint)
        own = placed.endpoint(end.endpoint)
        if not isinstance(holder, Port) or not isinstance(own, Port) or holder.side is None:
            return self.made(placed, beside(base, "top", (0.5, 0.5), placed), base.rides, "assumed", base.key)
        middle = beside(base, holder.side, holder.at or (0.5, 0.5), placed, (own.side, own.at))
        return self.made(placed, middle, base.rides, "mated", base.key)

    def _at_ring(self, placed: Placed, ring: LinkEnd) -> Box:
        """A motor at its ring: above the lens, or beside it where that is the crew's school."""
        base = self._box(ring.device)
        side: Side = "top" if self.rig.rig.schools.motor == "above" else "right"
        return self.made(placed, self._middle_at(placed, base, side, ring), base.rides, "meshed", base.key)

    def _middle_at(self, placed: Placed, base: Box, side: Side, ring: LinkEnd | None) -> Place:
        """The middle of a device on a side of another, at a ring of it where it turns one."""
        if ring is None:
            return beside(base, side, (0.5, 0.5), placed)
        port, (axis, way), at = self.rig[ring.device].endpoint(ring.endpoint), OUT[side], list(base.middle)
        at[axis] += way * (base.size[axis] + size_of(placed)[axis]) / 2
        if isinstance(port, Port) and port.side is not None:
            at[1] += spot_on(port.side, port.at or (0.5, 0.5), base.size)[1]
        return at[0], at[1], at[2]

    def centre_at(self, box: Box, side: Side) -> Place:
        """Where the weight of something would sit on another side of what it sits on."""
        middle = self._middle_at(self.rig[box.key], self.boxes[box.on or box.key], side, self._meshed.get(box.key))
        return _plus(middle, _minus(box.centre, box.middle))

    def _assumed(self, placed: Placed, size: Place, rides: Rides) -> Box:
        """On top of the camera, where nobody said; under the plate what is nothing but weight."""
        if rides == "plate" and self.root is not None and not placed.profile.ballast:
            base = self._box(self.root)
            return self.made(placed, beside(base, "top", (0.5, 0.5), placed), rides, "assumed", base.key)
        if rides == "plate":
            plate = place(self.carrier.plate or Position())
            under = (plate[0], plate[1], plate[2] - size[2] / 2)
            return self.made(placed, under, rides, "assumed")
        return self.made(placed, (0.0, 0.0, 0.0), rides, "assumed")

    def made(self, placed: Placed, middle: Place, rides: Rides, how: How, on: str | None = None) -> Box:
        """A device with its middle there, `how` its place is known and what it sits on: with its weight and spread."""
        size = size_of(placed)
        told = placed.device.centre or placed.profile.centre
        centre = middle if told is None else _plus(_plus(middle, mount_spot(placed)), place(told))
        known = FOUND_MM if placed.device.centre is not None else TOLD_MM
        spread = [known if told is not None else UNKNOWN_SHARE * one for one in size]
        sure = FOUND_MM if how == "measured" else TOLD_MM
        under = size if on is None else self._box(on).size
        seat = [ASSUMED_SHARE * one if how == "assumed" else sure for one in under]
        both = [(one * one + other * other) ** 0.5 for one, other in zip(spread, seat, strict=True)]
        return Box(placed.id, middle, size, centre, rides, how, (both[0], both[1], both[2]), on)

    def _mount_of(self, box: Box) -> Place:
        return _plus(box.middle, mount_spot(self.rig[box.key]))

    @cached_property
    def masses(self) -> tuple[Mass, ...]:
        """Every device, lead and piece of the gimbal itself that an axis turns."""
        found = [
            Mass(box.key, self.rig[box.key].mass_g, box.centre, box.rides, box.spread, box.size)
            for box in self.boxes.values()
        ]
        parts = [Mass(part.name, part.mass_g, place(part.centre), part.rides) for part in self.carrier.parts]
        return (*found, *parts, *(held.mass for held in self.held), *self._leads())

    def with_it(self, device: str) -> set[str]:
        """The masses that go where a device goes: it, and the small parts that hold nothing else."""
        return {device} | {held.mass.key for held in self.held if held.holds == {device}}

    @cached_property
    def held(self) -> tuple[Held, ...]:
        """The small parts of the bag by which the devices are fixed; none where nobody said what lies there."""
        bag, needs = self.rig.part_bag, {key: self.rig[key].profile.fixed_by for key in self.boxes}
        found = []
        for number, (device, key) in enumerate(bag.weights(needs.items())):
            part, box = bag.kinds[key], self.boxes[device]
            holds = {one for one in needs if any(bag.doing(need)[:1] == [key] for need in needs[one])}
            spread = (HELD_MM, max(HELD_MM, (part.length_mm or 0) / 4 if part.kind == "rods" else 0.0), HELD_MM)
            mass = Mass(f"fixing {number}", part.mass_g, self._mount_of(box), box.rides, spread)
            found.append(Held(part, mass, frozenset(holds) if part.is_tool else frozenset([device])))
        return tuple(found)

    def _leads(self) -> Iterable[Mass]:
        """What hangs there of every lead: all of it between two ends in the cage, half of it at one end."""
        pieces: dict[str, list[Join]] = {}
        for join in self.planned.joins:
            pieces.setdefault(join.link.piece or join.link.id, []).append(join)
        for joins in pieces.values():
            hung_g = self.rig.hung_g(joins[-1].link)
            at = {end: self._port_at(end) for join in joins for end in join.link.ends}
            here = [one for one in at.values() if one is not None]
            if hung_g and here:
                middle = [sum(one[along] for one in here) / len(here) for along in range(3)]
                yield Mass(joins[0].tag, hung_g, (middle[0], middle[1], middle[2]), "plate", (LEAD_MM,) * 3)

    def _port_at(self, end: LinkEnd) -> Place | None:
        box = self.boxes.get(end.device)
        port = self.rig[end.device].endpoint(end.endpoint)
        if box is None or box.rides != "plate":
            return None
        if not isinstance(port, Port) or port.side is None:
            return box.middle
        return _plus(box.middle, spot_on(port.side, port.at or (0.5, 0.5), box.size))


def carried_of(axes: Iterable[str]) -> dict[str, frozenset[str]]:
    """What each of some axes turns."""
    return {axis: frozenset(rides) for axis, rides in CARRIED.items() if axis in {*axes}}


SIDE_OF_UNKNOWN_MM = 80.0
"""Of what nobody knows the size: that of a small body. Common practice, no source."""


def size_of(placed: Placed) -> Place:
    """Right, forward and up."""
    if placed.profile.size_mm is None:
        return SIDE_OF_UNKNOWN_MM, SIDE_OF_UNKNOWN_MM, SIDE_OF_UNKNOWN_MM
    width, height, depth = placed.profile.size_mm
    return width, depth, height


def place(at: Position) -> Place:
    """A place as (right, forward, up)."""
    return at.right_mm, at.forward_mm, at.up_mm


def mount_spot(placed: Placed) -> Place:
    """What a device is mounted by, from the middle of its outline: what it sits by, or its first thread or plate."""
    size = size_of(placed)
    if placed.seat is not None:
        port = placed.endpoint(placed.seat)
        if isinstance(port, Port) and port.side is not None:
            return spot_on(port.side, port.at or (0.5, 0.5), size)
    mount = next(iter(placed.profile.mounts), None)
    return spot_on(mount.side, mount.at, size) if mount is not None else spot_on("bottom", (0.5, 0.5), size)


def spot_on(side: Side, at: Spot, size: Place) -> Place:
    """A spot of a side, from the middle of the outline; sides are looked at as `model.places` says."""
    across, down = at[0] - 0.5, 0.5 - at[1]
    width, depth, height = size
    match side:
        case "front":
            return -across * width, depth / 2, down * height
        case "back":
            return across * width, -depth / 2, down * height
        case "left":
            return -width / 2, -across * depth, down * height
        case "right":
            return width / 2, across * depth, down * height
        case "top":
            return across * width, down * depth, height / 2
        case _:
            return -across * width, down * depth, -height / 2


def beside(base: Box, side: Side, at: Spot, placed: Placed, by: tuple[Side | None, Spot | None] | None = None) -> Place:
    """The middle of a device whose outline touches a side of another, its own mount at that spot where it faces there.

    `by`: the port that it sits by, instead of its mount.
    """
    size, spot = size_of(placed), _plus(base.middle, spot_on(side, at, base.size))
    axis, way = OUT[side]
    if by is not None and by[0] is not None:
        faces, own = by[0], spot_on(by[0], by[1] or (0.5, 0.5), size)
    else:
        own = mount_spot(placed)
        faces = next(
            (one for one, (along, sign) in OUT.items() if abs(own[along] - sign * size[along] / 2) < 1e-9), side
        )
    middle = list(_minus(spot, own)) if faces == _OPPOSITE[side] else list(spot)
    middle[axis] = base.middle[axis] + way * (base.size[axis] + size[axis]) / 2
    return middle[0], middle[1], middle[2]


def _plus(one: Place, other: Place) -> Place:
    return one[0] + other[0], one[1] + other[1], one[2] + other[2]


def _minus(one: Place, other: Place) -> Place:
    return one[0] - other[0], one[1] - other[1], one[2] - other[2]
