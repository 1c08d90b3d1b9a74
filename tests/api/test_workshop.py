"""The workshop over HTTP: checked while it is made, tried, kept, given away and brought in; and the examples."""

import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from isotact.api.application import application
from isotact.catalogue import shipped
from isotact.catalogue.packs import as_yaml, read_pack
from isotact.core.model import RefusedError
from isotact.store import RIG, Store
from tests.api.conftest import asking
from tests.house_pack import PACK, WORDS
from tests.house_pack import RIG as ROUND
from tests.rigs import demo_rig

GRIP = "gimbal-single-grip-two-usb-c"


@pytest.fixture
def own(tmp_path: Path) -> Iterator[TestClient]:
    """A server that keeps profiles of one's own."""
    store = Store(tmp_path / "rigs.sqlite")
    store[RIG].create(demo_rig())
    with asking(application(store)) as client:
        yield client


def ours(client: TestClient, **changes: Any) -> dict[str, Any]:
    profile: dict[str, Any] = client.get(f"/api/workshop/profiles/{GRIP}").json()
    return {**profile, "id": "our-grip", "name": "Our grip", **changes}


def keep(client: TestClient, *documents: dict[str, Any]) -> Any:
    return client.post("/api/workshop/keep", json={"text": "\n---\n".join(json.dumps(one) for one in documents)})


def test_a_copy_is_checked_and_its_yaml_given(own: TestClient):
    checked = own.post("/api/workshop/check", json={"text": json.dumps(ours(own))}).json()
    assert checked["problems"] == []
    assert checked["text"].startswith("format: isotact/profile\nversion: 1\nid: our-grip\n")


def test_what_is_wrong_is_told_at_its_place(own: TestClient):
    draft = ours(own, mass_g=-5)
    draft["ports"][0]["connector"] = "usb-d"
    problems = own.post("/api/workshop/check", json={"text": json.dumps(draft)}).json()["problems"]
    assert {problem["path"] for problem in problems} == {"mass_g", "ports[0].connector"}


def test_what_is_kept_can_be_used_at_once_and_survives_a_restart(own: TestClient, tmp_path: Path):
    kept = {"profiles": ["our-grip"], "cables": [], "words": [], "revisions": {"our-grip": 1}}
    assert keep(own, ours(own)).json() == kept
    assert "our-grip" in [one["id"] for one in own.get("/api/catalogue").json()["profiles"]]
    again = asking(application(Store(tmp_path / "rigs.sqlite")))
    assert again.get("/api/workshop/profiles/our-grip").json() == own.get("/api/workshop/profiles/our-grip").json()


def test_a_pack_is_taken_whole_or_not_at_all(own: TestClient):
    cable = json.loads(shipped().cables["bnc-bnc-50"].model_dump_json())
    assert keep(own, ours(own), {**cable, "id": "our-bnc"}).json() == {
        "profiles": ["our-grip"],
        "cables": ["our-bnc"],
        "words": [],
        "revisions": {"our-grip": 1, "our-bnc": 1},
    }
    answer = keep(own, ours(own, id="second-grip"), {**cable, "id": "bad", "length_mm": "long"})
    assert answer.status_code == 422
    assert own.get("/api/workshop/profiles/second-grip").status_code == 404


def test_what_ships_is_never_replaced(own: TestClient):
    answer = keep(own, ours(own, id=GRIP))
    assert answer.status_code == 422
    assert answer.json()["message"] == f"found the id '{GRIP}', which belongs to what ships with the application."


def test_one_of_ones_own_is_not_replaced_in_silence_and_has_a_history(own: TestClient):
    keep(own, ours(own))
    path = "/api/own/profiles/our-grip"
    assert keep(own, ours(own)).json()["revisions"] == {"our-grip": 1}, "the same again is no change"
    heavier = {"text": json.dumps(ours(own, mass_g=999))}
    refused = own.post("/api/workshop/keep", json=heavier)
    assert (refused.status_code, refused.json()["code"]) == (422, "kept-already")
    assert own.post("/api/workshop/keep", json={**heavier, "over": {"our-grip": 1}}).status_code == 201
    stale = own.post("/api/workshop/keep", json={"text": json.dumps(ours(own, mass_g=7)), "over": {"our-grip": 1}})
    assert (stale.status_code, stale.json()["theirs"]["mass_g"]) == (409, 999)
    assert own.get("/api/workshop/profiles/our-grip").json()["mass_g"] == 999
    assert own.post(f"{path}/undo", json={"made_on": 2}).json()["document"]["mass_g"] != 999
    assert own.get("/api/workshop/profiles/our-grip").json()["mass_g"] != 999
    assert [line["number"] for line in own.get(f"{path}/history").json()] == [3, 2, 1]


