"""Why a promise is not kept, in the words of the trade.

Three cases. No way exists at all: the nearest way is found in a rig where everything could be had,
and what it lacks is named. Every way is ruled out by something fixed: that is named. Ways exist but
clash with what is kept: a minimal conflicting set is found by the solver, and its members are named.
"""

import re
from collections.abc import Collection, Iterable, Iterator
from concurrent.futures import ThreadPoolExecutor
from functools import cached_property

from isotact.core.model.needed_pictures import needing
from isotact.core.model.plan import Obstacle, Plan, Unmet
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import ControlPromise, PicturePromise, Promise
from isotact.core.planning.explaining.conflict_words import conflict_obstacles, untold
from isotact.core.planning.explaining.extra_devices import another_motor, other_mount, parts_to_get, stronger_gimbal
from isotact.core.planning.explaining.missing_cables import no_way
from isotact.core.planning.explaining.power_remedies import (
    changes_to_allow,
    feeds_to_bring,
    leads_to_get,
    one_more,
    spares_to_bring,
    to_charge,
)
from isotact.core.planning.explaining.ruled_out import by_school, ruled_out
from isotact.core.planning.explaining.sentences import sentence
from isotact.core.planning.explaining.trials import Trying
from isotact.core.planning.explaining.unsat_core import QUESTION_WORK, clash, minimal_conflict
from isotact.core.planning.optimising.choice_model import ChoiceModel, Group
from isotact.core.planning.optimising.symmetry import asked_alike
from isotact.core.planning.ways.all_ways import Searched
from isotact.core.planning.ways.candidates import would_be
from isotact.core.planning.ways.simple_ways import Ways
from isotact.core.progress import Watch
from isotact.core.solver import copied, fix, solve
from isotact.core.telling.phrases import promise_words

NOT_ASKED = "The search was stopped before it was asked why."


def explain(found: Searched, solved: ChoiceModel, made: Plan, watch: Watch | None = None) -> Iterator[Unmet]:
    """One Unmet per promise that `made` does not keep, in the order of the rig. `solved` is aimed anew by this.

    A way out is tried before it is named.
    """
    reasons, owner = _Reasons(found, solved, made), needing(solved.rig)
    told: dict[tuple[object, ...], str] = {}
    for promise in solved.rig.rig.promises:
        if promise.id in made.kept or promise.id in owner:
            continue
        if watch is not None and watch.stopped:
            yield from not_asked((promise.id,))
        else:
            unmet = reasons.of(promise)
            cause = tuple(one.says for one in unmet.obstacles), unmet.ways_out
            first = told.setdefault(cause, promise.id) if unmet.obstacles else promise.id
            yield unmet if first == promise.id else unmet.model_copy(update={"same_as": first})


def not_asked(promises: Iterable[str]) -> tuple[Unmet, ...]:
    """What there is to say of `promises` where the search was stopped before it was asked why they are not kept."""
    return tuple(Unmet(promise=one, verdict="gave-up", because=NOT_ASKED, obstacles=()) for one in promises)


