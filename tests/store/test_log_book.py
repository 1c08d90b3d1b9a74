"""The log book: found by rig, person, device, kind, day and words; and a day of it as a table and as JSON lines."""

import csv
import io
import json
import time
from collections.abc import Iterator
from datetime import datetime
from pathlib import Path

import pytest

from isotact.core.proofs import Filmed, Reading
from isotact.store import RIG, About, Entry, Line, Looked, Store, Wanted, as_csv, as_json_lines
from isotact.store.author import person
from tests.rigs import SHIPPED
from tests.store.earlier import FERRY
from tests.store.saying import said

OTHER = SHIPPED["night-ferry-c"]
ABOUT = Looked(
    about={
        "wake:body": About(words="Wake the body, wait for its lamp", device="body"),
        "wake:gimbal": About(words="Wake the gimbal", device="gimbal"),
    }
)


@pytest.fixture
def store(tmp_path: Path) -> Store:
    store = Store(tmp_path / "rigs.sqlite")
    token = person.set("Ada")
    store[RIG].create(FERRY)
    store[RIG].create(OTHER)
    person.reset(token)
    film = Reading(ask="delay", filmed=Filmed(frames=(2,), rate_fps=25))
    for number, (key, who, fields) in enumerate(
        [
            (FERRY.id, "Ada", {"what": "done", "subject": "wake:body"}),
            (FERRY.id, "Bo", {"what": "differs", "subject": "wake:gimbal", "reason": "The lamp is violet, not blue"}),
            (OTHER.id, "Ada", {"what": "note", "subject": "", "reason": "Café: spare HDMI from the kitchen"}),
            (FERRY.id, "Bo", {"what": "done", "subject": "prove:picture", "readings": [film]}),
            (FERRY.id, "Cy", {"what": "given", "subject": "wake:body", "to": "Bo"}),
        ]
    ):
        store.log.add(key, [Entry.model_validate({"uid": f"entry-{number:04}", **fields})], 1, who, ABOUT)
    return store


def found(store: Store, **wanted: object) -> list[str]:
    lines = store.book.lines(Wanted.model_validate(wanted))
    return [f"{line.person} {line.what} {line.subject}".strip() for line in lines]


def test_all_of_it_comes_newest_first_and_a_page_at_a_time(store: Store):
    everything = found(store)
    assert len(everything) == 7
    assert everything[0] == "Cy given wake:body"
    assert everything[-1] == "Ada created"
    first = store.book.lines(Wanted(count=3))
    rest = store.book.lines(Wanted(count=500, before=first[-1].sequence))
    assert [line.sequence for line in (*first, *rest)] == [7, 6, 5, 4, 3, 2, 1]


@pytest.mark.parametrize(
    ("wanted", "lines"),
    [
        ({"rig": OTHER.id}, ["Ada note", "Ada created"]),
        ({"person": "Bo"}, ["Bo done prove:picture", "Bo differs wake:gimbal"]),
        ({"device": "gimbal"}, ["Bo differs wake:gimbal"]),
        ({"what": "done"}, ["Bo done prove:picture", "Ada done wake:body"]),
        ({"rig": FERRY.id, "person": "Ada", "what": "done"}, ["Ada done wake:body"]),
        ({"person": "Nobody"}, []),
        ({"words": "violet"}, ["Bo differs wake:gimbal"]),
        ({"words": "LAMP viol"}, ["Bo differs wake:gimbal"]),
        ({"words": "wake"}, ["Cy given wake:body", "Bo differs wake:gimbal", "Ada done wake:body"]),
        ({"words": "wake", "person": "Ada"}, ["Ada done wake:body"]),
        ({"words": "cafe kitchen"}, ["Ada note"]),
        ({"words": "Cy"}, ["Cy given wake:body"]),
        ({"words": 'lamp" OR person:Ada NEAR('}, []),
        ({"words": "-*:^()"}, None),
        ({"with_photo": True}, []),
        ({"day": "2001-01-01"}, []),
    ],
)
def test_it_is_found_by(store: Store, wanted: dict[str, object], lines: list[str] | None):
    assert found(store, **wanted) == (found(store) if lines is None else lines)


def test_who_and_what_there_is_to_choose_by(store: Store):
    choices = store.book.choices()
    assert choices.people == ["Ada", "Bo", "Cy"]
    assert choices.kinds == ["created", "differs", "done", "given", "note"]


def test_a_days_report_reads_back_as_what_was_done(store: Store):
    today = datetime.now().astimezone().date().isoformat()
    rows = list(csv.DictReader(io.StringIO("".join(as_csv(store.book.of_day(today, FERRY.id))))))
    assert [row["what"] for row in rows] == ["created", "done", "differs", "done", "given"]
    assert rows[2]["text"] == "The lamp is violet, not blue"
    assert rows[3]["readings"] == "delay 80 +- 32.7"
    lines = [Line.model_validate_json(text) for text in as_json_lines(store.book.of_day(today))]
    assert len(lines) == 7
    assert sorted(line.sequence for line in lines) == [1, 2, 3, 4, 5, 6, 7]
    assert json.loads(next(iter(as_json_lines(iter(lines)))))["person"] == "Ada"


def test_a_cell_that_begins_like_a_formula_is_text(store: Store):
    note = {"uid": "entry-formula", "what": "note", "subject": "", "reason": '=HYPERLINK("x")'}
    store.log.add(FERRY.id, [Entry.model_validate(note)], 1, "Ada")
    table = "".join(as_csv(store.book.of_day(datetime.now().astimezone().date().isoformat())))
    assert list(csv.DictReader(io.StringIO(table)))[-1]["text"] == '\'=HYPERLINK("x")'


@pytest.fixture
def in_auckland(monkeypatch: pytest.MonkeyPatch) -> Iterator[None]:
    """A laptop twelve hours ahead of universal time."""
    monkeypatch.setenv("TZ", "NZST-12")
    time.tzset()
    yield
    monkeypatch.undo()
    time.tzset()


@pytest.mark.usefixtures("in_auckland")
def test_a_day_is_one_by_the_clock_of_this_machine(store: Store):
    """Ten in the evening of the third, universal time, is ten in the morning of the fourth there."""
    said(store, "done", "wake:body", uid="phone-a-1")
    store.tables.Event.update(at="2026-05-03T22:00:00.000+00:00").where(store.tables.Event.uid == "phone-a-1").execute()
    assert [line.what for line in store.book.of_day("2026-05-04")] == ["done"]
    assert list(store.book.of_day("2026-05-03")) == []
