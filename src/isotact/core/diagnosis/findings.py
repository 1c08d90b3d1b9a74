"""What the finder answers, as documents."""

from collections.abc import Sequence
from typing import Any, Literal, Protocol, Self, TypeVar

from pydantic import Field

from isotact.core.model.base import Struct
from isotact.core.model.words import AnswerKind, Id

CURED, STILL = "it works now", "it still fails"
"""What comes of a cure that is tried."""


class Seen(Struct):
    """One answer. `look`: at what; `saw`: what was seen, in the words that the look can show, where it is `seen`.

    `odd`: it is not as it should be, without a word how; `now-and-then`: it comes and goes. `times`: so often in a row
    it was looked at and looked the same.
    """

    look: str = Field(max_length=300, description="the look, the cure that was tried, or what was said unasked")
    answer: AnswerKind = "seen"
    saw: str = Field(default="", max_length=500)
    times: int = Field(default=1, ge=1, le=99, strict=True)


class AnAnswer(Protocol):
    """What an answer is, wherever it is kept."""

    @property
    def look(self) -> str: ...
    @property
    def answer(self) -> AnswerKind: ...
    @property
    def saw(self) -> str: ...
    @property
    def times(self) -> int: ...
    def model_copy(self, *, update: dict[str, Any]) -> Self: ...


OneAnswer = TypeVar("OneAnswer", bound=AnAnswer)


def replaced(answers: Sequence[AnAnswer], look: str) -> int | None:
    """The number of the answer that a new one to the same look takes the place of; None: it comes after the others.

    What was seen before a cure in vain stays as it was seen: behind what was mended since something else may show.
    """
    for number in range(len(answers) - 1, -1, -1):
        if answers[number].look == look:
            return number
        if answers[number].saw == STILL and answers[number].look.startswith("cure:"):
            return None
    return None


def answered(answers: Sequence[OneAnswer], answer: OneAnswer) -> list[OneAnswer]:
    """All answers with one more."""
    place = replaced(answers, answer.look)
    if place is None:
        return [*answers, answer]
    before = answers[place]
    times = before.times + 1 if (before.answer, before.saw) == (answer.answer, answer.saw) else 1
    return [*answers[:place], answer.model_copy(update={"times": times}), *answers[place + 1 :]]


Status = Literal["looking", "found", "mended", "not-in-the-list"]


class Cause(Struct):
    """What could be wrong. `ids`: one, or two at once; `share`: how likely, of 1; `mend_s`: to mend it."""

    ids: tuple[str, ...]
    says: tuple[str, ...]
    kinds: tuple[str, ...]
    devices: tuple[Id, ...]
    share: float
    mend_s: float


class LookOutcome(Struct):
    """One thing that may be seen at a look: how likely, and the likeliest causes that would remain."""

    words: str
    share: float
    leaves: tuple[str, ...]


class NextLook(Struct):
    """Something to look at, or a cure to try: how long it takes with all that belongs to it, and what it tells.

    `bits`: the information to be expected; `search_s`: how long the whole search takes from here, this look included,
    where that was reckoned. `undoes_s`: what has to be done again because of it.
    """

    id: str
    says: str
    device: Id | None
    takes_s: float
    walk_s: float
    undoes_s: float
    stills_gimbal: bool
    bits: float
    search_s: float | None
    goes: float = Field(description="how much of what is likely goes, on average, of 1")
    outcomes: tuple[LookOutcome, ...]
    is_cure: bool
    is_glance: bool
    is_again: bool = Field(default=False, description="it was looked at before, and hardly anything fits what was seen")


class Finding(Struct):
    """How the search stands.

    `causes` and `elsewhere` together make 1, but for what is too unlikely to be shown. `next`: what to do next, the
    best first; `glances`: what costs next to nothing.
    """

    status: Status
    causes: tuple[Cause, ...]
    elsewhere: float
    next: tuple[NextLook, ...]
    glances: tuple[NextLook, ...]
    bits_left: float


class Sight(Struct):
    """One look and what may be seen there, what should be first. `is_promise`: a promise that somebody works."""

    id: str
    says: str
    device: Id | None
    is_promise: bool
    is_glance: bool
    words: tuple[str, ...]
