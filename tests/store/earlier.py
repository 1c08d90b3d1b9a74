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


def write(file: Path, version: int) -> None:
    """A database of that version: the rig has three revisions and stands at the second, having been undone once."""
    with closing(sqlite3.connect(file)) as raw:
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
