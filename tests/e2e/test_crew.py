"""The crew: dealt out on several people, proven with readings, written into the book, joined from a phone."""

import re
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, Route, expect

from tests.e2e.conftest import RIG, Opener, answering, pages
from tests.e2e.test_story import told
from tests.store.test_photos import from_a_phone

pytestmark = pytest.mark.browser
PHONE = "127.0.0.2"
"""Another name of this machine: whoever asks by it is not at the laptop."""


def named(page: Page, name: str) -> None:
    page.get_by_label("You are").fill(name)
    page.get_by_label("You are").press("Enter")


def test_two_people_are_told_what_to_take_and_again_after_each_tick(opened: Opener):
    page = opened(f"{RIG}/run-sheet")
    named(page, "Ada")
    crew = page.get_by_role("region", name="Crew")
    expect(crew).to_contain_text("14 min left")
    crew.get_by_role("button", name="2 people").click()
    expect(crew).to_contain_text("8 min left")
    expect(crew.get_by_role("button", name="Ada")).to_contain_text("now")
    expect(crew.get_by_role("button", name="Second")).to_contain_text("now")
    assert page.get_by_label("holds up the end").count() > 2
    before = crew.get_by_role("button", name="Ada").inner_text()
    crew.get_by_role("button", name="Ada").click()
    page.get_by_role("article", name="Step").get_by_role("button", name="one").filter(has_not_text="tick off").click()
    expect(crew.get_by_role("button", name="Ada")).not_to_have_text(before)


def test_a_stage_is_given_away_and_only_mine_is_shown(opened: Opener):
    page = opened(f"{RIG}/run-sheet")
    named(page, "Ada")
    page.get_by_role("button", name="What is given").click()
    page.get_by_role("option", name="all of Gather").click()
    page.get_by_role("button", name="To whom").click()
    page.get_by_role("option", name="Ada").click()
    expect(page.get_by_text("Ada's. Give")).to_be_visible()
    page.get_by_role("button", name="Which steps").click()
    page.get_by_role("option", name="Mine").click()
    expect(page.get_by_role("heading", name="Gather", exact=True)).to_be_visible()
    expect(page.get_by_role("heading", name="Wake", exact=True)).to_have_count(0)


def test_a_picture_is_proven_with_its_delay_and_a_restart_undoes_it(opened: Opener):
    page = opened(f"{RIG}/prove?promise=picture")
    test = page.get_by_role("article", name="Test")
    works = test.get_by_role("button", name="It works")
    test.get_by_role("button", name="✔ Yes").click()
    frames = test.get_by_label("Frames between clock")
    frames.fill("15 15")
    expect(test.get_by_text("250 ± 13.6 ms")).to_be_visible()
    expect(works).to_be_disabled()
    frames.fill("3 3")
    expect(test.get_by_text("✔ within its limit")).to_be_visible()
    works.click()
    record = page.get_by_role("main").get_by_role("listitem").filter(has_text="Picture on the touch screen")
    expect(record).to_contain_text("delay 50 ± 13.6 ms")
    promises = page.get_by_role("navigation", name="Promises")
    expect(promises.get_by_role("button", name="proven. Director: picture")).to_have_count(1)
    page.get_by_role("button", name="Device: Brindle 2").click()
    page.get_by_role("option", name="Quillon link").click()
    page.get_by_role("button", name="Restarted").click()
    expect(promises.get_by_role("button", name="prove again. Director: picture")).to_have_count(1)
    page.goto(page.url.split("?")[0] + "?promise=picture")
    expect(test).to_contain_text("Quillon link: it was restarted.")


def test_what_does_not_work_is_failing_and_stands_in_the_book_with_its_photo(opened: Opener):
    page = opened(f"{RIG}/prove?promise=focus")
    test = page.get_by_role("article", name="Test")
    test.get_by_role("button", name="✕ No").last.click()
    expect(test.get_by_role("button", name="✔ It works")).to_be_disabled()
    test.get_by_label("What do you see?").fill("The ring runs backwards")
    photo = {"name": "ring.jpg", "mimeType": "image/jpeg", "buffer": from_a_phone()}
    test.get_by_label("Photo", exact=True).set_input_files(photo)  # type: ignore[arg-type]
    expect(test.get_by_role("button", name="Photo 1")).to_be_visible()
    test.get_by_role("button", name="It does not work").click()
    failing = page.get_by_role("navigation", name="Promises").get_by_role("button", name="failing. Operator: focus")
    expect(failing).to_have_count(1)
    book = opened("/log")
    book.get_by_label("Words in the log book").fill("backw")
    line = book.get_by_role("listitem").filter(has_text="The ring runs backwards")
    expect(line).to_contain_text("does not look like that")
    expect(book.get_by_role("listitem")).to_have_count(1)
    line.get_by_role("button", name="Photo 1").click()
    expect(book.get_by_alt_text("Photo from the log")).to_be_visible()


