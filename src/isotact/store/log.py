"""The log of what was done to a rig. Entries are only ever added; how things stand is read off them.

Of one that is there nothing is changed but a time that has not come yet, which a clock that was ahead has written.

An entry is made on a phone that may be out of reach for a while. It bears an id of that phone's making, so that one
that is sent twice counts once, and it counts from when it was done, not from when it arrived.
"""

import json
from collections.abc import Callable, Sequence
from contextlib import AbstractContextManager
from datetime import UTC, datetime, timedelta
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from isotact.core.diagnosis.findings import answered
from isotact.core.model.incidents import NOTED, Noted
from isotact.core.model.problems import IsotactError
from isotact.core.model.words import AnswerKind, LongText, Name
from isotact.core.proofs import Reading
from isotact.store.kinds import RIG
from isotact.store.shelf import Shelf
from isotact.store.tables import Tables

LONGEST_AWAY_S = 7 * 24 * 3600.0
"""So long may a phone have been out of reach: a week of shooting."""
JUST_NOW_S = 60.0
"""What is said of the last minute counts after what bears a time that is to come: so long a phone may have tried."""
MOST_FINDS = 2000
"""So many finds are counted, the last ones: some seasons, and gear changes."""
CLEARED = "cleared"
_BOUNDS = ("created", CLEARED, "thrown away")
"""What ends what was before: a rig of the same id, or a new day."""

OfStep = Literal["done", "taken-back", "skipped", "differs", "spoilt"]
"""How a step stands: done, taken back, left out on purpose, does not look as it should, or undone by what happened."""
OfSearch = Literal["looked", "unlooked", "found", "given-up"]
"""Of a search for what is wrong: an answer, one taken back; what it was, or that nobody found it."""
What = Literal["done", "taken-back", "skipped", "differs", "given", "note", "tried"] | OfSearch | Noted
"""What somebody says: of a step, of a device to which something happened, of who is to do what, of a search, or so."""
_OF_STEPS = ("done", "taken-back", "skipped", "differs", "spoilt")

PHOTO = r"^[0-9a-f]{64}$"
PhotoId = Annotated[str, Field(pattern=PHOTO)]
"""The SHA-256 of a photo, under which it is kept."""


