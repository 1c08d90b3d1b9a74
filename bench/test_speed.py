"""What `make bench` measures. Nothing here asserts on time; docs/benchmarks.md keeps the figures."""

import os
import re
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from pathlib import Path

import pytest

from bench.rigs import CABLES, cameras, one_camera
from isotact.catalogue import read_file, shipped
from isotact.core.bench import carry_through, run
from isotact.core.day import plan_day
from isotact.core.diagnosis import Seen, Situation, Standing
from isotact.core.diagnosis.belief import believe
from isotact.core.diagnosis.finder import find
from isotact.core.diagnosis.table import Table, look_key, outcome_table
from isotact.core.faults.coverage import checks_of, faults_of, put_in
from isotact.core.model import Plan, ResolvedRig, Rig, resolve
from isotact.core.planning import chosen_for, plan
from isotact.core.planning.tape_flags import flags_of
from isotact.core.questions import alternatives, functions_matrix, picture_ways, what_it_takes
from isotact.core.runsheet import mid_day, run_sheet, sheet_between
from isotact.core.telling import face
from isotact.core.trades import conditions_of, perform
from isotact.core.trades.power.acts import RunFlat
from isotact.demo import FOLDER

RIG = FOLDER / "night-ferry-b.yaml"


def demo() -> ResolvedRig:
    catalogue = shipped()
    return resolve(read_file(RIG, Rig), catalogue.profiles, catalogue.cables)


def test_plan_demo_rig(benchmark):
    rig = demo()
    made = benchmark.pedantic(plan, args=(rig,), rounds=25, warmup_rounds=3)
    assert made.status == "proven-optimal"
    benchmark.extra_info.update(target_ms=100, what="plan of the demo rig (5 devices, 8 cable types, 4 promises)")


@pytest.mark.parametrize("reasons", [False, True], ids=["as-shown", "with-reasons"])
@pytest.mark.parametrize(("devices", "target_ms"), [(12, 40), (24, 80)])
def test_plan_one_camera(benchmark, devices: int, target_ms: int, reasons: bool):
    """What an edit waits for is the plan; its reasons come after it."""
    rig = one_camera(devices)

    def planned() -> Plan:
        return plan(rig) if reasons else chosen_for(rig).plan

    made = benchmark.pedantic(planned, rounds=15, warmup_rounds=2)
    what = f"plan of one camera, {devices} devices, {len(CABLES)} cable types, {len(rig.rig.promises)} promises"
    kept = f"{made.status}, {len(made.kept)} kept, {'with its reasons' if reasons else 'before its reasons'}"
    benchmark.extra_info.update(target_ms=target_ms, what=f"{what} ({kept})")


@pytest.mark.parametrize(("count", "target_ms"), [(1, None), (2, None), (4, None), (8, 600)])
def test_day(benchmark, count: int, target_ms: int | None):
    rigs, kit = cameras(count)
    day = benchmark.pedantic(plan_day, args=(rigs, kit), rounds=5, warmup_rounds=1)
    devices, promised = (sum(len(getattr(rig.rig, field)) for rig in rigs) for field in ("devices", "promises"))
    what = f"the day: {count} cameras, {devices} devices, {promised} promises, one kit that is short"
    benchmark.extra_info.update(target_ms=target_ms, what=f"{what} ({day.status}, {len(day.asks)} to ask for)")


def test_alternatives(benchmark):
    rig = one_camera(12)
    found = benchmark.pedantic(alternatives, args=(rig, 5), rounds=7, warmup_rounds=1)
    benchmark.extra_info.update(target_ms=300, what=f"{len(found)} alternatives, one camera of 12 devices")


@pytest.mark.parametrize("devices", [12, 24])
def test_what_it_takes(benchmark, devices: int):
    rig = one_camera(devices)
    made = plan(rig)
    profiles = shipped().profiles
    asked = made.unmet[0].promise
    takes = benchmark.pedantic(what_it_takes, args=(rig, profiles, made, asked), rounds=5, warmup_rounds=1)
    what = f"what it takes, one camera of {devices} devices, all {len(profiles)} archetypes: {len(takes.takes)} answers"
    benchmark.extra_info.update(target_ms=250, what=what)


def test_matrix(benchmark):
    rig = one_camera(12)
    made = plan(rig)
    matrix = benchmark.pedantic(functions_matrix, args=(rig, made, "body"), rounds=5, warmup_rounds=1)
    benchmark.extra_info.update(target_ms=None, what=f"functions matrix, 12 devices, {len(matrix.cells)} cells")


def test_picture_ways(benchmark):
    rig = one_camera(12)
    ways = benchmark.pedantic(picture_ways, args=(rig, "village"), rounds=5, warmup_rounds=1)
    benchmark.extra_info.update(target_ms=None, what=f"all {len(ways)} ways to one picture, 12 devices")


