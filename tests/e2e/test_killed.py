"""A browser that is killed in the middle of work: what it said that it keeps is there when it is opened again, and counts once."""

import shutil
from collections.abc import Callable, Iterator
from contextlib import suppress
from pathlib import Path

import psutil
import pytest
from playwright.sync_api import Browser, BrowserContext, Error, Page, expect

from tests.e2e.conftest import FLAGS, PATIENCE_MS, RIG
from tests.e2e.test_kept import FOUR, Laptop, laptop, state, wait_for
from tests.e2e.test_story import drop, settled
from tests.e2e.test_together import by, done, tick

pytestmark = pytest.mark.browser
__all__ = ["laptop"]

Starts = Callable[[str], BrowserContext]


@pytest.fixture
def starts(browser: Browser, tmp_path: Path) -> Iterator[Starts]:
    """Start somebody's own browser, or start it again with what it has on its disk."""
    running: list[BrowserContext] = []

    def start(name: str) -> BrowserContext:
        running.append(
            browser.browser_type.launch_persistent_context(
                tmp_path / name, executable_path="/usr/bin/chromium", args=FLAGS, reduced_motion="reduce"
            )
        )
        running[-1].set_default_timeout(PATIENCE_MS)
        return running[-1]

    yield start
    for context in running:
        with suppress(Error):
            context.close()
    for folder in tmp_path.glob("*/Default"):
        shutil.rmtree(folder.parent, ignore_errors=True)


def kill(context: BrowserContext, folder: Path) -> None:
    """As a battery that falls out does it: nothing is said to any of its processes."""
    own = [one for one in psutil.process_iter() if f"--user-data-dir={folder}" in command_of(one)]
    assert own, "there is a browser to kill"
    for one in own:
        with suppress(psutil.NoSuchProcess):
            one.kill()
    psutil.wait_procs(own)
    with suppress(Error):
        context.close()
    for lock in folder.glob("Singleton*"):
        lock.unlink()


def command_of(process: psutil.Process) -> list[str]:
    try:
        return process.cmdline()
    except psutil.Error:
        return []


def sheet(context: BrowserContext, at: Laptop, name: str = "") -> Page:
    page = context.pages[0]
    page.goto(f"{at.address}{RIG}/run-sheet")
    if name:
        page.get_by_label("You are").fill(name)
        page.get_by_label("You are").press("Enter")
    return page


def test_three_browsers_are_killed_in_the_middle_of_work(starts: Starts, laptop: Laptop, tmp_path: Path):
    in_reach = starts("ada")
    page = sheet(in_reach, laptop, "Ada")
    tick(page)
    wait_for({"Ada": 2}, lambda: by(laptop))
    kill(in_reach, tmp_path / "ada")

    out_of_reach = starts("bo")
    page = sheet(out_of_reach, laptop, "Bo")
    done(page, 2)
    out_of_reach.set_offline(True)
    tick(page)
    done(page, 6)
    expect(page.get_by_role("status").filter(has_text="they are kept in this browser")).to_be_visible()
    kill(out_of_reach, tmp_path / "bo")
    assert by(laptop) == {"Ada": 2}

    editing = starts("cem")
    page = editing.pages[0]
    page.goto(f"{laptop.address}{RIG}/case")
    settled(page, FOUR)
    editing.set_offline(True)
    drop(page, "ISO from")
    state(page, "Not saved")
    page.get_by_role("button", name="Not saved").click()
    expect(page.get_by_role("dialog", name="Not saved yet")).to_contain_text("kept in this browser meanwhile")
    kill(editing, tmp_path / "cem")
    assert len(laptop.promises()) == 4

    done(sheet(starts("bo"), laptop), 6)
    wait_for({"Ada": 2, "Bo": 4}, lambda: by(laptop))
    again = starts("cem").pages[0]
    again.goto(f"{laptop.address}{RIG}/case")
    state(again, "Saved")
    settled(again, FOUR[:3])
    assert len(laptop.promises()) == 3
    done(sheet(starts("ada"), laptop), 6)
    assert by(laptop) == {"Ada": 2, "Bo": 4}, "each counts once"
