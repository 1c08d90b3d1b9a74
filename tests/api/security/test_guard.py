"""What is not ours is turned away at every route of the API, in one shape, with nothing changed."""

import asyncio
import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import httpx
import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient

from isotact.api.application import application
from isotact.api.security.bodies import MAX_BODY_BYTES, MAX_PHOTO_BYTES, PHOTOS, Bodies
from isotact.api.security.guard import Guard
from isotact.core.model import Kit
from isotact.store import KIT, PROFILE, RIG, Store
from tests.api.conftest import HERE, ROUTES, WITH_BODY, asking
from tests.rigs import demo_rig
from tests.store.test_recovery import ours

VALUES = {
    "step_id": "wake:body",
    "number": "1",
    "search": "mine",
    "example_id": "look-alikes",
    "job_id": "0" * 32,
}
KEYS = {
    "rigs": "night-ferry-b",
    "bin": "night-ferry-b",
    "kits": "van",
    "recipes": "sleepy-link",
    "profiles": "our-phone",
    "words": "w",
    "cables": "c",
}
FOREIGN = "http://pages.example"


CHANGING = [route for route in ROUTES if route[0] != "GET"]
JSON_ONLY = [route for route in CHANGING if route[1] != PHOTOS]


def address(path: str) -> str:
    folder = path.split("/")[3] if path.startswith("/api/own/") else path.split("/")[2]
    values = {**VALUES, "key": KEYS.get(folder, "our-phone")}
    for name, value in values.items():
        path = path.replace(f"{{{name}}}", value)
    return path


@pytest.fixture(scope="module")
def app(tmp_path_factory: pytest.TempPathFactory) -> FastAPI:
    store = Store(tmp_path_factory.mktemp("guarded") / "rigs.sqlite")
    store[RIG].create(demo_rig())
    store[RIG].save("night-ferry-b", demo_rig().model_copy(update={"name": "second"}), 1)
    store[KIT].create(Kit(format="isotact/kit", version=1, id="van", name="Van"))
    store[PROFILE].create(ours())
    return application(store)


@pytest.fixture
def unchanged(app: FastAPI) -> Iterator[None]:
    """Nothing may have happened to any document by the end."""
    before = app.state.store.sequence()
    yield
    assert app.state.store.sequence() == before


@pytest.fixture(scope="module")
def browser(app: FastAPI) -> Iterator[TestClient]:
    """Asks without a word of where it comes from."""
    with TestClient(app) as client:
        yield client


def asked(browser: TestClient, method: str, path: str, host: str = HERE, **more: Any) -> httpx.Response:
    return browser.request(method, host + address(path), **more)


def turned_away(answer: httpx.Response, status: int, code: str) -> None:
    assert answer.status_code == status
    told = answer.json()
    assert (told["code"], sorted(told)) == (code, ["code", "hint", "message", "path", "problems"])
    assert told["message"].endswith(".")
    assert_has_headers(answer)


def assert_has_headers(answer: httpx.Response) -> None:
    assert answer.headers["x-content-type-options"] == "nosniff"
    assert answer.headers["referrer-policy"] == "same-origin"
    assert answer.headers["x-frame-options"] == "DENY"
    assert answer.headers["cross-origin-resource-policy"] == "same-origin"
    assert "frame-ancestors 'none'" in answer.headers["content-security-policy"]


BODY = {"made_on": 2, "document": demo_rig().model_dump(mode="json"), "done": True}


HOSTS = ("http://pages.example", "http://127.0.0.1.pages.example", "http://192.168.1.5")
PAGES = (
    {"Origin": FOREIGN},
    {"Origin": "null"},
    {"Origin": "https://127.0.0.1"},
    {"Origin": "http://127.0.0.1:1"},
    {"Origin": FOREIGN, "Sec-Fetch-Site": "same-origin"},
    {"Sec-Fetch-Site": "cross-site"},
    {"Sec-Fetch-Site": "same-site"},
)


@pytest.mark.parametrize(("method", "path"), ROUTES)
def test_another_host_and_another_page_are_turned_away(browser: TestClient, unchanged: None, method: str, path: str):
    for host in HOSTS:
        answer = asked(browser, method, path, host, headers={"Origin": host}, json=BODY)
        turned_away(answer, 403, "foreign-host")
    for headers in PAGES:
        turned_away(asked(browser, method, path, headers=headers, json=BODY), 403, "foreign-origin")


JSON = {"Origin": HERE, "Content-Type": "application/json"}


@pytest.mark.parametrize(("method", "path"), JSON_ONLY)
def test_what_changes_something_comes_from_our_page_as_json_of_some_size(
    browser: TestClient, unchanged: None, method: str, path: str
):
    turned_away(asked(browser, method, path, json=BODY), 403, "foreign-origin")
    turned_away(asked(browser, method, path, json=BODY, headers={"Sec-Fetch-Site": "none"}), 403, "foreign-origin")
    for kind in ("text/plain", "application/x-www-form-urlencoded", "multipart/form-data", ""):
        headers = {"Origin": HERE, "Content-Type": kind}
        turned_away(asked(browser, method, path, headers=headers, content=json.dumps(BODY)), 415, "not-json")
    long = b" " * (MAX_BODY_BYTES + 1)
    turned_away(asked(browser, method, path, headers=JSON, content=long), 413, "too-large")
    endless = (b" " * 500_000 for _ in range(12))
    turned_away(asked(browser, method, path, headers=JSON, content=endless), 413, "too-large")


