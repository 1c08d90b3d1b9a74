"""The log: nothing is counted twice, what was done last counts, and a new day begins with nothing done."""

import time
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from pydantic import ValidationError

from isotact.core.model import IsotactError, NotFoundError
from isotact.store import RIG, Entry, Looked, Spoiling, Store
from tests.store.earlier import FERRY
from tests.store.saying import said


@pytest.fixture
def store(tmp_path: Path) -> Store:
    store = Store(tmp_path / "rigs.sqlite")
    store[RIG].create(FERRY)
    time.sleep(0.002)
    return store


def stand(store: Store) -> dict[str, str]:
    return {step: mark.what for step, mark in store.log.steps(FERRY.id).items()}


def test_what_is_said_of_steps_persists_with_who_said_it_and_comes_off(store: Store, tmp_path: Path):
    said(store, "done", "wake:body", person="Ada", revision=1)
    said(store, "skipped", "wake:gimbal")
    store.close()
    again = Store(tmp_path / "rigs.sqlite")
    assert stand(again) == {"wake:body": "done", "wake:gimbal": "skipped"}
    mark = again.log.steps(FERRY.id)["wake:body"]
    assert (mark.person, mark.revision) == ("Ada", 1)
    assert list(said(again, "taken-back", "wake:body").steps) == ["wake:gimbal"]


def test_an_entry_that_is_sent_twice_counts_once(store: Store):
    said(store, "done", "wake:body", uid="phone-a-1")
    said(store, "taken-back", "wake:body", uid="phone-b-1")
    said(store, "done", "wake:body", uid="phone-a-1")
    assert stand(store) == {}
    assert [event.what for event in store.events(1)] == ["done", "taken-back"]


def test_what_was_done_last_counts_not_what_arrived_last(store: Store):
    # Made a new day an hour and more ago, so that there is a past to speak of.
    store.tables.Event.update(at="2020-01-01T00:00:00+00:00").execute()
    said(store, "taken-back", "wake:body", ago_s=60)
    said(store, "done", "wake:body", ago_s=3600)
    assert stand(store) == {}, "the phone was out of reach while another took it back"
    said(store, "differs", "wake:body", ago_s=30)
    assert stand(store) == {"wake:body": "differs"}


def test_a_new_day_begins_with_nothing_done_and_forgets_nothing(store: Store):
    said(store, "done", "wake:body")
    time.sleep(0.002)
    store.log.clear(FERRY.id)
    assert stand(store) == {}
    said(store, "done", "wake:gimbal", ago_s=3600)
    assert stand(store) == {}, "what was done before the day began is of the day before"
    said(store, "done", "wake:lens")
    assert stand(store) == {"wake:lens": "done"}
    assert [event.what for event in store.events(1)] == ["done", "cleared", "done", "done"]
    assert [event.subject for event in store.events(1)] == ["wake:body", "", "wake:gimbal", "wake:lens"]


def test_entries_of_a_rig_that_is_not_there_are_refused_whole(store: Store):
    entries = [Entry(uid="phone-a-1", what="done", subject="wake:body")]
    with pytest.raises(NotFoundError):
        store.log.add("no-such-rig", entries, 1)
    assert len(store.events(0)) == 1


def test_a_rig_of_the_same_id_begins_anew(store: Store):
    said(store, "done", "wake:body")
    store[RIG].remove(FERRY.id)
    store[RIG].throw_away(FERRY.id)
    store[RIG].create(FERRY)
    assert stand(store) == {}


def test_what_happened_undoes_what_was_done_before_it_and_not_after(store: Store):
    store.tables.Event.update(at="2020-01-01T00:00:00+00:00").execute()
    said(store, "done", "map:motor", ago_s=100)
    said(store, "done", "wake:body", ago_s=100)
    restarted = Entry(uid="phone-a-restart", what="restarted", subject="driver", ago_s=60)
    undone = {restarted.uid: Spoiling(steps=("map:motor", "prove:focus"), says="Driver was restarted.")}
    for _ in range(2):
        store.log.add(FERRY.id, [restarted], 1, "Ada", Looked(spoilt=undone))
    assert stand(store) == {"map:motor": "spoilt", "wake:body": "done"}, "what was never proven is not undone"
    assert store.log.steps(FERRY.id)["map:motor"].reason == "Driver was restarted."
    # A phone that was out of reach tells of what it did before, another of what it did afterwards.
    said(store, "done", "prove:focus", ago_s=90)
    said(store, "done", "map:motor", ago_s=30)
    assert stand(store) == {"map:motor": "done", "prove:focus": "spoilt", "wake:body": "done"}
    assert [event.what for event in store.events(1)].count("restarted") == 1


def test_who_did_it_last_is_told_from_when_it_came_in_however_long_it_was_looked_at(store: Store):
    """Ada ticked first; what hers is about took two seconds to look up, and Bo's came in meanwhile."""
    store.tables.Event.update(at="2020-01-01T00:00:00+00:00").execute()
    now = datetime.now(UTC)
    bo, ada = (Entry(uid=f"phone-{who}-1", what="done", subject="map:motor") for who in "ba")
    store.log.add(FERRY.id, [bo], 1, "Bo", arrived=now - timedelta(seconds=1))
    store.log.add(FERRY.id, [ada], 1, "Ada", arrived=now - timedelta(seconds=2))
    assert store.log.steps(FERRY.id)["map:motor"].person == "Bo"


