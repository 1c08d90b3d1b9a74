"""The API over a fresh store with the demo rig in it."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from isotact.api import application
from isotact.store import Store
from tests.rigs import demo_rig


@pytest.fixture
def client(tmp_path: Path) -> Iterator[TestClient]:
    store = Store(tmp_path / "rigs.sqlite")
    store.create(demo_rig())
    static = tmp_path / "static"
    (static / "assets").mkdir(parents=True)
    (static / "index.html").write_text("<title>Isotact</title>", encoding="utf-8")
    with TestClient(application(store, static=static)) as client:
        yield client
