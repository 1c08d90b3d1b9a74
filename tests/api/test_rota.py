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
    ticked = {"kind": "changed", "at": "20:30", "rig": "night-ferry-a", "device": "battery", "pack": "P-2"}
    day = {**JOB["days"][0], "happened": [ticked]}
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
