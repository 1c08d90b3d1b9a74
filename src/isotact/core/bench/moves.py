"""What somebody does at the bench, one thing after the other, and what was seen of it."""

from typing import Annotated, ClassVar, Literal, Protocol

from pydantic import Field

from isotact.core.model.base import Struct
from isotact.core.model.words import Id
from isotact.core.runsheet import Step
from isotact.core.trades import AnyHandAct, HandAct
from isotact.core.world import Proof


class Hands(Protocol):
    """Whoever carries moves out."""

    def act(self, act: HandAct) -> "Told":
        """Do what a hand chose."""

    def step(self, key: str, said: Step | None) -> "Told":
        """Do a step of the sheet, or just this one."""

    def wait(self, seconds: float) -> "Told":
        """Let time go by."""


class DoAct(Struct):
    """Something that a hand does."""

    kind: Literal["act"] = "act"
    act: AnyHandAct

    @property
    def at(self) -> tuple[str, ...]:
        """The devices at which it is done, as far as it says so itself."""
        return self.act.touches()

    def by(self, hands: Hands) -> "Told":
        """Have it done."""
        return hands.act(self.act)


class DoStep(Struct):
    """A step of the sheet, done as it says there.

    `said`: what it said when it was done, filled in by the bench. Where a sheet goes on depends on when it was asked,
    so that the same name may be another step another time.
    """

    kind: Literal["step"] = "step"
    step: str = Field(max_length=300)
    said: Step | None = None
    at: ClassVar[tuple[str, ...]] = ()

    def by(self, hands: Hands) -> "Told":
        """Have it done."""
        return hands.step(self.step, self.said)


class WaitFor(Struct):
    """Hands off for a while."""

    kind: Literal["wait"] = "wait"
    seconds: float = Field(gt=0, le=3_600)
    at: ClassVar[tuple[str, ...]] = ()

    def by(self, hands: Hands) -> "Told":
        """Have it done."""
        return hands.wait(self.seconds)


Move = Annotated[DoAct | DoStep | WaitFor, Field(discriminator="kind")]
"""One thing that is done at the bench."""


class Told(Struct):
    """A move as it went.

    `at_s`: on the bench's clock, once it was done; `took_s`: by that clock, a start that was waited for included.
    `step`: the step of the sheet that it was. `worked`: the promises that were worked by it, as they were seen.
    """

    number: int
    at_s: float
    took_s: float
    says: str
    seen: str
    could: bool = Field(description="whether it could be done at all; what then comes of it is another thing")
    device: Id | None = None
    step: str | None = None
    worked: tuple[Proof, ...] = ()
