"""A real server with the demo in it, and a real browser that fails the test on any error or outside request."""

import os
import socket
import subprocess
import sys
import threading
import time
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect, sync_playwright

from isotact.api.application import application
from isotact.api.guarding import LOOPBACK
from isotact.api.sharing import Sharing
from isotact.serving import Server, config, put_the_demo_in
from isotact.store import Store

FLAGS = [
    "--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
    "--disable-component-update", "--disable-sync",
]  # fmt: skip
RIG = "/rigs/night-ferry-b"
AXE = Path(__file__).parents[2] / "web/node_modules/axe-core/axe.min.js"


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port: int = probe.getsockname()[1]
        return port


expect.set_options(timeout=20_000)
"""Two browsers and a server that starts share this machine; what is there is there long before."""


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        yield browser
        browser.close()


@contextmanager
def answering(folder: Path, demo: bool = True, elsewhere: str = "") -> Iterator[str]:
    """The application over a fresh database, in a thread of this process: there at once, for one test.

    `elsewhere`: shared under that other name of this machine as well, at which one has to join.
    """
    store = Store(folder / "isotact.sqlite")
    if demo:
        put_the_demo_in(store)
    port = free_port()
    sharing = Sharing(port, addresses=lambda: [elsewhere]) if elsewhere else None
    settings = config(application(store, hosts=sharing.hosts if sharing else LOOPBACK, sharing=sharing))
    settings.port = port
    settings.host = "0.0.0.0" if elsewhere else "127.0.0.1"
    server = Server(settings)
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    while not server.started:
        time.sleep(0.005)
    yield f"http://127.0.0.1:{port}"
    server.should_exit = True
    thread.join()


@contextmanager
def serving(folder: Path) -> Iterator[str]:
    """The demo as a user starts it, in a process of its own; gives its address."""
    port = free_port()
    command = [sys.executable, "-m", "isotact", "demo", "--port", str(port), "--data", str(folder)]
    process = subprocess.Popen(command, env={**os.environ, "PYTHONUNBUFFERED": "1"}, stdout=subprocess.DEVNULL)
    address = f"http://127.0.0.1:{port}"
    for _ in range(300):
        try:
            urllib.request.urlopen(f"{address}/api/health").close()
            break
        except OSError:
            time.sleep(0.05)
    yield address
    process.terminate()
    process.wait()


Opener = Callable[..., Page]


@pytest.fixture(scope="session")
def calm_server(tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    """One server for all tests that only look."""
    with serving(tmp_path_factory.mktemp("calm")) as address:
        yield address


@pytest.fixture
def looked_at(browser: Browser, calm_server: str) -> Iterator[Opener]:
    """Open a page of the shared server, to look and change nothing."""
    with pages(browser, calm_server) as opener:
        yield opener


@pytest.fixture
def opened(browser: Browser, tmp_path: Path) -> Iterator[Opener]:
    """Open a page of an application of this test's own, which it may change."""
    with answering(tmp_path) as address, pages(browser, address) as opener:
        yield opener


@pytest.fixture
def from_nothing(browser: Browser, tmp_path: Path) -> Iterator[Opener]:
    """Open a page of an application in whose database there is nothing yet."""
    with answering(tmp_path, demo=False) as address, pages(browser, address) as opener:
        yield opener


@contextmanager
def pages(browser: Browser, server: str) -> Iterator[Opener]:
    """Opens paths of `server`, each in a page of its own; at the end no page may have complained or called out."""
    complaints: list[str] = []
    contexts = []

    def watch(request) -> None:
        if not request.url.startswith((server, "data:", "blob:")):
            complaints.append(f"request that leaves the machine: {request.url}")

    def open_(path: str = f"{RIG}/case", theme: str = "night", width: int = 1280, height: int = 800) -> Page:
        context = browser.new_context(viewport={"width": width, "height": height}, reduced_motion="reduce")
        contexts.append(context)
        page = context.new_page()
        page.set_default_timeout(10_000)
        page.on("console", lambda message: complaints.append(message.text) if message.type == "error" else None)
        page.on("pageerror", lambda error: complaints.append(str(error)))
        page.on("request", watch)
        page.add_init_script(f"localStorage.getItem('theme') || localStorage.setItem('theme', '{theme}')")
        page.goto(server + path)
        return page

    yield open_
    for context in contexts:
        context.close()
    # A refusal that a test asks for is an answer of 4xx, and a line that it cuts has failed: the browser writes both.
    assert [text for text in complaints if "status of 4" not in text and "net::ERR_FAILED" not in text] == []