def test_run_sheet(benchmark):
    rig = demo()
    made = plan(rig)
    benchmark.pedantic(run_sheet, args=(rig, made), rounds=50, warmup_rounds=5)
    benchmark.extra_info.update(target_ms=None, what="run sheet of the demo rig written")


def carried_out(file: str):
    """A demo rig, what its plan rests on, all its looks, and the world at the end of its sheet."""
    catalogue = shipped()
    rig = resolve(read_file(FOLDER / file, Rig), catalogue.profiles, catalogue.cables)
    made = plan(rig)
    conditions = conditions_of(rig, made)
    looks = list(checks_of(rig, made, conditions))
    return rig, conditions, looks, carry_through(rig, run_sheet(rig, made, conditions))


def test_conditions(benchmark):
    rig = demo()
    made = plan(rig)
    found = benchmark.pedantic(conditions_of, args=(rig, made), rounds=50, warmup_rounds=5)
    benchmark.extra_info.update(target_ms=None, what=f"of that: the {len(found)} conditions of the demo rig derived")


@pytest.mark.parametrize(("file", "target_ms"), [("night-ferry-b.yaml", None), ("night-ferry-a.yaml", 300)])
def test_faults(benchmark, file: str, target_ms: int | None):
    """A fault alone is too short for a round: all of a rig are put in, one after the other."""
    rig, conditions, looks, world = carried_out(file)
    faults = [fault for _, fault in faults_of(rig, conditions)]

    def every():
        for fault in faults:
            broken = put_in(world, fault)
            for look in looks:
                look.read(broken)

    benchmark.pedantic(every, rounds=20, warmup_rounds=2)
    # One millisecond for each fault of the demo rig; the heavy rig has a target of its own.
    benchmark.extra_info.update(
        target_ms=target_ms or len(faults),
        what=f"{len(faults)} faults of {file[:-5]}, each: fork, put in, settle, read all {len(looks)} looks and proofs",
    )


def test_fork(benchmark):
    *_, world = carried_out("night-ferry-b.yaml")
    benchmark.pedantic(world.fork, rounds=200, iterations=10, warmup_rounds=5)
    benchmark.extra_info.update(target_ms=None, what="demo world forked")


@pytest.mark.parametrize("film", [False, True], ids=["unfilmed", "filmed"])
def test_bench_run(benchmark, film: bool):
    rig = demo()
    sheet = run_sheet(rig, plan(rig))
    benchmark.pedantic(run, args=(rig, sheet), kwargs={"film": film}, rounds=50, warmup_rounds=5)
    what = "run sheet carried out on the bench" + (", every step filmed for the screen" if film else "")
    benchmark.extra_info.update(target_ms=None if film else 10, what=what)


def test_catalogue(benchmark):
    def read():
        shipped.cache_clear()
        return shipped()

    benchmark.pedantic(read, rounds=10, warmup_rounds=1)
    benchmark.extra_info.update(target_ms=None, what="catalogue read and checked")


