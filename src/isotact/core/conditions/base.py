"""What every condition answers."""

from abc import abstractmethod
from typing import Self

from isotact.core.conditions.world import World
from isotact.core.model.base import Part
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.steps import Step
from isotact.core.model.words import Id


class Fault(Part):
    """A way in which a condition can fail to hold.

    `weight` is how often it happens relative to the others (common practice, no source); `look_s`
    and `mend_s` are how long it takes to look and to mend.
    """

    says: str
    weight: float
    look_s: float
    mend_s: float


class Condition(Part):
    """Something that must be true of the rig for a route to work."""

    promises: tuple[Id, ...] = ()

    @property
    @abstractmethod
    def key(self) -> str:
        """A stable name: the same condition has it in every plan of the same rig."""

    @abstractmethod
    def holds(self, world: World) -> bool:
        """Whether it is true of `world` now."""

    @abstractmethod
    def says(self, rig: ResolvedRig) -> str:
        """The condition as a sentence."""

    @abstractmethod
    def made_by(self) -> str:
        """The id of the step that makes it true."""

    def step(self, rig: ResolvedRig) -> Step | None:
        """That step, when this condition is the one that writes it."""
        return None

    @abstractmethod
    def check(self, rig: ResolvedRig) -> str:
        """How to look, in words of what a person sees."""

    @abstractmethod
    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        """How it breaks."""

    @abstractmethod
    def break_it(self, world: World) -> None:
        """Make it false in `world`, the way its likeliest fault would."""

    def needs(self) -> tuple[str, ...]:
        """Keys of conditions that must be true before its step can be done."""
        return ()

    def for_promises(self, promises: tuple[str, ...]) -> Self:
        """The same condition, needed by more promises."""
        return self.model_copy(update={"promises": tuple(dict.fromkeys((*self.promises, *promises)))})
