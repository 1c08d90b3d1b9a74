"""The API over a fresh store with the demo rig in it."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient

from isotact.api.application import application
from isotact.store import RIG, Store
from tests.rigs import demo_rig

HERE = "http://127.0.0.1"


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
