"""What it takes: the cheapest set of changes that keeps a promise which cannot be kept now, and one of another kind.

The rig is planned again as if a few devices of the catalogue, cables, firmware and licences could be had, each at
its price, and as if each other promise could be dropped at a dearer one.
"""

from __future__ import annotations

import re
from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import Field, model_validator

from isotact.core.model.base import Struct
from isotact.core.model.plan import Plan
from isotact.core.model.problems import NotFoundError
from isotact.core.model.profile import Profile
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import BagItem, Device, Promise, Rig
from isotact.core.model.variants import with_devices
from isotact.core.model.words import ID_PATTERN, VERSION_PATTERN, Id, free_id
from isotact.core.planning.model_access import (
    FINE,
    ChoiceModel,
    Searched,
    Terms,
    build_found,
    changes_for,
    obstacles,
    points_of,
    price_list,
    search,
    stacked,
    would_be,
    write_plan,
)
from isotact.core.progress import at
from isotact.core.questions.device_search import feeders_for, helpful, new_devices
from isotact.core.questions.recipe_offers import Offer
from isotact.core.solver import copied, solve, without_aim
from isotact.core.telling.phrases import promise_words

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

# Two answers are looked for, each within this: together no longer than a plan may take.
LIMIT_S = 6.0
SHARE = 20
"""What is done with what is got counts so much less than the getting."""
# A promise goes over one cable of a type, and what it displaces over another; a third is another rig.
EXTRA = 2
MAX_BROUGHT = 5
"""New devices weighed at a time: those on the shortest ways, and what could feed them."""

ChangeKind = Literal["cable", "adapter", "device", "firmware", "licence", "drop"]


class Change(Struct):
    """One thing to get, to load or to give up. `device`, `value` and `count` are what a rig needs to take it in."""

    kind: ChangeKind
    says: str
    value: Annotated[str, Field(max_length=64)]
    device: Id | None = None
    count: int = Field(default=1, ge=1, le=99, strict=True)
    points: int = Field(strict=True)

    @model_validator(mode="after")
    def _value_is_of_its_kind(self) -> Change:
        pattern = VERSION_PATTERN if self.kind == "firmware" else ID_PATTERN
        if not re.match(pattern, self.value):
            wanted = "a version such as '2.10'" if self.kind == "firmware" else "the id of what is to be changed"
            raise ValueError(f"found value '{self.value}'; expected {wanted}")
        return self

    @property
    def gives_up(self) -> bool:
        """Whether a promise is given up; everything else is got or loaded."""
        return self.kind == "drop"

    def is_of(self, kinds: Collection[str]) -> bool:
        return self.kind in kinds


class Take(Struct):
    """One set of changes with which the promise holds."""

    changes: tuple[Change, ...]
    says: str
    points: int
    kept: tuple[Id, ...]
    also: tuple[str, ...] = ()
    """What is set otherwise than now: modes, in words."""
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
    """A rig as it would be, the model of it, and what every change costs."""

    rig: ResolvedRig
    found: Searched
    c: ChoiceModel
    prices: list[tuple[Change, cp_model.IntVar]]


def what_it_takes(
    rig: ResolvedRig, profiles: Mapping[str, Profile], plan: Plan, promise_id: str, limit_s: float = LIMIT_S
) -> Takes:
    """What would keep `promise_id` beside as much as `plan` keeps. Raises NotFoundError for an unknown promise."""
    known = {promise.id: promise for promise in rig.rig.promises}
    if promise_id not in known:
        raise NotFoundError("promise", promise_id, known)
    promise = known[promise_id]
    words = promise_words(rig, promise)
    if promise_id in plan.kept:
        return Takes(promise=promise_id, verdict="kept-already", says=f"{words} holds already.")
    at("Gathering what could be had", 0, 3)
    dream = _dream(rig, profiles, plan, promise_id, _menu(rig, profiles, promise))
    at("Looking for the cheapest change", 1, 3)
    first, verdict, obeyed = _cheapest(dream, plan, promise_id, limit_s)
    if first is None and verdict == "unknown":
        return Takes(promise=promise_id, verdict="gave-up", says=f"{words}: the search ran out of time.")
    if first is None:
        says = f"{words}: no cable, firmware, licence or device that was weighed, and no promise dropped, would do it."
        return Takes(promise=promise_id, verdict="none-found", says=says)
    at("Looking for one of another kind", 2, 3)
    second = _of_another_kind(dream, plan, promise_id, first, obeyed, limit_s)
    takes = (first,) if second is None else (first, second)
    return Takes(promise=promise_id, verdict="can-be-had", says=f"{words}: {first.says}", takes=takes)


