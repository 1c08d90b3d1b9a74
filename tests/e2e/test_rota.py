"""The packs of a day in a browser: the rota over time, a change ticked, volts read, a block that goes on, on a phone."""

import re

import pytest
from playwright.sync_api import expect

from tests.e2e.conftest import Opener

pytestmark = pytest.mark.browser
PACKS = "/job/night-ferry/packs/0"


def test_from_the_job_to_its_packs_and_a_change_is_ticked(opened: Opener):
    page = opened("/job")
    page.get_by_role("link", name=re.compile("Packs of this day")).click()
    expect(page.get_by_role("heading", name=re.compile("Nothing goes dark: 13 changes"))).to_be_visible()
    drawn = page.get_by_role("figure", name="The rota over the day")
    expect(drawn).to_contain_text("A, Plate battery")
    expect(drawn).to_contain_text("Charger V-01")
    page.get_by_role("button", name=re.compile("Done: A, Plate battery: ")).first.click()
    expect(page.get_by_role("heading", name="From 20:30 on")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("Take back: A, Plate battery: "))).to_be_visible()
    expect(page.get_by_text("✔ Saved")).to_be_visible()
    page.reload()
    page.get_by_role("button", name=re.compile("Take back: A, Plate battery: ")).click()
    expect(page.get_by_role("button", name=re.compile("Take back: "))).to_have_count(0)
    page.goto(page.url.split("/job")[0] + "/log")
    expect(page.get_by_text(re.compile("A, Plate battery: .* in for A-14")).first).to_be_visible()


def test_volts_that_are_read_and_a_block_that_goes_on(opened: Opener):
    page = opened(PACKS)
    expect(page.get_by_role("heading", name=re.compile("Nothing goes dark"))).to_be_visible()
    page.get_by_label("It is").fill("2000")
    expect(page.get_by_text("On now: Boarding, on the ramp, to 20:30")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Battery that was read")).click()
    page.get_by_role("option", name="A, Plate battery").click()
    page.get_by_role("spinbutton", name="Volts that were read").fill("14.1")
    page.get_by_role("button", name="It reads so").click()
    expect(page.get_by_text(re.compile("20:00: 14.1 V under 37 W is .* of A-14"))).to_be_visible()
    page.get_by_role("button", name="It goes on, 15 min more").click()
    expect(page.get_by_text("On now: Boarding, on the ramp, to 20:45")).to_be_visible()
    expect(page.get_by_text("✔ Saved")).to_be_visible()


def test_a_table_and_a_calendar_are_saved(opened: Opener):
    page = opened(PACKS)
    for button, ending in (("Table", ".csv"), ("Calendar", ".ics")):
        with page.expect_download() as coming:
            page.get_by_role("button", name=button, exact=True).click()
        assert coming.value.suggested_filename == f"night-ferry-2026-05-04-packs{ending}"


def test_a_day_with_nothing_in_it_says_what_to_do(opened: Opener):
    page = opened("/job")
    page.get_by_role("button", name="+ Day").click()
    expect(page.get_by_text("✔ Saved")).to_be_visible()
    page.get_by_role("link", name=re.compile("Packs of this day")).click()
    expect(page.get_by_text(re.compile("Found no call, or no block"))).to_be_visible()


def test_on_a_phone_what_to_do_comes_first(opened: Opener):
    page = opened(PACKS)
    page.set_viewport_size({"width": 390, "height": 844})
    first = page.get_by_role("heading", name="What to do when")
    expect(first).to_be_visible()
    figure = page.get_by_role("figure", name="The rota over the day")
    above, below = first.bounding_box(), figure.bounding_box()
    assert above is not None
    assert below is not None
    assert above["y"] < below["y"]
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