def test_a_photo_comes_from_our_page_as_a_picture_of_some_size(browser: TestClient, unchanged: None):
    ours = {"Origin": HERE, "Content-Type": "image/jpeg"}
    for where in ({}, {"Origin": FOREIGN}, {"Sec-Fetch-Site": "cross-site"}):
        headers = {**where, "Content-Type": "image/jpeg"}
        turned_away(asked(browser, "POST", PHOTOS, headers=headers, content=b"x"), 403, "foreign-origin")
    for kind in ("text/plain", "application/json", "image/svg+xml", "multipart/form-data", ""):
        headers = {"Origin": HERE, "Content-Type": kind}
        turned_away(asked(browser, "POST", PHOTOS, headers=headers, content=b"x"), 415, "not-a-photo")
    long = b" " * (MAX_PHOTO_BYTES + 1)
    turned_away(asked(browser, "POST", PHOTOS, headers=ours, content=long), 413, "too-large")
    turned_away(asked(browser, "POST", PHOTOS, headers=ours, content=b"<svg/>"), 422, "no-photo")


NO_BODIES = (
    (b"", 422),
    (b"{", 400),
    (b"[1, 2]", 422),
    (b'"text"', 422),
    (b"null", 422),
    (b'{"made_on": ' + b"9" * 5000 + b"}", 400),
    (b"[" * 2000 + b"]" * 2000, 422),
    (b"[" + b"[]," * 300_000 + b"[]]", 413),
    (b'{"document": "\\ud800", "text": "\\ud800"}', 422),
    (b"\xff\xfe{}", 400),
)


@pytest.mark.parametrize(("method", "path"), WITH_BODY)
def test_a_body_that_is_none_of_ours_is_refused(browser: TestClient, unchanged: None, method: str, path: str):
    for content, status in NO_BODIES:
        answer = asked(browser, method, path, headers=JSON, content=content)
        assert answer.status_code == status, (content[:40], answer.text[:300])
        assert sorted(answer.json()) == ["code", "hint", "message", "path", "problems"]
        assert len(answer.json()["problems"]) <= 50
        assert_has_headers(answer)


@pytest.mark.parametrize("path", ["/", "/rigs/a/case", "/assets/none.js", "/api/none", "/api/rigs/none", "/api/health"])
def test_every_answer_has_the_headers(browser: TestClient, path: str):
    assert_has_headers(browser.get(HERE + path))


@pytest.mark.parametrize(
    ("method", "path", "status", "code"),
    [
        ("GET", "/api/none", 404, "not-found"),
        ("POST", "/api/none", 404, "not-found"),
        ("PATCH", "/api/rigs", 405, "not-allowed"),
        ("DELETE", "/api/health", 405, "not-allowed"),
        ("GET", "/assets/none.js", 404, "not-found"),
        ("GET", "/api/rigs/NO", 422, "not-allowed"),
    ],
)
def test_every_error_has_the_one_shape(browser: TestClient, method: str, path: str, status: int, code: str):
    turned_away(browser.request(method, HERE + path, headers={"Origin": HERE}), status, code)


def test_a_fault_of_our_own_is_told_in_the_same_shape(caplog: pytest.LogCaptureFixture, tmp_path: Path):
    app = application(Store(tmp_path / "x.sqlite"))

    @app.get("/api/falls-over")
    def falls_over() -> None:
        raise ZeroDivisionError("secret")

    app.router.routes.insert(0, app.router.routes.pop())
    answer = asking(app).get("/api/falls-over")
    turned_away(answer, 500, "broken")
    assert "secret" not in answer.text
    assert "ZeroDivisionError" in caplog.text


def test_the_data_that_cannot_be_reached_is_told_and_the_work_goes_on(tmp_path: Path):
    store = Store(tmp_path / "data" / "x.sqlite")
    client = asking(application(store))
    (tmp_path / "data").rename(tmp_path / "away")
    turned_away(client.get("/api/rigs"), 503, "no-folder")
    turned_away(client.post("/api/rigs", json={"text": demo_rig().model_dump_json()}), 503, "no-folder")
    (tmp_path / "away").rename(tmp_path / "data")
    assert client.post("/api/rigs", json={"text": demo_rig().model_dump_json()}).status_code == 201


def test_a_body_that_comes_too_slowly_is_given_up(tmp_path: Path):
    async def never() -> dict[str, Any]:
        await asyncio.sleep(30)
        return {"type": "http.disconnect"}

    sent: list[dict[str, Any]] = []

    async def send(message: Any) -> None:
        sent.append(message)

    scope = {
        "type": "http",
        "method": "POST",
        "path": "/api/rigs",
        "headers": [(b"host", b"127.0.0.1"), (b"origin", b"http://127.0.0.1")],
    }

    async def nobody(*_: Any) -> None:
        raise AssertionError("it went through")

    asyncio.run(Guard(Bodies(nobody, within_s=0.05))(scope, never, send))  # type: ignore[arg-type]
    assert sent[0]["status"] == 408
