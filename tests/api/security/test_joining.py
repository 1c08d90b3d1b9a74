"""Who joins from the set's network: by a code, with a role, and no further than that at any route."""

from collections.abc import Iterator
from datetime import timedelta
from pathlib import Path
from typing import Any

import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient
from starlette.websockets import WebSocketDisconnect

from isotact.api.application import application
from isotact.api.security.bodies import PHOTOS
from isotact.api.security.doorman import COOKIE
from isotact.api.security.sharing import LETTERS, TRIES, WITHIN_S, Sharing
from isotact.core.model import Kit
from isotact.store import KIT, PROFILE, RIG, Role, Store
from tests.api.security.test_guard import BODY, FOREIGN, ROUTES, address
from tests.rigs import demo_rig
from tests.store.test_recovery import ours

CART = "http://192.0.2.10:8000"
"""An address that documentation may use (RFC 5737)."""
LOG = "/api/rigs/night-ferry-b/log"
TICK = {"revision": 1, "entries": [{"uid": "phone-a-1", "what": "done", "subject": "wake:body"}]}


class Clock:
    now_s = 1000.0

    def __call__(self) -> float:
        return self.now_s


@pytest.fixture
def clock() -> Clock:
    return Clock()


@pytest.fixture
def app(tmp_path: Path, clock: Clock) -> FastAPI:
    return shared(tmp_path, clock)


@pytest.fixture(scope="module")
def closed(tmp_path_factory: pytest.TempPathFactory) -> FastAPI:
    """One for all routes at which nothing may happen, with somebody of each role who joined."""
    return shared(tmp_path_factory.mktemp("shared"), Clock())


def shared(folder: Path, clock: Clock) -> FastAPI:
    store = Store(folder / "rigs.sqlite")
    store[RIG].create(demo_rig())
    store[KIT].create(Kit(format="isotact/kit", version=1, id="van", name="Van"))
    store[PROFILE].create(ours())
    sharing = Sharing(8000, addresses=lambda: ["192.0.2.10"], clock=clock)
    return application(store, hosts=sharing.hosts, sharing=sharing)


@pytest.fixture
def laptop(app: FastAPI) -> Iterator[TestClient]:
    here = "http://127.0.0.1:8000"
    with TestClient(app, base_url=here, headers={"Origin": here}, client=("127.0.0.1", 40_000)) as client:
        yield client


def phone(app: FastAPI, at: str = "192.0.2.33") -> TestClient:
    return TestClient(app, base_url=CART, headers={"Origin": CART}, client=(at, 40_000))


def joined(app: FastAPI, role: Role, person: str = "Bo", at: str = "192.0.2.33") -> TestClient:
    client = phone(app, at)
    answer = client.post("/api/sign-in", json={"code": app.state.sharing.codes[role], "person": person})
    assert answer.status_code == 200
    said = answer.json()
    assert said.pop("person").startswith(person), "of two of one name the second has a number"
    assert said == {"role": role, "is_here": False, "is_shared": True}
    return client


def code_of(answer: Any) -> tuple[int, str]:
    return answer.status_code, answer.json()["code"]


def needs(app: FastAPI, method: str, path: str) -> str:
    said = app.openapi()["paths"][path][method.lower()].get("x-needs")
    return said or ("look" if method == "GET" else "edit")


OPEN = {("GET", "/api/health"), ("GET", "/api/me"), ("POST", "/api/sign-in")}
LOOKING = {
    f"/api/{name}" for name in ("plan", "reasons", "aftermath", "bench", "alternatives", "picture-ways", "takes", "changes", "matrix",
    "advice", "join", "pins", "promising", "proving", "delay", "crew", "compared", "offers", "find", "find/sights", "find/cure", "power", "balance", "balance/try",
        "rota", "rota/papers")
} | {
    "/api/kits/{key}/preview", "/api/kits/{key}/day", "/api/workshop/check", "/api/workshop/try",
    "/api/searches/{search}/stop", "/api/rigs/{key}/proofs", "/api/rigs/{key}/compared",
}  # fmt: skip
TICKING = {
    ("POST", "/api/rigs/{key}/log"), ("DELETE", "/api/rigs/{key}/steps"), ("POST", "/api/photos"),
    ("POST", "/api/benches"), ("POST", "/api/benches/{bench}/moves"), ("POST", "/api/benches/{bench}/back"),
    ("POST", "/api/exercises"), ("POST", "/api/training/by-code"), ("POST", "/api/exercises/{exercise}/answers"),
    ("POST", "/api/training/at-bench/{bench}"), ("POST", "/api/jobs/{key}/happened"),
}  # fmt: skip


