"""Take the pictures in docs/screenshots from the demo, with a server and a database of their own."""

import http.client
import json
import os
import socket
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Callable
from pathlib import Path
from typing import Any

from playwright.sync_api import Page, sync_playwright

TARGET = Path(__file__).parents[1] / "docs/screenshots"
RIG = "/rigs/night-ferry-b"
FLAGS = [
    "--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run",
    "--disable-background-networking", "--disable-component-update", "--disable-sync",
]  # fmt: skip


def roll_by_hand(page: Page) -> None:
    """The rig under one's own hands: rolling, and something plugged that goes in and does nothing."""
    page.get_by_role("checkbox").check()
    page.get_by_role("button", name="From the rig as it stands").click()
    devices = page.get_by_role("list", name="Devices", exact=True)
    devices.get_by_role("button", name="Tansy grip").click()
    page.get_by_role("button", name="Record button: record").click()
    page.get_by_text("rolls.").first.wait_for()
    page.get_by_role("button", name="Focus wheel: focus up").click()
    page.get_by_text("stands at 6 of 10").first.wait_for()
    devices.get_by_role("button", name="Quillon link").click()
    page.get_by_role("button", name="Switch it off").click()
    page.get_by_text("Switch Quillon link off").first.wait_for()
    devices.get_by_role("button", name="Brindle 2").click()


def train(page: Page) -> None:
    """An exercise half-way: a colleague has spoken, a lamp was looked at."""
    page.get_by_label("The code that somebody gave you").wait_for()
    page.get_by_role("list", name="How hard").get_by_role("button", name="A colleague").click()
    page.get_by_role("group", name="Devices").get_by_role("button", name="Tansy grip").click()
    look = page.get_by_role("region", name="Look").get_by_role("button")
    for number in (0, 1):
        look.nth(number).click()
        page.get_by_role("list", name="Done so far").get_by_role("listitem").nth(number).wait_for()


def open_promise(page: Page) -> None:
    """Type what the director wants to see."""
    page.get_by_role("combobox", name="Promise").fill("director sees picture on phone under 80 ms")
    page.get_by_role("option").first.wait_for()


def way_on_the_map(page: Page) -> None:
    """The way of a promise lit on the map."""
    page.get_by_role("navigation", name="Promises").get_by_role("button").nth(1).click()
    page.get_by_role("button", name="Show its way on the map").click()
    map_drawn(page)


def _put(page: Page, body: dict[str, Any]) -> dict[str, Any]:
    """Save the rig as another page of ours does."""
    address = page.url.split("/rigs/")[0]
    headers = {"Origin": address}
    saved: dict[str, Any] = page.request.put(f"{address}/api/rigs/night-ferry-b", data=body, headers=headers).json()
    return saved


def nothing(_page: Page) -> None:
    """Leave the page as it opens."""


def ask_what_it_takes(page: Page) -> None:
    """Ask of record, with the data leads left at home; they are put back afterwards."""
    rig = page.evaluate("fetch('/api/rigs/night-ferry-b').then((answer) => answer.json())")
    bag = [one for one in rig["document"]["bag"] if "-data-" not in one["cable"]]
    saved = _put(page, {"made_on": rig["revision"], "document": {**rig["document"], "bag": bag}})
    page.reload()
    promises = page.get_by_role("navigation", name="Promises")
    promises.get_by_role("button", name="impossible. Operator: record").click()
    page.get_by_role("button", name="What would it take").first.click()
    page.get_by_role("list", name="What it takes").scroll_into_view_if_needed()
    page.screenshot(path=TARGET / "promises.png")
    _put(page, {"made_on": saved["revision"], "document": rig["document"]})


def map_drawn(page: Page) -> None:
    """Wait for the layout."""
    page.get_by_role("group", name="Rig map").wait_for()


def ask_a_cell(page: Page) -> None:
    """Ask why ISO has a price."""
    page.get_by_role("button", name="ISO from Director's phone").click()


def plan_the_day(page: Page) -> None:
    """Four cameras and one kit."""
    page.get_by_role("button", name="Four cameras sharing one kit").click()
    for name in ("Night ferry, A", "Night ferry, B", "Night ferry, C"):
        page.get_by_role("checkbox", name=name).uncheck()
    page.get_by_role("button", name="Plan 4 rigs together").click()
    page.get_by_text("The best split, proven.").wait_for()


def make_a_device(page: Page) -> None:
    """A grip of one's own with a port more."""
    page.get_by_role("button", name="Archetype").click()
    page.get_by_role("option", name="Single-grip gimbal, two USB-C").click()
    page.get_by_role("button", name="Start from this").click()
    page.get_by_role("button", name="Put a port on the top").click()
    page.get_by_role("button", name="Plan the rig with it").click()
    page.get_by_text("promises hold").wait_for()


def prove_a_picture(page: Page) -> None:
    """Two promises proven, and the delay of a picture measured."""
    rig = page.evaluate("fetch('/api/rigs/night-ferry-b').then((answer) => answer.json())")
    for number, promise in enumerate(("roll", "focus")):
        entry = {"uid": f"picture-proof-{number}", "what": "done", "subject": f"prove:{promise}"}
        _say(page, rig["revision"], entry)
    test = page.get_by_role("article", name="Test")
    test.get_by_role("button", name="Yes").click()
    test.get_by_label("Frames between clock").fill("4 5 4")
    test.get_by_text("within its limit").wait_for()
    test.get_by_label("Frames between clock").blur()


