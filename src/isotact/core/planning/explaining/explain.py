"""Why a promise is not kept, in the words of the trade.

Three cases. No way exists at all: the nearest way is found in a rig where everything could be had,
and what it lacks is named. Every way is ruled out by something fixed: that is named. Ways exist but
clash with what is kept: a minimal conflicting set is found by the solver, and its members are named.
"""

from collections.abc import Collection, Iterator, Sequence

from isotact.core.model.plan import Obstacle, Plan, Unmet
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import ControlPromise, PicturePromise, Promise
from isotact.core.planning.choosing.model import Choosing, Group
from isotact.core.planning.choosing.solving import Watch, solve
from isotact.core.planning.explaining.conflicts import conflict_obstacles
from isotact.core.planning.explaining.feeding import changes_to_allow, leads_to_get, one_more, to_charge
from isotact.core.planning.explaining.missing import no_way
from isotact.core.planning.explaining.saying import sentence
from isotact.core.planning.explaining.trying import Trying
from isotact.core.planning.finding.candidates import would_be
from isotact.core.planning.finding.requirements import Requirements, obstacles
from isotact.core.planning.finding.searching import Searched
from isotact.core.planning.finding.ways import Ways
from isotact.core.telling.words import promise_words

QUESTION_LIMIT_S = 5.0

NOT_ASKED = "The search was stopped before it was asked why."


def explain(found: Searched, solved: Choosing, made: Plan, watch: Watch | None = None) -> Iterator[Unmet]:
    """One Unmet per promise that `made` does not keep, in the order of the rig. `solved` is aimed anew by this.

    A way out is tried before it is named.
    """
    rig, kept = solved.rig, _beside(solved.rig, made)
    dream: Ways | None = None
    trying = Trying(rig)
    questions = Questions(solved, made, trying)
    for promise in rig.rig.promises:
        if promise.id in made.kept:
            continue
        if watch is not None and watch.stopped:
            yield Unmet(promise=promise.id, verdict="gave-up", because=NOT_ASKED, obstacles=())
        elif not isinstance(promise, ControlPromise | PicturePromise) or found.options[promise.id]:
            yield questions.conflict(promise)
        elif found.ruled_out[promise.id]:
            yield ruled_out(rig, promise, found.ruled_out[promise.id])
        else:
            dream = dream or Ways(rig, would_be(rig))
            yield no_way(rig, promise, dream, trying, kept)


def _beside(rig: ResolvedRig, made: Plan) -> tuple[str, ...]:
    """The promises that a way out must not cost. Hours that last because nothing is on are none of them."""
    draws = any(feed.load_w for feed in made.feeds)
    return tuple(one.id for one in rig.rig.promises if one.id in made.kept and (draws or one not in rig.rig.lasting))


def ruled_out(rig: ResolvedRig, promise: ControlPromise | PicturePromise, ways: list[Requirements]) -> Unmet:
    """Name what rules out the way with the fewest obstacles."""
    listed = [list(obstacles(rig, promise, needs)) for needs in ways]
    best = min(listed, key=len)
    return Unmet(
        promise=promise.id,
        verdict="impossible",
        because=sentence(rig, promise, best),
        obstacles=tuple(best),
        ways_out=tuple(_ways_out(best)),
    )


def _ways_out(found: list[Obstacle]) -> Iterator[str]:
    words = {
        "firmware": "Load the newer firmware on prep day.",
        "licence": "Load the licence on prep day.",
        "delay": "Agree a longer delay with whoever watches, or bring a faster link.",
        "look": "Agree a picture without that look, or add a monitor that puts it on and loops out.",
        "format": "Bring a link that takes the format that the body gives.",
        "school": "Leave the school of focus open, or bring what it asks for.",
        "setting": "Take another device for one of the two ends.",
    }
    yield from (words[obstacle.kind] for obstacle in found if words.get(obstacle.kind))


MOST_GIVEN_UP = 3
"""To lose more than that for one promise is no way out that anybody would take."""


