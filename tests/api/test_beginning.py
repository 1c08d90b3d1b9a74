"""Beginning a rig, the bin, several rigs saved at once, promises from words, and the shelf."""

from fastapi.testclient import TestClient

from isotact.core.model import Rig
from tests.rigs import demo_rig

EMPTY = {"format": "isotact/rig", "version": 1, "id": "new-rig", "name": "Café, C camera", "camera": "C"}


def test_a_rig_begun_with_an_empty_case_is_named_by_its_name_and_can_be_planned(client: TestClient):
    made = client.post("/api/new-rig", json={"document": EMPTY}).json()
    assert made["document"]["id"] == "cafe-c-camera"
    assert client.post("/api/new-rig", json={"document": EMPTY}).json()["document"]["id"] == "cafe-c-camera-2"
    answer = client.post("/api/plan", json={"document": made["document"]}).json()
    assert (answer["plan"]["status"], answer["sheet"]["steps"]) == ("proven-optimal", [])


def test_a_rig_begun_with_what_nobody_knows_is_refused(client: TestClient):
    wrong = EMPTY | {"devices": [{"id": "body", "profile": "anvil"}]}
    answer = client.post("/api/new-rig", json={"document": wrong})
    assert answer.status_code == 422
    assert answer.json()["problems"][0]["path"] == "devices[0].profile"
    assert len(client.get("/api/rigs").json()) == 1


def test_days_are_days_of_the_calendar(client: TestClient):
    assert client.post("/api/new-rig", json={"document": EMPTY | {"days": ["2026-05-04"]}}).status_code == 201
    assert client.post("/api/new-rig", json={"document": EMPTY | {"days": ["4 May"]}}).status_code == 422


def test_the_bin_holds_removed_rigs_and_is_emptied_one_by_one(client: TestClient):
    path = "/api/bin/night-ferry-b"
    assert client.delete(path).status_code == 422, "only what was removed can be thrown away"
    client.delete("/api/rigs/night-ferry-b")
    assert [one["document"]["id"] for one in client.get("/api/bin").json()] == ["night-ferry-b"]
    assert client.delete(path).status_code == 204
    assert client.get("/api/bin").json() == []
    assert client.delete(path).status_code == 404


def test_shares_are_given_to_all_or_to_none(client: TestClient):
    other = client.post("/api/new-rig", json={"document": EMPTY}).json()["document"]
    mine = demo_rig().model_copy(update={"bag": []}).model_dump(mode="json")
    renamed = {**other, "name": "Another name"}
    stale = {"edits": [{"made_on": 1, "document": mine}, {"made_on": 9, "document": renamed}]}
    assert client.put("/api/shares", json=stale).status_code == 409
    assert client.get("/api/rigs/night-ferry-b").json()["document"]["bag"] != []
    good = {"edits": [{"made_on": 1, "document": mine}, {"made_on": 1, "document": other}]}
    assert client.put("/api/shares", json=good).status_code == 200
    assert client.get("/api/rigs/night-ferry-b").json()["document"]["bag"] == []


def test_words_become_promises_that_can_be_saved(client: TestClient):
    rig = demo_rig().model_dump(mode="json")
    answer = client.post("/api/promising", json={"document": rig, "text": "script: stills", "who": ""}).json()
    assert answer["who"] == "Script"
    rig["promises"] += answer["suggestions"][0]["promises"]
    assert Rig.model_validate(rig).promises[-1].who == "Script"


def test_the_shelf_says_what_can_be_found_on_a_device(client: TestClient):
    shelf = {one["id"]: one for one in client.get("/api/catalogue").json()["profiles"]}
    body = shelf["mirrorless-usb-c-micro-hdmi"]
    assert body["modes"]["values"]["stills"] == "Stills"
    assert {"usb-mode", "hdmi-output"} <= {knob["id"] for knob in body["settings"]}
    assert body["battery"] == "body battery, 16.4 Wh"
    assert not body["is_own"]
