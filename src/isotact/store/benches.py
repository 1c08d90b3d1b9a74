"""Benches and exercises, as how each began and what was done since, move by move; and what came of exercises."""

import json
import secrets
from collections.abc import Callable
from contextlib import AbstractContextManager
from datetime import UTC, datetime
from typing import Any, Literal

from pydantic import BaseModel

from isotact.core.model.problems import IsotactError, NotFoundError
from isotact.store.author import person
from isotact.store.tables import Tables

MOST_KEPT = 60
"""So many benches are kept: a week of trying things out. The one that was begun first makes room."""
MOST_OF_A_BEGINNING = 1_000_000
"""Characters of a rig's document: the largest rigs have a tenth of that, and sixty of these are kept."""
MOST_MOVES = 6000
"""So many moves has one bench: more than a day of hands without a break."""
MOST_TRAINED = 1000
"""So many exercises are looked through for what somebody tends to miss: three a day for a year."""
TRAINED = "trained"
"""Under what name it stands in the data of its line of the log."""
Sort = Literal["bench", "exercise"]
ID_BYTES = 6
"""Enough that no two ever meet; it is no secret."""


class BenchLine(BaseModel):
    """A bench, as it is listed. `moves`: how many count; `could_redo`: how many were undone since."""

    id: str
    rig: str
    name: str
    moves: int
    could_redo: int
    made_at: str
    person: str


class BenchHistory(BaseModel):
    """How a bench began, and the moves that count, each as JSON."""

    line: BenchLine
    beginning: str
    moves: list[str]


class Benches:
    """The benches of one database file."""

    def __init__(
        self,
        tables: Tables,
        reading: Callable[[], AbstractContextManager[None]],
        writing: Callable[[], AbstractContextManager[None]],
    ) -> None:
        self._tables, self._reading, self._writing = tables, reading, writing

    def begin(self, rig: str, name: str, beginning: str, what: Sort = "bench") -> BenchLine:
        """A new bench of a rig, or an exercise; the oldest of all makes room where there are too many."""
        if len(beginning) > MOST_OF_A_BEGINNING:
            raise IsotactError(f"This rig has {len(beginning):,} characters; a bench takes {MOST_OF_A_BEGINNING:,}.")
        table = self._tables.Bench
        with self._writing():
            row = table.create(
                id=secrets.token_hex(ID_BYTES), what=what, rig=rig, name=name, beginning=beginning, moves=0,
                made_at=_now(), person=person.get(),
            )  # fmt: skip
            kept = table.select(table.key).order_by(table.key.desc()).limit(MOST_KEPT)
            table.delete().where(table.key.not_in(kept)).execute()
            return self._line(row)

    def all(self, rig: str | None = None) -> list[BenchLine]:
        """Every bench, or those of one rig, the newest first."""
        table = self._tables.Bench
        with self._reading():
            rows = table.select().where(table.what == "bench").order_by(table.key.desc())
            return [self._line(row) for row in (rows if rig is None else rows.where(table.rig == rig))]

    def history(self, key: str, what: Sort = "bench") -> BenchHistory:
        """How one began and what was done. Raises NotFoundError."""
        moves = self._tables.BenchMove
        with self._reading():
            row = self._row(key)
            if row.what != what:
                raise NotFoundError(what, key, ())
            found = moves.select(moves.move).where(moves.of == row.key, moves.number < row.moves)
            texts = [move for (move,) in found.order_by(moves.number).tuples()]
            return BenchHistory(line=self._line(row), beginning=row.beginning, moves=texts)

    def add(self, key: str, move: str) -> int:
        """Something more was done; what had been undone is gone with it. Returns how many moves count now."""
        moves = self._tables.BenchMove
        with self._writing():
            row = self._row(key)
            if row.moves >= MOST_MOVES:
                raise IsotactError(f"This bench has {MOST_MOVES:,} moves, and takes no more. Start a new one.")
            moves.delete().where(moves.of == row.key, moves.number >= row.moves).execute()
            moves.create(of=row.key, number=row.moves, move=move, made_at=_now(), person=person.get())
            return self._count(row, row.moves + 1)

    def go_to(self, key: str, count: int) -> int:
        """Have only the first `count` moves count, or some of those that were undone as well."""
        with self._writing():
            row = self._row(key)
            most = row.all_moves.count()
            if count > most:
                raise IsotactError(f"Found {count} moves; this bench has {most}. Give a number up to that.")
            return self._count(row, count)

    def finished(self, rig: str, words: str, text: str, trained: dict[str, Any]) -> None:
        """Keep what came of an exercise: in the log, where the book of it is read."""
        with self._writing():
            self._tables.Event.create(
                at=_now(), person=person.get(), kind="exercise", id=rig, what="trained", revision=0, words=words,
                text=text, data=json.dumps({TRAINED: trained}),
            )  # fmt: skip

    def trained(self) -> list[str]:
        """What came of every exercise, as it was kept, the last one first; at most so many as a year of them."""
        table = self._tables.Event
        with self._reading():
            found = table.select(table.data).where(table.kind == "exercise", table.what == "trained")
            return [
                json.dumps(json.loads(data)[TRAINED])
                for (data,) in found.order_by(table.sequence.desc()).limit(MOST_TRAINED).tuples()
            ]

    def _count(self, row: Any, count: int) -> int:
        table = self._tables.Bench
        table.update(moves=count).where(table.key == row.key).execute()
        return count

    def _row(self, key: str) -> Any:
        row = self._tables.Bench.get_or_none(self._tables.Bench.id == key)
        if row is None:
            raise NotFoundError("bench", key, ())
        return row

    def _line(self, row: Any) -> BenchLine:
        return BenchLine(
            id=row.id, rig=row.rig, name=row.name, moves=row.moves, could_redo=row.all_moves.count() - row.moves,
            made_at=row.made_at, person=row.person,
        )  # fmt: skip


def _now() -> str:
    return datetime.now(UTC).isoformat(timespec="seconds")
