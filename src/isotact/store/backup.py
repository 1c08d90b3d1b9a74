"""Everything at once, while it runs: backup and restore as a file, export and import as a folder of open formats.

An export holds `isotact.json` (what it is), a YAML document for each thing as it stands, for people and other programs,
`history.jsonl` with every row, for the same state again, and the photos. A YAML that was changed by hand since comes in
as the next revision of its document. A backup is one file: it has the photos in a table of its own.
"""

import hashlib
import json
import os
import shutil
import sqlite3
import tempfile
from collections.abc import Iterable, Iterator
from contextlib import closing
from pathlib import Path
from typing import Any

import peewee
from pydantic import TypeAdapter

from isotact.catalogue import load_text, read_document
from isotact.catalogue.packs import as_yaml
from isotact.core.model.problems import IsotactError, Problem, RefusedError
from isotact.core.model.vocabulary import also_known
from isotact.store.kinds import KINDS
from isotact.store.migrations import MIGRATIONS
from isotact.store.own_catalogue import read_words
from isotact.store.recovery import backup_beside, copy, must_not_be_newer
from isotact.store.revisions import UnreadableError
from isotact.store.shelf import now
from isotact.store.storage_errors import in_words
from isotact.store.store import Store

FORMAT = "isotact/export"
TABLES = ("document", "revision", "event", "taken_in")
STAYS = ("sign_in", "bench", "bench_move")
"""Who joined, and what is tried at benches, is of this laptop and day: what comes from elsewhere brings neither."""
PHOTOS, PHOTOS_KEPT = "photos", "photo_kept"
MANIFEST = "backup_holds"
"""In a backup: of each table how many rows it has, and a digest over them."""
MOST_SEQUENCE = 2**53
"""What a browser still tells from the next number; no log comes near."""
UNFINISHED = ".new"
HEAD, HISTORY = "isotact.json", "history.jsonl"
# No document that came in is larger than a body may be (`guard`), nor then is the row of a revision.
MAX_LINE = 4_000_000
_ROW = TypeAdapter(dict[str, str | int | None])


def backup(store: Store, target: Path) -> int:
    """Write the whole database to a new file, whole even while it is written to. Returns its size in bytes.

    The file has its name once everything is in it and on the disk: one that broke off is none.
    """
    _must_be_free(target)
    new = target.with_name(f".{target.name}.{os.getpid()}{UNFINISHED}")
    try:
        with in_words(target):
            target.parent.mkdir(parents=True, exist_ok=True)
            copy(store.file, new)
            with closing(sqlite3.connect(new)) as raw, raw:
                # What the copy names is on the disk by now: a photo is kept before anything names it.
                raw.execute(f"CREATE TABLE {PHOTOS_KEPT} (id TEXT NOT NULL PRIMARY KEY, whole BLOB NOT NULL)")
                for key in store.photos.all():
                    raw.execute(f"INSERT INTO {PHOTOS_KEPT} VALUES (?, ?)", (key, store.photos.read(key)))
                raw.execute(f"CREATE TABLE {MANIFEST} (name TEXT NOT NULL PRIMARY KEY, rows INTEGER, digest TEXT)")
                held = [(name, *_counted(raw, name)) for name in (*TABLES, PHOTOS_KEPT)]
                raw.executemany(f"INSERT INTO {MANIFEST} VALUES (?, ?, ?)", held)
            _on_the_disk(new)
            new.replace(target)
            _on_the_disk(target.parent)
            return target.stat().st_size
    finally:
        new.unlink(missing_ok=True)


def _on_the_disk(place: Path) -> None:
    opened = os.open(place, os.O_RDONLY)
    try:
        os.fsync(opened)
    finally:
        os.close(opened)


def _counted(raw: sqlite3.Connection, table: str) -> tuple[int, str]:
    """How many rows a table has, and a digest over all of them in their order."""
    found, count = hashlib.sha256(), 0
    for row in raw.execute(f"SELECT * FROM {table} ORDER BY rowid"):
        count += 1
        for value in row:
            part = value if isinstance(value, bytes) else str(value).encode()
            found.update(f"{type(value).__name__} {len(part)} ".encode() + part)
    return count, found.hexdigest()