class _Reasons:
    """Why each promise is not kept; of promises that differ in the name of a like device it is asked once."""

    def __init__(self, found: Searched, solved: ChoiceModel, made: Plan) -> None:
        self._rig, self._found, self._kept = solved.rig, found, made.kept
        self._trying = Trying(solved.rig, found.links)
        self._questions = Questions(solved, made, self._trying)
        self._pictures = {owner: picture for picture, owner in needing(solved.rig).items()}
        self._told: dict[str, Unmet] = {}
        self._likes: dict[str, tuple[str, ...]] = {}
        for group in asked_alike(solved):
            # Which of them are kept is part of what each of the others stands beside.
            for kept in {tuple(one in made.kept for one in those) for those in group}:
                same = [those for those in group if tuple(one in made.kept for one in those) == kept]
                for likes in zip(*same, strict=True):
                    self._likes |= {one: likes for one in likes}

    @cached_property
    def _dream(self) -> Ways:
        return Ways(self._rig, would_be(self._rig))

    def of(self, promise: Promise) -> Unmet:
        """Why it is not kept."""
        other = next((one for one in self._likes.get(promise.id, ()) if one in self._told), None)
        if other is not None:
            renamed = as_of_another(self._rig, self._told[other], promise)
            if renamed is not None:
                return renamed
        self._told[promise.id] = self._asked(promise)
        return self._told[promise.id]

    def _asked(self, promise: Promise) -> Unmet:
        if not isinstance(promise, ControlPromise | PicturePromise):
            return self._questions.conflict(promise)
        if not self._found.options[promise.id]:
            return self._no_option(promise)
        picture = self._pictures.get(promise.id)
        if picture is not None and not self._found.options[picture]:
            asked = next(one for one in self._rig.rig.pictures if one.id == picture)
            why = self._no_option(asked)
            listed = (Obstacle(kind="screen", says="It is worked on the picture there."), *why.obstacles)
            because = sentence(self._rig, promise, listed)
            return why.model_copy(update={"promise": promise.id, "because": because, "obstacles": listed})
        return self._questions.conflict(promise)

    def _no_option(self, promise: ControlPromise | PicturePromise) -> Unmet:
        out = self._found.ruled_out[promise.id]
        if out:
            return ruled_out(self._rig, promise, out, self._trying, self._kept)
        return no_way(self._rig, promise, self._dream, self._trying, self._kept)


def as_of_another(rig: ResolvedRig, known: Unmet, promise: Promise) -> Unmet | None:
    """The reason of a promise as that of one at a like device: its name in the place of the other's.

    None where the name cannot be told from the words about it.
    """
    there, here = rig.rig.promise(known.promise).place, promise.place
    if there is None or here is None:
        return None
    named = re.compile(rf"(?<![\w-]){re.escape(rig[there].name)}(?![\w-])")
    others = (placed.name for placed in rig.devices.values() if placed.id != there)
    # Of two that bear one name the words are the same already.
    if rig[there].name != rig[here].name and any(named.search(name) for name in others):
        return None

    def said(words: str) -> str:
        return named.sub(lambda _: rig[here].name, words)

    obstacles = tuple(
        one.model_copy(update={"says": said(one.says), "device": here if one.device == there else one.device})
        for one in known.obstacles
    )
    return known.model_copy(
        update={
            "promise": promise.id,
            "because": said(known.because),
            "obstacles": obstacles,
            "ways_out": tuple(said(out) for out in known.ways_out),
        }
    )


MOST_GIVEN_UP = 3
"""To lose more than that for one promise is no way out that anybody would take."""


