"""One database file: documents of every kind on their shelves, and the log of what became of all."""

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any, TypeVar
from urllib.parse import quote

import peewee
from pydantic import BaseModel

from isotact.core.model.kit import Kit
from isotact.core.model.rig import Rig
from isotact.core.model.words import free_id
from isotact.store.benches import Benches
from isotact.store.kinds import KINDS, KIT, OWN, RIG, Kind
from isotact.store.log import Log
from isotact.store.log_book import Book, Event
from isotact.store.photos import Photos
from isotact.store.recovery import prepare
from isotact.store.revisions import Saved, Unreadable
from isotact.store.shelf import Shelf
from isotact.store.sign_ins import SignIns
from isotact.store.storage_errors import in_words
from isotact.store.tables import Tables

D = TypeVar("D", bound=BaseModel)
PRAGMAS = {"foreign_keys": 1, "synchronous": "full", "busy_timeout": 5000}
"""Full sync: what was acknowledged survives a kill and a power cut."""


class Store:
    """One database file. All writes are transactions; nothing is ever overwritten.

    `notices`: what had to be done to open it, in sentences for whoever opens it. `is_ready`: another has it open, and
    has done all that.
    """

    def __init__(self, file: Path, is_ready: bool = False) -> None:
        self.file = file.absolute()
        self.notices = [] if is_ready else prepare(self.file)
        # A file that has gone must not be made anew, empty, behind everybody's back.
        address = f"file:{quote(str(self.file))}?mode=rw"
        self._database = peewee.SqliteDatabase(address, pragmas=PRAGMAS, uri=True)
        self.tables = Tables(self._database)
        self._shelves = {kind.name: self._shelf(kind) for kind in KINDS}
        self.log = Log(self.tables, self[RIG], self.reading, self.writing)
        self.book = Book(self.tables, self.reading)
        self.sign_ins = SignIns(self.tables, self.reading, self.writing)
        self.benches = Benches(self.tables, self.reading, self.writing)
        self.photos = Photos(self.file.parent / "photos")

    def _shelf(self, kind: Kind[Any]) -> Shelf[Any]:
        return Shelf(kind, self.tables, self.reading, self.writing)

    def __getitem__(self, kind: Kind[D]) -> Shelf[D]:
        """The shelf of a kind of document."""
        return self._shelves[kind.name]

    @contextmanager
    def reading(self) -> Iterator[None]:
        """A connection for as long as this lasts. Raises StorageError."""
        with in_words(self.file):
            if not self._database.is_closed():
                yield
                return
            with self._database.connection_context():
                yield

    @contextmanager
    def writing(self) -> Iterator[None]:
        """A transaction: all that is written meanwhile, or nothing. Raises StorageError."""
        with self.reading(), self._database.atomic("IMMEDIATE"):
            yield

    def close(self) -> None:
        self._database.close()

    def create_several(self, rigs: list[Rig], kit: Kit | None = None) -> list[Saved[Rig]]:
        """Several new rigs, and a kit, all of them or none."""
        with self.writing():
            if kit is not None:
                self[KIT].create(kit)
            return [self[RIG].create(rig) for rig in rigs]

    def create_named(self, rig: Rig) -> Saved[Rig]:
        """A new rig under its id, or under the next free one like it: nobody who names a rig has to find an id."""
        with self.writing():
            return self[RIG].create(rig.model_copy(update={"id": free_id(rig.id, self[RIG].ids())}))

    def taken_ids(self) -> set[str]:
        """The ids of all rigs and kits, removed ones too."""
        return self[RIG].ids() | self[KIT].ids()

    def unreadable(self) -> list[Unreadable]:
        """Every document whose newest revision cannot be read."""
        return [one for kind in KINDS for one in self[kind].unreadable()]

    def sequence(self) -> int:
        """The number of the last event; 0 where nothing has happened yet."""
        return self._last(None)

    def own_sequence(self) -> int:
        """The number of the last event that changed one's own catalogue."""
        return self._last([*(kind.name for kind in OWN), "all"])

    def _last(self, kinds: list[str] | None) -> int:
        table = self.tables.Event
        with self.reading():
            query = table.select(peewee.fn.MAX(table.sequence))
            return (query if kinds is None else query.where(table.kind.in_(kinds))).scalar() or 0

    def events(self, after: int, count: int = 500) -> list[Event]:
        """At most `count` events after the one with this number, in their order."""
        table = self.tables.Event
        with self.reading():
            rows = table.select().where(table.sequence > after).order_by(table.sequence).limit(count)
            return [Event.model_validate(row, from_attributes=True) for row in rows]