class Questions:
    """What can be asked of a solved choice that was built to be questioned. It is aimed anew by this."""

    def __init__(self, solved: Choosing, made: Plan, trying: Trying | None = None) -> None:
        self.rig = solved.rig
        self.kept = made.kept
        self._made = made
        self._obeyed = {str(number) for number, pin in enumerate(made.pins) if pin.obeyed}
        self._solved = solved
        self._trying = trying

    def conflict(self, promise: Promise) -> Unmet:
        """Why `promise` cannot be kept beside those that are."""
        choosing = self._solved
        choosing.question()
        core = minimal_conflict(choosing, promise.id, {*self.kept}, self._obeyed)
        if core is None:
            says = "The search for the reason ran out of time."
            because = sentence(self.rig, promise, [Obstacle(kind="promise", says=says)])
            return Unmet(promise=promise.id, verdict="gave-up", because=because, obstacles=())
        clashing = tuple(key for kind, (key, *_) in core if kind == "promise")
        listed = tuple(conflict_obstacles(choosing, promise, core, self._made.feeds))
        outs = list(self._let_go(promise, core))
        if self._trying is not None:
            beside = {*_beside(self.rig, self._made), promise.id}
            outs += leads_to_get(choosing, core, beside, self._trying, lambda gone: self._would_do(promise, gone))
            outs += one_more(self.rig, core, beside, self._trying, lambda gone: self._would_do(promise, gone))
            outs += to_charge(self.rig, promise, self._made, beside, self._trying)
            outs += changes_to_allow(self.rig, promise, beside, self._trying)
        # What is impossible beside no other promise is not helped by giving one up.
        lost = self.what_it_costs(promise.id) if clashing else ()
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
        return _still_impossible(self._solved, groups, [("promise", (promise.id,))]) is None

    def what_it_costs(self, promise: str) -> tuple[str, ...]:
        """The kept promises, least by weight, that have to go so that `promise` holds; none when that cannot help.

        A minimal conflict names one obstacle; behind it there may be others, so this is solved for, not read off.
        """
        choosing = self._solved
        choosing.hold()
        choosing.model.clear_assumptions()
        weights = {other.id: other.weight for other in self.rig.rig.promises}
        first = 1 + sum(weights[key] for key in self.kept)
        others = sum(weights[key] * choosing.kept[key] for key in self.kept)
        pins = 2 * first * sum(choosing.obeyed)
        choosing.model.maximize(first * choosing.kept[promise] + others + pins)
        solver, verdict = solve(choosing.model, QUESTION_LIMIT_S, sort="question")
        if verdict != "optimal" or not solver.value(choosing.kept[promise]):
            return ()
        return tuple(key for key in self.kept if not solver.value(choosing.kept[key]))


MANY_AT_ONCE = 8
"""So many members of a conflict are tried to be dropped at first."""


def minimal_conflict(
    c: Choosing, asked: str | None = None, beside: Collection[str] = (), obeyed: Collection[str] = ()
) -> list[Group] | None:
    """A smallest-by-inclusion set of groups that cannot hold together; None when time ran out.

    The promise `asked`, if any, is held to; of the other promises only those in `beside` count, of the
    pins those in `obeyed`. Starts from the solver's sufficient assumptions and drops what is not needed, several at
    once while that goes well: to find that a smaller set can hold is cheap, to prove that it cannot is not.
    """
    held: list[Group] = [("promise", (asked,))] if asked else []
    wished = [*(("promise", (key,)) for key in sorted(beside)), *(("pin", (key,)) for key in sorted(obeyed))]
    groups = sorted([*c.guards, *wished], key=lambda group: (group[0] == "promise", group))
    core = _still_impossible(c, groups, held)
    if core is None:
        return None
    at, many = 0, MANY_AT_ONCE
    while at < len(core):
        tried = core[at : at + many]
        smaller = _still_impossible(c, core[:at] + core[at + many :], held)
        if smaller is not None:
            core = [other for other in core if other in smaller]
            many *= 2
        elif len(tried) > 1:
            many = len(tried) // 2
        else:
            at += 1
    return core


def _still_impossible(c: Choosing, groups: list[Group], held: Sequence[Group] = ()) -> list[Group] | None:
    """The solver's own conflicting subset of `groups` beside `held`, or None when they can hold together."""
    literals = {group: c.guards[group] if group in c.guards else c.wishes[group] for group in (*held, *groups)}
    c.model.clear_assumptions()
    c.model.add_assumptions(list(literals.values()))
    solver, verdict = solve(c.model, QUESTION_LIMIT_S, sort="question")
    if verdict != "infeasible":
        return None
    enough = set(solver.sufficient_assumptions_for_infeasibility())
    return [group for group in groups if literals[group].index in enough]
