"""The story of the B camera, driven in a browser."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.e2e.conftest import RIG, Opener

pytestmark = pytest.mark.browser


def strip(page: Page):
    return page.get_by_role("navigation", name="Promises").get_by_role("button")


def states(page: Page) -> list[str]:
    return [re.findall(r"[a-z]+", text)[0] for text in strip(page).all_text_contents()]


def settled(page: Page, wanted: list[str]) -> None:
    """Wait until the column shows these states."""
    expect(strip(page)).to_have_count(len(wanted))
    for number, word in enumerate(wanted):
        expect(strip(page).nth(number)).to_contain_text(word)


def told(page: Page, words: str):
    """The panel of the promise that `words` name, opened from its line in the column, which says it shorter."""
    strip(page).filter(has_text=re.sub(r" (from|on)$", "", words)).click()
    return page.get_by_role("region", name=re.compile(words))


def drop(page: Page, words: str) -> None:
    """Drop a promise from its panel."""
    told(page, words).get_by_role("button", name=re.compile("^Drop")).click()


def carried_out(page: Page, verdict: str) -> None:
    page.get_by_role("button", name="16×").click()
    page.get_by_role("button", name="Do all").click()
    expect(page.get_by_role("status").filter(has_text="promises proven")).to_have_text(verdict)


def test_from_the_first_page_to_a_proven_rig(opened: Opener):
    page = opened("/")
    page.get_by_role("link", name=re.compile("^Night ferry, B camera")).click()
    settled(page, ["planned", "planned", "planned", "impossible"])
    card = told(page, "Director: ISO")
    expect(card).to_contain_text("ISO from Director's phone needs Stills mode, record from Tansy grip needs Video mode")

    page.get_by_role("link", name=re.compile("^Wiring")).click()
    schedule = page.get_by_role("button", name=re.compile("^B2 USB-C to USB-C, data, 0.3 m"))
    expect(schedule).to_contain_text(
        "Tansy grip, port marked “small camera” (right side of the roll arm, upper of two)"
    )
    expect(schedule).to_contain_text("Look-alike. Tansy grip: not “small bolt”")
    expect(page.get_by_role("group", name="Rig map").get_by_text("Brindle 2")).to_be_visible()
    expect(page.get_by_role("group", name="Rig map").get_by_text("tilt axis")).to_be_visible()

    page.get_by_role("link", name=re.compile("^Bench")).click()
    carried_out(page, "3 of 4 promises proven.")
    assert states(page) == ["proven", "proven", "proven", "impossible"]
    expect(page.get_by_text("picture, 77 ms late", exact=True)).to_be_visible()


def test_a_data_cable_taken_out_of_the_bag_breaks_promises_at_once_and_undo_brings_them_back(opened: Opener):
    page = opened()
    settled(page, ["planned", "planned", "planned", "impossible"])
    page.get_by_role("button", name="Take one out: USB-C to USB-C, data, 0.3 m").click()
    settled(page, ["planned", "planned", "planned", "impossible"])
    page.get_by_role("button", name="Take one out: USB-C to USB-C, data, 0.6 m").click()
    settled(page, ["impossible", "impossible", "planned", "impossible"])
    expect(told(page, "Operator: record")).to_contain_text("charge only")
    page.get_by_role("button", name="Undo").click()
    settled(page, ["planned", "planned", "planned", "impossible"])
    page.get_by_role("button", name="Redo").click()
    settled(page, ["impossible", "impossible", "planned", "impossible"])


def test_dropping_record_lets_iso_through_by_way_of_the_transmitter(opened: Opener):
    page = opened()
    drop(page, "record from")
    settled(page, ["planned", "planned", "planned"])
    page.get_by_role("link", name=re.compile("^Wiring")).click()
    expect(page.get_by_text("port marked “antenna”").first).to_be_visible()
    page.get_by_role("link", name=re.compile("^Bench")).click()
    carried_out(page, "3 of 3 promises proven.")


def promise(page: Page, words: str) -> None:
    """Type who needs what, and take the first that it could mean."""
    page.get_by_role("combobox", name="Promise").fill(words)
    page.get_by_role("option").first.click()


def test_a_promise_typed_is_planned_at_once_and_edited_in_its_panel(opened: Opener):
    page = opened()
    settled(page, ["planned", "planned", "planned", "impossible"])
    promise(page, "Everybody: 2 h")
    settled(page, ["planned", "planned", "planned", "impossible", "planned"])
    panel = told(page, "Everybody")
    panel.get_by_label("Hours").fill("6")
    settled(page, ["planned", "planned", "planned", "impossible", "impossible"])
    expect(page.get_by_role("region", name=re.compile("Everybody"))).to_contain_text("does not last that long")
    told(page, "Director: picture").get_by_label("At most so late").fill("50")
    settled(page, ["planned", "planned", "impossible", "impossible", "impossible"])
    expect(page.get_by_role("region", name=re.compile("Director: picture"))).to_contain_text(
        "77 ms late; 50 ms was promised"
    )


def test_typed_words_are_understood_or_say_what_there_is(opened: Opener):
    page = opened()
    settled(page, ["planned", "planned", "planned", "impossible"])
    field = page.get_by_role("combobox", name="Promise")
    field.fill("focus puller: iris, record")
    expect(page.get_by_role("option").first).to_contain_text("iris from the touch screen of Director's phone; record")
    page.keyboard.press("Enter")
    expect(strip(page)).to_have_count(6)
    expect(strip(page).nth(4)).to_contain_text("Focus puller: iris")
    field.fill("zoom")
    expect(page.get_by_text("Nothing in this rig is called “zoom”")).to_be_visible()


def test_edits_are_still_there_after_the_page_is_loaded_again(opened: Opener):
    page = opened()
    drop(page, "ISO from")
    settled(page, ["planned", "planned", "planned"])
    expect(page.get_by_role("button", name="Undo")).to_be_enabled()
    page.reload()
    settled(page, ["planned", "planned", "planned"])


def test_a_function_is_changed_by_its_menu(opened: Opener):
    page = opened()
    told(page, "focus from").get_by_role("button", name="Function: focus").click()
    page.get_by_role("option", name="iris").click()
    expect(page.get_by_role("region", name=re.compile("Operator: iris"))).to_contain_text("does not give iris")


def test_a_tapped_promise_opens_its_conditions_and_leads_to_a_step(opened: Opener):
    page = opened(f"{RIG}/wiring")
    drawer = told(page, "record from")
    expect(drawer).to_contain_text("Its way")
    expect(drawer).to_contain_text("B2 is wired for body tether.")
    drawer.get_by_role("link", name="Go to its step").nth(1).click()
    expect(page.get_by_role("article", name="Step")).to_be_visible()


def test_the_run_sheet_is_ticked_step_by_step_and_stays_ticked(opened: Opener):
    page = opened(f"{RIG}/run-sheet")
    card = page.get_by_role("article", name="Step")
    expect(card.get_by_role("heading")).to_have_text("Lay out the cables, and flag them")
    ticked = card.get_by_role("checkbox", name="Lay out B1: micro HDMI to mini HDMI, 0.3 m")
    ticked.click()  # the tick is seen a moment later
    expect(ticked).to_be_checked()
    expect(page.get_by_role("heading", name="1 of 39 done")).to_be_visible()
    card.get_by_role("button", name="All done").click()
    expect(card.get_by_role("heading")).to_have_text("Batteries in, and full")
    expect(page.get_by_role("heading", name="2 of 39 done")).to_be_visible()
    page.reload()
    expect(page.get_by_role("heading", name="2 of 39 done")).to_be_visible()
    page.get_by_role("button", name="New day").click()
    page.get_by_role("button", name="Really take all ticks off").click()
    expect(page.get_by_role("heading", name="0 of 39 done")).to_be_visible()


def test_a_step_is_skipped_with_a_reason_or_does_not_look_as_it_should(opened: Opener):
    page = opened(f"{RIG}/run-sheet?step=wake:gimbal")
    card = page.get_by_role("article", name="Step")
    card.get_by_role("button", name="Does not look like that").click()
    card.get_by_label("What do you see?").fill("Its lamp blinks red")
    card.get_by_role("button", name="Say so").click()
    expect(card).to_contain_text("Does not look like that: Its lamp blinks red")
    expect(page.get_by_role("heading", name="0 of 39 done, 1 amiss")).to_be_visible()
    page.get_by_role("button", name="Read the firmware of Brindle 2").click()
    card.get_by_role("button", name="Skip it").click()
    card.get_by_label("Why is it skipped?").fill("Read at the rental house")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="0 of 39 done, 1 skipped, 1 amiss")).to_be_visible()
    page.reload()
    page.get_by_role("button", name="skipped Read the firmware of Brindle 2").click()
    expect(card).to_contain_text("Skipped: Read at the rental house")
    card.get_by_role("button", name="Done").click()
    expect(page.get_by_role("heading", name="1 of 39 done, 1 amiss")).to_be_visible()


def test_a_step_left_out_on_the_bench_fails_its_promises_and_names_the_condition(opened: Opener):
    page = opened(f"{RIG}/bench")
    page.get_by_role("button", name="Leave out: Brindle 2 asks: answer Allow").click()
    carried_out(page, "1 of 4 promises proven, 1 conditions broken.")
    assert states(page) == ["failing", "failing", "proven", "impossible"]
    panel = told(page, "record from")
    expect(panel).to_contain_text("1 broken")
    expect(panel.get_by_role("listitem").filter(has_text="Broken.")).to_contain_text("Allow it to control")


def test_the_bench_goes_step_by_step_and_shows_the_lamp_roll(opened: Opener):
    page = opened(f"{RIG}/bench")
    for _ in range(3):
        page.get_by_role("button", name="Do one step").click()
    expect(page.get_by_text("B2 lies ready.")).to_be_visible()
    expect(page.get_by_role("heading", name=re.compile("Bench at 1:10"))).to_be_visible()
    page.get_by_role("button", name="Start over").click()
    expect(page.get_by_text("The rig lies in its cases")).to_be_visible()


def test_numbers_can_be_asked_why(opened: Opener):
    page = opened(f"{RIG}/wiring")
    page.get_by_role("button", name=re.compile("First battery")).click()
    expect(page.get_by_role("dialog")).to_contain_text("31.5 Wh usable ÷ 10.4 W and 0.9 W lost on the way = 2.8 h")
    page.keyboard.press("Escape")
    page.get_by_role("button", name=re.compile("points of work")).click()
    expect(page.get_by_role("dialog")).to_contain_text("cables to plug")


def test_a_save_that_is_refused_is_told_and_nothing_is_lost(opened: Opener):
    page = opened()
    settled(page, ["planned", "planned", "planned", "impossible"])
    answer = {"code": "full", "message": "The disk is full.", "path": "", "hint": "Make room.", "problems": []}

    def refuse(route) -> None:
        if route.request.method == "PUT":
            route.fulfill(status=422, json=answer)
        else:
            route.continue_()

    page.route("**/api/rigs/night-ferry-b", refuse)
    drop(page, "ISO from")
    expect(page.get_by_role("alert")).to_contain_text("The disk is full.")
    settled(page, ["planned", "planned", "planned"])
    page.unroute("**/api/rigs/night-ferry-b")
    drop(page, "focus from")
    expect(page.get_by_role("alert")).to_have_count(0)
    expect(page.get_by_role("button", name="Undo")).to_be_enabled()
    page.reload()
    settled(page, ["planned", "planned"])


def test_a_person_is_renamed_and_a_weight_decides_in_the_panel(opened: Opener):
    page = opened()
    # What stands in the way comes later than the panel, and moves what is in it.
    settled(page, ["planned", "planned", "planned", "impossible"])
    panel = told(page, "Director: ISO")
    panel.get_by_label("Promised to").fill("Producer")
    panel.get_by_role("button", name="Call Director so in all 2").click()
    expect(strip(page).nth(2)).to_contain_text("Producer: picture")
    panel = page.get_by_role("region", name=re.compile("Producer: ISO"))
    panel.get_by_role("button", name=re.compile("How much it matters")).click()
    page.get_by_role("option", name="first").click()
    settled(page, ["impossible", "planned", "planned", "planned"])


def test_a_change_to_a_built_rig_asks_only_for_what_it_spoils(opened: Opener):
    page = opened(f"{RIG}/run-sheet")
    # The crew's work comes by a line of its own, above the button, and moves it down.
    expect(page.get_by_role("region", name="Crew").get_by_role("listitem").first).to_be_visible()
    page.get_by_role("button", name="It is built like this").click()
    expect(page.get_by_text("Nothing to do: it stands as planned")).to_be_visible()
    page.goto(page.url.replace("run-sheet", "wiring"))
    page.get_by_role("button", name=re.compile("^B2 USB-C to USB-C")).click()
    asked = page.get_by_role("region", name="Before you pull it")
    asked.get_by_role("button", name="If I pull B2").click()
    expect(asked.get_by_role("status")).to_contain_text("Goes at once")
    expect(asked.get_by_role("status")).to_contain_text("Plug B2: Brindle 2 to Tansy grip")
    page.get_by_role("button", name="Close").click()
    drop(page, "record from")
    page.get_by_role("link", name=re.compile("^Run sheet")).click()
    expect(
        page.get_by_text(re.compile("From the rig as it stands: about .* A full build takes 1. min"))
    ).to_be_visible()
    page.get_by_role("link", name=re.compile("^Bench")).click()
    expect(page.get_by_text("The rig stands as it was built")).to_be_visible()
    page.get_by_role("button", name="16×").click()
    page.get_by_role("button", name="Do all").click()
    expect(page.get_by_role("status").filter(has_text="promises proven")).to_have_text("3 of 3 promises proven.")
    page.get_by_role("link", name=re.compile("^Run sheet")).click()
    page.get_by_role("button", name="The whole build").click()
    expect(page.get_by_role("button", name="Lay out the cables, and flag them")).to_be_visible()
    page.get_by_role("button", name="Only what changed").click()
    page.get_by_role("button", name="Back in its cases").click()
    expect(page.get_by_role("button", name="It is built like this")).to_be_visible()


def test_what_stays_keeps_its_flag_when_a_promise_goes(opened: Opener):
    page = opened(f"{RIG}/wiring")
    flags = page.get_by_role("button", name=re.compile(r"^B\d USB-C to USB-C"))
    expect(flags.first).to_be_visible()
    before = flags.first.inner_text()
    drop(page, "picture on")
    expect(page.get_by_role("button", name=re.compile("HDMI"))).to_have_count(0)
    assert flags.first.inner_text() == before
