"""Changes of the schema: one named function each, run and recorded in one transaction.

Each says in SQL what it does, since the tables of today are not those that it found.
"""

import json
from collections.abc import Callable
from datetime import UTC, datetime
from typing import Any

import peewee

from isotact.core.model.words import free_id, id_from


def rigs_and_revisions(run: Callable[..., Any]) -> None:
    """Version 1: rigs with append-only revisions."""
    run("CREATE TABLE rig (id TEXT NOT NULL PRIMARY KEY, head INTEGER NOT NULL)")
    run(
        "CREATE TABLE revision (rig_id TEXT NOT NULL REFERENCES rig (id) ON DELETE CASCADE, number INTEGER NOT NULL, "
        "parent INTEGER NOT NULL, document TEXT NOT NULL, made_at TEXT NOT NULL, PRIMARY KEY (rig_id, number))"
    )


def ticks(run: Callable[..., Any]) -> None:
    """Version 2: ticks on the run sheet."""
    run(
        "CREATE TABLE tick (rig_id TEXT NOT NULL REFERENCES rig (id) ON DELETE CASCADE, step TEXT NOT NULL, "
        "ticked_at TEXT NOT NULL, PRIMARY KEY (rig_id, step))"
    )


def kits(run: Callable[..., Any]) -> None:
    """Version 3: kits with append-only revisions."""
    run("CREATE TABLE kit (id TEXT NOT NULL PRIMARY KEY, head INTEGER NOT NULL, removed_at TEXT)")
    run(
        "CREATE TABLE kit_revision (kit_id TEXT NOT NULL REFERENCES kit (id) ON DELETE CASCADE, "
        "number INTEGER NOT NULL, parent INTEGER NOT NULL, document TEXT NOT NULL, made_at TEXT NOT NULL, "
        "PRIMARY KEY (kit_id, number))"
    )


def removed_rigs_come_back(run: Callable[..., Any]) -> None:
    """Version 4: a rig that is removed keeps its history. Some databases of version 3 have the column already."""
    if "removed_at" not in {column[1] for column in run("PRAGMA table_info(rig)")}:
        run("ALTER TABLE rig ADD COLUMN removed_at TEXT")


def one_table_of_documents(run: Callable[..., Any]) -> None:
    """Version 5: documents of every kind in one table, their revisions in another; and the events.

    Revision numbers only go up from here: to go back is a revision of its own. A document that stood at an earlier
    one gets such a revision.
    """
    for old in ("tick", "revision"):
        run(f"ALTER TABLE {old} RENAME TO old_{old}")
    run(
        'CREATE TABLE document ("key" INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT, kind TEXT NOT NULL, '
        "id TEXT NOT NULL, head INTEGER NOT NULL, removed_at TEXT)"
    )
    run("CREATE UNIQUE INDEX document_of_kind ON document (kind, id)")
    run(
        'CREATE TABLE revision (document_key INTEGER NOT NULL REFERENCES document ("key") ON DELETE CASCADE, '
        "number INTEGER NOT NULL, parent INTEGER NOT NULL, shows INTEGER NOT NULL, document TEXT NOT NULL, "
        "beside TEXT NOT NULL, made_at TEXT NOT NULL, PRIMARY KEY (document_key, number))"
    )
    run(
        'CREATE TABLE tick (rig_key INTEGER NOT NULL REFERENCES document ("key") ON DELETE CASCADE, '
        "step TEXT NOT NULL, ticked_at TEXT NOT NULL, PRIMARY KEY (rig_key, step))"
    )
    run(
        "CREATE TABLE event (sequence INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT, at TEXT NOT NULL, "
        "kind TEXT NOT NULL, id TEXT NOT NULL, what TEXT NOT NULL, revision INTEGER NOT NULL)"
    )
    run("CREATE TABLE taken_in (digest TEXT NOT NULL PRIMARY KEY, taken_at TEXT NOT NULL)")
    for kind, rows, revisions in (("rig", "rig", "old_revision"), ("kit", "kit", "kit_revision")):
        # A document without any revision was never acknowledged to anybody.
        run(
            f"INSERT INTO document (kind, id, head, removed_at) SELECT '{kind}', id, head, removed_at FROM {rows} "
            f"WHERE id IN (SELECT {kind}_id FROM {revisions})"
        )
        run(
            "INSERT INTO revision SELECT document.key, old.number, old.parent, old.number, old.document, '{}', "
            f"old.made_at FROM {revisions} AS old JOIN document ON document.kind = '{kind}' "
            f"AND document.id = old.{kind}_id"
        )
    run(
        "INSERT INTO tick SELECT document.key, old.step, old.ticked_at FROM old_tick AS old "
        "JOIN document ON document.kind = 'rig' AND document.id = old.rig_id"
    )
    newest = "(SELECT MAX(number) FROM revision WHERE document_key = document.key)"
    run(
        "INSERT INTO revision SELECT document.key, "
        f"{newest} + 1, shown.parent, shown.number, '', '{{}}', shown.made_at "
        "FROM document JOIN revision AS shown ON shown.document_key = document.key AND shown.number = document.head "
        f"WHERE document.head < {newest}"
    )
    run(f"UPDATE document SET head = {newest}")
    for old in ("old_tick", "old_revision", "kit_revision", "rig", "kit"):
        run(f"DROP TABLE {old}")