def test_cold_start(benchmark, tmp_path: Path):
    """From the start of the server to its first HTTP 200, database made already."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]

    def start():
        command = [sys.executable, "-m", "isotact", "demo", "--port", str(port), "--data", str(tmp_path)]
        process = subprocess.Popen(command, stdout=subprocess.DEVNULL)
        try:
            while True:
                try:
                    return urllib.request.urlopen(f"http://127.0.0.1:{port}/").status
                except OSError:
                    time.sleep(0.01)
        finally:
            os.kill(process.pid, signal.SIGKILL)
            process.wait()

    assert benchmark.pedantic(start, rounds=5, warmup_rounds=1) == 200
    benchmark.extra_info.update(target_ms=1000, what="cold start: server started to HTTP 200")


def tap(button, until: str) -> None:
    """Tap, and wait until something is so and painted; in the page, where nobody looks for the button first."""
    button.evaluate(
        f"""button => new Promise(done => {{
          const until = {until}
          const painted = () => requestAnimationFrame(() => setTimeout(done))
          const watch = new MutationObserver(() => until() && (watch.disconnect(), painted()))
          watch.observe(document.body, {{subtree: true, childList: true, attributes: true, characterData: true}})
          button.click()
        }})"""
    )


IMPOSSIBLE = """() => [...document.querySelectorAll('nav[aria-label=Promises] button')]
  .filter(one => one.textContent.includes('impossible')).length > 2"""
"""Three promises that cannot be kept stand in the column."""

BANK = "one => one.textContent.includes('USB power bank') && one.textContent.includes('stays in its case')"


def test_edit_to_map(benchmark, tmp_path: Path):
    """A cable taken out of the bag, and undone, until the new plan stands in the column of promises."""
    from playwright.sync_api import sync_playwright
    from tests.e2e.conftest import FLAGS, serving

    with serving(tmp_path / "data") as address, sync_playwright() as play:
        browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"{address}/rigs/night-ferry-b/case")
        strip = page.get_by_role("navigation", name="Promises")
        strip.get_by_role("button").filter(has_text="Director: picture").click()
        page.get_by_role("button", name="Take one out: USB-C to USB-C, data, 0.6 m").click()
        strip.get_by_text("planned").nth(2).wait_for()

        def edit():
            tap(page.get_by_role("button", name="Take one out: USB-C to USB-C, data, 0.3 m"), IMPOSSIBLE)

        def back():
            page.get_by_role("button", name="Put one in: USB-C to USB-C, data, 0.3 m").click()
            strip.get_by_text("planned").nth(2).wait_for()
            # The next edit is to be planned, not remembered: a promise's delay differs each time.
            back.delay += 1
            page.get_by_label("At most so late").fill(str(back.delay))
            page.wait_for_timeout(600)

        back.delay = 100
        edit()
        back()
        edit()
        benchmark.pedantic(edit, setup=back, rounds=6)
        browser.close()
    benchmark.extra_info.update(target_ms=400, what="edit on the screen to the new plan in the column of promises")


def test_edit_to_drawn_map(benchmark, tmp_path: Path):
    """A pin put in and taken out on the wiring screen, until the map of the new plan is drawn."""
    from playwright.sync_api import sync_playwright
    from tests.e2e.conftest import FLAGS, serving

    drawn = "text => document.querySelector('svg[data-drawn]')?.dataset.drawn.includes(text)"
    with serving(tmp_path / "data") as address, sync_playwright() as play:
        browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"{address}/rigs/night-ferry-b/wiring")
        page.wait_for_function(drawn, arg="usb-c-usb-c-data-30")

        def ready():
            page.get_by_role("group", name="Rig map").get_by_role("button", name="B2").press("Enter")
            page.get_by_role("button", name="Pin instead: USB-C to USB-C, data, 0.6 m").wait_for()
            page.wait_for_timeout(600)

        def pin():
            tap(
                page.get_by_role("button", name="Pin instead: USB-C to USB-C, data, 0.6 m"),
                f"() => ({drawn})('usb-c-usb-c-data-60')",
            )

        def again():
            if page.get_by_role("button", name="Undo pin 1").count():
                page.get_by_role("button", name="Undo pin 1").click()
                page.wait_for_function(drawn, arg="usb-c-usb-c-data-30")
                # The next edit is to be planned, not remembered.
                page.get_by_role("navigation", name="Promises").get_by_text("Director: picture").click()
                again.delay += 1
                page.get_by_label("At most so late").fill(str(again.delay))
                page.get_by_role("button", name="Close").click()
                page.wait_for_function(drawn, arg="usb-c-usb-c-data-30")
            ready()

        again.delay = 100
        benchmark.pedantic(pin, setup=again, rounds=6)
        browser.close()
    benchmark.extra_info.update(target_ms=120, what="edit on the screen (a pin) to the map of the new plan drawn")


def test_device_to_plan(benchmark, tmp_path: Path):
    """A device taken from the shelf, until the new plan is there and the device stands in the case as not used."""
    from playwright.sync_api import sync_playwright
    from tests.e2e.conftest import FLAGS, serving

    with serving(tmp_path / "data") as address, sync_playwright() as play:
        browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"{address}/rigs/night-ferry-b/case")
        page.get_by_role("button", name="Take from the shelf").click()
        page.get_by_label("Search the shelf").fill("bank")
        take = page.get_by_role("button", name="Take USB power bank").first
        lines = page.get_by_role("button", name="USB power bank").filter(has_text="stays in its case")

        def ready():
            take.wait_for()
            page.wait_for_timeout(600)

        def add():
            tap(take, f"() => [...document.querySelectorAll('button')].filter({BANK}).length > {lines.count()}")

        benchmark.pedantic(add, setup=ready, rounds=6)
        browser.close()
    benchmark.extra_info.update(target_ms=150, what="a device taken from the shelf to the new plan in the case")


PAINTED = """word => new Promise(done => {
  const field = document.querySelector('input[type=search]'), started = performance.now()
  Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(field, word)
  field.dispatchEvent(new Event('input', {bubbles: true}))
  requestAnimationFrame(() => setTimeout(() => done(performance.now() - started)))
})"""


def typed(benchmark, page, address: str) -> str:
    """Measure words typed to the shelf until what bears them is painted. Returns how many pieces there are."""
    page.goto(f"{address}/new")
    shelf = page.get_by_text(re.compile(r"^\d+ on the shelf"))
    shelf.wait_for()
    pieces = shelf.inner_text().split()[0]
    words = iter(["gimbal", "usb", "body pl", "focus", "", "hdmi", "monitor", "sdi", "phone", "", "motor"] * 3)
    benchmark.pedantic(lambda: page.evaluate(PAINTED, next(words)), rounds=20, warmup_rounds=2)
    return pieces


def test_shelf_search(benchmark, tmp_path: Path):
    """A word typed into the search of the shelf, until what bears it is painted."""
    from playwright.sync_api import sync_playwright
    from tests.e2e.conftest import FLAGS, serving

    with serving(tmp_path / "data") as address, sync_playwright() as play:
        browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        pieces = typed(benchmark, page, address)
        browser.close()
    benchmark.extra_info.update(target_ms=50, what=f"a word typed to the shelf searched and painted, {pieces} pieces")


def test_faces(benchmark):
    """Every shipped device's sides worked out."""
    profiles = list(shipped().profiles.values())
    benchmark.pedantic(lambda: [face(one) for one in profiles], rounds=20, warmup_rounds=2)
    benchmark.extra_info.update(target_ms=16, what=f"the faces of {len(profiles)} devices worked out")


