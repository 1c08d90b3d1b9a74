"""Documents of one kind as append-only revisions: save, undo, redo, history."""

import json
from datetime import UTC, datetime
from typing import Any, Generic, TypeVar

import peewee
from pydantic import BaseModel

from isotact.core.model.problems import NotFoundError, Problem, RefusedError, StaleWriteError
from isotact.core.model.upgrading import upgraded

Document = TypeVar("Document", bound=BaseModel)


class Saved(BaseModel, Generic[Document]):
    """A document as it stands now, and where it stands in its history."""

    document: Document
    revision: int
    revisions: int
    made_at: str
    can_undo: bool
    can_redo: bool


class Shelf(Generic[Document]):
    """All documents of one kind. Every call stands inside an open connection; writes inside a transaction."""

    def __init__(
        self, what: str, model: type[Document], rows: type[peewee.Model], revisions: type[peewee.Model]
    ) -> None:
        self.what = what
        self._model: Any = model
        self._rows: Any = rows
        self._revisions: Any = revisions

    def all(self) -> list[Saved[Document]]:
        """Every document that was not removed, by id."""
        rows = self._rows.select().where(self._rows.removed_at.is_null()).order_by(self._rows.id)
        return [self.saved(row) for row in rows]

    def removed(self) -> list[tuple[str, Saved[Document]]]:
        """Every document that was removed, the last one first, with when that was."""
        rows = self._rows.select().where(self._rows.removed_at.is_null(False)).order_by(self._rows.removed_at.desc())
        return [(row.removed_at, self.saved(row)) for row in rows]

    def throw_away(self, key: str) -> None:
        """Delete a removed document with its whole history. Raises RefusedError for one that was not removed."""
        row = self.row(key)
        if row.removed_at is None:
            problem = Problem(
                code="not-removed",
                path="id",
                message=f"found '{key}' on the list.",
                hint="Only what lies in the bin can be thrown away for good: remove it first.",
            )
            raise RefusedError([problem])
        row.delete_instance(recursive=True)

    def ids(self) -> list[str]:
        """The ids of all documents, removed ones too."""
        return [row.id for row in self._rows.select()]

    def remove(self, key: str) -> None:
        """Take a document off the list; its history is kept."""
        row = self.row(key)
        row.removed_at = now()
        row.save()

    def restore(self, key: str) -> Saved[Document]:
        """Bring a removed document back as it was."""
        row = self.row(key)
        row.removed_at = None
        row.save()
        return self.saved(row)

    def create(self, document: Any) -> Saved[Document]:
        """A new document at its first revision. Raises RefusedError when the id is taken."""
        here = self._rows.get_or_none(self._rows.id == document.id)
        if here is not None:
            gone = ", removed but kept" if here.removed_at else ""
            problem = Problem(
                code="id-taken",
                path="id",
                message=f"found '{document.id}', which is the id of a {self.what} that is here already{gone}.",
                hint="Give the new one another id, or open the one that is here.",
            )
            raise RefusedError([problem])
        row = self._rows.create(id=document.id, head=1)
        self._add(row, 1, 0, document)
        return self.saved(row)

    def save(self, key: str, document: Any, made_on: int) -> Saved[Document]:
        """A new revision made from `made_on`. Raises StaleWriteError when that is no longer the newest shown."""
        if document.id != key:
            message = f"found '{document.id}'; the {self.what} being saved is '{key}'."
            raise RefusedError([Problem(code="other-id", path="id", message=message)])
        row = self.row(key)
        self._must_be_head(row, made_on, document)
        table = self._revisions
        number = 1 + (table.select(peewee.fn.MAX(table.number)).where(table.of == row).scalar() or 0)
        self._add(row, number, row.head, document)
        return self._move(row, number)

    def undo(self, key: str, made_on: int) -> Saved[Document]:
        """Show the revision that the present one was made from. At the first it stays."""
        row = self.row(key)
        self._must_be_head(row, made_on, None)
        return self._move(row, self._revision(row, row.head).parent or row.head)

    def redo(self, key: str, made_on: int) -> Saved[Document]:
        """Show the newest revision made from the present one. Without such it stays."""
        row = self.row(key)
        self._must_be_head(row, made_on, None)
        return self._move(row, self._newest_child(row) or row.head)

    def history(self, key: str) -> list[tuple[Any, Document, bool]]:
        """Every revision, newest first, with its document and whether it is the one shown."""
        row, table = self.row(key), self._revisions
        found = table.select().where(table.of == row).order_by(table.number.desc())
        return [(one, self._read(one), one.number == row.head) for one in found]

    def row(self, key: str) -> Any:
        row = self._rows.get_or_none(self._rows.id == key)
        if row is None:
            raise NotFoundError(self.what, key, [other.id for other in self._rows.select()])
        return row

    def saved(self, row: Any) -> Saved[Document]:
        revision = self._revision(row, row.head)
        return Saved(
            document=self._read(revision),
            revision=revision.number,
            revisions=self._revisions.select().where(self._revisions.of == row).count(),
            made_at=revision.made_at,
            can_undo=revision.parent > 0,
            can_redo=self._newest_child(row) is not None,
        )

    def _read(self, revision: Any) -> Any:
        """The document of a revision, whichever version of its format it was saved in."""
        return self._model.model_validate(upgraded(json.loads(revision.document)))

    def _must_be_head(self, row: Any, made_on: int, yours: Any) -> None:
        if row.head != made_on:
            raise StaleWriteError(self.what, yours, self.saved(row).document, made_on, row.head)

    def _move(self, row: Any, number: int) -> Saved[Document]:
        row.head = number
        row.save()
        return self.saved(row)

    def _revision(self, row: Any, number: int) -> Any:
        return self._revisions.get((self._revisions.of == row) & (self._revisions.number == number))

    def _newest_child(self, row: Any) -> int | None:
        table = self._revisions
        query = table.select(peewee.fn.MAX(table.number))
        newest: int | None = query.where((table.of == row) & (table.parent == row.head)).scalar()
        return newest

    def _add(self, row: Any, number: int, parent: int, document: Any) -> None:
        self._revisions.create(of=row, number=number, parent=parent, document=document.model_dump_json(), made_at=now())


def now() -> str:
    """The moment, as it stands in the tables."""
    return datetime.now(UTC).isoformat(timespec="seconds")
