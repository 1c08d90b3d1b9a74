"""Minimal conflicting sets and minimal diagnoses against the classic worked example and a general library.

Source: the polybox of R. Reiter, "A theory of diagnosis from first principles", Artificial Intelligence 32
(1987) 57-95, and J. de Kleer and B. C. Williams, "Diagnosing multiple faults", same volume, 97-130. Three
multipliers and two adders, A=3 B=2 C=2 D=3 E=3, seen F=10 and G=12. The minimal conflict sets are
{A1, M1, M2} and {A1, A2, M1, M3}.
"""

from itertools import combinations
from random import Random

import pytest
from ortools.sat.python import cp_model
from pysat.examples.hitman import Hitman

from isotact.core.diagnosis import minimal_diagnoses, minimal_hitting_sets
from isotact.core.planning.explaining.unsat_core import clash, minimal_conflict
from isotact.core.planning.optimising.choice_model import ChoiceModel, Terms
from tests.rigs import demo

CONFLICTS = [{"A1", "M1", "M2"}, {"A1", "A2", "M1", "M3"}]


def polybox(parts: str = "M1 M2 M3 A1 A2") -> ChoiceModel:
    box = ChoiceModel(demo(), {}, {}, Terms(guarded=True), model=cp_model.CpModel())
    x, y, z = (box.model.new_int_var(0, 100, name) for name in "xyz")
    laws = {"M1": x == 3 * 2, "M2": y == 2 * 3, "M3": z == 2 * 3, "A1": x + y == 10, "A2": y + z == 12}
    for name in parts.split():
        box.add(("part", name), laws[name])
    return box


def test_the_conflict_found_is_one_of_the_two_minimal_ones():
    found = minimal_conflict(polybox())
    assert {name for _, name in found or []} in CONFLICTS


def test_without_a_part_of_the_one_the_other_is_found():
    found = minimal_conflict(polybox("M1 M3 A1 A2"))
    assert {name for _, name in found or []} == CONFLICTS[1]


def test_exactly_the_sets_that_hold_a_known_conflict_are_impossible():
    box = polybox()
    for size in range(6):
        for names in combinations(["A1", "A2", "M1", "M2", "M3"], size):
            impossible = clash(box, [("part", name) for name in names]) is not None
            assert impossible == any(conflict <= set(names) for conflict in CONFLICTS)


def broken(parts: frozenset[str]) -> frozenset[str] | None:
    """A conflict of the polybox without `parts`, as its own propagation finds it; None where the rest agrees."""
    left = " ".join(name for name in ("M1", "M2", "M3", "A1", "A2") if name not in parts)
    found = minimal_conflict(polybox(left))
    return None if found is None else frozenset(name for _, name in found)


def test_the_minimal_diagnoses_of_the_polybox_are_the_published_ones():
    """De Kleer and Williams, section 2: {A1}, {M1}, {A2, M2}, {M2, M3}."""
    assert minimal_diagnoses(broken) == [frozenset(one) for one in ({"A1"}, {"M1"}, {"A2", "M2"}, {"M2", "M3"})]


@pytest.mark.parametrize("seed", range(200))
def test_minimal_hitting_sets_are_those_of_a_sat_library(seed: int):
    """Against `Hitman` of python-sat (A. Ignatiev and others), a general library, on drawn conflicts."""
    draw = Random(seed)
    names = [f"c{number}" for number in range(draw.randint(3, 9))]
    conflicts = [frozenset(draw.sample(names, draw.randint(1, min(4, len(names))))) for _ in range(draw.randint(1, 6))]
    with Hitman(bootstrap_with=[sorted(one) for one in conflicts], solver="m22", htype="sorted") as hitman:
        known = {frozenset(one) for one in hitman.enumerate()}
    ours = minimal_hitting_sets(conflicts)
    assert set(ours) == known
    assert len(ours) == len(known)
    largest = draw.randint(1, 3)
    assert set(minimal_hitting_sets(conflicts, largest)) == {one for one in known if len(one) <= largest}


def test_nothing_hits_what_nobody_could_have_broken():
    assert minimal_hitting_sets([frozenset()]) == []
    assert minimal_hitting_sets([]) == [frozenset()]
