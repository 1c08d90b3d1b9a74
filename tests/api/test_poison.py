"""What is accepted can be read back and planned: generated documents with poison in them, at every route that writes."""

import copy
import json
from collections.abc import Iterator
from typing import Any

import pytest
from fastapi.testclient import TestClient
from hypothesis import given, settings
from hypothesis import strategies as st

from isotact.api.application import application
from isotact.catalogue import shipped
from isotact.store import KIT, RIG, Store
from tests.api.conftest import asking
from tests.rigs import demo_rig
from tests.store.earlier import VAN

Document = dict[str, Any]
FERRY: Document = demo_rig().model_dump(mode="json")
FULL_VAN: Document = VAN.model_dump(mode="json") | {
    "devices": [
        {"profile": "phone", "count": 2, "tags": ["P-1", "P-2"], "firmware": "1.2", "licences": [], "note": None}
    ],
    "cables": [{"cable": "bnc-bnc-50", "count": 3, "tags": [], "note": "short"}],
}
PHONE: Document = shipped().profiles["phone"].model_dump(mode="json") | {"id": "our-phone"}
MARKS = st.sampled_from(
    ["\x00", "\x1b", "\u202e", "\u2066", "\ud800", "\udfff", "\ufeff", "\u2028", "é", "１", "😀", "'", "=", "/"]
)
POISON = st.one_of(
    st.text(max_size=6),
    st.text(st.characters(exclude_categories=["Cs", "Cc"]), max_size=6),
    st.integers(0, 12),
    st.lists(MARKS, min_size=1, max_size=4).map("".join),
    st.builds(lambda mark, text: f"{text}{mark}{text}", MARKS, st.text(max_size=4)),
    st.sampled_from(["9" * 5000, "1." * 3 + "0", "１.２", "x" * 401, " " * 10, "-", "a\nb", "\t", "null", "1e400"]),
    st.integers(-(10**30), 10**30),
    st.floats(allow_nan=False, allow_infinity=False),
    st.sampled_from([None, True, [], {}, [[]], {"a": 1}]),
)


FREE = {
    "name",
    "who",
    "tag",
    "note",
    "production",
    "firmware",
    "summary",
    "words",
    "marking",
    "place",
    "count",
    "weight",
}
"""Fields that people fill in as they like: poison is let through there, if anywhere."""