class Questions:
    """What can be asked of a solved choice that was built to be questioned. It is aimed anew by this."""

    def __init__(self, solved: ChoiceModel, made: Plan, trying: Trying | None = None) -> None:
        self.rig = solved.rig
        self.kept = made.kept
        self._made = made
        self._obeyed = {str(number) for number, pin in enumerate(made.pins) if pin.obeyed}
        self._solved = solved
        self._trying = trying

    def conflict(self, promise: Promise) -> Unmet:
        """Why `promise` cannot be kept beside those that are."""
        choosing = self._solved
        choosing.relax_guards()
        core = minimal_conflict(
            choosing, promise.id, {*self.kept}, self._obeyed, lambda among: untold(choosing, promise, among)
        )
        if core is None:
            says = "The search for the reason ran out of time."
            because = sentence(self.rig, promise, [Obstacle(kind="promise", says=says)])
            return Unmet(promise=promise.id, verdict="gave-up", because=because, obstacles=())
        clashing = tuple(key for kind, (key, *_) in core if kind == "promise")
        listed = tuple(conflict_obstacles(choosing, promise, core, self._made.feeds))
        # What is impossible beside no other promise is not helped by giving one up.
        with ThreadPoolExecutor(max_workers=1) as aside:
            cost = aside.submit(self.what_it_costs, promise.id) if clashing else None
            school = self._school(promise, core)
            listed += tuple(obstacle for obstacle, _ in school)
            outs = [*self._let_go(promise, core), *(out for _, out in school), *self._to_get(promise, core)]
        lost = cost.result() if cost is not None else ()
        given_up = [other for other in self.rig.rig.promises if other.id in lost]
        words = [promise_words(self.rig, other) for other in given_up]
        # What weighs more than the promise itself is no way out: nobody would take it.
        worth = sum(other.weight for other in given_up) <= promise.weight
        outs += [f"Give up {', and '.join(words)}."] if worth and 0 < len(words) <= MOST_GIVEN_UP else []
        return Unmet(
            promise=promise.id,
            verdict="conflict" if clashing else "impossible",
            because=sentence(self.rig, promise, listed),
            obstacles=listed,
            conflicts_with=clashing,
            ways_out=tuple(outs),
        )

    def _to_get(self, promise: Promise, core: list[Group]) -> Iterator[str]:
        """What to bring, charge or change, each of it tried."""
        if self._trying is None:
            return
        beside = {*self.kept, promise.id}
        yield from leads_to_get(self._solved, core, beside, self._trying, lambda gone: self._would_do(promise, gone))
        yield from one_more(self.rig, core, beside, self._trying, lambda gone: self._would_do(promise, gone))
        yield from another_motor(
            self._solved, core, self._made, beside, self._trying, lambda gone: self._would_do(promise, gone)
        )
        yield from other_mount(self.rig, core, beside, self._trying)
        yield from stronger_gimbal(self.rig, core, beside, self._trying)
        yield from parts_to_get(self.rig, core, beside, self._trying)
        yield from to_charge(self.rig, promise, self._made, beside, self._trying)
        yield from spares_to_bring(self.rig, promise, self._made, beside, self._trying)
        yield from feeds_to_bring(self.rig, promise, self._made, beside, self._trying)
        yield from changes_to_allow(self.rig, promise, self._made, beside, self._trying)

    def _school(self, promise: Promise, core: list[Group]) -> list[tuple[Obstacle, str]]:
        """The school that stands in the way of a feed, with how to let go of it."""
        if self._trying is None or not any(kind in ("battery", "feed", "port") for kind, _ in core):
            return []
        return list(by_school(self.rig, promise, self._trying, self.kept))

    def _let_go(self, promise: Promise, core: list[Group]) -> Iterator[str]:
        """The pins that stand in the way and would not, if they were let go of."""
        for group in core:
            if group[0] == "pin" and self._would_do(promise, [group]):
                yield "Let go of that pin."

    def _would_do(self, promise: Promise, gone: Collection[Group]) -> bool:
        """Whether a promise could hold beside those that are kept if it were not for some groups of constraints."""
        wished = [("promise", (key,)) for key in sorted(self.kept)]
        pins = [("pin", (key,)) for key in sorted(self._obeyed)]
        groups: list[Group] = [group for group in (*self._solved.guards, *wished, *pins) if group not in gone]
        return clash(self._solved, groups, [("promise", (promise.id,))]) is None

    def what_it_costs(self, promise: str) -> tuple[str, ...]:
        """The kept promises, least by weight, that have to go so that `promise` holds; none when that cannot help.

        A minimal conflict names one obstacle; behind it there may be others, so this is solved for, not read off.
        """
        choosing, model = self._solved, copied(self._solved.model)
        model.clear_assumptions()
        for guard in choosing.guards.values():
            fix(guard, 1, model)
        owner = needing(self.rig)
        for other, var in choosing.kept.items():
            # What holds only in the place of what is given up is another plan, and no way out.
            if owner.get(other, other) != promise and owner.get(other, other) not in self.kept:
                model.add(var == 0)
        weights = {other.id: other.weight for other in self.rig.rig.promises}
        first = 1 + sum(weights[key] for key in self.kept)
        others = sum(weights[key] * choosing.kept[key] for key in self.kept)
        pins = 2 * first * sum(choosing.obeyed)
        model.maximize(first * choosing.kept[promise] + others + pins)
        solver, verdict = solve(model, QUESTION_WORK, sort="question")
        if verdict != "optimal" or not solver.value(choosing.kept[promise]):
            return ()
        return tuple(key for key in self.kept if not solver.value(choosing.kept[key]))
