"""Opening: earlier versions lose nothing, newer ones are not touched, damaged ones are set aside and salvaged."""

import hashlib
import random
import sqlite3
from contextlib import closing
from pathlib import Path

import pytest

from isotact.catalogue import shipped
from isotact.catalogue.packs import as_yaml
from isotact.core.model import RefusedError
from isotact.store import (
    JOB,
    KIT,
    PROFILE,
    RIG,
    NewerError,
    OwnCatalogue,
    StorageError,
    Store,
    UnreadableError,
    recovery,
)
from isotact.store.folder_lock import OwnedError, take
from isotact.store.migrations import MIGRATIONS
from tests.store.earlier import FERRY, VAN, write


def ours(key: str = "our-phone", **changes):
    return shipped().profiles["phone"].model_copy(update={"id": key, **changes})


def execute(file: Path, *statements: str) -> None:
    with closing(sqlite3.connect(file)) as raw:
        for statement in statements:
            raw.execute(statement)
        raw.commit()


@pytest.mark.parametrize("version", [1, 2, 3, 4, 5])
def test_every_earlier_version_is_brought_up_to_date_and_loses_nothing(tmp_path: Path, version: int):
    file = tmp_path / "rigs.sqlite"
    write(file, version)
    store = Store(file)
    saved = store[RIG].one(FERRY.id)
    assert (saved.document.name, saved.revision, saved.can_undo, saved.can_redo) == ("second", 4, True, True)
    lines = [(kept.number, kept.shows, kept.document and kept.document.name) for kept in store[RIG].history(FERRY.id)]
    assert lines == [(4, 2, "second"), (3, 3, "third"), (2, 2, "second"), (1, 1, "first")]
    assert store[RIG].redo(FERRY.id, 4).document.name == "third"
    marks = {step: (mark.what, mark.at, mark.revision) for step, mark in store.log.steps(FERRY.id).items()}
    assert marks == ({"wake:body": ("done", "then", 4)} if version >= 2 else {})
    assert [one.document for one in store[KIT].all()] == ([VAN] if version >= 3 else [])
    assert [one.document.id for one in store[RIG].removed()] == (["gone"] if version >= 4 else [])
    assert [notice[:37] for notice in store.notices] == ["The database was brought up to date. "]
    kept = list((tmp_path / "backups").iterdir())
    assert len(kept) == 1
    with closing(sqlite3.connect(kept[0])) as old:
        table, head = ("document", 4) if version == 5 else ("rig", 2)
        assert old.execute(f"SELECT head FROM {table} WHERE id = ?", (FERRY.id,)).fetchone() == (head,)


def test_the_jobs_that_rigs_name_become_documents(tmp_path: Path):
    """Two rigs of one job, one of none, one that was removed, and one whose text is damaged."""
    file = tmp_path / "rigs.sqlite"
    store = Store(file)
    for key, job in (
        ("a", "Night ferry"),
        ("b", "Night ferry"),
        ("c", None),
        ("d", "Düne"),
        ("e", "Dune"),
        ("f", "Lost"),
    ):
        store[RIG].create(FERRY.model_copy(update={"id": key, "production": job}))
    store[RIG].remove("d")
    del store
    spoil = "UPDATE revision SET document = '{' WHERE document_key = (SELECT key FROM document WHERE id = 'f')"
    forget = "DELETE FROM migration WHERE name = 'jobs_are_documents'"
    execute(file, spoil, forget, "PRAGMA user_version = 7")
    jobs = [one.document for one in Store(file)[JOB].all()]
    assert [(job.id, job.name) for job in jobs] == [
        ("dune", "Düne"),
        ("dune-2", "Dune"),
        ("night-ferry", "Night ferry"),
    ]
    assert all(Store(file)[JOB].history(job.id)[0].number == 1 for job in jobs)


def test_one_of_today_is_opened_without_a_word(tmp_path: Path):
    file = tmp_path / "rigs.sqlite"
    assert Store(file).notices == []
    assert Store(file).notices == []
    assert not (tmp_path / "backups").exists()
    with closing(sqlite3.connect(file)) as raw:
        assert raw.execute("PRAGMA user_version").fetchone() == (len(MIGRATIONS),)


@pytest.mark.parametrize(
    "newer",
    ["PRAGMA user_version = 99", "INSERT INTO migration VALUES ('of_next_year', 'then')", "PRAGMA user_version = 0"],
)
def test_one_of_a_newer_isotact_is_refused_and_not_touched(tmp_path: Path, newer: str):
    file = tmp_path / "rigs.sqlite"
    Store(file)[RIG].create(FERRY)
    execute(file, "PRAGMA journal_mode = delete", newer)
    if newer.endswith("= 0"):
        execute(file, "INSERT INTO migration VALUES ('of_next_year', 'then')")
    before = hashlib.sha256(file.read_bytes()).hexdigest()
    if "INSERT" in newer:
        execute(file, "PRAGMA user_version = 99")
        before = hashlib.sha256(file.read_bytes()).hexdigest()
    with pytest.raises(NewerError, match="was written by a newer Isotact"):
        Store(file)
    assert hashlib.sha256(file.read_bytes()).hexdigest() == before
    assert [one.name for one in tmp_path.iterdir()] == ["rigs.sqlite"]


