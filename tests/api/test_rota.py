"""The rota over HTTP: with the rigs and the kit as they are kept, and the day as it stands on the screen."""

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from isotact.api.application import application
from isotact.core.model import Kit
from isotact.store import KIT as KITS
from isotact.store import RIG, Store
from tests.api.conftest import asking
from tests.core.day.test_rota_day import JOB, KIT
from tests.rigs import SHIPPED

HAPPENED = "/api/jobs/night-ferry/happened"
TICKED = {"kind": "changed", "at": "20:30", "rig": "night-ferry-a", "device": "battery", "pack": "P-2"}


@pytest.fixture
def van(tmp_path: Path) -> Iterator[TestClient]:
    """The demo's rigs and its kit, under their own ids as a start with the demo has them."""
    store = Store(tmp_path / "rigs.sqlite")
    for rig in ("night-ferry-a", "night-ferry-b", "night-ferry-c"):
        store[RIG].create(SHIPPED[rig])
    store[KITS].create(Kit.model_validate(KIT))
    with asking(application(store)) as client:
        yield client


def ask(client: TestClient, job: dict[str, Any] = JOB, **more: Any) -> Any:
    return client.post("/api/rota", json={"document": job, **more})


def test_a_day_is_asked_as_it_stands_on_the_screen(van: TestClient):
    whole = ask(van).json()
    assert whole["says"].startswith("Nothing goes dark")
    day = {**JOB["days"][0], "happened": [TICKED]}
    later = ask(van, {**JOB, "days": [day]}, now="21:00").json()
    assert later["now_min"] == 180
    assert [one["pack"] for one in later["acts"] if one["changed"]] == ["P-2"]


def test_papers_are_in_open_formats(van: TestClient):
    papers = van.post("/api/rota/papers", json={"document": JOB}).json()
    assert papers["table"].startswith("time,what,camera")
    assert papers["calendar"].startswith("BEGIN:VCALENDAR")


def test_a_day_that_is_not_there_and_one_without_rigs_say_so(client: TestClient):
    assert "it has 1" in ask(client, day=3).json()["message"]
    elsewhere = {**JOB, "days": [{**JOB["days"][0], "blocks": JOB["days"][0]["blocks"][:0]}]}
    assert "say when the call is" in ask(client, elsewhere).json()["message"]


def test_what_is_no_time_is_refused_at_its_place(client: TestClient):
    answer = ask(client, now="half past nine")
    assert answer.status_code == 422
    assert answer.json()["problems"][0]["path"] == "body.now"


def test_what_happened_is_said_beside_what_others_do_with_the_job(client: TestClient):
    client.post("/api/jobs", json={"document": JOB})
    said = {"date": JOB["days"][0]["date"], "what": TICKED}
    first = client.post(HAPPENED, json=said).json()
    assert first["document"]["days"][0]["happened"] == [TICKED]
    # Somebody saves the job on what they saw before: told so, and nothing is lost on either side.
    assert client.put("/api/jobs/night-ferry", json={"made_on": 1, "document": JOB}).status_code == 409
    other = {**TICKED, "at": "21:10", "pack": "P-3"}
    assert client.post(HAPPENED, json={**said, "what": other}).json()["document"]["days"][0]["happened"] == [
        TICKED,
        other,
    ]
    again = client.post(HAPPENED, json=said).json()
    assert len(again["document"]["days"][0]["happened"]) == 2, "a tick that is sent twice counts once"
    back = client.post(HAPPENED, json={**said, "took_back": True}).json()
    assert back["document"]["days"][0]["happened"] == [other]
    assert client.post(HAPPENED, json={**said, "took_back": True}).json()["revision"] == back["revision"]
    undone = client.post("/api/jobs/night-ferry/undo", json={"made_on": back["revision"]}).json()
    assert undone["document"]["days"][0]["happened"] == [TICKED, other]


def test_what_happened_on_no_day_or_too_often_is_refused(client: TestClient):
    full = {**JOB, "days": [{**JOB["days"][0], "happened": [{**TICKED, "pack": f"P-{one}"} for one in range(400)]}]}
    client.post("/api/jobs", json={"document": full})
    said = {"date": "2031-01-01", "what": TICKED}
    assert client.post(HAPPENED, json=said).status_code == 404
    answer = client.post(HAPPENED, json={"date": JOB["days"][0]["date"], "what": {**TICKED, "pack": "one more"}})
    assert (answer.status_code, answer.json()["problems"][0]["path"]) == (422, "what")
    assert client.get("/api/jobs/night-ferry").json()["revision"] == 1
    assert client.post("/api/jobs/nobody/happened", json=said).status_code == 404
