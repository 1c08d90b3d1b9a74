"""Everything in a file or a folder, and back: the same state again, while it runs; what is wrong is refused whole."""

import json
import shutil
import sqlite3
from contextlib import closing
from pathlib import Path
from threading import Event, Thread
from time import sleep
from typing import Any

import pytest

from isotact.catalogue.packs import read_pack
from isotact.core.model import IsotactError, RefusedError
from isotact.core.model.vocabulary import Words, also_known, declare, vocabulary
from isotact.store import KIT, PROFILE, RIG, Entry, NewerError, OwnCatalogue, Store, Wanted
from isotact.store.backup import TABLES, _rows, backup, export, restore, take_in_export
from isotact.store.own_catalogue import keep_one
from tests.house_pack import PACK
from tests.store.earlier import FERRY, VAN, write
from tests.store.saying import said
from tests.store.test_photos import picture
from tests.store.test_recovery import ours


@pytest.fixture
def store(tmp_path: Path) -> Store:
    """A store with something of everything in it."""
    store = Store(tmp_path / "data" / "isotact.sqlite")
    store[RIG].create(FERRY)
    store[RIG].save(FERRY.id, FERRY.model_copy(update={"name": "later", "note": "wet: “two” lines\nof it"}), 1)
    store[RIG].undo(FERRY.id, 2)
    store[RIG].create(FERRY.model_copy(update={"id": "gone"}))
    store[RIG].remove("gone")
    store[KIT].create(VAN)
    store[PROFILE].create(ours())
    said(store, "done", "wake:body")
    photo = store.photos.add(picture())
    note = Entry(uid="entry-with-photo", what="note", subject="", reason="The quay at night", photos=(photo.id,))
    store.log.add(FERRY.id, [note], 3, "Ada")
    store.sign_ins.begin("Bo", "tick")
    return store


def everything(store: Store) -> dict[str, list[dict[str, Any]]]:
    """Every row but the events, of which restoring adds one."""
    return {table: _rows(store.file, table) for table in TABLES if table != "event"}


def photos(store: Store) -> dict[str, bytes]:
    return {key: store.photos.read(key) for key in store.photos.all()}


def found(store: Store) -> list[str]:
    """What the book finds, by words that only one entry has."""
    return [line.text for line in store.book.lines(Wanted(words="quay"))]


def spoil(store: Store) -> None:
    shutil.rmtree(store.photos.folder)
    store[RIG].save(FERRY.id, FERRY.model_copy(update={"name": "spoilt"}), 3)
    store[KIT].remove("van")
    store.log.clear(FERRY.id)


def test_a_backup_is_restored_to_the_same_state(store: Store, tmp_path: Path):
    before, pictures = everything(store), photos(store)
    assert len(pictures) == 1
    assert backup(store, tmp_path / "all.backup") > 0
    spoil(store)
    kept = restore(store, tmp_path / "all.backup")
    assert everything(store) == before
    assert photos(store) == pictures
    assert found(store) == ["The quay at night"]
    assert [one.person for one in store.sign_ins.all()] == ["Bo"]
    assert store.events(0)[-1].what == "restored"
    restore(store, kept)
    assert store[RIG].one(FERRY.id).document.name == "spoilt", "what stood before is not lost either"


def test_who_was_sent_away_does_not_come_back_with_a_backup(store: Store, tmp_path: Path):
    token, begun = store.sign_ins.begin("Cy", "edit")
    backup(store, tmp_path / "all.backup")
    store.sign_ins.end(begun.key)
    restore(store, tmp_path / "all.backup")
    assert store.sign_ins.who(token) is None
    assert [one.person for one in store.sign_ins.all()] == ["Bo"]


def test_nobody_joins_by_what_is_brought_along(store: Store, tmp_path: Path):
    """Neither by a backup of another laptop, nor by an export whose rows somebody wrote by hand."""
    other = Store(tmp_path / "other" / "isotact.sqlite")
    token, _ = other.sign_ins.begin("Dee", "edit")
    backup(other, tmp_path / "all.backup")
    export(other, tmp_path / "all")
    row = {"table": "sign_in", **_rows(other.file, "sign_in")[0]}
    with (tmp_path / "all" / "history.jsonl").open("a", encoding="utf-8") as history:
        history.write(json.dumps(row) + "\n")
    restore(store, tmp_path / "all.backup")
    assert store.sign_ins.who(token) is None
    take_in_export(store, tmp_path / "all")
    assert store.sign_ins.who(token) is None
    assert [one.person for one in store.sign_ins.all()] == ["Bo"], "who is here stays"