class Entry(BaseModel):
    """One thing done or said.

    `uid`: given by whoever made it. `ago_s`: how long ago, by the maker's own clock. `subject`: a step, a device, a
    recipe; empty for the whole rig. `to`: whom a step, a stage or a device is given to; nobody takes it back. `worked`:
    of a recipe that was tried. `answer`: what a look gave, in the words of `reason` where it was seen.
    `fault_kind`: of what was found, by which finds are counted.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    uid: Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{8,64}$")]
    what: What
    subject: Annotated[str, Field(pattern=r"^[a-z0-9.:@~+#/-]*$", max_length=300)]
    ago_s: Annotated[float, Field(ge=0, le=LONGEST_AWAY_S, allow_inf_nan=False, strict=True)] = 0.0
    reason: LongText | None = None
    readings: Annotated[tuple[Reading, ...], Field(max_length=20)] = ()
    photos: Annotated[tuple[PhotoId, ...], Field(max_length=8)] = ()
    to: Annotated[Name, Field(max_length=60)] | None = None
    worked: bool | None = None
    answer: AnswerKind | None = None
    fault_kind: Annotated[str, Field(pattern=r"^[a-z/-]*$", max_length=80)] | None = None

    @model_validator(mode="after")
    def _says_something(self) -> "Entry":
        if self.what == "note" and not (self.reason or self.photos):
            raise ValueError("found a note without words or photo; write what is to be kept")
        if self.what != "note" and not self.subject:
            raise ValueError("found no subject; name the step, the device or the recipe that it is about")
        if (self.what == "looked") != (self.answer is not None):
            raise ValueError("found a look without its 'answer', or an answer without a look; a look has both")
        if (self.what == "tried") != (self.worked is not None):
            raise ValueError(
                "found a try without 'worked', or 'worked' without a try; a recipe that was tried has both"
            )
        return self

    @property
    def happened(self) -> Noted | None:
        """What happened, where the entry tells of something that happened to a device."""
        return next((one for one in NOTED if one == self.what), None)


class Mark(BaseModel):
    """How one step stands: what was said of it last, when, by whom, and on which revision of the rig."""

    what: OfStep
    at: str
    person: str
    revision: int
    reason: str | None = None
    readings: tuple[Reading, ...] = ()
    photos: tuple[str, ...] = ()


class Answered(BaseModel):
    """One answer of a search under way, by whom and when: what was seen at which look, so `times` in a row."""

    look: str
    answer: AnswerKind
    saw: str
    at: str
    person: str
    times: int = 1


class Befallen(BaseModel):
    """What happened to a device in the course of the day."""

    what: Noted
    device: str
    at: str


class Stands(BaseModel):
    """How a rig's day stands: step -> how it stands; step, stage or device -> whose it is.

    `happened`: what befell devices, in that order. `search`: what was seen since the search for what is wrong began;
    None where nobody searches.
    """

    steps: dict[str, Mark]
    given: dict[str, str]
    happened: tuple[Befallen, ...] = ()
    search: tuple[Answered, ...] | None = None


class About(BaseModel):
    """What an entry is about, for who reads the log: how that is called, and at which device it is."""

    words: str = ""
    device: str = ""


class Spoiling(BaseModel):
    """What an entry undid: the steps that have to be done again, and why."""

    steps: tuple[str, ...]
    says: str


class Looked(BaseModel):
    """What entries are about, by subject, and what those undid that tell of something that happened, by uid."""

    about: dict[str, About] = {}
    spoilt: dict[str, Spoiling] = {}

    def of(self, subject: str) -> dict[str, str]:
        """The subject and what is known of it, as columns of the log."""
        return {"subject": subject, **self.about.get(subject, About()).model_dump()}


class Log:
    """The entries of every rig in one database file."""

    def __init__(
        self,
        tables: Tables,
        rigs: Shelf[Any],
        reading: Callable[[], AbstractContextManager[None]],
        writing: Callable[[], AbstractContextManager[None]],
    ) -> None:
        self._tables, self._rigs, self._reading, self._writing = tables, rigs, reading, writing

    def add(
        self,
        key: str,
        entries: Sequence[Entry],
        revision: int,
        person: str = "",
        looked: Looked | None = None,
        arrived: datetime | None = None,
    ) -> Stands:
        """Add entries to the log of a rig, those that are not there yet; returns how it stands.

        `arrived`: when they came in, from which it is reckoned when each was done; now, if it is not given. Raises
        NotFoundError for a rig that is not there, IsotactError for an id that was sent before with something else.
        """
        arrived = arrived or datetime.now(UTC)
        looked = looked or Looked()
        with self._writing():
            self._rigs.row(key)
            self._set_right(key, arrived - timedelta(seconds=JUST_NOW_S))
            known = self._known([entry.uid for entry in entries])
            for entry in entries:
                said = (key, entry.what, entry.subject, entry.reason or "", _more(entry))
                if entry.uid not in known:
                    known[entry.uid] = said
                    at = moment(arrived - timedelta(seconds=entry.ago_s))
                    self._append(entry, looked, at=at, kind=RIG.name, id=key, revision=revision, person=person)
                elif known[entry.uid] != said:
                    raise IsotactError(
                        f"Found the id '{entry.uid}' a second time, about something else; give each its own."
                    )
            return self.stands(key)

    def _known(self, uids: list[str]) -> dict[str, tuple[str, ...]]:
        """Of those ids that are there, what was said with each."""
        table = self._tables.Event
        rows = table.select(table.uid, table.id, table.what, table.subject, table.text, table.data)
        found = rows.where(table.uid.in_(uids)).tuples()
        return {uid: tuple(said) for uid, *said in found}

    def _set_right(self, key: str, just_now: datetime) -> None:
        """Nothing was done later than now: what a clock that was ahead has written was done just now, in its order.

        Otherwise nothing that is said from here on would count until that moment has come.
        """
        table, now = self._tables.Event, moment(datetime.now(UTC))
        late = table.update(at=moment(just_now)).where(table.kind == RIG.name, table.id == key, table.at > now)
        late.execute()

    def clear(self, key: str, person: str = "") -> None:
        """A new day: nothing is done yet. What was done is kept in the log."""
        with self._writing():
            row = self._rigs.row(key)
            now = datetime.now(UTC)
            self._set_right(key, now)
            self._tables.Event.create(
                at=moment(now),
                person=person,
                kind=RIG.name,
                id=key,
                what=CLEARED,
                revision=row.head,
                words="A new day",
            )

    def _append(self, entry: Entry, looked: Looked, **origin: Any) -> None:
        """What an entry undid is undone from when it was done: a tick that was made before and comes later is, too."""
        self._tables.Event.create(
            **origin,
            **looked.of(entry.subject),
            uid=entry.uid,
            what=entry.what,
            text=entry.reason or "",
            data=_more(entry),
        )
        spoilt = looked.spoilt.get(entry.uid)
        for number, step in enumerate(spoilt.steps if spoilt else ()):
            uid, says = f"{entry.uid}.{number}", spoilt.says if spoilt else ""
            self._tables.Event.create(**origin, **looked.of(step), uid=uid, what="spoilt", text=says)

    def stands(self, key: str) -> Stands:
        """How a rig's day stands: all of which anything was said since it began."""
        with self._reading():
            self._rigs.row(key)
            steps, given = self._run(_LAST_OF_STEPS, key), self._run(_LAST_GIVEN, key)
            others = self._run(_OF_SEARCH, key)
        marks = {}
        for subject, what, at, person, revision, text, data, was_said in steps:
            # What was never done cannot be undone; that it would have been is kept for a phone that is out of reach.
            if what != "taken-back" and (what != "spoilt" or was_said):
                more = json.loads(data) if data else {}
                marks[subject] = Mark(
                    what=what,
                    at=at,
                    person=person,
                    revision=revision,
                    reason=text or None,
                    readings=more.get("readings", ()),
                    photos=more.get("photos", ()),
                )
        whose = {subject: to for subject, data in given if data and (to := json.loads(data).get("to"))}
        happened = [Befallen(what=what, device=subject, at=at) for what, subject, at, *_ in others if what in NOTED]
        return Stands(steps=marks, given=whose, happened=tuple(happened), search=_search(others))

    def finds(self) -> dict[str, int]:
        """How often each kind of fault was found, over all rigs and days."""
        query = "SELECT data FROM event WHERE what = 'found' ORDER BY sequence DESC LIMIT ?"
        found: dict[str, int] = {}
        with self._reading():
            rows = self._tables.Event._meta.database.execute_sql(query, [MOST_FINDS]).fetchall()
        for (data,) in rows:
            kind = json.loads(data).get("fault_kind") if data else None
            if kind:
                found[kind] = found.get(kind, 0) + 1
        return dict(sorted(found.items()))

    def steps(self, key: str) -> dict[str, Mark]:
        """Step -> how it stands, for all of which anything was said since the day began."""
        return self.stands(key).steps

    def of_steps(self, key: str) -> list[tuple[str, str, str, str, int]]:
        """What was said of steps, and where days ended, in the order in which it was done.

        Each: what, of which step, when, by whom, on which revision.
        """
        query = (
            f"SELECT what, subject, at, person, revision FROM event WHERE {_OF_RIG} "
            f"AND (subject <> '' OR what = '{CLEARED}') ORDER BY at, sequence"
        )
        with self._reading():
            self._rigs.row(key)
            return self._run(query, key)

    def _run(self, query: str, key: str) -> list[tuple[Any, ...]]:
        database = self._tables.Event._meta.database
        found: list[tuple[Any, ...]] = database.execute_sql(query, {"id": key}).fetchall()
        return found


