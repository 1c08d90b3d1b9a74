"""A rota as a calendar and as a table, read back by those who read such things."""

import csv
import io
from datetime import datetime

from icalendar import Calendar

from isotact.papers import rota_calendar, rota_table
from tests.core.day.test_rota_day import the_night


def test_a_calendar_has_an_entry_for_everything_at_its_time():
    rota = the_night()
    read = Calendar.from_ical(rota_calendar(rota, "Night ferry"))
    entries = list(read.walk("VEVENT"))
    assert [str(one["summary"]) for one in entries] == [one.says for one in rota.acts]
    first, after_midnight = entries[0], entries[-1]
    assert first["dtstart"].dt == datetime(2026, 5, 4, 20, 30)  # noqa: DTZ001: a call sheet names no zone
    assert after_midnight["dtstart"].dt == datetime(2026, 5, 5, 2, 0)
    assert {len(list(one.walk("VALARM"))) for one in entries} == {0, 1}


def test_a_second_export_has_the_same_entries():
    rota = the_night()
    both = [Calendar.from_ical(rota_calendar(rota, "Night ferry")) for _ in range(2)]
    first, second = ([str(one["uid"]) for one in read.walk("VEVENT")] for read in both)
    assert first == second
    assert len(set(first)) == len(first)


def test_a_table_has_a_line_for_everything():
    rota = the_night()
    lines = list(csv.DictReader(io.StringIO(rota_table(rota))))
    assert [(one["time"], one["pack"]) for one in lines] == [(one.clock, one.pack) for one in rota.acts]
    assert {one["within a take"] for one in lines} == {""}
