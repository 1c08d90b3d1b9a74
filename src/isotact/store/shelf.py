"""Documents of one kind as append-only revisions: save, undo, redo, history, the bin."""

import json
from collections.abc import Callable
from contextlib import AbstractContextManager
from datetime import UTC, datetime
from typing import Any, Generic, TypeVar

from pydantic import BaseModel, ValidationError
from pydantic_core import PydanticSerializationError

from isotact.catalogue import Source, problems_of
from isotact.core.model.older_versions import upgraded
from isotact.core.model.problems import NotFoundError, Problem, RefusedError, StaleWriteError
from isotact.store.author import person
from isotact.store.kinds import Kind
from isotact.store.revisions import Kept, Removed, Saved, Unreadable, UnreadableError
from isotact.store.tables import Tables

D = TypeVar("D", bound=BaseModel)
_MADE = ("created", "saved", "set aside", "kept", "undone", "redone", "brought back")
"""What makes a revision."""
PAGE = 50
"""So many revisions stand on one page of a history."""


class Shelf(Generic[D]):
    """All documents of one kind. Each call is a transaction of its own, or part of the one around it."""

    def __init__(
        self,
        kind: Kind[D],
        tables: Tables,
        reading: Callable[[], AbstractContextManager[None]],
        writing: Callable[[], AbstractContextManager[None]],
    ) -> None:
        self.kind, self._tables = kind, tables
        self._reading, self._writing = reading, writing

    def all(self) -> list[Saved[D]]:
        """Every document that was not removed and can be read, by id; `unreadable` names the others."""
        with self._reading():
            found = [self._try(row) for row in self._rows(removed=False)]
        return [saved for saved in found if not isinstance(saved, UnreadableError)]

    def unreadable(self) -> list[Unreadable]:
        """Every document whose newest revision cannot be read."""
        with self._reading():
            found = [self._try(row) for row in self._rows(removed=False)]
        return [
            Unreadable(kind=self.kind.name, id=error.key, revision=error.number, says=str(error))
            for error in found
            if isinstance(error, UnreadableError)
        ]

    def removed(self) -> list[Removed[D]]:
        """Every document in the bin, the last one first."""
        with self._reading():
            rows = sorted(self._rows(removed=True), key=lambda row: row.removed_at, reverse=True)
            found = [(row.removed_at, self._try(row)) for row in rows]
        return [
            Removed(removed_at=at, document=saved.document)
            for at, saved in found
            if not isinstance(saved, UnreadableError)
        ]

    def one(self, key: str) -> Saved[D]:
        """One document as it stands. Raises NotFoundError, UnreadableError."""
        with self._reading():
            return self._saved(self._row(key))

    def heads(self) -> dict[str, int]:
        """The newest revision of every document that was not removed, by id."""
        with self._reading():
            return {row.id: row.head for row in self._rows(removed=False)}

    def ids(self) -> set[str]:
        """The ids of all documents, removed ones too."""
        with self._reading():
            table = self._tables.Document
            return {row.id for row in table.select(table.id).where(table.kind == self.kind.name)}

    def create(self, document: D, beside: dict[str, int] | None = None) -> Saved[D]:
        """A new document at its first revision. Raises RefusedError when the id is taken."""
        key: str = document.id  # type: ignore[attr-defined]
        text = self._text(document)
        with self._writing():
            here = self._find(key)
            if here is not None:
                raise self._taken(key, here.removed_at is not None)
            row = self._tables.Document.create(kind=self.kind.name, id=key, head=1)
            self._add(row, 1, 0, text, beside)
            self._tell(row, "created", 1)
            return self._saved(row)

    def save(self, key: str, document: D, made_on: int, beside: dict[str, int] | None = None) -> Saved[D]:
        """A new revision made from `made_on`; none when the document stands so already.

        Raises StaleWriteError, with both versions, when `made_on` is no longer the newest.
        """
        found: str = document.id  # type: ignore[attr-defined]
        if found != key:
            message = f"found '{found}'; the {self.kind.says} being saved is '{key}'."
            raise RefusedError([Problem(code="other-id", path="id", message=message)])
        text = self._text(document)
        with self._writing():
            row = self._row(key)
            # A write whose answer was lost on the way comes again, made on a revision that is no longer the newest.
            if self._shown(row, row.head).document == text:
                return self._saved(row)
            self._must_be_newest(row, made_on, document)
            self._move(row, row.head, text, beside, "saved")
            return self._saved(row)

    def keep_both(
        self, key: str, document: D, made_on: int, newest: int, beside: dict[str, int] | None = None
    ) -> Saved[D]:
        """Both versions of a write that came too late as revisions: this one first, then what stands, as it was.

        Raises StaleWriteError when even `newest` is not the newest any more.
        """
        text = self._text(document)
        with self._writing():
            row = self._row(key)
            self._must_be_newest(row, newest, document)
            theirs = self._shown(row, row.head).number
            parent = made_on if 0 < made_on < newest else newest
            self._move(row, parent, text, beside, "set aside")
            return self._show(row, theirs, "kept")

    def undo(self, key: str, made_on: int) -> Saved[D]:
        """Go back to what the present revision was made from. At the first nothing happens."""
        with self._writing():
            row = self._row(key)
            self._must_be_newest(row, made_on, None)
            parent = self._shown(row, row.head).parent
            return self._show(row, self._shown(row, parent).number, "undone") if parent else self._saved(row)

    def redo(self, key: str, made_on: int) -> Saved[D]:
        """Go forward to the newest revision made from the present one. Without such nothing happens."""
        with self._writing():
            row = self._row(key)
            self._must_be_newest(row, made_on, None)
            child = self._child(row)
            return self._show(row, child, "redone") if child else self._saved(row)

    def back_to(self, key: str, number: int, made_on: int) -> Saved[D]:
        """Go to any earlier revision. Raises NotFoundError, StaleWriteError."""
        with self._writing():
            row = self._row(key)
            self._must_be_newest(row, made_on, None)
            return self._show(row, self._shown(row, number).number, "brought back")

    def remove(self, key: str) -> None:
        """Take a document off the list; its history is kept."""
        with self._writing():
            self._mark(self._row(key), now(), "removed")

    def restore(self, key: str) -> Saved[D]:
        """Bring a removed document back as it was."""
        with self._writing():
            row = self._row(key)
            self._mark(row, None, "restored")
            return self._saved(row)

    def throw_away(self, key: str) -> None:
        """Delete a removed document with its whole history. Raises RefusedError for one that was not removed."""
        with self._writing():
            row = self._row(key)
            if row.removed_at is None:
                hint = "Only what lies in the bin can be thrown away for good: remove it first."
                raise RefusedError(
                    [Problem(code="not-removed", path="id", message=f"found '{key}' on the list.", hint=hint)]
                )
            self._tell(row, "thrown away", row.head)
            row.delete_instance(recursive=True)

    def history(self, key: str, before: int | None = None, count: int = PAGE) -> list[Kept[D]]:
        """At most `count` revisions, newest first, all of them older than `before` where that is given."""
        with self._reading():
            row, table = self._row(key), self._tables.Revision
            query = table.select().where(table.of == row)
            if before is not None:
                query = query.where(table.number < before)
            rows = list(query.order_by(table.number.desc()).limit(count))
            made_by = self._makers(row, [one.number for one in rows])
            return [
                Kept(one, self._or_none(row, one), one.number == row.head, made_by.get(one.number, "")) for one in rows
            ]

    def _makers(self, row: Any, numbers: list[int]) -> dict[int, str]:
        """Who made each revision, by what the log says became of the document itself."""
        table = self._tables.Event
        found = table.select(table.revision, table.person).where(
            table.kind == self.kind.name,
            table.id == row.id,
            table.revision.in_(numbers),
            table.what.in_(_MADE),
        )
        return {event.revision: event.person for event in found if event.person}

    def revision(self, key: str, number: int) -> D:
        """The document as it stood at one revision. Raises NotFoundError, UnreadableError."""
        with self._reading():
            row = self._row(key)
            return self._read(row, self._shown(row, number))

    def naming(self, text: str) -> set[str]:
        """The ids of documents that have `text` in any revision, removed ones too."""
        rows, table = self._tables.Document, self._tables.Revision
        with self._reading():
            found = rows.select(rows.id).join(table).where(table.document.contains(text), rows.kind == self.kind.name)
            return {row.id for row in found.distinct()}

    # What follows stands inside an open connection, what writes inside a transaction.

    def _rows(self, removed: bool) -> list[Any]:
        table = self._tables.Document
        query = table.select().where(table.kind == self.kind.name, table.removed_at.is_null(not removed))
        return list(query.order_by(table.id))

    def _find(self, key: str) -> Any:
        table = self._tables.Document
        return table.get_or_none(table.kind == self.kind.name, table.id == key)

    def _row(self, key: str) -> Any:
        row = self._find(key)
        if row is None:
            raise NotFoundError(self.kind.says, key, self.ids())
        return row

    def row(self, key: str) -> Any:
        """The row of a document, for what else hangs on it. Raises NotFoundError."""
        return self._row(key)

    def _taken(self, key: str, is_removed: bool) -> RefusedError:
        gone = ", removed but kept" if is_removed else ""
        message = f"found '{key}', which is the id of a {self.kind.says} that is here already{gone}."
        hint = "Give the new one another id, or open the one that is here."
        return RefusedError([Problem(code="id-taken", path="id", message=message, hint=hint)])

    def _text(self, document: D) -> str:
        """The document as it is kept. What could not be read back is refused, and never written."""
        try:
            text = document.model_dump_json()
            self.kind.model.model_validate(upgraded(json.loads(text)))
        except PydanticSerializationError as error:
            message = "found characters that are no text; take them out."
            raise RefusedError([Problem(code="not-text", path="", message=message)]) from error
        except ValidationError as error:
            raise RefusedError(problems_of(error.errors(include_url=False), Source(json.loads(text)))) from error
        return text

    def _saved(self, row: Any) -> Saved[D]:
        shown = self._shown(row, row.head)
        document = self._read(row, shown)
        return Saved[D].model_construct(
            document=document,
            revision=row.head,
            made_at=self._revision(row, row.head).made_at,
            can_undo=shown.parent > 0,
            can_redo=self._child(row) is not None,
        )

    def _try(self, row: Any) -> "Saved[D] | UnreadableError":
        try:
            return self._saved(row)
        except UnreadableError as error:
            return error

    def _read(self, row: Any, revision: Any) -> D:
        """The document of a revision, whichever version of its format it was saved in."""
        return self.read(row.id, revision.number, revision.document)

    def read(self, key: str, number: int, text: str) -> D:
        """The document whose kept text this is, brought up to date. Raises UnreadableError."""
        try:
            return self.kind.model.model_validate(upgraded(json.loads(text)))
        except ValidationError as error:
            problems = problems_of(error.errors(include_url=False), Source({}))
            raise UnreadableError(self.kind.says, key, number, f"{problems[0]}") from error
        except (ValueError, RecursionError) as error:
            raise UnreadableError(self.kind.says, key, number, "its text is damaged.") from error

    def _or_none(self, row: Any, revision: Any) -> D | None:
        try:
            return self._read(row, self._shown(row, revision.number))
        except UnreadableError:
            return None

    def _must_be_newest(self, row: Any, made_on: int, yours: D | None) -> None:
        if row.head != made_on:
            theirs = self._read(row, self._shown(row, row.head))
            raise StaleWriteError(self.kind.says, yours, theirs, made_on, row.head)

    def _revision(self, row: Any, number: int) -> Any:
        table = self._tables.Revision
        found = table.get_or_none((table.of == row) & (table.number == number))
        if found is None:
            raise NotFoundError(f"revision of the {self.kind.says} '{row.id}'", str(number))
        return found

    def _shown(self, row: Any, number: int) -> Any:
        """The revision that holds the text of revision `number`."""
        found = self._revision(row, number)
        return found if found.shows == number else self._revision(row, found.shows)

    def _child(self, row: Any) -> int | None:
        """Of the revisions made from the present one, that which was shown last."""
        table = self._tables.Revision
        made_from = (table.of == row) & (table.parent == self._shown(row, row.head).number)
        last = table.select().where(made_from).order_by(table.number.desc()).first()
        return last.shows if last else None

    def _move(self, row: Any, parent: int, text: str, beside: dict[str, int] | None, what: str) -> None:
        row.head += 1
        self._add(row, row.head, self._shown(row, parent).number, text, beside)
        row.save()
        self._tell(row, what, row.head)

    def _show(self, row: Any, number: int, what: str) -> Saved[D]:
        shown = self._revision(row, number)
        row.head += 1
        self._tables.Revision.create(
            of=row, number=row.head, parent=shown.parent, shows=number, document="", beside=shown.beside, made_at=now()
        )
        row.save()
        self._tell(row, what, row.head)
        return self._saved(row)

    def _mark(self, row: Any, removed_at: str | None, what: str) -> None:
        if (row.removed_at is None) != (removed_at is None):
            row.removed_at = removed_at
            row.save()
            self._tell(row, what, row.head)

    def _add(self, row: Any, number: int, parent: int, text: str, beside: dict[str, int] | None) -> None:
        made_with = json.dumps(beside or {}, sort_keys=True)
        self._tables.Revision.create(
            of=row, number=number, parent=parent, shows=number, document=text, beside=made_with, made_at=now()
        )

    def _tell(self, row: Any, what: str, revision: int) -> None:
        self._tables.Event.create(
            at=now(),
            person=person.get(),
            kind=self.kind.name,
            id=row.id,
            what=what,
            revision=revision,
            words=self._name(row),
        )

    def _name(self, row: Any) -> str:
        """What a document is called, for who reads the log."""
        try:
            return str(json.loads(self._shown(row, row.head).document)["name"])
        except (ValueError, KeyError, TypeError, NotFoundError):
            return ""


def now() -> str:
    """The moment, as it stands in the tables."""
    return datetime.now(UTC).isoformat(timespec="seconds")
