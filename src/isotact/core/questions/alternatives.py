"""Other plans: the best that differ in their routes, and all the ways to a picture, compared."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator
from itertools import count as count_up
from typing import TYPE_CHECKING

from isotact.core.model.base import Struct
from isotact.core.model.plan import Plan
from isotact.core.model.problems import NotFoundError
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id
from isotact.core.planning.model_access import (
    MOST_TRIES,
    ChoiceModel,
    Chosen,
    Crossing,
    Path,
    Requirements,
    Searched,
    Status,
    Way,
    aim,
    build_found,
    gain,
    goes_over,
    has_look,
    lasting_longest,
    obstacles,
    ruled_out_by_the_circuit,
    search,
    taken_routes,
    with_true_hours,
    write_plan,
)
from isotact.core.progress import at
from isotact.core.questions.rebalanced import balance_lines, balances_of
from isotact.core.solver import solve
from isotact.core.telling.figures import Figures, figures, route_words
from isotact.core.telling.phrases import promise_words
from isotact.core.trades.balance.marks import GimbalBalance

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

# Each other way is a plan of its own: what was found by then is shown.
WORK = 6.0
CrossingClass = tuple[str, str, str]
WayClass = tuple[CrossingClass, ...]
"""A way told coarsely: per crossing the two kinds of device, and what is spoken between them."""


class Alternative(Struct):
    """A plan, and in what it differs from the first."""

    plan: Plan
    figures: Figures
    differs: tuple[str, ...]
    over: dict[Id, tuple[str, ...]]
    """Promise -> the joins of its way, as a pin writes them: to adopt it, pin these."""


class PictureWay(Struct):
    """One way to bring a picture to a screen; `figures` are those of the best plan that uses it."""

    devices: tuple[str, ...]
    says: str
    delay_ms: float
    look: bool
    possible: bool
    because: str = ""
    over: tuple[str, ...]
    figures: Figures | None = None
    kept: tuple[Id, ...] = ()
    lost: tuple[str, ...] = ()
    cables: tuple[str, ...] = ()


def way_class(rig: ResolvedRig, way: Way) -> WayClass:
    """`way` so coarsely that like devices, like ports and like cables make no difference."""
    if not way.crossings:
        return ((rig[way.legs[0].device].profile.id, "", ""),)
    return tuple(_crossing_class(rig, crossing) for crossing in way.crossings)


def _crossing_class(rig: ResolvedRig, crossing: Crossing) -> CrossingClass:
    return rig[crossing.at.device].profile.id, crossing.use.role_a, rig[crossing.to.device].profile.id


def alternatives(rig: ResolvedRig, count: int = 5, work: float = WORK) -> list[Alternative]:
    """The best plan and up to `count` - 1 others, best first, each with a route that none before it has."""
    found = search(rig)
    c = build_found(rig, found)
    aim(c)
    made: list[Alternative] = []
    stood: dict[str, GimbalBalance] = {}
    for number in range(count):
        at("Looking for other plans", number, count)
        best = _best(rig, c, found, work)
        if best is None:
            break
        solver, plan = best
        # The first is the plan itself, so that nothing in the list differs from it by its feeds alone.
        if not made:  # as it is planned: with feeds that last longest
            plan = lasting_longest(rig, Chosen(found, c, plan, 0), work).plan
        plan = with_true_hours(rig, plan)
        taken = taken_routes(c, solver)
        over = {key: tuple(sorted(goes_over(needs.way))) for key, needs in taken.items()}
        first = made[0].plan if made else plan
        stood = balances_of(rig, plan) if not made else stood
        differs = (*_differs(rig, first, plan), *balance_lines(stood, rig, plan)) if made else ()
        made.append(Alternative(plan=plan, figures=figures(rig, plan), differs=differs, over=over))
        _cut(c, taken)
    return made


def _best(rig: ResolvedRig, c: ChoiceModel, found: Searched, work: float) -> tuple[cp_model.CpSolver, Plan] | None:
    """The best plan that is left whose hours hold by the circuit as well; None where there is no more."""
    for tries in count_up():
        solver, verdict = solve(c.model, work)
        if verdict not in ("optimal", "feasible"):
            return None
        status: Status = "proven-optimal" if verdict == "optimal" else "best-so-far"
        plan = write_plan(c, solver, found.links, status)
        if not ruled_out_by_the_circuit(rig, plan, c, outright=tries >= MOST_TRIES):
            return solver, plan
    return None


def _cut(c: ChoiceModel, taken: dict[str, Requirements]) -> None:
    """From now on some promise goes another way than in `taken`; to drop one is no other way."""
    others = []
    mine = {promise: way_class(c.rig, needs.way) for promise, needs in taken.items()}
    for (promise, number), var in c.route.items():
        if way_class(c.rig, c.options[promise][number].way) != mine.get(promise):
            others.append(var)
    # A promise that walks has no numbered ways: its path must cross something another number of times.
    for promise, path in c.paths.items():
        others += _walks_elsewhere(c, path, taken[promise].way) if promise in taken else [c.kept[promise]]
    c.model.add_bool_or(others)


def _walks_elsewhere(c: ChoiceModel, path: Path, way: Way) -> Iterator[cp_model.IntVar]:
    """Literals of which one holds only if the path crosses something more, or less, often than `way` does."""
    mine = Counter(_crossing_class(c.rig, crossing) for crossing in way.crossings)
    hops: dict[CrossingClass, list[cp_model.IntVar]] = defaultdict(list)
    for hop, var in path.hops.items():
        hops[_crossing_class(c.rig, hop.crossing)].append(var)
    for crossing, those in hops.items():
        more, less = c.model.new_bool_var(f"more {crossing}"), c.model.new_bool_var(f"less {crossing}")
        c.model.add(sum(those) >= mine[crossing] + 1).only_enforce_if(more)
        c.model.add(sum(those) <= mine[crossing] - 1).only_enforce_if(less)
        c.model.add_implication(less, c.kept[path.walk.promise.id])
        yield more
        yield less


def _differs(rig: ResolvedRig, first: Plan, other: Plan) -> list[str]:
    routes = {route.promise: route for route in first.routes}
    now = {route.promise: route for route in other.routes}
    says = []
    for promise in rig.rig.promises:
        old, new = routes.get(promise.id), now.get(promise.id)
        words = promise_words(rig, promise)
        if old and not new:
            says.append(f"Loses {words}.")
        elif new and not old:
            says.append(f"Gains {words}.")
        elif old and new and route_words(rig, old) != route_words(rig, new):
            says.append(f"{words[0].upper()}{words[1:]}: {route_words(rig, new)}.")
    return says


def picture_ways(rig: ResolvedRig, promise_id: str, work: float = WORK) -> list[PictureWay]:
    """Every way to the screen of a picture promise, told apart as people would, the simplest first.

    Raises NotFoundError when the rig has no picture promise of that id.
    """
    known = {promise.id: promise for promise in rig.rig.pictures}
    if promise_id not in known:
        raise NotFoundError("picture promise", promise_id, known)
    found = search(rig, listed=promise_id)
    c = build_found(rig, found)
    groups: dict[WayClass, list[int]] = defaultdict(list)
    for number, needs in enumerate(found.options[promise_id]):
        groups[way_class(rig, needs.way)].append(number)
    ways = []
    for number, numbers in enumerate(groups.values()):
        at("Planning each way to the picture", number, len(groups))
        ways.append(_possible(c, found, promise_id, numbers, work))
    # What is ruled out comes after, a class once, so that a no is told and not left to be wondered at.
    seen = set(groups)
    for needs in found.ruled_out[promise_id]:
        if way_class(rig, needs.way) not in seen:
            seen.add(way_class(rig, needs.way))
            because = " ".join(one.says for one in obstacles(rig, known[promise_id], needs))
            ways.append(_described(rig, needs, because))
    return sorted(ways, key=lambda way: (not way.possible, len(way.devices), way.delay_ms, way.says))


def _described(rig: ResolvedRig, needs: Requirements, because: str) -> PictureWay:
    way = needs.way
    names = tuple(dict.fromkeys(rig[leg.device].name for leg in way.legs))
    return PictureWay(
        devices=names,
        says=" to ".join(names),
        delay_ms=way.delay_ms,
        look=has_look(way),
        possible=not because,
        because=because,
        over=tuple(sorted(goes_over(way))),
    )


def _possible(c: ChoiceModel, found: Searched, promise: str, numbers: list[int], work: float) -> PictureWay:
    """The best plan that takes one of these like ways."""
    rig = c.rig
    # Like ways are one to a person: whichever of them is best stands for all.
    c.model.maximize(gain([c], [(1, c.route[promise, number]) for number in numbers]))
    solver, verdict = solve(c.model, work)
    needs = c.options[promise]
    if verdict not in ("optimal", "feasible"):
        return _described(rig, needs[numbers[0]], "There was no time to look at it.")
    taken = [number for number in numbers if solver.value(c.route[promise, number])]
    if not taken:
        return _described(rig, needs[numbers[0]], "It cannot be fed, set or plugged with what is here.")
    plan = write_plan(c, solver, found.links, "proven-optimal")
    lost = [promise_words(rig, one) for one in rig.rig.promises if one.id not in plan.kept]
    joins = [join for join in plan.joins if promise in join.promises and join.link.cable]
    cables = [f"{join.tag} {rig.cables[join.link.cable or ''].name}" for join in joins]
    return _described(rig, needs[taken[0]], "").model_copy(
        update={
            "figures": figures(rig, plan),
            "kept": plan.kept,
            "lost": tuple(lost),
            "cables": tuple(cables),
        }
    )
