"""What it takes: the cheapest set of changes that keeps a promise which cannot be kept now, and one of another kind.

The rig is planned again as if a few devices of the catalogue, cables, firmware and licences could be had, each at
its price, and as if each other promise could be dropped at a dearer one.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Literal

from pydantic import Field

from isotact.core.model.base import Struct
from isotact.core.model.plan import Plan
from isotact.core.model.problems import NotFoundError
from isotact.core.model.profile import Profile
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import Promise
from isotact.core.model.variants import with_devices
from isotact.core.model.words import Id
from isotact.core.planning.model_access import (
    ChoiceModel,
    Searched,
    Terms,
    build_found,
    changes_for,
    does_not_last,
    obstacles,
    points_of,
    price_list,
    rule_out,
    search,
    short_lived,
    stacked,
    would_be,
    write_plan,
)
from isotact.core.progress import at
from isotact.core.questions.device_search import feeders_for, helpful, new_devices
from isotact.core.questions.rebalanced import balance_lines, balances_of
from isotact.core.questions.recipe_offers import Offer
from isotact.core.questions.rig_changes import Change, ChangeKind, changed
from isotact.core.runsheet import not_to_be_built
from isotact.core.solver import copied, fix, release, solve, weighted, without_aim
from isotact.core.telling.phrases import promise_words, together
from isotact.core.trades.balance.marks import GimbalBalance

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

# Two answers are looked for, each within this: together no longer than a plan may take.
WORK = 4.0
# A promise goes over one cable of a type, and what it displaces over another; a third is another rig.
EXTRA = 2
MAX_BROUGHT = 5
"""New devices weighed at a time: those on the lightest ways, and what could feed them."""
MOST_TRIED = 6
"""So many sets are carried out on the bench until one proves what it promises."""
MOST_BATCHES = 6
"""So many times over at most, and only as long as they could be cheaper than what is found."""


class Take(Struct):
    """One set of changes with which the promise holds."""

    changes: tuple[Change, ...]
    says: str
    points: int
    kept: tuple[Id, ...]
    also: tuple[str, ...] = ()
    """What is set otherwise than now: modes, in words."""
    balance: tuple[str, ...] = Field(default=(), description="what it does to the marks of a gimbal, in words")
    proven: bool


class Takes(Struct):
    """The answer for one promise: the cheapest set and the cheapest of another kind, or none at all."""

    promise: Id
    verdict: Literal["kept-already", "can-be-had", "none-found", "gave-up"]
    says: str
    takes: tuple[Take, ...] = ()
    maybe: tuple[Offer, ...] = Field(default=(), description="recipes that may do it, with what each needs besides")


@dataclass(frozen=True)
class _Dream:
    """A rig as it would be with some devices brought, the model of it, and what every change costs.

    `fair`: that no more is given up than the promise is worth; it can be let go of, to be asked what that would change.
    """

    rig: ResolvedRig
    found: Searched
    c: ChoiceModel
    prices: list[tuple[Change, cp_model.IntVar]]
    fair: cp_model.IntVar


@dataclass(frozen=True)
class _Best:
    """The cheapest set of changes that was found so far, in which dream, and how many pins it obeys."""

    dream: _Dream
    take: Take
    obeyed: int
    made: Plan
    """The plan with it."""

    @property
    def rank(self) -> tuple[int, int]:
        """The more, the better."""
        return self.obeyed, -self.take.points


def what_it_takes(
    rig: ResolvedRig, profiles: Mapping[str, Profile], plan: Plan, promise_id: str, work: float = WORK
) -> Takes:
    """What would keep `promise_id` beside as much as `plan` keeps. Raises NotFoundError for an unknown promise."""
    known = {promise.id: promise for promise in rig.rig.promises}
    if promise_id not in known:
        raise NotFoundError("promise", promise_id, known)
    promise = known[promise_id]
    words = promise_words(rig, promise)
    if promise_id in plan.kept:
        return Takes(promise=promise_id, verdict="kept-already", says=f"{words} holds already.")
    best, without, gave_up = _search(rig, profiles, plan, promise, work)
    if best is None and gave_up:
        return Takes(promise=promise_id, verdict="gave-up", says=f"{words}: the search ran out of time.")
    if best is None:
        says = f"{words}: no cable, battery, firmware, licence or device that was weighed would do it."
        dearer = _only_without(without, plan, promise, work) if without is not None else ()
        weighs = "which weighs more" if len(dearer) == 1 else "which weigh more together"
        more = f" It would hold only without {together(dearer)}, {weighs}." if dearer else ""
        return Takes(promise=promise_id, verdict="none-found", says=f"{says}{more}")
    at("Looking for one of another kind", 2, 3)
    second = _of_another_kind(best, plan, promise_id, work)
    stood = balances_of(rig, plan)
    found = [_balanced(one, stood) for one in (best, *([] if second is None else [second]))]
    takes = tuple(sorted(found, key=lambda take: take.points))
    return Takes(promise=promise_id, verdict="can-be-had", says=f"{words}: {takes[0].says}", takes=takes)


def _search(
    rig: ResolvedRig, profiles: Mapping[str, Profile], plan: Plan, promise: Promise, work: float
) -> tuple[_Best | None, _Dream | None, bool]:
    """The best over all batches of new devices, the dream without any of them, and whether one was given up on."""
    at("Gathering what could be had", 0, 3)
    best: _Best | None = None
    plain: _Dream | None = None
    gave_up = False
    batches = _batches(rig, profiles, promise)
    for number, (floor, brought) in enumerate(batches):
        if best is not None and best.take.proven and best.take.points <= floor:
            continue  # whatever is brought of these costs more than what is found
        at("Looking for the cheapest change", number, len(batches))
        dream = _dream(rig, profiles, plan, promise, brought)
        plain = plain or dream
        found, verdict = _cheapest(dream, plan, promise.id, work)
        gave_up = gave_up or verdict == "unknown"
        if found is not None and (best is None or found.rank > best.rank):
            best = found
    return best, plain, gave_up


def _batches(rig: ResolvedRig, profiles: Mapping[str, Profile], promise: Promise) -> list[tuple[int, frozenset[str]]]:
    """Which new devices to weigh at a time, with what could feed them, each after what its cheapest set costs."""
    new = new_devices(profiles, rig)
    batches: list[tuple[int, frozenset[str]]] = []
    sets = helpful(rig, profiles, promise)
    while sets and len(batches) < MOST_BATCHES:
        menu: set[str] = set()
        left, floor = [], 0 if not batches else None
        for one in sets:
            if len(menu | one) > MAX_BROUGHT:
                left.append(one)
                continue
            menu |= one
            points = sum(price_list.get_device(new[key].profile.mass_g) for key in one)
            floor = points if floor is None else min(floor, points)
        feeders = set(feeders_for(rig, profiles, frozenset(menu))) if menu else set()
        batches.append((floor or 0, frozenset(menu | feeders)))
        sets = [one for one in left if not one <= menu]
    return batches


def _dream(
    rig: ResolvedRig, profiles: Mapping[str, Profile], plan: Plan, promise: Promise, brought: frozenset[str]
) -> _Dream:
    new = new_devices(profiles, rig)
    wider = with_devices(rig, [new[key] for key in brought])
    found = _with_loads(wider, search(wider, would_be(wider), promise.id))
    c = build_found(wider, found, Terms(extra=EXTRA, apart=brought, recharged=True))
    fair = c.model.new_bool_var("fair")
    others = [one for one in rig.rig.promises if one.id in plan.kept]
    given_up = sum(one.weight * (1 - c.kept[one.id]) for one in others)
    c.model.add(given_up <= promise.weight).only_enforce_if(fair)
    fix(fair, 1)
    return _Dream(wider, found, c, list(_prices(c, plan, brought)), fair)


def _with_loads(rig: ResolvedRig, found: Searched) -> Searched:
    """Ways that want only something loaded become open, at a price."""
    options = {key: list(ways) for key, ways in found.options.items()}
    for promise in rig.rig.routed:
        for needs in found.ruled_out[promise.id]:
            kinds = {obstacle.kind for obstacle in obstacles(rig, promise, needs)}
            if kinds <= {"firmware", "licence"}:
                options[promise.id].append(replace(needs, changes=changes_for(rig, needs.way)))
    return replace(found, options=options)


def _prices(c: ChoiceModel, plan: Plan, brought: frozenset[str]) -> Iterator[tuple[Change, cp_model.IntVar]]:
    rig = c.rig
    for key, var in c.got.items():
        cable = rig.cables[key]
        kind: ChangeKind = "adapter" if cable.is_adapter else "cable"
        yield Change(kind=kind, says=f"get {cable.name}", value=key, points=price_list.GET[cable.kind]), var
    for key, var in c.parts_got.items():
        says, points = f"get {rig.part_bag.kinds[key].name}", price_list.GET_PART
        yield Change(kind="part", says=says, value=key, points=points), var
    for key in sorted(brought):
        placed = rig[key]
        points = price_list.get_device(placed.profile.mass_g)
        says = f"bring {placed.name}"
        yield Change(kind="device", says=says, value=placed.profile.id, device=key, points=points), c.awake[key]
    for (device, load, value), var in c.change.items():
        name = rig[device].name
        if load == "firmware":
            says = f"load firmware {value} on {name}"
            yield Change(kind="firmware", says=says, value=value, device=device, points=price_list.LOAD_FIRMWARE), var
        else:
            says = f"load the licence “{value}” on {name}"
            yield Change(kind="licence", says=says, value=value, device=device, points=price_list.LOAD_LICENCE), var
    yield from _batteries(c)
    for promise in rig.rig.promises:
        if promise.id in plan.kept:
            says = f"give up {promise_words(rig, promise)}"
            points = price_list.DROP_PER_WEIGHT * promise.weight
            yield Change(kind="drop", says=says, value=promise.id, points=points), c.kept[promise.id]


def _batteries(c: ChoiceModel) -> Iterator[tuple[Change, cp_model.IntVar]]:
    """What can be done about hours that are short: charged first, brought, changed more often."""
    for device, var in c.charged.items():
        placed = c.rig[device]
        says = f"charge {placed.name} first ({placed.device.charge_percent} %)"
        points = price_list.CHARGE
        yield Change(kind="charge", says=says, value=placed.profile.id, device=device, points=points), var
    for device, var in c.spare.items():
        placed = c.rig[device]
        says, points = f"bring a full spare battery for {placed.name}", price_list.GET_SPARE
        yield Change(kind="spare", says=says, value=placed.profile.id, device=device, points=points), var
    for promise in c.rig.rig.lasting:
        if promise.id in c.allowed:
            says = f"allow one more battery change in {promise.hours_h:g} h, with full spares at hand"
            points = price_list.ALLOW_CHANGE
            yield Change(kind="changes", says=says, value=promise.id, points=points), c.allowed[promise.id]


def _cheapest(dream: _Dream, plan: Plan, promise: str, work: float) -> tuple[_Best | None, str]:
    """The cheapest set of changes of one dream, and how the search for it ended."""
    c = dream.c
    c.model.maximize(stacked([*_terms(dream), [(1, c.kept[promise])], [(1, var) for var in c.obeyed]]))
    for _ in range(MOST_TRIED):
        solver, verdict = solve(c.model, work)
        if verdict not in ("optimal", "feasible"):
            return None, verdict
        if not solver.value(c.kept[promise]):
            return None, "infeasible" if verdict == "optimal" else "unknown"
        take, made = _take(dream, plan, solver, verdict)
        rig = changed(dream.rig, take.changes)
        if short := short_lived(rig, made):
            for hours, device in short:
                does_not_last(c, made, hours, device, unless=_longer(c, solver, hours, device))
            continue
        # What no sheet proves is not to be had, whatever is got for it.
        missing = not_to_be_built(rig, made)
        if not missing:
            return _Best(dream, take, sum(solver.value(var) for var in c.obeyed), made), verdict
        rule_out(c, made, missing, outright=False)
    return None, "unknown"


def _of_another_kind(best: _Best, plan: Plan, promise: str, work: float) -> _Best | None:
    """The cheapest set without the kind that marks the first; that there is none is soon told."""
    dream = best.dream
    c, model = dream.c, copied(dream.c.model)
    model.add(c.kept[promise] == 1)
    model.add(sum(c.obeyed) >= best.obeyed)
    for change, var in dream.prices:
        if change.is_of(_barred(best.take)):
            model.add(var == int(change.gives_up))
    without_aim(model)
    if solve(model, work, "question")[1] == "infeasible":
        return None
    model.maximize(stacked(_terms(dream)))
    solver, verdict = solve(model, work)
    if verdict not in ("optimal", "feasible"):
        return None
    take, made = _take(dream, plan, solver, verdict)
    rig = changed(dream.rig, take.changes)
    return None if short_lived(rig, made) or not_to_be_built(rig, made) else replace(best, take=take, made=made)


def _balanced(best: _Best, stood: Mapping[str, GimbalBalance]) -> Take:
    """What was found, with what it does to each gimbal that is balanced now."""
    lines = balance_lines(stood, changed(best.dream.rig, best.take.changes), best.made)
    return best.take.model_copy(update={"balance": tuple(lines)})


def _longer(c: ChoiceModel, solver: cp_model.CpSolver, hours: str, device: str) -> Iterator[cp_model.IntVar]:
    """What would let a battery last longer than in what was found: literals, each of something that is not done yet."""
    if device in c.charged and not solver.value(c.charged[device]):
        yield c.charged[device]
    for counted in (c.spare.get(device), c.allowed.get(hours)):
        if counted is not None:
            more = c.model.new_bool_var(f"more than {solver.value(counted)} of {counted.name}")
            c.model.add(counted >= solver.value(counted) + 1).only_enforce_if(more)
            yield more


def _only_without(dream: _Dream, plan: Plan, promise: Promise, work: float) -> tuple[str, ...]:
    """The promises, in words, that would have to go for one that they outweigh; none where that would not help."""
    c, model = dream.c, copied(dream.c.model)
    release(dream.fair, model)
    model.add(c.kept[promise.id] == 1)
    lost = [(one, c.kept[one.id]) for one in dream.rig.rig.promises if one.id in plan.kept]
    model.maximize(weighted([(one.weight, var) for one, var in lost]))
    solver, verdict = solve(model, work, "question")
    if verdict != "optimal":
        return ()
    return tuple(promise_words(dream.rig, one) for one, var in lost if not solver.value(var))


def _terms(dream: _Dream) -> list[list[tuple[int, cp_model.IntVar]]]:
    """What is then done with it, and before that what is got, loaded and given up: nothing is got to save a join."""
    dear = [(change.points if change.gives_up else -change.points, var) for change, var in dream.prices]
    return [[(-weight, var) for weight, var in points_of(dream.c)], dear]


def _take(dream: _Dream, plan: Plan, solver: cp_model.CpSolver, verdict: str) -> tuple[Take, Plan]:
    """What was chosen, and the plan with it."""
    made = write_plan(dream.c, solver, dream.found.links, "best-so-far")
    changes, also = tuple(_made(dream, solver)), tuple(_modes(dream.rig, plan, made))
    take = Take(
        changes=changes,
        says=_says(changes, also),
        points=sum(change.points * change.count for change in changes),
        kept=made.kept,
        also=also,
        proven=verdict == "optimal" and not dream.found.cut_short,
    )
    return take, made


def _made(dream: _Dream, solver: cp_model.CpSolver) -> Iterator[Change]:
    for change, var in dream.prices:
        value = int(solver.value(var))
        if change.gives_up:
            if not value:
                yield change
        elif value:
            yield change.model_copy(update={"count": value})


def _modes(rig: ResolvedRig, plan: Plan, made: Plan) -> Iterator[str]:
    now = plan.modes
    for device, mode in made.modes.items():
        if now.get(device, mode) != mode:
            yield f"{rig[device].name} is then in {rig[device].mode_name(mode)} mode"


def _says(changes: tuple[Change, ...], also: tuple[str, ...]) -> str:
    if not changes:
        return f"it holds with nothing to get{'; ' + ' and '.join(also) if also else ''}."
    words = [f"{change.says}{f', {change.count} of them' if change.count > 1 else ''}" for change in changes]
    text = f"{', and '.join(words)}{'; ' + ' and '.join(also) if also else ''}."
    return text[0].upper() + text[1:]


def _barred(take: Take) -> tuple[ChangeKind, ...]:
    """The kind that marks this set: a set without it is of another kind."""
    marks: tuple[ChangeKind, ...] = (
        "drop", "device", "licence", "firmware", "changes", "cable", "adapter", "spare", "charge", "part",
    )  # fmt: skip
    return tuple(kind for kind in marks if any(change.is_of((kind,)) for change in take.changes))[:1]
