"""Why a promise is not kept, in the words of the trade.

Three cases. No way exists at all: the nearest way is found in a rig where everything could be had,
and what it lacks is named. Every way is ruled out by something fixed: that is named. Ways exist but
clash with what is kept: a minimal conflicting set is found by the solver, and its members are named.
"""

from collections.abc import Collection, Iterator
from concurrent.futures import ThreadPoolExecutor

from isotact.core.model.needed_pictures import needing
from isotact.core.model.plan import Obstacle, Plan, Unmet
from isotact.core.model.rig import ControlPromise, PicturePromise, Promise
from isotact.core.planning.explaining.conflict_words import conflict_obstacles, untold
from isotact.core.planning.explaining.extra_devices import another_motor, other_mount, stronger_gimbal
from isotact.core.planning.explaining.missing_cables import no_way
from isotact.core.planning.explaining.power_remedies import (
    changes_to_allow,
    feeds_to_bring,
    leads_to_get,
    one_more,
    to_charge,
)
from isotact.core.planning.explaining.ruled_out import by_school, ruled_out
from isotact.core.planning.explaining.sentences import sentence
from isotact.core.planning.explaining.trials import Trying
from isotact.core.planning.explaining.unsat_core import QUESTION_LIMIT_S, clash, minimal_conflict
from isotact.core.planning.optimising.choice_model import ChoiceModel, Group
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
    rig, kept = solved.rig, made.kept
    dream: Ways | None = None
    owner = needing(rig)
    trying = Trying(rig, found.links)
    questions = Questions(solved, made, trying)
    for promise in rig.rig.promises:
        if promise.id in made.kept or promise.id in owner:
            continue
        picture = next((one for one in rig.rig.routed if owner.get(one.id) == promise.id), None)
        if watch is not None and watch.stopped:
            yield Unmet(promise=promise.id, verdict="gave-up", because=NOT_ASKED, obstacles=())
        elif picture is not None and not found.options[picture.id] and found.options[promise.id]:
            dream = dream or Ways(rig, would_be(rig))
            out = found.ruled_out[picture.id]
            why = ruled_out(rig, picture, out, trying, kept) if out else no_way(rig, picture, dream, trying, kept)
            because = sentence(
                rig, promise, [Obstacle(kind="screen", says="It is worked on the picture there."), *why.obstacles]
            )
            yield why.model_copy(update={"promise": promise.id, "because": because})
        elif not isinstance(promise, ControlPromise | PicturePromise) or found.options[promise.id]:
            yield questions.conflict(promise)
        elif found.ruled_out[promise.id]:
            yield ruled_out(rig, promise, found.ruled_out[promise.id], trying, kept)
        else:
            dream = dream or Ways(rig, would_be(rig))
            yield no_way(rig, promise, dream, trying, kept)


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
        words = [promise_words(self.rig, other) for other in self.rig.rig.promises if other.id in lost]
        outs += [f"Give up {', and '.join(words)}."] if 0 < len(words) <= MOST_GIVEN_UP else []
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
        yield from to_charge(self.rig, promise, self._made, beside, self._trying)
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
        solver, verdict = solve(model, QUESTION_LIMIT_S, sort="question")
        if verdict != "optimal" or not solver.value(choosing.kept[promise]):
            return ()
        return tuple(key for key in self.kept if not solver.value(choosing.kept[key]))
