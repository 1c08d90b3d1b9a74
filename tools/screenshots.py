"""Take the pictures in docs/screenshots from the demo, with a server and a database of their own."""

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


def carry_out(page: Page) -> None:
    """Play the whole run sheet."""
    page.get_by_role("button", name="16×").click()
    page.get_by_role("button", name="Do all").click()
    page.get_by_role("status").filter(has_text="promises proven").wait_for(timeout=30_000)


def open_promise(page: Page) -> None:
    """Type what the director wants to see."""
    page.get_by_role("combobox", name="Promise").fill("director sees picture on phone under 80 ms")
    page.get_by_role("option").first.wait_for()


def open_a_device(page: Page) -> None:
    """What is known of the body as it lies there."""
    page.get_by_role("button", name="Brindle 2").click()


def take_from_the_shelf(page: Page) -> None:
    """A new rig with a few devices in its case."""
    for name in ("Take Native lens", "Take Mirrorless body", "Take Single-grip gimbal"):
        page.get_by_role("button", name=name).first.click()
    page.get_by_role("button", name="Take Phone-link").first.click()
    page.get_by_label("Search the shelf").fill("monitor")
    page.mouse.wheel(0, -9000)


def remove_a_rig(page: Page) -> None:
    """The C camera removed, and the bin opened; it is brought back for the pictures that follow."""
    page.get_by_role("button", name="Remove Night ferry, C camera").click()
    page.get_by_role("link", name="Bin: removed rigs").click()
    page.get_by_role("button", name="Bring back Night ferry, C camera").wait_for()
    page.screenshot(path=TARGET / "bin.png")
    page.get_by_role("button", name="Bring back Night ferry, C camera").click()
    page.get_by_text("The bin is empty").wait_for()


def way_on_the_map(page: Page) -> None:
    """The way of a promise lit on the map."""
    page.get_by_role("navigation", name="Promises").get_by_role("button").nth(1).click()
    page.get_by_role("button", name="Show its way on the map").click()
    map_drawn(page)


def change_what_another_has_changed(page: Page) -> None:
    """A rig changed here while nothing could be saved, and meanwhile by somebody else; put back afterwards."""
    rig = page.evaluate("fetch('/api/rigs/night-ferry-b').then((answer) => answer.json())")
    page.route("**/api/rigs/night-ferry-b", lambda route: route.abort())
    page.get_by_role("navigation", name="Promises").get_by_role("button").nth(1).click()
    page.get_by_role("button", name="Drop").click()
    page.get_by_role("button", name="Not saved").wait_for()
    document = {**rig["document"], "name": "Night ferry, B camera by day", "promises": rig["document"]["promises"][:3]}
    saved = _put(page, {"made_on": rig["revision"], "document": document})
    page.unroute("**/api/rigs/night-ferry-b")
    page.get_by_role("button", name="Mine stands").wait_for()
    _put(page, {"made_on": saved["revision"], "document": rig["document"]})


def _put(page: Page, body: dict[str, Any]) -> dict[str, Any]:
    """Save the rig as another page of ours does."""
    address = page.url.split("/rigs/")[0]
    headers = {"Origin": address}
    saved: dict[str, Any] = page.request.put(f"{address}/api/rigs/night-ferry-b", data=body, headers=headers).json()
    return saved


def nothing(_page: Page) -> None:
    """Leave the page as it opens."""


def ask_what_it_takes(page: Page) -> None:
    """Ask of the promise that cannot be kept."""
    page.get_by_role("navigation", name="Promises").get_by_role("button").nth(3).click()
    page.get_by_role("button", name="What would it take").first.click()
    page.get_by_role("list", name="What it takes").scroll_into_view_if_needed()


def map_drawn(page: Page) -> None:
    """Wait for the layout."""
    page.get_by_role("group", name="Rig map").wait_for()


def ask_a_cable(page: Page) -> None:
    """Ask why the second cable is as it is."""
    map_drawn(page)
    page.get_by_role("list", name="Cables, mounts and radio links").get_by_role("button", name="A3,").first.press(
        "Enter"
    )
    page.get_by_text("What hangs on it").wait_for()


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


LIST = b"""Item;Qty;Asset tag;FW
Phone with the link app;2;P-1, P-2;
mirorless body one usb-c micro hdmi;1;B-01;2.1
Mystery box;3;;
Plate battery, 14.4 V;many;;
"""


def bring_in_a_list(page: Page) -> None:
    """A list with a misspelt name, an unknown item and a count that is none."""
    page.get_by_role("button", name="Bring in a list").click()
    page.get_by_label("Kit list").set_input_files([{"name": "van.csv", "mimeType": "text/csv", "buffer": LIST}])
    page.get_by_text("2 wrong").wait_for()


def make_a_device(page: Page) -> None:
    """A grip of one's own with a port more."""
    page.get_by_role("button", name="Archetype").click()
    page.get_by_role("option", name="Single-grip gimbal, two USB-C").click()
    page.get_by_role("button", name="Start from this").click()
    page.get_by_role("button", name="Put a port on the top").click()
    page.get_by_role("button", name="Plan the rig with it").click()
    page.get_by_text("promises hold").wait_for()


PICTURES: list[tuple[str, str, str, tuple[int, int], Callable[[Page], None]]] = [
    ("start", "/", "night", (1280, 800), nothing),
    ("new-rig", "/new", "day", (1280, 800), take_from_the_shelf),
    ("case", f"{RIG}/case", "night", (1280, 800), open_promise),
    ("device", f"{RIG}/case", "day", (1280, 800), open_a_device),
    ("promises", f"{RIG}/functions", "night", (1280, 800), ask_what_it_takes),
    ("promises-phone", RIG, "night", (390, 844), nothing),
    ("functions", f"{RIG}/functions", "night", (1280, 800), ask_a_cell),
    ("schools", "/rigs/night-ferry-a/schools", "day", (1280, 800), nothing),
    ("wiring", f"{RIG}/wiring", "day", (1280, 800), way_on_the_map),
    ("join", "/rigs/night-ferry-a/wiring", "night", (1280, 800), ask_a_cable),
    ("other-ways", f"{RIG}/other-ways", "night", (1280, 800), nothing),
    ("run-sheet", f"{RIG}/run-sheet?step=plug:body.usb--gimbal.camera", "day", (1280, 800), nothing),
    ("run-sheet-phone", f"{RIG}/run-sheet?step=wake:gimbal", "night", (390, 844), nothing),
    ("bench", f"{RIG}/bench", "night", (1280, 800), carry_out),
    ("two-versions", f"{RIG}/case", "day", (1280, 800), change_what_another_has_changed),
    ("bin", "/", "night", (1280, 800), remove_a_rig),
    ("list", "/kit", "day", (1280, 800), bring_in_a_list),
    ("workshop", "/workshop", "night", (1280, 800), make_a_device),
    ("kit", "/", "night", (1280, 800), plan_the_day),
]


def main() -> None:
    """Serve the demo and photograph each view."""
    TARGET.mkdir(parents=True, exist_ok=True)
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    with tempfile.TemporaryDirectory() as folder:
        command = [sys.executable, "-m", "isotact", "demo", "--port", str(port), "--data", folder]
        server = subprocess.Popen(command, env=os.environ, stdout=subprocess.DEVNULL)
        try:
            _wait_for(f"http://127.0.0.1:{port}/api/health")
            _photograph(f"http://127.0.0.1:{port}")
        finally:
            server.terminate()
            server.wait()


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
            if name != "bin":  # taken before it is emptied again
                page.screenshot(path=TARGET / f"{name}.png")
            context.close()
        browser.close()


if __name__ == "__main__":
    main()
