"""How a document of any kind stands: saved, removed, unreadable, or one revision of its history."""

import json
from typing import Any, Generic, TypeVar

from pydantic import BaseModel

from isotact.core.model.problems import IsotactError

D = TypeVar("D", bound=BaseModel)


class UnreadableError(IsotactError):
    """A revision that cannot be read, though it is kept."""

    def __init__(self, what: str, key: str, number: int, why: str) -> None:
        self.key, self.number = key, number
        super().__init__(
            f"Revision {number} of the {what} '{key}' cannot be read: {why} "
            "It is kept as it is; go back to the one before."
        )


class Saved(BaseModel, Generic[D]):
    """A document as it stands now, and where it stands in its history. `revision` only ever goes up."""

    document: D
    revision: int
    made_at: str
    can_undo: bool
    can_redo: bool


class Removed(BaseModel, Generic[D]):
    """A document in the bin, and when it was put there."""

    removed_at: str
    document: D


class Unreadable(BaseModel):
    """A document whose newest revision cannot be read, and why."""

    kind: str
    id: str
    revision: int
    says: str


class Kept(Generic[D]):
    """One revision, as it stands in the table; `document` is None where it cannot be read."""

    def __init__(self, row: Any, document: D | None, is_head: bool, person: str = "") -> None:
        self.number: int = row.number
        self.parent: int = row.parent
        self.shows: int = row.shows
        self.made_at: str = row.made_at
        self.beside: dict[str, int] = json.loads(row.beside)
        self.document, self.is_head, self.person = document, is_head, person
