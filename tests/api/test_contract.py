"""schemathesis: every endpoint keeps the contract of its own OpenAPI document, whatever is sent."""

import copy
import tempfile
from pathlib import Path
from typing import Any

import schemathesis
from hypothesis import HealthCheck, settings
from schemathesis.specs.openapi.checks import positive_data_acceptance, unsupported_method

from isotact.api.application import application
from isotact.store import RIG, Store
from tests.rigs import SHIPPED, demo_rig

HEAVY = (
    r"/api/(plan|bench|alternatives|picture-ways|takes|changes|matrix|advice|join|pins|promising|new-rig|aftermath"
    r"|reasons|proving|crew|compared|offers|shares|rigs/\{key\}(/proofs|/aside)?)$"
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


_FOLDER = tempfile.TemporaryDirectory()
_STORE = Store(Path(_FOLDER.name) / "contract.sqlite")
_STORE[RIG].create(demo_rig())
_APPLICATION = application(_STORE, hosts=("localhost", "127.0.0.1", "testserver"))
OURS = {"Origin": "http://localhost"}
"""As our own page sends it."""
schema = schemathesis.openapi.from_dict(_APPLICATION.openapi())
pool = schemathesis.openapi.from_dict(_with_pool(_APPLICATION.openapi()))
schema.app = pool.app = _APPLICATION
# Every way to get a whole rig wrong is drawn in test_poison.py; to list them here takes half a minute of each process.
pool.config.phases.coverage.enabled = False


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
