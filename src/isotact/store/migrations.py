"""Changes of the schema: one named function each, run and recorded in one transaction."""

from collections.abc import Callable
from datetime import UTC, datetime

import peewee

from isotact.store.tables import KitRevision, KitRow, Migration, Revision, RigRow, Tick


def rigs_and_revisions(database: peewee.Database) -> None:
    """Version 1: rigs with append-only revisions."""
    database.create_tables([RigRow, Revision])


def ticks(database: peewee.Database) -> None:
    """Version 2: ticks on the run sheet."""
    database.create_tables([Tick])


def kits(database: peewee.Database) -> None:
    """Version 3: kits with append-only revisions."""
    database.create_tables([KitRow, KitRevision])


def removed_rigs_come_back(database: peewee.Database) -> None:
    """Version 4: a rig that is removed keeps its history. A database made since version 4 has the column already."""
    if "removed_at" not in {column.name for column in database.get_columns("rig")}:
        database.execute_sql("ALTER TABLE rig ADD COLUMN removed_at TEXT")  # type: ignore[no-untyped-call]


MIGRATIONS: tuple[Callable[[peewee.Database], None], ...] = (
    rigs_and_revisions,
    ticks,
    kits,
    removed_rigs_come_back,
)


def migrate(database: peewee.Database) -> list[str]:
    """Run what this database has not had yet; returns the names that ran."""
    database.create_tables([Migration])
    done = {row.name for row in Migration.select()}
    ran = []
    for change in MIGRATIONS:
        if change.__name__ not in done:
            with database.atomic():
                change(database)
                Migration.create(name=change.__name__, done_at=datetime.now(UTC).isoformat(timespec="seconds"))
            ran.append(change.__name__)
    return ran
