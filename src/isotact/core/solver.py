"""CP-SAT, wrapped: loaded when it is first needed, run in always the same way, its internals touched nowhere else.

Loading it takes longer than everything else at the start of the server together. Outside of this module its types are
named for type checking only; whatever reaches into a model, such as the domain of a variable, is a function here.
"""

from __future__ import annotations

from collections.abc import Iterable
from functools import cache
from typing import TYPE_CHECKING, Literal

from isotact.core.progress import Watch

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

Verdict = Literal["optimal", "feasible", "infeasible", "unknown"]
Sort = Literal["plan", "day", "question", "rota"]


def new_model() -> cp_model.CpModel:
    """An empty model."""
    return _model_type()()


def copied(model: cp_model.CpModel) -> cp_model.CpModel:
    """The same model once more, to be asked beside it: the variables of one are good for the other."""
    copy = new_model()
    copy.proto.copy_from(model.proto)
    return copy


@cache
def _model_type() -> type[cp_model.CpModel]:
    from ortools.sat.python import cp_model

    class Model(cp_model.CpModel):
        """Without the older names of every method: making those takes longer than a small question."""

        def _add_pre_pep8_methods(self) -> None:
            pass

    return Model


def fix(var: cp_model.IntVar, value: int, model: cp_model.CpModel | None = None) -> None:
    """Hold a boolean of a model, or of a copy of that model, at `value`; `release` lets go of it again.

    The lower end of its domain alone is moved: `value` is 1. Cheaper than a constraint, and it can be undone.
    """
    proto = var.proto if model is None else model.proto.variables[var.index]
    proto.domain[0] = value


def release(var: cp_model.IntVar, model: cp_model.CpModel | None = None) -> None:
    """Let a boolean be chosen again."""
    fix(var, 0, model)


def most(var: cp_model.IntVar) -> int:
    """The largest value that a variable could have."""
    return 1 if var.is_boolean else int(var.proto.domain[1])  # its list knows no negative index


def without_aim(model: cp_model.CpModel) -> None:
    """Aim at nothing any more: the model is asked whether something can be at all."""
    model.clear_objective()  # type: ignore[no-untyped-call]


def weighted(terms: Iterable[tuple[int, cp_model.IntVar]]) -> cp_model.LinearExpr:
    """So many times each variable, put together at one go."""
    from ortools.sat.python import cp_model

    pairs = [*terms]
    return cp_model.LinearExpr.weighted_sum([var for _, var in pairs], [weight for weight, _ in pairs])


def added(variables: Iterable[cp_model.IntVar]) -> cp_model.LinearExpr:
    """Their sum, put together at one go."""
    from ortools.sat.python import cp_model

    return cp_model.LinearExpr.sum([*variables])


def new_int_var_of(model: cp_model.CpModel, values: Iterable[int], name: str) -> cp_model.IntVar:
    """A variable that takes one of these values."""
    from ortools.sat.python import cp_model

    return model.new_int_var_from_domain(cp_model.Domain.from_values(sorted(values)), name)


@cache
def warm_up() -> None:
    """Load the solver ahead of the first plan."""
    new_model()


LAST_LOOK_S = 0.3
"""So long a search may still look for anything at all when it was stopped before it began."""


QUICK = 0.25
"""So long a plan is looked for without cuts, in the solver's own unit of work, which is the same on every machine."""


def solve(
    model: cp_model.CpModel, work: float, sort: Sort = "plan", watch: Watch | None = None
) -> tuple[cp_model.CpSolver, Verdict]:
    """Solve with one worker, a fixed seed and a limit in work, so that the same model always gives the same answer.

    `work` is in the solver's own measure, of which a unit takes one to two seconds on a laptop: what is found must not
    depend on how busy the machine is today. Only who stops a search by hand (`watch`) gets what is there by then.

    `sort` tells what the model is: one rig's plan, several rigs at once, or a question whether something can be at
    all. The settings are those that proved quickest on each.
    """
    if sort != "plan":
        return _run(_solver(work, _SETTINGS[sort]), model, watch)
    quick = _run(_solver(min(QUICK, work), _SETTINGS["plan"]), model, watch)
    left = work - min(QUICK, work)
    if quick[1] in ("optimal", "infeasible") or left <= 0 or (watch is not None and watch.stopped):
        return quick
    thorough = _run(_solver(left, _SETTINGS["day"]), model, watch)
    found = [one for one in (thorough, quick) if one[1] in ("optimal", "feasible")]
    return max(found, key=lambda one: one[0].objective_value) if found else thorough


def solve_within(model: cp_model.CpModel, work: float, sort: Sort | None = None) -> tuple[cp_model.CpSolver, Verdict]:
    """Solve with its own settings, or those of a sort, within so much work: the same on every machine."""
    return _run(_solver(work, _SETTINGS[sort] if sort else {}), model, None)


# Probing and symmetry cost more than they save on models that are already small. Feeds and ways make flows: with all of
# it linear the bound closes at once, and for one rig cuts have nothing left to do. Inprocessing is
# for long searches: without it a plan of 24 devices takes half as long, and hard ones take as long in the mean.
_PLAIN: dict[str, int | float | bool] = {"cp_model_probing_level": 0, "symmetry_level": 0}
_SETTINGS: dict[Sort, dict[str, int | float | bool]] = {
    "plan": {
        **_PLAIN,
        "linearization_level": 2,
        "cut_level": 0,
        "max_presolve_iterations": 1,
        "use_sat_inprocessing": False,
    },
    "day": {**_PLAIN, "linearization_level": 2, "max_presolve_iterations": 1},
    # Times and charges hang together by tables, of which a relaxation knows nothing.
    "rota": {"linearization_level": 0},
    # Propagation answers before a relaxation is even built.
    "question": {**_PLAIN, "linearization_level": 0, "cp_model_presolve": False, "use_sat_inprocessing": False},
}


def _solver(work: float, settings: dict[str, int | float | bool]) -> cp_model.CpSolver:
    """A solver so set, with a limit to its work."""
    from ortools.sat.python import cp_model

    solver = cp_model.CpSolver()
    # One worker: two were slower on every rig measured, and the answer must not depend on which is quicker today.
    solver.parameters.num_workers = 1
    solver.parameters.random_seed = 1
    solver.parameters.max_deterministic_time = work
    for key, value in settings.items():
        setattr(solver.parameters, key, value)
    return solver


def _run(solver: cp_model.CpSolver, model: cp_model.CpModel, watch: Watch | None) -> tuple[cp_model.CpSolver, Verdict]:
    from ortools.sat.python import cp_model

    verdicts: dict[object, Verdict] = {
        cp_model.OPTIMAL: "optimal",
        cp_model.FEASIBLE: "feasible",
        cp_model.INFEASIBLE: "infeasible",
    }
    if watch is None:
        return solver, verdicts.get(solver.solve(model), "unknown")
    if watch.stopped:
        solver.parameters.max_time_in_seconds = LAST_LOOK_S
    watch.hold(solver.stop_search)
    try:
        return solver, verdicts.get(solver.solve(model, _watching(watch)), "unknown")
    finally:
        watch.hold(None)


def _watching(watch: Watch) -> cp_model.CpSolverSolutionCallback:
    from ortools.sat.python import cp_model

    class Callback(cp_model.CpSolverSolutionCallback):
        def on_solution_callback(self) -> None:
            watch.best, watch.bound = round(self.objective_value), round(self.best_objective_bound)
            if watch.stopped:
                self.stop_search()

    return Callback()
