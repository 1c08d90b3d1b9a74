"""Rigs as append-only revisions: save, undo, redo, history; and the ticks on their run sheets."""

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path

import peewee
from pydantic import BaseModel

from isotact.core.model.problems import NotFoundError, Problem, RefusedError, StaleWriteError
from isotact.core.model.rig import Rig
from isotact.store.migrations import migrate
from isotact.store.tables import Revision, RigRow, Tick, database

PRAGMAS = {"journal_mode": "wal", "foreign_keys": 1, "synchronous": "full", "busy_timeout": 5000}
"""Full sync: what was acknowledged survives a kill and a power cut."""


class SavedRig(BaseModel):
    """A rig as it stands now, and where it stands in its history."""

    document: Rig
    revision: int
    revisions: int
    made_at: str
    can_undo: bool
    can_redo: bool


class RevisionLine(BaseModel):
    """One line of a rig's history."""

    number: int
    parent: int
    made_at: str
    is_head: bool
    promises: int
    devices: int


class Store:
    """One database file. All writes are transactions; nothing is ever overwritten."""

    def __init__(self, file: Path) -> None:
        file.parent.mkdir(parents=True, exist_ok=True)
        self._database = peewee.SqliteDatabase(str(file), pragmas=PRAGMAS)
        with self.open():
            migrate(self._database)

    @contextmanager
    def open(self) -> Iterator[None]:
        """A connection for the time of one request."""
        database.initialize(self._database)
        with self._database.connection_context():
            yield

    def close(self) -> None:
        self._database.close()

    def rigs(self) -> list[SavedRig]:
        """Every rig as it stands, by id."""
        with self.open():
            return [self._saved(row) for row in RigRow.select().order_by(RigRow.id)]

    def rig(self, key: str) -> SavedRig:
        """One rig as it stands. Raises NotFoundError."""
        with self.open():
            return self._saved(self._row(key))

    def create(self, rig: Rig) -> SavedRig:
        """A new rig at its first revision. Raises RefusedError when the id is taken."""
        with self.open(), self._database.atomic("IMMEDIATE"):
            if RigRow.get_or_none(RigRow.id == rig.id) is not None:
                problem = Problem(
                    code="id-taken",
                    path="id",
                    message=f"found '{rig.id}', which is the id of a rig that is here already.",
                    hint="Give the new one another id, or open the one that is here.",
                )
                raise RefusedError([problem])
            row = RigRow.create(id=rig.id, head=1)
            _add(row, 1, 0, rig)
            return self._saved(row)

    def save(self, key: str, rig: Rig, made_on: int) -> SavedRig:
        """A new revision made from `made_on`. Raises StaleWriteError when that is no longer the newest shown."""
        if rig.id != key:
            message = f"found '{rig.id}'; the rig being saved is '{key}'."
            raise RefusedError([Problem(code="other-id", path="id", message=message)])
        with self.open(), self._database.atomic("IMMEDIATE"):
            row = self._row(key)
            self._must_be_head(row, made_on, rig)
            number = 1 + (Revision.select(peewee.fn.MAX(Revision.number)).where(Revision.rig == row).scalar() or 0)
            _add(row, number, row.head, rig)
            return self._move(row, number)

    def undo(self, key: str, made_on: int) -> SavedRig:
        """Show the revision that the present one was made from. At the first it stays."""
        with self.open(), self._database.atomic("IMMEDIATE"):
            row = self._row(key)
            self._must_be_head(row, made_on, None)
            parent = _revision(row, row.head).parent
            return self._move(row, parent or row.head)

    def redo(self, key: str, made_on: int) -> SavedRig:
        """Show the newest revision made from the present one. Without such it stays."""
        with self.open(), self._database.atomic("IMMEDIATE"):
            row = self._row(key)
            self._must_be_head(row, made_on, None)
            return self._move(row, _newest_child(row) or row.head)

    def history(self, key: str) -> list[RevisionLine]:
        """Every revision, newest first."""
        with self.open():
            row = self._row(key)
            lines = []
            for revision in Revision.select().where(Revision.rig == row).order_by(Revision.number.desc()):
                rig = Rig.model_validate_json(revision.document)
                lines.append(
                    RevisionLine(
                        number=revision.number,
                        parent=revision.parent,
                        made_at=revision.made_at,
                        is_head=revision.number == row.head,
                        promises=len(rig.promises),
                        devices=len(rig.devices),
                    )
                )
            return lines

    def ticks(self, key: str) -> dict[str, str]:
        """Step -> when it was ticked."""
        with self.open():
            return {tick.step: tick.ticked_at for tick in Tick.select().where(Tick.rig == self._row(key))}

    def tick(self, key: str, step: str, done: bool) -> dict[str, str]:
        """Tick a step or take the tick off; returns all ticks."""
        with self.open(), self._database.atomic("IMMEDIATE"):
            row = self._row(key)
            if done:
                Tick.insert(rig=row, step=step, ticked_at=_now()).on_conflict_ignore().execute()
            else:
                Tick.delete().where((Tick.rig == row) & (Tick.step == step)).execute()
        return self.ticks(key)

    def clear_ticks(self, key: str) -> None:
        """Take every tick off: a new day."""
        with self.open():
            Tick.delete().where(Tick.rig == self._row(key)).execute()

    def _row(self, key: str) -> RigRow:
        row = RigRow.get_or_none(RigRow.id == key)
        if row is None:
            raise NotFoundError("rig", key, [other.id for other in RigRow.select()])
        return row

    def _must_be_head(self, row: RigRow, made_on: int, yours: Rig | None) -> None:
        if row.head != made_on:
            theirs = self._saved(row)
            raise StaleWriteError(yours, theirs.document, made_on, row.head)

    def _move(self, row: RigRow, number: int) -> SavedRig:
        row.head = number
        row.save()
        return self._saved(row)

    def _saved(self, row: RigRow) -> SavedRig:
        revision = _revision(row, row.head)
        return SavedRig(
            document=Rig.model_validate_json(revision.document),
            revision=revision.number,
            revisions=Revision.select().where(Revision.rig == row).count(),
            made_at=revision.made_at,
            can_undo=revision.parent > 0,
            can_redo=_newest_child(row) is not None,
        )


def _revision(row: RigRow, number: int) -> Revision:
    return Revision.get((Revision.rig == row) & (Revision.number == number))


def _newest_child(row: RigRow) -> int | None:
    query = Revision.select(peewee.fn.MAX(Revision.number))
    newest: int | None = query.where((Revision.rig == row) & (Revision.parent == row.head)).scalar()
    return newest


def _add(row: RigRow, number: int, parent: int, rig: Rig) -> None:
    Revision.create(rig=row, number=number, parent=parent, document=rig.model_dump_json(), made_at=_now())


def _now() -> str:
    return datetime.now(UTC).isoformat(timespec="seconds")