def one_log(run: Callable[..., Any]) -> None:
    """Version 6: what was done to a rig stands in the log as well, with who did it; ticks are read off that."""
    run("ALTER TABLE event RENAME TO old_event")
    run(
        "CREATE TABLE event (sequence INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT, uid TEXT UNIQUE, at TEXT NOT NULL, "
        "person TEXT NOT NULL, kind TEXT NOT NULL, id TEXT NOT NULL, what TEXT NOT NULL, revision INTEGER NOT NULL, "
        "subject TEXT NOT NULL, data TEXT NOT NULL)"
    )
    run("CREATE INDEX event_of_document ON event (kind, id, sequence)")
    run("CREATE INDEX event_of_subject ON event (kind, id, subject, at, sequence) WHERE subject <> ''")
    run("INSERT INTO event SELECT sequence, NULL, at, '', kind, id, what, revision, '', '' FROM old_event")
    run(
        "INSERT INTO event (at, person, kind, id, what, revision, subject, data) "
        "SELECT tick.ticked_at, '', document.kind, document.id, 'done', document.head, tick.step, '' FROM tick "
        "JOIN document ON document.key = tick.rig_key ORDER BY tick.ticked_at, tick.step"
    )
    run("DROP TABLE tick")
    run("DROP TABLE old_event")


def the_log_is_read(run: Callable[..., Any]) -> None:
    """Version 7: what was said and what it was about stand in the log as words, with an index; and who may join."""
    for column in ("device", "words", "text"):
        run(f"ALTER TABLE event ADD COLUMN {column} TEXT NOT NULL DEFAULT ''")
    run("UPDATE event SET text = COALESCE(json_extract(data, '$.reason'), ''), data = '' WHERE data <> ''")
    run("CREATE INDEX event_of_person ON event (person, sequence) WHERE person <> ''")
    run("CREATE INDEX event_tried ON event (subject, sequence) WHERE what = 'tried'")
    run("CREATE INDEX event_of_what ON event (what, sequence)")
    # With all that how a day stands is read off: no row is looked up but the last of each step.
    run("DROP INDEX event_of_subject")
    run("CREATE INDEX event_of_subject ON event (kind, id, subject, at, sequence, what) WHERE subject <> ''")
    search_the_log(run)
    run(
        'CREATE TABLE sign_in ("key" INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT, person TEXT NOT NULL, '
        "role TEXT NOT NULL, digest TEXT NOT NULL UNIQUE, made_at TEXT NOT NULL, expires_at TEXT NOT NULL, "
        "ended_at TEXT)"
    )


def search_the_log(run: Callable[..., Any]) -> None:
    """The index over the words of the log, and what keeps it. It holds no text of its own, so it can be made anew."""
    columns = "person, id, words, text"
    run(
        f"CREATE VIRTUAL TABLE event_text USING fts5({columns}, content = 'event', content_rowid = 'sequence', "
        "tokenize = \"unicode61 remove_diacritics 2\", prefix = '2 3')"
    )
    new = ", ".join(f"new.{column}" for column in columns.split(", "))
    run(
        "CREATE TRIGGER event_text_in AFTER INSERT ON event BEGIN "
        f"INSERT INTO event_text (rowid, {columns}) VALUES (new.sequence, {new}); END"
    )
    run(
        "CREATE TRIGGER event_text_out AFTER DELETE ON event BEGIN "
        f"INSERT INTO event_text (event_text, rowid, {columns}) VALUES ('delete', old.sequence, "
        f"{new.replace('new.', 'old.')}); END"
    )
    run("INSERT INTO event_text (event_text) VALUES ('rebuild')")