def test_what_was_done_on_another_day_is_not_undone_today(store: Store):
    said(store, "done", "map:motor")
    time.sleep(0.002)
    store.log.clear(FERRY.id)
    time.sleep(0.002)
    restarted = Entry(uid="phone-a-restart", what="restarted", subject="driver")
    undone = {restarted.uid: Spoiling(steps=("map:motor",), says="Restarted.")}
    store.log.add(FERRY.id, [restarted], 1, looked=Looked(spoilt=undone))
    assert stand(store) == {}


def test_work_is_given_and_taken_back(store: Store):
    def give(subject: str, to: str | None, uid: str) -> dict[str, str]:
        return store.log.add(FERRY.id, [Entry(uid=uid, what="given", subject=subject, to=to)], 1).given

    give("wake:body", "Ada", "entry-give-1")
    assert give("stage:lens", "Bo", "entry-give-2") == {"stage:lens": "Bo", "wake:body": "Ada"}
    assert give("wake:body", None, "entry-give-3") == {"stage:lens": "Bo"}
    assert stand(store) == {}


@pytest.mark.parametrize(
    "entry",
    [
        {"what": "note", "subject": ""},
        {"what": "done", "subject": ""},
        {"what": "spoilt", "subject": "wake:body"},
        {"what": "tried", "subject": "recipe"},
        {"what": "done", "subject": "wake:body", "worked": True},
        {"what": "done", "subject": "wake:body", "photos": ["../secret"]},
        {"what": "done", "subject": "wake:body", "ago_s": -1},
    ],
)
def test_an_entry_that_says_nothing_that_can_be_said_is_refused(entry: dict[str, object]):
    with pytest.raises(ValidationError):
        Entry.model_validate({"uid": "entry-0001", **entry})


class Ahead(datetime):
    """The clock of a laptop that is two days ahead."""

    @classmethod
    def now(cls, tz=None):
        return datetime.now(tz) + timedelta(days=2)


def test_what_was_said_while_the_clock_was_ahead_keeps_nothing_from_counting(
    store: Store, monkeypatch: pytest.MonkeyPatch
):
    with monkeypatch.context() as ahead:
        ahead.setattr("isotact.store.log.datetime", Ahead)
        store.log.clear(FERRY.id)
        said(store, "done", "wake:body")
        said(store, "done", "wake:gimbal")
    said(store, "taken-back", "wake:body", ago_s=2)
    assert stand(store) == {"wake:gimbal": "done"}
    said(store, "differs", "wake:gimbal")
    assert stand(store) == {"wake:gimbal": "differs"}
    now = datetime.now(UTC).isoformat()
    assert all(event.at <= now for event in store.events(0))


def test_a_new_day_begun_while_the_clock_was_ahead_is_over_with_the_next(store: Store, monkeypatch: pytest.MonkeyPatch):
    with monkeypatch.context() as ahead:
        ahead.setattr("isotact.store.log.datetime", Ahead)
        said(store, "done", "wake:body")
        store.log.clear(FERRY.id)
    store.log.clear(FERRY.id)
    assert [event.what for event in store.events(1)] == ["done", "cleared", "cleared"], "a new day is always written"
    said(store, "done", "wake:gimbal")
    assert stand(store) == {"wake:gimbal": "done"}


@pytest.mark.parametrize(
    "other", [{"what": "skipped"}, {"subject": "wake:gimbal"}, {"reason": "It was on."}, {"photos": ("a" * 64,)}]
)
def test_an_id_that_comes_again_with_something_else_is_refused_whole(store: Store, other: dict[str, object]):
    first = {"uid": "phone-a-1", "what": "done", "subject": "wake:body"}
    store.log.add(FERRY.id, [Entry.model_validate(first)], 1)
    store.log.add(FERRY.id, [Entry.model_validate({**first, "ago_s": 9})], 1, "Ada")
    fresh = Entry.model_validate({**first, "uid": "phone-a-2", "subject": "wake:lens"})
    with pytest.raises(IsotactError, match="'phone-a-1' a second time"):
        store.log.add(FERRY.id, [fresh, Entry.model_validate({**first, **other})], 1)
    assert stand(store) == {"wake:body": "done"}


def test_what_is_given_to_nobody_is_nobodys_whatever_came_with_it(store: Store):
    taken_back = Entry.model_validate(
        {"uid": "phone-a-1", "what": "given", "subject": "wake:body", "photos": ("a" * 64,)}
    )
    assert store.log.add(FERRY.id, [taken_back], 1).given == {}


def test_nobody_is_out_of_reach_for_longer_than_a_week():
    week_s = 7 * 24 * 3600
    entry = {"uid": "phone-a-1", "what": "done", "subject": "wake:body"}
    assert Entry.model_validate({**entry, "ago_s": week_s}).ago_s == week_s
    with pytest.raises(ValidationError):
        Entry.model_validate({**entry, "ago_s": week_s + 1})