def look_for_what_is_wrong(page: Page) -> None:
    """The picture is not there: two answers on, and why the next look is the next."""
    page.get_by_role("list", name="Promises", exact=True).get_by_role("button", name="Picture on").click()
    seen = page.get_by_role("list", name="Seen so far").get_by_role("listitem")
    for count in (2, 3):
        page.get_by_role("group", name="What do you see?").get_by_role("button").first.click()
        seen.nth(count - 1).wait_for()
        page.wait_for_load_state("networkidle")
    # The last answer is weighed by then.
    page.get_by_role("group", name="What do you see?").get_by_role("button").first.click(trial=True)


def read_the_book(page: Page) -> None:
    """What was said so far, and a note."""
    rig = page.evaluate("fetch('/api/rigs/night-ferry-b').then((answer) => answer.json())")
    note = {"uid": "picture-note-1", "what": "note", "subject": "", "reason": "The van leaves the quay at six."}
    amiss = {"uid": "picture-note-2", "what": "differs", "subject": "wake:transmitter", "reason": "Violet, not blue"}
    for entry in (amiss, {"uid": "picture-note-3", "what": "restarted", "subject": "transmitter"}, note):
        _say(page, rig["revision"], entry)
    page.reload()
    page.get_by_text("The van leaves the quay").wait_for()


def on_two_people(page: Page) -> None:
    """The sheet dealt out."""
    page.get_by_role("button", name="2 people").click()
    page.get_by_text("alone").wait_for()


def _say(page: Page, revision: int, entry: dict[str, Any]) -> None:
    _post(page, "/api/rigs/night-ferry-b/log", {"revision": revision, "person": "Ada", "entries": [entry]})


def _post(page: Page, path: str, body: dict[str, Any]) -> dict[str, Any]:
    address = "/".join(page.url.split("/")[:3])
    answer: dict[str, Any] = page.request.post(address + path, data=body, headers={"Origin": address}).json()
    return answer


PICTURES: list[tuple[str, str, str, tuple[int, int], Callable[[Page], None]]] = [
    ("start", "/", "night", (1280, 800), nothing),
    ("case", f"{RIG}/case", "night", (1280, 800), open_promise),
    ("promises", f"{RIG}/functions", "night", (1280, 800), ask_what_it_takes),
    ("functions", f"{RIG}/functions", "night", (1280, 800), ask_a_cell),
    ("schools", "/rigs/night-ferry-a/schools", "day", (1280, 800), nothing),
    ("wiring", f"{RIG}/wiring", "day", (1280, 800), way_on_the_map),
    ("power", "/rigs/night-ferry-a/power", "day", (1280, 800), nothing),
    ("other-ways", f"{RIG}/other-ways", "night", (1280, 800), nothing),
    ("run-sheet", f"{RIG}/run-sheet?step=plug:body.usb--gimbal.camera", "day", (1280, 800), on_two_people),
    ("balance", "/rigs/night-ferry-a/balance", "night", (1280, 800), nothing),
    ("bench", f"{RIG}/bench?by=hand", "night", (1280, 800), roll_by_hand),
    ("prove", f"{RIG}/prove?promise=picture", "night", (1280, 800), prove_a_picture),
    ("find", "/rigs/night-ferry-a/find", "night", (1280, 800), look_for_what_is_wrong),
    ("train", f"{RIG}/train", "night", (1280, 800), train),
    ("log-book", "/log", "day", (1280, 800), read_the_book),
    ("workshop", "/workshop", "night", (1280, 800), make_a_device),
    ("job", "/job", "night", (1280, 800), nothing),
    ("packs", "/job/night-ferry/packs/0", "night", (1280, 800), nothing),
    ("kit", "/", "night", (1280, 800), plan_the_day),
]


def main() -> None:
    """Serve the demo and photograph each view."""
    TARGET.mkdir(parents=True, exist_ok=True)
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    with tempfile.TemporaryDirectory() as folder:
        command = [sys.executable, "-m", "isotact", "demo", "--port", str(port), "--data", folder, "--share"]
        server = subprocess.Popen(command, env=os.environ, stdout=subprocess.DEVNULL)
        try:
            _wait_for(f"http://127.0.0.1:{port}/api/health")
            _join(port)
            _photograph(f"http://127.0.0.1:{port}")
        finally:
            server.terminate()
            server.wait()


def _join(port: int) -> None:
    """Two of the crew, by the code that the laptop shows, from another address than its own."""
    with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/sharing") as shared:
        codes = {one["role"]: one["code"] for one in json.load(shared)["codes"]}
    headers = {"Origin": f"http://127.0.0.1:{port}", "Content-Type": "application/json"}
    for person, role in (("Ines, second assistant", "tick"), ("Bo", "look")):
        line = http.client.HTTPConnection("127.0.0.1", port, source_address=("127.0.0.2", 0))
        line.request("POST", "/api/sign-in", json.dumps({"code": codes[role], "person": person}), headers)
        line.getresponse().read()
        line.close()


def _wait_for(address: str) -> None:
    for _ in range(200):
        try:
            urllib.request.urlopen(address).close()
            return
        except OSError:
            time.sleep(0.05)
    raise SystemExit("The server did not start.")


def _photograph(address: str) -> None:
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        for name, path, theme, (width, height), act in PICTURES:
            context = browser.new_context(viewport={"width": width, "height": height}, reduced_motion="reduce")
            page = context.new_page()
            page.add_init_script(f"localStorage.setItem('theme', '{theme}')")
            page.goto(address + path)
            page.wait_for_load_state("networkidle")
            act(page)
            page.wait_for_timeout(500)
            if name not in ("history", "promises"):  # taken before what was changed is put back
                page.screenshot(path=TARGET / f"{name}.png")
            context.close()
        browser.close()


if __name__ == "__main__":
    main()
