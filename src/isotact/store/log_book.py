"""The log as a book to read: by rig, person, device, kind and words, newest first; and a day of it as a report."""

import csv
import io
import json
import re
from collections.abc import Callable, Iterator
from contextlib import AbstractContextManager
from datetime import UTC, date, datetime, time, timedelta
from typing import Annotated, Any

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from isotact.core.model.words import Day
from isotact.core.proofs import Reading, measured
from isotact.store.log import moment
from isotact.store.tables import Tables

# A few screens of a phone.
PAGE = 100
# More words than that find nothing that fewer do not.
MOST_WORDS = 12
_WORD = re.compile(r"\w+")


def _is_in_the_calendar(day: str) -> str:
    """Refuse what is no day, or so far away that a clock cannot tell it."""
    try:
        year = date.fromisoformat(day).year
    except ValueError:
        year = 0
    if not 1970 <= year <= 9000:
        raise ValueError(f"found '{day}'; expected a day that there is, such as 2026-05-04")
    return day


CalendarDay = Annotated[Day, AfterValidator(_is_in_the_calendar)]
"""A day that is looked up by its beginning and its end."""


class Event(BaseModel):
    """That something became of a document (created, saved, undone, removed ...), or was done to what it is of."""

    sequence: int
    at: str
    person: str
    kind: str
    id: str
    what: str
    revision: int
    subject: str


class Line(Event):
    """One line of the log book, with all that is known of it."""

    device: str
    words: str
    text: str
    readings: tuple[Reading, ...] = ()
    photos: tuple[str, ...] = ()
    to: str | None = None
    worked: bool | None = None


class Wanted(BaseModel):
    """What is looked for; what is left out, of any. `words`: each of them, or the beginning of one."""

    model_config = ConfigDict(extra="forbid")

    rig: Annotated[str | None, Field(max_length=64)] = None
    person: Annotated[str | None, Field(max_length=60)] = None
    device: Annotated[str | None, Field(max_length=64)] = None
    what: Annotated[str | None, Field(max_length=40)] = None
    words: Annotated[str | None, Field(max_length=200)] = None
    with_photo: bool = False
    day: CalendarDay | None = None
    before: Annotated[int | None, Field(ge=1, le=2**53)] = None
    count: Annotated[int, Field(ge=1, le=500)] = PAGE


class Choices(BaseModel):
    """What there is to choose by: who is in the log, and which kinds of lines."""

    people: list[str]
    kinds: list[str]


class Book:
    """The log of one database file, to be read."""

    def __init__(self, tables: Tables, reading: Callable[[], AbstractContextManager[None]]) -> None:
        self._tables, self._reading = tables, reading

    def lines(self, wanted: Wanted) -> list[Line]:
        """At most `count` lines, the newest first; all of them older than the line of number `before`."""
        where, values = _where(wanted)
        query = f"SELECT {_COLUMNS} FROM event {where} ORDER BY sequence DESC LIMIT ?"
        return [_line(row) for row in self._run(query, [*values, wanted.count])]

    def of_day(self, day: str, rig: str | None = None) -> Iterator[Line]:
        """Every line of a day by the clock of this machine, in the order in which things were done."""
        where, values = _where(Wanted(day=day, rig=rig))
        for row in self._run(f"SELECT {_COLUMNS} FROM event {where} ORDER BY at, sequence", values):
            yield _line(row)

    def tries(self, recipe: str, count: int) -> list[Line]:
        """The last tries of a recipe, the newest first, whichever rig they were made on."""
        query = f"SELECT {_COLUMNS} FROM event WHERE what = 'tried' AND subject = ? ORDER BY sequence DESC LIMIT ?"
        return [_line(row) for row in self._run(query, [recipe, count])]

    def choices(self) -> Choices:
        """Who is in the log, and which kinds of lines."""
        return Choices(
            people=[name for (name,) in self._run(_DISTINCT.format(column="person"), [])],
            kinds=[name for (name,) in self._run(_DISTINCT.format(column="what"), [])],
        )

    def _run(self, query: str, values: list[Any]) -> list[tuple[Any, ...]]:
        with self._reading():
            found: list[tuple[Any, ...]] = self._tables.Event._meta.database.execute_sql(query, values).fetchall()
        return found


