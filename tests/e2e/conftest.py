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
from itertools import count, cycle
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import (
    Browser,
    BrowserContext,
    ConsoleMessage,
    Dialog,
    Error,
    Page,
    Request,
    expect,
    sync_playwright,
)

from isotact.api.application import application
from isotact.api.security.guard import LOOPBACK
from isotact.api.security.sharing import Sharing
from isotact.server.serve import Server, config, put_the_demo_in
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


PATIENCE_MS = 180_000
"""So long a browser test waits for anything: a machine ten times slower, busy with other work, must not fail one.

What is there is there long before; only a test that fails waits so long. There is no other limit in these tests.
"""
expect.set_options(timeout=PATIENCE_MS)


def patient(browser: Browser, width: int = 1280, height: int = 800) -> BrowserContext:
    """A window of that size, in which nothing moves and nothing is given up early."""
    context = browser.new_context(viewport={"width": width, "height": height}, reduced_motion="reduce")
    context.set_default_timeout(PATIENCE_MS)
    return context


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        yield browser
        browser.close()


@contextmanager
def answering(folder: Path, demo: bool = True, elsewhere: str = "", port: int = 0) -> Iterator[str]:
    """The application over a fresh database, in a thread of this process: there at once, for one test.

    `elsewhere`: shared under that other name of this machine as well, at which one has to join.
    """
    store = Store(folder / "isotact.sqlite")
    if demo:
        put_the_demo_in(store)
    port = port or free_port()
    sharing = Sharing(port, addresses=lambda: [elsewhere]) if elsewhere else None
    settings = config(application(store, hosts=sharing.hosts if sharing else LOOPBACK, sharing=sharing))
    settings.port = port
    settings.host = "0.0.0.0" if elsewhere else "127.0.0.1"
    server = Server(settings)
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    while not server.started:
        assert thread.is_alive(), f"nothing can be served at port {port}"
        time.sleep(0.005)
    try:
        yield f"http://127.0.0.1:{port}"
    finally:
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


@pytest.fixture(scope="session")
def calm_window(browser: Browser) -> Iterator[Page]:
    """One page for them: to begin another takes longer than what is looked at."""
    context = patient(browser)
    context.add_init_script("localStorage.setItem('theme', 'night')")
    yield context.new_page()
    context.close()


@pytest.fixture
def looked_at(calm_window: Page, calm_server: str) -> Iterator[Opener]:
    """Go to a page of the shared server, to look and change nothing."""
    with complaining(calm_server) as watched:

        def open_(path: str = f"{RIG}/case", width: int = 1280, height: int = 800) -> Page:
            calm_window.set_viewport_size({"width": width, "height": height})
            calm_window.goto(calm_server + path)
            return calm_window

        forget = watched(calm_window)
        yield open_
        forget()


@pytest.fixture(scope="session")
def ports() -> Iterator[int]:
    """Where the applications of one test after the other answer: the browser has read their scripts before.

    In turn, so that what a page still had to say when it was left finds nobody there.
    """
    return cycle([free_port() for _ in range(6)])


@pytest.fixture(scope="session")
def first_window(browser: Browser) -> Iterator[Page]:
    """The first page of each test that has an application of its own."""
    context = patient(browser)
    context.add_init_script(FORGETTING)
    context.add_init_script(themed("night"))
    yield context.new_page()
    context.close()


@pytest.fixture
def opened(browser: Browser, first_window: Page, ports: Iterator[int], tmp_path: Path) -> Iterator[Opener]:
    """Open a page of an application of this test's own, which it may change."""
    with answering(tmp_path, port=next(ports)) as address, pages(browser, address, first_window) as opener:
        yield opener


@pytest.fixture
def from_nothing(browser: Browser, first_window: Page, ports: Iterator[int], tmp_path: Path) -> Iterator[Opener]:
    """Open a page of an application in whose database there is nothing yet."""
    with answering(tmp_path, demo=False, port=next(ports)) as address, pages(browser, address, first_window) as opener:
        yield opener


@contextmanager
def complaining(server: str) -> Iterator[Callable[[Page], Callable[[], None]]]:
    """Watches pages until it is called off; at the end none may have complained, or called out."""
    complaints: list[str] = []

    def called(request: Request) -> None:
        if not request.url.startswith((server, "data:", "blob:")):
            complaints.append(f"request that leaves the machine: {request.url}")

    def said(message: ConsoleMessage) -> None:
        if message.type == "error":
            complaints.append(message.text)

    def thrown(error: Error) -> None:
        complaints.append(str(error))

    def watch(page: Page) -> Callable[[], None]:
        heard: list[tuple[Any, Callable[..., None]]] = [("console", said), ("pageerror", thrown), ("request", called)]
        for event, hear in heard:
            page.on(event, hear)

        def forget() -> None:
            for event, hear in heard:
                page.remove_listener(event, hear)

        return forget

    yield watch
    # A refusal that a test asks for is an answer of 4xx, and a line that it cuts has failed: the browser writes both.
    assert [text for text in complaints if "status of 4" not in text and "net::ERR_FAILED" not in text] == []


TESTS = map(str, count())
FORGETTING = """
if (location.protocol === "http:") {
  const test = /test=\\d+/.exec(document.cookie)[0]
  if (sessionStorage.getItem("test") !== test) {
    localStorage.clear()
    sessionStorage.clear()
    indexedDB.deleteDatabase("isotact")
    sessionStorage.setItem("test", test)
  }
}"""
"""What the pages of the test before have kept is not there in this one, whenever it was written."""


def themed(theme: str) -> str:
    return f"localStorage.getItem('theme') || localStorage.setItem('theme', '{theme}')"


@contextmanager
def pages(browser: Browser, server: str, first: Page | None = None) -> Iterator[Opener]:
    """Opens paths of `server`, each in a page of its own; the first of them in `first`, which is given back as it was."""
    contexts: list[BrowserContext] = []
    ready = [first] if first is not None else []
    let_go: dict[Page, Callable[[], None]] = {}

    def open_(path: str = f"{RIG}/case", theme: str = "night", width: int = 1280, height: int = 800) -> Page:
        if ready and theme == "night":
            page = ready.pop()
            page.context.add_cookies([{"name": "test", "value": next(TESTS), "url": server}])
            page.set_viewport_size({"width": width, "height": height})
        else:
            contexts.append(patient(browser, width, height))
            page = contexts[-1].new_page()
            page.add_init_script(themed(theme))
        let_go[page] = watched(page)
        page.goto(server + path)
        return page

    with complaining(server) as watched:
        yield open_
        for context in contexts:
            context.close()
        if first is not None and first in let_go:
            let_go[first]()
            left(first)


def left(page: Page) -> None:
    """Leave what a page shows, whatever it has to say to that, and let go of what a test did to it."""
    page.unroute_all()
    page.emulate_media(media="null")
    page.mouse.move(0, 0)
    page.on("dialog", agree)
    page.goto("about:blank")
    page.remove_listener("dialog", agree)


def agree(dialog: Dialog) -> None:
    dialog.accept()
