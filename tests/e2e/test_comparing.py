"""Comparing in a browser: functions, schools, other ways, what it takes, pins; and the examples."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.e2e.conftest import RIG, Opener
from tests.e2e.test_story import settled, told

pytestmark = pytest.mark.browser
THREE = ["planned", "planned", "planned", "impossible"]


def test_an_example_opens_as_a_rig_of_ones_own_and_answers(opened: Opener):
    page = opened("/")
    page.get_by_role("button", name=re.compile("Own screen dark")).click()
    expect(page.get_by_role("heading", name="Own screen")).to_be_visible()
    settled(page, ["planned", "impossible"])
    page.get_by_role("navigation", name="Promises").get_by_role("button").nth(1).click()
    expect(page.get_by_text("goes dark when Body, port marked")).to_be_visible()
    page.get_by_role("link", name="Isotact, to the rigs of the day").click()
    page.get_by_role("button", name="Remove Own screen").click()
    expect(page.get_by_role("link", name=re.compile("^Own screen"))).to_have_count(0)
    page.get_by_role("button", name="Bring it back").click()
    expect(page.get_by_role("link", name=re.compile("^Own screen"))).to_have_count(1)


AS_DEAR = """async () => {
    const { document, revision } = await (await fetch("/api/rigs/night-ferry-b")).json();
    const promises = document.promises.map((one) => ({ ...one, weight: one.id === "iso" ? 5 : one.weight }));
    const body = JSON.stringify({ made_on: revision, document: { ...document, promises } });
    const headers = { "Content-Type": "application/json" };
    await fetch("/api/rigs/night-ferry-b", { method: "PUT", headers, body });
}"""
"""The demo with an ISO that is worth as much as record."""


def test_what_it_takes_is_shown_and_done_with_a_tap(opened: Opener):
    page = opened()
    settled(page, THREE)
    told(page, "ISO from").get_by_role("button", name=re.compile("^What would it take. ISO")).click()
    expect(page.get_by_text("It would hold only without record from the record button")).to_be_visible()
    page.evaluate(AS_DEAR)
    page.reload()
    settled(page, THREE)
    told(page, "ISO from").get_by_role("button", name=re.compile("^What would it take. ISO")).click()
    takes = page.get_by_role("list", name="What it takes")
    expect(takes).to_contain_text(
        "Give up record from the record button of Tansy grip; Brindle 2 is then in Stills mode."
    )
    takes.get_by_role("button", name=re.compile("^Plan with this")).first.click()
    settled(page, ["planned", "planned", "planned"])
    page.get_by_role("button", name="Undo").click()
    settled(page, THREE)


def test_a_cell_of_the_matrix_says_why_and_becomes_a_promise(opened: Opener):
    page = opened(f"{RIG}/functions")
    page.get_by_role("button", name="shutter from Director's phone: touch screen: at a price").click()
    why = page.get_by_role("region", name="Why")
    expect(why).to_contain_text("if you give up record from the record button of Tansy grip.")
    expect(why).to_contain_text("Brindle 2 in Stills mode")
    page.get_by_role("button", name="record from Director's phone: touch screen: yes").click()
    expect(why).to_contain_text("Yes, by way of Director's phone to Quillon link to Brindle 2.")
    why.get_by_label("Promise it to").fill("Script")
    why.get_by_role("button", name="Promise").click()
    expect(page.get_by_role("navigation", name="Promises")).to_contain_text("Script: record, touch screen")
    expect(why).to_contain_text("This is promised.")


def test_the_matrix_is_held_to_one_mode(looked_at: Opener):
    page = looked_at(f"{RIG}/functions")
    page.get_by_role("button", name=re.compile("^Mode")).click()
    page.get_by_role("option", name="in Stills mode").click()
    expect(page.get_by_role("button", name="ISO from Director's phone: touch screen: at a price")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("^record from"))).to_have_count(0)
    page.get_by_role("button", name="Show every no as well").click()
    page.get_by_role("button", name="record from Director's phone: touch screen: no").click()
    expect(page.get_by_role("region", name="Why")).to_contain_text("Not in this mode. Brindle 2 in Video mode")


def test_every_no_can_be_asked_for_its_reason(looked_at: Opener):
    page = looked_at(f"{RIG}/functions")
    page.get_by_role("button", name="focus from Director's phone: touch screen: no").click()
    expect(page.get_by_role("region", name="Why")).to_contain_text("The touch screen does not give focus.")


def test_another_plan_is_compared_and_adopted_and_given_back(opened: Opener):
    page = opened(f"{RIG}/other-ways")
    table = page.get_by_role("group", name="Plans side by side")
    expect(table).to_contain_text("Plan 3")
    expect(table).to_contain_text(
        "Record from the record button of Tansy grip: Tansy grip to Quillon link to Brindle 2."
    )
    page.get_by_role("button", name="Adopt plan 2").click()
    expect(page.get_by_role("link", name=re.compile("^Other ways"))).to_contain_text("2 pinned")
    page.get_by_role("link", name=re.compile("^Wiring")).click()
    expect(page.get_by_role("region", name="Pins")).to_contain_text("The chosen way for record")
    expect(page.get_by_text("port marked “antenna”").first).to_be_visible()
    page.get_by_role("link", name=re.compile("^Other ways")).click()
    page.get_by_role("button", name="Let the plan decide again").click()
    expect(page.get_by_role("link", name=re.compile("^Other ways"))).to_contain_text("compared")


def test_all_ways_to_a_picture_are_listed_the_simplest_first(opened: Opener):
    page = opened("/")
    page.get_by_role("button", name=re.compile("All ways to show a picture")).click()
    page.get_by_role("link", name=re.compile("^Other ways")).click()
    page.get_by_role("button", name=re.compile("^Which picture")).click()
    page.get_by_role("option", name=re.compile("^Director")).click()
    first = page.get_by_role("button", name=re.compile("^Adopt the way")).first
    expect(first).to_have_accessible_name("Adopt the way Body to Director monitor")
    first.click()
    settled(page, ["impossible", "impossible", "planned"])


def join_of(page: Page, tag: str):
    page.get_by_role("group", name="Rig map").get_by_role("button", name=re.compile(f"^{tag},")).press("Enter")
    return page.get_by_role("dialog")


def test_a_cable_says_why_and_is_pinned_and_the_pin_is_costed_and_taken_away(opened: Opener):
    page = opened(f"{RIG}/wiring")
    dialog = join_of(page, "B2")
    expect(dialog).to_contain_text("3 points better than the next")
    expect(dialog).to_contain_text("record from the record button of Tansy grip")
    dialog.get_by_role("button", name="Pin instead: USB-C to USB-C, data, 0.6 m").click()
    pins = page.get_by_role("region", name="Pins")
    expect(pins).to_contain_text("done.")
    expect(pins).to_contain_text("It costs 4 points")
    expect(page.get_by_role("button", name=re.compile(r"^B\d USB-C to USB-C, data, 0.6 m"))).to_be_visible()
    pins.get_by_role("button", name="Undo pin 1").click()
    expect(page.get_by_role("button", name=re.compile("^B2 USB-C to USB-C, data, 0.3 m"))).to_be_visible()


def test_a_device_left_in_its_case_is_obeyed_at_once(opened: Opener):
    page = opened(f"{RIG}/wiring")
    dialog = join_of(page, "B2")
    dialog.get_by_role("button", name="Leave Tansy grip in its case").click()
    settled(page, ["impossible", "impossible", "planned", "planned"])
    expect(page.get_by_text("Stays in its case: Tansy grip")).to_be_visible()


def test_families_of_the_map_are_switched_off_and_on(looked_at: Opener):
    page = looked_at(f"{RIG}/wiring")
    lines = page.get_by_role("list", name="Cables, mounts and radio links").get_by_role("button")
    expect(lines).to_have_count(4)
    page.get_by_role("button", name="radio", exact=True).click()
    expect(lines).to_have_count(3)
    page.get_by_role("button", name="radio", exact=True).click()
    expect(lines).to_have_count(4)


OUT_OF_REACH = """all => all.filter(line => {
  const path = line.querySelector('path'), to = path.getScreenCTM()
  return !Array.from({length: 19}, (_, n) => path.getPointAtLength(path.getTotalLength() * (n + 1) / 20))
    .map(at => at.matrixTransform(to))
    .some(at => line.contains(document.elementFromPoint(at.x, at.y)))
}).map(line => line.getAttribute('aria-label'))"""


def test_a_large_rig_is_drawn_whole_and_legible_and_every_line_of_it_can_be_tapped(looked_at: Opener):
    page = looked_at("/rigs/night-ferry-a/wiring")
    whole = page.get_by_role("group", name="Rig map")
    expect(whole.get_by_text("Marlstone 6", exact=True)).to_be_visible()
    letters = """all => all.map(e => parseFloat(e.getAttribute('font-size')) * e.getScreenCTM().a)"""
    assert min(whole.locator("text").evaluate_all(letters)) >= 13, "letters of the map are too small"
    lines = page.get_by_role("list", name="Cables, mounts and radio links").get_by_role("button")
    assert lines.count() >= 15
    assert lines.evaluate_all(OUT_OF_REACH) == []
    assert all(min(line.bounding_box()["width"], line.bounding_box()["height"]) > 8 for line in lines.all())
    page.get_by_role("button", name="Show the schedule").click()
    expect(page.get_by_role("heading", name="Cable schedule")).to_be_visible()


def test_an_outlet_is_drawn_in_the_lane_that_it_sits_in(looked_at: Opener):
    """AUX 1 sits on the cage of a gimbal whose body is its pan base: its cable crosses no axis, nor does its line."""
    page = looked_at("/rigs/night-ferry-a/wiring")
    whole = page.get_by_role("group", name="Rig map")
    top = lambda text: whole.get_by_text(text, exact=True).first.bounding_box()["y"]  # noqa: E731
    assert top("AUX 1") < top("Roll arm")
    whole.get_by_role("button", name="Osier ring, as it lies there").press("Enter")
    expect(page.get_by_role("region", name="Osier ring")).to_be_visible()


def test_a_school_is_advised_with_numbers_and_fixed_for_the_job(opened: Opener):
    page = opened("/rigs/night-ferry-a/schools")
    expect(page.get_by_text("time inside it while walking")).to_be_visible()
    page.get_by_role("button", name="Fix for this job: through the body").click()
    expect(page.get_by_role("button", name="Fixed for this job: through the body")).to_be_disabled()
    expect(page.get_by_role("navigation", name="Promises").get_by_role("button").first).to_contain_text("impossible")
    page.get_by_role("button", name="Leave it to the plan").first.click()
    expect(page.get_by_role("navigation", name="Promises").get_by_role("button").first).to_contain_text("planned")


def test_the_shot_changes_what_is_reckoned(opened: Opener):
    page = opened("/rigs/night-ferry-a/schools")
    expect(page.get_by_text("1.07 s", exact=True)).to_be_visible()
    page.get_by_role("spinbutton", name=re.compile("^in")).fill("1")
    expect(page.get_by_text("0.27 s", exact=True)).to_be_visible()


def test_devices_are_taken_told_of_and_taken_out(opened: Opener):
    page = opened()
    settled(page, THREE)
    page.get_by_role("button", name=re.compile("^Tansy grip")).click()
    panel = page.get_by_role("region", name="Tansy grip")
    panel.get_by_label("Name").fill("Left grip")
    panel.get_by_label("Name").press("Tab")
    expect(page.get_by_role("navigation", name="Promises")).to_contain_text("record, button, Left grip")
    page.get_by_role("button", name=re.compile("^Director's phone")).click()
    page.get_by_role("button", name="Take it out of the rig: Director's phone").click()
    settled(page, ["planned", "planned"])
    page.get_by_role("button", name="Undo").click()
    settled(page, THREE)
    page.get_by_role("button", name="Take from the shelf").click()
    page.get_by_label("Search the shelf").fill("network grip")
    page.get_by_role("button", name="Take Network grip from The van of Night ferry").click()
    expect(page.get_by_role("button", name=re.compile("^Network grip"))).to_be_visible()
    page.get_by_role("button", name="Fill from The van of Night ferry").click()
    expect(page.get_by_role("button", name="Put one in: motor bus to motor bus, 0.4 m")).to_be_visible()
    page.get_by_label("Search the cables").fill("rj45")
    found = page.get_by_role("list", name="Cables found").get_by_role("button").first
    name = (found.get_attribute("aria-label") or "").removeprefix("Put in ")
    found.click()
    expect(page.get_by_role("button", name=f"Take one out: {name}")).to_be_visible()


def test_what_is_found_on_a_device_changes_the_plan_and_stays(opened: Opener):
    page = opened()
    settled(page, THREE)
    page.get_by_role("button", name=re.compile("^Brindle 2")).click()
    panel = page.get_by_role("region", name="Brindle 2")
    panel.get_by_label("Firmware").fill("new")
    panel.get_by_label("Firmware").press("Enter")
    expect(panel.get_by_label("Firmware")).to_have_value("2.1")
    panel.get_by_label("Firmware").fill("1.0")
    panel.get_by_label("Firmware").press("Enter")
    panel.get_by_role("button", name="Mode as found: not looked yet").click()
    page.get_by_role("option", name="Stills").click()
    expect(page.get_by_role("button", name=re.compile("^Brindle 2"))).to_contain_text("firmware 1.0")
    expect(page.get_by_role("button", name=re.compile("^Brindle 2"))).not_to_contain_text("mode")
    with page.expect_response(lambda answer: '"charge_percent":40' in (answer.request.post_data or "") and answer.ok):
        panel.get_by_role("spinbutton", name="Charge %").fill("40")
        expect(page.get_by_role("button", name="Undo")).to_be_enabled()
    page.reload()
    page.get_by_role("button", name=re.compile("^Brindle 2")).click()
    expect(page.get_by_label("Firmware")).to_have_value("1.0")
    expect(page.get_by_role("spinbutton", name="Charge %")).to_have_value("40")


def test_a_way_is_lit_on_the_map_and_put_out_again(looked_at: Opener):
    page = looked_at(f"{RIG}/case")
    told(page, "picture on").get_by_role("button", name="Show its way on the map").click()
    dimmed = page.locator("svg [opacity='0.3']")
    expect(dimmed).not_to_have_count(0)
    page.get_by_role("button", name="Show every way").click()
    expect(dimmed).to_have_count(0)
    page.get_by_role("banner").get_by_role("status").filter(has_text="hold").click()
    expect(page.get_by_role("region", name=re.compile("Director: ISO"))).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("region", name=re.compile("Director: ISO"))).to_have_count(0)
