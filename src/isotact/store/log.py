"""The log of what was done to a rig, step by step. Entries are only ever added; how the steps stand is read off them.

An entry is made on a phone that may be out of reach for a while. It bears an id of that phone's making, so that one
that is sent twice counts once, and it counts from when it was done, not from when it arrived.
"""

import json
from collections.abc import Callable, Sequence
from contextlib import AbstractContextManager
from datetime import UTC, datetime, timedelta
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from isotact.core.model.words import Text
from isotact.store.kinds import RIG
from isotact.store.shelf import Shelf
from isotact.store.tables import Tables

LONGEST_AWAY_S = 7 * 24 * 3600.0
"""So long may a phone have been out of reach: a week of shooting."""
CLEARED = "cleared"
_BOUNDS = ("created", CLEARED, "thrown away")
"""What ends what was before: a rig of the same id, or a new day."""

What = Literal["done", "taken-back", "skipped", "differs"]
"""What somebody says of a step: done, taken back, left out on purpose, or it does not look as it should."""


class Entry(BaseModel):
    """One thing done. `uid`: given by whoever made it. `ago_s`: how long ago, by the maker's own clock."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    uid: Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{8,64}$")]
    what: What
    subject: Annotated[str, Field(pattern=r"^[a-z0-9.:@~+-]+$", max_length=300)]
    ago_s: Annotated[float, Field(ge=0, le=LONGEST_AWAY_S, allow_inf_nan=False)] = 0.0
    reason: Text | None = None


class Mark(BaseModel):
    """How one step stands: what was said of it last, when, by whom, and on which revision of the rig."""

    what: What
    at: str
    person: str
    revision: int
    reason: str | None = None


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

    def add(self, key: str, entries: Sequence[Entry], revision: int, person: str = "") -> dict[str, Mark]:
        """Add entries to the log of a rig, those that are not there yet; returns how its steps stand.

        Raises NotFoundError for a rig that is not there.
        """
        with self._writing():
            self._rigs.row(key)
            known = self._known([entry.uid for entry in entries])
            for entry in entries:
                if entry.uid not in known:
                    known.add(entry.uid)
                    self._append(key, entry.what, revision, person, entry)
            return self.steps(key)

    def _known(self, uids: list[str]) -> set[str]:
        table = self._tables.Event
        return {event.uid for event in table.select(table.uid).where(table.uid.in_(uids))}

    def clear(self, key: str, person: str = "") -> None:
        """A new day: nothing is done yet. What was done is kept in the log."""
        with self._writing():
            row = self._rigs.row(key)
            if self.steps(key):
                self._append(key, CLEARED, row.head, person)

    def _append(self, key: str, what: str, revision: int, person: str, entry: Entry | None = None) -> None:
        done_at = datetime.now(UTC) - timedelta(seconds=entry.ago_s if entry else 0)
        self._tables.Event.create(
            uid=entry and entry.uid,
            at=moment(done_at),
            person=person,
            kind=RIG.name,
            id=key,
            what=what,
            revision=revision,
            subject=entry.subject if entry else "",
            data=json.dumps({"reason": entry.reason}, ensure_ascii=False) if entry and entry.reason else "",
        )

    def steps(self, key: str) -> dict[str, Mark]:
        """Step -> how it stands, for all of which anything was said since the day began."""
        database = self._tables.Event._meta.database
        with self._reading():
            self._rigs.row(key)
            rows = database.execute_sql(_LAST_OF_EACH, {"id": key}).fetchall()
        marks = {
            subject: Mark(
                what=what, at=at, person=person, revision=revision, reason=json.loads(data)["reason"] if data else None
            )
            for subject, what, at, person, revision, data in rows
        }
        return {subject: mark for subject, mark in marks.items() if mark.what != "taken-back"}


_OF_RIG = f"kind = '{RIG.name}' AND id = :id"
_LAST_OF_EACH = f"""
WITH day AS (
    SELECT sequence, at FROM event WHERE {_OF_RIG}
    AND what IN ({", ".join(f"'{what}'" for what in _BOUNDS)}) ORDER BY sequence DESC LIMIT 1
), step AS (
    SELECT DISTINCT subject FROM event WHERE {_OF_RIG} AND subject <> ''
)
SELECT said.subject, said.what, said.at, said.person, said.revision, said.data FROM step JOIN event AS said
ON said.sequence = (
    SELECT sequence FROM event WHERE {_OF_RIG} AND subject = step.subject AND subject <> ''
    AND sequence > COALESCE((SELECT sequence FROM day), 0) AND at >= COALESCE((SELECT at FROM day), '')
    ORDER BY at DESC, sequence DESC LIMIT 1
) ORDER BY said.subject
"""
"""Of several entries about a step the one that was done last counts, and of two at once the one that came last."""


def moment(at: datetime) -> str:
    """A moment to the thousandth of a second, always of one length: so that text in order is time in order."""
    return at.isoformat(timespec="milliseconds")
