"""Benches over the API: begun, worked at by several, undone, kept over a restart; and stand-ins over WebSocket."""

import json
from collections.abc import Iterator

import pytest
from fastapi.testclient import TestClient
from starlette.websockets import WebSocketDisconnect

from isotact.api.application import application
from isotact.core.model import IsotactError
from isotact.store import Store
from isotact.store.benches import MOST_KEPT
from tests.rigs import SHIPPED

RIG = SHIPPED["night-ferry-b"].model_dump(mode="json")
HERE = {"Origin": "http://127.0.0.1:8000"}
FIT = {"kind": "act", "act": {"kind": "fit-battery", "device": "body"}}
WAKE = {"kind": "act", "act": {"kind": "wake", "device": "body"}}


@pytest.fixture
def client(tmp_path) -> Iterator[TestClient]:
    with TestClient(application(Store(tmp_path / "b.sqlite")), base_url="http://127.0.0.1:8000", headers=HERE) as made:
        yield made


def begun(client: TestClient, **more) -> str:
    answer = client.post("/api/benches", json={"document": RIG, **more})
    assert answer.status_code == 201
    return answer.json()["id"]


def moved(client: TestClient, bench: str, move: dict, **more) -> dict:
    answer = client.post(f"/api/benches/{bench}/moves", json={"move": move, **more})
    assert answer.status_code == 200, answer.text
    return answer.json()


def test_what_is_done_is_told_and_what_can_be_tried_then(client):
    bench = begun(client)
    there = moved(client, bench, FIT, device="body")
    assert there["told"][-1]["seen"] == "body battery full."
    assert {"kind": "wake", "device": "body"} in [offer["act"] for offer in there["offers"]]
    assert moved(client, bench, WAKE)["offers"] == []


def test_undo_and_redo_by_step_and_a_new_move_forgets_what_was_undone(client):
    bench = begun(client)
    first = moved(client, bench, FIT)
    second = moved(client, bench, WAKE)
    back = client.post(f"/api/benches/{bench}/back", json={"moves": 1}).json()
    assert back == first
    assert client.post(f"/api/benches/{bench}/back", json={"moves": 2}).json() == second
    client.post(f"/api/benches/{bench}/back", json={"moves": 0})
    moved(client, bench, {"kind": "wait", "seconds": 60})
    assert client.post(f"/api/benches/{bench}/back", json={"moves": 2}).status_code == 422
    (line,) = client.get("/api/benches", params={"rig": RIG["id"]}).json()
    assert (line["moves"], line["could_redo"]) == (1, 0)


def test_a_move_that_names_nothing_there_is_refused_and_leaves_the_bench(client):
    bench = begun(client)
    before = client.get(f"/api/benches/{bench}").json()
    for move in (
        {"kind": "act", "act": {"kind": "wake", "device": "nobody"}},
        {"kind": "act", "act": {"kind": "hang", "device": "body"}},
        {"kind": "step", "step": "none"},
        {"kind": "wait", "seconds": -1},
    ):
        answer = client.post(f"/api/benches/{bench}/moves", json={"move": move})
        assert answer.status_code == 422, move
        assert answer.json()["message"]
    assert client.get(f"/api/benches/{bench}").json() == before


def test_a_bench_outlives_the_server(tmp_path):
    store = Store(tmp_path / "b.sqlite")
    first = TestClient(application(store), base_url="http://127.0.0.1:8000", headers=HERE)
    bench = begun(first)
    last = moved(first, bench, FIT)
    store.close()
    again = TestClient(application(Store(tmp_path / "b.sqlite")), base_url="http://127.0.0.1:8000", headers=HERE)
    assert again.get(f"/api/benches/{bench}").json() == last
    assert again.get(f"/api/benches/{bench}/beginning").json()["document"]["id"] == RIG["id"]


def test_the_oldest_benches_make_room(tmp_path):
    store = Store(tmp_path / "b.sqlite")
    made = [store.benches.begin("rig", "Rig", "{}").id for _ in range(MOST_KEPT + 3)]
    store.benches.add(made[-1], "{}")
    assert [one.id for one in store.benches.all()] == made[:2:-1]


def test_a_bench_takes_neither_a_rig_without_end_nor_moves_without_end(tmp_path, monkeypatch):
    store = Store(tmp_path / "b.sqlite")
    with pytest.raises(IsotactError, match="a bench takes 1,000,000"):
        store.benches.begin("rig", "Rig", "x" * 1_000_001)
    monkeypatch.setattr("isotact.store.benches.MOST_MOVES", 2)
    bench = store.benches.begin("rig", "Rig", "{}").id
    for _ in range(2):
        store.benches.add(bench, "{}")
    with pytest.raises(IsotactError, match="takes no more"):
        store.benches.add(bench, "{}")


def test_where_the_sheet_goes_on_and_a_standing_rig_needs_nothing(client):
    fresh, standing = begun(client), begun(client, start="standing")
    ahead = client.get(f"/api/benches/{fresh}/ahead").json()["steps"]
    moved(client, fresh, {"kind": "step", "step": ahead[0]["id"]})
    assert client.get(f"/api/benches/{fresh}/ahead").json()["steps"] == ahead[1:]
    assert client.get(f"/api/benches/{standing}/ahead").json()["steps"] == []
    assert client.get("/api/benches/0a/ahead").status_code == 404


