"""From a rig to its plan: find the ways, choose with CP-SAT, write the choice down, explain the rest."""

from __future__ import annotations

from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from itertools import count
from typing import TYPE_CHECKING

from isotact.core.model.plan import Link, Plan
from isotact.core.model.resolved import ResolvedRig
from isotact.core.planning.explaining.explanation import explain
from isotact.core.planning.lasting_longest import longer
from isotact.core.planning.lasting_truly import ruled_out_by_the_circuit, with_true_hours
from isotact.core.planning.optimising.choice_model import ChoiceModel, Terms
from isotact.core.planning.optimising.nogoods import rule_out
from isotact.core.planning.optimising.objective import aim
from isotact.core.planning.optimising.pruning import build_found
from isotact.core.planning.plan_writer import Status, write_plan
from isotact.core.planning.spare_routes import with_spares
from isotact.core.planning.ways.all_ways import Searched, search
from isotact.core.progress import Watch
from isotact.core.runsheet import not_to_be_built
from isotact.core.solver import Verdict, copied, fix, solve

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

# In the solver's own measure: twenty seconds on a laptop, as long as somebody at a cart looks at a screen that says
# that it is looking.
WORK = 12.0

# So many plans are tried of which no sheet comes, before those promises are given up that none has kept: each differs
# from the others in a promise, a way or a mode. Of a thousand tangled rigs all but a few are through after six.
MOST_TRIES = 12


@dataclass(frozen=True)
class Chosen:
    """A plan without its reasons, and what it was chosen from."""

    found: Searched
    choosing: ChoiceModel
    plan: Plan
    worth: int
    """What `objective.gain` makes of it."""


def plan(rig: ResolvedRig, work: float = WORK, watch: Watch | None = None) -> Plan:
    """The best plan for `rig`, proven optimal unless its status says otherwise, with reasons for what it cannot keep.

    The same rig always gives the same plan: one worker, a fixed seed, everything built in id order.
    """
    return with_reasons(rig, chosen_for(rig, work, watch), watch)


def chosen_for(rig: ResolvedRig, work: float = WORK, watch: Watch | None = None) -> Chosen:
    """The best plan with its spare ways, and what it was chosen from: reasons can be asked for later."""
    watch = watch or Watch()
    watch.at("Looking for the best plan", 0, 2)
    chosen = lasting_longest(rig, choose(rig, work, watch), work, watch)
    for tries in count():
        if chosen.plan.status == "out-of-time":
            break
        chosen = replace(chosen, plan=with_spares(rig, chosen.plan))
        if ruled_out_by_the_circuit(rig, chosen.plan, chosen.choosing, outright=tries >= MOST_TRIES):
            chosen = _chosen(chosen.found, chosen.choosing, solve(chosen.choosing.model, work, watch=watch))
            continue
        missing = not_to_be_built(rig, chosen.plan)
        if not missing:
            break
        # What cannot be carried out is no plan: another is asked for, without that.
        rule_out(chosen.choosing, chosen.plan, missing, outright=tries >= MOST_TRIES)
        solved = solve(chosen.choosing.model, work, watch=watch)
        chosen = _chosen(chosen.found, chosen.choosing, solved)
    return replace(chosen, plan=with_true_hours(rig, chosen.plan))


def lasting_longest(rig: ResolvedRig, chosen: Chosen, work: float, watch: Watch | None = None) -> Chosen:
    """The same promises by feeds that last longer, where only settings of feeds lie between the two."""
    settings = longer(rig, chosen.plan, chosen.choosing) if chosen.plan.status == "proven-optimal" else {}
    if not settings:
        return chosen
    model = copied(chosen.choosing.model)
    for knob, value in settings.items():
        fix(chosen.choosing.value[knob][value], 1, model)
    other = _chosen(chosen.found, chosen.choosing, solve(model, work, watch=watch))
    same = set(other.plan.kept) == set(chosen.plan.kept) and other.plan.status == "proven-optimal"
    return other if same else chosen


def plan_only(rig: ResolvedRig, work: float = WORK, links: list[Link] | None = None) -> Plan:
    """The same without the reasons, perhaps with these links only: for comparing, where nobody asks why."""
    return choose(rig, work, links=links).plan


def choose(
    rig: ResolvedRig,
    work: float = WORK,
    watch: Watch | None = None,
    links: list[Link] | None = None,
) -> Chosen:
    """Find the ways and choose among them."""
    found, choosing = _prepared(rig, links)
    return _chosen(found, choosing, solve(choosing.model, work, watch=watch))


def choose_each(rigs: Sequence[ResolvedRig], work: float, watch: Watch) -> list[Chosen]:
    """Choose for several rigs, each by itself. While one is solved, outside of Python, the next is prepared."""
    prepared = []
    with ThreadPoolExecutor(max_workers=1) as solving:
        for number, rig in enumerate(rigs):
            watch.at(f"Planning {rig.rig.name}", number, len(rigs))
            found, choosing = _prepared(rig)
            solved = solving.submit(solve, choosing.model, work, watch=watch)
            prepared.append((found, choosing, solved))
        chosen = [_chosen(found, choosing, solved.result()) for found, choosing, solved in prepared]
    longest = [lasting_longest(rig, one, work, watch) for rig, one in zip(rigs, chosen, strict=True)]
    return [_lasting_truly(rig, one, work, watch) for rig, one in zip(rigs, longest, strict=True)]


def _lasting_truly(rig: ResolvedRig, chosen: Chosen, work: float, watch: Watch) -> Chosen:
    """The best plan whose hours hold by the circuit as well."""
    for tries in count():
        if chosen.plan.status == "out-of-time":
            break
        if not ruled_out_by_the_circuit(rig, chosen.plan, chosen.choosing, outright=tries >= MOST_TRIES):
            break
        chosen = _chosen(chosen.found, chosen.choosing, solve(chosen.choosing.model, work, watch=watch))
    return replace(chosen, plan=with_true_hours(rig, chosen.plan))


def _prepared(rig: ResolvedRig, links: list[Link] | None = None) -> tuple[Searched, ChoiceModel]:
    found = search(rig, links)
    choosing = build_found(rig, found, Terms(guarded=True))
    choosing.enforce_all()
    aim(choosing)
    return found, choosing


def _chosen(found: Searched, choosing: ChoiceModel, solved: tuple[cp_model.CpSolver, Verdict]) -> Chosen:
    solver, verdict = solved
    if verdict not in ("optimal", "feasible"):
        return Chosen(found, choosing, write_plan(choosing, None, found.links, "out-of-time"), 0)
    status: Status = "proven-optimal" if verdict == "optimal" else "best-so-far"
    return Chosen(found, choosing, write_plan(choosing, solver, found.links, status), round(solver.objective_value))


def with_reasons(rig: ResolvedRig, chosen: Chosen, watch: Watch | None = None) -> Plan:
    """The chosen plan, with what stands in the way of what it cannot keep."""
    watch = watch or Watch()
    if chosen.plan.status == "out-of-time" or len(chosen.plan.kept) == len(rig.rig.promises):
        return chosen.plan
    watch.at("Finding out why the rest cannot be kept", 1, 2)
    return chosen.plan.model_copy(update={"unmet": tuple(explain(chosen.found, chosen.choosing, chosen.plan, watch))})