def test_a_backup_that_breaks_off_is_no_file(store: Store, tmp_path: Path, monkeypatch: pytest.MonkeyPatch):
    def gone(key: str) -> bytes:
        raise KeyboardInterrupt

    monkeypatch.setattr(store.photos, "read", gone)
    with pytest.raises(KeyboardInterrupt):
        backup(store, tmp_path / "all.backup")
    assert [file.name for file in tmp_path.iterdir() if file.is_file()] == []


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ("DELETE FROM photo_kept", "found 0 photos; 1 were written"),
        ("DROP TABLE photo_kept", "found 0 photos; 1 were written"),
        ("DELETE FROM event WHERE uid IS NOT NULL", "rows of event; "),
        ("UPDATE event SET person = 'Eve'", "rows of event were changed"),
        ("UPDATE backup_holds SET rows = 7 WHERE name = 'revision'", "rows of revision; 7 were written"),
    ],
)
def test_a_backup_that_is_not_as_it_was_written_is_refused(store: Store, tmp_path: Path, change: str, says: str):
    backup(store, tmp_path / "all.backup")
    with closing(sqlite3.connect(tmp_path / "all.backup")) as raw, raw:
        raw.execute(change)
    before = everything(store)
    with pytest.raises(IsotactError, match=f"is not as it was written: .*{says}"):
        restore(store, tmp_path / "all.backup")
    assert everything(store) == before


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ("DROP TABLE event", "is no backup of Isotact's"),
        ("DROP TABLE revision", "is no backup of Isotact's"),
        ("UPDATE event SET sequence = 9223372036854775807 WHERE sequence = 1", "has the number 9223372036854775807"),
        ("UPDATE event SET data = '{' WHERE uid IS NOT NULL", "holds data that is no JSON"),
        ("UPDATE event SET data = '[1]' WHERE uid IS NOT NULL", "holds data that is no JSON"),
    ],
)
def test_a_backup_whose_rows_make_no_sense_is_refused_in_words(store: Store, tmp_path: Path, change: str, says: str):
    """One without a manifest, as earlier versions made them."""
    backup(store, tmp_path / "all.backup")
    with closing(sqlite3.connect(tmp_path / "all.backup")) as raw, raw:
        raw.execute("DROP TABLE backup_holds")
        raw.execute(change)
    before, pictures = everything(store), photos(store)
    with pytest.raises(IsotactError, match=says):
        restore(store, tmp_path / "all.backup")
    assert (everything(store), photos(store)) == (before, pictures)


def test_whoever_listens_hears_of_it_though_numbers_went_back(store: Store, tmp_path: Path):
    backup(store, tmp_path / "all.backup")
    own = OwnCatalogue(store)
    assert "our-phone" in own.catalogue.profiles
    for number in range(1, 20):
        store[PROFILE].save("our-phone", ours(mass_g=100 + number), number)
    heard = store.sequence()
    restore(store, tmp_path / "all.backup")
    assert [(event.kind, event.what) for event in store.events(heard)] == [("all", "restored")]
    assert own.catalogue.profiles["our-phone"] == ours()


def test_a_write_beside_a_restore_is_kept_in_one_of_the_two(store: Store, tmp_path: Path):
    backup(store, tmp_path / "all.backup")
    written: list[str] = []
    done = Event()

    def write_on() -> None:
        while not done.is_set():
            key = f"beside-{len(written)}"
            store[RIG].create(FERRY.model_copy(update={"id": key}))
            written.append(key)

    writer = Thread(target=write_on)
    writer.start()
    while len(written) < 5:
        sleep(0.005)
    kept = restore(store, tmp_path / "all.backup")
    done.set()
    writer.join()
    before = {row["id"] for row in _rows(kept, "document")}
    assert set(written) <= before | store[RIG].ids()
    numbers = [event.sequence for event in store.events(0, count=10_000)]
    assert numbers == sorted(set(numbers))


def test_a_backup_of_an_earlier_version_is_brought_up_to_date(store: Store, tmp_path: Path):
    write(tmp_path / "old.sqlite", 2)
    old = (tmp_path / "old.sqlite").read_bytes()
    restore(store, tmp_path / "old.sqlite")
    assert store[RIG].one(FERRY.id).document.name == "second"
    assert (tmp_path / "old.sqlite").read_bytes() == old


@pytest.mark.parametrize("wrong", ["folder", "noise", "other", "newer", "cut"])
def test_what_is_no_backup_is_refused_and_nothing_changes(store: Store, tmp_path: Path, wrong: str):
    file = tmp_path / "wrong"
    backup(store, tmp_path / "good")
    match wrong:
        case "folder":
            file.mkdir()
        case "noise":
            file.write_bytes(b"x" * 5000)
        case "cut":
            file.write_bytes((tmp_path / "good").read_bytes()[:9000])
        case "other" | "newer":
            with closing(sqlite3.connect(file)) as raw:
                raw.execute("CREATE TABLE a (b)")
                if wrong == "newer":
                    raw.execute("CREATE TABLE migration (name, done_at)")
                    raw.execute("PRAGMA user_version = 99")
                raw.commit()
    before = everything(store)
    with pytest.raises(NewerError if wrong == "newer" else IsotactError):
        restore(store, file)
    assert everything(store) == before