def test_a_note_is_written_found_by_rig_and_person_and_taken_along(opened: Opener):
    page = opened(f"{RIG}/run-sheet")
    named(page, "Ada")
    page.goto(page.url.split("/rigs")[0] + "/log")
    page.get_by_label("Note", exact=True).fill("The van leaves at six")
    page.get_by_role("button", name="Put it in the book").click()
    expect(page.get_by_role("listitem").filter(has_text="The van leaves at six")).to_contain_text("Ada")
    page.get_by_role("button", name="Person: Everybody").click()
    page.get_by_role("option", name="Ada").click()
    expect(page.get_by_role("listitem")).to_have_count(1)
    with page.expect_download() as download:
        page.get_by_role("link", name="Table (CSV)").click()
    assert "The van leaves at six" in Path(download.value.path()).read_text(encoding="utf-8")


def test_a_whole_day_is_printed_from_the_morning_on(opened: Opener):
    page = opened("/log")
    page.evaluate("""async () => {
        const note = (entry) => ({uid: `printed-${entry}`, what: "note", subject: "", reason: `note ${entry}`});
        const body = JSON.stringify({revision: 1, person: "Ada", entries: [...Array(120).keys()].map(note)});
        const headers = {"Content-Type": "application/json"};
        await fetch("/api/rigs/night-ferry-b/log", {method: "POST", headers, body});
        window.print = () => { document.title = "printed" };
    }""")
    page.get_by_role("button", name="Print").click()
    expect(page).to_have_title("printed")
    page.emulate_media(media="print")
    report = page.get_by_role("article")
    expect(report.get_by_role("heading", level=1)).to_contain_text("Day report")
    lines = report.get_by_role("listitem")
    assert lines.count() > 120
    expect(lines.first).to_contain_text("begun")
    expect(lines.last).to_contain_text("note 119")
    expect(page.get_by_role("heading", name="Log book")).to_be_hidden()


def test_the_clock_to_film_runs(looked_at: Opener):
    page = looked_at("/clock")
    clock = page.get_by_role("timer")
    before = clock.inner_text()
    expect(clock).not_to_have_text(before)
    expect(page.get_by_text("times a second")).to_be_visible()


@pytest.fixture
def shared(browser: Browser, tmp_path: Path) -> Iterator[tuple[Opener, Opener]]:
    """The laptop, and a phone on the same network."""
    with (
        answering(tmp_path, elsewhere=PHONE) as here,
        pages(browser, here) as laptop,
        pages(browser, here.replace("127.0.0.1", PHONE)) as phone,
    ):
        yield laptop, phone


def test_a_phone_joins_by_the_code_ticks_under_its_name_and_is_sent_away(shared: tuple[Opener, Opener]):
    laptop, phone = shared
    cart = laptop("/share")
    expect(cart.get_by_label("The code to join")).to_be_visible()
    code = cart.locator("b.text-4xl").inner_text()
    bo = phone("/join")
    bo.get_by_label("Code, as the laptop shows it").fill(code)
    bo.get_by_label("Your name").fill("Bo")
    bo.get_by_role("button", name="Join").click()
    expect(bo.get_by_role("heading", name="Will everything")).to_be_visible()
    expect(cart.get_by_role("listitem").filter(has_text="Bo")).to_contain_text("Crew")
    bo.goto(bo.url.rstrip("/") + f"{RIG}/run-sheet")
    bo.get_by_role("button", name="All done").click()
    sheet = laptop(f"{RIG}/run-sheet")
    expect(sheet.get_by_role("heading", name="2 of 39 done")).to_be_visible()
    stands = sheet.evaluate("fetch('/api/rigs/night-ferry-b/steps').then((answer) => answer.json())")
    assert {mark["person"] for mark in stands["steps"].values()} == {"Bo"}
    cart.get_by_role("button", name="End the sign-in of Bo").click()
    expect(bo.get_by_role("heading", name="Join the cart")).to_be_visible()


def joins(page: Page, code: str) -> None:
    page.get_by_label("Code, as the laptop shows it").fill(code)
    page.get_by_label("Your name").fill("Bo")
    page.get_by_role("button", name="Join").click()
    expect(page.get_by_role("heading", name="Will everything")).to_be_visible()


