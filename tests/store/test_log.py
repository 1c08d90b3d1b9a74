"""The log: nothing is counted twice, what was done last counts, and a new day begins with nothing done."""

import time
from pathlib import Path

import pytest

from isotact.core.model import NotFoundError
from isotact.store import RIG, Entry, Store
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
    assert list(said(again, "taken-back", "wake:body")) == ["wake:gimbal"]


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
