"""What every trade is made of: acts, checks, faults, conditions, and drafts of steps."""

from abc import abstractmethod
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from typing import ClassVar, Literal, Self

from isotact.core.model.base import Struct
from isotact.core.model.keys import Key
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import Promise
from isotact.core.model.words import Id, JobStage
from isotact.core.proofs.proof_checks import ProofCheck
from isotact.core.world import Observation, Power, Waking, World


class Act(Struct):
    """Something that a hand can do to a world, or that befalls it. Subclasses carry a `kind`."""

    rank: ClassVar[int] = 5
    """Where it comes among the steps of its stage."""
    leaves_all: ClassVar[bool] = False
    """Whether everything is as it was afterwards, so that nothing has to be settled."""
    warns: ClassVar[bool] = True
    """Whether the cautions of the devices that it touches are said at it."""

    @property
    def proves(self) -> str | None:
        """The promise that it works, if it works one."""
        return None

    def works(self, promise: Promise) -> bool:
        """Whether a promise is worked by it."""
        return self.proves == promise.id

    def caution_stages(self, stage: JobStage) -> tuple[JobStage, ...]:
        """The stages whose cautions belong to it when it is done at `stage`."""
        return (stage,)

    def why_not(self, world: World) -> str | None:
        """Why it cannot be done now, in words of what is seen when one tries; None when it can."""
        return None

    def remedies(self, world: World) -> "Iterator[Draft]":
        """What has to be done first where it cannot be done now."""
        yield from ()

    @abstractmethod
    def do(self, world: World) -> str:
        """Change the world; returns what was seen. `perform` settles it afterwards."""

    def touches(self) -> tuple[str, ...]:
        """The devices that are taken in hand."""
        return ()

    def waits_s(self, rig: ResolvedRig) -> float:
        """How long it goes on by itself once the hand is off it: nobody need stand by."""
        return 0.0

    def spoils(self, rig: ResolvedRig) -> tuple[Key, ...]:
        """What no longer stands once it is done: conditions that rest on one of these have to be made again."""
        return ()


HandPlace = Literal["bag", "port", "switch", "menu", "radio", "battery", "card", "mount", "motor", "control", "look"]
"""Where on a device a hand does something: how what it can do there is listed."""


class HandAct(Act):
    """What a hand does on purpose: a step of a sheet holds one, and a person at the bench chooses among them.

    `where` and `part` tell at which part of a device it is done, `hand_s` how long a hand takes for it where no sheet
    says. `is_free`: its ends or names are for a hand to choose, so that no list could offer all there is.
    """

    where: ClassVar[HandPlace] = "look"
    hand_s: ClassVar[float] = 5.0
    """A press, a look, a push with the thumb: seconds, common practice, no source."""
    is_free: ClassVar[bool] = False

    def says(self, rig: ResolvedRig) -> str:
        """What is done, as one says it to a hand."""
        raise NotImplementedError(type(self).__name__)

    def part(self, device: str) -> str:
        """The port, setting, radio or surface of `device` at which it is done; empty: the device itself."""
        return ""

    def is_like(self, other: Act) -> bool:
        """Whether a hand does the same in both, though one of them may say more of it."""
        return self == other

    def unknown(self, world: World) -> str | None:
        """Of what is for a hand to choose: what it names that is not there, or not at hand."""
        return None


class Mishap(Act):
    """What befalls a rig, or is done wrong: nobody means it, so no sheet asks for it and no hand is offered it."""


def perform(world: World, act: Act, takes_s: float = 0) -> str:
    """Do one act: let its time go by, do it if it can be done, settle, wait for what it set going by its feed.

    Returns what was seen. A test that rolls is stopped before the next thing is done: the button toggles.
    """
    return attempt(world, act, takes_s)[0]


def attempt(world: World, act: Act, takes_s: float = 0) -> tuple[str, bool]:
    """`perform`, and whether it could be done."""
    if isinstance(act, HandAct):
        world[Waking].stop_test()
    world.pass_time(takes_s)
    reason = act.why_not(world)
    if reason is not None:
        return reason, False
    if act.leaves_all:
        return act.do(world), True
    world.out.update(act.touches())
    seen = act.do(world)
    world.settle()
    again = _wait_for_starts(world)
    return (f"{seen} {world.rig[again].name} starts again and again: its feed is too weak." if again else seen), True


