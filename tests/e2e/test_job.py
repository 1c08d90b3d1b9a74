"""A job in a browser: its day drawn from call to wrap, blocks and how each rig is used, undone."""

import re

import pytest
from playwright.sync_api import expect

from tests.e2e.conftest import Opener

pytestmark = pytest.mark.browser


def test_a_day_is_changed_drawn_and_undone(opened: Opener):
    page = opened("/job")
    expect(page.get_by_role("heading", name="Night ferry", exact=True)).to_be_visible()
    drawn = page.get_by_role("figure", name="The day from 18:00 to 04:00")
    expect(drawn).to_contain_text("Car deck")
    page.get_by_label("Wrap").fill("0500")
    expect(page.get_by_role("figure", name="The day from 18:00 to 05:00")).to_be_visible()
    page.get_by_role("button", name="+ Block").click()
    expect(page.get_by_label("From", exact=True).last).to_have_value("03:45")
    expect(page.get_by_label("To", exact=True).last).to_have_value("04:45")
    page.get_by_role("button", name=re.compile("Night ferry, C camera in Block 5: rolling")).click()
    page.get_by_role("option", name="standby").click()
    expect(page.get_by_text("✔ Saved")).to_be_visible()
    page.reload()
    expect(page.get_by_role("button", name=re.compile("Night ferry, C camera in Block 5: standby"))).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("button", name=re.compile("Night ferry, C camera in Block 5: standby"))).to_have_count(0)


def test_what_cannot_be_is_said_at_its_place_and_nothing_is_lost(opened: Opener):
    page = opened("/job")
    expect(page.get_by_role("figure")).to_be_visible()
    page.get_by_label("Wrap").fill("02:30")
    expect(page.get_by_text("which is after the wrap at 02:30").first).to_be_visible()
    page.get_by_label("Wrap").fill("04:30")
    expect(page.get_by_text("✔ Saved")).to_be_visible()
    expect(page.get_by_text("which is after the wrap")).to_have_count(0)


def test_places_people_and_how_much_each_rig_rolls_are_said_on_the_page(opened: Opener):
    page = opened("/job")
    place = page.get_by_label("Place", exact=True).first
    was = place.input_value()
    place.fill("Pier 9")
    place.press("Enter")
    expect(page.get_by_role("button", name="Mains at Pier 9", exact=False)).to_be_visible()
    expect(page.get_by_role("button", name=re.compile(f": {re.escape(was)}$"))).to_have_count(0)
    page.get_by_role("button", name="Mains at Pier 9", exact=False).click()
    page.get_by_role("option", name="no mains").click()
    page.get_by_role("button", name="+ Person").click()
    page.get_by_label("Name", exact=True).last.fill("Ines")
    page.get_by_label("Name", exact=True).last.press("Enter")
    page.get_by_label("What Ines does").fill("Second assistant")
    for label, words in (("To know at Pier 9", "key at the lock keeper"), ("Note for the job", "Two weeks of nights.")):
        page.get_by_label(label).fill(words)
        page.get_by_label(label).press("Tab")
    rolls = page.get_by_label(re.compile("^How much of .* Night ferry, A camera rolls")).first
    rolls.fill("55")
    page.get_by_role("button", name="+ meal").click()
    expect(page.get_by_text("✔ Saved")).to_be_visible()
    page.reload()
    expect(page.get_by_role("button", name="Mains at Pier 9: no mains")).to_be_visible()
    expect(page.get_by_label("What Ines does")).to_have_value("Second assistant")
    expect(page.get_by_label("To know at Pier 9")).to_have_value("key at the lock keeper")
    expect(page.get_by_label("Note for the job")).to_have_value("Two weeks of nights.")
    expect(page.get_by_label(re.compile("^How much of .* Night ferry, A camera rolls")).first).to_have_value("55")


def test_a_place_cannot_be_called_as_another_is(opened: Opener):
    page = opened("/job")
    page.get_by_role("button", name="+ Place").click()
    first = page.get_by_label("Place", exact=True).first.input_value()
    page.get_by_label("Place", exact=True).last.fill(first)
    expect(page.get_by_text(f"There is {first} already.")).to_be_visible()
    page.get_by_label("Place", exact=True).last.press("Enter")
    expect(page.get_by_label("Place", exact=True).last).to_have_value("Place 1")