def expected(method: str, path: str) -> str:
    """Written down beside the routes, so that one that is opened by mistake is noticed."""
    if (method, path) in OPEN:
        return "nothing"
    if path.startswith("/api/sharing"):
        return "here"
    if (method, path) in TICKING:
        return "tick"
    return "look" if method == "GET" or path in LOOKING or path == "/api/sign-in" else "edit"


@pytest.mark.parametrize(("method", "path"), ROUTES)
def test_every_route_is_closed_to_who_may_not(closed: FastAPI, method: str, path: str):
    app, needed = closed, expected(method, path)
    assert needs(app, method, path) == needed
    if needed == "nothing":
        return
    store: Store = app.state.store
    ended = joined(app, "edit")
    store.sign_ins.end(store.sign_ins.all()[0].key)
    guessed = phone(app)
    guessed.cookies.set(COOKIE, "a" * 43)
    before = store.sequence()
    sent: dict[str, Any] = {"json": BODY}
    if path == PHOTOS:
        sent = {"content": b"x", "headers": {"Content-Type": "image/jpeg"}}
    for nobody in (phone(app), ended, guessed):
        assert code_of(nobody.request(method, address(path), **sent)) == (401, "not-joined")
    order = ["look", "tick", "edit", "here"]
    for role in order[: order.index(needed)]:
        client = joined(app, role)  # type: ignore[arg-type]
        assert code_of(client.request(method, address(path), **sent)) == (403, "may-not")
    stolen = joined(app, "edit")
    for page in (FOREIGN, "http://127.0.0.1:8000", "null"):
        answer = stolen.request(method, address(path), json=BODY, headers={"Origin": page})
        assert code_of(answer) == (403, "foreign-origin")
    answer = stolen.request(method, "http://pages.example" + address(path), json=BODY)
    assert code_of(answer) == (403, "foreign-host")
    assert store.sequence() == before


def test_the_laptop_itself_needs_no_code_and_nobody_passes_for_it(app: FastAPI, laptop: TestClient):
    assert laptop.get("/api/me").json()["is_here"]
    assert laptop.get("/api/sharing").status_code == 200
    elsewhere = TestClient(app, base_url="http://127.0.0.1:8000", client=("192.0.2.33", 40_000))
    assert code_of(elsewhere.get("/api/rigs")) == (401, "not-joined")
    forwarded = phone(app)
    forwarded.headers.update({"X-Forwarded-For": "127.0.0.1", "X-Real-IP": "127.0.0.1", "Forwarded": "for=127.0.0.1"})
    assert code_of(forwarded.get("/api/rigs")) == (401, "not-joined")
    assert phone(app).get("/api/me").json() == {"person": "", "role": None, "is_here": False, "is_shared": True}


def test_a_role_does_what_it_says_and_what_is_done_bears_the_name_of_the_sign_in(app: FastAPI, laptop: TestClient):
    ticking, editing = joined(app, "tick", "Bo"), joined(app, "edit", "Cy")
    told = ticking.post(LOG, json={**TICK, "person": "Somebody else"})
    assert told.json()["steps"]["wake:body"]["person"] == "Bo"
    edit = {"made_on": 1, "document": {**demo_rig().model_dump(mode="json"), "name": "Renamed"}}
    assert code_of(ticking.put("/api/rigs/night-ferry-b", json=edit)) == (403, "may-not")
    assert editing.put("/api/rigs/night-ferry-b", json=edit).status_code == 200
    saved = laptop.get("/api/log", params={"what": "saved"}).json()
    assert [(line["person"], line["words"]) for line in saved] == [("Cy", "Renamed")]
    named = {"Isotact-Person": "Zo%C3%AB"}
    assert laptop.post("/api/rigs/night-ferry-b/undo", json={"made_on": 2}, headers=named).status_code == 200
    assert laptop.get("/api/log", params={"what": "undone"}).json()[0]["person"] == "Zoë"