def _search(rows: list[tuple[Any, ...]]) -> tuple[Answered, ...] | None:
    """The answers of the search under way, in the order in which they were given first."""
    found: list[Answered] | None = None
    for what, subject, at, person, text, data in rows:
        if what in ("found", "given-up"):
            found = None
        elif what == "unlooked" and found is not None:
            last = next((one for one in reversed(found) if one.look == subject), None)
            found = [one for one in found if one is not last]
        elif what == "looked":
            answer = json.loads(data)["answer"]
            found = answered(found or [], Answered(look=subject, answer=answer, saw=text, at=at, person=person))
    return None if found is None else tuple(found)


def _more(entry: Entry) -> str:
    """What goes with an entry besides its words, as JSON; nothing where there is nothing."""
    more = entry.model_dump(
        mode="json", include={"readings", "photos", "to", "worked", "answer", "fault_kind"}, exclude_defaults=True
    )
    return json.dumps(more, ensure_ascii=False) if more else ""


_OF_RIG = f"kind = '{RIG.name}' AND id = :id"
_DAY = f"""
WITH RECURSIVE day AS (
    SELECT sequence, at FROM event WHERE {_OF_RIG}
    AND what IN ({", ".join(f"'{what}'" for what in _BOUNDS)}) ORDER BY sequence DESC LIMIT 1
)"""
_SINCE = "sequence > COALESCE((SELECT sequence FROM day), 0) AND at >= COALESCE((SELECT at FROM day), '')"
_EACH = f"""{_DAY}, step (subject) AS (
    SELECT MIN(subject) FROM event WHERE {_OF_RIG} AND subject <> ''
    UNION ALL
    SELECT (SELECT MIN(subject) FROM event WHERE {_OF_RIG} AND subject <> '' AND subject > step.subject) FROM step
    WHERE step.subject IS NOT NULL
)"""
"""Every subject once, from one to the next along the index: a season has a hundred of them and a great many entries."""
_LAST = f"""SELECT sequence FROM event {{by}} WHERE {_OF_RIG} AND subject = step.subject AND subject <> '' AND {{which}}
    AND {_SINCE} ORDER BY at DESC, sequence DESC LIMIT 1"""
