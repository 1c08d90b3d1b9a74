"""Several at once: of writers on one revision exactly one is right, of keepers of one profile all get an answer."""

import json
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

import pytest

from isotact.api.application import application
from isotact.catalogue import read_document, shipped
from isotact.core.model import StaleWriteError
from isotact.core.model.vocabulary import Words
from isotact.store import CABLE, KIT, PROFILE, RIG, WORDS, Kind, Store
from tests.api.conftest import asking
from tests.house_pack import WORDS as WORDS_TEXT
from tests.store.earlier import FERRY, VAN
from tests.store.saying import said
from tests.store.test_recovery import ours

WRITERS = 20


def each() -> list[tuple[Kind[Any], Any]]:
    cable = shipped().cables["bnc-bnc-50"].model_copy(update={"id": "our-bnc"})
    words = read_document(WORDS_TEXT, Words)
    return [(RIG, FERRY), (KIT, VAN), (PROFILE, ours()), (CABLE, cable), (WORDS, words)]


def at_once(does: Callable[[int], Any]) -> list[Any]:
    def one(number: int) -> Any:
        try:
            return does(number)
        except Exception as error:
            return error

    with ThreadPoolExecutor(WRITERS) as pool:
        return list(pool.map(one, range(WRITERS)))


@pytest.mark.parametrize(("kind", "document"), each(), ids=lambda one: str(one) if isinstance(one, Kind) else "")
def test_of_twenty_writers_on_one_revision_one_is_right(tmp_path: Path, kind: Kind[Any], document: Any):
    store = Store(tmp_path / "rigs.sqlite")
    store[kind].create(document)
    for head in (1, 2):
        versions = [document.model_copy(update={"name": f"{head} {number}"}) for number in range(WRITERS)]
        answers = at_once(lambda number, on=head, them=versions: store[kind].save(document.id, them[number], on))
        right = [answer for answer in answers if not isinstance(answer, Exception)]
        late = [answer for answer in answers if isinstance(answer, StaleWriteError)]
        assert (len(right), len(late)) == (1, WRITERS - 1)
        assert store[kind].one(document.id).document == right[0].document
        assert {error.theirs.name for error in late} == {right[0].document.name}
        assert {error.yours.name for error in late} | {right[0].document.name} == {one.name for one in versions}
    assert [kept.number for kept in store[kind].history(document.id)] == [3, 2, 1]


def test_a_profile_kept_from_several_places_at_once_is_kept_once_and_nobody_is_let_down(tmp_path: Path):
    with asking(application(Store(tmp_path / "rigs.sqlite"))) as client:

        def keep(number: int) -> int:
            text = json.dumps(ours(mass_g=100 + number % 4).model_dump(mode="json"))
            status: int = client.post("/api/workshop/keep", json={"text": text}).status_code
            return status

        answers = at_once(keep)
        assert answers.count(201) >= 1
        assert set(answers) <= {201, 422}
        listed = client.get("/api/catalogue").json()
        assert "our-phone" in [one["id"] for one in listed["profiles"]]
        assert client.get("/api/own/profiles/our-phone").json()["revision"] == 1


def test_different_profiles_kept_at_once_are_all_in_the_catalogue(tmp_path: Path):
    with asking(application(Store(tmp_path / "rigs.sqlite"))) as client:

        def keep(number: int) -> int:
            text = json.dumps(ours(f"our-phone-{number}").model_dump(mode="json"))
            status: int = client.post("/api/workshop/keep", json={"text": text}).status_code
            return status

        assert set(at_once(keep)) == {201}
        found = {one["id"] for one in client.get("/api/catalogue").json()["profiles"]}
        assert found >= {f"our-phone-{number}" for number in range(WRITERS)}


def test_ticks_of_several_people_are_all_kept(tmp_path: Path):
    store = Store(tmp_path / "rigs.sqlite")
    store[RIG].create(FERRY)
    at_once(lambda number: said(store, "done", f"step-{number % 5}", uid=f"a-phone-{number % 10}"))
    assert set(store.log.steps(FERRY.id)) == {f"step-{number}" for number in range(5)}
    assert [event.what for event in store.events(1)] == ["done"] * 10, "what was sent twice counts once"