def filled(file: Path, rigs: int = 30) -> None:
    store = Store(file)
    with store.writing():
        for number in range(rigs):
            store[RIG].create(FERRY.model_copy(update={"id": f"rig-{number:02}"}))
            store[RIG].save(f"rig-{number:02}", FERRY.model_copy(update={"id": f"rig-{number:02}", "name": "x"}), 1)
    store.close()
    execute(file, "PRAGMA journal_mode = delete")


@pytest.mark.parametrize("seed", range(4))
def test_a_damaged_database_is_set_aside_and_what_can_be_read_is_saved(tmp_path: Path, seed: int):
    file = tmp_path / "rigs.sqlite"
    filled(file)
    whole = bytearray(file.read_bytes())
    page = random.Random(seed).randrange(10, len(whole) // 4096 - 10)
    whole[page * 4096 : page * 4096 + 4096] = random.Random(seed).randbytes(4096)
    file.write_bytes(whole)
    store = Store(file)
    if not store.notices:
        pytest.skip("the page was a free one or held text only: the database is whole")
    assert "The database was damaged. It is set aside as" in store.notices[0]
    aside = next(tmp_path.glob("rigs.damaged-*.sqlite"))
    assert aside.read_bytes() == bytes(whole), "nothing of the damaged file is thrown away"
    readable = store[RIG].all()
    assert len(readable) >= 20
    assert all(saved.document.name in ("x", FERRY.name) for saved in readable)
    assert Store(file).notices == []


def test_a_large_one_is_looked_through_while_it_is_worked_with_and_mended_at_the_next_start(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
):
    file = tmp_path / "rigs.sqlite"
    filled(file)
    told: list[str] = []
    monkeypatch.setattr(recovery, "CHECKED_AT_ONCE", 1)
    recovery.check_later(file, told.append)
    assert told == []
    whole = bytearray(file.read_bytes())
    # Past the pages in which the tables are described: what is in them is to be damaged, not that they are there.
    for page in range(40, len(whole) // 4096 - 10):
        whole[page * 4096 : page * 4096 + 8] = b"\xff" * 8
    file.write_bytes(whole)
    assert Store(file).notices == [], "nobody waits for it"
    recovery.check_later(file, told.append)
    assert told[0].startswith("The database is damaged. Make a backup, stop Isotact and start it again")
    assert "The database was damaged. It is set aside as" in Store(file).notices[0]
    assert Store(file).notices == []
    recovery.check_later(file, told.append)
    assert len(told) == 1


def test_a_large_file_that_is_no_database_at_all_is_set_aside_at_once(tmp_path: Path, monkeypatch: pytest.MonkeyPatch):
    monkeypatch.setattr(recovery, "CHECKED_AT_ONCE", 1)
    file = tmp_path / "rigs.sqlite"
    file.write_bytes(b"no database at all" * 1000)
    assert "The database was damaged" in Store(file).notices[0]


def test_a_file_that_is_no_database_is_set_aside_and_named_with_the_newest_backup(tmp_path: Path):
    file = tmp_path / "rigs.sqlite"
    file.write_bytes(b"no database at all" * 1000)
    (tmp_path / "backups").mkdir()
    (tmp_path / "backups" / "rigs-20260101.sqlite").write_bytes(b"")
    store = Store(file)
    assert "backups/rigs-20260101.sqlite: 'isotact restore' takes it" in store.notices[0]
    assert store[RIG].all() == []
    assert store[RIG].create(FERRY).revision == 1


def test_one_unreadable_revision_takes_nothing_else_down(tmp_path: Path):
    file = tmp_path / "rigs.sqlite"
    store = Store(file)
    store[RIG].create(FERRY)
    store[RIG].create(FERRY.model_copy(update={"id": "other"}))
    store[RIG].save(FERRY.id, FERRY.model_copy(update={"name": "worse"}), 1)
    execute(file, "UPDATE revision SET document = '{\"format\": 7' WHERE number = 2")
    assert [saved.document.id for saved in store[RIG].all()] == ["other"]
    assert [(one.id, one.revision) for one in store.unreadable()] == [(FERRY.id, 2)]
    with pytest.raises(UnreadableError, match="Revision 2 of the rig 'night-ferry-b' cannot be read"):
        store[RIG].one(FERRY.id)
    assert [kept.document and kept.document.name for kept in store[RIG].history(FERRY.id)] == [None, FERRY.name]
    assert store[RIG].undo(FERRY.id, 2).document == FERRY
    assert store.unreadable() == []


def test_a_profile_that_cannot_be_read_is_listed_as_broken(tmp_path: Path):
    store = Store(tmp_path / "rigs.sqlite")
    store[PROFILE].create(ours())
    execute(store.file, "UPDATE revision SET document = 'gone'")
    broken = OwnCatalogue(store).catalogue.broken
    assert str(broken["profile/our-phone"][0]).startswith(": Revision 1 of the profile of your own")


def test_a_folder_of_ones_own_is_taken_in_once_and_again_when_it_changes(tmp_path: Path):
    folder = tmp_path / "profiles"
    folder.mkdir()
    file = folder / "our-phone.yaml"
    file.write_text(as_yaml(ours()), encoding="utf-8")
    (folder / "bad.yaml").write_text("id: bad\n", encoding="utf-8")
    store = Store(tmp_path / "rigs.sqlite")
    own = OwnCatalogue(store, folder)
    assert own.catalogue.profiles["our-phone"] == ours()
    assert list(own.catalogue.broken) == [str(folder / "bad.yaml")]
    store[PROFILE].save("our-phone", ours(mass_g=999), 1)
    assert OwnCatalogue(store, folder).catalogue.profiles["our-phone"].mass_g == 999, "the file is not newer"
    file.write_text(as_yaml(ours(mass_g=500)), encoding="utf-8")
    assert OwnCatalogue(store, folder).catalogue.profiles["our-phone"].mass_g == 500
    assert [kept.document and kept.document.mass_g for kept in store[PROFILE].history("our-phone")][1:] == [
        999,
        ours().mass_g,
    ]


def test_what_changes_elsewhere_is_seen_by_every_catalogue(tmp_path: Path):
    one, other = (OwnCatalogue(Store(tmp_path / "rigs.sqlite")) for _ in range(2))
    assert one.catalogue is one.catalogue
    other.store[PROFILE].create(ours())
    assert one.catalogue.profiles["our-phone"] == ours()
    other.store[PROFILE].remove("our-phone")
    assert "our-phone" not in one.catalogue.profiles


def test_a_folder_has_one_owner(tmp_path: Path):
    with take(tmp_path / "data"), pytest.raises(OwnedError, match="belongs to an Isotact that runs already"):
        take(tmp_path / "data")
    take(tmp_path / "data").close()


def test_a_database_that_has_gone_is_not_made_anew_behind_our_back(tmp_path: Path):
    store = Store(tmp_path / "data" / "rigs.sqlite")
    store[RIG].create(FERRY)
    (tmp_path / "data").rename(tmp_path / "away")
    with pytest.raises(StorageError, match="is not there, or cannot be opened"):
        store[RIG].all()
    (tmp_path / "away").rename(tmp_path / "data")
    assert len(store[RIG].all()) == 1


def test_a_database_that_another_program_holds_is_said_so(tmp_path: Path, monkeypatch: pytest.MonkeyPatch):
    monkeypatch.setattr("isotact.store.store.PRAGMAS", {"foreign_keys": 1, "busy_timeout": 50})
    store = Store(tmp_path / "rigs.sqlite")
    with closing(sqlite3.connect(store.file)) as raw:
        raw.execute("BEGIN IMMEDIATE")
        with pytest.raises(StorageError, match="Another program holds the database"):
            store[RIG].create(FERRY)
        raw.execute("ROLLBACK")
    assert store[RIG].create(FERRY).revision == 1


def test_a_folder_that_cannot_be_written_to_is_said_so_and_still_read(tmp_path: Path):
    store = Store(tmp_path / "rigs.sqlite")
    store[RIG].create(FERRY)
    with store.reading():
        # Whoever runs the tests may be allowed everything: the database itself says what a locked folder makes it say.
        store._database.execute_sql("PRAGMA query_only = 1")
        with pytest.raises(StorageError, match=r"The data folder .* cannot be written to") as refused:
            store[RIG].save(FERRY.id, FERRY.model_copy(update={"name": "after"}), 1)
        assert (refused.value.code, store[RIG].one(FERRY.id).revision) == ("read-only", 1)
    assert store[RIG].save(FERRY.id, FERRY.model_copy(update={"name": "after"}), 1).revision == 2


def test_a_full_disk_is_said_so_and_loses_nothing(tmp_path: Path):
    store = Store(tmp_path / "rigs.sqlite")
    store[RIG].create(FERRY)
    with store.reading():
        store._database.execute_sql("PRAGMA max_page_count = 1")
        long = FERRY.model_copy(
            update={"devices": [one.model_copy(update={"note": "n" * 400}) for one in FERRY.devices]}
        )

        def fill_it() -> None:
            for number in range(1, 100):
                store[RIG].save(FERRY.id, long.model_copy(update={"name": f"n{number}"}), number)

        with pytest.raises(StorageError, match="The disk of this laptop is full") as full:
            fill_it()
    assert (full.value.code, full.value.hint) == ("disk-full", "Make room on it, then try again.")
    saved = store[RIG].one(FERRY.id)
    assert (
        store[RIG].save(FERRY.id, FERRY.model_copy(update={"name": "after"}), saved.revision).document.name == "after"
    )


def test_what_could_not_be_read_back_is_never_written(tmp_path: Path):
    store = Store(tmp_path / "rigs.sqlite")
    store[RIG].create(FERRY)
    for wrong in ({"name": "\ud800"}, {"note": "n" * 401}, {"name": "a\u202eb"}, {"camera": "AB"}):
        with pytest.raises(RefusedError):
            store[RIG].save(FERRY.id, FERRY.model_copy(update=wrong), 1)
    assert len(store[RIG].history(FERRY.id)) == 1
