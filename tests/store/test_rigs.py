"""Rigs as append-only revisions, ticks, migrations, and what a kill leaves behind."""

import multiprocessing
import os
import signal
import sqlite3
import time
from pathlib import Path

import pytest

from isotact.core.model import NotFoundError, RefusedError, StaleWriteError
from isotact.store import RIG, Store
from isotact.store.migrations import MIGRATIONS
from tests.rigs import demo_rig
from tests.store.saying import said

FERRY = demo_rig()


@pytest.fixture
def store(tmp_path: Path) -> Store:
    store = Store(tmp_path / "rigs.sqlite")
    store[RIG].create(FERRY)
    return store


def named(name: str):
    return FERRY.model_copy(update={"name": name})


def test_a_rig_comes_back_as_it_was_saved(store: Store):
    saved = store[RIG].one(FERRY.id)
    assert saved.document == FERRY
    assert (saved.revision, saved.can_undo, saved.can_redo) == (1, False, False)


def test_undo_and_redo_walk_the_revisions(store: Store):
    store[RIG].save(FERRY.id, named("two"), 1)
    store[RIG].save(FERRY.id, named("three"), 2)
    back = store[RIG].undo(FERRY.id, 3)
    assert (back.document.name, back.revision, back.can_redo) == ("two", 4, True)
    assert store[RIG].undo(FERRY.id, 4).document == FERRY
    assert store[RIG].redo(FERRY.id, 5).document.name == "two"
    assert store[RIG].redo(FERRY.id, 6).document.name == "three"
    assert not store[RIG].one(FERRY.id).can_redo


def test_undo_at_the_first_and_redo_at_the_last_stay(store: Store):
    assert store[RIG].undo(FERRY.id, 1).revision == 1
    assert store[RIG].redo(FERRY.id, 1).revision == 1


def test_a_change_after_undo_starts_a_branch_and_nothing_is_lost(store: Store):
    store[RIG].save(FERRY.id, named("two"), 1)
    store[RIG].undo(FERRY.id, 2)
    saved = store[RIG].save(FERRY.id, named("other"), 3)
    assert saved.revision == 4
    assert not saved.can_redo
    history = store[RIG].history(FERRY.id)
    assert [(line.number, line.parent, line.shows, line.is_head) for line in history] == [
        (4, 1, 4, True),
        (3, 0, 1, False),
        (2, 1, 2, False),
        (1, 0, 1, False),
    ]


def test_a_save_that_changes_nothing_adds_no_revision(store: Store):
    assert store[RIG].save(FERRY.id, FERRY, 1).revision == 1
    assert len(store[RIG].history(FERRY.id)) == 1


def test_undo_never_makes_a_stale_write_look_fresh(store: Store):
    store[RIG].save(FERRY.id, named("theirs"), 1)
    store[RIG].undo(FERRY.id, 2)
    with pytest.raises(StaleWriteError, match="you changed revision 1, it is now at revision 3"):
        store[RIG].save(FERRY.id, named("mine"), 1)


def test_of_two_versions_both_are_kept_and_either_can_stand(store: Store):
    store[RIG].save(FERRY.id, named("theirs"), 1)
    saved = store[RIG].keep_both(FERRY.id, named("mine"), made_on=1, newest=2)
    assert (saved.document.name, saved.revision) == ("theirs", 4)
    kept = [(line.number, line.shows, line.document and line.document.name) for line in store[RIG].history(FERRY.id)]
    assert kept == [(4, 2, "theirs"), (3, 3, "mine"), (2, 2, "theirs"), (1, 1, FERRY.name)]
    assert store[RIG].back_to(FERRY.id, 3, 4).document.name == "mine"
    assert store[RIG].undo(FERRY.id, 5).document == FERRY
    assert store[RIG].redo(FERRY.id, 6).document.name == "mine", "the one that was shown last"


def test_what_became_of_documents_is_told_in_order(store: Store):
    store[RIG].save(FERRY.id, named("two"), 1)
    store[RIG].undo(FERRY.id, 2)
    said(store, "done", "wake:body", uid="the-phone-1", revision=3)
    said(store, "done", "wake:body", uid="the-phone-1", revision=3)
    store[RIG].remove(FERRY.id)
    told = [(event.sequence, event.what, event.revision) for event in store.events(0)]
    assert told == [(1, "created", 1), (2, "saved", 2), (3, "undone", 3), (4, "done", 3), (5, "removed", 3)]
    assert [event.sequence for event in store.events(3)] == [4, 5]
    assert store.sequence() == 5


def test_a_stale_write_is_refused_with_both_versions(store: Store):
    store[RIG].save(FERRY.id, named("theirs"), 1)
    with pytest.raises(StaleWriteError) as caught:
        store[RIG].save(FERRY.id, named("mine"), 1)
    error = caught.value
    assert (error.yours.name, error.theirs.name, error.head) == ("mine", "theirs", 2)
    assert str(error) == "This rig has moved on: you changed revision 1, it is now at revision 2."
    assert store[RIG].one(FERRY.id).document.name == "theirs"


