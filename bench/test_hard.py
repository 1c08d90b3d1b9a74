"""The hard set, the yardsticks measured in the same run, and a rental house's shelves. Nothing here asserts on time."""

import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from hypothesis import HealthCheck, given, seed, settings
from tests.reference.milp import best
from tests.strategies import mid_rigs

from bench.hard import HARD
from bench.rigs import one_camera
from bench.shelves import CABLES, PROFILES, fill
from isotact.catalogue import Catalogue
from isotact.core.model import ResolvedRig, resolve
from isotact.core.planning import plan, plan_only, search
from isotact.core.planning.optimising.objective import aim
from isotact.core.planning.optimising.pruning import build_found
from isotact.core.questions import what_it_takes
from isotact.core.solver import solve
from isotact.store import OwnCatalogue, Store


@pytest.mark.parametrize("make", HARD, ids=lambda make: make.__name__)
def test_hard(benchmark, make: Callable[[], ResolvedRig]):
    rig = make()
    made = benchmark.pedantic(plan, args=(rig,), rounds=5, warmup_rounds=1)
    size = f"{len(rig.devices)} devices, {len(rig.rig.promises)} promises, {len(made.kept)} kept, {made.status}"
    benchmark.extra_info.update(target_ms=1000, what=f"hard: {rig.rig.name} ({size})", of="the hard set")


def took(work: Callable[..., Any], *args: Any) -> float:
    """The least of three, in milliseconds."""
    times = []
    for _ in range(3):
        started = time.perf_counter()
        work(*args)
        times.append(time.perf_counter() - started)
    return 1000 * min(times)


def test_yardstick_solver(benchmark):
    """CP-SAT alone on the final models of the hard set: what of a plan is not the solver is ours to answer for."""
    rigs = [make() for make in HARD]
    models = []
    for rig in rigs:
        choosing = build_found(rig, search(rig))
        aim(choosing)
        models.append(choosing.model)

    def every():
        for model in models:
            solve(model, 20)

    benchmark.pedantic(every, rounds=3, warmup_rounds=1)
    alone, only, whole = (
        sum(took(work, one) for one in those)
        for work, those in ((lambda model: solve(model, 20), models), (plan_only, rigs), (plan, rigs))
    )
    ratios = f"a plan takes {only / alone:.1f} times that without reasons, {whole / alone:.1f} with"
    benchmark.extra_info.update(target_ms=None, what=f"yardstick: CP-SAT alone on the hard set ({ratios})")


def test_yardstick_highs(benchmark):
    """HiGHS on the formulation of the tests, on rigs that it knows."""
    rigs: list[ResolvedRig] = []

    @seed(7)
    @settings(max_examples=8, database=None, deadline=None, suppress_health_check=list(HealthCheck))
    @given(mid_rigs())
    def draw(rig: ResolvedRig) -> None:
        rigs.append(rig)

    draw()
    ours = sum(took(plan_only, rig) for rig in rigs)
    benchmark.pedantic(lambda: [best(rig) for rig in rigs], rounds=1, warmup_rounds=0)
    times = 1000 * benchmark.stats.stats.median / ours
    what = f"yardstick: HiGHS on {len(rigs)} generated rigs ({times:.0f} times what our plans take)"
    benchmark.extra_info.update(target_ms=None, what=what)


@pytest.fixture(scope="module")
def house(tmp_path_factory: pytest.TempPathFactory) -> Path:
    folder = tmp_path_factory.mktemp("house") / "profiles"
    fill(folder)
    catalogue_of(folder)
    return folder


def catalogue_of(house: Path) -> Catalogue:
    """The catalogue as a start reads it: the database opened, the folder looked through."""
    return OwnCatalogue(Store(house.parent / "isotact.sqlite"), house).catalogue


def test_house_read(benchmark, house: Path):
    found = benchmark.pedantic(lambda: catalogue_of(house), rounds=3, warmup_rounds=1)
    assert (len(found.profiles) >= PROFILES, len(found.cables) >= CABLES, found.broken) == (True, True, {})
    what = f"a rental house's shelves read at a start: {PROFILES} profiles, {CABLES} cable types more"
    benchmark.extra_info.update(target_ms=2000, what=what)


@pytest.mark.parametrize("devices", [12, 24])
def test_house_takes(benchmark, house: Path, devices: int):
    catalogue = catalogue_of(house)
    rig = resolve(one_camera(devices).rig, catalogue.profiles, catalogue.cables)
    made = plan(rig)
    asked = made.unmet[0].promise
    takes = benchmark.pedantic(what_it_takes, args=(rig, catalogue.profiles, made, asked), rounds=3, warmup_rounds=1)
    what = f"what it takes over those shelves, one camera of {devices} devices: {len(takes.takes)} answers"
    benchmark.extra_info.update(target_ms=1000, what=what)


def test_house_search(benchmark, house: Path):
    """A word typed into the search of the shelf, until what bears it is painted."""
    from playwright.sync_api import sync_playwright
    from tests.e2e.conftest import FLAGS, serving

    from bench.test_speed import typed

    with serving(house.parent) as address, sync_playwright() as play:
        browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        pieces = typed(benchmark, page, address)
        browser.close()
    benchmark.extra_info.update(target_ms=50, what=f"a word typed to those shelves, {pieces} pieces")