def test_what_was_ticked_waits_for_who_was_sent_away_meanwhile_to_join_again(shared: tuple[Opener, Opener]):
    laptop, phone = shared
    cart = laptop("/share")
    bo = phone("/join")
    home = bo.url.removesuffix("/join")
    joins(bo, cart.locator("b.text-4xl").inner_text())
    bo.goto(f"{home}{RIG}/run-sheet")
    expect(bo.get_by_role("button", name="All done")).to_be_enabled()
    held: list[Route] = []
    bo.route("**/log", lambda route: route.continue_() if held else held.append(route))
    bo.get_by_role("button", name="All done").click()
    cart.get_by_role("button", name="End the sign-in of Bo").click()
    expect(cart.get_by_role("button", name="End the sign-in of Bo")).to_have_count(0)
    assert len(held) == 1, "what was ticked is on its way"
    held[0].continue_()
    expect(bo.get_by_role("heading", name="Join the cart")).to_be_visible()
    joins(bo, cart.locator("b.text-4xl").inner_text())
    bo.goto(f"{home}{RIG}/run-sheet")
    expect(laptop(f"{RIG}/run-sheet").get_by_role("heading", name="2 of 39 done")).to_be_visible()


def test_a_recipe_is_written_offered_tried_and_counted(opened: Opener):
    page = opened("/recipes")
    page.get_by_role("button", name="Write a recipe").click()
    page.get_by_label("Name").fill("ISO by the card that comes late")
    expect(page.get_by_text("Say what it gives.")).to_be_visible()
    devices = page.get_by_role("button", name=re.compile(r"^Take (?!step|today)"))
    for _ in range(devices.count()):
        devices.first.click()
    page.get_by_role("button", name="Add a device").click()
    page.get_by_role("option", name="Phone-link transmitter", exact=True).click()
    page.get_by_role("button", name="Add what it gives").click()
    page.get_by_role("option", name="ISO", exact=True).click()
    page.get_by_label("Step 1", exact=True).fill("Take the card out of the body.")
    page.get_by_label("Step 1, done when").fill("Its screen counts down.")
    page.get_by_role("button", name="Keep the recipe").click()
    expect(page.get_by_text("Never tried yet")).to_be_visible()
    rig = opened(f"{RIG}/case")
    rig.get_by_role("navigation", name="Promises").get_by_role("button", name="impossible. Director: ISO").click()
    rig.get_by_role("link", name="ISO by the card that comes late").click()
    recipe = rig.get_by_role("article", name="Recipe")
    expect(recipe).to_contain_text("Its screen counts down.")
    recipe.get_by_role("button", name="Done").click()
    recipe.get_by_label("Under which conditions").fill("In the rain")
    recipe.get_by_role("button", name="It worked").click()
    expect(rig.get_by_text("Worked 1 of 1: by that, 21 % to 100 %")).to_be_visible()
    expect(page.get_by_text("Worked 1 of 1")).to_be_visible()
    rig.get_by_text("Every try").click()
    expect(rig.get_by_text("Night ferry, B camera · In the rain")).to_be_visible()


PINNED = """async () => {
    const { document, revision } = await (await fetch("/api/rigs/night-ferry-b")).json();
    const body = JSON.stringify({ made_on: revision, document: { ...document, pins: PINS } });
    const headers = { "Content-Type": "application/json" };
    await fetch("/api/rigs/night-ferry-b", { method: "PUT", headers, body });
}"""
"""The demo with other pins, saved by somebody else."""