def jobs_are_documents(run: Callable[..., Any]) -> None:
    """Version 8: each job that a rig names becomes a document. Rigs go on naming it by its name.

    Two spellings that make one id are two jobs. A rig whose text cannot be read names none here: it is told of at the
    start, and its job is begun anew by hand.
    """
    shown = run(
        "SELECT document.id, revision.made_at, shown.document FROM document "
        "JOIN revision ON revision.document_key = document.key AND revision.number = document.head "
        "JOIN revision AS shown ON shown.document_key = document.key AND shown.number = revision.shows "
        "WHERE document.kind = 'rig' ORDER BY document.key"
    )
    taken: set[str] = set()
    named: set[str] = set()
    for _, made_at, text in list(shown):
        name = _production(text)
        if not name or name in named:
            continue
        named.add(name)
        key = free_id(id_from(name, "job"), taken)
        taken.add(key)
        run("INSERT INTO document (kind, id, head) VALUES ('job', ?, 1)", (key,))
        document = json.dumps({"format": "isotact/job", "version": 1, "id": key, "name": name}, ensure_ascii=False)
        run(
            "INSERT INTO revision (document_key, number, parent, shows, document, beside, made_at) "
            "SELECT key, 1, 0, 1, ?, '{}', ? FROM document WHERE kind = 'job' AND id = ?",
            (document, made_at, key),
        )


def _production(text: str) -> str:
    try:
        found = json.loads(text)["production"]
    except (ValueError, KeyError, TypeError):
        return ""
    return found if isinstance(found, str) else ""


def the_day_is_found(run: Callable[..., Any]) -> None:
    """Where a day began and whose a step is: seldom said, and looked up at each tick among all that ever was."""
    run(
        "CREATE INDEX event_of_day ON event (kind, id, sequence, at) "
        "WHERE what IN ('created', 'cleared', 'thrown away')"
    )
    run("CREATE INDEX event_given ON event (kind, id, subject, at, sequence) WHERE what = 'given' AND subject <> ''")


def a_search_is_found(run: Callable[..., Any]) -> None:
    """What was looked at in a search, and what befell devices: asked for with every tick, and seldom there."""
    run(
        "CREATE INDEX event_of_search ON event (kind, id, at, sequence) WHERE what IN "
        "('looked', 'unlooked', 'found', 'given-up', 'restarted', 'battery-changed')"
    )


def a_bench_under_the_hands(run: Callable[..., Any]) -> None:
    """Benches and exercises, and what was done at each: they stay with this laptop, and the oldest make room."""
    run(
        'CREATE TABLE bench ("key" INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT, id TEXT NOT NULL UNIQUE, '
        "what TEXT NOT NULL, rig TEXT NOT NULL, name TEXT NOT NULL, beginning TEXT NOT NULL, moves INTEGER NOT NULL, "
        "made_at TEXT NOT NULL, person TEXT NOT NULL)"
    )
    run(
        'CREATE TABLE bench_move (bench_key INTEGER NOT NULL REFERENCES bench ("key") ON DELETE CASCADE, '
        "number INTEGER NOT NULL, move TEXT NOT NULL, made_at TEXT NOT NULL, person TEXT NOT NULL, "
        "PRIMARY KEY (bench_key, number))"
    )


MIGRATIONS: tuple[Callable[[Callable[..., Any]], None], ...] = (
    rigs_and_revisions,
    ticks,
    kits,
    removed_rigs_come_back,
    one_table_of_documents,
    one_log,
    the_log_is_read,
    jobs_are_documents,
    the_day_is_found,
    a_search_is_found,
    a_bench_under_the_hands,
)
"""In their order. How many a database has had is its version, which it bears as `user_version`."""


def to_come(database: peewee.Database) -> list[Callable[[Callable[..., Any]], None]]:
    """The changes that this database has not had yet."""
    run: Any = database.execute_sql
    done = {name for (name,) in run("SELECT name FROM migration")} if "migration" in database.get_tables() else set()
    return [change for change in MIGRATIONS if change.__name__ not in done]


def migrate(database: peewee.Database) -> list[str]:
    """Run what this database has not had yet; returns the names that ran."""
    run: Any = database.execute_sql
    ran = []
    for change in to_come(database):
        with database.atomic("IMMEDIATE"):
            run("CREATE TABLE IF NOT EXISTS migration (name TEXT PRIMARY KEY, done_at TEXT NOT NULL)")
            change(run)
            at = datetime.now(UTC).isoformat(timespec="seconds")
            run("INSERT INTO migration (name, done_at) VALUES (?, ?)", (change.__name__, at))
            run(f"PRAGMA user_version = {1 + MIGRATIONS.index(change)}")
        ran.append(change.__name__)
    return ran
