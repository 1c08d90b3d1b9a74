"""Opening a database: is it ours, is it whole, is it of today; and saving what can be read of one that is damaged."""

import json
import os
import sqlite3
from collections.abc import Callable, Iterator
from contextlib import closing, suppress
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import peewee

from isotact.core.model.problems import IsotactError
from isotact.store.migrations import MIGRATIONS, migrate, search_the_log, the_log_is_read, to_come
from isotact.store.storage_errors import in_words

BACKUPS = "backups"
KEPT_BACKUPS = 20
"""So many backups that were made by themselves are kept; the oldest goes first."""


SEARCH = "event_text"
SEARCHED_FROM = MIGRATIONS.index(the_log_is_read)
MOST_TRIES = 20_000
"""So many stretches of a damaged table are tried."""


CHECKED_AT_ONCE = 30_000_000
"""A database of so many bytes is looked through in a tenth of a second, before anybody waits for its first page."""


class NewerError(IsotactError):
    """The database was written by a newer Isotact. It is not touched."""


def prepare(file: Path) -> list[str]:
    """Make the database at `file` ready: whole, of today's schema, in WAL. Returns what had to be done, in sentences.

    Raises NewerError for one that a newer Isotact wrote, and StorageError where the disk does not do what it should.
    """
    with in_words(file):
        file.parent.mkdir(parents=True, exist_ok=True)
        notices = []
        if file.exists() and file.stat().st_size:
            must_not_be_newer(file)
            is_small, known = file.stat().st_size <= CHECKED_AT_ONCE, _known_damaged(file)
            if (is_small or known.exists() or not _opens(file)) and not _is_whole(file):
                notices.append(_salvage(file))
            known.unlink(missing_ok=True)
        notices += _brought_up_to_date(file)
    return notices


def check_later(file: Path, tell: Callable[[str], None]) -> None:
    """Look a large database through while it is worked with, and `tell` what is to be done if it is damaged.

    A smaller one was looked through when it was opened. What is found now is mended at the next start.
    """
    with suppress(OSError, sqlite3.OperationalError):
        if file.stat().st_size <= CHECKED_AT_ONCE or _is_whole(file):
            return
        _known_damaged(file).touch()
        tell(
            "The database is damaged. Make a backup, stop Isotact and start it again: what can be read is saved then, "
            "and the damaged file is set aside."
        )


def _known_damaged(file: Path) -> Path:
    """The note beside a database that it was found to be damaged."""
    return file.with_name(f"{file.name}.damaged")


def must_not_be_newer(file: Path) -> None:
    """Raise NewerError for a database that a newer Isotact wrote. Nothing is written, neither to it nor to its log."""
    try:
        with closing(sqlite3.connect(f"{file.absolute().as_uri()}?mode=ro", uri=True)) as raw:
            (version,) = raw.execute("PRAGMA user_version").fetchone()
            names = {name for (name,) in raw.execute("SELECT name FROM migration")} if version == 0 else set()
    except sqlite3.DatabaseError:
        return  # damaged, or no table yet: that is found out next
    strange = names - {change.__name__ for change in MIGRATIONS}
    if version > len(MIGRATIONS) or strange:
        raise NewerError(
            f"{file} was written by a newer Isotact: its schema is {version}, this one knows {len(MIGRATIONS)}. "
            "Start the newer one, or give another folder with --data. Nothing was changed."
        )


def _opens(file: Path) -> bool:
    """Whether it is a database at all."""
    try:
        with closing(sqlite3.connect(file)) as raw:
            raw.execute("SELECT COUNT(*) FROM sqlite_master").fetchone()
    except sqlite3.OperationalError:
        raise
    except sqlite3.DatabaseError:
        return False
    return True


def _is_whole(file: Path) -> bool:
    try:
        with closing(sqlite3.connect(file)) as raw:
            raw.execute("PRAGMA busy_timeout = 5000")
            return bool(raw.execute("PRAGMA integrity_check(1)").fetchone() == ("ok",))
    except sqlite3.OperationalError:
        raise
    except sqlite3.DatabaseError:
        return False


def _brought_up_to_date(file: Path) -> list[str]:
    database = peewee.SqliteDatabase(
        str(file), pragmas={"journal_mode": "wal", "foreign_keys": 0, "busy_timeout": 5000}
    )
    with database.connection_context():
        pending = to_come(database)
        if not pending:
            return []
        before = None
        if len(pending) < len(MIGRATIONS):
            before = backup_beside(file, f"before-version-{len(MIGRATIONS)}")
        migrate(database)
        return [f"The database was brought up to date. As it was before, it is kept in {before}."] if before else []


def backup_beside(file: Path, why: str) -> Path:
    """A copy of the database in the folder of backups, whole even while it is written to."""
    folder = file.parent / BACKUPS
    folder.mkdir(exist_ok=True)
    target = _free(folder / f"{file.stem}-{_stamp()}-{why}.sqlite")
    copy(file, target)
    for old in sorted(folder.glob(f"{file.stem}-*.sqlite"))[:-KEPT_BACKUPS]:
        old.unlink()
    return target


def copy(file: Path, target: Path) -> None:
    """Copy a database into a new file; the file appears whole or not at all."""
    new = target.with_name(f".{target.name}.{os.getpid()}.new")
    try:
        with closing(sqlite3.connect(file)) as raw, closing(sqlite3.connect(new)) as other:
            raw.backup(other)
            other.execute("PRAGMA journal_mode = delete")
        with new.open("rb") as written:
            os.fsync(written.fileno())
        new.replace(target)
    finally:
        new.unlink(missing_ok=True)


