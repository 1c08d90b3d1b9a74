"""Where a rig is when something does not look as it should: what was done, what was left out, what happened since."""

from collections.abc import Iterator
from dataclasses import dataclass, field
from functools import cached_property

from pydantic import Field

from isotact.core.model.base import Struct
from isotact.core.model.incidents import Noted
from isotact.core.model.plan import Plan
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id
from isotact.core.runsheet import RunSheet, Step
from isotact.core.trades import Condition, fresh_world, perform
from isotact.core.trades.incident_acts import acts_at_device
from isotact.core.world import Waking, World


class Happened(Struct):
    """Something that befell a device after `after` of the steps below were done."""

    what: Noted
    device: Id
    after: int = Field(ge=0, le=10_000, strict=True)


class Standing(Struct):
    """What the log tells of a rig.

    `done`: the steps carried out, in that order; None: all of the sheet, nobody ticked them. `differs`: the step
    among them, or the next one, that does not look as it should. `changed`: devices and flags that were touched since
    it last worked.
    """

    done: tuple[str, ...] | None = None
    differs: str | None = None
    happened: tuple[Happened, ...] = ()
    changed: tuple[str, ...] = ()


@dataclass(frozen=True)
class Moment:
    """One step as it went on the sound rig: what was seen then, and the world right after it."""

    step: Step
    seen: str
    world: World


@dataclass
class Situation:
    """A rig with its plan, and what was done to it so far.

    `moments` are the steps in the order in which they were done, each with the world as it should be after it.
    `world`: how it should stand now, what happened since included. Worlds are forked, never changed.
    """

    rig: ResolvedRig
    plan: Plan
    conditions: tuple[Condition, ...]
    sheet: RunSheet
    standing: Standing
    moments: list[Moment] = field(default_factory=list)
    world: World = field(init=False)

    def __post_init__(self) -> None:
        world = fresh_world(self.rig)
        steps = list(self._steps())
        for number, step in enumerate(steps):
            self._befall(world, number)
            seen = perform(world, step.act, step.takes_s)
            self.moments.append(Moment(step, seen, world.fork()))
        self._befall(world, len(steps))
        # Nobody leaves a test rolling while he looks for what is wrong.
        world[Waking].stop_test()
        self.world = world
        self.place = {moment.step.id: number for number, moment in enumerate(self.moments)}

    @cached_property
    def standing_conditions(self) -> tuple[Condition, ...]:
        """What is so on the rig as it should stand now."""
        return tuple(one for one in self.conditions if one.holds(self.world))

    @property
    def is_finished(self) -> bool:
        """Whether every step of the sheet that a promise rests on was done."""
        return all(step.id in self.place for step in self.sheet.steps if not step.care)

    def left(self, promise: str) -> list[Step]:
        """The steps that a promise still waits for, in the sheet's order."""
        return [step for step in self.sheet.steps if promise in step.promises and step.id not in self.place]

    def carried_on(self, world: World, number: int) -> Iterator[tuple[Moment, str]]:
        """Do in `world` what was done after moment `number`; each moment, and what is seen then in this world."""
        for later in range(number + 1, len(self.moments)):
            self._befall(world, later)
            moment = self.moments[later]
            yield moment, perform(world, moment.step.act, moment.step.takes_s)
        self._befall(world, len(self.moments))
        world[Waking].stop_test()

    def _steps(self) -> Iterator[Step]:
        known = {step.id: step for step in self.sheet.steps}
        done = tuple(known) if self.standing.done is None else self.standing.done
        yield from (known[key] for key in done if key in known)
        differs = self.standing.differs
        if differs in known and differs not in done:
            yield known[differs]

    def _befall(self, world: World, number: int) -> None:
        """Let happen what happened when so many steps were done."""
        for one in self.standing.happened:
            if one.after == number and one.device in world.rig.devices:
                for act in acts_at_device(one.what, one.device):
                    perform(world, act)
