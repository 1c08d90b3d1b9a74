"""The API as the front end and other programs use it."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from isotact.catalogue import read_document
from isotact.core.model import Rig
from isotact.demo import FOLDER
from tests.api.conftest import asking
from tests.rigs import DEMO, demo_rig, no_data_cables, without

PATH = "/api/rigs/night-ferry-b"
TEXT = (FOLDER / DEMO).read_text(encoding="utf-8")


def document(change=None) -> dict[str, Any]:
    data = demo_rig().model_dump(mode="json")
    if change:
        change(data)
    return data


NOTHING_ELSE = {"given": {}, "happened": [], "search": None}


def test_it_says_that_it_is_up(client: TestClient):
    assert client.get("/api/health").json() == {"status": "up"}


def test_rigs_are_listed_and_opened(client: TestClient):
    assert [saved["document"]["id"] for saved in client.get("/api/rigs").json()] == ["night-ferry-b"]
    assert client.get(PATH).json()["revision"] == 1


def test_a_plan_comes_with_its_drawing_conditions_and_run_sheet(client: TestClient):
    answer = client.post("/api/plan", json={"document": document()}).json()
    assert answer["plan"]["status"] == "proven-optimal"
    assert [row["tag"] for row in answer["drawing"]["schedule"]] == ["B1", "B2", "B3", "B4"]
    assert answer["drawing"]["promises"]["roll"] == "record from the record button of Tansy grip"
    steps = {step["id"] for step in answer["sheet"]["steps"]}
    assert {"wake:body", "prove:roll"} <= steps
    made_by = {condition["made_by"] for condition in answer["conditions"]}
    assert made_by <= steps


def test_planning_is_stateless(client: TestClient):
    body = {"document": document()}
    assert client.post("/api/plan", json=body).json() == client.post("/api/plan", json=body).json()
    assert client.get(PATH).json()["revision"] == 1


def test_the_bench_proves_what_the_plan_keeps(client: TestClient):
    ran = client.post("/api/bench", json={"document": document(no_data_cables)}).json()
    assert [(proof["promise"], proof["ok"]) for proof in ran["proofs"]] == [("picture", True)]
    assert ran["unproven"] == ["roll", "focus", "iso"]


def test_the_bench_with_a_step_left_out_names_the_broken_condition(client: TestClient):
    body = {"document": document(), "skip": ["wake:transmitter"]}
    ran = client.post("/api/bench", json=body).json()
    assert "awake:transmitter" in ran["broken"]
    assert "picture" in ran["unproven"]


def test_save_undo_redo_history(client: TestClient):
    body = {"made_on": 1, "document": document(lambda data: without(data, "iso"))}
    assert client.put(PATH, json=body).json()["revision"] == 2
    assert len(client.post(f"{PATH}/undo", json={"made_on": 2}).json()["document"]["promises"]) == 4
    assert len(client.post(f"{PATH}/redo", json={"made_on": 3}).json()["document"]["promises"]) == 3
    lines = client.get(f"{PATH}/history").json()
    assert [(line["number"], line["shows"], line["promises"]) for line in lines] == [
        (4, 2, 3),
        (3, 1, 4),
        (2, 2, 3),
        (1, 1, 4),
    ]
    page = client.get(f"{PATH}/history", params={"before": 4, "count": 2}).json()
    assert [line["number"] for line in page] == [3, 2]
    assert client.get(f"{PATH}/revisions/2").json() == body["document"]
    assert client.post(f"{PATH}/back-to", json={"made_on": 4, "revision": 1}).json()["revision"] == 5


def test_a_stale_write_gets_409_and_both_versions(client: TestClient):
    client.put(PATH, json={"made_on": 1, "document": document(lambda data: data.update(name="theirs"))})
    answer = client.put(PATH, json={"made_on": 1, "document": document(lambda data: data.update(name="mine"))})
    told = answer.json()
    assert answer.status_code == 409
    assert (told["code"], told["yours"]["name"], told["theirs"]["name"], told["head"]) == (
        "stale-write",
        "mine",
        "theirs",
        2,
    )


def test_a_rig_is_added_from_its_text(client: TestClient):
    answer = client.post("/api/rigs", json={"text": TEXT.replace("night-ferry-b", "night-ferry-d"), "file": "d.yaml"})
    assert answer.status_code == 201
    assert client.get("/api/rigs/night-ferry-d").json()["document"]["camera"] == "B"


def test_a_bad_rig_is_refused_whole_with_each_problem_at_its_line(client: TestClient):
    text = (
        TEXT.replace("id: night-ferry-b", "id: other")
        .replace("camera: B", "camera: bb")
        .replace("count: 2", "count: -2")
    )
    answer = client.post("/api/rigs", json={"text": text, "file": "d.yaml"})
    told = answer.json()
    assert answer.status_code == 422
    assert [(problem["file"], problem["line"], problem["path"]) for problem in told["problems"]] == [
        ("d.yaml", 5, "camera"),
        ("d.yaml", 17, "bag[3].count"),
    ]
    assert client.get("/api/rigs/other").status_code == 404


def test_a_rig_that_names_an_unknown_profile_is_refused_at_its_path(client: TestClient):
    body = {"document": document(lambda data: data["devices"][0].update(profile="mirorless"))}
    told = client.post("/api/plan", json=body).json()
    assert told["code"] == "unknown-name"
    assert told["path"] == "devices[0].profile"


def test_a_bad_body_is_told_in_the_same_shape(client: TestClient):
    answer = client.post("/api/plan", json={"document": document(lambda data: data["bag"][0].update(count="x"))})
    told = answer.json()
    assert answer.status_code == 422
    assert told["problems"][0]["path"] == "body.document.bag[0].count"
    assert told["message"] == "found 'x'; expected a whole number."


def test_what_is_no_json_is_told_so(client: TestClient):
    answer = client.post("/api/plan", content=b"{", headers={"content-type": "application/json"})
    assert (answer.status_code, answer.json()["code"]) == (400, "not-json")


def test_an_unknown_rig_and_an_unknown_address_are_404_in_our_shape(client: TestClient):
    assert client.get("/api/rigs/night-ferry-c").json()["message"].startswith("There is no rig 'night-ferry-c'.")
    assert client.get("/api/nothing").json()["code"] == "not-found"


def test_the_document_that_is_given_out_can_be_read_again(client: TestClient):
    text = client.get(f"{PATH}/document").text
    assert read_document(text, Rig) == demo_rig()


def test_what_is_done_goes_into_the_log_and_a_new_day_begins_with_nothing_done(client: TestClient):
    step = "plug:body.usb--gimbal.camera"

    def said(what: str, uid: str, subject: str = step, **more: object):
        entry = {"uid": uid, "what": what, "subject": subject, **more}
        return client.post(f"{PATH}/log", json={"revision": 1, "person": "Ada", "entries": [entry]})

    done = said("done", "phone-a-1").json()["steps"]
    assert (done[step]["what"], done[step]["person"], done[step]["revision"]) == ("done", "Ada", 1)
    assert client.get(f"{PATH}/steps").json() == {"steps": done, **NOTHING_ELSE}
    assert said("taken-back", "phone-a-2").json()["steps"] == {}
    skipped = said("skipped", "phone-a-3", reason="No need of it today").json()["steps"]
    assert skipped[step]["reason"] == "No need of it today"
    assert client.delete(f"{PATH}/steps").status_code == 204
    assert client.get(f"{PATH}/steps").json() == {"steps": {}, **NOTHING_ELSE}
    made_up = said("done", "phone-a-4", "plug:moon")
    assert (made_up.status_code, made_up.json()["code"]) == (404, "not-found")
    assert client.get(f"{PATH}/steps").json()["steps"] == {}


def test_a_proof_by_hand_holds_until_something_that_it_rests_on_changes(client: TestClient):
    def proven(promise: str, uid: str) -> None:
        entry = {"uid": uid, "what": "done", "subject": f"prove:{promise}"}
        revision = client.get(PATH).json()["revision"]
        body = {"revision": revision, "person": "Ada", "entries": [entry]}
        assert client.post(f"{PATH}/log", json=body).status_code == 200

    def spoilt(document: object) -> dict[str, list[str]]:
        found = client.post(f"{PATH}/proofs", json={"document": document}).json()
        assert {one["person"] for one in found} <= {"Ada"}
        return {one["promise"]: one["lapsed"] for one in found}

    document = client.get(PATH).json()["document"]
    assert spoilt(document) == {}
    proven("roll", "phone-a-1")
    proven("picture", "phone-a-2")
    assert spoilt(document) == {"roll": [], "picture": []}
    changed = {
        **document,
        "devices": [{**one, "firmware": "1.2"} if one["id"] == "transmitter" else one for one in document["devices"]],
    }
    says = ["Quillon link had firmware 1.3 when it was proven, and has 1.2 now."]
    assert spoilt(changed) == {"roll": [], "picture": says}
    assert client.put(PATH, json={"made_on": 1, "document": changed}).json()["revision"] == 2
    proven("picture", "phone-a-3")
    assert spoilt(changed) == {"roll": [], "picture": []}
    assert spoilt(document)["picture"] == ["Quillon link had firmware 1.2 when it was proven, and has 1.3 now."]


def test_the_catalogue_lists_what_there_is_to_choose(client: TestClient):
    told = client.get("/api/catalogue").json()
    grip = next(one for one in told["profiles"] if one["id"] == "gimbal-single-grip-two-usb-c")
    wheel = next(one for one in grip["surfaces"] if one["id"] == "wheel")
    assert wheel["functions"] == ["focus"]
    assert told["functions"]["iso"] == "ISO"
    assert told["broken"] == {}


def test_any_other_address_is_the_page_with_its_policy(client: TestClient):
    answer = client.get("/rigs/night-ferry-b/wiring")
    assert "<title>Isotact</title>" in answer.text
    assert "default-src 'self'" in answer.headers["content-security-policy"]


def test_scripts_are_asked_for_once_and_the_page_each_time(tmp_path):
    """A script's name tells its contents, so one that a browser has is never an old one; the page names them."""
    from isotact.api.application import application
    from isotact.store import Store

    (tmp_path / "assets").mkdir()
    (tmp_path / "assets" / "main-4f2a.js").write_text("export {}", encoding="utf-8")
    (tmp_path / "index.html").write_text("<title>Isotact</title>", encoding="utf-8")
    with asking(application(Store(tmp_path / "rigs.sqlite"), static=tmp_path)) as client:
        assert "immutable" in client.get("/assets/main-4f2a.js").headers["Cache-Control"]
        assert client.get("/").headers["Cache-Control"] == "no-cache"
        assert "immutable" not in client.get("/assets/none.js").headers.get("Cache-Control", "")


def test_without_a_built_front_end_it_says_what_to_do(tmp_path):
    from isotact.api.application import application
    from isotact.store import Store

    client = asking(application(Store(tmp_path / "x.sqlite"), static=tmp_path / "none"))
    answer = client.get("/")
    assert (answer.status_code, answer.text) == (503, "The front end is not built. Run 'make demo'.")


@pytest.mark.parametrize("path", ["/api", "/api/", "/api?x=1", "/api/nothing", "/api/rigs/night-ferry-b/nothing"])
def test_an_address_of_the_api_at_which_nothing_is_answers_as_the_api_does(client: TestClient, path: str):
    answer = client.get(path)
    assert (answer.status_code, answer.json()["code"]) == (404, "not-found")
