"""Train, in the browser: an exercise in words to its end, the same by its code, and one under the hands."""

import re

from playwright.sync_api import Page, expect

from tests.e2e.conftest import RIG, Opener
from tests.e2e.test_manners import SMALL_TARGETS, barriers

TRAIN = f"{RIG}/train"


def begin(page: Page, name: str) -> None:
    page.get_by_role("list", name="How hard").get_by_role("button", name=name).click()


def test_an_exercise_in_words_is_looked_into_given_up_and_kept_by_name(opened: Opener):
    page = opened(TRAIN)
    page.evaluate("localStorage.setItem('isotact/person', 'Bo')")
    page.reload()
    # The same exercise each time, and one that is not about the balance, which is mended in vain below.
    page.evaluate("Math.random = () => 0.3")
    begin(page, "A colleague has looked already")
    expect(page.get_by_text("A colleague: “I have looked already.")).to_be_visible()
    expect(page.get_by_role("list", name="What fails").get_by_role("listitem").first).to_contain_text("fails")
    page.get_by_role("region", name="Look").get_by_role("button").first.click()
    done = page.get_by_role("list", name="Done so far")
    expect(done.get_by_role("listitem")).to_have_count(1)
    page.get_by_role("group", name="Devices").get_by_role("button", name="Tansy grip").click()
    page.get_by_role("searchbox", name="What it could be").fill("balance")
    page.get_by_role("region", name="Mend").get_by_role("button").first.click()
    expect(done.get_by_role("listitem")).to_have_count(2)
    assert barriers(page) == []
    assert page.evaluate(SMALL_TARGETS) == []
    page.set_viewport_size({"width": 390, "height": 844})
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    page.set_viewport_size({"width": 1280, "height": 800})
    if page.get_by_role("button", name="Give up").count():
        page.get_by_role("button", name="Give up").click()
    expect(page.get_by_role("columnheader", name=re.compile("The finder's"))).to_be_visible()
    assert barriers(page) == []
    page.get_by_role("button", name="Another").click()
    expect(page.get_by_role("heading", name="Bo so far")).to_be_visible()
    expect(page.get_by_text("Level 4")).to_be_visible()


def test_somebody_else_begins_the_same_by_its_code(opened: Opener):
    page, other = opened(TRAIN), opened(TRAIN)
    begin(page, "Two things at once")
    expect(page.get_by_role("list", name="What fails")).to_be_visible()
    code = page.get_by_text(re.compile(r"^[0-9A-Z]{4}-[0-9A-Z]{4}$")).inner_text()
    fails = page.get_by_role("list", name="What fails").inner_text()
    other.get_by_label("The code that somebody gave you").fill("no code")
    other.get_by_role("button", name="Begin the same").click()
    expect(other.get_by_text("a code has eight letters and digits")).to_be_visible()
    other.get_by_label("The code that somebody gave you").fill(code.lower())
    other.get_by_role("button", name="Begin the same").click()
    expect(other.get_by_role("list", name="What fails")).to_have_text(fails.replace("\n", ""), use_inner_text=False)


def test_under_the_hands_the_bench_says_what_fails_and_what_it_was(opened: Opener):
    page = opened(TRAIN)
    page.get_by_role("button", name="Under my hands").click()
    begin(page, "Build it blind")
    expect(page.get_by_role("heading", name="Built blind")).to_be_visible()
    expect(page.get_by_role("list", name="What fails").get_by_role("listitem")).to_have_count(3)
    expect(page.get_by_text("The sheet goes on")).to_have_count(0)
    page.get_by_role("button", name="End it").click()
    expect(page.get_by_role("heading", name="Given up")).to_be_visible()
    expect(page.get_by_text("Otherwise than planned")).to_be_visible()
    page.goto(page.url.partition("/rigs")[0] + TRAIN)
    page.get_by_role("button", name="Under my hands").click()
    begin(page, "1 · One thing is wrong")
    expect(page.get_by_role("heading", name="Something is wrong")).to_be_visible()
    assert barriers(page) == []