_NAMES = ("sequence", "at", "person", "kind", "id", "what", "revision", "subject", "device", "words", "text", "data")
_COLUMNS = ", ".join(_NAMES)
_DISTINCT = """
WITH RECURSIVE one (name) AS (
    SELECT MIN({column}) FROM event WHERE {column} > ''
    UNION ALL SELECT (SELECT MIN({column}) FROM event WHERE {column} > one.name) FROM one WHERE one.name IS NOT NULL
) SELECT name FROM one WHERE name IS NOT NULL LIMIT 500
"""
"""Each value once, from one to the next along the index: a log of a season has few, and a great many lines."""


def _where(wanted: Wanted) -> tuple[str, list[Any]]:
    parts: list[str] = []
    values: list[Any] = []

    def only(part: str, *given: Any) -> None:
        parts.append(part)
        values.extend(given)

    if wanted.words and (words := _WORD.findall(wanted.words)[:MOST_WORDS]):
        # Each in quotes, so that nothing that somebody types is taken for an operator.
        search = " ".join(f'"{word}"*' for word in words)
        only("sequence IN (SELECT rowid FROM event_text WHERE event_text MATCH ?)", search)
    if wanted.rig is not None:
        only("kind = 'rig' AND id = ?", wanted.rig)
    for column in ("person", "device", "what"):
        if (value := getattr(wanted, column)) is not None:
            only(f"{column} = ?", value)
    if wanted.with_photo:
        only("data LIKE '%\"photos\"%'")
    if wanted.day is not None:
        start = datetime.combine(date.fromisoformat(wanted.day), time()).astimezone()
        end = datetime.combine(date.fromisoformat(wanted.day) + timedelta(days=1), time()).astimezone()
        only("at >= ? AND at < ?", moment(start.astimezone(UTC)), moment(end.astimezone(UTC)))
    if wanted.before is not None:
        only("sequence < ?", wanted.before)
    return (f"WHERE {' AND '.join(parts)}" if parts else ""), values


def _line(row: tuple[Any, ...]) -> Line:
    fields = dict(zip(_NAMES, row, strict=True))
    data = fields.pop("data")
    return Line(**fields, **(json.loads(data) if data else {}))


CSV_COLUMNS = (
    "at", "person", "rig", "what", "about", "device", "text", "readings", "photos", "revision", "sequence",
)  # fmt: skip


def as_csv(lines: Iterator[Line]) -> Iterator[str]:
    """Lines as a table (RFC 4180), a head first. A cell that a table program would take for a formula is quoted."""
    for number, line in enumerate([None, *lines]):
        out = io.StringIO()
        row = CSV_COLUMNS if line is None else _cells(line)
        csv.writer(out).writerow([cell if number == 0 else _plain(cell) for cell in row])
        yield out.getvalue()


def _cells(line: Line) -> tuple[str, ...]:
    read = "; ".join(f"{one.ask} {_read(one)}" for one in line.readings)
    about = " ".join(filter(None, (line.words or line.subject, f"to {line.to}" if line.to else "")))
    return (
        line.at, line.person, line.id if line.kind == "rig" else f"{line.kind} {line.id}", line.what, about,
        line.device, line.text, read, " ".join(line.photos), str(line.revision), str(line.sequence),
    )  # fmt: skip


def _read(reading: Reading) -> str:
    found = measured(reading)
    if found is None:
        return "seen" if reading.seen else "not seen"
    return f"{found.value:g} +- {found.plus_minus:g}" if found.plus_minus else f"{found.value:g}"


def _plain(cell: str) -> str:
    """A cell as text: table programs run what begins like a formula (OWASP, CSV injection)."""
    return f"'{cell}" if cell.startswith(("=", "+", "-", "@", "\t", "\r")) else cell


def as_json_lines(lines: Iterator[Line]) -> Iterator[str]:
    """Lines as JSON, one to a line."""
    return (line.model_dump_json() + "\n" for line in lines)
