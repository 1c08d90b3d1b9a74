"""Minimal conflicting sets against the classic worked example.

Source: the polybox of R. Reiter, "A theory of diagnosis from first principles", Artificial Intelligence 32
(1987) 57-95, and J. de Kleer and B. C. Williams, "Diagnosing multiple faults", same volume, 97-130. Three
multipliers and two adders, A=3 B=2 C=2 D=3 E=3, seen F=10 and G=12. The minimal conflict sets are
{A1, M1, M2} and {A1, A2, M1, M3}.
"""

from itertools import combinations

from ortools.sat.python import cp_model

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
