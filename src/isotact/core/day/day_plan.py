"""The rigs of a day that share one kit: each planned, what is short found, the best split chosen, what to ask for.

Each rig is planned as if the whole kit were its own. When together they want more of a cable than there is, all are
planned again in one model with shared stock: whoever gives way may want something of a rig that was not short.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import count as count_up
from typing import TYPE_CHECKING, Literal

from isotact.core.model.base import Struct
from isotact.core.model.cable import CableType
from isotact.core.model.kit import Kit
from isotact.core.model.plan import Plan
from isotact.core.model.profile import Profile
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.small_parts import Fixing, bag_of
from isotact.core.model.variants import with_bag, with_parts
from isotact.core.model.words import Id
from isotact.core.planning.model_access import (
    MOST_TRIES,
    ChoiceModel,
    Chosen,
    Retune,
    Searched,
    Status,
    Terms,
    build_found,
    choose_each,
    clashes,
    cost_of,
    gain,
    gained,
    price_list,
    ruled_out_by_the_circuit,
    with_reasons,
    with_true_hours,
    without_clashes,
    write_plan,
)
from isotact.core.progress import Watch
from isotact.core.questions.upgrades import what_it_takes
from isotact.core.solver import fix, new_model, release, solve
from isotact.core.telling.phrases import counted, promise_words, together
from isotact.core.trades import Planned
from isotact.core.trades.mounting.small_parts import handed_out, needs_of, tools_for

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

# A day is planned once, in the morning: it may take longer than a single plan.
WORK = 20.0
MOST_ASKED = 4
"""Of one cable type, at most so many more are thought of."""


class Shortage(Struct):
    """A cable, device or small part of which the rigs of the day want more than the kit has."""

    kind: Literal["cable", "device", "part"]
    item: Id
    name: str
    says: str
    wanted: int
    have: int
    rigs: tuple[Id, ...]

    @property
    def is_counted(self) -> bool:
        """Whether what is short is asked for as it is; cables are asked for as few as will do."""
        return self.kind != "cable"


class ToGet(Struct):
    """Something to buy, or to ask the rental counter for."""

    kind: Literal["cable", "device", "part"]
    item: Id
    count: int
    says: str
    for_rigs: tuple[Id, ...] = ()


class Wish(Struct):
    """What it would take to keep a promise that a rig cannot keep even with the whole kit."""

    rig: Id
    promise: Id
    says: str


class DayRig(Struct):
    """One rig's part of the day."""

    rig: Id
    plan: Plan
    alone: tuple[Id, ...]
    """The promises it could keep if the kit were its own."""
    lost: tuple[str, ...] = ()
    """The promises that the sharing costs it, in words."""


class Day(Struct):
    """The answer for all rigs of a day."""

    status: Status
    rigs: tuple[DayRig, ...]
    shortages: tuple[Shortage, ...]
    asks: tuple[ToGet, ...]
    wishes: tuple[Wish, ...] = ()
    spare: dict[Id, int]
    """Cable type -> how many lie unused."""
    clashes: tuple[str, ...] = ()
    """Channels on which two of the rigs would meet, in words: where there are too few for all of them."""
    retuned: tuple[Retune, ...] = ()
    """The rigs that take other channels than each would alone."""


@dataclass(frozen=True)
class _Joint:
    """Several rigs in one model."""

    model: cp_model.CpModel
    parts: list[ChoiceModel]
    found: list[Searched]
    got: dict[str, cp_model.IntVar]
    whole: cp_model.IntVar
    """Whether each keeps all that it could keep alone, and obeys the pins that it could."""


def plan_day(
    rigs: Sequence[ResolvedRig],
    kit: Kit,
    work: float = WORK,
    watch: Watch | None = None,
    profiles: Mapping[str, Profile] | None = None,
) -> Day:
    """Plan every rig of a day with the cables of one kit. What is short is split so that the least weight is lost.

    With `profiles`, what each promise that cannot be kept would take is asked of these.
    """
    watch = watch or Watch()
    stock = {item.cable: item.count for item in sorted(kit.cables, key=lambda item: item.cable)}
    ready = [with_parts(with_bag(rig, stock), kit.parts) for rig in rigs]
    chosen = choose_each(ready, work, watch)
    alone = [one.plan for one in chosen]
    wanted = {plan.rig: plan.cables_used for plan in alone}
    short = {key: count for key, count in _total(wanted).items() if count > stock.get(key, 0)}
    plans = alone if short else [with_reasons(rig, one, watch) for rig, one in zip(ready, chosen, strict=True)]
    status: Status = _worst([made.status for made in alone])
    asks: list[ToGet] = []
    if short:
        watch.at("Sharing out what is short", len(ready), len(ready))
        joint = _joint(chosen, stock)
        lacking = None if watch.stopped else _lacking(joint, ready[0].cables, work, watch)
        plans, status = _share(joint, chosen, work, watch, enough=lacking is not None and not lacking)
        asks += lacking or []
    shortages = [
        *_cable_shortages(ready, wanted, short, stock),
        *_device_shortages(ready, kit),
        *_part_shortages(ready, plans, kit),
    ]
    asks += [
        ToGet(kind=one.kind, item=one.item, count=one.wanted - one.have, says=_ask_words(one), for_rigs=one.rigs)
        for one in shortages
        if one.is_counted
    ]
    plans, retuned = without_clashes(ready, plans)
    left = Counter(stock)
    for made in plans:
        left.subtract(made.cables_used)
    return Day(
        status="best-so-far" if watch.stopped else status,
        rigs=tuple(_day_rig(rig, one, made) for rig, one, made in zip(ready, alone, plans, strict=True)),
        shortages=tuple(shortages),
        asks=tuple(asks),
        wishes=tuple(_wishes(ready, alone, profiles, watch)) if profiles else (),
        spare={key: count for key, count in left.items() if count > 0},
        clashes=tuple(clashes(ready, plans)),
        retuned=tuple(retuned),
    )


