"""CP-SAT: loaded when it is first needed, and run in always the same way.

Loading it takes longer than everything else at the start of the server together.
"""

from __future__ import annotations

from functools import cache
from typing import TYPE_CHECKING, Literal

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

Verdict = Literal["optimal", "feasible", "infeasible", "unknown"]


def new_model() -> cp_model.CpModel:
    """An empty model."""
    from ortools.sat.python import cp_model

    return cp_model.CpModel()


@cache
def warm_up() -> None:
    """Load the solver ahead of the first plan."""
    new_model()


def solve(model: cp_model.CpModel, time_limit_s: float, weighted: bool = True) -> tuple[cp_model.CpSolver, Verdict]:
    """Solve with one worker and a fixed seed, so that the same model always gives the same answer.

    `weighted` is for models with the plan's objective: the settings are those that proved quickest on them.
    """
    from ortools.sat.python import cp_model

    solver = cp_model.CpSolver()
    solver.parameters.num_workers = 1
    solver.parameters.random_seed = 1
    solver.parameters.max_time_in_seconds = time_limit_s
    solver.parameters.cp_model_probing_level = 0
    solver.parameters.symmetry_level = 0
    if weighted:
        solver.parameters.linearization_level = 2
    else:
        solver.parameters.linearization_level = 0
        solver.parameters.cp_model_presolve = False
    verdicts: dict[object, Verdict] = {
        cp_model.OPTIMAL: "optimal",
        cp_model.FEASIBLE: "feasible",
        cp_model.INFEASIBLE: "infeasible",
    }
    return solver, verdicts.get(solver.solve(model), "unknown")
