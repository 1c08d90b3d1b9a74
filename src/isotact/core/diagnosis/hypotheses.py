"""What could be wrong: every single fault, put in when it would have happened; what could have befallen a device."""

import re
from collections.abc import Iterator
from dataclasses import dataclass

from isotact.core.diagnosis.situation import Situation
from isotact.core.faults.coverage import faults_of
from isotact.core.model.incidents import NOTED
from isotact.core.trades import Act, Condition, Fault, perform
from isotact.core.trades.incident_acts import acts_at_device
from isotact.core.world import World

UNFINISHED = "unfinished"
"""The hypothesis that nothing is wrong: what a promise waits for has not been done yet."""
INCIDENT_WEIGHT = 2.0
"""A restart or a changed battery that nobody wrote down, beside a wrong setting at 3: common practice, no source."""
_NUMBER = re.compile(r"-\d+$")


@dataclass(frozen=True)
class Hypothesis:
    """One way in which it could have come about.

    `cause` is the same for one that crept in while it was built and one that came since: the same thing is mended.
    `kind`: what sort of fault it is, by which it is counted in the log. `at`: the number of the moment after which it
    is put in; None: since the last step. `about`: the devices that it concerns, and its flag where it has one.
    `has_teeth`: whether it is about gears that mesh.
    """

    cause: str
    says: str
    kind: str
    weight: float
    mend_s: float
    acts: tuple[Act, ...]
    about: frozenset[str]
    at: int | None = None
    has_teeth: bool = False


def hypotheses(situation: Situation) -> Iterator[Hypothesis]:
    """All single ones of a situation, each as it would have happened; what cannot have happened yet is left out."""
    yield Hypothesis(
        cause=UNFINISHED,
        says="nothing is wrong: steps that it needs are still open",
        kind=UNFINISHED,
        weight=_unfinished_weight(situation),
        mend_s=60,
        acts=(),
        about=frozenset(),
    )
    yield from _faults(situation)
    yield from _incidents(situation)


def _unfinished_weight(situation: Situation) -> float:
    """As likely as a good part of all else, where something is open: then it is the first thing to think of.

    Whoever stopped at a step that does not look as it should knows that those after it are open.
    """
    if situation.is_finished:
        return 0.0
    return 60.0 if situation.standing.differs is None else 3.0


def put_into(situation: Situation, one: Hypothesis) -> tuple[World, dict[str, str]]:
    """The world in which it is so, and what was seen at each later step in it that looked otherwise than it should.

    What was put in while it was built has the rest of the steps carried out on top.
    """
    if one.at is None:
        world = situation.world.fork()
        for act in one.acts:
            perform(world, act)
        return world, {}
    world = situation.moments[one.at].world.fork()
    for act in one.acts:
        perform(world, act)
    odd = {moment.step.id: seen for moment, seen in situation.carried_on(world, one.at) if seen != moment.seen}
    return world, odd


def fault_kind(condition: Condition, fault: Fault) -> str:
    """What sort of fault it is, whatever it is at: a lead in a wrong port, a setting that waits."""
    return f"{condition.key.kind}/{_NUMBER.sub('', fault.id)}"


def _faults(situation: Situation) -> Iterator[Hypothesis]:
    sound = situation.world
    made = {key: number for number, moment in enumerate(situation.moments) for key in moment.step.makes}
    proven = _proven(situation)
    for condition, fault in faults_of(situation.rig, situation.conditions):
        if not condition.holds(sound):
            continue  # what does not stand yet cannot have been broken
        common = Hypothesis(
            cause=f"{condition.key}/{fault.id}",
            says=fault.says,
            kind=fault_kind(condition, fault),
            weight=fault.weight,
            mend_s=fault.mend_s,
            acts=(fault.act,),
            about=condition.key.names | _flag(condition),
            has_teeth=any(situation.rig[end.device].endpoint(end.endpoint).is_gear for end in condition.key.ends),
        )
        if fault.act.why_not(sound) is None:
            yield common
        at = made.get(str(condition.key), situation.place.get(str(condition.made_by())))
        # Once a proof was seen that needs it, it was so: what is wrong now came since.
        if at is None or set(condition.promises) & proven or situation.standing.done is None:
            continue
        if fault.act.why_not(situation.moments[at].world) is None:
            yield Hypothesis(**{**common.__dict__, "at": at})


def _incidents(situation: Situation) -> Iterator[Hypothesis]:
    """What may have befallen a device without a word: one event, whatever it undoes."""
    sound = situation.world
    for device in sorted(sound.out):
        for what in NOTED:
            acts = acts_at_device(what, device)
            if sound.rig[device].profile.wake is None or acts[0].why_not(sound) is not None:
                continue
            yield Hypothesis(
                cause=f"{what}:{device}",
                says=f"{sound.rig[device].name}: {what.says}, and what that undoes was not done again",
                kind=f"incident/{what}",
                weight=INCIDENT_WEIGHT,
                mend_s=60,
                acts=acts,
                about=frozenset({device}),
            )


def _proven(situation: Situation) -> set[str]:
    """The promises that were seen to hold once: their proof was ticked and did not look otherwise."""
    if situation.standing.done is None:
        return set()
    return {
        moment.step.act.proves
        for moment in situation.moments
        if moment.step.act.proves is not None and moment.step.id != situation.standing.differs
    }


def _flag(condition: Condition) -> set[str]:
    """The flag of the lead that a condition is about, as it is changed with the lead."""
    tag = getattr(condition, "tag", None)
    return set() if tag is None else {f"flag:{tag}"}
