"""Profiles, cable types and words of one's own: kept as revisions, taken in from a folder, read as a catalogue."""

import hashlib
from collections.abc import Iterable, Mapping
from pathlib import Path
from threading import RLock
from typing import Any

from isotact.catalogue import Catalogue, load_text, shipped
from isotact.catalogue.folders import checked
from isotact.catalogue.validation import Entry
from isotact.core.model.problems import Problem, RefusedError
from isotact.core.model.rig import Rig
from isotact.core.model.vocabulary import Words, declare
from isotact.store.kinds import CABLE, KIT, OWN, PROFILE, RIG, WORDS, Kind, kind_of
from isotact.store.revisions import UnreadableError
from isotact.store.shelf import now
from isotact.store.store import Store


class OwnCatalogue:
    """What ships and what is one's own, as it stands in the store; and files of a folder that could not be taken in.

    It is read again when an event says that something of it has changed, whoever changed it.
    """

    def __init__(self, store: Store, folder: Path | None = None) -> None:
        self.store, self._folder = store, folder
        self._lock = RLock()
        self._broken: dict[str, list[Problem]] = {}
        self._read_at = -1
        self._catalogue = shipped()
        if folder is not None:
            self._broken = take_in(store, folder)

    @property
    def catalogue(self) -> Catalogue:
        """The catalogue of this moment."""
        sequence = self.store.own_sequence()
        with self._lock:
            if sequence != self._read_at:
                self._catalogue = read_own(self.store, self._broken)
                self._read_at = sequence
            return self._catalogue

    @property
    def sequence(self) -> int:
        """The number of the event that `catalogue` was read at."""
        return self._read_at

    def beside(self, rig: Rig) -> dict[str, int]:
        """The revisions of one's own profiles, cable types and words that a rig is made with, by 'kind/id'."""
        catalogue = self.catalogue
        named = {device.profile for device in rig.devices} | {item.cable for item in rig.bag}
        heads = [(kind, self.store[kind].heads()) for kind in OWN] if has_own(catalogue) else []
        return {
            f"{kind}/{key}": number
            for kind, of_kind in heads
            for key, number in of_kind.items()
            if key in named or kind is WORDS
        }


def has_own(catalogue: Catalogue) -> bool:
    """Whether there is anything in it that does not ship."""
    ours = shipped()
    return (len(catalogue.profiles), len(catalogue.cables), len(catalogue.words)) != (
        len(ours.profiles),
        len(ours.cables),
        len(ours.words),
    )


def read_own(store: Store, broken: Mapping[str, list[Problem]] | None = None) -> Catalogue:
    """The catalogue with everything of one's own in it; what cannot be read is listed as broken."""
    ours = shipped()
    found = Catalogue(dict(ours.profiles), dict(ours.cables), dict(ours.words), {**ours.broken, **(broken or {})})
    shelves: dict[Any, dict[str, Any]] = {WORDS: found.words, PROFILE: found.profiles, CABLE: found.cables}
    with store.reading():
        for kind in OWN:
            for key, number, text in _heads(store, kind.name):
                try:
                    shelves[kind][key] = store[kind].read(key, number, text)
                except UnreadableError as error:
                    problem = Problem(
                        code="unreadable", path="", message=str(error), hint="Go back to the revision before."
                    )
                    found.broken[f"{kind}/{key}"] = [problem]
            if kind is WORDS:
                declare(found.words.values())
    return found


def read_words(store: Store) -> list[Words]:
    """The words of one's own that can be read."""
    with store.reading():
        return [saved.document for saved in store[WORDS].all()]


def _heads(store: Store, kind: str) -> Iterable[tuple[str, int, str]]:
    document, revision = store.tables.Document, store.tables.Revision
    shown = revision.alias()
    query = (
        document.select(document.id, document.head, shown.document)
        .join(revision, on=(revision.of == document.key) & (revision.number == document.head))
        .join(shown, on=(shown.of == document.key) & (shown.number == revision.shows))
        .where(document.kind == kind, document.removed_at.is_null())
        .order_by(document.id)
    )
    return [(key, number, text) for key, number, text in query.tuples()]


def take_in(store: Store, folder: Path) -> dict[str, list[Problem]]:
    """Take in every file of a folder that is new or was changed since; returns what cannot be taken in, by file.

    A file that was taken in once and is unchanged is left alone, so that what was done to its document since stands.
    """
    texts: dict[str, str] = {}
    broken: dict[str, list[Problem]] = {}
    for file in sorted(folder.rglob("*.yaml")) if folder.is_dir() else []:
        try:
            texts[str(file)] = load_text(file)
        except RefusedError as error:
            broken[str(file)] = error.problems
    table = store.tables.TakenIn
    with store.reading():
        known = {row.digest for row in table.select()}
    new = {file: text for file, text in texts.items() if _digest(text) not in known}
    if not new:
        return broken
    # Words first: what uses them is read with them.
    for words_only in (True, False):
        part = {file: text for file, text in new.items() if ("isotact/words" in text) == words_only}
        with store.writing():
            broken |= _taken(store, part)
    return broken


def _taken(store: Store, texts: Mapping[str, str]) -> dict[str, list[Problem]]:
    broken: dict[str, list[Problem]] = {}
    known = read_words(store)
    declare(known)
    for file, text in texts.items():
        try:
            entry = checked(Path(file), text, known)
            must_not_ship(entry)
            keep_one(store, entry, over=None)
        except RefusedError as error:
            broken[file] = [one.model_copy(update={"file": one.file or file}) for one in error.problems]
            continue
        store.tables.TakenIn.insert(digest=_digest(text), taken_at=now()).on_conflict_ignore().execute()
        if isinstance(entry, Words):
            known = [*(one for one in known if one.id != entry.id), entry]
    return broken


def _digest(text: str) -> str:
    return hashlib.sha256(text.encode("utf-8")).hexdigest()


def must_not_ship(entry: Entry) -> None:
    """Refuse a document that has the id of one that ships."""
    ours = shipped()
    if entry.id in ours.profiles or entry.id in ours.cables:
        message = f"found the id '{entry.id}', which belongs to what ships with the application."
        raise RefusedError([Problem(code="id-taken", path="id", message=message, hint="Give yours another id.")])


def keep_one(store: Store, entry: Entry, over: int | None) -> int:
    """Keep one document as the next revision of its own; `over` is the one that it was made on, None for the newest.

    Stands inside a transaction. Returns its revision. Raises RefusedError for an id that is another kind's,
    StaleWriteError.
    """
    kind: Any = kind_of(entry)
    _same_kind(store, entry)
    shelf: Any = store[kind]
    head = shelf.heads().get(entry.id)
    if head is None and entry.id in shelf.ids():
        # One that was removed comes back with its history.
        head = shelf.restore(entry.id).revision
    if head is None:
        return int(shelf.create(entry).revision)
    return int(shelf.save(entry.id, entry, head if over is None else over).revision)


def _same_kind(store: Store, entry: Entry) -> None:
    for kind in OWN:
        if kind is not kind_of(entry) and entry.id in store[kind].ids():
            message = f"found the id '{entry.id}', which belongs to a {kind.says}."
            raise RefusedError([Problem(code="id-taken", path="id", message=message, hint="Give this one another id.")])


def users_of(store: Store, entry_kind: str, key: str) -> list[str]:
    """What uses a profile or cable type of one's own: rigs and kits, in any revision, those in the bin too."""
    text = f'"{entry_kind}":"{key}"'
    kinds: tuple[Kind[Any], ...] = (RIG, KIT)
    return [f"{kind.says} '{one}'" for kind in kinds for one in sorted(store[kind].naming(text))]
