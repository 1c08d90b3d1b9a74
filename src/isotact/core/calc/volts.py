"""Volts and amps in a direct-current network: batteries, leads that lose volts, loads, outlets that hold their volts.

Loads of constant power make it a set of equations with two answers or none: a device that asks for so many watts could
take them at many volts and few amps, or at few volts and many amps. It runs at the former, and where there is none of
either no current would do. Written as currents at nodes the equations are convex, and as long as the network could
take a little more load their matrix has an inverse with no negative element; Newton's method from no load at all then
falls towards the greatest answer and never past it (Ortega and Rheinboldt, *Iterative Solution of Nonlinear Equations
in Several Variables*, 1970, theorem 13.3.4, from memory). A pivot that is not above nought says that there is none.
"""

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from math import sqrt

LEAST_OHM = 1e-6
"""Two things in one box: so little that no meter on a cart shows it, and enough to divide by."""
NEAR_V = 1e-9
"""A step of less than this ends the search; the reference checks ask for a thousandth of the volts."""
MOST_STEPS = 80
"""Far from its end the step halves what is missing, near it squares it: 40 halvings and 40 to spare."""


@dataclass(frozen=True, slots=True)
class Cell:
    """A battery behind a node: its volts without load, and the ohms within it."""

    node: str
    open_v: float
    ohm: float = 0.0


@dataclass(frozen=True, slots=True)
class Wire:
    """What leads from one node to another, there and back: `ohm` in all, and `drop_v` of a diode in it.

    Current goes from `giver` to `taker` only. `held_v`: the outlet holds these volts whatever comes in, and takes in
    what it gives divided by `efficiency`.
    """

    id: str
    giver: str
    taker: str
    ohm: float = 0.0
    drop_v: float = 0.0
    held_v: float | None = None
    efficiency: float = 1.0


@dataclass(frozen=True, slots=True)
class Taking:
    """What is taken at a node, of each sort: so many watts at any volts, so many amps, so many amps for each volt."""

    watts: float = 0.0
    amps: float = 0.0
    siemens: float = 0.0

    def at(self, volts: float) -> float:
        """Amps at so many volts."""
        return self.watts / volts + self.amps + self.siemens * volts

    def plus(self, other: "Taking") -> "Taking":
        return Taking(self.watts + other.watts, self.amps + other.amps, self.siemens + other.siemens)


@dataclass(frozen=True)
class Flowing:
    """What came of it: volts of each node, amps over each wire (at its taker's end), amps out of each battery."""

    volts: Mapping[str, float]
    amps: Mapping[str, float]
    drawn_a: Mapping[str, float]


def flowing(cells: Sequence[Cell], wires: Sequence[Wire], taken: Mapping[str, Taking]) -> Flowing | None:
    """Solve a network, or None where it could not feed all that is taken. Raises ValueError as `Network` does."""
    return Network(cells, wires).flowing(taken)


class Network:
    """Batteries and wires, made ready to be solved for one set of loads and volts after another.

    Outlets that hold their volts cut it in parts, each a load of constant power to the part before it: they are solved
    from the ends towards the batteries. Raises ValueError where such outlets feed each other in a ring, or a node
    hangs on one of them and on something else besides.
    """

    def __init__(self, cells: Sequence[Cell], wires: Sequence[Wire]) -> None:
        self._cells = tuple(cells)
        self._alone = not wires and len(self._cells) == 1
        self._parts = () if self._alone else tuple(reversed(_parts(self._cells, wires)))

    def flowing(self, taken: Mapping[str, Taking], open_v: Sequence[float] | None = None) -> Flowing | None:
        """What flows, or None where not all that is taken could be fed; `open_v` in place of each battery's own."""
        opens = [cell.open_v for cell in self._cells] if open_v is None else open_v
        if self._alone and set(taken) <= {self._cells[0].node}:
            alone = self._cells[0]
            return _of_its_own(Cell(alone.node, opens[0], alone.ohm), taken.get(alone.node, Taking()))
        volts: dict[str, float] = {}
        amps: dict[str, float] = {}
        drawn: dict[str, float] = {}
        taking = dict(taken)
        for part in self._parts or reversed(_parts(self._cells, ())):
            found = _part_flowing(part, opens, taking)
            if found is None:
                return None
            volts |= found.volts
            amps |= found.amps
            for source, source_a in found.drawn_a.items():
                wire = part.held.get(source)
                if wire is None:
                    drawn[source] = source_a
                    continue
                amps[wire.id] = source_a
                asked_w = (wire.held_v or 0.0) * source_a / wire.efficiency
                taking[wire.giver] = taking.get(wire.giver, Taking()).plus(Taking(watts=asked_w))
        return Flowing(volts, amps, drawn)


def _of_its_own(cell: Cell, taken: Taking) -> Flowing | None:
    """The commonest network there is: a device on its own battery."""
    found_v = _alone(cell, taken)
    return None if found_v is None else Flowing({cell.node: found_v}, {}, {cell.node: taken.at(found_v)})