def _total(wanted: Mapping[str, Counter[str]]) -> Counter[str]:
    total: Counter[str] = Counter()
    for counts in wanted.values():
        total.update(counts)
    return total


def _worst(statuses: list[str]) -> Status:
    for status in ("out-of-time", "best-so-far"):
        if status in statuses:
            return status
    return "proven-optimal"


def _joint(chosen: list[Chosen], stock: Mapping[str, int]) -> _Joint:
    """One model of several rigs, with what is got of each type beside the stock."""
    model = new_model()
    parts = [build_found(one.choosing.rig, one.found, Terms(own_stock=False), model) for one in chosen]
    pieces: dict[str, list[cp_model.IntVar]] = defaultdict(list)
    for part in parts:
        for cable, those in part.pieces.items():
            pieces[cable] += those
    got: dict[str, cp_model.IntVar] = {}
    for cable, those in pieces.items():
        have = stock.get(cable, 0)
        if len(those) > have:
            got[cable] = model.new_int_var(0, MOST_ASKED, f"got {cable}")
            model.add(sum(those) <= have + got[cable])
    whole = model.new_bool_var("all that each could keep alone")
    for part, one in zip(parts, chosen, strict=True):
        for key in one.plan.kept:
            model.add_implication(whole, part.kept[key])
        for obeyed, pin in zip(part.obeyed, one.plan.pins, strict=True):
            if pin.obeyed:
                model.add_implication(whole, obeyed)
    return _Joint(model, parts, [one.found for one in chosen], got, whole)


def _lacking(joint: _Joint, cables: Mapping[str, CableType], work: float, watch: Watch) -> list[ToGet] | None:
    """The cheapest cables with which every rig keeps what it could keep alone; None when that was not found out."""
    watch.at("Looking for what to ask for", len(joint.parts), len(joint.parts))
    fix(joint.whole, 1)
    joint.model.minimize(sum(price_list.GET[cables[key].kind] * var for key, var in joint.got.items()))
    solver, verdict = solve(joint.model, work, "question", watch)
    release(joint.whole)
    if watch.stopped or verdict not in ("optimal", "feasible"):
        return None
    asks = []
    for key, var in joint.got.items():
        count = int(solver.value(var))
        users = [part.rig.rig.id for part in joint.parts if any(map(solver.value, part.pieces.get(key, [])))]
        if count:
            says = f"{count} more of {cables[key].name}"
            asks.append(ToGet(kind="cable", item=key, count=count, says=says, for_rigs=tuple(users)))
    return asks


def _share(joint: _Joint, chosen: list[Chosen], work: float, watch: Watch, enough: bool) -> tuple[list[Plan], Status]:
    """Plan all rigs in one model. Where there is `enough` for all that each could keep alone, only the cost is left."""
    proven = all(one.plan.status == "proven-optimal" for one in chosen)
    for var in joint.got.values():
        joint.model.add(var == 0)
    for part, one in zip(joint.parts, chosen, strict=True):
        # No rig gets more from its share than from everything: said outright, the proof is twice as quick.
        if proven and enough:
            joint.model.add(gained(part, one.worth))
        elif one.plan.status == "proven-optimal":
            joint.model.add(gain([part]) <= one.worth)
    if proven and enough:
        joint.model.minimize(cost_of(joint.parts))
    else:
        joint.model.maximize(gain(joint.parts))
    for tries in count_up():
        solver, verdict = solve(joint.model, work, "day", watch)
        found = solver if verdict in ("optimal", "feasible") else None
        status: Status = "out-of-time" if found is None else "best-so-far"
        if verdict == "optimal":
            status = "proven-optimal"
        plans = [write_plan(part, found, one.links, status) for part, one in zip(joint.parts, joint.found, strict=True)]
        made = list(zip(joint.parts, plans, strict=True))
        at_last = tries >= MOST_TRIES
        short = [found and ruled_out_by_the_circuit(part.rig, plan, part, at_last) for part, plan in made]
        if watch.stopped or not any(short):
            break
    return [with_true_hours(part.rig, plan) for part, plan in made], status


