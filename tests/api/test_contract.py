"""schemathesis: every endpoint keeps the contract of its own OpenAPI document, whatever is sent."""

import tempfile
from pathlib import Path

import schemathesis
from hypothesis import HealthCheck, settings
from schemathesis.specs.openapi.checks import positive_data_acceptance, unsupported_method

from isotact.api import application
from isotact.store import Store
from tests.rigs import demo_rig


def _application(folder: Path):
    store = Store(folder / "contract.sqlite")
    store.create(demo_rig())
    return application(store)


_FOLDER = tempfile.TemporaryDirectory()
schema = schemathesis.openapi.from_asgi("/api/openapi.json", _application(Path(_FOLDER.name)))


HEAVY = r"/api/(plan|bench|alternatives|picture-ways|takes|changes|matrix|advice|join|pins)$"
"""Bodies that hold a whole rig: it takes long to make one up, and they are all alike."""

# A rig may be well formed and still name a profile that does not exist: that is refused, as it should be.
# Unknown methods at /{path} fall to the page, which is no part of the contract.
LEFT_OUT = [positive_data_acceptance, unsupported_method]


@schema.exclude(path_regex=HEAVY).parametrize()
@settings(max_examples=5, deadline=None, suppress_health_check=list(HealthCheck))
def test_the_contract_holds(case):
    case.call_and_validate(excluded_checks=LEFT_OUT)


@schema.include(path_regex=HEAVY).parametrize()
@settings(max_examples=2, deadline=None, suppress_health_check=list(HealthCheck))
def test_the_contract_holds_for_whole_rigs(case):
    case.call_and_validate(excluded_checks=LEFT_OUT)