@dataclass
class _Part:
    """What hangs together by wires alone. `held`: source -> the wire whose outlet it is, where it is no battery.

    `cells`: each with its place among those of the network; None for an outlet.
    """

    cells: list[tuple[Cell, int | None]]
    wires: list[Wire]
    nodes: list[str]
    held: dict[str, Wire]
    shapes: dict[tuple[int, ...], "_Shape"] = field(default_factory=dict)
    """By the wires that carry."""

    def shape(self, carrying: tuple[int, ...]) -> "_Shape":
        """It with just some of its wires."""
        if carrying not in self.shapes:
            self.shapes[carrying] = _Shape(self, [self.wires[number] for number in carrying])
        return self.shapes[carrying]


def _parts(cells: Sequence[Cell], wires: Sequence[Wire]) -> list[_Part]:
    """The parts of the network, each after those that feed it."""
    of = _grouped(cells, wires)
    parts: dict[str, _Part] = {}
    for node, group in of.items():
        parts.setdefault(group, _Part([], [], [], {})).nodes.append(node)
    for number, cell in enumerate(cells):
        parts[of[cell.node]].cells.append((cell, number))
    above: dict[str, set[str]] = defaultdict(set)
    for wire in wires:
        part = parts[of[wire.taker]]
        if wire.held_v is None:
            part.wires.append(wire)
            continue
        if part.cells or part.held:
            raise ValueError(f"{wire.taker} hangs on an outlet that holds its volts and on something else besides")
        part.held[wire.taker] = wire
        part.cells.append((Cell(wire.taker, wire.held_v, wire.ohm), None))
        above[of[wire.taker]].add(of[wire.giver])
    order: list[str] = []
    while len(order) < len(parts):
        ready = [group for group in parts if group not in order and above[group] <= set(order)]
        if not ready:
            raise ValueError("outlets that hold their volts feed each other in a ring")
        order += ready
    return [parts[group] for group in order]


def _grouped(cells: Sequence[Cell], wires: Sequence[Wire]) -> dict[str, str]:
    """Node -> a name for the part that it is in."""
    of: dict[str, str] = {}

    def root(node: str) -> str:
        of.setdefault(node, node)
        while of[node] != node:
            of[node] = of[of[node]]
            node = of[node]
        return node

    for cell in cells:
        root(cell.node)
    for wire in wires:
        one, other = root(wire.giver), root(wire.taker)
        if wire.held_v is None:
            of[other] = one
    return {node: root(node) for node in list(of)}


def _part_flowing(part: _Part, open_v: Sequence[float], taken: Mapping[str, Taking]) -> Flowing | None:
    """Solve one part: first which of its wires carry, since current never goes back through one."""
    if not part.cells:
        return _empty(part, taken)
    cells = [cell if at is None else Cell(cell.node, open_v[at], cell.ohm) for cell, at in part.cells]
    carrying = set(range(len(part.wires)))
    while True:
        shape = part.shape(tuple(sorted(carrying)))
        volts = shape.volts(cells, taken)
        if volts is None:
            return None
        now = carrying - _blocked(part.wires, volts)
        if now == carrying:
            return _read(part.wires, cells, shape.wires, volts)
        carrying = now  # each time some go and none comes back: fewer that carry push back the more


def _blocked(wires: Sequence[Wire], volts: Mapping[str, float]) -> set[int]:
    """The wires into nodes with several over which current would go back."""
    into: dict[str, int] = defaultdict(int)
    for wire in wires:
        into[wire.taker] += 1
    return {
        number
        for number, wire in enumerate(wires)
        if into[wire.taker] > 1 and volts[wire.giver] - wire.drop_v < volts[wire.taker] - NEAR_V
    }


def _empty(part: _Part, taken: Mapping[str, Taking]) -> Flowing | None:
    """A part that nothing feeds: nothing may be taken there."""
    if any(taken.get(node, Taking()) != Taking() for node in part.nodes):
        return None
    return Flowing(dict.fromkeys(part.nodes, 0.0), {wire.id: 0.0 for wire in part.wires}, {})