def test_a_rigs_revision_names_the_profiles_it_was_made_with(own: TestClient):
    keep(own, ours(own))
    rig = demo_rig().model_dump(mode="json")
    rig["devices"].append({"id": "other", "profile": "our-grip"})
    own.put("/api/rigs/night-ferry-b", json={"made_on": 1, "document": rig})
    lines = own.get("/api/rigs/night-ferry-b/history").json()
    assert [line["made_with"] for line in lines] == [{"profile/our-grip": 1}, {}]


def test_a_pack_with_one_id_twice_and_an_empty_one_are_refused(own: TestClient):
    assert "found 'our-grip' twice" in keep(own, ours(own), ours(own)).json()["message"]
    assert "found no document" in own.post("/api/workshop/keep", json={"text": "---\n"}).json()["message"]


def test_it_is_tried_in_a_rig_in_the_place_of_another(own: TestClient):
    body = {"text": json.dumps(ours(own)), "rig": "night-ferry-b", "instead_of": "gimbal"}
    answer = own.post("/api/workshop/try", json=body).json()
    assert answer["kept"] == answer["kept_before"] == ["roll", "focus", "picture"]
    assert answer["says"] == "Our grip is in use."
    weaker = ours(own, emits=[])
    answer = own.post("/api/workshop/try", json={**body, "text": json.dumps(weaker)}).json()
    assert answer["kept"] == ["picture", "iso"]


def test_it_is_tried_beside_the_others_and_nothing_is_saved(own: TestClient):
    body = {"text": json.dumps(ours(own)), "rig": "night-ferry-b"}
    answer = own.post("/api/workshop/try", json=body).json()
    assert answer["says"] == "Our grip is in the rig, and nothing promised needs it."
    assert own.get("/api/rigs/night-ferry-b").json()["revision"] == 1
    assert own.post("/api/workshop/try", json={**body, "instead_of": "nobody"}).status_code == 404


def test_one_that_a_rig_uses_is_not_dropped(own: TestClient):
    keep(own, ours(own))
    rig = demo_rig().model_dump(mode="json")
    rig["devices"].append({"id": "other", "profile": "our-grip"})
    own.put("/api/rigs/night-ferry-b", json={"made_on": 1, "document": rig})
    assert own.delete("/api/own/profiles/our-grip").status_code == 422
    own.post("/api/rigs/night-ferry-b/undo", json={"made_on": 2})
    refused = own.delete("/api/own/profiles/our-grip")
    assert refused.json()["message"] == "found it in use in rig 'night-ferry-b'.", "its history counts too"
    own.delete("/api/rigs/night-ferry-b")
    assert own.delete("/api/own/profiles/our-grip").status_code == 422, "and what lies in the bin"
    own.delete("/api/bin/night-ferry-b")
    assert own.delete("/api/own/profiles/our-grip").status_code == 204
    assert "our-grip" not in [one["id"] for one in own.get("/api/catalogue").json()["profiles"]]
    assert own.post("/api/own/profiles/our-grip/restore").json()["document"]["id"] == "our-grip"
    assert "our-grip" in [one["id"] for one in own.get("/api/catalogue").json()["profiles"]]


@pytest.mark.parametrize("key", sorted(shipped().profiles))
def test_every_profile_that_ships_goes_out_as_yaml_and_comes_back_the_same(key: str):
    profile = shipped().profiles[key]
    assert read_pack(as_yaml(profile)) == [profile]


@pytest.mark.parametrize("key", sorted(shipped().cables))
def test_every_cable_that_ships_goes_out_as_yaml_and_comes_back_the_same(key: str):
    cable = shipped().cables[key]
    assert read_pack(as_yaml(cable)) == [cable]


def test_errors_of_a_pack_stand_at_their_line():
    good = as_yaml(shipped().profiles["phone"])
    bad = good.replace("kind: phone", "kind: fone", 1).replace("id: phone", "id: other", 1)
    with pytest.raises(RefusedError) as caught:
        read_pack(f"{good}---\n{bad}", "pack.yaml")
    line = len(good.splitlines()) + 1 + 5
    assert str(caught.value).startswith(f"pack.yaml:{line} kind: found 'fone'")