def test_who_comes_from_the_laptop_by_its_name_on_the_network_is_not_the_laptop_itself(app: FastAPI):
    """As a program that hands on what the network asks: both ends of the line have to be the laptop's own."""
    handed_on = TestClient(app, base_url=CART, headers={"Origin": CART}, client=("127.0.0.1", 40_000))
    assert handed_on.get("/api/me").json()["is_here"] is False
    assert code_of(handed_on.get("/api/rigs")) == (401, "not-joined")


def test_wrong_codes_are_looked_at_a_few_times_only(app: FastAPI, clock: Clock):
    client, right = phone(app), app.state.sharing.codes["tick"]
    for _ in range(TRIES):
        assert code_of(client.post("/api/sign-in", json={"code": "WRONG", "person": "Bo"})) == (403, "wrong-code")
    assert code_of(client.post("/api/sign-in", json={"code": right, "person": "Bo"})) == (429, "too-many-tries")
    assert joined(app, "tick", at="192.0.2.34"), "another phone is not locked out by it"
    clock.now_s += WITHIN_S + 1
    assert (
        client.post("/api/sign-in", json={"code": f"{right[:4].lower()} {right[4:]}", "person": "Bo"}).status_code
        == 200
    )


def test_many_who_try_wrong_codes_keep_nobody_else_from_joining(app: FastAPI):
    for number in range(100):
        client = phone(app, f"192.0.2.{number}")
        for _ in range(2):
            assert code_of(client.post("/api/sign-in", json={"code": "WRONG", "person": "Bo"})) == (403, "wrong-code")
    assert joined(app, "tick", at="192.0.2.200")


def test_who_is_sent_away_does_not_come_back_with_the_same_code(app: FastAPI, laptop: TestClient):
    sent, stays = joined(app, "tick", "Bo"), joined(app, "tick", "Cy", at="192.0.2.34")
    old = app.state.sharing.codes["tick"]
    others = {role: app.state.sharing.codes[role] for role in ("look", "edit")}
    key = next(one["key"] for one in laptop.get("/api/sharing").json()["sign_ins"] if one["person"] == "Bo")
    assert laptop.delete(f"/api/sharing/sign-ins/{key}").status_code == 204
    assert code_of(sent.post("/api/sign-in", json={"code": old, "person": "Bo"})) == (403, "wrong-code")
    assert stays.get("/api/rigs").status_code == 200
    assert {role: app.state.sharing.codes[role] for role in others} == others


def test_two_of_one_name_are_told_apart(app: FastAPI, laptop: TestClient):
    joined(app, "tick", "Bo")
    second = phone(app, "192.0.2.34")
    code = app.state.sharing.codes["look"]
    assert second.post("/api/sign-in", json={"code": code, "person": "bo"}).json()["person"] == "bo 2"
    third = second.post("/api/sign-in", json={"code": code, "person": "Bo"})
    assert third.json()["person"] == "Bo 3"
    assert second.get("/api/me").json()["person"] == "Bo 3"


def test_everybody_who_joined_is_listed(app: FastAPI, laptop: TestClient):
    store = app.state.store
    _, live = store.sign_ins.begin("Ada", "look")
    _, over = store.sign_ins.begin("Old", "look", lasts=timedelta(seconds=-1))
    rows = [
        {**one.model_dump(exclude={"key"}), "person": f"{one.person} {number}", "digest": f"{one.person}-{number}"}
        for one in (live, over)
        for number in range(520)
    ]
    with store.writing():
        store.tables.SignIn.insert_many(rows).execute()
    listed = laptop.get("/api/sharing").json()["sign_ins"]
    assert {one["person"] for one in listed} == {"Ada", *(f"Ada {number}" for number in range(520))}


def test_a_new_code_closes_the_old_one_and_a_sign_in_can_be_ended(app: FastAPI, laptop: TestClient):
    client, old = joined(app, "tick"), app.state.sharing.codes["tick"]
    assert laptop.post("/api/sharing/tick/new-code").status_code == 204
    assert code_of(phone(app).post("/api/sign-in", json={"code": old, "person": "Cy"})) == (403, "wrong-code")
    assert client.get("/api/rigs").status_code == 200
    (listed,) = laptop.get("/api/sharing").json()["sign_ins"]
    assert (listed["person"], listed["role"]) == ("Bo", "tick")
    assert laptop.delete(f"/api/sharing/sign-ins/{listed['key']}").status_code == 204
    assert code_of(client.get("/api/rigs")) == (401, "not-joined")
    assert laptop.get("/api/sharing").json()["sign_ins"] == []


