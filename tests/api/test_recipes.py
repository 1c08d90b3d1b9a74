"""Recipes over the API: kept, tried, counted, offered."""

from typing import Any

from fastapi.testclient import TestClient

from tests.api.test_log import DOCUMENT, say
from tests.core.questions.test_recipe_offers import recipe

RECIPE = recipe().model_dump(mode="json")


def kept(client: TestClient) -> Any:
    return client.post("/api/recipes", json={"document": RECIPE})


def test_a_recipe_is_kept_tried_counted_and_offered(client: TestClient):
    saved = kept(client)
    assert saved.status_code == 201
    key = saved.json()["document"]["id"]
    for number, worked in enumerate((True, True, False)):
        note = {"reason": "In the rain"} if not worked else {}
        assert say(client, f"phone-a-{number}x", "tried", key, worked=worked, **note).status_code == 200
    say(client, "phone-a-0x", "tried", key, worked=True)  # sent twice
    (told,) = client.get("/api/recipes").json()
    assert (told["rate"]["worked"], told["rate"]["tries"]) == (2, 3)
    assert [line["worked"] for line in told["tries"]] == [False, True, True]
    assert (told["tries"][0]["text"], told["tries"][0]["id"], told["tries"][0]["person"]) == (
        "In the rain",
        "night-ferry-b",
        "Ada",
    )
    (offer,) = client.post("/api/offers", json={"document": DOCUMENT}).json()
    assert (offer["promise"], offer["recipe"], offer["rate"]["tries"]) == ("iso", key, 3)
    assert client.delete(f"/api/recipes/{key}").status_code == 204
    assert client.post("/api/offers", json={"document": DOCUMENT}).json() == []


def test_two_of_one_name_get_an_id_each_and_both_edits_are_told(client: TestClient):
    ids = [kept(client).json()["document"]["id"] for _ in range(2)]
    assert len(set(ids)) == 2
    document = {**RECIPE, "id": ids[0], "name": "Renamed"}
    assert client.put(f"/api/recipes/{ids[0]}", json={"made_on": 1, "document": document}).status_code == 200
    late = client.put(f"/api/recipes/{ids[0]}", json={"made_on": 1, "document": {**document, "name": "Late"}})
    assert (late.status_code, late.json()["theirs"]["name"]) == (409, "Renamed")


def test_a_device_that_nobody_knows_is_refused_at_its_place(client: TestClient):
    document = {**RECIPE, "devices": [{"profile": "no-such-device"}]}
    refused = client.post("/api/recipes", json={"document": document})
    assert (refused.status_code, refused.json()["path"]) == (422, "devices[0].profile")
    assert client.get("/api/recipes").json() == []