def test_a_bench_is_found_again_with_steps_that_only_the_way_on_has(tmp_path):
    """A step of the way back is kept with what it did: asked at another moment, the sheet may go on another way."""
    store = Store(tmp_path / "b.sqlite")
    first = TestClient(application(store), base_url="http://127.0.0.1:8000", headers=HERE)
    bench = begun(first, start="standing")
    moved(first, bench, {"kind": "act", "act": {"kind": "sleep", "device": "gimbal"}})
    moved(first, bench, {"kind": "wait", "seconds": 600})
    while steps := first.get(f"/api/benches/{bench}/ahead").json()["steps"]:
        last = moved(first, bench, {"kind": "step", "step": steps[0]["id"]})
        assert last["told"][-1]["could"]
    again = TestClient(application(store), base_url="http://127.0.0.1:8000", headers=HERE)
    assert again.get(f"/api/benches/{bench}").json() == last


def test_what_a_step_does_is_not_for_the_asker_to_say(client):
    bench = begun(client)
    ahead = client.get(f"/api/benches/{bench}/ahead").json()["steps"]
    move = {"kind": "step", "step": ahead[0]["id"], "said": ahead[-1]}
    assert moved(client, bench, move)["told"][-1]["step"] == ahead[0]["id"]


def test_who_rehearses_hears_what_was_otherwise(client):
    bench = begun(client, rehearses=True)
    (one,) = moved(client, bench, {"kind": "act", "act": {"kind": "fit-battery", "device": "phone"}})["otherwise"]
    assert one["how"] == "earlier"


def test_a_built_rig_stands_as_it_was_built(client):
    built = RIG | {"built": {key: value for key, value in RIG.items() if key not in ("built", "flags")}}
    bench = client.post("/api/benches", json={"document": built, "start": "standing"}).json()["id"]
    devices = {one["device"]: one for one in client.get(f"/api/benches/{bench}").json()["devices"]}
    assert devices["body"]["state"] == "awake"
    assert client.get(f"/api/benches/{bench}/ahead").json()["steps"] == []


def standing_in(client: TestClient, bench: str, device: str = "body", **headers: str):
    return client.websocket_connect(
        f"/api/benches/{bench}/devices/{device}", headers={"host": "127.0.0.1:8000", **headers}
    )


def until(line, kind: str) -> dict:
    """The next message of a kind: states come whenever anything changes."""
    return next(message for message in iter(line.receive_json, None) if message["kind"] == kind)


def test_a_stand_in_is_told_how_it_is_acts_and_is_told_what_others_did(client):
    bench = begun(client)
    with standing_in(client, bench) as line:
        state = line.receive_json()
        assert (state["kind"], state["moves"], state["device"]["device"]) == ("state", 0, "body")
        assert state["device"]["state"] == "off"
        line.send_text(json.dumps(FIT))
        assert until(line, "done")["seen"] == "body battery full."
        client.post(f"/api/benches/{bench}/moves", json={"move": WAKE})
        while (state := until(line, "state"))["device"]["state"] != "awake":
            pass
        assert state["moves"] == 2


def test_a_stand_in_does_nothing_elsewhere_and_what_is_no_act_is_told_so(client):
    bench = begun(client)
    with standing_in(client, bench) as line:
        for sent, code in (
            ('{"kind": "act", "act": {"kind": "wake", "device": "phone"}}', "elsewhere"),
            ('{"kind": "wait", "seconds": 60}', "elsewhere"),
            ("no json", "not-an-act"),
            ('{"kind": "act", "act": {"kind": "hang", "device": "body"}}', "not-an-act"),
            ('{"kind": "act", "act": {"kind": "set", "device": "body", "setting": "none", "value": "x"}}', "refused"),
            ("x" * 30_000, "refused"),
        ):
            line.send_text(sent)
            assert until(line, "error")["code"] == code, sent
    assert client.get(f"/api/benches/{bench}").json()["count"] == 0


def test_who_follows_hears_that_something_was_done_and_is_not_listened_to(client):
    bench = begun(client)
    with client.websocket_connect(f"/api/benches/{bench}/follow", headers={"host": "127.0.0.1:8000"}) as line:
        assert line.receive_json() == {"kind": "moved", "moves": 0, "could_redo": 0}
        moved(client, bench, FIT)
        assert line.receive_json()["moves"] == 1
        line.send_text(json.dumps(WAKE))
        assert until(line, "error")["code"] == "refused"


@pytest.mark.parametrize("address", ["/api/benches/0a/follow", "/api/benches/0a/devices/body"])
def test_a_bench_that_is_not_there_is_followed_by_nobody(client, address):
    with pytest.raises(WebSocketDisconnect), client.websocket_connect(address, headers={"host": "127.0.0.1:8000"}):
        pass


def test_a_device_that_is_not_there_has_no_stand_in(client):
    with pytest.raises(WebSocketDisconnect), standing_in(client, begun(client), "nobody"):
        pass


@pytest.mark.parametrize(
    "headers", [{"origin": "http://elsewhere.example"}, {"host": "elsewhere.example"}, {"origin": "null"}]
)
def test_no_page_of_another_site_stands_in(client, headers):
    bench = begun(client)
    with pytest.raises(WebSocketDisconnect), standing_in(client, bench, **headers):
        pass


def test_more_lines_than_there_is_room_for_are_told_to_come_back(client, monkeypatch):
    monkeypatch.setattr("isotact.api.bench_hub.MOST_LINES", 1)
    bench = begun(client)
    with standing_in(client, bench) as first:
        until(first, "state")
        with standing_in(client, bench, "gimbal") as second:
            assert until(second, "error")["code"] == "ended"
    with standing_in(client, bench, "gimbal") as again:
        until(again, "state")