class _Shape:
    """What of a part stays as volts and loads change: which node is eliminated when, and every constant number.

    The matrix is symmetric, so that of each pair of nodes one number is kept: at the one that is eliminated first.
    """

    def __init__(self, part: _Part, wires: Sequence[Wire]) -> None:
        self.wires = wires
        cells = [cell for cell, _ in part.cells]
        self.order = _leaves_first(cells, wires)
        at = {node: number for number, node in enumerate(self.order)}
        self._at = at
        self._sources = [(at[cell.node], 1.0 / max(cell.ohm, LEAST_OHM)) for cell in cells]
        self._flows = [(at[one.giver], at[one.taker], 1.0 / max(one.ohm, LEAST_OHM), one.drop_v) for one in wires]
        self._diagonal = [0.0] * len(self.order)
        for node, per_ohm in self._sources:
            self._diagonal[node] += per_ohm
        beside: list[dict[int, float]] = [{} for _ in self.order]
        for giver, taker, per_ohm, _ in self._flows:
            self._diagonal[giver] += per_ohm
            self._diagonal[taker] += per_ohm
            first, last = min(giver, taker), max(giver, taker)
            beside[first][last] = beside[first].get(last, 0.0) - per_ohm
        for row in beside:  # what elimination fills in: all neighbours of a node become neighbours
            for other in row:
                for third in row:
                    if third > other:
                        beside[other].setdefault(third, 0.0)
        self._places = [sorted(row) for row in beside]
        self._beside = beside
        self._fills = any(len(row) > 1 for row in beside)
        """Whether what is kept of pairs changes on the way: of a tree eliminated from its leaves it does not."""

    def volts(self, cells: Sequence[Cell], taken: Mapping[str, Taking]) -> dict[str, float] | None:
        """Volts of each node by Newton's method; None where there is no answer."""
        if not self.wires and len(cells) == 1:
            alone = _alone(cells[0], taken.get(cells[0].node, Taking()))
            return None if alone is None else {cells[0].node: alone}
        volts = [max(cell.open_v for cell in cells)] * len(self.order)
        given = [(node, per_ohm, cell.open_v) for (node, per_ohm), cell in zip(self._sources, cells, strict=True)]
        loads = [(self._at[node], load) for node, load in taken.items() if node in self._at]
        for _ in range(MOST_STEPS):
            missing, diagonal = [0.0] * len(volts), self._diagonal.copy()
            for node, per_ohm, open_v in given:
                missing[node] += per_ohm * (open_v - volts[node])
            for giver, taker, per_ohm, drop_v in self._flows:
                flow = per_ohm * (volts[giver] - drop_v - volts[taker])
                missing[giver] -= flow
                missing[taker] += flow
            for node, load in loads:
                here = volts[node]
                missing[node] -= load.watts / here + load.amps + load.siemens * here
                diagonal[node] += load.siemens - load.watts / (here * here)
            step = self._eliminated(diagonal, missing)
            if step is None:
                return None
            volts = [one + change for one, change in zip(volts, step, strict=True)]
            if min(volts) <= 0:
                return None
            if max(map(abs, step)) < NEAR_V:
                return dict(zip(self.order, volts, strict=True))
        return None

    def _eliminated(self, diagonal: list[float], right: list[float]) -> list[float] | None:
        """Solve the symmetric equations by elimination in order; None where a pivot is not above nought."""
        rows = [row.copy() for row in self._beside] if self._fills else self._beside
        for node, places in enumerate(self._places):
            pivot, own = diagonal[node], right[node]
            if pivot <= 0:
                return None
            row = rows[node]
            for number, other in enumerate(places):
                share = row[other] / pivot
                right[other] -= share * own
                diagonal[other] -= share * row[other]
                for third in places[number + 1 :]:
                    rows[other][third] -= share * row[third]
        for node in range(len(right) - 1, -1, -1):
            row = rows[node]
            right[node] = (right[node] - sum(row[other] * right[other] for other in self._places[node])) / diagonal[
                node
            ]
        return right


def _alone(cell: Cell, taken: Taking) -> float | None:
    """The volts of a battery on which only one thing hangs: the greater root of a quadratic."""
    per_ohm = 1.0 / max(cell.ohm, LEAST_OHM)
    square, linear = per_ohm + taken.siemens, cell.open_v * per_ohm - taken.amps
    under = linear**2 - 4 * square * taken.watts
    if under < 0 or linear <= 0:
        return None
    return (linear + sqrt(under)) / (2 * square)


def _leaves_first(cells: Iterable[Cell], wires: Iterable[Wire]) -> list[str]:
    """The nodes that a battery reaches, the furthest first: a tree is then eliminated without filling up."""
    near: dict[str, list[str]] = defaultdict(list)
    for wire in wires:
        near[wire.giver].append(wire.taker)
        near[wire.taker].append(wire.giver)
    order = list(dict.fromkeys(cell.node for cell in cells))
    seen = set(order)
    for node in order:
        for other in near[node]:
            if other not in seen:
                seen.add(other)
                order.append(other)
    return order[::-1]


def _read(every: Sequence[Wire], cells: Sequence[Cell], wires: Sequence[Wire], volts: dict[str, float]) -> Flowing:
    """Amps over each wire and out of each battery, from the volts."""
    amps = {wire.id: 0.0 for wire in every}
    for wire in wires:
        amps[wire.id] = (volts[wire.giver] - wire.drop_v - volts[wire.taker]) / max(wire.ohm, LEAST_OHM)
    drawn = {cell.node: (cell.open_v - volts[cell.node]) / max(cell.ohm, LEAST_OHM) for cell in cells}
    return Flowing(volts, amps, drawn)
