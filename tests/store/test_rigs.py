"""Rigs as append-only revisions, ticks, migrations, and what a kill leaves behind."""

import multiprocessing
import os
import signal
import sqlite3
import time
from pathlib import Path

import pytest

from isotact.core.model import NotFoundError, RefusedError, StaleWriteError
from isotact.store import Store
from isotact.store.migrations import MIGRATIONS
from tests.rigs import demo_rig

RIG = demo_rig()


@pytest.fixture
def store(tmp_path: Path) -> Store:
    store = Store(tmp_path / "rigs.sqlite")
    store.create(RIG)
    return store


def named(name: str):
    return RIG.model_copy(update={"name": name})


def test_a_rig_comes_back_as_it_was_saved(store: Store):
    saved = store.rig(RIG.id)
    assert saved.document == RIG
    assert (saved.revision, saved.can_undo, saved.can_redo) == (1, False, False)


def test_undo_and_redo_walk_the_revisions(store: Store):
    store.save(RIG.id, named("two"), 1)
    store.save(RIG.id, named("three"), 2)
    back = store.undo(RIG.id, 3)
    assert (back.document.name, back.revision, back.can_redo) == ("two", 2, True)
    assert store.undo(RIG.id, 2).document == RIG
    assert store.redo(RIG.id, 1).document.name == "two"
    assert store.redo(RIG.id, 2).document.name == "three"


def test_undo_at_the_first_and_redo_at_the_last_stay(store: Store):
    assert store.undo(RIG.id, 1).revision == 1
    assert store.redo(RIG.id, 1).revision == 1


def test_a_change_after_undo_starts_a_branch_and_nothing_is_lost(store: Store):
    store.save(RIG.id, named("two"), 1)
    store.undo(RIG.id, 2)
    saved = store.save(RIG.id, named("other"), 1)
    assert saved.revision == 3
    assert not saved.can_redo
    history = store.history(RIG.id)
    assert [(line.number, line.parent, line.is_head) for line in history] == [
        (3, 1, True),
        (2, 1, False),
        (1, 0, False),
    ]


def test_a_stale_write_is_refused_with_both_versions(store: Store):
    store.save(RIG.id, named("theirs"), 1)
    with pytest.raises(StaleWriteError) as caught:
        store.save(RIG.id, named("mine"), 1)
    error = caught.value
    assert (error.yours.name, error.theirs.name, error.head) == ("mine", "theirs", 2)
    assert str(error) == "This rig has moved on: you changed revision 1, it is now at revision 2."
    assert store.rig(RIG.id).document.name == "theirs"


@pytest.mark.parametrize("move", ["undo", "redo"])
def test_a_stale_undo_is_refused_too(store: Store, move: str):
    store.save(RIG.id, named("two"), 1)
    with pytest.raises(StaleWriteError):
        getattr(store, move)(RIG.id, 1)


def test_an_id_is_given_once_and_cannot_change(store: Store):
    with pytest.raises(RefusedError, match="is the id of a rig that is here already"):
        store.create(RIG)
    with pytest.raises(RefusedError, match="the rig being saved is"):
        store.save(RIG.id, RIG.model_copy(update={"id": "other"}), 1)


def test_an_unknown_rig_names_the_nearest(store: Store):
    with pytest.raises(NotFoundError, match="Did you mean 'night-ferry-b'"):
        store.rig("night-fery-b")


def test_ticks_persist_and_come_off(store: Store, tmp_path: Path):
    store.tick(RIG.id, "wake:body", True)
    first = store.tick(RIG.id, "wake:body", True)
    assert list(first) == ["wake:body"]
    store.tick(RIG.id, "wake:gimbal", True)
    store.close()
    again = Store(tmp_path / "rigs.sqlite")
    assert set(again.ticks(RIG.id)) == {"wake:body", "wake:gimbal"}
    assert set(again.tick(RIG.id, "wake:body", False)) == {"wake:gimbal"}
    again.clear_ticks(RIG.id)
    assert again.ticks(RIG.id) == {}


def test_the_database_is_in_wal_with_foreign_keys_and_full_sync(store: Store, tmp_path: Path):
    with store.open():
        pragmas = [store._database.pragma(key) for key in ("journal_mode", "foreign_keys", "synchronous")]
    assert pragmas == ["wal", 1, 2]


