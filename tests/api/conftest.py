"""The API over a fresh store with the demo rig in it."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi import FastAPI
from fastapi.routing import APIRoute
from fastapi.testclient import TestClient

from isotact.api.application import application
from isotact.api.routes import ROUTERS
from isotact.store import RIG, Store
from tests.rigs import demo_rig

HERE = "http://127.0.0.1"
_DESCRIBED = [route for router in ROUTERS for route in router.routes if isinstance(route, APIRoute)]
ROUTES = [
    ("GET", "/api/health"),
    *((method, route.path) for route in _DESCRIBED for method in sorted(route.methods or ())),
]
"""Method and path of every route, without the document that describes them: to make that takes seconds."""
WITH_BODY = [(method, route.path) for route in _DESCRIBED if route.body_field for method in sorted(route.methods or ())]


def asking(app: FastAPI) -> TestClient:
    """Asks as our own page does."""
    return TestClient(app, base_url=HERE, headers={"Origin": HERE})


@pytest.fixture
def client(tmp_path: Path) -> Iterator[TestClient]:
    store = Store(tmp_path / "rigs.sqlite")
    store[RIG].create(demo_rig())
    static = tmp_path / "static"
    (static / "assets").mkdir(parents=True)
    (static / "index.html").write_text("<title>Isotact</title>", encoding="utf-8")
    with asking(application(store, static=static)) as client:
        yield client
