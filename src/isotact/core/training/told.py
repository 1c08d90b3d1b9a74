"""What somebody does in an exercise, and how it stands: looks, mends, gives up; and the finder's own way beside it."""

from typing import Annotated, Literal, Protocol

from pydantic import Field

from isotact.core.model.base import Struct
from isotact.core.model.words import Id


class Trainee(Protocol):
    """Whoever works at an exercise."""

    def look(self, key: str) -> None:
        """Look at one thing."""

    def mend(self, cause: str) -> None:
        """Mend one thing."""

    def give_up(self) -> None:
        """Be told what it was."""


class LookAt(Struct):
    """Look at one thing, or try it."""

    kind: Literal["look"] = "look"
    look: str = Field(max_length=300)

    def by(self, trainee: Trainee) -> None:
        """Have it done."""
        trainee.look(self.look)


class Mend(Struct):
    """Mend one thing, as if it were that, and work again what failed."""

    kind: Literal["mend"] = "mend"
    cause: str = Field(max_length=300)

    def by(self, trainee: Trainee) -> None:
        """Have it done."""
        trainee.mend(self.cause)


class GiveUp(Struct):
    """Be told what it was."""

    kind: Literal["give-up"] = "give-up"

    def by(self, trainee: Trainee) -> None:
        """Have it done."""
        trainee.give_up()


Answer = Annotated[LookAt | Mend | GiveUp, Field(discriminator="kind")]


class Suspect(Struct):
    """Something that could be wrong, and can be mended."""

    id: str
    says: str
    devices: tuple[Id, ...]


class ToldInTraining(Struct):
    """One thing that was done: what was seen, how long it took with the walk, and what had to be made again for it."""

    kind: Literal["look", "mend"]
    id: str
    says: str
    seen: str
    seconds: float
    undoes_s: float = 0.0
    helped: bool = Field(default=False, description="of a mend: it was one of the things that were wrong")


class TrailStep(Struct):
    """A step of the finder's way: the same."""

    kind: Literal["look", "mend"]
    says: str
    seen: str
    seconds: float


class Trail(Struct):
    """A whole way to the end: minutes, looks, and what was disturbed, in seconds of making it again."""

    seconds: float
    looks: int
    undoes_s: float
    steps: tuple[TrailStep, ...]
    found: bool


class ExerciseState(Struct):
    """How an exercise stands. What was wrong, the finder's way and the points are told once it is over.

    `fails`: the promises that fail, in words, as those who wait for them say it. `rumour`: what a colleague says.
    """

    status: Literal["open", "mended", "given-up"]
    fails: tuple[str, ...]
    fails_now: tuple[str, ...]
    rumour: str | None
    seconds: float
    looks: int
    undoes_s: float
    told: tuple[ToldInTraining, ...]
    was: tuple[str, ...] = ()
    kinds: tuple[str, ...] = ()
    devices: tuple[Id, ...] = ()
    finder: Trail | None = None
    points: int | None = Field(default=None, description="of 100: as quick as the finder, or quicker")


class Verdict(Struct):
    """How an exercise at the bench stands, by the bench's clock.

    `fails_now`: the promises that fail, in words. `par_s`: what it would have taken otherwise, told once it is over:
    the finder and the short sheet after it, or the whole run sheet. `otherwise`: what still stands otherwise than
    planned, though every promise works.
    """

    status: Literal["open", "mended", "given-up"]
    fails_now: tuple[str, ...]
    seconds: float
    moves: int
    was: tuple[str, ...] = ()
    kinds: tuple[str, ...] = ()
    par_s: float | None = None
    points: int | None = None
    otherwise: tuple[str, ...] = ()