def _salvage(file: Path) -> str:
    """Set a damaged database aside and save every row of it that can be read. Returns what was saved, in words."""
    aside = _free(file.with_name(f"{file.stem}.damaged-{_stamp()}.sqlite"))
    for tail in ("", "-wal", "-shm"):
        part = file.with_name(file.name + tail)
        if part.exists():
            part.replace(aside.with_name(aside.name + tail))
    saved, lost = 0, 0
    with closing(sqlite3.connect(aside)) as damaged, closing(sqlite3.connect(file)) as new:
        for table, _ in _schema(damaged, new):
            for row in _rows(damaged, table):
                if row is None:
                    lost += 1
                else:
                    marks = ", ".join("?" * len(row))
                    saved += new.execute(f"INSERT OR IGNORE INTO {table} VALUES ({marks})", row).rowcount
        _tie_up(new)
        if new.execute("PRAGMA user_version").fetchone()[0] > SEARCHED_FROM and _has(new, "event"):
            search_the_log(new.execute)
        new.commit()
    newest = max((file.parent / BACKUPS).glob("*.sqlite"), default=None)
    also = f" The newest backup is {newest}: 'isotact restore' takes it." if newest else ""
    return (
        f"The database was damaged. It is set aside as {aside}. {saved} rows of it were saved"
        f"{f', {lost} pages or rows could not be read' if lost else ''}.{also} Look through your rigs before you go on."
    )


def _schema(damaged: sqlite3.Connection, new: sqlite3.Connection) -> list[tuple[str, str]]:
    """Make the damaged file's tables in the new one; those whose description can still be read."""
    try:
        found = damaged.execute("SELECT type, name, sql FROM sqlite_master WHERE sql IS NOT NULL").fetchall()
        (version,) = damaged.execute("PRAGMA user_version").fetchone()
    except sqlite3.DatabaseError:
        return []
    # The index over the log's words holds nothing of its own: it is made anew when all is saved.
    ours = [(kind, name, sql) for kind, name, sql in found if not name.startswith(("sqlite_", SEARCH))]
    tables = [(name, sql) for kind, name, sql in ours if kind == "table"]
    for _, sql in tables:
        new.execute(sql)
    for kind, _, sql in ours:
        if kind == "index":
            new.execute(sql)
    new.execute(f"PRAGMA user_version = {int(version)}")
    return tables


def _rows(damaged: sqlite3.Connection, table: str) -> Iterator[tuple[Any, ...] | None]:
    """Every row of a table that can be read, by ever smaller stretches around what cannot; None for what is lost."""
    try:
        low, high = damaged.execute(f"SELECT MIN(rowid), MAX(rowid) FROM {table}").fetchone()
    except sqlite3.DatabaseError:
        low, high = 1, 1 << 20
    stretches = [(low, high)] if low is not None else []
    for _ in range(MOST_TRIES):
        if not stretches:
            return
        start, end = stretches.pop()
        try:
            found = damaged.execute(f"SELECT * FROM {table} WHERE rowid BETWEEN ? AND ?", (start, end)).fetchall()
        except sqlite3.DatabaseError:
            if start == end:
                yield None
            else:
                middle = (start + end) // 2
                stretches += [(middle + 1, end), (start, middle)]
            continue
        yield from found


def _tie_up(new: sqlite3.Connection) -> None:
    """Let go of what hangs on rows that are lost, and show the newest revision that is left."""
    tables = {name for (name,) in new.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
    if "document" not in tables:
        return
    _name_again(new)
    known = "SELECT document.key FROM document"
    new.execute(f"DELETE FROM revision WHERE document_key NOT IN ({known})")
    if "tick" in tables:
        new.execute(f"DELETE FROM tick WHERE rig_key NOT IN ({known})")
    new.execute(
        "DELETE FROM revision WHERE shows <> number AND NOT EXISTS (SELECT 1 FROM revision AS other "
        "WHERE other.document_key = revision.document_key AND other.number = revision.shows)"
    )
    left = "SELECT MAX(number) FROM revision WHERE document_key = document.key"
    new.execute(f"DELETE FROM document WHERE ({left}) IS NULL")
    new.execute(f"UPDATE document SET head = ({left})")


def _has(new: sqlite3.Connection, table: str) -> bool:
    return bool(new.execute("SELECT 1 FROM sqlite_master WHERE type = 'table' AND name = ?", (table,)).fetchone())


def _name_again(new: sqlite3.Connection) -> None:
    """Give revisions whose document's row is lost a row again: their text says what they are."""
    orphans = "SELECT document_key, document FROM revision WHERE document_key NOT IN (SELECT key FROM document)"
    for key, text in new.execute(f"{orphans} AND document <> '' ORDER BY number").fetchall():
        try:
            data = json.loads(text)
            kind, name = str(data["format"]).removeprefix("isotact/"), str(data["id"])
        except (ValueError, KeyError, TypeError):
            continue
        values = (key, kind, name)
        new.execute("INSERT OR IGNORE INTO document (key, kind, id, head) VALUES (?, ?, ?, 1)", values)


def _free(file: Path) -> Path:
    """`file`, or the like with a number where that is there already."""
    found, number = file, 2
    while found.exists():
        found, number = file.with_name(f"{file.stem}-{number}{file.suffix}"), number + 1
    return found


def _stamp() -> str:
    return datetime.now(UTC).strftime("%Y%m%dT%H%M%S")
