"""Why a promise is not kept, in the words of the trade.

Three cases. No way exists at all: the nearest way is found in a rig where everything could be had,
and what it lacks is named. Every way is ruled out by something fixed: that is named. Ways exist but
clash with what is kept: a minimal conflicting set is found by the solver, and its members are named.
"""

from collections.abc import Collection, Iterator, Sequence
from dataclasses import replace

from isotact.core.model.legs import legs_of
from isotact.core.model.plan import Link, Obstacle, Plan, Unmet
from isotact.core.model.resolved import BESIDE_M, ResolvedRig
from isotact.core.model.rig import ControlPromise, PicturePromise, Promise
from isotact.core.model.words import FUNCTIONS
from isotact.core.planning.choosing.model import Choosing, Group
from isotact.core.planning.choosing.solving import solve
from isotact.core.planning.explaining.conflicts import conflict_obstacles
from isotact.core.planning.finding.candidates import by_make, would_be
from isotact.core.planning.finding.requirements import Requirements, obstacles, requirements
from isotact.core.planning.finding.searching import Searched
from isotact.core.planning.finding.ways import Way, Ways
from isotact.core.telling.words import promise_words, together

QUESTION_LIMIT_S = 5.0


def explain(found: Searched, solved: Choosing, made: Plan) -> Iterator[Unmet]:
    """One Unmet per promise that `made` does not keep, in the order of the rig. `solved` is aimed anew by this."""
    rig, kept = solved.rig, made.kept
    dream: Ways | None = None
    questions = Questions(solved, kept, [pin.obeyed for pin in made.pins])
    for promise in rig.rig.promises:
        if promise.id in kept:
            continue
        if not isinstance(promise, ControlPromise | PicturePromise) or found.options[promise.id]:
            yield questions.conflict(promise)
        elif found.ruled_out[promise.id]:
            yield ruled_out(rig, promise, found.ruled_out[promise.id])
        else:
            dream = dream or Ways(rig, would_be(rig))
            yield no_way(rig, promise, dream)


