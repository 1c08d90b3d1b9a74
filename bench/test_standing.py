"""What somebody waits for who brings in much or has much: long lists, long histories. Nothing here asserts on time."""

from pathlib import Path

import pytest
from tests.api.conftest import asking

from isotact.api.application import application
from isotact.catalogue import read_file, shipped
from isotact.core.day import crewed
from isotact.core.model import Kit, Rig, resolve
from isotact.core.planning import plan
from isotact.core.runsheet import run_sheet
from isotact.demo import FOLDER, demo_kit
from isotact.store import KIT, RIG, Store

REVISIONS = 10_000
ENTRIES = 200_000
WORK = ("Wake", "Plug", "Flag", "Prove", "Tie")
THINGS = ("body", "gimbal", "link", "phone", "driver", "motor", "monitor")


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


@pytest.fixture(scope="module")
def long_log(tmp_path_factory: pytest.TempPathFactory) -> Store:
    """A log of 200,000 entries about three rigs, each with a hundred steps."""
    store = Store(tmp_path_factory.mktemp("log") / "isotact.sqlite")
    rig = read_file(FOLDER / "night-ferry-b.yaml", Rig)
    keys = [f"rig-{number}" for number in range(3)]
    for key in keys:
        store[RIG].create(rig.model_copy(update={"id": key}))
    rows = [
        {
            "uid": f"phone-{number}", "at": f"2030-01-01T{number // 3600 % 24:02}:{number // 60 % 60:02}:00.000+00:00",
            "person": "Ada", "kind": "rig", "id": keys[number % 3], "what": "done", "revision": 1,
            "subject": f"step-{number % 100}", "data": "", "words": f"{WORK[number % 5]} the {THINGS[number % 7]}",
            "text": "The lamp is violet, not blue" if number % 1000 == 7 else "",
        }
        for number in range(ENTRIES)
    ]  # fmt: skip
    with store.writing():
        for start in range(0, ENTRIES, 1000):
            store.tables.Event.insert_many(rows[start : start + 1000]).execute()
    return store


def test_steps_of_a_long_log(benchmark, long_log: Store):
    with asking(application(long_log)) as client:
        answer = benchmark.pedantic(lambda: client.get("/api/rigs/rig-1/steps"), rounds=15, warmup_rounds=2)
    assert len(answer.json()["steps"]) == 100
    benchmark.extra_info.update(target_ms=300, what=f"how the steps of a rig stand, in a log of {ENTRIES:,} entries")


@pytest.mark.parametrize(
    ("wanted", "what"),
    [
        ({"words": "viol"}, "the beginning of a word that one entry in a thousand has"),
        ({"words": "wake gimbal"}, "two words that every thirty-fifth has"),
        ({"words": "wake", "rig": "rig-2", "what": "done"}, "a word that every fifth has, of one rig and kind"),
        ({"person": "Ada", "rig": "rig-1"}, "one person at one rig"),
        ({"words": "nowhere"}, "a word that none has"),
    ],
)
def test_searching(benchmark, long_log: Store, wanted: dict[str, str], what: str):
    with asking(application(long_log)) as client:
        answer = benchmark.pedantic(lambda: client.get("/api/log", params=wanted), rounds=15, warmup_rounds=2)
    assert answer.status_code == 200
    assert (len(answer.json()) == 100) == ("nowhere" not in wanted.get("words", ""))
    benchmark.extra_info.update(target_ms=150, what=f"that log searched for {what}")


def test_choices(benchmark, long_log: Store):
    with asking(application(long_log)) as client:
        answer = benchmark.pedantic(lambda: client.get("/api/log/choices"), rounds=15, warmup_rounds=2)
    assert answer.json()["people"] == ["Ada"]
    benchmark.extra_info.update(target_ms=150, what="who is in that log, and which kinds of entries")


@pytest.mark.parametrize("count", [2, 3])
def test_dealing_out(benchmark, count: int):
    catalogue = shipped()
    rig = resolve(read_file(FOLDER / "night-ferry-a.yaml", Rig), catalogue.profiles, catalogue.cables)
    sheet = run_sheet(rig, plan(rig))
    found = benchmark.pedantic(lambda: crewed(sheet, ("A", "B", "C")[:count]), rounds=5, warmup_rounds=1)
    said = "proven" if found.status == "proven" else f"{100 * found.gap:.1f} % above the bound"
    steps = f"{len(sheet.steps)} steps dealt out to {count} people"
    benchmark.extra_info.update(target_ms=None, what=f"{steps} ({found.left_s:.0f} s, {said})")


def test_catching_up(benchmark, long_log: Store):
    last = long_log.sequence()

    def caught_up() -> int:
        seen = last - 1000
        while found := long_log.events(seen):
            seen = found[-1].sequence
        return seen

    assert benchmark.pedantic(caught_up, rounds=15, warmup_rounds=2) == last
    benchmark.extra_info.update(
        target_ms=300, what="the last thousand entries of that log read for a screen that was away"
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
