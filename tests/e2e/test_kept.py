"""The browser never loses an edit: the line cut, the server killed, the tab closed, two people at one rig."""

import json
import os
import re
import signal
import sqlite3
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, Route, expect

from tests.e2e.conftest import PATIENCE_MS, RIG, Opener, answering, free_port, patient
from tests.e2e.test_story import drop, settled, strip

pytestmark = pytest.mark.browser
FOUR = ["planned", "planned", "planned", "impossible"]
THREE = FOUR[:3]


def state(page: Page, says: str) -> None:
    """Wait until the bar says how the rig is kept."""
    expect(page.get_by_role("status", name=re.compile(f"Night ferry, B camera: {says}$"))).to_be_visible()


class Laptop:
    """The application as it answers at an address, over data in a folder."""

    def __init__(self, folder: Path, address: str) -> None:
        self.folder, self.address = folder, address

    def rig(self) -> dict[str, Any]:
        with urllib.request.urlopen(f"{self.address}/api/rigs/night-ferry-b") as answer:
            found: dict[str, Any] = json.load(answer)
        return found

    def promises(self) -> list[str]:
        return [promise["id"] for promise in self.rig()["document"]["promises"]]


class Cart(Laptop):
    """One in a process of its own, that can be killed and started again over the same data: it takes its time."""

    def __init__(self, folder: Path) -> None:
        self.port = free_port()
        super().__init__(folder, f"http://127.0.0.1:{self.port}")
        self.start()

    def start(self) -> None:
        command = [sys.executable, "-m", "isotact", "demo", "--port", str(self.port), "--data", str(self.folder)]
        self.process = subprocess.Popen(command, stdout=subprocess.PIPE, env={**os.environ, "PYTHONUNBUFFERED": "1"})
        assert self.process.stdout is not None
        # Printed once the port is bound.
        assert self.address.encode() in self.process.stdout.readline()

    def kill(self) -> None:
        self.process.send_signal(signal.SIGKILL)
        self.end()

    def end(self) -> None:
        self.process.wait()
        assert self.process.stdout is not None
        self.process.stdout.close()


@pytest.fixture
def cart(tmp_path: Path) -> Iterator[Cart]:
    cart = Cart(tmp_path)
    yield cart
    cart.process.terminate()
    cart.end()


@pytest.fixture
def laptop(ports: Iterator[int], tmp_path: Path) -> Iterator[Laptop]:
    """One that nobody kills."""
    with answering(tmp_path, port=next(ports)) as address:
        yield Laptop(tmp_path, address)


@pytest.fixture
def window(browser: Browser) -> Iterator[BrowserContext]:
    """A browser of somebody's own, with its memory."""
    context = patient(browser)
    yield context
    context.close()


def opened_at(window: BrowserContext, at: Laptop) -> Page:
    page = window.new_page()
    page.goto(f"{at.address}{RIG}/case")
    return page


