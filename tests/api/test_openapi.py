"""The OpenAPI document that the client is generated from: one shape for each model, every refusal written once."""

from typing import Any

import pytest

from isotact.api.application import application
from isotact.store import Store


@pytest.fixture(scope="module")
def document(tmp_path_factory: pytest.TempPathFactory) -> dict[str, Any]:
    store = Store(tmp_path_factory.mktemp("openapi") / "isotact.sqlite")
    described: dict[str, Any] = application(store).openapi()
    return described


def test_no_model_has_a_twin_for_sending(document: dict[str, Any]):
    assert "Rig" in document["components"]["schemas"]
    assert not [name for name in document["components"]["schemas"] if name.endswith(("-Input", "-Output"))]


def test_every_refusal_is_a_reference_to_one_that_says_what_it_is(document: dict[str, Any]):
    named = document["components"]["responses"]
    answers = [
        (status, answer)
        for methods in document["paths"].values()
        for operation in methods.values()
        for status, answer in operation["responses"].items()
        if int(status) >= 400
    ]
    assert len(answers) > 500
    for status, answer in answers:
        name = answer["$ref"].removeprefix("#/components/responses/")
        assert name.startswith(f"Refused{status}")
        assert named[name]["description"]
    assert len(named) < 20


def test_a_quantity_is_a_number(document: dict[str, Any]):
    (kinds,) = (document["components"]["schemas"]["Profile"]["properties"]["mass_g"]["anyOf"],)
    assert [one["type"] for one in kinds] == ["number"]