def test_who_leaves_is_out(app: FastAPI):
    client = joined(app, "look")
    token = client.cookies[COOKIE]
    assert client.delete("/api/sign-in").status_code == 204
    again = phone(app)
    again.cookies.set(COOKIE, token)
    assert code_of(again.get("/api/rigs")) == (401, "not-joined")


def test_the_cookie_is_out_of_reach_of_scripts_and_other_pages(app: FastAPI):
    answer = phone(app).post("/api/sign-in", json={"code": app.state.sharing.codes["look"], "person": "Bo"})
    parts = {part.strip().lower() for part in answer.headers["set-cookie"].split(";")}
    assert {"httponly", "samesite=strict", "path=/"} <= parts


def test_the_codes_are_drawn_for_phones(app: FastAPI, laptop: TestClient):
    told = laptop.get("/api/sharing").json()
    assert [code["role"] for code in told["codes"]] == ["look", "tick", "edit"]
    for code in told["codes"]:
        assert code["pages"] == [f"{CART}/join?code={code['code']}"]
        assert code["qr_svg"].startswith("<svg")
        assert set(code["code"]) <= set(LETTERS)
        assert len(code["code"]) == 8


def test_a_laptop_that_is_not_shared_says_how_it_is(client: TestClient):
    assert client.get("/api/sharing").json() == {"is_shared": False, "codes": [], "sign_ins": []}
    assert code_of(client.post("/api/sign-in", json={"code": "ANY", "person": "Bo"})) == (409, "not-shared")


def test_addresses_are_looked_up_again_when_the_laptop_joins_another_network(clock: Clock):
    networks = [["192.0.2.10"]]
    sharing = Sharing(8000, addresses=lambda: networks[0], clock=clock)
    assert "192.0.2.10" in sharing.hosts
    networks[0] = ["198.51.100.7"]
    clock.now_s += 10
    assert "198.51.100.7" in sharing.hosts
    assert "192.0.2.10" not in sharing.hosts
    assert "127.0.0.1" in sharing.hosts


def line_to(client: TestClient, path: str):
    return client.websocket_connect(CART.replace("http", "ws", 1) + path, headers={"origin": CART})


def test_a_stand_in_needs_a_sign_in_that_edits_and_loses_its_line_with_it(app: FastAPI, laptop: TestClient):
    rig = demo_rig().model_dump(mode="json")
    bench = laptop.post("/api/benches", json={"document": rig}).json()["id"]
    follow, stand_in = f"/api/benches/{bench}/follow", f"/api/benches/{bench}/devices/body"
    ticks, edits = joined(app, "tick", "Bo"), joined(app, "edit", "Cy")
    for client, path in ((phone(app), follow), (phone(app), stand_in), (ticks, stand_in)):
        with pytest.raises(WebSocketDisconnect), line_to(client, path):
            pass
    with line_to(ticks, follow) as line:
        assert line.receive_json()["kind"] == "moved"
    with line_to(edits, stand_in) as line:
        assert line.receive_json()["kind"] == "state"
        app.state.store.sign_ins.end(app.state.store.sign_ins.all()[0].key)
        line.send_text('{"kind": "act", "act": {"kind": "fit-battery", "device": "body"}}')
        with pytest.raises(WebSocketDisconnect):
            line.receive_json()
    assert app.state.store.benches.history(bench).line.moves == 0


def test_who_only_follows_loses_the_line_with_the_sign_in_and_has_so_many(
    app: FastAPI, laptop: TestClient, monkeypatch: pytest.MonkeyPatch
):
    monkeypatch.setattr("isotact.api.routes.stand_ins.LOOK_EVERY_S", 0.05)
    monkeypatch.setattr("isotact.api.bench_hub.MOST_OF_ONE", 1)
    bench = laptop.post("/api/benches", json={"document": demo_rig().model_dump(mode="json")}).json()["id"]
    guest, path = joined(app, "look"), f"/api/benches/{bench}/follow"
    with line_to(guest, path) as line:
        assert line.receive_json()["kind"] == "moved"
        with line_to(guest, path) as second:
            assert second.receive_json()["code"] == "ended"
        app.state.store.sign_ins.end(app.state.store.sign_ins.all()[0].key)
        with pytest.raises(WebSocketDisconnect):
            line.receive_json()
