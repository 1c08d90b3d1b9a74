"""schemathesis: every endpoint keeps the contract of its own OpenAPI document, whatever is sent."""

import copy
import re
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
import schemathesis
from fastapi import FastAPI
from hypothesis import HealthCheck, settings
from schemathesis.checks import load_all_checks
from schemathesis.generation.case import Case
from schemathesis.generation.feedback import FeedbackSources
from schemathesis.pytest._test_builder import build_operation_test
from schemathesis.schemas import BaseSchema as OpenApiSchema
from schemathesis.specs.openapi.checks import positive_data_acceptance, unsupported_method

from isotact.api.application import application
from isotact.store import RIG, Store
from tests.api.conftest import ROUTES
from tests.rigs import SHIPPED, demo_rig

HEAVY = (
    r"/api/(plan|bench|alternatives|picture-ways|takes|changes|matrix|advice|join|pins|promising|new-rig|aftermath"
    r"|power|balance(/try)?|reasons|proving|crew|compared|offers|shares|find(/sights|/cure)?|benches|exercises|rigs/\{key\}(/proofs|/aside)?)$"
)
"""Bodies that hold a whole rig. It takes minutes to make up good ones, so these come from a pool."""

ENDLESS = r"/api/events$"
"""A stream that goes on until its reader leaves has no answer to be checked; tests of its own read it."""

ALIKE = r"/api/own/(words|cables)"
"""The same routes by the same code as those of one's own profiles, which are drawn."""

POOL = ("night-ferry-b", "night-ferry-c", "facing-jack", "own-screen", "look-alikes")
"""Shipped rigs that are planned quickly."""

# A rig may be well formed and still name a profile that does not exist: that is refused, as it should be.
# Unknown methods at /{path} fall to the page, which is no part of the contract.
LEFT_OUT = [positive_data_acceptance, unsupported_method]


def _with_pool(contract: dict[str, Any]) -> dict[str, Any]:
    pooled = copy.deepcopy(contract)
    rigs = {"enum": [SHIPPED[key].model_dump(mode="json") for key in POOL]}
    for body in pooled["components"]["schemas"].values():
        if body.get("properties", {}).get("document", {}).get("$ref", "").endswith("/Rig"):
            body["properties"]["document"] = rigs
    return pooled


OURS = {"Origin": "http://testserver"}
"""As our own page sends it."""
DRAWN = [f"{method} {path}" for method, path in ROUTES if not re.search(f"{HEAVY}|{ENDLESS}|{ALIKE}", path)]
POOLED = [f"{method} {path}" for method, path in ROUTES if re.search(HEAVY, path)]


@pytest.fixture(scope="module")
def app() -> Iterator[FastAPI]:
    with tempfile.TemporaryDirectory() as folder:
        store = Store(Path(folder) / "contract.sqlite")
        store[RIG].create(demo_rig())
        yield application(store, hosts=("localhost", "127.0.0.1", "testserver"))


@pytest.fixture(scope="module")
def schema(app: FastAPI) -> OpenApiSchema:
    load_all_checks()
    schema = schemathesis.openapi.from_dict(app.openapi())
    schema.app = app
    _may_be_too_large(schema)
    return schema


def _may_be_too_large(schema: OpenApiSchema) -> None:
    """What is larger than anything of ours is refused for that, before it is looked at."""
    checked = schema.config.checks.negative_data_rejection
    checked.expected_statuses = [*checked.expected_statuses, "413"]


@pytest.fixture(scope="module")
def pool(app: FastAPI) -> OpenApiSchema:
    load_all_checks()
    pool = schemathesis.openapi.from_dict(_with_pool(app.openapi()))
    pool.app = app
    # Every way to get a whole rig wrong is drawn in test_poison.py; to list them here takes half a minute.
    pool.config.phases.coverage.enabled = False
    _may_be_too_large(pool)
    return pool


def must_hold(schema: OpenApiSchema, label: str) -> None:
    """Send an operation what schemathesis makes up for it. Made up here, by one process, and not by each that collects."""

    refused = 0

    @settings(max_examples=4, deadline=None, suppress_health_check=list(HealthCheck))
    def holds(case: Case) -> None:
        nonlocal refused
        answer = case.call_and_validate(excluded_checks=LEFT_OUT, headers=OURS)
        refused += answer.status_code == 403

    operation = schema.find_operation_by_label(label)
    assert operation is not None
    build_operation_test(
        config=schema.config, operation=operation, test_func=holds, given_kwargs={}, feedback=FeedbackSources()
    )()
    assert not refused, "who asks as our own page does gets past the guard: else nothing behind it is tried"


@pytest.mark.parametrize("label", DRAWN)
def test_the_contract_holds(schema: OpenApiSchema, label: str):
    must_hold(schema, label)


@pytest.mark.parametrize("label", POOLED)
def test_the_contract_holds_for_whole_rigs(pool: OpenApiSchema, label: str):
    must_hold(pool, label)


def test_no_route_is_left_out_of_the_contract(app: FastAPI):
    described = {f"{method.upper()} {path}" for path, methods in app.openapi()["paths"].items() for method in methods}
    assert described == {f"{method} {path}" for method, path in ROUTES}
    assert {*DRAWN, *POOLED} < described


def test_the_pool_takes_the_place_of_made_up_rigs(pool: OpenApiSchema):
    bodies = pool.raw_schema["components"]["schemas"]
    assert sum("enum" in body.get("properties", {}).get("document", {}) for body in bodies.values()) >= 6
