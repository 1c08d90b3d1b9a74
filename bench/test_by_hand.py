"""How long it takes under one's hands: a tap at the bench, in process and to what is drawn; where the sheet goes on."""

import json
import urllib.request
from pathlib import Path
from random import Random

import pytest
from tests.core.bench.test_hands import bench_of
from tests.core.bench.test_hands import tap as anything
from tests.rigs import SHIPPED, carried

from bench.test_speed import tap
from isotact.core.bench import DoStep, HandBench, seen


@pytest.mark.parametrize("rig", ["night-ferry-b", "night-ferry-a"])
def test_tap_in_process(benchmark, rig: str):
    """One move of the sheet, and all that is seen then: the server's share of a tap."""
    steps = [step.id for step in carried(rig).sheet.steps]

    def setup() -> tuple[tuple[HandBench], dict]:
        bench = bench_of(rig)
        for step in steps[: len(steps) // 2]:
            bench.do(DoStep(step=step))
        return (bench,), {}

    def one(bench: HandBench):
        after = bench.fork()
        after.do(DoStep(step=steps[len(steps) // 2]))
        return seen(after, "body")

    assert benchmark.pedantic(one, setup=setup, rounds=20, warmup_rounds=2).count
    benchmark.extra_info.update(target_ms=20, what=f"a tap at the bench of {rig}, with all that is seen then")


@pytest.mark.parametrize("rig", ["night-ferry-b", "night-ferry-a"])
def test_where_it_goes_on(benchmark, rig: str):
    """From a bench at which sixty things were done at random."""

    def setup() -> tuple[tuple[HandBench], dict]:
        chance, bench = Random(rig), bench_of(rig)
        for _ in range(60):
            anything(bench, chance)
        return (bench,), {}

    sheet = benchmark.pedantic(HandBench.ahead, setup=setup, rounds=5)
    what = f"where the sheet goes on after sixty random taps at {rig} ({len(sheet.steps)} steps)"
    benchmark.extra_info.update(target_ms=None, what=what)


def test_tap_to_drawn(benchmark, tmp_path: Path):
    """The record button pressed under the hands, until the body's tile says that it rolls, or has stopped."""
    from playwright.sync_api import sync_playwright
    from tests.e2e.conftest import FLAGS, serving

    with serving(tmp_path / "data") as address, sync_playwright() as play:
        rig = SHIPPED["night-ferry-a"].model_dump(mode="json")
        body = json.dumps({"document": rig, "start": "standing"}).encode()
        headers = {"Content-Type": "application/json", "Origin": address}
        urllib.request.urlopen(urllib.request.Request(f"{address}/api/benches", body, headers)).read()
        browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"{address}/rigs/night-ferry-a/bench?by=hand")
        devices = page.get_by_role("list", name="Devices", exact=True)
        devices.get_by_role("button", name="Sedge hand unit").click()
        button = page.get_by_role("button", name="Record button: record")
        button.wait_for()
        # The button itself: to look for it once more takes as long as the tap.
        found = button.element_handle()
        state = {"rolls": False}

        def press():
            state["rolls"] = not state["rolls"]
            says = "rolls." if state["rolls"] else "stops."
            tap(
                found,
                f"() => [...document.querySelectorAll('[role=status]')].some(e => e.textContent.includes('{says}'))",
            )

        press()
        benchmark.pedantic(press, rounds=12, warmup_rounds=2)
        browser.close()
    benchmark.extra_info.update(
        target_ms=100, what="a tap at the bench of night-ferry-a, in the browser, to what is drawn"
    )
