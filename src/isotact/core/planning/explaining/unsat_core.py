"""Conflicts by assumptions: which groups of constraints and wishes cannot hold together, and the fewest of them."""

from __future__ import annotations

from collections.abc import Callable, Collection, Sequence
from concurrent.futures import ThreadPoolExecutor
from typing import TYPE_CHECKING

from isotact.core.planning.optimising.choice_model import ChoiceModel, Group
from isotact.core.solver import copied, solve

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

# A question is answered in milliseconds; one that takes so much work, some five seconds, is given up.
QUESTION_WORK = 3.0


Untold = Callable[[list[Group]], Collection[Group]]
"""Which groups of a conflict nobody is told of."""


def _all_told(_: list[Group]) -> Collection[Group]:
    return ()


def minimal_conflict(
    c: ChoiceModel,
    asked: str | None = None,
    beside: Collection[str] = (),
    obeyed: Collection[str] = (),
    untold: Untold = _all_told,
) -> list[Group] | None:
    """A smallest-by-inclusion set of groups that cannot hold together; None when time ran out.

    The promise `asked`, if any, is held to; of the other promises only those in `beside` count, of the
    pins those in `obeyed`. What is about the asked promise itself is dropped last. Of those that are `untold` it does
    not matter which are needed: they are kept or dropped as one.
    """
    held: list[Group] = [("promise", (asked,))] if asked else []
    wished = [*(("promise", (key,)) for key in sorted(beside)), *(("pin", (key,)) for key in sorted(obeyed))]
    groups = sorted([*c.guards, *wished], key=lambda group: (group[0] == "promise", group[1][:1] == (asked,), group))
    core = clash(c, groups, held)
    several = True
    while core is not None and several:
        quiet = {*untold(core)}
        bundles = [[group for group in core if group in quiet]] * bool(quiet)
        fewest = _fewest(c, [*bundles, *([group] for group in core if group not in quiet)], held)
        core = [group for group in groups if any(group in bundle for bundle in fewest)]
        # With fewer beside them some may have to be told after all: then it matters which.
        several = len({*core} & quiet) > 1 and not quiet & {*core} <= {*untold(core)}
    return core


def _fewest(c: ChoiceModel, core: list[list[Group]], held: Sequence[Group]) -> list[list[Group]]:
    """Of a conflict in bundles those that are needed, each kept or dropped as a whole.

    It drops what is not needed: twice as many at once each time that this goes well. Most often it does not, so one
    bundle and the next are asked for side by side: the answer to the second counts when the first is needed.
    """

    def without(at: int, many: int, model: cp_model.CpModel | None = None) -> list[list[Group]] | None:
        rest = core[:at] + core[at + many :]
        left = clash(c, [group for bundle in rest for group in bundle], held, model)
        return None if left is None else [bundle for bundle in rest if not {*bundle}.isdisjoint(left)]

    at, many = 0, 1
    with ThreadPoolExecutor(max_workers=1) as aside:
        model = copied(c.model)
        while at < len(core):
            tried = core[at : at + many]
            after = aside.submit(without, at + 1, 1, model) if many == 1 and at + 1 < len(core) else None
            smaller = without(at, many)
            next_smaller = after.result() if after is not None else None
            if smaller is not None:
                core = smaller
                many *= 2
            elif len(tried) > 1:
                many = len(tried) // 2
            elif next_smaller is not None:
                core = next_smaller
                at += 1
            else:
                at += 1 if after is None else 2
    return core


def clash(
    c: ChoiceModel, groups: list[Group], held: Sequence[Group] = (), model: cp_model.CpModel | None = None
) -> list[Group] | None:
    """The solver's own conflicting subset of `groups` beside `held`, or None when they can hold together.

    `model` is a copy of that of `c`, for whoever asks beside others.
    """
    model = model or c.model
    literals = {group: c.guards[group] if group in c.guards else c.wishes[group] for group in (*held, *groups)}
    model.clear_assumptions()
    model.add_assumptions(list(literals.values()))
    solver, verdict = solve(model, QUESTION_WORK, sort="question")
    if verdict != "infeasible":
        return None
    enough = set(solver.sufficient_assumptions_for_infeasibility())
    return [group for group in groups if literals[group].index in enough]
