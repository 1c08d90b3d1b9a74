"""Fixtures that every folder of tests shares."""

import pytest
from hypothesis import HealthCheck, Phase, settings

from isotact.catalogue import Catalogue, shipped
from isotact.core.model import Plan, ResolvedRig
from isotact.core.planning import plan
from tests.rigs import EXAMPLES, demo

settings.register_profile(
    "isotact",
    deadline=None,
    derandomize=True,
    # A rig is too big to be made small: a failure is shown as it was drawn, at once.
    phases=(Phase.explicit, Phase.generate),
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.filter_too_much],
)
settings.load_profile("isotact")


@pytest.fixture(scope="session")
def catalogue() -> Catalogue:
    return shipped()


@pytest.fixture(scope="session", params=EXAMPLES.items(), ids=EXAMPLES.keys())
def example(request: pytest.FixtureRequest) -> tuple[ResolvedRig, Plan]:
    """Each example rig with its plan."""
    rig = demo(request.param[1])
    return rig, plan(rig)
