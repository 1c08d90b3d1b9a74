"""Kits over HTTP: kept, undone, lists in and out, and the day planned in the background."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from isotact.catalogue import read_file
from isotact.core.model import Kit
from isotact.demo import demo_kit

VAN = "/api/kits/ferry-van"
LIST = "Item;Qty;Tags\nPhone with the link app;2;P-1, P-2\nHDMI to HDMI, 0.5 m;4;\n"


@pytest.fixture
def van(client: TestClient) -> dict[str, Any]:
    kit = read_file(demo_kit(), Kit).model_dump(mode="json")
    answer = client.post("/api/kits", json={"document": kit})
    assert answer.status_code == 201
    saved: dict[str, Any] = answer.json()
    return saved


def test_a_kit_is_kept_changed_undone_and_redone(client: TestClient, van: dict[str, Any]):
    kit = {**van["document"], "name": "The other van"}
    assert client.put(VAN, json={"made_on": 1, "document": kit}).json()["revision"] == 2
    assert client.post(f"{VAN}/undo", json={"made_on": 2}).json()["document"]["name"] == "The van of Night ferry"
    assert client.post(f"{VAN}/redo", json={"made_on": 3}).json()["document"]["name"] == "The other van"
    assert [one["document"]["id"] for one in client.get("/api/kits").json()] == ["ferry-van"]


def test_a_stale_write_gets_both_versions(client: TestClient, van: dict[str, Any]):
    client.put(VAN, json={"made_on": 1, "document": {**van["document"], "name": "Theirs"}})
    answer = client.put(VAN, json={"made_on": 1, "document": {**van["document"], "name": "Mine"}})
    assert answer.status_code == 409
    assert answer.json()["message"].startswith("This kit has moved on")
    assert answer.json()["yours"]["name"] == "Mine"


def test_a_kit_that_names_what_nobody_knows_is_refused(client: TestClient, van: dict[str, Any]):
    kit = {**van["document"], "id": "other", "cables": [{"cable": "hdmi-a-hdmi-a-5", "count": 1}]}
    answer = client.post("/api/kits", json={"document": kit})
    assert answer.status_code == 422
    assert answer.json()["problems"][0]["path"] == "cables[0].cable"
    assert client.get("/api/kits/other").status_code == 404


def test_a_list_is_previewed_and_taken_in(client: TestClient, van: dict[str, Any]):
    preview = client.post(f"{VAN}/preview", json={"text": LIST}).json()
    assert preview["columns"] == ["item", "count", "tags"]
    assert [(line["item"], line["count"]) for line in preview["lines"]] == [("phone", 2), ("hdmi-a-hdmi-a-50", 4)]
    taken = client.post(f"{VAN}/list", json={"text": LIST, "made_on": 1}).json()
    assert [one["profile"] for one in taken["document"]["devices"]] == ["phone"]
    assert client.post(f"{VAN}/undo", json={"made_on": 2}).json()["document"] == van["document"]


def test_a_list_with_anything_wrong_is_refused_whole_and_nothing_changes(client: TestClient, van: dict[str, Any]):
    bad = LIST + "Mystery box;1;\nPhone with the link app;many;\n"
    preview = client.post(f"{VAN}/preview", json={"text": bad}).json()
    assert not preview["ready"]
    answer = client.post(f"{VAN}/list", json={"text": bad, "made_on": 1})
    assert answer.status_code == 422
    assert [problem["line"] for problem in answer.json()["problems"]] == [4, 5]
    assert client.get(VAN).json() == van
    mended = {"text": bad, "chosen": {"4": "tap-hub"}, "left_out": [5]}
    assert client.post(f"{VAN}/preview", json=mended).json()["ready"]


def test_columns_can_be_matched_by_hand(client: TestClient, van: dict[str, Any]):
    text = "Zeug,Anzahl\nphone,3\n"
    assert not client.post(f"{VAN}/preview", json={"text": text}).json()["ready"]
    preview = client.post(f"{VAN}/preview", json={"text": text, "columns": ["item", "count"]}).json()
    assert [(line["item"], line["count"]) for line in preview["lines"]] == [("phone", 3)]


def test_a_kit_goes_out_as_csv_and_comes_back_the_same(client: TestClient, van: dict[str, Any]):
    out = client.get(f"{VAN}/list")
    assert out.headers["content-type"].startswith("text/csv")
    again = client.post(f"{VAN}/list", json={"text": out.text, "made_on": 1}).json()["document"]

    def plain(kit: dict[str, Any]) -> Any:
        devices = sorted((d["profile"], d["count"], tuple(d["tags"]), d["firmware"], d["note"]) for d in kit["devices"])
        return devices, sorted((c["cable"], c["count"], c["note"]) for c in kit["cables"])

    assert plain(again) == plain(van["document"])


def test_the_day_is_planned_with_the_kit(client: TestClient, van: dict[str, Any]):
    day = client.post(f"{VAN}/day", json={"rigs": ["night-ferry-b"]}, params={"search": "the-day"}).json()
    assert (day["status"], day["rigs"][0]["lost"]) == ("proven-optimal", [])


def test_a_day_with_a_rig_that_is_not_there_is_refused_before_it_starts(client: TestClient, van: dict[str, Any]):
    assert client.post(f"{VAN}/day", json={"rigs": ["none"]}).status_code == 404


def test_a_battery_with_a_mark_of_its_own_is_kept_and_a_list_does_not_lose_it(client: TestClient, van: dict[str, Any]):
    """A list of devices and cables takes the place of these; batteries by their marks are no part of it."""
    packs = [{"tag": "B1", "fits": "NP-type cell"}, {"tag": "B2", "battery": "dummy-battery"}]
    saved = client.put(VAN, json={"made_on": 1, "document": {**van["document"], "packs": packs}}).json()
    assert [one["tag"] for one in saved["document"]["packs"]] == ["B1", "B2"]
    listed = client.post(f"{VAN}/list", json={"text": LIST, "made_on": 2}).json()
    assert [one["tag"] for one in listed["document"]["packs"]] == ["B1", "B2"]


@pytest.mark.parametrize(
    ("packs", "says"),
    [
        ([{"tag": "B1"}], "found neither 'battery' nor 'fits', or both"),
        ([{"tag": "B1", "fits": "cell", "battery": "any"}], "found neither 'battery' nor 'fits', or both"),
        ([{"tag": "B1", "fits": "cell"}, {"tag": "B1", "fits": "cell"}], "found 'B1' on two packs"),
        ([{"tag": "B1", "battery": "nobody-has-it"}], "found 'nobody-has-it', which is no profile that we know"),
    ],
)
def test_a_battery_that_makes_no_sense_is_refused(client: TestClient, van: dict[str, Any], packs: Any, says: str):
    answer = client.put(VAN, json={"made_on": 1, "document": {**van["document"], "packs": packs}})
    assert answer.status_code == 422
    assert says in answer.text
    assert client.get(VAN).json()["revision"] == 1


def test_a_kit_can_be_removed_and_comes_back(client: TestClient, van: dict[str, Any]):
    assert client.delete(VAN).status_code == 204
    assert client.get("/api/kits").json() == []
    assert client.post(f"{VAN}/restore").json()["document"] == van["document"]
