"""The tables. Rows of revisions and events are only ever added; a time that has not come yet is set right (`log`)."""

from typing import Any

import peewee


class Tables:
    """The tables of one database file.

    They are made anew for each, since a peewee model knows one database: two files in one process, such as a backup
    that is looked at beside what it is to replace, would else write into each other's.
    """

    def __init__(self, database: peewee.Database) -> None:
        class Table(peewee.Model):
            class Meta:
                legacy_table_names = False

        Table._meta.database = database
        self.Document, self.Revision = _documents(Table)
        self.Event, self.TakenIn = _events(Table), _taken_in(Table)
        self.SignIn = _sign_ins(Table)
        self.Bench, self.BenchMove = _benches(Table)


def _documents(table: Any) -> tuple[Any, Any]:
    class Document(table):  # type: ignore[misc]
        """One document. `head`: its newest revision. One that was removed keeps its history and can come back."""

        key = peewee.AutoField()
        kind = peewee.TextField()
        id = peewee.TextField()
        head = peewee.IntegerField()
        removed_at = peewee.TextField(null=True)

    class Revision(table):  # type: ignore[misc]
        """One version of a document, made from `parent`; 0 for the first.

        `shows`: the revision whose text it has: its own number, or an earlier one that was gone back to.
        `beside`: the revisions of one's own profiles, cable types and words that it was made with, as JSON.
        """

        of = peewee.ForeignKeyField(Document, backref="revisions", on_delete="CASCADE", column_name="document_key")
        number = peewee.IntegerField()
        parent = peewee.IntegerField()
        shows = peewee.IntegerField()
        document = peewee.TextField()
        beside = peewee.TextField()
        made_at = peewee.TextField()

        class Meta:
            primary_key = peewee.CompositeKey("of", "number")

    return Document, Revision


def _events(table: Any) -> Any:
    class Event(table):  # type: ignore[misc]
        """That something became of a document, or was done to what it is of; in the order in which it came to be known.

        `uid`: given by whoever made it, where that may send it twice. `subject`: what of the document, such as a step
        of its run sheet; `device`: at which device that is; `words`: how it was called. `text`: what somebody wrote.
        `data`: more, as JSON, or nothing. An index over all the words is kept by the database (`event_text`).
        """

        sequence = peewee.AutoField()
        uid = peewee.TextField(null=True, unique=True)
        at = peewee.TextField()
        person = peewee.TextField(default="")
        kind = peewee.TextField()
        id = peewee.TextField()
        what = peewee.TextField()
        revision = peewee.IntegerField()
        subject = peewee.TextField(default="")
        device = peewee.TextField(default="")
        words = peewee.TextField(default="")
        text = peewee.TextField(default="")
        data = peewee.TextField(default="")

    return Event


def _taken_in(table: Any) -> Any:
    class TakenIn(table):  # type: ignore[misc]
        """The digest of a file's text that was taken in from the folder of one's own."""

        digest = peewee.TextField(primary_key=True)
        taken_at = peewee.TextField()

    return TakenIn


def _sign_ins(table: Any) -> Any:
    class SignIn(table):  # type: ignore[misc]
        """Somebody who joined from the set's network. What they show is kept as a digest only."""

        key = peewee.AutoField()
        person = peewee.TextField()
        role = peewee.TextField()
        digest = peewee.TextField(unique=True)
        made_at = peewee.TextField()
        expires_at = peewee.TextField()
        ended_at = peewee.TextField(null=True)

    return SignIn


def _benches(table: Any) -> tuple[Any, Any]:
    class Bench(table):  # type: ignore[misc]
        """A simulated rig under somebody's hands, or an exercise, as `what` says. `beginning`: how it began, as JSON.

        `moves`: so many of its moves count; those after it were undone, and can be done again.
        """

        key = peewee.AutoField()
        id = peewee.TextField(unique=True)
        what = peewee.TextField()
        rig = peewee.TextField()
        name = peewee.TextField()
        beginning = peewee.TextField()
        moves = peewee.IntegerField()
        made_at = peewee.TextField()
        person = peewee.TextField()

    class BenchMove(table):  # type: ignore[misc]
        """One thing that was done at a bench, as JSON."""

        of = peewee.ForeignKeyField(Bench, backref="all_moves", on_delete="CASCADE", column_name="bench_key")
        number = peewee.IntegerField()
        move = peewee.TextField()
        made_at = peewee.TextField()
        person = peewee.TextField()

        class Meta:
            primary_key = peewee.CompositeKey("of", "number")
            table_name = "bench_move"

    return Bench, BenchMove