def heavy() -> ResolvedRig:
    catalogue = shipped()
    return resolve(read_file(FOLDER / "night-ferry-a.yaml", Rig), catalogue.profiles, catalogue.cables)


def test_sheet_from_any_world(benchmark):
    rig = heavy()
    made = plan(rig)
    conditions = conditions_of(rig, made)
    world = carry_through(rig, run_sheet(rig, made, conditions))
    perform(world, RunFlat(device="battery"))
    sheet = benchmark.pedantic(sheet_between, args=(world, made, conditions), rounds=15, warmup_rounds=2)
    what = f"sheet from any world: the heavy rig after its battery died ({len(sheet.steps)} steps)"
    benchmark.extra_info.update(target_ms=20, what=what)


def test_change_to_a_built_rig(benchmark):
    """What the screen waits for: another lens is put on, the new plan made, the short sheet written."""
    old = heavy()
    before = plan(old)
    flags = flags_of(before, plugged=True)
    world = carry_through(old, run_sheet(old, before))
    devices = [
        one.model_copy(update={"profile": "lens-cine-pl"}) if one.id == "lens" else one for one in old.rig.devices
    ]
    promises = [one for one in old.rig.promises if one.id != "zoom"]
    document = old.rig.model_copy(update={"flags": flags, "devices": devices, "promises": promises})
    catalogue = shipped()

    def change():
        rig = resolve(document, catalogue.profiles, catalogue.cables)
        return mid_day(world, rig, plan(rig))

    sheet = benchmark.pedantic(change, rounds=9, warmup_rounds=2)
    benchmark.extra_info.update(
        target_ms=200, what=f"a built rig with another lens: plan and short sheet ({len(sheet.steps)} steps)"
    )


def found_at(file: str) -> tuple[Table, list[Seen]]:
    """The table of a shipped rig, and a search some way on: what fails, and a few answers."""
    rig, conditions, _, _ = carried_out(file)
    made = plan(rig)
    table = outcome_table(Situation(rig, made, conditions, run_sheet(rig, made, conditions), Standing()))
    fails = [Seen(look=look_key(promise), answer="odd") for promise in made.kept[:2]]
    return table, fails


@pytest.mark.parametrize("file", ["night-ferry-b.yaml", "night-ferry-a.yaml"])
def test_what_is_wrong_worked_out(benchmark, file: str):
    """Once for a search: every fault put in where it would have happened, every look read in each."""
    rig, conditions, _, _ = carried_out(file)
    made = plan(rig)
    situation = Situation(rig, made, conditions, run_sheet(rig, made, conditions), Standing())
    table = benchmark.pedantic(outcome_table, args=(situation,), rounds=10, warmup_rounds=1)
    what = (
        f"what {len(table.hypotheses)} things that may be wrong with {file[:-5]} would show at {len(table.looks)} looks"
    )
    benchmark.extra_info.update(target_ms=300, what=what)


@pytest.mark.parametrize("file", ["night-ferry-b.yaml", "night-ferry-a.yaml"])
def test_next_look(benchmark, file: str):
    """Each answer waits for this: pairs weighed, ten looks played to their end."""
    table, seen = found_at(file)
    for _ in range(3):
        look = next(one for one in find(table, seen).next if not one.is_cure)
        seen.append(Seen(look=look.id, saw=look.outcomes[-1].words))
    found = benchmark.pedantic(find, args=(table, seen), rounds=20, warmup_rounds=2)
    assert found.next
    pairs = believe(table, seen).members[:, 1]
    what = f"next look at {file[:-5]}, {int((pairs >= 0).sum())} pairs weighed"
    benchmark.extra_info.update(target_ms=150, what=what)
