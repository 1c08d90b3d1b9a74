"""Find, in the browser: from what fails to its cure, on one phone and another, and what is kept of it."""

import re

from playwright.sync_api import Page, expect

from tests.e2e.conftest import RIG, Opener
from tests.e2e.test_manners import SMALL_TARGETS, barriers

FIND = f"{RIG}/find"


def fails(page: Page, words: str) -> None:
    page.get_by_role("list", name="Promises", exact=True).get_by_role("button", name=words).click()


def answer(page: Page, look: str, words: str) -> None:
    """Say what is seen, whichever look comes first: told unasked where another is asked."""
    tell = page.locator("details", has_text="Tell what else you see")
    if tell.get_attribute("open") is None:
        tell.locator("summary").click()
    device, says = look.split("/")
    group = tell.get_by_role("group", name="Devices").get_by_role("button", name=device, exact=True)
    if group.get_attribute("aria-pressed") != "true":
        group.click()
    row = tell.get_by_role("listitem").filter(has=page.get_by_text(says)).last
    row.get_by_role("button", name=re.compile(f"^{words}$", re.IGNORECASE)).click()


def test_a_promise_that_fails_is_followed_to_its_cause_and_kept_in_the_log(opened: Opener):
    page = opened(FIND)
    fails(page, "Focus from the focus wheel")
    expect(page.get_by_role("heading", name="Look here next")).to_be_visible()
    answer(page, "Tansy grip/Look at the grip lamp", "Steady blue")
    answer(page, "Tansy grip/Wheel is Camera focus", "Roll axis")
    expect(page.get_by_role("heading", name=re.compile("Most likely"))).to_be_visible()
    expect(page.get_by_text("“Wheel” of Tansy grip is Roll axis.")).to_be_visible()
    assert barriers(page) == []
    assert page.evaluate(SMALL_TARGETS) == []
    page.set_viewport_size({"width": 390, "height": 844})
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    expect(page.get_by_role("list", name="Mend it so").get_by_role("listitem").first).to_contain_text("Wheel")
    page.get_by_role("button", name="It works now").click()
    page.get_by_role("button", name="Keep in the log").click()
    expect(page.get_by_role("heading", name="What fails?")).to_be_visible()
    page.goto(page.url.replace(FIND, "/log"))
    expect(page.get_by_text("“Wheel” of Tansy grip is Roll axis").first).to_be_visible()


def test_answers_come_in_from_another_phone_and_can_be_taken_back(opened: Opener):
    page = opened(FIND)
    other = opened(FIND, width=390, height=844)
    fails(page, "Record from the record button")
    seen = other.get_by_role("list", name="Seen so far")
    expect(seen).to_contain_text("Work it: record from the record button")
    other.get_by_role("group", name="What do you see?").get_by_role("button").first.click()
    expect(page.get_by_role("list", name="Seen so far").get_by_role("listitem")).to_have_count(2)
    page.get_by_role("list", name="Seen so far").get_by_role("button", name=re.compile("Take back")).last.click()
    expect(seen.get_by_role("listitem")).to_have_count(1)
    other.get_by_role("button", name="End the search: not found").click()
    expect(page.get_by_role("heading", name="What fails?")).to_be_visible()


def test_plain_words_and_a_thing_that_nobody_can_tell(opened: Opener):
    page = opened(FIND)
    page.get_by_label("In plain words").fill("keeps switching off")
    page.get_by_role("button", name="It switches itself off").click()
    asked = page.get_by_role("heading", name="Look here next").locator("xpath=ancestor::section")
    expect(asked).to_be_visible()
    first = asked.locator("p").first.text_content() or ""
    asked.get_by_role("button", name="Can’t tell").click()
    expect(asked.locator("p").first).not_to_have_text(first)
    expect(page.get_by_role("list", name="Seen so far")).to_contain_text("nobody could tell")


def test_a_card_that_does_not_look_like_that_opens_the_search_there(opened: Opener):
    page = opened(f"{RIG}/run-sheet?step=wake:gimbal")
    page.get_by_role("button", name="Does not look like that").click()
    page.get_by_label("What do you see?").fill("its lamp stays dark")
    page.get_by_role("button", name="Say so").click()
    page.get_by_role("link", name="Find what is wrong").click()
    expect(page.get_by_text("It began at “Wake Tansy grip”")).to_be_visible()
    expect(page.get_by_role("list", name="What it could be").get_by_role("listitem").first).to_contain_text(
        "Tansy grip"
    )
