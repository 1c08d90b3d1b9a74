"""Kits on their shelf, rigs that come back, and databases of earlier versions."""

import sqlite3
from pathlib import Path

import pytest

from isotact.core.model import Kit, NotFoundError, RefusedError, StaleWriteError
from isotact.store import KIT, RIG, Store
from tests.rigs import demo_rig
from tests.store.saying import said

VAN = Kit(format="isotact/kit", version=1, id="van", name="Van")


@pytest.fixture
def store(tmp_path: Path) -> Store:
    return Store(tmp_path / "rigs.sqlite")


def test_a_kit_has_revisions_of_its_own(store: Store):
    store[KIT].create(VAN)
    saved = store[KIT].save("van", VAN.model_copy(update={"name": "Truck"}), made_on=1)
    assert (saved.document.name, saved.revision, saved.can_undo) == ("Truck", 2, True)
    assert store[KIT].undo("van", 2).document.name == "Van"
    assert store[KIT].redo("van", 3).document.name == "Truck"
    with pytest.raises(StaleWriteError, match="This kit has moved on"):
        store[KIT].save("van", VAN, made_on=1)
    with pytest.raises(RefusedError, match="is the id of a kit that is here already"):
        store[KIT].create(VAN)


def test_several_rigs_and_their_kit_come_whole_or_not_at_all(store: Store):
    rig = demo_rig()
    with pytest.raises(RefusedError):
        store.create_several([rig, rig], VAN)
    assert (store[RIG].all(), store[KIT].all()) == ([], [])
    other = rig.model_copy(update={"id": "other"})
    assert [saved.document.id for saved in store.create_several([rig, other], VAN)] == [rig.id, "other"]
    assert [saved.document.id for saved in store[KIT].all()] == ["van"]


def test_a_removed_rig_keeps_its_revisions_and_its_id(store: Store):
    rig = demo_rig()
    store[RIG].create(rig)
    store[RIG].save(rig.id, rig.model_copy(update={"name": "Later"}), made_on=1)
    store[RIG].remove(rig.id)
    assert store[RIG].all() == []
    assert rig.id in store.taken_ids()
    with pytest.raises(RefusedError, match="removed but kept"):
        store[RIG].create(rig)
    assert store[RIG].restore(rig.id).document.name == "Later"
    assert len(store[RIG].history(rig.id)) == 2
    with pytest.raises(NotFoundError):
        store[RIG].remove("none")


OLD = """
CREATE TABLE migration (name TEXT NOT NULL PRIMARY KEY, done_at TEXT NOT NULL);
CREATE TABLE rig (id TEXT NOT NULL PRIMARY KEY, head INTEGER NOT NULL);
CREATE TABLE revision (rig_id TEXT NOT NULL REFERENCES rig (id) ON DELETE CASCADE, number INTEGER NOT NULL,
    parent INTEGER NOT NULL, document TEXT NOT NULL, made_at TEXT NOT NULL, PRIMARY KEY (rig_id, number));
CREATE TABLE tick (rig_id TEXT NOT NULL REFERENCES rig (id) ON DELETE CASCADE, step TEXT NOT NULL,
    ticked_at TEXT NOT NULL, PRIMARY KEY (rig_id, step));
INSERT INTO migration VALUES ('rigs_and_revisions', 'then'), ('ticks', 'then');
INSERT INTO rig VALUES ('night-ferry-b', 1);
"""


def test_a_database_of_the_version_before_is_brought_up_to_date_and_loses_nothing(tmp_path: Path):
    file = tmp_path / "rigs.sqlite"
    with sqlite3.connect(file) as old:
        old.executescript(OLD)
        row = ("night-ferry-b", 1, 0, demo_rig().model_dump_json(), "then")
        old.execute("INSERT INTO revision VALUES (?, ?, ?, ?, ?)", row)
    old.close()
    store = Store(file)
    assert store[RIG].one("night-ferry-b").document == demo_rig()
    store[KIT].create(VAN)
    said(store, "done", "wake:body")
    store[RIG].remove("night-ferry-b")
    assert Store(file)[RIG].restore("night-ferry-b").revision == 1
    assert list(store.log.steps("night-ferry-b")) == ["wake:body"]
