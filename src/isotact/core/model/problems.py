"""What is wrong with a document, each thing at its place.

IsotactError
├── RefusedError      a document is refused, with every problem in it
├── NotFoundError     no such rig, profile or step
├── StaleWriteError   somebody else wrote first; carries both versions
├── StoppedError      a search was stopped before it had anything to show
├── BusyError         more is asked than can be answered
└── BrokenError       the process that did the work came to an end
"""

from collections.abc import Iterable
from typing import Any

from pydantic import BaseModel
from rapidfuzz import fuzz, process

Path = tuple[str | int, ...]
Flaw = tuple[Path, str]
"""Where in a document, and what is wrong there."""


LONGEST_WORD = 100
"""What is longer was not meant to be one of our names."""
NEAR_ENOUGH = 58
"""A word so like ours, in percent, is worth asking about."""


class Problem(BaseModel):
    """One thing wrong: where, what was found and expected, and what to do about it."""

    code: str
    path: str
    message: str
    hint: str = ""
    line: int | None = None
    file: str = ""

    def __str__(self) -> str:
        place = self.file + (f":{self.line}" if self.line else "")
        head = " ".join(part for part in (place, self.path) if part)
        return f"{head}: {self.message}" + (f" {self.hint}" if self.hint else "")


class IsotactError(Exception):
    """Anything that Isotact refuses on purpose, with words for the person who asked.

    It goes whole from one process to another, whatever it was made of.
    """

    def __reduce__(self) -> tuple[Any, ...]:
        return _again, (type(self), self.args), self.__dict__


def _again(kind: type[IsotactError], args: tuple[Any, ...]) -> IsotactError:
    error = kind.__new__(kind)
    error.args = args
    return error


class RefusedError(IsotactError):
    """A document is refused whole. `problems` holds every flaw in it, in document order."""

    def __init__(self, problems: list[Problem]) -> None:
        self.problems = problems
        super().__init__("\n".join(str(problem) for problem in problems))


class NotFoundError(IsotactError):
    """There is no such thing under that id."""

    def __init__(self, what: str, key: str, known: Iterable[str] = ()) -> None:
        self.what, self.key = what, key
        super().__init__(f"There is no {what} '{key}'.{nearest(key, known)}")


class StaleWriteError(IsotactError):
    """A write was made on an old revision. Both versions ride along so that nothing is lost."""

    def __init__(self, what: str, yours: Any, theirs: Any, made_on: int, head: int) -> None:
        self.yours, self.theirs, self.made_on, self.head = yours, theirs, made_on, head
        super().__init__(f"This {what} has moved on: you changed revision {made_on}, it is now at revision {head}.")


class StoppedError(IsotactError):
    """A search was stopped before it had anything to show."""


class BusyError(IsotactError):
    """More is asked than can be answered."""


class BrokenError(IsotactError):
    """The process that did the work came to an end."""


def nearest(word: str, known: Iterable[str]) -> str:
    """A closing sentence that names the nearest valid value, or nothing when none is near."""
    if len(word) > LONGEST_WORD:
        return ""
    close = process.extractOne(word, list(known), scorer=fuzz.ratio, score_cutoff=NEAR_ENOUGH)
    return f". Did you mean '{close[0]}'?" if close else ""


def path_text(path: Path) -> str:
    """A path as people write it: `ports[1].roles[0].max_v`."""
    text = ""
    for part in path:
        text += f"[{part}]" if isinstance(part, int) else (f".{part}" if text else str(part))
    return text
