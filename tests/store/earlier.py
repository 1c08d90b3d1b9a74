"""Databases as earlier versions wrote them, each with a rig, its history and ticks, and a kit where there were kits."""

import sqlite3
from contextlib import closing
from pathlib import Path

from isotact.core.model import Kit
from tests.rigs import demo_rig

FERRY = demo_rig()
VAN = Kit(format="isotact/kit", version=1, id="van", name="Van")

_ONE = """
CREATE TABLE migration (name TEXT NOT NULL PRIMARY KEY, done_at TEXT NOT NULL);
CREATE TABLE rig (id TEXT NOT NULL PRIMARY KEY, head INTEGER NOT NULL);
CREATE TABLE revision (rig_id TEXT NOT NULL REFERENCES rig (id) ON DELETE CASCADE, number INTEGER NOT NULL,
    parent INTEGER NOT NULL, document TEXT NOT NULL, made_at TEXT NOT NULL, PRIMARY KEY (rig_id, number));
INSERT INTO migration VALUES ('rigs_and_revisions', 'then');
"""
_TWO = """
CREATE TABLE tick (rig_id TEXT NOT NULL REFERENCES rig (id) ON DELETE CASCADE, step TEXT NOT NULL,
    ticked_at TEXT NOT NULL, PRIMARY KEY (rig_id, step));
INSERT INTO migration VALUES ('ticks', 'then');
"""
_THREE = """
CREATE TABLE kit (id TEXT NOT NULL PRIMARY KEY, head INTEGER NOT NULL, removed_at TEXT);
CREATE TABLE kit_revision (kit_id TEXT NOT NULL REFERENCES kit (id) ON DELETE CASCADE, number INTEGER NOT NULL,
    parent INTEGER NOT NULL, document TEXT NOT NULL, made_at TEXT NOT NULL, PRIMARY KEY (kit_id, number));
INSERT INTO migration VALUES ('kits', 'then');
"""
_FOUR = """
ALTER TABLE rig ADD COLUMN removed_at TEXT;
INSERT INTO migration VALUES ('removed_rigs_come_back', 'then');
"""

_FIVE = """
CREATE TABLE migration (name TEXT PRIMARY KEY, done_at TEXT NOT NULL);
CREATE TABLE document ("key" INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT, kind TEXT NOT NULL, id TEXT NOT NULL,
    head INTEGER NOT NULL, removed_at TEXT);
CREATE UNIQUE INDEX document_of_kind ON document (kind, id);
CREATE TABLE revision (document_key INTEGER NOT NULL REFERENCES document ("key") ON DELETE CASCADE,
    number INTEGER NOT NULL, parent INTEGER NOT NULL, shows INTEGER NOT NULL, document TEXT NOT NULL,
    beside TEXT NOT NULL, made_at TEXT NOT NULL, PRIMARY KEY (document_key, number));
CREATE TABLE tick (rig_key INTEGER NOT NULL REFERENCES document ("key") ON DELETE CASCADE, step TEXT NOT NULL,
    ticked_at TEXT NOT NULL, PRIMARY KEY (rig_key, step));
CREATE TABLE event (sequence INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT, at TEXT NOT NULL, kind TEXT NOT NULL,
    id TEXT NOT NULL, what TEXT NOT NULL, revision INTEGER NOT NULL);
CREATE TABLE taken_in (digest TEXT NOT NULL PRIMARY KEY, taken_at TEXT NOT NULL);
INSERT INTO migration VALUES ('rigs_and_revisions', 'then'), ('ticks', 'then'), ('kits', 'then'),
    ('removed_rigs_come_back', 'then'), ('one_table_of_documents', 'then');
INSERT INTO document (kind, id, head, removed_at) VALUES ('rig', 'night-ferry-b', 4, NULL), ('kit', 'van', 1, NULL),
    ('rig', 'gone', 1, 'yesterday');
INSERT INTO tick VALUES (1, 'wake:body', 'then');
INSERT INTO event (at, kind, id, what, revision) VALUES ('at 1', 'rig', 'night-ferry-b', 'created', 1),
    ('at 2', 'rig', 'night-ferry-b', 'saved', 2), ('at 3', 'rig', 'night-ferry-b', 'saved', 3),
    ('at 4', 'rig', 'night-ferry-b', 'undone', 4), ('now', 'rig', 'night-ferry-b', 'ticked', 4);
PRAGMA user_version = 5;
"""


def _write_five(raw: sqlite3.Connection) -> None:
    raw.executescript(_FIVE)
    rows = [(number, number - 1, number, FERRY.model_copy(update={"name": name}).model_dump_json())
            for number, name in enumerate(("first", "second", "third"), start=1)]  # fmt: skip
    for number, parent, shows, text in [*rows, (4, 1, 2, "")]:
        raw.execute("INSERT INTO revision VALUES (1, ?, ?, ?, ?, '{}', 'then')", (number, parent, shows, text))
    raw.execute("INSERT INTO revision VALUES (2, 1, 0, 1, ?, '{}', 'then')", (VAN.model_dump_json(),))
    gone = FERRY.model_copy(update={"id": "gone"}).model_dump_json()
    raw.execute("INSERT INTO revision VALUES (3, 1, 0, 1, ?, '{}', 'then')", (gone,))


def write(file: Path, version: int) -> None:
    """A database of that version: the rig has three revisions and stands at the second, having been undone once."""
    with closing(sqlite3.connect(file)) as raw:
        if version == 5:
            _write_five(raw)
            raw.commit()
            return
        for script in (_ONE, _TWO, _THREE, _FOUR)[:version]:
            raw.executescript(script)
        raw.execute("INSERT INTO rig (id, head) VALUES (?, 2)", (FERRY.id,))
        for number, name in enumerate(("first", "second", "third"), start=1):
            text = FERRY.model_copy(update={"name": name}).model_dump_json()
            raw.execute(
                "INSERT INTO revision VALUES (?, ?, ?, ?, ?)", (FERRY.id, number, number - 1, text, f"at {number}")
            )
        if version >= 2:
            raw.execute("INSERT INTO tick VALUES (?, 'wake:body', 'then')", (FERRY.id,))
        if version >= 3:
            raw.execute("INSERT INTO kit (id, head) VALUES ('van', 1)")
            raw.execute("INSERT INTO kit_revision VALUES ('van', 1, 0, ?, 'then')", (VAN.model_dump_json(),))
        if version >= 4:
            raw.execute("INSERT INTO rig VALUES ('gone', 1, 'yesterday')")
            text = FERRY.model_copy(update={"id": "gone"}).model_dump_json()
            raw.execute("INSERT INTO revision VALUES ('gone', 1, 0, ?, 'then')", (text,))
        raw.commit()
