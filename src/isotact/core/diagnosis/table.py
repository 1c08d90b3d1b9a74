"""What every look would show, were each of the hypotheses so: a table of outcomes, worked out once."""

from collections.abc import Iterator
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np

from isotact.core.diagnosis.hypotheses import UNFINISHED, Hypothesis, hypotheses, put_into
from isotact.core.diagnosis.situation import Situation
from isotact.core.faults.coverage import checks_of
from isotact.core.model.keys import Key
from isotact.core.model.named_keys import prove_key
from isotact.core.model.reach import distance_m
from isotact.core.model.rig import Promise
from isotact.core.model.words import Stage
from isotact.core.telling import promise_words
from isotact.core.trades import Check, observe
from isotact.core.world import Observation, Waking, World, prove
from isotact.core.world.observation import state

WORKS = "It works."
WALK_M_S = 1.2
"""A walk in the dark with a hand on the rail. Common practice, no source."""
TURN_S = 4.0
"""To go from what is in one's hands to another thing beside it. Common practice, no source."""


@dataclass
class Look:
    """One thing that can be looked at, tried or asked. `words`: what may be seen, the sound one's first.

    `undoes_s`: how long it takes to make again what the look spoils, on the rig as it should be.
    `is_in_the_cage`: whether hands go between the arms of a gimbal that is on.
    """

    id: str
    check: Check
    undoes_s: float
    is_in_the_cage: bool
    is_promise: bool
    """Whether a promise is worked: its first word is that it works."""
    words: list[str] = field(default_factory=list)

    @property
    def is_asked(self) -> bool:
        """Whether the finder asks for it: whether batteries last is known after hours, and not looked up."""
        return not (self.is_promise and self.check.seconds > LONG_S)

    @property
    def is_glance(self) -> bool:
        """Whether it costs next to nothing: a lamp, a screen, a lead followed by eye alone."""
        return self.check.seconds <= GLANCE_S and not self.check.disturbs


LONG_S = 600.0
"""What takes longer is no look: nobody waits for it beside a rig that fails."""
GLANCE_S = 3.0
"""What takes no longer is a glance."""


@dataclass
class Table:
    """Outcomes of looks in hypotheses.

    `outcome[l, h]`: the index in `looks[l].words` of what is seen at look `l` where hypothesis `h` is so; the sound rig
    shows index 0, but for a promise, where 0 is that it works. `worlds[h]` is what `h` would have made of the rig.
    `noticed[h]`: how many of the steps that were ticked would have looked otherwise.
    """

    situation: Situation
    looks: list[Look]
    hypotheses: list[Hypothesis]
    worlds: list[World]
    outcome: np.ndarray
    base: np.ndarray
    """What each look shows on the rig as it should stand now: 0, but for a promise that does not work yet."""
    noticed: np.ndarray
    at_step: np.ndarray
    """For each hypothesis whether the step that differs would look otherwise in it."""

    def __post_init__(self) -> None:
        self.place = {look.id: number for number, look in enumerate(self.looks)}
        self.causes = [one.cause for one in self.hypotheses]
        self._walks: dict[tuple[str | None, str | None], float] = {}
        self.cured: dict[str, np.ndarray] = {}
        """What each cure that was tried mends: worked out when it is (`cures.mended_by`)."""
        self.cure_s: dict[str, float] = {}
        """How long each of their short sheets takes, without what is worked again at its end."""

    @cached_property
    def broken(self) -> list[frozenset[str]]:
        """For each hypothesis the conditions that stood and do not in it."""
        standing = [(str(one.key), one) for one in self.situation.standing_conditions]
        return [frozenset(key for key, one in standing if not one.holds(world)) for world in self.worlds]

    def walk_s(self, one: str | None, other: str | None) -> float:
        """How long it takes from one device to another, as far as is known where they stand."""
        if (one, other) not in self._walks:
            self._walks[one, other] = self._walk_s(one, other)
        return self._walks[one, other]

    def _walk_s(self, one: str | None, other: str | None) -> float:
        if one is None or other is None or one == other or not {one, other} <= self.situation.rig.devices.keys():
            return 0.0
        rig = self.situation.rig
        away = [distance_m(rig, device) or 0.0 if _is_off(self, device) else 0.0 for device in (one, other)]
        return max(TURN_S, abs(away[0] - away[1]) / WALK_M_S) if _is_off(self, one) != _is_off(self, other) else TURN_S


def _is_off(table: Table, device: str) -> bool:
    return table.situation.rig[device].stage == Stage.OFF_GIMBAL