def _must_be_complete(file: Path) -> None:
    """Raise IsotactError where a backup is not as it was written. Those of before there were manifests pass."""
    with closing(sqlite3.connect(f"{file.absolute().as_uri()}?mode=ro", uri=True)) as raw:
        if not raw.execute("SELECT 1 FROM sqlite_master WHERE name = ?", (MANIFEST,)).fetchone():
            return
        for name, rows, digest in raw.execute(f"SELECT name, rows, digest FROM {MANIFEST}").fetchall():
            try:
                found = _counted(raw, name) if name in (*TABLES, PHOTOS_KEPT) else (0, "")
            except sqlite3.DatabaseError:
                found = (0, "")
            if found != (rows, digest):
                what = "photos" if name == PHOTOS_KEPT else f"rows of {name}"
                says = f"found {found[0]} {what}; {rows} were written" if found[0] != rows else f"{what} were changed"
                raise IsotactError(f"{file} is not as it was written: {says}. Nothing was changed.")


def restore(store: Store, source: Path) -> Path:
    """Put what is in a backup in the place of everything. Returns the backup that was made of what stood before.

    Raises IsotactError for a file that is none of ours, is damaged, or comes from a newer Isotact.
    """
    if not source.is_file():
        raise IsotactError(f"{source} is no file. Give the backup that is to be restored.")
    _must_be_ours(source)
    must_not_be_newer(source)
    _must_be_complete(source)
    with tempfile.TemporaryDirectory(prefix="isotact-") as place:
        brought = Path(place) / "isotact.sqlite"
        with in_words(source):
            copy(source, brought)
        try:
            Store(brought).close()  # opened as any database is: brought up to date
            _must_have_tables(brought, source)
            _must_make_sense(_events(brought), source)
            for key, whole in _photos_in(brought):
                store.photos.take(key, whole)
            return _replace(store, brought, "restored")
        except (sqlite3.DatabaseError, peewee.DatabaseError) as error:
            raise IsotactError(f"{source} is no backup of Isotact's: {error}. Nothing was changed.") from error


def _photos_in(backup: Path) -> Iterator[tuple[str, bytes]]:
    """The photos in a backup; those of before there were photos have none."""
    with closing(sqlite3.connect(f"{backup.absolute().as_uri()}?mode=ro", uri=True)) as raw:
        if raw.execute("SELECT 1 FROM sqlite_master WHERE name = ?", (PHOTOS_KEPT,)).fetchone():
            yield from raw.execute(f"SELECT id, whole FROM {PHOTOS_KEPT} ORDER BY id")


def _must_make_sense(events: Iterable[tuple[Any, Any]], source: Path) -> None:
    """Raise IsotactError for events that could not be read again once they were here: number and data of each."""
    for number, (sequence, data) in enumerate(events, start=1):
        if not isinstance(sequence, int) or not 0 < sequence <= MOST_SEQUENCE:
            raise IsotactError(f"{source}: event {number} has the number {sequence}; expected 1 to {MOST_SEQUENCE}.")
        try:
            is_data = not data or isinstance(json.loads(data), dict)
        except (ValueError, TypeError, RecursionError):
            is_data = False
        if not is_data:
            raise IsotactError(f"{source}: event {sequence} holds data that is no JSON. Nothing was changed.")