def test_a_row_without_its_rig_is_refused_by_the_database(store: Store, tmp_path: Path):
    with store.open(), pytest.raises(Exception, match="FOREIGN KEY"):
        store._database.execute_sql("insert into tick (rig_id, step, ticked_at) values ('none', 's', 'now')")


def test_migrations_run_once_each_and_are_recorded(tmp_path: Path):
    file = tmp_path / "rigs.sqlite"
    Store(file).close()
    Store(file).close()
    with sqlite3.connect(file) as raw:
        names = [name for (name,) in raw.execute("select name from migration order by rowid")]
    assert names == [change.__name__ for change in MIGRATIONS]


def test_a_database_of_version_one_is_brought_up_and_keeps_its_rigs(tmp_path: Path):
    file = tmp_path / "old.sqlite"
    store = Store(file)
    store.create(RIG)
    store.close()
    with sqlite3.connect(file) as raw:
        raw.execute("drop table tick")
        raw.execute("delete from migration where name = 'ticks'")
    raw.close()
    newer = Store(file)
    assert newer.rig(RIG.id).document == RIG
    assert newer.tick(RIG.id, "wake:body", True)


def _write_for_ever(file: Path, acknowledged: Path) -> None:
    store = Store(file)
    revision = store.rig(RIG.id).revision
    with acknowledged.open("a") as out:
        while True:
            revision = store.save(RIG.id, named(f"n{revision + 1}"), revision).revision
            out.write(f"{revision}\n")
            out.flush()


@pytest.mark.parametrize("after_s", [0.25, 0.4, 0.6])
def test_a_kill_loses_nothing_that_was_acknowledged(tmp_path: Path, after_s: float):
    file, acknowledged = tmp_path / "rigs.sqlite", tmp_path / "acknowledged"
    store = Store(file)
    store.create(RIG)
    store.close()
    acknowledged.touch()
    writer = multiprocessing.get_context("spawn").Process(target=_write_for_ever, args=(file, acknowledged))
    writer.start()
    while not acknowledged.read_text():
        time.sleep(0.02)
    time.sleep(after_s)
    os.kill(writer.pid or 0, signal.SIGKILL)
    writer.join()
    last = int(acknowledged.read_text().split()[-1])
    saved = Store(file).rig(RIG.id)
    assert saved.revision >= last
    assert saved.document.name == f"n{saved.revision}"
    with sqlite3.connect(file) as raw:
        assert raw.execute("pragma integrity_check").fetchone() == ("ok",)
    raw.close()


def test_a_removed_rig_lies_in_the_bin_until_it_is_thrown_away(store: Store):
    store.tick(RIG.id, "wake:body", done=True)
    store.remove(RIG.id)
    assert [one.document for one in store.bin()] == [RIG]
    store.restore(RIG.id)
    assert store.bin() == []
    with pytest.raises(RefusedError, match="on the list"):
        store.throw_away(RIG.id)
    store.remove(RIG.id)
    store.throw_away(RIG.id)
    assert (store.bin(), store.rigs()) == ([], [])
    with pytest.raises(NotFoundError):
        store.history(RIG.id)
    assert store.create(RIG).revision == 1
    assert store.ticks(RIG.id) == {}


def test_a_rig_that_is_begun_gets_the_next_free_id(store: Store):
    assert store.create_named(RIG).document.id == f"{RIG.id}-2"
    store.remove(f"{RIG.id}-2")
    assert store.create_named(RIG).document.id == f"{RIG.id}-3", "one in the bin may come back under its id"


def test_several_rigs_are_saved_together_or_not_at_all(store: Store):
    other = store.create_named(RIG).document
    with pytest.raises(StaleWriteError):
        store.save_several([(named("shared out"), 1), (other.model_copy(update={"name": "shared out"}), 7)])
    assert [saved.document.name for saved in store.rigs()] == [RIG.name, RIG.name]
    store.save_several([(named("shared out"), 1), (other.model_copy(update={"name": "shared out"}), 1)])
    assert [saved.document.name for saved in store.rigs()] == ["shared out", "shared out"]
    assert store.undo(RIG.id, 2).document == RIG