def test_a_recipe_that_is_taken_is_maybe_stands_in_the_sheet_and_is_counted_there(opened: Opener):
    page = opened(f"{RIG}/case")
    profiles = ["phone-link-transmitter", "mirrorless-usb-c-micro-hdmi"]
    document = {
        "format": "isotact/recipe",
        "version": 1,
        "id": "late-card",
        "name": "ISO by the card that comes late",
        "devices": [{"profile": profile} for profile in profiles],
        "gives": [{"kind": "control", "function": "iso"}],
        "steps": [{"says": "Take the card out of the body."}],
    }
    sent = """document => fetch('/api/recipes', {
        method: 'POST', headers: {'Content-Type': 'application/json'}, body: JSON.stringify({document}),
    }).then(answer => answer.status)"""
    assert page.evaluate(sent, document) == 201
    page.reload()
    promises = page.get_by_role("navigation", name="Promises")
    panel = told(page, "ISO from")
    panel.get_by_role("button", name=re.compile("^What would it take. ISO")).click()
    expect(panel.get_by_text("It would hold only without record")).to_be_visible()
    panel.get_by_role("button", name="Take it as a maybe").click()  # offered once
    expect(panel.get_by_text("Maybe, never tried. Its steps stand in the run sheet")).to_be_visible()
    maybe = promises.get_by_role("button", name="maybe, by a recipe. Director: ISO")
    expect(maybe).to_be_visible()
    expect(page.get_by_role("status", name="Saved")).to_be_visible()
    taken = page.evaluate(
        "fetch('/api/rigs/night-ferry-b').then(answer => answer.json()).then(({document}) => document.recipes.length)"
    )
    assert taken == 1
    leave = "[{kind: 'off', device: 'transmitter'}]"
    page.evaluate(PINNED.replace("PINS", leave))
    expect(
        panel.get_by_text("Its steps are not in the run sheet: something that it needs is not in use.")
    ).to_be_visible()
    expect(panel.get_by_text("Quillon link is to stay in its case, and the recipe needs it.")).to_be_visible()
    page.evaluate(PINNED.replace("PINS", "[]"))
    expect(panel.get_by_text("Its steps stand in the run sheet")).to_be_visible()
    page.goto(page.url.split("/case")[0] + "/run-sheet?step=recipe:iso.0")
    card = page.get_by_role("article", name="Step")
    expect(card.get_by_role("heading", name="Maybe, 1 of 1: Take the card out of the body")).to_be_visible()
    card.get_by_role("button", name="Done").click()
    expect(card.get_by_role("heading", name="Maybe: try ISO from")).to_be_visible()
    card.get_by_role("button", name="It worked").click()
    expect(card.get_by_role("heading", name="Prove: focus")).to_be_visible()
    expect(maybe).to_be_visible()
    # What was ticked is sent while its rig is open.
    counted = "async () => (await (await fetch('/api/recipes')).json())[0].rate.tries === 1"
    page.wait_for_function(counted)
    page.goto(page.url.split("/rigs")[0] + "/recipes")
    expect(page.get_by_text("Worked 1 of 1: by that, 21 % to 100 %")).to_be_visible()


def test_what_changed_since_all_was_proven(opened: Opener):
    page = opened(f"{RIG}/run-sheet")
    named(page, "Ada")
    page.goto(page.url.replace("run-sheet", "prove"))
    test = page.get_by_role("article", name="Test")
    for count, wanted in enumerate(("record from", "focus from", "picture on"), start=1):
        expect(test.get_by_role("heading", name=wanted)).to_be_visible()
        test.get_by_role("button", name="It works").click()
        expect(page.get_by_role("heading", name=f"{count} of 3 proven")).to_be_visible()
    promises = page.get_by_role("navigation", name="Promises")
    promises.get_by_role("button", name="proven. Operator: record").click()
    page.get_by_role("button", name="Drop this promise").click()
    expect(page.get_by_role("status", name="Saved")).to_be_visible()
    page.get_by_role("button", name="Commands").click()
    page.get_by_role("option", name="History").click()
    expect(page.get_by_text("All was proven last on revision 1")).to_contain_text("Ada")
    page.get_by_role("button", name="What changed since it worked").click()
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_role("heading", name="Promises")).to_be_visible()
    expect(dialog.get_by_role("heading", name="Joins")).to_be_visible()
    dialog.get_by_text("steps from revision 1 to now").click()
    expect(dialog.get_by_role("listitem").filter(has_text="Prove: ").first).to_be_visible()


def test_a_phone_that_may_only_tick_says_which_pack_went_in_and_the_laptop_sees_it(shared: tuple[Opener, Opener]):
    laptop, phone = shared
    bo = phone("/join")
    home = bo.url.removesuffix("/join")
    joins(bo, laptop("/share").locator("b.text-4xl").inner_text())
    cart = laptop("/job/night-ferry/packs/0")
    bo.goto(f"{home}/job/night-ferry/packs/0")
    bo.get_by_role("button", name=re.compile("Done: A, Plate battery: ")).first.click()
    expect(bo.get_by_role("button", name=re.compile("Take back: A, Plate battery: "))).to_be_visible()
    expect(bo.get_by_role("button", name="It goes on, 15 min more")).to_have_count(0)
    cart.get_by_label("It is").fill("2100")
    expect(cart.get_by_role("button", name=re.compile("Take back: A, Plate battery: "))).to_be_visible()
    # Both go on, and nobody is asked which of two versions is to stand.
    cart.get_by_role("button", name="It goes on, 15 min more").click()
    expect(cart.get_by_text("✔ Saved")).to_be_visible()
    bo.get_by_role("button", name=re.compile("^Battery that was read")).click()
    bo.get_by_role("option", name="A, Osier ring").click()
    bo.get_by_role("button", name="Its red lamp is on").click()
    expect(cart.get_by_text(re.compile("the lamp of Osier ring is on: 20 % of"))).to_be_visible()
    expect(cart.get_by_text("✔ Saved")).to_be_visible()
    log = laptop("/log")
    expect(log.get_by_text(re.compile(r"Red lamp: \d+ min left rolling")).first).to_be_visible()