def _menu(rig: ResolvedRig, profiles: Mapping[str, Profile], promise: Promise) -> frozenset[str]:
    """Which new devices to weigh: those on the shortest ways first, and what could feed them."""
    menu: set[str] = set()
    for new in helpful(rig, profiles, promise):
        if len(menu | new) <= MAX_BROUGHT:
            menu |= new
    return frozenset(menu | set(feeders_for(rig, profiles, frozenset(menu)))) if menu else frozenset()


def _dream(
    rig: ResolvedRig, profiles: Mapping[str, Profile], plan: Plan, promise_id: str, brought: frozenset[str]
) -> _Dream:
    new = new_devices(profiles, rig)
    wider = with_devices(rig, [new[key] for key in brought])
    found = _with_loads(wider, search(wider, would_be(wider), promise_id))
    c = build_found(wider, found, Terms(extra=EXTRA, apart=brought))
    return _Dream(wider, found, c, list(_prices(c, plan, brought)))


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
    for promise in rig.rig.promises:
        if promise.id in plan.kept:
            says = f"give up {promise_words(rig, promise)}"
            points = price_list.DROP_PER_WEIGHT * promise.weight
            yield Change(kind="drop", says=says, value=promise.id, points=points), c.kept[promise.id]


def _cheapest(dream: _Dream, plan: Plan, promise: str, limit_s: float) -> tuple[Take | None, str, int]:
    """The cheapest set of changes, how the search for it ended, and how many pins it obeys."""
    c = dream.c
    c.model.maximize(stacked([_terms(dream), [(1, c.kept[promise])], [(1, var) for var in c.obeyed]]))
    solver, verdict = solve(c.model, limit_s)
    if verdict not in ("optimal", "feasible"):
        return None, verdict, 0
    if not solver.value(c.kept[promise]):
        return None, "infeasible" if verdict == "optimal" else "unknown", 0
    return _take(dream, plan, solver, verdict), verdict, sum(solver.value(var) for var in c.obeyed)


def _of_another_kind(dream: _Dream, plan: Plan, promise: str, first: Take, obeyed: int, limit_s: float) -> Take | None:
    """The cheapest set without the kind that marks the first; that there is none is soon told."""
    c, model = dream.c, copied(dream.c.model)
    model.add(c.kept[promise] == 1)
    model.add(sum(c.obeyed) >= obeyed)
    for change, var in dream.prices:
        if change.is_of(_barred(first)):
            model.add(var == int(change.gives_up))
    without_aim(model)
    if solve(model, limit_s, "question")[1] == "infeasible":
        return None
    model.maximize(stacked([_terms(dream)]))
    solver, verdict = solve(model, limit_s)
    return _take(dream, plan, solver, verdict) if verdict in ("optimal", "feasible") else None


def _terms(dream: _Dream) -> list[tuple[int, cp_model.IntVar]]:
    """What is got, loaded and given up, and what is then done with it."""
    dear = [(SHARE * FINE * change.points, change.gives_up, var) for change, var in dream.prices]
    terms = [(points if given_up else -points, var) for points, given_up, var in dear]
    return [*terms, *((-weight, var) for weight, var in points_of(dream.c))]


def _take(dream: _Dream, plan: Plan, solver: cp_model.CpSolver, verdict: str) -> Take:
    made = write_plan(dream.c, solver, dream.found.links, "best-so-far")
    changes, also = tuple(_made(dream, solver)), tuple(_modes(dream.rig, plan, made))
    return Take(
        changes=changes,
        says=_says(changes, also),
        points=sum(change.points * change.count for change in changes),
        kept=made.kept,
        also=also,
        proven=verdict == "optimal" and not dream.found.cut_short,
    )


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
    marks: tuple[ChangeKind, ...] = ("drop", "device", "licence", "firmware", "cable", "adapter")
    return tuple(kind for kind in marks if any(change.is_of((kind,)) for change in take.changes))[:1]


def with_changes(rig: ResolvedRig, changes: Sequence[Change]) -> Rig:
    """The document of `rig` with every change made; one that names nothing here is passed over."""
    bag = {item.cable: item.count for item in rig.rig.bag}
    devices = {device.id: device for device in rig.rig.devices}
    dropped = {change.value for change in changes if change.gives_up}
    for change in changes:
        device = devices.get(change.device or "")
        match change.kind:
            case "cable" | "adapter":
                bag[change.value] = min(99, bag.get(change.value, 0) + change.count)
            case "device" if change.device and device is None:
                key = free_id(change.value, devices)
                devices[key] = Device(id=key, profile=change.value)
            case "firmware" if device:
                devices[device.id] = device.model_copy(update={"firmware": change.value})
            case "licence" if device and change.value not in device.licences:
                devices[device.id] = device.model_copy(update={"licences": [*device.licences, change.value]})
    return rig.rig.without_promises(dropped).model_copy(
        update={
            "devices": list(devices.values()),
            "bag": [BagItem(cable=key, count=number) for key, number in bag.items()],
        }
    )