def _wishes(
    rigs: list[ResolvedRig], alone: list[Plan], profiles: Mapping[str, Profile], watch: Watch
) -> Iterator[Wish]:
    """For each promise that is not kept: what to get, bring or load. That another promise be dropped is no wish."""
    for rig, made in zip(rigs, alone, strict=True):
        for promise in rig.rig.promises:
            if promise.id in made.kept or watch.stopped:
                continue
            watch.at(f"Asking what {promise_words(rig, promise)} would take", len(rigs), len(rigs))
            for take in what_it_takes(rig, profiles, made, promise.id).takes:
                if not any(change.gives_up for change in take.changes):
                    says = f"{rig.rig.camera} camera, {promise_words(rig, promise)}: {take.says}"
                    yield Wish(rig=rig.rig.id, promise=promise.id, says=says)
                    break


def _cable_shortages(
    rigs: list[ResolvedRig], wanted: Mapping[str, Counter[str]], short: Mapping[str, int], stock: Mapping[str, int]
) -> Iterator[Shortage]:
    for key, count in sorted(short.items()):
        users = [rig for rig in rigs if wanted[rig.rig.id][key]]
        letters = ", ".join(f"{rig.rig.camera} camera" for rig in users)
        have, name = stock.get(key, 0), users[0].cables[key].name
        says = f"{letters} want {count} of {name} between them; the kit has {have}."
        yield Shortage(
            kind="cable", item=key, name=name, says=says, wanted=count, have=have, rigs=tuple(r.rig.id for r in users)
        )


def _device_shortages(rigs: list[ResolvedRig], kit: Kit) -> Iterator[Shortage]:
    """Devices that the rigs of the day hold, against those of the kit. A kit without devices says nothing of them."""
    if not kit.devices:
        return
    have: Counter[str] = Counter()
    for item in kit.devices:
        have[item.profile] += item.count
    users: dict[str, list[ResolvedRig]] = defaultdict(list)
    for rig in rigs:
        for placed in rig.devices.values():
            users[placed.profile.id].append(rig)
    for key, those in sorted(users.items()):
        if len(those) > have[key]:
            name = next(placed.profile.name for placed in those[0].devices.values() if placed.profile.id == key)
            ids = tuple(dict.fromkeys(rig.rig.id for rig in those))
            says = f"The rigs hold {len(those)} of {name}; the kit has {have[key]}."
            yield Shortage(kind="device", item=key, name=name, says=says, wanted=len(those), have=have[key], rigs=ids)


def _part_shortages(rigs: list[ResolvedRig], plans: list[Plan], kit: Kit) -> Iterator[Shortage]:
    """Small parts by which what is in use is fixed, against those of the kit. A kit of which nobody said has none."""
    if kit.parts is None:
        return
    bag, needs = bag_of(kit.parts), dict[tuple[str, str, int], Fixing]()
    for rig, made in zip(rigs, plans, strict=True):
        served: set[str] = set()  # within a rig one of what serves all is enough
        for (device, number), fixing in needs_of(rig, Planned(rig, made).in_use).items():
            tools = tools_for(bag, fixing)
            if not served & {*tools}:
                needs[rig.rig.id, device, number] = fixing
                served |= {*tools[:1]}
    _, missing = handed_out(bag, needs)
    for words in sorted({needs[need].words for need in missing}):
        those = [need for need, fixing in needs.items() if fixing.words == words]
        able, lacks = bag.doing(needs[those[0]], bag.kinds), sum(needs[need].words == words for need in missing)
        ids = tuple(dict.fromkeys(rig for rig, _, _ in those))
        letters = together([f"{rig.rig.camera} camera" for rig in rigs if rig.rig.id in ids])
        wants = f"{letters} {'wants' if len(ids) == 1 else 'want'} {words} for {counted(len(those), 'thing')}"
        yield Shortage(
            kind="part",
            item=able[0] if able else needs[those[0]].by[0],
            name=bag.kinds[able[0]].name if able else words,
            says=f"{wants}; the kit has {len(those) - lacks} for them.",
            wanted=len(those),
            have=len(those) - lacks,
            rigs=ids,
        )


def _ask_words(one: Shortage) -> str:
    return f"{one.wanted - one.have} more of {one.name}"


def _day_rig(rig: ResolvedRig, alone: Plan, made: Plan) -> DayRig:
    lost = [promise for promise in rig.rig.promises if promise.id in alone.kept and promise.id not in made.kept]
    return DayRig(
        rig=rig.rig.id, plan=made, alone=alone.kept, lost=tuple(promise_words(rig, promise) for promise in lost)
    )
