"""The bench under the hands, in the browser: plugged, pressed, refused, undone, rehearsed; seen by a second screen."""

import json
import re
import urllib.request

from playwright.sync_api import Page, expect

from tests.e2e.conftest import RIG, Opener
from tests.e2e.test_manners import SMALL_TARGETS, barriers

BENCH = f"{RIG}/bench?by=hand"


def device(page: Page, name: str) -> None:
    page.get_by_role("list", name="Devices", exact=True).get_by_role("button", name=name).click()
    expect(page.get_by_role("heading", name=name)).to_be_visible()


def felt(page: Page, words: str) -> None:
    expect(page.get_by_role("status").filter(has_text=words).first).to_be_visible()


def port(page: Page, name: str) -> None:
    page.get_by_role("button", name=re.compile(f"^{name},")).click()


def test_a_cable_goes_into_two_ports_and_what_is_wrong_is_felt_and_undone(opened: Opener):
    page = opened(BENCH)
    page.get_by_role("button", name="From the cases").click()
    device(page, "Brindle 2")
    page.get_by_role("button", name="Switch it on").click()
    felt(page, "Brindle 2 stays dark: no power.")
    page.get_by_role("button", name="A full battery").click()
    felt(page, "body battery full.")
    page.get_by_role("button", name="Switch it on").click()
    felt(page, "the rear screen shows the picture")
    port(page, "USB")
    expect(page.get_by_role("region", name="Port USB")).to_be_visible()
    page.get_by_role("button", name=re.compile("Plug in B2")).click()
    expect(page.get_by_role("heading", name="In hand: B2")).to_be_visible()
    # The look-alike: it goes in, and nothing happens.
    device(page, "Tansy grip")
    port(page, "small bolt")
    felt(page, "B2 holds at both ends.")
    page.get_by_role("button", name="Undo").last.click()
    expect(page.get_by_role("heading", name="Cables")).to_be_visible()
    page.get_by_role("list", name="Cables to take in hand").get_by_role("button", name="B2").click()
    port(page, "small camera")
    device(page, "Quillon link")
    port(page, "HDMI IN")
    felt(page, "It does not go in")
    assert barriers(page) == []
    assert page.evaluate(SMALL_TARGETS) == []


def test_who_rehearses_has_the_next_card_beside_the_hands_and_hears_what_was_otherwise(opened: Opener):
    page = opened(BENCH)
    page.get_by_role("checkbox", name=re.compile("Rehearse")).check()
    page.get_by_role("button", name="From the cases").click()
    expect(page.get_by_text("39 steps left")).to_be_visible()
    page.get_by_role("button", name="Do it as it says").click()
    expect(page.get_by_text("38 steps left")).to_be_visible()
    device(page, "Director's phone")
    page.get_by_role("button", name="A full battery").click()
    expect(page.get_by_text("Not the sheet's next step: costs nothing")).to_be_visible()
    page.keyboard.press("u")
    expect(page.get_by_text("Not the sheet's next step")).to_have_count(0)


def test_what_one_does_the_other_sees_and_a_program_too(opened: Opener):
    page = opened(BENCH)
    page.get_by_role("button", name="From the rig as it stands").click()
    other = opened(BENCH, width=390, height=844)
    device(other, "Tansy grip")
    device(page, "Brindle 2")
    other.get_by_role("button", name="Record button: record").click()
    felt(page, "Brindle 2 rolls.")
    expect(page.get_by_text("● rolling").first).to_be_visible()
    address = page.url.partition("/rigs")[0]
    with urllib.request.urlopen(f"{address}/api/benches") as answer:
        bench = json.load(answer)[0]["id"]
    body = json.dumps({"move": {"kind": "act", "act": {"kind": "sleep", "device": "body"}}}).encode()
    headers = {"Content-Type": "application/json", "Origin": address}
    urllib.request.urlopen(urllib.request.Request(f"{address}/api/benches/{bench}/moves", body, headers)).read()
    felt(other, "Brindle 2 is dark.")
    assert barriers(other) == []
    assert other.evaluate("document.documentElement.scrollWidth") <= 390
    page.get_by_role("button", name="Where would the sheet go on?").click()
    expect(page.get_by_role("heading", name="The sheet goes on")).to_be_visible()
    page.get_by_role("button", name="Do it as it says").click()
    expect(page.get_by_role("heading", name="The sheet goes on")).to_be_visible()
