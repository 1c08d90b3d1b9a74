"""A rig is planned once, however many questions are asked about it."""

from dataclasses import replace
from typing import Any

import pytest
from fastapi.testclient import TestClient

from isotact.api.compute import answers
from isotact.core.planning import chosen_for
from tests.house_pack import WORDS
from tests.rigs import demo_rig


@pytest.fixture
def planned(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """The rigs that were planned, in their order."""
    seen: list[str] = []

    def counting(rig, **more):
        seen.append(rig.rig.name)
        return chosen_for(rig, **more)

    monkeypatch.setattr(answers, "chosen_for", counting)
    return seen


def document(**changes: Any) -> dict[str, Any]:
    return demo_rig().model_copy(update=changes).model_dump(mode="json")


def test_every_question_about_one_document_rests_on_one_plan(client: TestClient, planned: list[str]):
    asked = {"document": document()}
    link = client.post("/api/plan", json=asked).json()["plan"]["joins"][1]["link"]["id"]
    for path, more in (
        ("plan", {}),
        ("bench", {}),
        ("bench", {"skip": ["wake:body"]}),
        ("join", {"link": link}),
        ("pins", {}),
        ("takes", {"promise": "iso"}),
        ("matrix", {"device": "body"}),
    ):
        assert client.post(f"/api/{path}", json={**asked, **more}).status_code == 200, path
    assert len(planned) == 1


def test_a_plan_is_there_before_its_reasons_which_come_of_the_same_search(client: TestClient, planned: list[str]):
    whole = client.post("/api/plan", json={"document": document(name="another")}).json()
    planned.clear()
    quick = client.post("/api/plan", json={"document": document(), "reasons": False}).json()
    assert quick["not_kept"] == whole["not_kept"] == ["iso"]
    assert quick["plan"] == {**whole["plan"], "unmet": []}
    why = client.post("/api/reasons", json={"document": document()}).json()
    assert why == {"unmet": whole["plan"]["unmet"]}
    assert len(planned) == 1


def test_reasons_that_are_asked_for_late_are_the_same(client: TestClient, planned: list[str]):
    for name in ("one", "other"):
        client.post("/api/plan", json={"document": document(name=name), "reasons": False})
    late, soon = (
        client.post("/api/reasons", json={"document": document(name=name)}).json() for name in ("one", "other")
    )
    assert late == soon
    assert planned == ["one", "other", "one"], "what it was chosen from is kept for the last one alone"


def test_another_document_is_planned_anew_and_the_first_is_still_known(client: TestClient, planned: list[str]):
    for name in ("one", "other", "one"):
        client.post("/api/plan", json={"document": document(name=name)})
    assert planned == ["one", "other"]


def test_the_answer_is_the_same_whether_it_was_known_or_not(client: TestClient, planned: list[str]):
    first, second = (client.post("/api/plan", json={"document": document()}).json() for _ in range(2))
    assert first == second


def test_another_catalogue_makes_other_answers(client: TestClient, planned: list[str]):
    client.post("/api/plan", json={"document": document()})
    assert client.post("/api/workshop/keep", json={"text": WORDS}).status_code == 201
    client.post("/api/plan", json={"document": document()})
    assert len(planned) == 2


def test_only_the_last_are_kept(client: TestClient, planned: list[str], monkeypatch: pytest.MonkeyPatch):
    monkeypatch.setattr(answers, "KEPT", 2)
    for name in ("one", "two", "three", "two", "one"):
        client.post("/api/plan", json={"document": document(name=name)})
    assert planned == ["one", "two", "three", "one"]


def test_one_that_was_not_proven_is_looked_for_again(client: TestClient, monkeypatch: pytest.MonkeyPatch):
    calls = []

    def cut_short(rig, **more):
        calls.append(1)
        chosen = chosen_for(rig, **more)
        return replace(chosen, plan=chosen.plan.model_copy(update={"status": "best-so-far"}))

    monkeypatch.setattr(answers, "chosen_for", cut_short)
    for _ in range(2):
        client.post("/api/plan", json={"document": document()})
    assert len(calls) == 2


def test_a_document_that_names_what_is_not_there_is_refused_and_not_kept(client: TestClient, planned: list[str]):
    wrong = document()
    wrong["devices"][0]["profile"] = "no-such-thing"
    for _ in range(2):
        answer = client.post("/api/plan", json={"document": wrong})
        assert answer.status_code == 422
        assert "no-such-thing" in answer.text
    assert planned == []
