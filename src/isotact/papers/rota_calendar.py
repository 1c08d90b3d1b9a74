"""A rota as a calendar (iCalendar, RFC 5545): an entry for everything that is to be done, by the clock of the set."""

from datetime import UTC, datetime, timedelta
from hashlib import sha256

from icalendar import Alarm, Calendar, Event

from isotact.core.day.rota_answers import DayRota, RotaAct

LEAST_MIN = 5
"""A shorter entry than this cannot be read in a calendar."""
AHEAD_MIN = 10
"""So long before a change the telephone says so: time to fetch the pack."""


def rota_calendar(rota: DayRota, job: str) -> str:
    """The calendar. Its times name no zone: a call sheet means the clock on the wall of the set."""
    calendar = Calendar()
    calendar.add("prodid", "-//Isotact//Rota//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", f"{job}, packs")
    call = datetime.fromisoformat(f"{rota.date}T{rota.call}")
    for act in rota.acts:
        calendar.add_component(_entry(act, call, rota, job))
    return str(calendar.to_ical(), "utf-8")


def _entry(act: RotaAct, call: datetime, rota: DayRota, job: str) -> Event:
    begins = call + timedelta(minutes=act.at_min)
    entry = Event()
    # The same thing to be done on the same day is the same entry, so that a second export replaces the first.
    mark = f"{job}|{rota.date}|{act.kind}|{act.rig}|{act.device}|{act.pack}|{act.at_min}"
    entry.add("uid", f"{sha256(mark.encode()).hexdigest()[:24]}@isotact")
    entry.add("dtstamp", datetime(call.year, call.month, call.day, tzinfo=UTC))
    entry.add("dtstart", begins)
    entry.add("dtend", begins + timedelta(minutes=max(LEAST_MIN, act.takes_min)))
    entry.add("summary", act.says)
    said = [act.where, "Within a take." if act.spoils else "", f"{act.takes_min} min." if act.takes_min else ""]
    entry.add("description", " ".join(one for one in said if one))
    if act.kind == "change":
        alarm = Alarm()
        alarm.add("action", "DISPLAY")
        alarm.add("description", act.says)
        alarm.add("trigger", timedelta(minutes=-AHEAD_MIN))
        entry.add_component(alarm)
    return entry
