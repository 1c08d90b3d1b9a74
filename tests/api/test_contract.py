"""schemathesis: every endpoint keeps the contract of its own OpenAPI document, whatever is sent."""

import tempfile
from pathlib import Path

import schemathesis
from fastapi import FastAPI
from hypothesis import HealthCheck, settings
from schemathesis.specs.openapi.checks import positive_data_acceptance, unsupported_method

from isotact.api.application import application
from isotact.store import RIG, Store
from tests.rigs import SHIPPED, demo_rig

HEAVY = r"/api/(plan|bench|alternatives|picture-ways|takes|changes|matrix|advice|join|pins|promising|new-rig|aftermath|proving|crew|compared|offers)$"
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


def _application(folder: Path, pooled: bool) -> FastAPI:
    store = Store(folder / f"contract-{pooled}.sqlite")
    store[RIG].create(demo_rig())
    app = application(store, hosts=("localhost", "127.0.0.1", "testserver"))
    if pooled:
        whole = app.openapi()
        rigs = {"enum": [SHIPPED[key].model_dump(mode="json") for key in POOL]}
        for body in whole["components"]["schemas"].values():
            if body.get("properties", {}).get("document", {}).get("$ref", "").endswith("/Rig-Input"):
                body["properties"]["document"] = rigs
        app.openapi = lambda: whole  # type: ignore[method-assign]
    return app


_FOLDER = tempfile.TemporaryDirectory()
OURS = {"Origin": "http://localhost"}
"""As our own page sends it."""
schema = schemathesis.openapi.from_asgi("/api/openapi.json", _application(Path(_FOLDER.name), pooled=False))
pool = schemathesis.openapi.from_asgi("/api/openapi.json", _application(Path(_FOLDER.name), pooled=True))


@schema.exclude(path_regex=HEAVY).exclude(path_regex=f"{ENDLESS}|{ALIKE}").parametrize()
@settings(max_examples=4, deadline=None, suppress_health_check=list(HealthCheck))
def test_the_contract_holds(case):
    case.call_and_validate(excluded_checks=LEFT_OUT, headers=OURS)


@pool.include(path_regex=HEAVY).parametrize()
@settings(max_examples=4, deadline=None, suppress_health_check=list(HealthCheck))
def test_the_contract_holds_for_whole_rigs(case):
    case.call_and_validate(excluded_checks=LEFT_OUT, headers=OURS)


def test_the_pool_takes_the_place_of_made_up_rigs():
    bodies = pool.raw_schema["components"]["schemas"]
    assert sum("enum" in body.get("properties", {}).get("document", {}) for body in bodies.values()) >= 6