def ruled_out(rig: ResolvedRig, promise: ControlPromise | PicturePromise, ways: list[Requirements]) -> Unmet:
    """Name what rules out the way with the fewest obstacles."""
    listed = [list(obstacles(rig, promise, needs)) for needs in ways]
    best = min(listed, key=len)
    return Unmet(
        promise=promise.id,
        verdict="impossible",
        because=_sentence(rig, promise, best),
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


def _sentence(rig: ResolvedRig, promise: Promise, reasons: Sequence[Obstacle]) -> str:
    words = promise_words(rig, promise)
    return f"{words[0].upper()}{words[1:]}: no. {' '.join(_of_likes(rig, reasons))}"


def _of_likes(rig: ResolvedRig, reasons: Sequence[Obstacle]) -> Iterator[str]:
    """The sentences, each once: what is said of several like devices is said of all of them together."""
    alike: dict[tuple[str, str], list[str]] = {}
    for one in reasons:
        placed = rig[one.device] if one.device is not None else None
        if placed is not None and one.says.startswith((f"{placed.name} ", f"{placed.name}, port ")):
            alike.setdefault((placed.profile.id, one.says.removeprefix(placed.name)), []).append(placed.name)
        else:
            alike.setdefault(("", one.says), [])
    for (_, says), names in alike.items():
        several = together(list(dict.fromkeys(names)))
        if len(set(names)) < 2:
            yield f"{several}{says}"
        elif says.startswith(","):
            yield f"On each of {several} the{says.removeprefix(',')}"
        else:
            yield f"Each of {several}{says}"


def no_way(rig: ResolvedRig, promise: ControlPromise | PicturePromise, dream: Ways) -> Unmet:
    """No way with the bag as it is: what would a way need that is not here?"""
    ways, _ = dream.of(promise)
    needed = [requirements(rig, way) for way in ways]
    open_ways = [needs for needs in needed if not any(True for _ in obstacles(rig, promise, needs))] or needed
    if open_ways:
        best = min(open_ways, key=lambda needs: (len(_missing(rig, needs.way)), len(needs.way.legs)))
        return _cables_missing(rig, promise, best.way, open_ways)
    if (far := _too_far(rig, promise)) is not None:
        return far
    found = tuple(_not_taken(rig, promise))
    return Unmet(
        promise=promise.id,
        verdict="impossible",
        because=_sentence(rig, promise, found),
        obstacles=found,
        ways_out=("Promise it from another device, or bring one that takes it.",),
    )


def _missing(rig: ResolvedRig, way: Way) -> list[str]:
    """The cable types of a way that the bag does not hold: over each span, of the link that lacks least."""
    have = {key for key, count in rig.stock.items() if count}
    lacking = []
    for crossing in way.crossings:
        each: list[list[str]] = [
            [key for key in (link.cable, link.adapter) if key and key not in have] for link in crossing.span.links
        ]
        lacking += min((len(missing), missing) for missing in each)[1]
    return lacking


def _cables_missing(
    rig: ResolvedRig, promise: ControlPromise | PicturePromise, way: Way, others: list[Requirements]
) -> Unmet:
    have = {key for key, count in rig.stock.items() if count}
    says, outs = [], []
    for crossing in way.crossings:
        link = crossing.span.links[0]
        if not link.is_cable or any({one.cable, one.adapter} - {None} <= have for one in crossing.span.links):
            continue
        there, here = rig[link.a.device].port_words(link.a.endpoint), rig[link.b.device].port_words(link.b.endpoint)
        fits = [rig.cables[key] for key in sorted(have) if _fits_plugs(rig, link, key)]
        far_m = rig.apart_m(*link.ends)
        short = [cable.name for cable in sorted(fits, key=lambda one: -one.length_mm) if cable.length_mm < 1000 * far_m]
        wrong = [cable.name for cable in fits if cable.name not in short]
        because = f"{'; '.join(wrong)} would fit but does not carry it" if wrong else "none in the bag fits"
        if short and not wrong:
            because = f"{short[0]} is too short {_distance_words(rig, link)}"
        says.append(f"No cable joins {there} with {here}: {because}.")
        same_ends = {
            one.cable
            for needs in others
            for other in needs.way.crossings
            for one in other.span.links
            if (one.a, one.b) == (link.a, link.b) and one.cable and not one.adapter and not one.lead
        }
        makes = {rig.cables[key].make for key in same_ends}
        types = [cable for make in makes for cable in by_make(rig)[make] if cable.length_mm >= 1000 * far_m]
        types.sort(key=lambda cable: (cable.length_mm, cable.id))
        names = [cable.name for cable in types[:3]] or [rig.cables[link.cable or ""].name]
        outs.append(f"Get one of: {'; '.join(names)}.")
    obstacle = tuple(Obstacle(kind="cable", says=words) for words in says)
    return Unmet(
        promise=promise.id,
        verdict="impossible",
        because=_sentence(rig, promise, obstacle),
        obstacles=obstacle,
        ways_out=tuple(outs),
    )


def _too_far(rig: ResolvedRig, promise: ControlPromise | PicturePromise) -> Unmet | None:
    """Whether it is only the distance that no cable there is can span."""
    beside = {"distance_m": None}
    devices = {key: replace(one, device=one.device.model_copy(update=beside)) for key, one in rig.devices.items()}
    shot = rig.rig.shot.model_copy(update={"screens_m": None})
    near = replace(rig, devices=devices, rig=rig.rig.model_copy(update={"shot": shot}))
    ways, _ = Ways(near, would_be(near)).of(promise)
    stretched = [
        crossing.span.links[0]
        for way in ways
        for crossing in way.crossings
        if crossing.span.links[0].is_cable and rig.apart_m(*crossing.span.links[0].ends) > BESIDE_M
    ]
    if not stretched:
        return None
    link = stretched[0]
    longest = by_make(rig)[rig.cables[link.cable or ""].make][-1]
    says = f"No cable reaches: the longest is {longest.name}, too short {_distance_words(rig, link)}."
    obstacle = Obstacle(kind="cable", says=says)
    return Unmet(
        promise=promise.id,
        verdict="impossible",
        because=_sentence(rig, promise, [obstacle]),
        obstacles=(obstacle,),
        ways_out=("Bring a transmitter and a receiver, or stand it nearer.",),
    )


def _distance_words(rig: ResolvedRig, link: Link) -> str:
    """Why a cable between two ends has to be as long as that."""
    away = [(far, rig[end.device].name) for end in link.ends if (far := rig.distance_m(end.device)) is not None]
    if not away:
        return "to leave the gimbal"
    far_m, name = max(away)
    return f"for {name}, {far_m:g} m from the gimbal"


def _fits_plugs(rig: ResolvedRig, link: Link, cable: str) -> bool:
    """Whether a cable of the bag would go into both sockets, whatever it carries."""
    kind = rig.cables[cable]
    sockets = [rig[end.device].port(end.endpoint).connector for end in link.ends]
    plugs = [end.connector for end in kind.ends]
    return not kind.is_adapter and not kind.is_splitter and sorted(plugs) == sorted(sockets)


def _not_taken(rig: ResolvedRig, promise: ControlPromise | PicturePromise) -> Iterator[Obstacle]:
    """Nothing that could be joined carries it: say which end lacks it."""
    if isinstance(promise, PicturePromise):
        yield Obstacle(kind="route", says="Nothing in this rig can bring a picture to that screen.")
        return
    name = FUNCTIONS[promise.function].name
    legs = [leg for placed in rig.devices.values() for leg in legs_of(placed)]
    starts = [leg for leg in legs if leg.device == promise.at.device and leg.surface == promise.at.surface]
    placed = rig[promise.at.device]
    surface = placed.profile.surface(promise.at.surface).name
    if not any(promise.function in leg.functions for leg in starts):
        offered = sorted({FUNCTIONS[f].name for leg in starts for f in leg.functions})
        gives = f"it gives only {', '.join(offered)}" if offered else "it gives no function at all"
        yield Obstacle(
            kind="function", device=placed.id, says=f"The {surface} of {placed.name} does not give {name}; {gives}."
        )
        return
    takers = [leg for leg in legs if leg.is_taken and promise.function in leg.functions]
    if not takers:
        yield Obstacle(kind="function", says=f"No device in this rig takes {name} from another.")
        return
    names = sorted({rig[leg.device].name for leg in takers})
    says = f"{', '.join(names)} takes {name}, but nothing between it and {placed.name} passes {name} on."
    yield Obstacle(kind="function", device=takers[0].device, says=says)


class Questions:
    """What can be asked of a solved choice that was built to be questioned. It is aimed anew by this."""

    def __init__(self, solved: Choosing, kept: tuple[str, ...], obeyed: Sequence[bool] = ()) -> None:
        self.rig = solved.rig
        self.kept = kept
        self._obeyed = {str(number) for number, done in enumerate(obeyed) if done}
        self._solved = solved

    def conflict(self, promise: Promise) -> Unmet:
        """Why `promise` cannot be kept beside those that are."""
        choosing = self._solved
        choosing.question()
        core = minimal_conflict(choosing, promise.id, {*self.kept}, self._obeyed)
        if core is None:
            says = "The search for the reason ran out of time."
            because = _sentence(self.rig, promise, [Obstacle(kind="promise", says=says)])
            return Unmet(promise=promise.id, verdict="gave-up", because=because, obstacles=())
        clashing = tuple(key for kind, (key, *_) in core if kind == "promise")
        listed = tuple(conflict_obstacles(choosing.rig, choosing.options, promise, core, choosing.spans))
        # What is impossible beside no other promise is not helped by giving one up.
        lost = self.what_it_costs(promise.id) if clashing else ()
        words = [promise_words(self.rig, other) for other in self.rig.rig.promises if other.id in lost]
        outs = [f"Give up {', and '.join(words)}."] if words else []
        return Unmet(
            promise=promise.id,
            verdict="conflict" if clashing else "impossible",
            because=_sentence(self.rig, promise, listed),
            obstacles=listed,
            conflicts_with=clashing,
            ways_out=tuple(outs),
        )

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


def minimal_conflict(
    c: Choosing, asked: str | None = None, beside: Collection[str] = (), obeyed: Collection[str] = ()
) -> list[Group] | None:
    """A smallest-by-inclusion set of groups that cannot hold together; None when time ran out.

    The promise `asked`, if any, is held to; of the other promises only those in `beside` count, of the
    pins those in `obeyed`. Starts from the solver's sufficient assumptions and drops each member that is not needed.
    """
    held: list[Group] = [("promise", (asked,))] if asked else []
    wished = [*(("promise", (key,)) for key in sorted(beside)), *(("pin", (key,)) for key in sorted(obeyed))]
    groups = sorted([*c.guards, *wished], key=lambda group: (group[0] == "promise", group))
    core = _still_impossible(c, groups, held)
    if core is None:
        return None
    for group in list(core):
        smaller = _still_impossible(c, [other for other in core if other != group], held)
        if smaller is not None:
            core = [other for other in core if other in smaller]
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