def outcome_table(situation: Situation) -> Table:
    """Put every hypothesis in and read every look."""
    checks = list(_checks(situation))
    looks = [_look(situation, check) for check in checks]
    found = list(hypotheses(situation))
    rows: list[tuple[Hypothesis, World, list[int], int, bool]] = []
    sound = [check.read(situation.world) for check in checks]
    known = [_Words(_first(look, seen)) for look, seen in zip(looks, sound, strict=True)]
    base = [words.place(seen) for words, seen in zip(known, sound, strict=True)]
    twins: set[tuple[str, tuple[int, ...]]] = set()
    for one in found:
        world, odd = put_into(situation, one)
        outcome = [words.place(look.check.read(world)) for look, words in zip(looks, known, strict=True)]
        differs = situation.standing.differs
        is_odd = differs is not None and (differs in odd or _fails_at(situation, differs, world))
        # What crept in while it was built and what came since are one where nothing tells them apart.
        same = (one.cause, tuple(outcome))
        if same in twins or not (outcome != base or is_odd or one.cause == UNFINISHED):
            continue
        twins.add(same)
        rows.append((one, world, outcome, len(odd) - (differs in odd), is_odd))
    for look, words in zip(looks, known, strict=True):
        look.words = list(words.places)
    return Table(
        situation=situation,
        looks=looks,
        hypotheses=[row[0] for row in rows],
        worlds=[row[1] for row in rows],
        outcome=np.array([row[2] for row in rows], dtype=np.int16).reshape(len(rows), len(looks)).T,
        base=np.array(base, dtype=np.int16),
        noticed=np.array([row[3] for row in rows], dtype=float),
        at_step=np.array([row[4] for row in rows], dtype=bool),
    )


def _fails_at(situation: Situation, step: str, world: World) -> bool:
    """Whether what a step makes is not so in `world`: that is what somebody sees who does it."""
    found = next((moment.step for moment in situation.moments if moment.step.id == step), None)
    if found is None:
        return False
    if found.act.proves is not None:
        return not prove(world, found.act.proves).ok
    return any(str(one.made_by()) == step and not one.holds(world) for one in situation.conditions)


def _first(look: Look, seen: Observation) -> Observation:
    """What the sound rig shows; of a promise, that it works, whether or not it does yet."""
    return state(WORKS) if look.is_promise else seen


class _Words:
    """What a look may show, each once, as it turned up. Numbers that nobody can tell apart are one."""

    def __init__(self, first: Observation) -> None:
        self.places: dict[str, int] = {}
        self._numbers: list[tuple[Observation, int]] = []
        self.place(first)

    def place(self, seen: Observation) -> int:
        """The number of what is seen, a new one for what was not seen before."""
        if seen.words in self.places:
            return self.places[seen.words]
        if seen.plus_minus:
            for other, number in self._numbers:
                if other.unit == seen.unit and abs(float(other.value) - float(seen.value)) <= seen.plus_minus:
                    return number
        number = len(self.places)
        self.places[seen.words] = number
        if seen.plus_minus:
            self._numbers.append((seen, number))
        return number


def _checks(situation: Situation) -> Iterator[Check]:
    """All looks at what is out of its case; a promise is worked, and either works or shows what it does instead."""
    out, proofs = situation.world.out, _proofs(situation)
    for check in checks_of(situation.rig, situation.plan, situation.conditions):
        if check.id not in proofs and (check.where is None or check.where in out):
            yield check
    for promise in situation.rig.rig.promises:
        if promise.id in situation.plan.kept:
            yield _worked(situation, promise)


def _worked(situation: Situation, promise: Promise) -> Check:
    def read(world: World) -> Observation:
        proof = prove(world, promise.id)
        return state(WORKS if proof.ok else proof.seen)

    return Check(
        id=prove_key(promise.id),
        says=f"Work it: {promise_words(situation.rig, promise)}.",
        seconds=15 if promise.place else 3600,
        where=promise.place,
        read=read,
    )


def _look(situation: Situation, check: Check) -> Look:
    inside = check.where is not None and situation.rig[check.where].stage != Stage.OFF_GIMBAL
    live = any(
        placed.profile.carrier is not None and situation.world[Waking].is_awake(key)
        for key, placed in situation.rig.devices.items()
    )
    in_the_cage = bool(check.disturbs) and inside and live
    return Look(str(check.id), check, _undoes_s(situation, check), in_the_cage, check.id in _proofs(situation))


def _proofs(situation: Situation) -> set[Key]:
    return {prove_key(promise.id) for promise in situation.rig.rig.promises}


def _undoes_s(situation: Situation, check: Check) -> float:
    """How long it takes to do again what somebody undoes by looking so, as it should stand."""
    if not check.disturbs:
        return 0.0
    world = situation.world.fork()
    observe(world, check)
    again = {str(one.made_by()) for one in situation.conditions if one.holds(situation.world) and not one.holds(world)}
    return sum(step.takes_s + step.waits_s for step in situation.sheet.steps if step.id in again)


def look_key(promise: str) -> str:
    """The look that works a promise."""
    return str(prove_key(promise))