_LAST_OF_STEPS = f"""{_EACH}
SELECT said.subject, said.what, said.at, said.person, said.revision, said.text, said.data,
    EXISTS ({_LAST.format(which="what IN ('done', 'skipped', 'differs')", by="")})
FROM step JOIN event AS said ON said.sequence = (
    {_LAST.format(which=f"what IN ({', '.join(repr(kind) for kind in _OF_STEPS)})", by="")}
) ORDER BY said.subject
"""
_OF_SEARCH = f"""{_DAY}
SELECT what, subject, at, person, text, data FROM event INDEXED BY event_of_search WHERE {_OF_RIG} AND what IN (
    'looked', 'unlooked', 'found', 'given-up', 'restarted', 'battery-changed'
) AND {_SINCE} ORDER BY at, sequence
"""
_LAST_GIVEN = f"""{_EACH}
SELECT said.subject, said.data FROM step JOIN event AS said ON said.sequence = (
    {_LAST.format(which="what = 'given'", by="INDEXED BY event_given")}
) ORDER BY said.subject
"""
"""Of several entries about a step the one that was done last counts, and of two at once the one that came last."""


def moment(at: datetime) -> str:
    """A moment to the thousandth of a second, always of one length: so that text in order is time in order."""
    return at.isoformat(timespec="milliseconds")