def places(part: Any, path: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    """Every place of a document that holds something."""
    items = part.items() if isinstance(part, dict) else enumerate(part) if isinstance(part, list) else ()
    for key, value in items:
        yield (*path, key)
        yield from places(value, (*path, key))


@st.composite
def poisoned(draw: st.DrawFn, document: Document) -> Document:
    """The document with something else at one to three of its places."""
    found = copy.deepcopy(document)
    everywhere = list(places(document))
    free = [place for place in everywhere if place[-1] in FREE]
    for place in draw(
        st.lists(st.sampled_from(free) | st.sampled_from(free) | st.sampled_from(everywhere), min_size=1, max_size=2)
    ):
        here = found
        for key in place[:-1]:
            here = here[key] if isinstance(here, list | dict) and (key in here or isinstance(key, int)) and here else {}
        if isinstance(here, dict) or (isinstance(here, list) and place[-1] < len(here)):
            here[place[-1]] = draw(POISON)
    return found


@pytest.fixture(scope="module")
def client(tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    store = Store(tmp_path_factory.mktemp("poison") / "rigs.sqlite")
    store[RIG].create(demo_rig())
    store[KIT].create(VAN)
    with asking(application(store)) as client:
        yield client


def sent(client: TestClient, method: str, path: str, body: Document) -> Any:
    """What is answered; never a fault of ours."""
    headers = {"Content-Type": "application/json"}
    answer = client.request(method, path, content=json.dumps(body).encode(), headers=headers)
    assert answer.status_code < 500, answer.text[:500]
    return answer.json() if answer.is_success and answer.content else None


def reads_back(client: TestClient, folder: str, saved: Document) -> None:
    key = saved["document"]["id"]
    assert client.get(f"/api/{folder}/{key}").json() == saved
    assert saved in client.get(f"/api/{folder}").json()
    assert client.get(f"/api/{folder}/{key}/history").json()[0]["is_readable"]
    assert client.get("/api/state").json()["unreadable"] == []


def is_planned(client: TestClient, saved: Document) -> None:
    answer = client.post("/api/plan", json={"document": saved["document"]})
    assert answer.status_code == 200, answer.text[:500]
    assert client.get(f"/api/rigs/{saved['document']['id']}/document").status_code == 200


def head(client: TestClient, path: str) -> int:
    revision: int = client.get(path).json()["revision"]
    return revision


FERRY_PATH, VAN_PATH = f"/api/rigs/{FERRY['id']}", "/api/kits/van"


@settings(max_examples=40)
@given(document=poisoned(FERRY))
def test_a_rig_that_is_saved(client: TestClient, document: Document):
    saved = sent(client, "PUT", FERRY_PATH, {"made_on": head(client, FERRY_PATH), "document": document})
    if saved:
        reads_back(client, "rigs", saved)
        is_planned(client, saved)


@settings(max_examples=30)
@given(document=poisoned(FERRY))
def test_a_rig_that_is_set_aside(client: TestClient, document: Document):
    body = {"made_on": 1, "newest": head(client, FERRY_PATH), "document": document}
    saved = sent(client, "PUT", f"{FERRY_PATH}/aside", body)
    if saved:
        reads_back(client, "rigs", saved)
        aside = client.get(f"{FERRY_PATH}/revisions/{saved['revision'] - 1}").json()
        assert client.post("/api/plan", json={"document": aside}).status_code == 200


@settings(max_examples=40)
@given(document=poisoned(FERRY | {"id": "added"}))
def test_a_rig_that_is_added_or_begun(client: TestClient, document: Document):
    begun = sent(client, "POST", "/api/new-rig", {"document": document})
    added = sent(client, "POST", "/api/rigs", {"text": json.dumps(document)})
    for saved in (begun, added):
        if saved:
            reads_back(client, "rigs", saved)
            is_planned(client, saved)
            key = saved["document"]["id"]
            if key != FERRY["id"]:
                assert client.delete(f"/api/rigs/{key}").status_code == 204
                assert client.delete(f"/api/bin/{key}").status_code == 204


@settings(max_examples=30)
@given(document=poisoned(FERRY))
def test_rigs_that_share(client: TestClient, document: Document):
    edits = [{"made_on": head(client, FERRY_PATH), "document": document}]
    saved = sent(client, "PUT", "/api/shares", {"edits": edits})
    if saved:
        reads_back(client, "rigs", saved[0])


@settings(max_examples=40)
@given(document=poisoned(FULL_VAN))
def test_a_kit_that_is_saved(client: TestClient, document: Document):
    saved = sent(client, "PUT", VAN_PATH, {"made_on": head(client, VAN_PATH), "document": document})
    if saved:
        reads_back(client, "kits", saved)
        out = client.get(f"{VAN_PATH}/list")
        assert out.status_code == 200
        body = {"made_on": saved["revision"], "text": out.text}
        again = sent(client, "POST", f"{VAN_PATH}/list", body)
        if saved["document"]["devices"] or saved["document"]["cables"]:
            assert again is not None, client.post(f"{VAN_PATH}/preview", json={"text": out.text}).text
            assert again["document"] == saved["document"]


CELLS = st.one_of(
    st.sampled_from(["phone", "bnc-bnc-50", "driver-newer", "nothing like it"]),
    st.text(max_size=5),
    st.sampled_from(['"', '""', "=1+1", "＝1", "'=x", "a/b", "a;b", ";", ",", "999", "150", "1.2", "n" * 399, "９"]),
)


@settings(max_examples=50)
@given(rows=st.lists(st.lists(CELLS, min_size=1, max_size=6), max_size=6), joined=st.sampled_from(",;\t"))
def test_a_list_that_is_taken_in(client: TestClient, rows: list[list[str]], joined: str):
    text = "\n".join([joined.join(("item", "count", "tags", "firmware", "note")), *(joined.join(row) for row in rows)])
    sent(client, "POST", f"{VAN_PATH}/preview", {"text": text})
    saved = sent(client, "POST", f"{VAN_PATH}/list", {"made_on": head(client, VAN_PATH), "text": text})
    if saved:
        reads_back(client, "kits", saved)


@settings(max_examples=40)
@given(document=poisoned(PHONE))
def test_a_profile_that_is_kept(client: TestClient, document: Document):
    revisions = {one["document"]["id"]: one["revision"] for one in client.get("/api/own/profiles").json()}
    kept = sent(client, "POST", "/api/workshop/keep", {"text": json.dumps(document), "over": revisions})
    if kept and kept["profiles"]:
        key = kept["profiles"][0]
        reads_back(client, "own/profiles", client.get(f"/api/own/profiles/{key}").json())
        listed = client.get("/api/catalogue").json()
        assert key in [one["id"] for one in listed["profiles"]]
        assert listed["broken"] == {}
        assert client.delete(f"/api/own/profiles/{key}").status_code == 204


@given(step=st.text(min_size=1, max_size=20))
@settings(max_examples=30)
def test_a_tick_that_is_made_up(client: TestClient, step: str):
    before = client.get(f"{FERRY_PATH}/steps").json()
    entry = {"uid": "phone-a-1", "what": "done", "subject": step}
    sent = client.post(f"{FERRY_PATH}/log", json={"revision": 1, "entries": [entry]})
    assert sent.status_code in (404, 422)
    assert client.get(f"{FERRY_PATH}/steps").json() == before
