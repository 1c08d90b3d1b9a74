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


@schema.parametrize()
@settings(max_examples=6, deadline=None, suppress_health_check=list(HealthCheck))
def test_the_contract_holds(case):
    # A rig may be well formed and still name a profile that does not exist: that is refused, as it should be.
    # Unknown methods at /{path} fall to the page, which is no part of the contract.
    case.call_and_validate(excluded_checks=[positive_data_acceptance, unsupported_method])
