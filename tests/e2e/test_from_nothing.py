"""From an empty database to a proven rig: by taps, by keys alone, and on a phone; jobs, days and the bin."""

import re

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.e2e.conftest import RIG, Opener
from tests.e2e.test_manners import barriers
from tests.e2e.test_story import carried_out, promise, settled, strip

pytestmark = pytest.mark.browser

DEVICES = {
    "micro hdmi": "Mirrorless body, one USB-C, micro HDMI",
    "by wire": "Native lens, focus by wire",
    "grip usb": "Single-grip gimbal, two USB-C",
    "link": "Phone-link transmitter",
    "app": "Phone with the link app",
    "bank": "USB power bank",
}
"""What somebody types into the search of the shelf, and what is then taken."""

PROMISES = (
    "Operator: record from gimbal",
    "focus from gimbal",
    "gimbal move",
    "Director sees picture on phone under 100 ms",
    "Everybody: 1 h",
)
MOST_TAPS = 60


class Hands:
    """Counts what a person would do: taps, and words typed."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.taps = 0
        self.words = 0

    def tap(self, target: Locator) -> None:
        target.click()
        self.taps += 1

    def write(self, target: Locator, text: str) -> None:
        """Type into a field, which takes a tap."""
        target.click()
        target.fill(text)
        self.taps += 1
        self.words += len(text.split())


def test_the_whole_story_by_taps(from_nothing: Opener):
    page = from_nothing("/")
    expect(page.get_by_text("No rig yet")).to_be_visible()
    hands = Hands(page)
    hands.tap(page.get_by_role("link", name="New rig"))
    for words, device in DEVICES.items():
        hands.write(page.get_by_label("Search the shelf"), words)
        hands.tap(page.get_by_role("button", name=f"Take {device}").first)
    hands.tap(page.get_by_role("button", name="Begin with 6 devices"))
    for number, words in enumerate(PROMISES):
        hands.write(page.get_by_role("combobox", name="Promise"), words)
        hands.tap(page.get_by_role("option").first)
        expect(strip(page)).to_have_count(number + 1)
    settled(page, ["impossible", "impossible", "planned", "impossible", "planned"])
    for number in (0, 3):  # one data cable keeps both record and focus
        hands.tap(strip(page).nth(number))
        hands.tap(page.get_by_role("button", name=re.compile("^What would it take")))
        hands.tap(page.get_by_role("button", name=re.compile("^Plan with")).first)
        expect(strip(page).nth(number)).to_contain_text("planned")
    settled(page, ["planned"] * 5)
    hands.tap(page.get_by_role("link", name=re.compile("^Run sheet")))
    expect(page.get_by_role("article", name="Step")).to_be_visible()
    hands.tap(page.get_by_role("link", name=re.compile("^Bench")))
    hands.taps += 2
    carried_out(page, "5 of 5 promises proven.")
    settled(page, ["proven"] * 5)
    print(f"{hands.taps} taps, {hands.words} words")
    assert hands.taps < MOST_TAPS


def test_the_same_by_keys_alone(from_nothing: Opener):
    page = from_nothing("/")
    expect(page.get_by_role("link", name="New rig")).to_be_visible()
    keys = page.keyboard

    def go_to(target: Locator, key: str = "Tab") -> None:
        """Tab until the target has the focus, as somebody without a mouse does."""
        for _ in range(80):
            if target.evaluate("one => one === document.activeElement"):
                return
            keys.press(key)
        raise AssertionError(f"no way to {target}")

    go_to(page.get_by_role("link", name="New rig"))
    keys.press("Enter")
    expect(page.get_by_label("Search the shelf")).to_be_visible()
    for words, device in DEVICES.items():
        go_to(page.get_by_label("Search the shelf"), "Shift+Tab")
        keys.press("Control+a")
        keys.type(words)
        go_to(page.get_by_role("button", name=f"Take {device}").first)
        keys.press("Enter")
    go_to(page.get_by_label("Name"))
    keys.press("Enter")
    expect(page.get_by_role("combobox", name="Promise")).to_be_visible()
    for number, words in enumerate(PROMISES):
        keys.press("n") if number == 0 else None
        keys.type(words)
        expect(page.get_by_role("option").first).to_be_visible()
        page.wait_for_load_state("networkidle")
        keys.press("Enter")
        expect(strip(page)).to_have_count(number + 1)
    settled(page, ["impossible", "impossible", "planned", "impossible", "planned"])
    for number in (0, 3):
        go_to(strip(page).nth(number))
        keys.press("Enter")
        go_to(page.get_by_role("button", name=re.compile("^What would it take")))
        keys.press("Enter")
        go_to(page.get_by_role("button", name=re.compile("^Plan with")).first)
        keys.press("Enter")
        expect(strip(page).nth(number)).to_contain_text("planned")
    keys.press("Escape")
    keys.press("7")
    expect(page.get_by_role("heading", name="Bench")).to_be_visible()
    go_to(page.get_by_role("button", name="16×"))
    keys.press("Enter")
    keys.press("a")
    expect(page.get_by_role("status").filter(has_text="promises proven")).to_have_text("5 of 5 promises proven.")


def test_on_a_phone_one_thing_more_is_promised_ticked_and_proven(opened: Opener):
    page = opened(RIG, width=390, height=844)
    settled(page, ["planned", "planned", "planned", "impossible"])
    promise(page, "gimbal mode")
    settled(page, ["planned", "planned", "planned", "impossible", "planned"])
    page.get_by_role("link", name="Run sheet").click()
    count = page.get_by_role("banner").get_by_role("status").filter(has_text="hold")
    expect(count).to_contain_text("4 of 5 hold")
    expect(count).to_contain_text("1 impossible")
    page.get_by_role("article", name="Step").get_by_role("button", name="Done").click()
    expect(page.get_by_role("article", name="Step")).to_contain_text("3–6 of")
    page.get_by_role("link", name="Bench").click()
    carried_out(page, "4 of 5 promises proven.")
    page.get_by_role("link", name="Promises").click()
    settled(page, ["proven", "proven", "proven", "impossible", "proven"])
    strip(page).nth(3).click()
    expect(page.get_by_role("region", name=re.compile("Director: ISO"))).to_contain_text("needs Stills mode")
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    assert barriers(page) == []


def test_fourteen_promises_are_in_sight(opened: Opener):
    page = opened("/rigs/night-ferry-a/wiring")
    settled(page, ["planned"] * 8)
    for words in ("gimbal mode", "recentre", "ND", "gain", "shutter", "white balance"):
        before = strip(page).count()
        promise(page, f"Focus puller: {words}")
        expect(strip(page)).to_have_count(before + 1)
    expect(strip(page)).to_have_count(14)
    for line in strip(page).all():
        expect(line).to_be_in_viewport(ratio=0.99)


def test_what_is_promised_already_is_shown_and_not_promised_twice(opened: Opener):
    page = opened(f"{RIG}/case")
    settled(page, ["planned", "planned", "planned", "impossible"])
    promise(page, "director: iso")
    expect(page.get_by_role("region", name=re.compile("Director: ISO"))).to_be_visible()
    expect(strip(page)).to_have_count(4)
    promise(page, "script: iso")  # the same for somebody else is another promise
    expect(strip(page)).to_have_count(5)


def test_the_focus_stays_where_somebody_goes_on_writing(opened: Opener):
    page = opened(f"{RIG}/case")
    page.get_by_role("button", name=re.compile("^Tansy grip")).click()
    page.get_by_label("Name", exact=True).fill("Left grip")
    page.keyboard.press("Tab")
    expect(page.get_by_role("region", name="Left grip")).to_be_visible()
    expect(page.get_by_label("Tag", exact=True)).to_be_focused()


def test_an_empty_case_leads_on_at_every_stage(from_nothing: Opener):
    page = from_nothing("/new")
    page.get_by_role("button", name="Begin with an empty case").click()
    expect(page.get_by_text("The case is empty")).to_be_visible()
    expect(page.get_by_text("First take devices from the shelf")).to_be_visible()
    for stage in ("Functions", "Wiring", "Other ways", "Schools", "Run sheet", "Bench"):
        page.get_by_role("link", name=re.compile(f"^{stage}")).click()
        expect(page.get_by_role("main").get_by_role("button", name="Take from the shelf")).to_be_visible()
        assert barriers(page) == []
    page.get_by_role("main").get_by_role("button", name="Take from the shelf").click()
    page.get_by_role("button", name="Take Matte box", exact=False).first.click()
    for stage in ("Functions", "Schools"):
        page.get_by_role("link", name=re.compile(f"^{stage}")).click()
        expect(page.get_by_text("The case is empty")).to_have_count(0)
    for stage in ("Wiring", "Other ways", "Run sheet", "Bench"):
        page.get_by_role("link", name=re.compile(f"^{stage}")).click()
        page.get_by_role("button", name="Promise something").click()
        expect(page.get_by_role("combobox", name="Promise")).to_be_focused()
    page.get_by_role("button", name="Undo").click()
    page.get_by_role("combobox", name="Promise").fill("focus")
    expect(page.get_by_text("There is no device in this rig yet")).to_be_visible()


def test_a_copy_keeps_what_was_promised_and_gets_a_letter_of_its_own(opened: Opener):
    page = opened("/")
    page.get_by_role("link", name="Copy Night ferry, B camera").click()
    page.get_by_role("button", name="Begin with 5 devices").click()
    expect(page.get_by_role("heading", name="Night ferry, D camera")).to_be_visible()
    settled(page, ["planned", "planned", "planned", "impossible"])


def test_a_rig_is_begun_from_an_example_and_from_the_whole_kit(opened: Opener):
    page = opened("/new")
    page.get_by_role("button", name=re.compile("^All of The van")).click()
    expect(page.get_by_role("button", name=re.compile(r"^Begin with \d\d devices"))).to_be_visible()
    page.get_by_role("button", name=re.compile("^From an example")).click()
    page.get_by_role("option", name=re.compile("Own screen dark")).click()
    expect(page.get_by_role("heading", name="Own screen")).to_be_visible()
    settled(page, ["planned", "impossible"])


def test_the_day_at_hand_comes_first_and_others_are_a_tap_away(opened: Opener):
    page = opened(f"{RIG}/case")
    page.get_by_role("button", name="About this rig").click()
    panel = page.get_by_role("region", name="About this rig")
    panel.get_by_label("Day").fill("2126-05-04")
    panel.get_by_role("button", name="Use it on this day").click()
    expect(panel.get_by_role("button", name="Not on 2126-05-04")).to_be_visible()
    panel.get_by_label("Job").fill("Harbour")
    panel.get_by_label("Job").press("Enter")
    expect(page.get_by_role("navigation", name="Rigs of the job").get_by_role("link")).to_have_count(1)
    page.get_by_role("link", name="Isotact, to the rigs of the day").click()
    expect(page.get_by_role("heading", name=re.compile("^Rigs of .*4 May"))).to_be_visible()
    expect(page.get_by_role("link", name=re.compile("^Night ferry, B"))).to_be_visible()
    page.get_by_role("button", name="Night ferry", exact=True).click()
    expect(page.get_by_role("link", name=re.compile("^Night ferry, A"))).to_be_visible()
    expect(page.get_by_role("link", name=re.compile("^Night ferry, B"))).to_have_count(0)


def test_a_removed_rig_lies_in_the_bin_and_comes_back_or_goes_for_good(opened: Opener):
    page = opened("/")
    for camera in ("A", "C"):
        page.get_by_role("button", name=f"Remove Night ferry, {camera} camera").click()
        expect(page.get_by_role("link", name=re.compile(f"^Night ferry, {camera}"))).to_have_count(0)
    page.get_by_role("link", name="Bin: removed rigs").click()
    page.get_by_role("button", name="Bring back Night ferry, A camera").click()
    expect(page.get_by_role("button", name="Bring back Night ferry, A camera")).to_have_count(0)
    page.get_by_role("button", name="Throw away Night ferry, C camera").click()
    page.get_by_role("button", name="Throw it away for good").click()
    expect(page.get_by_text("The bin is empty")).to_be_visible()
    page.get_by_role("link", name="To the rigs of the day").click()
    expect(page.get_by_role("link", name=re.compile("^Night ferry"))).to_have_count(2)


def test_the_demo_explains_itself_in_six_taps(opened: Opener):
    page = opened("/")
    page.get_by_role("link", name="The demo in six taps").click()
    tour = page.get_by_role("complementary", name="Tour")
    for number in range(1, 6):
        expect(tour).to_contain_text(f"{number} of 6")
        if number == 2:
            expect(page.get_by_role("region", name=re.compile("Director: ISO"))).to_be_visible()
        tour.get_by_role("button", name="Next").click()
    expect(page.get_by_role("heading", name="Bench")).to_be_visible()
    tour.get_by_role("button", name="Done").click()
    expect(tour).to_have_count(0)


def test_a_device_that_is_missing_is_made_from_the_nearest_and_comes_back_into_the_rig(opened: Opener):
    page = opened(f"{RIG}/case")
    page.get_by_role("button", name="Take from the shelf").click()
    page.get_by_label("Search the shelf").fill("network grip")
    page.get_by_role("link", name=re.compile("^Make it from the nearest: Network grip")).click()
    page.get_by_role("button", name="Start from this").click()
    page.get_by_role("button", name="Keep it").click()
    page.get_by_role("link", name="Take it into the rig").click()
    expect(page.get_by_role("button", name=re.compile("^Our network grip"))).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("button", name=re.compile("^Our network grip"))).to_have_count(0)


def test_a_long_shelf_is_shown_a_piece_at_a_time(opened: Opener):
    page = opened(f"{RIG}/case")
    page.get_by_role("button", name="Take from the shelf").click()
    takes = page.get_by_role("button", name=re.compile("^Take (?!from)"))
    expect(page.get_by_role("status").filter(has_text="the first 40 are shown")).to_be_visible()
    first = takes.count()
    page.get_by_role("button", name="Show 40 more").click()
    expect(takes).to_have_count(first + 40)
    page.get_by_label("Search the shelf").fill("gimbal")
    expect(page.get_by_text("are shown")).to_have_count(0)
