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
    """Light the second promise's route and leave the drawer open."""
    page.get_by_role("navigation", name="Promises").get_by_role("button").nth(1).click()
    page.get_by_role("dialog").wait_for(state="attached")


def nothing(_page: Page) -> None:
    """Leave the page as it opens."""


PICTURES: list[tuple[str, str, str, tuple[int, int], Callable[[Page], None]]] = [
    ("start", "/", "night", (1280, 800), nothing),
    ("promises", f"{RIG}/promises", "night", (1280, 800), nothing),
    ("wiring", f"{RIG}/wiring", "night", (1280, 800), nothing),
    ("wiring-day", f"{RIG}/wiring", "day", (1280, 800), nothing),
    ("conditions", f"{RIG}/wiring", "night", (1280, 800), open_promise),
    ("run-sheet", f"{RIG}/run-sheet?step=plug:body.usb--gimbal.camera", "day", (1280, 800), nothing),
    ("run-sheet-phone", f"{RIG}/run-sheet?step=wake:gimbal", "night", (390, 844), nothing),
    ("bench", f"{RIG}/bench", "night", (1280, 800), carry_out),
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
            page.screenshot(path=TARGET / f"{name}.png")
            context.close()
        browser.close()


if __name__ == "__main__":
    main()