def _must_have_tables(file: Path, source: Path) -> None:
    with closing(sqlite3.connect(f"{file.absolute().as_uri()}?mode=ro", uri=True)) as raw:
        there = {name for (name,) in raw.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
    missing = sorted({*TABLES} - there)
    if missing:
        raise IsotactError(f"{source} is no backup of Isotact's: it has no {', '.join(missing)}. Nothing was changed.")


def _events(file: Path) -> Iterator[tuple[Any, Any]]:
    with closing(sqlite3.connect(f"{file.absolute().as_uri()}?mode=ro", uri=True)) as raw:
        yield from raw.execute("SELECT sequence, data FROM event ORDER BY rowid")


def _must_be_ours(file: Path) -> None:
    try:
        with closing(sqlite3.connect(f"{file.absolute().as_uri()}?mode=ro", uri=True)) as raw:
            whole = raw.execute("PRAGMA integrity_check(1)").fetchone() == ("ok",)
            tables = {name for (name,) in raw.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
    except sqlite3.DatabaseError:
        whole, tables = False, set()
    if not whole:
        raise IsotactError(f"{file} is damaged, or no database. Nothing was changed.")
    if "migration" not in tables:
        raise IsotactError(f"{file} is no backup of Isotact's. Nothing was changed.")


def export(store: Store, folder: Path) -> dict[str, int]:
    """Write everything to a new folder. Returns how many documents of each kind there are in it."""
    _must_be_free(folder)
    new = folder.with_name(f".{folder.name}.{os.getpid()}.new")
    try:
        with in_words(folder):
            new.mkdir(parents=True)
            counts = _write(store, new)
            new.replace(folder)
    finally:
        shutil.rmtree(new, ignore_errors=True)
    return counts


def _write(store: Store, folder: Path) -> dict[str, int]:
    counts = {}
    # One moment of it, however long the writing takes.
    snapshot = folder / ".snapshot"
    copy(store.file, snapshot)
    still = Store(snapshot, is_ready=True)
    with also_known(read_words(still)):
        for kind in KINDS:
            part = folder / kind.folder
            part.mkdir()
            found = still[kind].all()
            for saved in found:
                (part / f"{saved.document.id}.yaml").write_text(as_yaml(saved.document), encoding="utf-8")
            counts[kind.folder] = len(found)
    for key in store.photos.all():
        target = folder / PHOTOS / f"{key}.jpg"
        target.parent.mkdir(exist_ok=True)
        target.write_bytes(store.photos.read(key))
    with (folder / HISTORY).open("w", encoding="utf-8") as out:
        for table in TABLES:
            for row in _rows(still.file, table):
                out.write(json.dumps({"table": table, **row}, ensure_ascii=False) + "\n")
    head = {"format": FORMAT, "version": 1, "schema": len(MIGRATIONS), "made_at": now(), "holds": counts}
    (folder / HEAD).write_text(json.dumps(head, indent=1) + "\n", encoding="utf-8")
    still.close()
    for tail in ("", "-wal", "-shm"):
        snapshot.with_name(snapshot.name + tail).unlink(missing_ok=True)
    return counts


def take_in_export(store: Store, folder: Path) -> tuple[Path, int]:
    """Put what was exported in the place of everything. Returns the backup that was made of what stood before, and how
    many documents had been changed by hand since.

    Raises RefusedError with every flaw at its file and line; then nothing was changed.
    """
    _look_at_head(folder / HEAD)
    rows = _read_history(folder / HISTORY)
    with tempfile.TemporaryDirectory(prefix="isotact-") as place:
        tried = Store(Path(place) / "isotact.sqlite")
        _fill(tried, rows)
        changed = _take_in_by_hand(tried, folder)
        tried.close()
        for file in sorted((folder / PHOTOS).glob("*.jpg")):
            store.photos.take(file.stem, file.read_bytes())
        return _replace(store, tried.file, "imported"), changed


def _look_at_head(file: Path) -> None:
    try:
        head = json.loads(load_text(file))
        name, version, schema = head["format"], head["version"], head["schema"]
    except (ValueError, KeyError, TypeError) as error:
        raise IsotactError(f"{file} is no head of an export. Give the folder that 'isotact export' wrote.") from error
    if name != FORMAT or version != 1 or not isinstance(schema, int):
        raise IsotactError(f"{file}: found {name!r} {version!r}; expected '{FORMAT}' 1.")
    if schema != len(MIGRATIONS):
        says = "a newer" if schema > len(MIGRATIONS) else "an older"
        raise IsotactError(
            f"{file} was written by {says} Isotact (schema {schema}; this one has {len(MIGRATIONS)}). "
            "Take it in with that one, make a backup there, and restore the backup here."
        )


def _read_history(file: Path) -> dict[str, list[dict[str, Any]]]:
    rows: dict[str, list[dict[str, Any]]] = {table: [] for table in (*TABLES, *STAYS)}
    problems = []
    for number, line in _lines(file):
        try:
            row = _ROW.validate_python(json.loads(line))
            rows[str(row.pop("table"))].append(row)
        except (ValueError, KeyError, RecursionError):
            says = "found no row of one of our tables; the file was cut off or changed."
            problems.append(Problem(code="bad-row", path="", message=says, file=str(file), line=number))
    if problems:
        raise RefusedError(problems[:50])
    _must_make_sense(((row.get("sequence"), row.get("data")) for row in rows["event"]), file)
    return rows


def _lines(file: Path) -> Iterator[tuple[int, str]]:
    if not file.is_file():
        raise IsotactError(f"{file} is not there. Give the folder that 'isotact export' wrote.")
    try:
        with file.open(encoding="utf-8") as opened:
            number = 0
            while line := opened.readline(MAX_LINE):
                number += 1
                yield number, line
    except (OSError, UnicodeDecodeError) as error:
        raise IsotactError(f"{file} cannot be read: {error}.") from error


def _take_in_by_hand(store: Store, folder: Path) -> int:
    """Make next revisions of the folder's documents that are not what the history has. Returns how many there are."""
    count = 0
    problems: list[Problem] = []
    for kind in KINDS:
        # What is one's own is written with words of one's own, which come first.
        with also_known(read_words(store)):
            heads = store[kind].heads()
            for file in sorted((folder / kind.folder).glob("*.yaml")):
                try:
                    document: Any = read_document(load_text(file), kind.model, str(file))
                except RefusedError as error:
                    problems += error.problems
                    continue
                if document.id not in heads:
                    store[kind].create(document)
                elif _is_same(store, kind, document):
                    continue
                else:
                    store[kind].save(document.id, document, heads[document.id])
                count += 1
    if problems:
        raise RefusedError(problems)
    return count


def _is_same(store: Store, kind: Any, document: Any) -> bool:
    try:
        return bool(store[kind].one(document.id).document == document)
    except UnreadableError:
        return False


def _rows(file: Path, table: str) -> list[dict[str, Any]]:
    with closing(sqlite3.connect(f"{file.absolute().as_uri()}?mode=ro", uri=True)) as raw:
        raw.row_factory = sqlite3.Row
        return [dict(row) for row in raw.execute(f"SELECT * FROM {table} ORDER BY rowid")]


def _replace(store: Store, brought: Path, what: str) -> Path:
    """Put the rows of another database in the place of all rows, in one transaction, and say so to whoever listens."""
    with in_words(store.file), closing(sqlite3.connect(store.file, isolation_level=None)) as raw:
        raw.execute("PRAGMA busy_timeout = 5000")
        raw.execute("PRAGMA synchronous = full")
        raw.execute("PRAGMA foreign_keys = on")
        raw.execute("ATTACH ? AS brought", (str(brought),))
        raw.execute("BEGIN IMMEDIATE")
        try:
            # Nobody else writes from here on: what stands before is in the backup to the last write.
            before = backup_beside(store.file, f"before-{what}")
            # Numbers of events only go up: whoever listens goes on from where they were.
            (last,) = raw.execute(
                "SELECT MAX(COALESCE((SELECT MAX(sequence) FROM main.event), 0), "
                "COALESCE((SELECT MAX(sequence) FROM brought.event), 0))"
            ).fetchone()
            for table in TABLES:
                raw.execute(f"DELETE FROM main.{table}")
            for table in TABLES:
                columns = ", ".join(f'"{column}"' for column in _columns(raw, table))
                raw.execute(
                    f"INSERT INTO main.{table} ({columns}) SELECT {columns} FROM brought.{table} ORDER BY rowid"
                )
            values = (last + 1, now(), "", "all", "all", what, 0, "", "", "Everything", "", "")
            names = "sequence, at, person, kind, id, what, revision, subject, device, words, text, data"
            raw.execute(f"INSERT INTO main.event ({names}) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)", values)
            raw.execute("COMMIT")
        except sqlite3.IntegrityError as error:
            raise IsotactError(f"The rows do not fit together: {error}. Nothing was changed.") from error
        finally:
            if raw.in_transaction:
                raw.execute("ROLLBACK")
    return before


def _columns(raw: sqlite3.Connection, table: str) -> list[str]:
    known: list[str] = [column[1] for column in raw.execute(f"PRAGMA main.table_info({table})")]
    found = [column[1] for column in raw.execute(f"PRAGMA brought.table_info({table})")]
    if sorted(known) != sorted(found):
        raise IsotactError(
            f"The table {table} has {', '.join(found)}; expected {', '.join(known)}. Nothing was changed."
        )
    return known


def _fill(store: Store, rows: dict[str, list[dict[str, Any]]]) -> None:
    """Put rows into a database that is empty."""
    with closing(sqlite3.connect(store.file)) as raw:
        raw.execute("PRAGMA foreign_keys = on")
        try:
            with raw:
                for table in TABLES:
                    _insert(raw, table, rows[table])
        except (sqlite3.IntegrityError, OverflowError) as error:
            raise IsotactError(f"The rows do not fit together: {error}. Nothing was changed.") from error


def _insert(raw: sqlite3.Connection, table: str, rows: list[dict[str, Any]]) -> None:
    known = [column[1] for column in raw.execute(f"PRAGMA table_info({table})")]
    columns = ", ".join(f'"{column}"' for column in known)
    marks = ", ".join("?" * len(known))
    for number, row in enumerate(rows, start=1):
        if row.keys() != set(known):
            raise IsotactError(f"Row {number} of {table}: found {', '.join(row)}; expected {', '.join(known)}.")
        raw.execute(f"INSERT INTO {table} ({columns}) VALUES ({marks})", [row[column] for column in known])


def _must_be_free(target: Path) -> None:
    if target.exists():
        raise IsotactError(f"{target} is there already. Give a name that is free; nothing is overwritten.")