def test_nothing_is_overwritten(store: Store, tmp_path: Path):
    (tmp_path / "there").write_text("mine", encoding="utf-8")
    for write_it in (backup, export):
        with pytest.raises(IsotactError, match="is there already"):
            write_it(store, tmp_path / "there")
    assert (tmp_path / "there").read_text(encoding="utf-8") == "mine"


def test_an_export_is_taken_in_to_the_same_state(store: Store, tmp_path: Path):
    before = everything(store)
    counts = export(store, tmp_path / "out")
    assert counts == {"words": 0, "profiles": 1, "cables": 0, "jobs": 0, "kits": 1, "recipes": 0, "rigs": 1}
    assert sorted(one.name for one in (tmp_path / "out").iterdir()) == [
        "cables", "history.jsonl", "isotact.json", "jobs", "kits", "photos", "profiles", "recipes", "rigs", "words",
    ]  # fmt: skip
    other = Store(tmp_path / "other" / "isotact.sqlite")
    take_in_export(other, tmp_path / "out")
    assert everything(other) == before
    assert photos(other) == photos(store)
    assert found(other) == ["The quay at night"]
    spoil(store)
    take_in_export(store, tmp_path / "out")
    assert everything(store) == before
    assert len(photos(store)) == 1


def test_a_document_changed_by_hand_comes_in_as_the_next_revision(store: Store, tmp_path: Path):
    export(store, tmp_path / "out")
    file = tmp_path / "out" / "rigs" / f"{FERRY.id}.yaml"
    file.write_text(file.read_text(encoding="utf-8").replace(f"name: {FERRY.name}", "name: by hand"), encoding="utf-8")
    _, changed = take_in_export(store, tmp_path / "out")
    assert changed == 1
    saved = store[RIG].one(FERRY.id)
    assert (saved.document.name, saved.revision) == ("by hand", 4)


def test_an_export_with_words_of_ones_own_goes_out_and_comes_in_whole(tmp_path: Path):
    """As the command line does it, in a process that has heard of none of the words."""
    store = Store(tmp_path / "data" / "isotact.sqlite")
    found = read_pack(PACK)
    with also_known([one for one in found if isinstance(one, Words)]), store.writing():
        for one in found:
            keep_one(store, one, None)
    declare([])
    assert export(store, tmp_path / "out")["profiles"] == 2
    file = tmp_path / "out" / "profiles" / "puck.yaml"
    file.write_text(file.read_text(encoding="utf-8").replace("name: Puck", "name: Flat puck"), encoding="utf-8")
    other = Store(tmp_path / "other" / "isotact.sqlite")
    assert take_in_export(other, tmp_path / "out")[1] == 1
    assert vocabulary().documents == ()
    assert OwnCatalogue(other).catalogue.profiles["puck"].name == "Flat puck"


@pytest.mark.parametrize("wrong", ["line", "head", "yaml", "column", "orphan", "missing", "photo"])
def test_an_export_with_anything_wrong_is_refused_whole(store: Store, tmp_path: Path, wrong: str):
    out = tmp_path / "out"
    export(store, out)
    history = out / "history.jsonl"
    lines = history.read_text(encoding="utf-8").splitlines()
    match wrong:
        case "line":
            lines[2] = lines[2][:30]
        case "column":
            lines[0] = json.dumps({**json.loads(lines[0]), "more": 1})
        case "orphan":
            lines = [line for line in lines if json.loads(line)["table"] != "document"]
        case "head":
            (out / "isotact.json").write_text('{"format": "other"}', encoding="utf-8")
        case "photo":
            next((out / "photos").iterdir()).write_bytes(b"another")
        case "yaml":
            (out / "rigs" / f"{FERRY.id}.yaml").write_text("format: isotact/rig\nversion: 1\n", encoding="utf-8")
    history.write_text("\n".join(lines) + "\n", encoding="utf-8")
    if wrong == "missing":
        history.unlink()
    before = everything(store)
    with pytest.raises(IsotactError) as refused:
        take_in_export(store, out)
    assert everything(store) == before
    if wrong == "line":
        assert isinstance(refused.value, RefusedError)
        assert str(refused.value).startswith(f"{history}:3: found no row of one of our tables")
