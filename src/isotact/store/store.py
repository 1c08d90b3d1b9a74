"""One database file: rigs and kits on their shelves, and the ticks on the run sheets."""

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import peewee
from pydantic import BaseModel

from isotact.core.model.kit import Kit
from isotact.core.model.rig import Rig
from isotact.core.model.words import free_id
from isotact.store.migrations import migrate
from isotact.store.shelf import Saved, Shelf, now
from isotact.store.tables import KitRevision, KitRow, Revision, RigRow, Tick, database

PRAGMAS = {"journal_mode": "wal", "foreign_keys": 1, "synchronous": "full", "busy_timeout": 5000}
"""Full sync: what was acknowledged survives a kill and a power cut."""


class SavedRig(Saved[Rig]):
    """A rig as it stands now."""


class SavedKit(Saved[Kit]):
    """A kit as it stands now."""


class Removed(BaseModel):
    """A rig in the bin, and when it was put there."""

    removed_at: str
    document: Rig


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
        self._rigs = Shelf("rig", Rig, RigRow, Revision)
        self._kits = Shelf("kit", Kit, KitRow, KitRevision)
        with self.open():
            migrate(self._database)

    @contextmanager
    def open(self) -> Iterator[None]:
        """A connection for the time of one request."""
        database.initialize(self._database)
        with self._database.connection_context():
            yield

    @contextmanager
    def _writing(self) -> Iterator[None]:
        with self.open(), self._database.atomic("IMMEDIATE"):
            yield

    def close(self) -> None:
        self._database.close()

    def rigs(self) -> list[SavedRig]:
        """Every rig as it stands, by id."""
        with self.open():
            return [_rig(saved) for saved in self._rigs.all()]

    def rig(self, key: str) -> SavedRig:
        """One rig as it stands. Raises NotFoundError."""
        with self.open():
            return _rig(self._rigs.saved(self._rigs.row(key)))

    def create(self, rig: Rig) -> SavedRig:
        """A new rig at its first revision. Raises RefusedError when the id is taken."""
        with self._writing():
            return _rig(self._rigs.create(rig))

    def create_several(self, rigs: list[Rig], kit: Kit | None = None) -> list[SavedRig]:
        """Several new rigs, and a kit, all of them or none."""
        with self._writing():
            if kit is not None:
                self._kits.create(kit)
            return [_rig(self._rigs.create(rig)) for rig in rigs]

    def save(self, key: str, rig: Rig, made_on: int) -> SavedRig:
        """A new revision made from `made_on`. Raises StaleWriteError when that is no longer the newest shown."""
        with self._writing():
            return _rig(self._rigs.save(key, rig, made_on))

    def save_several(self, edits: list[tuple[Rig, int]]) -> list[SavedRig]:
        """New revisions of several rigs, each with the one it was made on: all of them or none. Raises as `save`."""
        with self._writing():
            return [_rig(self._rigs.save(rig.id, rig, made_on)) for rig, made_on in edits]

    def undo(self, key: str, made_on: int) -> SavedRig:
        """Show the revision that the present one was made from. At the first it stays."""
        with self._writing():
            return _rig(self._rigs.undo(key, made_on))

    def redo(self, key: str, made_on: int) -> SavedRig:
        """Show the newest revision made from the present one. Without such it stays."""
        with self._writing():
            return _rig(self._rigs.redo(key, made_on))

    def remove(self, key: str) -> None:
        """Take a rig off the list. Its history is kept, and it can be brought back. Raises NotFoundError."""
        with self._writing():
            self._rigs.remove(key)

    def restore(self, key: str) -> SavedRig:
        """Bring a removed rig back. Raises NotFoundError."""
        with self._writing():
            return _rig(self._rigs.restore(key))

    def bin(self) -> list[Removed]:
        """Every removed rig, the last one first."""
        with self.open():
            return [Removed(removed_at=at, document=saved.document) for at, saved in self._rigs.removed()]

    def throw_away(self, key: str) -> None:
        """Delete a rig from the bin, with its history and ticks. Raises NotFoundError, RefusedError."""
        with self._writing():
            self._rigs.throw_away(key)

    def create_named(self, rig: Rig) -> SavedRig:
        """A new rig under its id, or under the next free one like it: nobody who names a rig has to find an id."""
        with self._writing():
            return _rig(self._rigs.create(rig.model_copy(update={"id": free_id(rig.id, set(self._rigs.ids()))})))

    def rigs_that_ask_for(self, function: str) -> list[str]:
        """The ids of rigs that promise a function in any revision, removed ones too."""
        asked = Revision.document.contains(f'"function":"{function}"')
        with self.open():
            return sorted({row.of.id for row in Revision.select(Revision.of).where(asked)})

    def taken_ids(self) -> set[str]:
        """The ids of all rigs and kits, removed ones too."""
        with self.open():
            return {*self._rigs.ids(), *self._kits.ids()}

    def history(self, key: str) -> list[RevisionLine]:
        """Every revision, newest first."""
        with self.open():
            return [
                RevisionLine(
                    number=row.number,
                    parent=row.parent,
                    made_at=row.made_at,
                    is_head=is_head,
                    promises=len(rig.promises),
                    devices=len(rig.devices),
                )
                for row, rig, is_head in self._rigs.history(key)
            ]

    def kits(self) -> list[SavedKit]:
        """Every kit as it stands, by id."""
        with self.open():
            return [_kit(saved) for saved in self._kits.all()]

    def kit(self, key: str) -> SavedKit:
        """One kit as it stands. Raises NotFoundError."""
        with self.open():
            return _kit(self._kits.saved(self._kits.row(key)))

    def create_kit(self, kit: Kit) -> SavedKit:
        """A new kit at its first revision. Raises RefusedError when the id is taken."""
        with self._writing():
            return _kit(self._kits.create(kit))

    def save_kit(self, key: str, kit: Kit, made_on: int) -> SavedKit:
        """A new revision made from `made_on`. Raises StaleWriteError when that is no longer the newest shown."""
        with self._writing():
            return _kit(self._kits.save(key, kit, made_on))

    def undo_kit(self, key: str, made_on: int) -> SavedKit:
        """Show the revision that the present one was made from."""
        with self._writing():
            return _kit(self._kits.undo(key, made_on))

    def redo_kit(self, key: str, made_on: int) -> SavedKit:
        """Show the newest revision made from the present one."""
        with self._writing():
            return _kit(self._kits.redo(key, made_on))

    def ticks(self, key: str) -> dict[str, str]:
        """Step -> when it was ticked."""
        with self.open():
            return {tick.step: tick.ticked_at for tick in Tick.select().where(Tick.rig == self._rigs.row(key))}

    def tick(self, key: str, step: str, done: bool) -> dict[str, str]:
        """Tick a step or take the tick off; returns all ticks."""
        with self._writing():
            row = self._rigs.row(key)
            if done:
                Tick.insert(rig=row, step=step, ticked_at=now()).on_conflict_ignore().execute()
            else:
                Tick.delete().where((Tick.rig == row) & (Tick.step == step)).execute()
        return self.ticks(key)

    def clear_ticks(self, key: str) -> None:
        """Take every tick off: a new day."""
        with self.open():
            Tick.delete().where(Tick.rig == self._rigs.row(key)).execute()


def _rig(saved: Saved[Rig]) -> SavedRig:
    return SavedRig.model_construct(**dict(saved))


def _kit(saved: Saved[Kit]) -> SavedKit:
    return SavedKit.model_construct(**dict(saved))