def _wait_for_starts(world: World) -> str | None:
    """Let time go by until all that was set going is up; the device that starts a second time, if one does.

    What draws too much once it is up, and by that loses its feed, starts until a battery is empty: nobody waits for it.
    """
    begun: dict[str, float] = {}
    while rest := list(world[Power].booting(world)):
        starts = {device: world[Waking].boot_started_s[device] for device, _ in rest}
        again = next((device for device, at_s in starts.items() if begun.get(device, at_s) != at_s), None)
        if again is not None:
            return again
        begun |= starts
        world.pass_time(max(left_s for _, left_s in rest))
    return None


@dataclass(frozen=True)
class Check:
    """What an eye or a meter can do: where, for how long, and what it takes from the world.

    `read` leaves the world as it is. `disturbs` are the acts that go with looking, such as to pull a plug and to put it
    in again: `observe` carries them out. Empty for a check that leaves all as it is.
    """

    id: Key
    says: str
    seconds: float
    read: Callable[[World], Observation]
    where: str | None = None
    disturbs: tuple[HandAct, ...] = ()


def observe(world: World, check: Check) -> Observation:
    """Make a check in `world`: returns what is seen, and leaves the world as it is once somebody has looked so."""
    seen = check.read(world)
    for act in check.disturbs:
        if act.why_not(world) is None:
            perform(world, act)
    return seen


@dataclass(frozen=True)
class Fault:
    """One way in which a condition fails: an act that was done wrong, left out, or done by wear.

    `weight` is how often it happens beside the others, `mend_s` how long it takes to mend; both are common practice,
    no source.
    """

    id: str
    says: str
    weight: float
    mend_s: float
    act: Act


class StepEnd(Struct):
    """One end of what is plugged: what goes in there, and the line of the step's detail that says so."""

    device: Id
    endpoint: Id
    plug: str
    says: str


@dataclass(frozen=True)
class Draft:
    """A step before it has found its place. `care` marks good manners: leaving it out breaks no promise at once."""

    key: Key
    stage: JobStage
    title: str
    expect: str
    takes_s: float
    act: Act
    detail: tuple[str, ...] = ()
    device: str | None = None
    tag: str | None = None
    avoid: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    ends: tuple[StepEnd, ...] = ()
    """The ends that its `detail` tells, for who draws them."""
    once: tuple[tuple[str, str], ...] = ()
    """Of `detail`, the lines that are said once in a sheet, each by what it is about: one end of a splitter."""
    following: tuple[tuple[Key, str], ...] = ()
    """Lines that are said only where another step came before it."""
    care: bool = False
    promises: tuple[str, ...] = ()
    after: tuple[Key, ...] = ()
    """What comes first, where the sheet has it."""
    people: int = 1
    """How many it takes."""
    card: str = ""
    """What steps of its kind are called together, where several come one after the other."""
    asks: tuple[ProofCheck, ...] = ()
    """What is to be seen or measured at it, each with its unit and limits: volts, the mark at which a plate stands."""


class Condition(Struct):
    """Something that must be true of the rig for a promise to hold. Subclasses carry a `kind`."""

    promises: tuple[Id, ...] = ()
    is_remembered: ClassVar[bool] = False
    """Whether it was taught, chosen or told, so that it is lost with the power and has to be done again."""
    lasts_while_up: ClassVar[bool] = False
    """Whether it is about one device's being up: what came up a second time has to be seen to work a second time."""

    @property
    @abstractmethod
    def key(self) -> Key:
        """A stable name: the same condition has it in every plan of the same rig."""

    @abstractmethod
    def holds(self, world: World) -> bool:
        """Whether it is true of `world` now."""

    @abstractmethod
    def says(self, rig: ResolvedRig) -> str:
        """The condition as a sentence."""

    @abstractmethod
    def made_by(self) -> Key:
        """The step that makes it true."""

    def draft(self, rig: ResolvedRig) -> Draft | None:
        """That step, when this condition is the one that writes it."""
        return None

    @abstractmethod
    def check(self, rig: ResolvedRig) -> Check:
        """How to look whether it holds."""

    @abstractmethod
    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        """How it breaks: each makes it false, and what needs it fails."""

    def seen_in(self, world: World) -> Self:
        """The same condition, its step written for the way things stand in `world`."""
        return self

    def mended_in(self, world: World) -> "Iterator[Draft]":
        """What makes it true in `world` besides its step, where that is less than what a first build does."""
        yield from ()

    def needs(self) -> tuple[Key, ...]:
        """Conditions that must be true before its step can be done."""
        return ()

    def rests_on(self) -> tuple[Key, ...]:
        """What acts may spoil, so that this no longer holds."""
        return ()

    def for_promises(self, promises: Iterable[str]) -> Self:
        """The same condition, needed by more promises."""
        return self.model_copy(update={"promises": tuple(dict.fromkeys((*self.promises, *promises)))})
