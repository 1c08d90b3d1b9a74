"""What an eye or a meter takes from the world, as data: its kind, value and unit, and how a person would say it."""

from dataclasses import dataclass
from typing import Literal

ObservationKind = Literal["state", "number", "text"]


# No pydantic model: the finder takes some ten thousand of these for one answer.
@dataclass(frozen=True, slots=True)
class Observation:
    """One thing seen, read or felt.

    A `state` is one of a few that a thing can be in, its value a word of ours; a `number` was read off a scale or a
    display, in `unit`; a `text` was read word for word, such as a marking or a name. Two are the same observation when
    all of it is the same: who compares them asks for nothing else. `plus_minus`: how far a number may be off.
    """

    kind: ObservationKind
    value: str | float
    words: str
    unit: str = ""
    plus_minus: float = 0.0


def state(words: str, value: str | None = None) -> Observation:
    """A thing in one of a few states; its words tell which, where no shorter `value` does."""
    return Observation(kind="state", value=words if value is None else value, words=words)


def number(value: float, unit: str, words: str, plus_minus: float = 0.0) -> Observation:
    """A number in `unit`."""
    return Observation(kind="number", value=value, unit=unit, plus_minus=plus_minus, words=words)


def text(words: str) -> Observation:
    """What is written or named somewhere, word for word."""
    return Observation(kind="text", value=words, words=words)
