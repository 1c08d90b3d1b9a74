"""Comparing over HTTP: what the screens ask, in the shapes that they are given."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.api.test_api import document
from tests.rigs import no_data_cables

LINK = "body.usb--gimbal.camera~usb-c-usb-c-data-30"


def post(client: TestClient, path: str, **body: Any) -> Any:
    answer = client.post(f"/api/{path}", json={"document": document(), **body})
    assert answer.status_code == 200, answer.text
    return answer.json()


def test_other_plans_come_with_their_figures_and_ways(client: TestClient):
    plans = post(client, "alternatives", count=3)
    assert [one["figures"]["kept"] for one in plans] == [3, 3, 3]
    assert plans[1]["over"]["roll"] == ["body.usb--transmitter.camera", "gimbal.camera--transmitter.link"]


def test_the_ways_to_a_picture(client: TestClient):
    ways = post(client, "picture-ways", promise="picture")
    assert [(way["says"], way["possible"]) for way in ways] == [("Brindle 2 to Quillon link to Director's phone", True)]


def test_what_it_takes_and_doing_it(client: TestClient):
    bare = document(no_data_cables)
    takes = client.post("/api/takes", json={"document": bare, "promise": "roll"}).json()
    assert takes["verdict"] == "can-be-had"
    changed = client.post("/api/changes", json={"document": bare, "changes": takes["takes"][0]["changes"]}).json()
    assert "roll" in [
        r["promise"] for r in client.post("/api/plan", json={"document": changed}).json()["plan"]["routes"]
    ]


def test_the_matrix_the_advice_and_the_join(client: TestClient):
    assert len(post(client, "matrix", device="body")["cells"]) == 24
    assert [one["kind"] for one in post(client, "advice")] == ["antennas"]
    assert post(client, "join", link=LINK)["tag"] == "B2"


def test_pins_are_costed(client: TestClient):
    def pin(data: dict[str, Any]) -> None:
        data["pins"] = [{"kind": "off", "device": "phone"}]

    answer = client.post("/api/pins", json={"document": document(pin)}).json()
    assert answer[0]["lost"] == ["picture on the touch screen of Director's phone"]


@pytest.mark.parametrize(
    ("path", "body"),
    [
        ("picture-ways", {"promise": "roll"}),
        ("takes", {"promise": "nothing"}),
        ("matrix", {"device": "nobody"}),
        ("join", {"link": "a--b"}),
    ],
)
def test_what_is_not_there_is_not_found(client: TestClient, path: str, body: dict[str, Any]):
    answer = client.post(f"/api/{path}", json={"document": document(), **body})
    assert answer.status_code == 404
    assert answer.json()["code"] == "not-found"


def test_a_pin_that_names_no_device_is_refused_at_its_place(client: TestClient):
    def pin(data: dict[str, Any]) -> None:
        data["pins"] = [{"kind": "off", "device": "fone"}]

    answer = client.post("/api/plan", json={"document": document(pin)})
    assert answer.status_code == 422
    assert answer.json()["problems"][0]["path"].endswith("pins[0].device")
    assert "Did you mean 'phone'?" in answer.json()["message"]


def test_stopping_a_search_that_is_not_under_way_says_so(client: TestClient):
    assert not client.post("/api/searches/page-x/stop").json()["found"]
    assert not client.get("/api/searches/page-x").json()["found"]