def wait_for(wanted: Any, ask: Any) -> None:
    for _ in range(PATIENCE_MS // 50):
        if ask() == wanted:
            return
        time.sleep(0.05)
    assert ask() == wanted


def test_a_server_that_is_killed_in_the_middle_of_edits_loses_none(window: BrowserContext, cart: Cart):
    page = opened_at(window, cart)
    settled(page, FOUR)
    state(page, "Saved")
    cart.kill()
    drop(page, "ISO from")
    state(page, "Not saved")
    page.get_by_role("button", name="Not saved").click()
    dialog = page.get_by_role("dialog", name="Not saved yet")
    expect(dialog).to_contain_text("The server on this laptop does not answer.")
    expect(dialog).to_contain_text("Your work is kept in this browser meanwhile")
    dialog.get_by_role("button", name="Close").click()
    drop(page, "focus from")
    cart.start()
    state(page, "Saved")
    settled(page, THREE[:2])
    assert len(cart.promises()) == 2


def test_what_is_changed_just_before_the_tab_is_closed_is_there_when_it_is_opened_again(
    window: BrowserContext, laptop: Laptop
):
    page = opened_at(window, laptop)
    settled(page, FOUR)
    drop(page, "ISO from")
    page.close()
    again = opened_at(window, laptop)
    settled(again, THREE)
    state(again, "Saved")
    wait_for(3, lambda: len(laptop.promises()))


def test_a_draft_outlives_a_tab_that_was_closed_while_nothing_could_be_saved(window: BrowserContext, laptop: Laptop):
    page = opened_at(window, laptop)
    settled(page, FOUR)
    window.route(
        "**/api/rigs/night-ferry-b", lambda route: route.abort() if route.request.method == "PUT" else route.fallback()
    )
    drop(page, "ISO from")
    state(page, "Not saved")
    page.close()
    assert len(laptop.promises()) == 4
    start = window.new_page()
    start.goto(laptop.address)
    expect(start.get_by_role("region", name="To know first")).to_contain_text("kept in this browser, and not saved yet")
    window.unroute("**/api/rigs/night-ferry-b")
    start.get_by_role("link", name="Open it to save").click()
    settled(start, THREE)
    state(start, "Saved")
    assert len(laptop.promises()) == 3


def test_leaving_unsaved_is_asked_about_and_the_draft_is_taken_up_again(window: BrowserContext, laptop: Laptop):
    page = opened_at(window, laptop)
    settled(page, FOUR)
    page.route(
        "**/api/rigs/night-ferry-b", lambda route: route.abort() if route.request.method == "PUT" else route.fallback()
    )
    drop(page, "ISO from")
    state(page, "Not saved")
    page.get_by_role("link", name="Isotact, to the rigs of the day").click()
    question = page.get_by_role("dialog", name="Not saved yet")
    question.get_by_role("button", name="Stay").click()
    settled(page, THREE)
    asked = []
    page.on("dialog", lambda dialog: (asked.append(dialog.type), dialog.accept()))
    page.reload()
    assert asked == ["beforeunload"]
    settled(page, THREE)
    state(page, "Not saved")
    page.unroute("**/api/rigs/night-ferry-b")
    state(page, "Saved")


def test_a_save_whose_answer_was_lost_is_not_taken_for_somebody_elses(window: BrowserContext, laptop: Laptop):
    page = opened_at(window, laptop)
    settled(page, FOUR)

    def arrives_without_an_answer(route: Route) -> None:
        if route.request.method != "PUT":
            return route.fallback()
        route.fetch()
        return route.abort()

    page.route("**/api/rigs/night-ferry-b", arrives_without_an_answer)
    drop(page, "ISO from")
    state(page, "Not saved")
    wait_for(3, lambda: len(laptop.promises()))
    drop(page, "focus from")
    page.unroute_all(behavior="ignoreErrors")
    state(page, "Saved")
    wait_for(2, lambda: len(laptop.promises()))


def test_another_persons_change_arrives_by_itself(browser: Browser, opened: Opener):
    one, other = opened(), opened()
    settled(one, FOUR)
    settled(other, FOUR)
    drop(one, "ISO from")
    settled(other, THREE)
    one.get_by_role("button", name="Undo").click()
    settled(other, FOUR)


def two_versions(opened: Opener) -> tuple[Page, Page]:
    """Two windows of which the second has changed what the first has changed before, unheard."""
    one, other = opened(), opened()
    settled(one, FOUR)
    settled(other, FOUR)
    other.route("**/api/rigs/night-ferry-b", lambda route: route.abort())
    drop(other, "focus from")
    state(other, "Not saved")
    drop(one, "ISO from")
    state(one, "Saved")
    other.unroute("**/api/rigs/night-ferry-b")
    state(other, "Two versions")
    return one, other


def test_two_versions_stand_side_by_side_and_theirs_can_stand(opened: Opener):
    _, other = two_versions(opened)
    dialog = other.get_by_role("dialog", name="Two versions of Night ferry, B camera")
    expect(dialog).to_contain_text("You changed revision 1; somebody else has saved revision 2 meanwhile.")
    row = dialog.get_by_role("row").filter(has_text="Promises")
    expect(row.get_by_role("cell").nth(0)).to_contain_text("Director: ISO")
    expect(row.get_by_role("cell").nth(1)).to_contain_text("focus")
    other.keyboard.press("Escape")
    expect(dialog).to_have_count(0)
    state(other, "Two versions")
    other.get_by_role("button", name="Two versions").click()
    other.get_by_role("dialog").get_by_role("button", name="Theirs stands").click()
    state(other, "Saved")
    settled(other, THREE)
    expect(strip(other).filter(has_text="focus, ")).to_be_visible()
    lines = other.evaluate("fetch('/api/rigs/night-ferry-b/history').then((answer) => answer.json())")
    assert [(line["number"], line["shows"], line["promises"]) for line in lines][:3] == [
        (4, 2, 3),
        (3, 3, 3),
        (2, 2, 3),
    ]


def test_of_two_versions_mine_can_stand_and_arrives_at_the_other(opened: Opener):
    one, other = two_versions(opened)
    other.get_by_role("dialog").get_by_role("button", name="Mine stands").click()
    state(other, "Saved")
    settled(one, ["planned", "planned", "impossible"])
    expect(strip(one).filter(has_text="focus, ")).to_have_count(0)


def test_any_earlier_revision_can_be_brought_back(opened: Opener):
    page = opened()
    settled(page, FOUR)
    drop(page, "ISO from")
    settled(page, THREE)
    state(page, "Saved")
    drop(page, "focus from")
    settled(page, THREE[:2])
    state(page, "Saved")
    page.keyboard.press("Control+k")
    page.keyboard.type("history")
    page.keyboard.press("Enter")
    dialog = page.get_by_role("dialog", name="History of Night ferry, B camera")
    expect(dialog.get_by_role("listitem")).to_have_count(3)
    expect(dialog.get_by_role("listitem").first).to_contain_text("5 devices, 2 promises")
    dialog.get_by_role("button", name="What differs since revision 1").click()
    for promise in ("Operator: focus", "Director: ISO"):
        expect(dialog.get_by_role("listitem").filter(has_text=promise).last).to_be_visible()
    dialog.get_by_role("button", name="Bring revision 1 back").click()
    expect(dialog.get_by_role("listitem").first).to_contain_text("as revision 1")
    page.keyboard.press("Escape")
    settled(page, FOUR)
    state(page, "Saved")


def test_a_rig_that_cannot_be_read_is_taken_back_to_the_revision_before(window: BrowserContext, laptop: Laptop):
    page = opened_at(window, laptop)
    settled(page, FOUR)
    drop(page, "ISO from")
    state(page, "Saved")
    with closing(sqlite3.connect(laptop.folder / "isotact.sqlite")) as raw:
        # It said "Saved" before the change as well: the second revision is waited for.
        there = "SELECT COUNT(*) FROM revision WHERE number = 2"
        wait_for(1, lambda: raw.execute(there).fetchone()[0])
        raw.execute("UPDATE revision SET document = '{' WHERE number = 2")
        raw.commit()
    page.goto(laptop.address)
    expect(page.get_by_role("region", name="To know first")).to_contain_text(
        "Revision 2 of the rig 'night-ferry-b' cannot be read"
    )
    page.goto(f"{laptop.address}{RIG}/case")
    page.get_by_role("button", name="Go back to the revision before").click()
    settled(page, FOUR)


def test_a_tick_that_does_not_arrive_is_said_and_tried_again(opened: Opener):
    page = opened(f"{RIG}/run-sheet")
    page.route("**/log", lambda route: route.abort())
    page.get_by_role("button", name=re.compile("^(All done|Done)$")).first.click()
    expect(page.get_by_role("status").filter(has_text="wait in line")).to_be_visible()
    page.unroute("**/log")
    expect(page.get_by_role("status").filter(has_text="in line")).to_have_count(0)
    steps = page.evaluate("fetch('/api/rigs/night-ferry-b/steps').then((answer) => answer.json())")
    assert {mark["what"] for mark in steps["steps"].values()} == {"done"}


def test_a_kit_is_kept_alike(window: BrowserContext, cart: Cart):
    page = window.new_page()
    page.goto(f"{cart.address}/kit")
    more = page.get_by_role("button", name=re.compile("^One more:")).first
    expect(page.get_by_role("status", name=re.compile(": Saved$"))).to_be_visible()
    cart.kill()
    more.click()
    more.click()
    expect(page.get_by_role("status", name=re.compile(": Not saved$"))).to_be_visible()
    cart.start()
    expect(page.get_by_role("status", name=re.compile(": Saved$"))).to_be_visible()
    page.get_by_role("button", name="History").click()
    dialog = page.get_by_role("dialog", name=re.compile("^History of "))
    dialog.get_by_role("button", name="Bring revision 1 back").click()
    expect(dialog.get_by_role("listitem").first).to_contain_text("as revision 1")
    page.keyboard.press("Escape")
    expect(page.get_by_role("status", name=re.compile(": Saved$"))).to_be_visible()
