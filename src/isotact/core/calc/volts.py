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
from dataclasses import dataclass
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
    """Solve the network, or None where it could not feed all that is taken.

    Outlets that hold their volts cut it in parts, each a load of constant power to the part before it: they are solved
    from the ends towards the batteries. Raises ValueError where such outlets feed each other in a ring, or a node
    hangs on one of them and on something else besides.
    """
    if not wires and len(cells) == 1 and set(taken) <= {cells[0].node}:
        return _of_its_own(cells[0], taken.get(cells[0].node, Taking()))
    volts: dict[str, float] = {}
    amps: dict[str, float] = {}
    drawn: dict[str, float] = {}
    taking = dict(taken)
    for part in reversed(_parts(cells, wires)):
        found = _part_flowing(part, taking)
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
    """What hangs together by wires alone. `held`: source -> the wire whose outlet it is, where it is no battery."""

    cells: list[Cell]
    wires: list[Wire]
    nodes: list[str]
    held: dict[str, Wire]


def _parts(cells: Sequence[Cell], wires: Sequence[Wire]) -> list[_Part]:
    """The parts of the network, each after those that feed it."""
    of = _grouped(cells, wires)
    parts: dict[str, _Part] = {}
    for node, group in of.items():
        parts.setdefault(group, _Part([], [], [], {})).nodes.append(node)
    for cell in cells:
        parts[of[cell.node]].cells.append(cell)
    above: dict[str, set[str]] = defaultdict(set)
    for wire in wires:
        part = parts[of[wire.taker]]
        if wire.held_v is None:
            part.wires.append(wire)
            continue
        if part.cells or part.held:
            raise ValueError(f"{wire.taker} hangs on an outlet that holds its volts and on something else besides")
        part.held[wire.taker] = wire
        part.cells.append(Cell(wire.taker, wire.held_v, wire.ohm))
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


def _part_flowing(part: _Part, taken: Mapping[str, Taking]) -> Flowing | None:
    """Solve one part: first which of its wires carry, since current never goes back through one."""
    if not part.cells:
        return _empty(part, taken)
    carrying, wires = set(range(len(part.wires))), part.wires
    while True:
        volts = _newton(part, wires, taken)
        if volts is None:
            return None
        now = carrying - _blocked(part.wires, volts)
        if now == carrying:
            return _read(part, wires, volts)
        # Each time some go and none comes back: what would push back into a node does so the more, the fewer carry.
        carrying, wires = now, [part.wires[number] for number in sorted(now)]


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


def _newton(part: _Part, wires: Iterable[Wire], taken: Mapping[str, Taking]) -> dict[str, float] | None:
    """Volts of each node with just `wires` carrying; None where there is no answer."""
    siemens = [(wire, 1.0 / max(wire.ohm, LEAST_OHM)) for wire in wires]
    if not siemens and len(part.cells) == 1:
        alone = part.cells[0]
        found_v = _alone(alone, taken.get(alone.node, Taking()))
        return None if found_v is None else {alone.node: found_v}
    sources = [(cell, 1.0 / max(cell.ohm, LEAST_OHM)) for cell in part.cells]
    order = _leaves_first(part, [wire for wire, _ in siemens])
    volts = dict.fromkeys(order, max(cell.open_v for cell in part.cells))
    loads = {node: load for node in order if (load := taken.get(node)) is not None}
    for _ in range(MOST_STEPS):
        matrix: dict[str, dict[str, float]] = {node: {node: 0.0} for node in order}
        missing = dict.fromkeys(order, 0.0)
        for cell, per_ohm in sources:
            matrix[cell.node][cell.node] += per_ohm
            missing[cell.node] += per_ohm * (cell.open_v - volts[cell.node])
        for wire, per_ohm in siemens:
            giver, taker = wire.giver, wire.taker
            flow = per_ohm * (volts[giver] - wire.drop_v - volts[taker])
            missing[giver] -= flow
            missing[taker] += flow
            matrix[giver][giver] += per_ohm
            matrix[taker][taker] += per_ohm
            matrix[giver][taker] = matrix[giver].get(taker, 0.0) - per_ohm
            matrix[taker][giver] = matrix[taker].get(giver, 0.0) - per_ohm
        for node, load in loads.items():
            missing[node] -= load.at(volts[node])
            matrix[node][node] += load.siemens - load.watts / volts[node] ** 2
        step = _eliminated(matrix, missing, order)
        if step is None:
            return None
        for node, change in step.items():
            volts[node] += change
            if volts[node] <= 0:
                return None
        if max(map(abs, step.values())) < NEAR_V:
            return volts
    return None


def _alone(cell: Cell, taken: Taking) -> float | None:
    """The volts of a battery on which only one thing hangs: the greater root of a quadratic."""
    per_ohm = 1.0 / max(cell.ohm, LEAST_OHM)
    square, linear = per_ohm + taken.siemens, cell.open_v * per_ohm - taken.amps
    under = linear**2 - 4 * square * taken.watts
    if under < 0 or linear <= 0:
        return None
    return (linear + sqrt(under)) / (2 * square)


def _leaves_first(part: _Part, wires: Iterable[Wire]) -> list[str]:
    """The nodes that a battery reaches, the furthest first: a tree is then eliminated without filling up."""
    near: dict[str, list[str]] = defaultdict(list)
    for wire in wires:
        near[wire.giver].append(wire.taker)
        near[wire.taker].append(wire.giver)
    order = list(dict.fromkeys(cell.node for cell in part.cells))
    seen = set(order)
    for node in order:
        for other in near[node]:
            if other not in seen:
                seen.add(other)
                order.append(other)
    return order[::-1]


def _eliminated(
    matrix: dict[str, dict[str, float]], right: dict[str, float], order: Sequence[str]
) -> dict[str, float] | None:
    """Solve the symmetric equations by elimination in `order`; None where a pivot is not above nought."""
    rows: list[tuple[str, float, dict[str, float]]] = []
    for node in order:
        row = matrix.pop(node)
        pivot = row.pop(node)
        if pivot <= 0:
            return None
        for other, value in row.items():
            share = value / pivot
            right[other] -= share * right[node]
            target = matrix[other]
            del target[node]
            for third, more in row.items():
                target[third] = target.get(third, 0.0) - share * more
        rows.append((node, pivot, row))
    found: dict[str, float] = {}
    for node, pivot, row in reversed(rows):
        found[node] = (right[node] - sum(value * found[other] for other, value in row.items())) / pivot
    return found


def _read(part: _Part, wires: Sequence[Wire], volts: dict[str, float]) -> Flowing:
    """Amps over each wire and out of each battery, from the volts."""
    amps = {wire.id: 0.0 for wire in part.wires}
    for wire in wires:
        amps[wire.id] = (volts[wire.giver] - wire.drop_v - volts[wire.taker]) / max(wire.ohm, LEAST_OHM)
    drawn = {cell.node: (cell.open_v - volts[cell.node]) / max(cell.ohm, LEAST_OHM) for cell in part.cells}
    return Flowing(volts, amps, drawn)
