"""The arithmetic of balance: what hangs off an axis, how far what slides has to go, and what the motor has left.

A gimbal's axes cross in one point. Places are (right, forward, up) of it in millimetres, with all scales at their zero
and the camera level. An axis stays where it is left when the moments about it add up to nought across it: in both
directions that its own line is not.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from math import hypot, sqrt

GRAVITY_M_S2 = 9.80665
"""Standard gravity (CGPM 1901)."""

Place = tuple[float, float, float]
ACROSS: Mapping[str, tuple[int, int]] = {"tilt": (1, 2), "roll": (0, 2), "pan": (1, 0)}
"""The directions in which weight turns each axis: its own line is the third."""
ORDER = ("tilt", "roll", "pan")
"""From the camera outwards: what moves within an inner axis moves within all that carry it."""


def residual_torque_nm(weights: Iterable[tuple[float, float]]) -> float:
    """The torque about an axis of `(mass_g, offset_mm)` pairs, in newton metres: g times the sum of m x."""
    return GRAVITY_M_S2 * sum(mass_g * offset_mm for mass_g, offset_mm in weights) / 1e6


def slide_mm(weights: Iterable[tuple[float, float]], sliding_g: float) -> float:
    """How far a plate with `sliding_g` on it has to slide so that the moments add up to nought."""
    return -sum(mass_g * offset_mm for mass_g, offset_mm in weights) / sliding_g


def box_inertia_kg_m2(mass_g: float, size_mm: Place) -> Place:
    """The inertia of a box of even weight about the three lines through its middle: m (a² + b²) / 12."""
    x, y, z = size_mm
    return tuple(mass_g / 1000 * (a * a + b * b) / 12e6 for a, b in ((y, z), (x, z), (x, y)))  # type: ignore[return-value]


@dataclass(frozen=True)
class Mass:
    """Something that is turned: grams, where its centre is, how well that is known, and with what it moves.

    `spread_mm`: one standard deviation of its place, each way. `size_mm`: of its outline, nought where it has none.
    """

    key: str
    mass_g: float
    at_mm: Place
    rides: str
    spread_mm: Place = (0.0, 0.0, 0.0)
    size_mm: Place = (0.0, 0.0, 0.0)

    def moved(self, by_mm: Sequence[float]) -> "Mass":
        """The same somewhere else."""
        x, y, z = (at + by for at, by in zip(self.at_mm, by_mm, strict=True))
        return replace(self, at_mm=(x, y, z))


@dataclass(frozen=True)
class Sliding:
    """What is slid: which axis it balances, along which direction and which way its figures grow, what moves with it.

    Invariant: `low` < `high`, in millimetres of its scale.
    """

    key: str
    axis: str
    along: int
    sign: int
    moves: frozenset[str]
    low: float
    high: float
    step: float = 1.0
    fine: bool = False
    zero: float = 0.0
    """Where it stands while all is where its place says."""


@dataclass(frozen=True)
class Balancing:
    """All that a gimbal turns, and what can be slid. `carried`: axis -> what rides on it."""

    masses: tuple[Mass, ...]
    slides: tuple[Sliding, ...]
    carried: Mapping[str, frozenset[str]]

    def sliding_g(self, slide: Sliding) -> float:
        """What a slide moves."""
        return sum(mass.mass_g for mass in self.masses if mass.rides in slide.moves)

    def turned_g(self, axis: str) -> float:
        """What an axis turns."""
        return sum(mass.mass_g for mass in self.masses if mass.rides in self.carried[axis])

    def moment_g_mm(self, axis: str, along: int, marks: Mapping[str, float]) -> float:
        """The moment of all that an axis turns along one direction, with the scales at `marks`, else at their zero."""
        shifts = {rides: self.shift_mm(rides, along, axis, marks) for rides in self.carried[axis]}
        return sum(one.mass_g * (one.at_mm[along] + shifts[one.rides]) for one in self.masses if one.rides in shifts)

    def spread_g_mm(self, axis: str, along: int) -> float:
        """One standard deviation of that moment, of what is not known of the places."""
        spreads = [(one.mass_g * one.spread_mm[along]) ** 2 for one in self.masses if one.rides in self.carried[axis]]
        return sqrt(sum(spreads))

    def torque_nm(self, axis: str, marks: Mapping[str, float]) -> float:
        """The most that an axis can be turned by its own weight in any position of it: g times the moment across it."""
        return GRAVITY_M_S2 * hypot(*(self.moment_g_mm(axis, along, marks) for along in ACROSS[axis])) / 1e6

    def inertia_kg_m2(self, axis: str, marks: Mapping[str, float]) -> float:
        """What an axis has to turn: of each thing as a box of even weight, and of its way from the axis (Steiner)."""
        one, other = ACROSS[axis]
        line = 3 - one - other
        found = 0.0
        for mass in self.masses:
            if mass.rides in self.carried[axis]:
                at = [mass.at_mm[along] + self.shift_mm(mass.rides, along, axis, marks) for along in (one, other)]
                own = box_inertia_kg_m2(mass.mass_g, mass.size_mm)[line]
                found += own + mass.mass_g / 1000 * (at[0] ** 2 + at[1] ** 2) / 1e6
        return found

    def shift_mm(self, rides: str, along: int, axis: str, marks: Mapping[str, float]) -> float:
        """How far what rides there has been slid, as an axis feels it: by its own slides and those within it."""
        within = ORDER[: ORDER.index(axis) + 1]
        return sum(
            slide.sign * (marks.get(slide.key, slide.zero) - slide.zero)
            for slide in self.slides
            if slide.along == along and slide.axis in within and rides in slide.moves
        )

    def marks(self) -> dict[str, float]:
        """Where each scale has to stand, in the order of the axes, never beyond its travel; to its finest step.

        A coarse slide takes what leaves its fine one in the middle of the travel; the fine one takes what is over.
        """
        found: dict[str, float] = {}
        for axis in ORDER:
            for along in (0, 1, 2):
                pair = [one for one in self.slides if (one.axis, one.along) == (axis, along)]
                for slide in pair:
                    found[slide.key] = slide.zero
                for slide in (one for one in pair if one.fine):
                    found[slide.key] = (slide.low + slide.high) / 2
                for slide in sorted(pair, key=lambda one: one.fine):
                    found[slide.key] = _within(slide, self.wanted(slide, found))
        return found

    def wanted(self, slide: Sliding, marks: Mapping[str, float]) -> float:
        """Where one scale would have to stand with the others at `marks`, were there travel enough."""
        moved_g = self.sliding_g(slide)
        if not moved_g:
            return marks.get(slide.key, slide.zero)
        without = self.moment_g_mm(slide.axis, slide.along, {**marks, slide.key: slide.zero})
        return slide.zero - without / (moved_g * slide.sign)


def _within(slide: Sliding, wanted: float) -> float:
    """The nearest mark that can be set."""
    steps = round((wanted - slide.low) / slide.step)
    most = int((slide.high - slide.low) / slide.step + 1e-9)
    return slide.low + slide.step * min(max(steps, 0), most)