def test_examples_are_listed_and_opened_as_rigs_of_ones_own(client: TestClient):
    listed = client.get("/api/examples").json()
    assert [one["number"] for one in listed] == list(range(1, 40))
    first = client.post(f"/api/examples/{listed[1]['id']}/open").json()
    second = client.post(f"/api/examples/{listed[1]['id']}/open").json()
    assert [one["rigs"][0]["document"]["id"] for one in (first, second)] == ["look-alikes", "look-alikes-2"]
    four = client.post(f"/api/examples/{listed[19]['id']}/open").json()
    assert len(four["rigs"]) == 4
    assert four["kit"] == "van"
    assert client.post("/api/examples/none/open").status_code == 404


def test_a_rig_that_is_removed_is_off_the_list_and_comes_back_with_its_history(client: TestClient):
    before = client.get("/api/rigs/night-ferry-b").json()
    assert client.delete("/api/rigs/night-ferry-b").status_code == 204
    assert client.get("/api/rigs").json() == []
    answer = client.post("/api/rigs", json={"text": json.dumps(before["document"])})
    assert "which is the id of a rig that is here already, removed but kept." in answer.json()["message"]
    assert client.post("/api/rigs/night-ferry-b/restore").json() == before
    assert [one["document"]["id"] for one in client.get("/api/rigs").json()] == ["night-ferry-b"]
    assert client.delete("/api/rigs/none").status_code == 404


def test_a_pack_with_words_of_its_own_is_kept_used_and_let_go(own: TestClient):
    kept = own.post("/api/workshop/keep", json={"text": PACK}).json()
    assert [kept["profiles"], kept["cables"], kept["words"]] == [
        ["puck", "round-body"],
        ["round-round-30"],
        ["round-house"],
    ]
    catalogue = own.get("/api/catalogue").json()
    assert catalogue["connectors"]["round-6"] == "6-pin round"
    assert catalogue["functions"]["false-horizon"] == "false horizon"
    assert catalogue["kinds"]["horizon-puck"] == "horizon puck"
    puck = next(one for one in catalogue["profiles"] if one["id"] == "puck")
    assert (puck["kind_name"], puck["like"]) == ("horizon puck", "driver")
    assert own.post("/api/rigs", json={"text": ROUND, "file": "round-rig.yaml"}).status_code == 201
    saved = own.get("/api/rigs/round-rig").json()["document"]
    plan = own.post("/api/plan", json={"document": saved}).json()["plan"]
    assert (plan["unmet"], [route["promise"] for route in plan["routes"]]) == ([], ["horizon"])
    refused = own.delete("/api/own/words/round-house")
    assert refused.status_code == 422
    assert [one["message"] for one in refused.json()["problems"]] == [
        "found '6-pin round' in use in Puck, Round body, 6-pin round to 6-pin round, 0.3 m.",
        "found 'snap rail' in use in Puck.",
        "found 'false horizon' in use in round-rig, Puck, Round body.",
        "found 'horizon puck' in use in Puck.",
    ]
    assert own.delete("/api/own/words/no-house").status_code == 404


def test_words_nobody_uses_are_taken_off_and_forgotten(own: TestClient):
    assert own.post("/api/workshop/keep", json={"text": WORDS}).status_code == 201
    assert own.delete("/api/own/words/round-house").status_code == 204
    catalogue = own.get("/api/catalogue").json()
    assert catalogue["words"] == []
    assert "round-6" not in catalogue["connectors"]


def test_words_are_mended_but_not_taken_from_under_what_uses_them(own: TestClient):
    own.post("/api/workshop/keep", json={"text": PACK})
    mended = WORDS.replace("name: 6-pin round", "name: 6-pole round")
    assert own.post("/api/workshop/keep", json={"text": mended}).json()["code"] == "kept-already"
    assert own.post("/api/workshop/keep", json={"text": mended, "over": {"round-house": 1}}).status_code == 201
    assert own.get("/api/catalogue").json()["connectors"]["round-6"] == "6-pole round"
    without = mended.replace("  snap-rail", "  other-rail")
    answer = own.post("/api/workshop/keep", json={"text": without, "over": {"round-house": 2}})
    assert answer.status_code == 422
    assert answer.json()["message"] == "found 'snap rail' in use in Puck."
    assert "snap-rail" in own.get("/api/catalogue").json()["connectors"]


def test_words_do_not_take_the_id_of_a_profile_of_ones_own(own: TestClient):
    keep(own, ours(own))
    answer = own.post("/api/workshop/keep", json={"text": WORDS.replace("id: round-house", "id: our-grip")})
    assert answer.status_code == 422
    assert answer.json()["message"] == "found the id 'our-grip', which belongs to a profile of your own."
