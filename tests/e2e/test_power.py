"""Power in a browser: who runs from what, the moments, cold, the curve of a battery."""

import re

import pytest
from playwright.sync_api import expect

from tests.e2e.conftest import Opener

pytestmark = pytest.mark.browser


def test_the_feed_tree_tells_volts_and_cold_takes_hours(opened: Opener):
    page = opened("/rigs/night-ferry-a/power")
    expect(page.get_by_role("heading", name=re.compile("Plate battery is empty first, after 1.4 h"))).to_be_visible()
    tree = page.get_by_role("group", name="Who runs from what")
    driver = tree.get_by_role("button", name=re.compile("Sedge driver"))
    expect(driver).to_contain_text("16.3 V")
    page.get_by_role("button", name="At 20 %").click()
    expect(driver).to_contain_text("13.2 V")
    # The closest limit is marked: three motors that start at once, at one socket for three amps.
    expect(tree).to_contain_text("▲96 %")
    page.get_by_role("button", name=re.compile("^Osier ring")).last.click()
    expect(page.get_by_role("heading", name="Osier ring", exact=True)).to_be_visible()
    expect(page.get_by_role("img", name=re.compile("Osier ring: .* after 7.5 h"))).to_be_visible()
    page.get_by_role("spinbutton", name="Temperature").fill("-10")
    # The promised 1.2 h hold all the same: the driver goes over to the ring, whose battery is the larger one.
    expect(page.get_by_text("At -10 °C 80 % of it are there.")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("^Osier ring")).last).to_contain_text("3.0 h")
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("heading", name=re.compile("after 1.4 h"))).to_be_visible()
    driver.click()
    expect(page.get_by_role("heading", name="Sedge driver")).to_be_visible()
