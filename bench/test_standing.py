"""What somebody waits for who brings in much or has much: long lists, long histories. Nothing here asserts on time."""

from pathlib import Path

import pytest
from tests.api.conftest import asking

from isotact.api.application import application
from isotact.catalogue import read_file, shipped
from isotact.core.model import Kit, Rig
from isotact.demo import FOLDER, demo_kit
from isotact.store import KIT, RIG, Store

REVISIONS = 10_000


def a_megabyte() -> str:
    """A list of a megabyte: pieces that are known, in counts, with notes."""
    names = [cable.name for cable in shipped().cables.values()]
    lines = [
        f'{1 + number % 9},"{names[number % len(names)]}",{"lies in the second drawer " * 18}' for number in range(1900)
    ]
    return "\n".join(["count,item,note", *lines])


LISTS = {
    "a list of a megabyte": (a_megabyte(), 1000),
    "a list with 20 kB in one cell": ("count,item\n1," + "long lead " * 2000, 1000),
    "a list of 1,900 lines that nobody knows": (
        "\n".join(["count,item", *(f"1,whatsit of the kind {number}" for number in range(1900))]), 1000,
    ),
}  # fmt: skip


@pytest.mark.parametrize("what", LISTS)
def test_list(benchmark, tmp_path: Path, what: str):
    """Read and previewed, from the request to the answer."""
    text, target_ms = LISTS[what]
    store = Store(tmp_path / "isotact.sqlite")
    store[KIT].create(read_file(demo_kit(), Kit))
    with asking(application(store)) as client:
        preview = lambda: client.post("/api/kits/ferry-van/preview", json={"text": text[:1_000_000]})  # noqa: E731
        answer = benchmark.pedantic(preview, rounds=3, warmup_rounds=1)
    lines = len(answer.json()["lines"])
    benchmark.extra_info.update(
        target_ms=target_ms, what=f"{what} read and previewed ({len(text):,} bytes, {lines} lines)"
    )


def test_history(benchmark, tmp_path: Path):
    store = Store(tmp_path / "isotact.sqlite")
    rig = read_file(FOLDER / "night-ferry-b.yaml", Rig)
    store[RIG].create(rig)
    with store.writing():
        for number in range(1, REVISIONS):
            store[RIG].save(rig.id, rig.model_copy(update={"name": f"Night ferry {number}"}), number)
    with asking(application(store)) as client:
        page = lambda: client.get(f"/api/rigs/{rig.id}/history")  # noqa: E731
        answer = benchmark.pedantic(page, rounds=15, warmup_rounds=2)
    assert answer.json()[0]["number"] == REVISIONS
    benchmark.extra_info.update(target_ms=None, what=f"a page of a history of {REVISIONS:,} revisions")
