"""What the crew says over the API: readings that prove or do not, what happens to devices, photos, the log book."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from isotact.store import Entry
from tests.rigs import SHIPPED, carried, demo_rig
from tests.store.test_photos import from_a_phone

PATH = "/api/rigs/night-ferry-b"
DOCUMENT = demo_rig().model_dump(mode="json")


def say(client: TestClient, uid: str, what: str, subject: str, **more: Any) -> Any:
    entry = {"uid": uid, "what": what, "subject": subject, **more}
    return client.post(f"{PATH}/log", json={"revision": 1, "person": "Ada", "entries": [entry]})


def proofs(client: TestClient) -> dict[str, dict[str, Any]]:
    found = client.post(f"{PATH}/proofs", json={"document": DOCUMENT}).json()
    return {one["promise"]: one for one in found}


def test_what_is_asked_and_what_may_happen(client: TestClient):
    told = client.post("/api/proving", json={"document": DOCUMENT}).json()
    tests = {one["promise"]: one for one in told["tests"]}
    assert [ask["id"] for ask in tests["focus"]["asks"]] == ["near-end", "far-end", "direction"]
    assert [ask["id"] for ask in tests["picture"]["asks"]] == ["seen", "delay", "range"], "it goes by radio"
    assert tests["picture"]["step"] == "prove:picture"
    may = {one["device"]: one["what"] for one in told["may_happen"]}
    assert may["phone"] == ["restarted", "battery-changed"]
    assert "lens" not in may


def test_a_reading_over_its_limit_is_no_proof_whatever_was_tapped(client: TestClient):
    slow = {"ask": "delay", "filmed": {"frames": [25, 26], "rate_fps": 25}}
    say(client, "phone-a-1", "done", "prove:picture", readings=[{"ask": "seen", "seen": True}, slow])
    found = proofs(client)["picture"]
    assert found["outcome"] == "failed"
    (delay,) = [one for one in found["judged"] if one["ask"]["id"] == "delay"]
    assert (delay["verdict"], delay["read"]) == ("fails", "1020 ± 51.6 ms")
    fast = {"ask": "delay", "filmed": {"frames": [2, 2], "rate_fps": 25}}
    say(client, "phone-a-2", "done", "prove:picture", readings=[{"ask": "seen", "seen": True}, fast])
    found = proofs(client)["picture"]
    assert (found["outcome"], found["missing"]) == ("proven", [])


def test_a_tick_alone_proves_and_says_what_nobody_read(client: TestClient):
    say(client, "phone-a-1", "done", "prove:roll")
    found = proofs(client)["roll"]
    assert found["outcome"] == "proven"
    assert found["missing"] == ["It rolls: the lamp lights and the timecode runs.", "Pressed again, it stops."]


def test_what_does_not_work_fails_with_what_was_seen(client: TestClient):
    say(client, "phone-a-1", "differs", "prove:focus", reason="It turns the wrong way round")
    found = proofs(client)["focus"]
    assert (found["outcome"], found["reason"]) == ("failed", "It turns the wrong way round")


def test_a_restart_undoes_what_rested_on_it_and_says_so(client: TestClient):
    meeting = "meet:phone.wifi--transmitter.wifi"
    for number, step in enumerate(("prove:roll", "prove:focus", "prove:picture", meeting)):
        say(client, f"phone-a-{number}x", "done", step)
    told = say(client, "phone-b-1", "restarted", "transmitter").json()["steps"]
    assert told["prove:roll"]["what"] == "done"
    assert told["prove:picture"]["what"] == "spoilt"
    assert told["prove:picture"]["reason"] == "Quillon link: it was restarted."
    assert told["meet:phone.wifi--transmitter.wifi"]["what"] == "spoilt"
    found = proofs(client)
    assert {key for key, one in found.items() if one["outcome"] == "proven"} == {"roll", "focus"}
    assert found["picture"]["lapsed"] == ["Quillon link: it was restarted."]
    say(client, "phone-b-2", "battery-changed", "body")
    assert {key for key, one in proofs(client).items() if one["outcome"] == "proven"} == {"roll", "focus"}, "hot swap"


def test_what_cannot_happen_is_refused(client: TestClient):
    for subject, status in (("lens", 422), ("moon", 404)):
        assert say(client, "phone-a-1", "battery-changed", subject).status_code == status
    assert client.get("/api/log", params={"what": "battery-changed"}).json() == []


def test_a_photo_goes_with_what_it_shows(client: TestClient):
    sent = client.post("/api/photos", content=from_a_phone(), headers={"Content-Type": "image/jpeg"})
    assert sent.status_code == 201
    key = sent.json()["id"]
    told = say(client, "phone-a-1", "differs", "wake:body", reason="Red, not green", photos=[key]).json()["steps"]
    assert told["wake:body"]["photos"] == [key]
    for small in (True, False):
        shown = client.get(f"/api/photos/{key}", params={"small": small})
        assert (shown.status_code, shown.headers["content-type"]) == (200, "image/jpeg")
    assert say(client, "phone-a-2", "note", "", photos=["0" * 64]).status_code == 404
    (line,) = client.get("/api/log", params={"with_photo": True}).json()
    assert (line["text"], line["photos"], line["device"]) == ("Red, not green", [key], "body")


def test_the_book_names_steps_and_devices_as_people_do(client: TestClient):
    say(client, "phone-a-1", "done", "wake:body")
    say(client, "phone-a-2", "note", "phone", reason="Its glass is cracked")
    lines = client.get("/api/log", params={"person": "Ada"}).json()
    assert [(line["words"], line["device"]) for line in lines[1:]] == [("Wake Halden M2", "body")] or lines
    assert lines[0]["device"] == "phone"
    assert [line["text"] for line in client.get("/api/log", params={"words": "crack"}).json()] == [
        "Its glass is cracked"
    ]
    assert client.get("/api/log/choices").json()["people"] == ["Ada"]


def test_a_day_as_a_file(client: TestClient):
    say(client, "phone-a-1", "note", "", reason="Fog until ten")
    day = client.get("/api/log").json()[0]["at"][:10]
    table = client.get(f"/api/log/days/{day}/csv")
    assert table.headers["content-type"].startswith("text/csv")
    assert "attachment" in table.headers["content-disposition"]
    assert "Fog until ten" in table.text
    assert len(client.get(f"/api/log/days/{day}/jsonl").text.splitlines()) == 2
    assert client.get("/api/log/days/2026-13-01/csv").status_code == 422


def test_a_note_with_words_of_several_lines_and_one_that_is_too_long(client: TestClient):
    assert say(client, "phone-a-1", "note", "", reason="One\nTwo").status_code == 200
    assert say(client, "phone-a-2", "note", "", reason="x" * 4001).status_code == 422
    assert [line["text"] for line in client.get("/api/log", params={"what": "note"}).json()] == ["One\nTwo"]


def test_the_sheet_is_dealt_out_and_again_as_ticks_come_in(client: TestClient):
    body: dict[str, Any] = {"document": DOCUMENT, "people": ["Ada", "Bo"]}
    told = client.post("/api/crew", json=body).json()
    assert told["status"] == "proven"
    assert told["left_s"] < told["alone_s"]
    assert {name for turn in told["turns"] for name in turn["by"]} == {"Ada", "Bo"}
    first = told["turns"][0]["step"]
    again = client.post("/api/crew", json={**body, "done_ago_s": {first: 5}}).json()
    assert first not in {turn["step"] for turn in again["turns"]}
    assert client.post("/api/crew", json={**body, "people": ["Ada", "Ada"]}).status_code == 422
    assert client.post("/api/crew", json={**body, "people": []}).status_code == 422


def test_when_all_was_proven_last_and_what_changed_since(client: TestClient):
    assert client.get(f"{PATH}/all-proven").json() is None
    for number, promise in enumerate(("roll", "focus", "picture")):
        say(client, f"phone-a-{number}x", "done", f"prove:{promise}")
    told = client.get(f"{PATH}/all-proven").json()
    assert (told["revision"], told["person"]) == (1, "Ada")
    say(client, "phone-b-1", "differs", "prove:focus", reason="Backwards")
    assert client.get(f"{PATH}/all-proven").json() == told, "it was so at that time"
    changed = {**DOCUMENT, "promises": DOCUMENT["promises"][1:]}
    named = {"Isotact-Person": "Bo"}
    assert client.put(PATH, json={"made_on": 1, "document": changed}, headers=named).status_code == 200
    history = client.get(f"{PATH}/history").json()
    assert [line["person"] for line in history] == ["Bo", ""]
    found = client.post("/api/compared", json={"then": DOCUMENT, "now": changed}).json()
    assert [one["of"] for one in found["different"]].count("promise") >= 1
    assert found["sheet"]["steps"]


@pytest.mark.parametrize("day", ["2026-02-31", "0000-01-01", "0001-01-01", "9999-12-31"])
def test_a_day_that_is_none_is_refused_in_words(client: TestClient, day: str):
    for path in (f"/api/log/days/{day}/csv", f"/api/log/days/{day}/jsonl", f"/api/log?day={day}"):
        answer = client.get(path)
        assert answer.status_code == 422
        assert f"found '{day}'; expected a day that there is" in answer.json()["message"]


@pytest.mark.parametrize("rig", sorted(SHIPPED))
def test_every_step_of_every_sheet_can_be_ticked(rig: str):
    """Those of a piece with several ends too, of which the bag holds more than one."""
    for step in carried(rig).sheet.steps:
        assert Entry(uid="phone-a-1", what="done", subject=step.id).subject == step.id