def test_what_stands_already_is_no_stale_write(store: Store):
    """The answer to a write was lost, so it comes again as it was."""
    store[RIG].save(FERRY.id, named("mine"), 1)
    again = store[RIG].save(FERRY.id, named("mine"), 1)
    assert (again.revision, again.document.name) == (2, "mine")
    store[RIG].save(FERRY.id, named("theirs"), 2)
    with pytest.raises(StaleWriteError):
        store[RIG].save(FERRY.id, named("mine"), 1)


@pytest.mark.parametrize("move", ["undo", "redo"])
def test_a_stale_undo_is_refused_too(store: Store, move: str):
    store[RIG].save(FERRY.id, named("two"), 1)
    with pytest.raises(StaleWriteError):
        getattr(store[RIG], move)(FERRY.id, 1)


def test_an_id_is_given_once_and_cannot_change(store: Store):
    with pytest.raises(RefusedError, match="is the id of a rig that is here already"):
        store[RIG].create(FERRY)
    with pytest.raises(RefusedError, match="the rig being saved is"):
        store[RIG].save(FERRY.id, FERRY.model_copy(update={"id": "other"}), 1)


def test_an_unknown_rig_names_the_nearest(store: Store):
    with pytest.raises(NotFoundError, match="Did you mean 'night-ferry-b'"):
        store[RIG].one("night-fery-b")


def test_the_database_is_in_wal_with_foreign_keys_and_full_sync(store: Store, tmp_path: Path):
    with store.reading():
        pragmas = [store._database.pragma(key) for key in ("journal_mode", "foreign_keys", "synchronous")]
    assert pragmas == ["wal", 1, 2]


def test_a_row_without_its_rig_is_refused_by_the_database(store: Store, tmp_path: Path):
    with store.reading(), pytest.raises(Exception, match="FOREIGN KEY"):
        store._database.execute_sql("insert into revision values (999, 1, 0, 1, '', '{}', 'now')")


def test_migrations_run_once_each_and_are_recorded(tmp_path: Path):
    file = tmp_path / "rigs.sqlite"
    Store(file).close()
    Store(file).close()
    with sqlite3.connect(file) as raw:
        names = [name for (name,) in raw.execute("select name from migration order by rowid")]
    assert names == [change.__name__ for change in MIGRATIONS]


def _write_for_ever(file: Path, acknowledged: Path) -> None:
    store = Store(file)
    revision = store[RIG].one(FERRY.id).revision
    with acknowledged.open("a") as out:
        while True:
            revision = store[RIG].save(FERRY.id, named(f"n{revision + 1}"), revision).revision
            out.write(f"{revision}\n")
            out.flush()


@pytest.mark.parametrize("after_s", [0.25, 0.4, 0.6])
def test_a_kill_loses_nothing_that_was_acknowledged(tmp_path: Path, after_s: float):
    file, acknowledged = tmp_path / "rigs.sqlite", tmp_path / "acknowledged"
    store = Store(file)
    store[RIG].create(FERRY)
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
    saved = Store(file)[RIG].one(FERRY.id)
    assert saved.revision >= last
    assert saved.document.name == f"n{saved.revision}"
    with sqlite3.connect(file) as raw:
        assert raw.execute("pragma integrity_check").fetchone() == ("ok",)
    raw.close()


def test_a_removed_rig_lies_in_the_bin_until_it_is_thrown_away(store: Store):
    said(store, "done", "wake:body")
    store[RIG].remove(FERRY.id)
    assert [one.document for one in store[RIG].removed()] == [FERRY]
    store[RIG].restore(FERRY.id)
    assert store[RIG].removed() == []
    with pytest.raises(RefusedError, match="on the list"):
        store[RIG].throw_away(FERRY.id)
    store[RIG].remove(FERRY.id)
    store[RIG].throw_away(FERRY.id)
    assert (store[RIG].removed(), store[RIG].all()) == ([], [])
    with pytest.raises(NotFoundError):
        store[RIG].history(FERRY.id)
    assert store[RIG].create(FERRY).revision == 1
    assert store.log.steps(FERRY.id) == {}


def test_a_rig_that_is_begun_gets_the_next_free_id(store: Store):
    assert store.create_named(FERRY).document.id == f"{FERRY.id}-2"
    store[RIG].remove(f"{FERRY.id}-2")
    assert store.create_named(FERRY).document.id == f"{FERRY.id}-3", "one in the bin may come back under its id"


def test_several_writes_are_made_together_or_not_at_all(store: Store):
    other = store.create_named(FERRY).document

    def share_out() -> None:
        with store.writing():
            store[RIG].save(FERRY.id, named("shared out"), 1)
            store[RIG].save(other.id, other.model_copy(update={"name": "shared out"}), 7)

    with pytest.raises(StaleWriteError):
        share_out()
    assert [saved.document.name for saved in store[RIG].all()] == [FERRY.name, FERRY.name]
    assert store.sequence() == 2
