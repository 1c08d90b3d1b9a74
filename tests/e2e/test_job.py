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
