"""A simulated rig under somebody's hands: done in any order, wrong things too, each told as a real one would feel."""

from copy import copy
from dataclasses import dataclass, field
from functools import cached_property
from typing import Self

from isotact.core.bench.moves import Move, Told
from isotact.core.bench.rehearsal import Otherwise, otherwise
from isotact.core.model.plan import Plan
from isotact.core.model.problems import IsotactError
from isotact.core.model.resolved import ResolvedRig
from isotact.core.runsheet import RunSheet, Step, sheet_between
from isotact.core.trades import Act, Condition, HandAct, attempt, not_for_a_hand
from isotact.core.world import Proof, Waking, World, prove


class NoMoveError(IsotactError):
    """What no hand could even try here: it names what is not there."""


@dataclass(frozen=True)
class Built:
    """What a bench stands for: a rig, its plan, what that rests on, and its sheet."""

    rig: ResolvedRig
    plan: Plan
    conditions: tuple[Condition, ...]
    sheet: RunSheet

    @cached_property
    def steps(self) -> dict[str, Step]:
        return {step.id: step for step in self.sheet.steps}


@dataclass
class HandBench:
    """A world, and what was done to it so far.

    `done`: the steps of the sheet that were done, by whichever way, in that order. `worked`: of each promise that was
    worked, how it was seen last. `otherwise`: where it `rehearses`, the moves that were not the sheet's next step, each
    with what it costs; at each move that takes as long as to say where the sheet goes on. Whoever wants to keep it
    forks it: a few shallow copies.
    """

    built: Built
    world: World
    done: dict[str, int] = field(default_factory=dict)
    worked: dict[str, Proof] = field(default_factory=dict)
    told: list[Told] = field(default_factory=list)
    rehearses: bool = False
    otherwise: list[Otherwise] = field(default_factory=list)
    began_s: float = 0.0
    """On the bench's clock: what was built before does not count."""
    last_step: Step | None = None
    """What the last move did, where it was a step by its name."""
    _ahead: RunSheet | None = None

    def fork(self) -> Self:
        """A bench of its own that starts as this one is."""
        other = copy(self)
        other.world = self.world.fork()
        other.done, other.worked = dict(self.done), dict(self.worked)
        other.told, other.otherwise = list(self.told), list(self.otherwise)
        return other

    def do(self, move: Move) -> Told:
        """Do one thing. Raises NoMoveError, and leaves all as it is, where there is nothing of that kind to do."""
        before = self.ahead() if self.rehearses else None
        self.last_step = None
        told = move.by(self)
        self.told.append(told)
        # Who does the next step goes on the same way: another that is as short must not turn up in the midst of it.
        self._ahead = _without_first(self._ahead) if self._is_next(told) else None
        if before is not None and (found := otherwise(told, before, self.ahead())) is not None:
            self.otherwise.append(found)
        return told

    def ahead(self) -> RunSheet:
        """Where the sheet goes on from here: the rest of it where that still leads to the end, else the least work."""
        if self._ahead is None:
            self._ahead = self._rest() or sheet_between(self.world, self.built.plan, self.built.conditions)
        return self._ahead

    def _is_next(self, told: Told) -> bool:
        steps = self._ahead.steps if self._ahead is not None else ()
        return told.could and bool(steps) and told.step == steps[0].id

    def _rest(self) -> RunSheet | None:
        left = tuple(step for step in self.built.sheet.steps if step.id not in self.done)
        world = self.world.fork()
        for step in left:
            if not attempt(world, step.act, step.takes_s)[1]:
                return None
        needed = (one.holds(world) for one in self.built.conditions if one.promises)
        if not (all(needed) and all(prove(world, promise).ok for promise in self.built.plan.kept)):
            return None
        return RunSheet(
            rig=self.built.sheet.rig,
            steps=left,
            takes_s=sum(step.takes_s for step in left),
            warnings=self.built.sheet.warnings,
        )

    def _named(self, key: str) -> Step:
        """A step of the sheet, or of where it goes on from here. One that is done is not done again by its name."""
        step = self.built.steps.get(key)
        is_to_come = step is not None and step.id not in self.done
        # Where the sheet goes on another way, a step of the same name may be another there.
        ahead = self._ahead if self._ahead is not None or is_to_come else self.ahead()
        again = next((one for one in ahead.steps if one.id == key), None) if ahead is not None else None
        if again is not None:
            return again
        if step is not None and is_to_come:
            return step
        what = "is done already" if step is not None else "is no step of this sheet"
        raise NoMoveError(f"Found the step '{key}', which {what}. Choose one that is to come.")

    def wait(self, seconds: float) -> Told:
        """Hands off: time goes by."""
        began_s = self.world.clock_s
        self.world[Waking].stop_test()
        self.world.pass_time(seconds)
        return self._told(began_s, f"Wait {_duration(seconds)}", "Time goes by.", could=True)

    def step(self, key: str, said: Step | None) -> Told:
        """A step of the sheet, or of where it goes on from here; `said`: as it was done before."""
        step = said or self._named(key)
        self.last_step = step
        return self._step(step)

    def act(self, act: HandAct) -> Told:
        """What a hand chose; where that is a step of the sheet, this."""
        why = not_for_a_hand(self.world, act)
        if why is not None:
            raise NoMoveError(f"This cannot be tried: {why}. Look at the bench as it is now, and choose from that.")
        next_ones = self._ahead.steps[:1] if self._ahead is not None else ()
        to_come = (*next_ones, *(step for step in self.built.sheet.steps if step.id not in self.done))
        step = next((one for one in to_come if act.is_like(one.act)), None)
        # What the sheet says of an act goes: its seconds, and what it knows besides of the same act.
        return self._step(step) if step is not None else self._perform(act, act.says(self.built.rig), act.hand_s)

    def _step(self, step: Step) -> Told:
        told = self._perform(step.act, step.title, step.takes_s, step)
        if told.could:
            self.done[step.id] = len(self.told)
        return told

    def _perform(self, act: Act, says: str, takes_s: float, step: Step | None = None) -> Told:
        began_s = self.world.clock_s
        seen, could = attempt(self.world, act, takes_s)
        worked = self._works(act)
        self.world[Waking].stop_test()
        device = next(iter(act.touches()), step.device if step is not None else None)
        return self._told(began_s, says, seen, could, device, step, worked)

    def _works(self, act: Act) -> tuple[Proof, ...]:
        """The promises that `act` works, as they are seen by it."""
        promises = self.built.rig.rig.promises
        proofs = tuple(prove(self.world, one.id) for one in promises if act.works(one))
        self.worked |= {proof.promise: proof for proof in proofs}
        return proofs

    def _told(
        self,
        began_s: float,
        says: str,
        seen: str,
        could: bool,
        device: str | None = None,
        step: Step | None = None,
        worked: tuple[Proof, ...] = (),
    ) -> Told:
        return Told(
            number=len(self.told),
            at_s=self.world.clock_s,
            took_s=self.world.clock_s - began_s,
            says=says,
            seen=seen,
            could=could,
            device=device,
            step=step.id if step is not None else None,
            worked=worked,
        )


def _without_first(sheet: RunSheet | None) -> RunSheet | None:
    if sheet is None:
        return None
    steps = sheet.steps[1:]
    return sheet.model_copy(update={"steps": steps, "takes_s": sum(step.takes_s for step in steps)})


def _duration(seconds: float) -> str:
    return f"{seconds:g} s" if seconds < 120 else f"{seconds / 60:g} min"
