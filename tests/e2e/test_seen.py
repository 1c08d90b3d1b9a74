"""What is seen before it is read: ports and plugs on cards, devices in their panel, the map as a picture, cards on a phone."""

import re
from xml.etree import ElementTree

import pytest
from playwright.sync_api import Browser, Locator, Page, expect

from tests.e2e.conftest import PATIENCE_MS, RIG, Opener, patient
from tests.e2e.test_manners import barriers
from tests.e2e.test_story import told

pytestmark = pytest.mark.browser
PLUG = f"{RIG}/run-sheet?step=plug:body.usb--gimbal.camera"


def drawn(page: Page):
    return page.get_by_role("figure", name=re.compile("^Brindle 2: USB"))


def test_a_plug_card_shows_both_ends_the_look_alike_crossed_and_says_it_once(looked_at: Opener):
    page = looked_at(PLUG)
    figure = drawn(page)
    expect(figure).to_have_accessible_name(
        "Brindle 2: USB, left side, lower door to Tansy grip: small camera, right side of the roll arm, upper of two"
    )
    expect(figure).to_contain_text("✕ not “small bolt”: only charges the grip")
    expect(figure).to_contain_text("Right-angle USB-C plug")
    expect(figure.locator("text", has_text="B2")).to_be_visible()
    card = page.get_by_role("article", name="Step")
    expect(card).not_to_contain_text("port marked")  # what the picture shows is not said again
    expect(card).to_contain_text("Crosses the tilt axis")
    assert figure.bounding_box()["y"] < 300, "the picture is in sight without scrolling"


@pytest.mark.parametrize("width", [1280, 390])
def test_its_letters_can_be_read_and_markings_do_not_lie_on_each_other(looked_at: Opener, width: int):
    page = looked_at(PLUG, width=width, height=844)
    expect(drawn(page)).to_be_visible()
    boxes = (
        drawn(page)
        .locator("svg text")
        .evaluate_all(
            "all => all.map(one => { const b = one.getBoundingClientRect(); return [b.x, b.y, b.right, b.bottom] })"
        )
    )
    sizes = (
        page.get_by_role("article", name="Step")
        .locator("*")
        .evaluate_all(
            "all => all.filter(one => one.childNodes.length && [...one.childNodes].some(n => n.nodeType === 3 && n.data.trim()))"
            ".map(one => parseFloat(getComputedStyle(one).fontSize) * (one.getScreenCTM?.()?.a ?? 1))"
        )
    )
    assert min(sizes) >= 14
    for number, one in enumerate(boxes):
        for other in boxes[number + 1 :]:
            assert one[2] <= other[0] or other[2] <= one[0] or one[3] <= other[1] or other[3] <= one[1]


@pytest.mark.parametrize("theme", ["night", "day"])
def test_a_card_with_its_picture_has_no_barriers(opened: Opener, theme: str):
    page = opened(PLUG, theme=theme)
    expect(drawn(page)).to_be_visible()
    assert barriers(page) == []


def test_a_device_that_is_tapped_on_the_map_is_drawn_with_what_goes_where(looked_at: Opener):
    page = looked_at(f"{RIG}/wiring")
    page.get_by_role("button", name="Tansy grip, as it lies there").press("Enter")
    looks = page.get_by_role("region", name="How it looks")
    expect(looks.get_by_role("img", name="small camera: B2, small bolt")).to_be_visible()
    expect(looks.get_by_role("figure", name="back side")).to_be_visible()
    expect(page.get_by_role("group", name="Rig map")).to_be_visible()


def test_the_map_is_stepped_larger_and_fits_again(looked_at: Opener):
    page = looked_at(f"{RIG}/wiring", width=390, height=844)
    whole = page.get_by_role("group", name="Rig map")
    expect(whole).to_be_visible()
    before = whole.bounding_box()["width"]
    assert before <= 390, "it opens fitted"
    page.get_by_role("button", name="Larger").click()
    expect(page.get_by_role("button", name="Fit")).to_be_enabled()
    assert whole.bounding_box()["width"] > before * 1.4
    page.get_by_role("button", name="Fit").click()
    expect(page.get_by_role("button", name="Smaller")).to_be_disabled()
    assert whole.bounding_box()["width"] == pytest.approx(before, abs=1)
    page.get_by_role("button", name="Show the schedule").click()
    expect(page.get_by_role("heading", name="Cable schedule")).to_be_visible()


def test_a_way_is_lit_beside_the_panel_that_told_of_it_and_the_map_fits_what_is_left(looked_at: Opener):
    page = looked_at(f"{RIG}/case")
    panel = told(page, "picture on")
    panel.get_by_role("button", name="Show its way on the map").click()
    expect(page.locator("svg [opacity='0.3']")).not_to_have_count(0)
    expect(panel).to_be_visible()
    whole = page.get_by_role("group", name="Rig map").bounding_box()
    assert whole["x"] >= panel.bounding_box()["x"] + panel.bounding_box()["width"]
    assert whole["x"] + whole["width"] <= 1280


def test_the_map_leaves_as_a_drawing_of_its_own(looked_at: Opener):
    page = looked_at(f"{RIG}/wiring")
    expect(page.get_by_role("group", name="Rig map").get_by_text("Brindle 2")).to_be_visible()
    with page.expect_download() as download:
        page.get_by_role("button", name="The map as a file, or on paper").click()
        page.get_by_role("menuitem", name="Save as SVG").click()
    assert download.value.suggested_filename == "Night ferry, B camera, rig map.svg"
    root = ElementTree.parse(download.value.path()).getroot()
    words = {"".join(text.itertext()) for text in root.iter("{http://www.w3.org/2000/svg}text")}
    assert {"Brindle 2", "B2", "Tilt cage"} <= words
    assert "class" not in {name for one in root.iter() for name in one.attrib}
    assert float(root.get("width", "0")) > 300


def test_the_map_is_printed_alone_and_whole(opened: Opener):
    page = opened(f"{RIG}/wiring")
    expect(page.get_by_role("group", name="Rig map").get_by_text("Brindle 2")).to_be_visible()
    page.evaluate("window.print = () => { document.title = 'printed' }")
    page.get_by_role("button", name="The map as a file, or on paper").click()
    page.get_by_role("menuitem", name="Print on one page").click()
    expect(page).to_have_title("printed")
    page.emulate_media(media="print")
    expect(page.get_by_role("heading", name="Night ferry, B camera, rig map")).to_be_visible()
    expect(page.get_by_role("navigation", name="Promises")).to_be_hidden()
    assert page.locator("[data-report] svg").bounding_box()["height"] <= 0.9 * 800


def test_the_sheet_is_printed_with_its_pictures(opened: Opener):
    page = opened(f"{RIG}/run-sheet")
    expect(page.get_by_role("article", name="Step")).to_be_visible()
    page.evaluate("window.print = () => { document.title = 'printed' }")
    page.get_by_role("button", name="Print the sheet").click()
    expect(page).to_have_title("printed")
    page.emulate_media(media="print")
    report = page.locator("[data-report]")
    expect(report.get_by_role("heading", name="Night ferry, B camera: run sheet")).to_be_visible()
    expect(report.get_by_role("figure")).to_have_count(3)
    expect(report).to_contain_text("✕ not “small bolt”")


def test_on_a_phone_done_stays_under_the_thumb_and_a_swipe_goes_on(browser: Browser, calm_server: str):
    context = browser.new_context(viewport={"width": 390, "height": 844}, has_touch=True, reduced_motion="reduce")
    context.set_default_timeout(PATIENCE_MS)
    page = context.new_page()
    page.goto(calm_server + PLUG)
    card = page.get_by_role("article", name="Step")
    done = card.get_by_role("button", name="Done")
    expect(done).to_be_visible()
    assert done.bounding_box()["y"] + done.bounding_box()["height"] < 800
    expect(card).to_contain_text("Then: Switch Brindle 2 on for its menus")
    swiped = """(card, [from, to]) => {
        const at = (x) => ({ bubbles: true, pointerType: "touch", pointerId: 1, clientX: x, clientY: 300 })
        card.dispatchEvent(new PointerEvent("pointerdown", at(from)))
        card.dispatchEvent(new PointerEvent("pointerup", at(to)))
    }"""
    card.evaluate(swiped, [300, 120])
    expect(card.get_by_role("heading", level=2)).to_have_text("Switch Brindle 2 on for its menus")
    card.evaluate(swiped, [120, 300])
    expect(card.get_by_role("heading", level=2)).to_have_text("Plug B2: Brindle 2 to Tansy grip")
    card.evaluate(swiped, [120, 150])
    expect(card.get_by_role("heading", level=2)).to_have_text("Plug B2: Brindle 2 to Tansy grip")
    context.close()


def test_what_goes_on_by_itself_runs_down(opened: Opener):
    page = opened(f"{RIG}/run-sheet?step=menu-wake:body")
    page.get_by_role("article", name="Step").get_by_role("button", name="Done").click()
    expect(page.get_by_role("list", name="Going on by itself")).to_contain_text("Switch Brindle 2 on for its menus")
    expect(page.get_by_role("list", name="Going on by itself")).to_have_count(0)


def dragged(page: Page, handle: Locator, by: tuple[float, float]) -> None:
    """Drag a handle of a drawing, in two steps as a finger goes, and see that it went just so far."""
    before = handle.bounding_box()
    x, y = before["x"] + before["width"] / 2, before["y"] + before["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + by[0] / 2, y + by[1] / 2)
    page.mouse.move(x + by[0], y + by[1])
    page.mouse.up()
    expect(page.get_by_role("dialog")).to_have_count(0)
    after = handle.bounding_box()
    assert (after["x"] - before["x"], after["y"] - before["y"]) == pytest.approx(by, abs=2.5)


def test_a_port_is_dragged_to_its_place_and_nudged(opened: Opener):
    page = opened("/workshop")
    page.get_by_role("button", name="Start from this").click()
    right = page.get_by_role("region", name="right side")
    port = right.get_by_role("button", name="SDI OUT BNC")
    dragged(page, port, (20, -25))
    after = port.bounding_box()
    port.press("ArrowLeft")
    expect(page.get_by_text("Nothing is wrong with it")).to_be_visible()
    assert port.bounding_box()["x"] < after["x"]
    port.press("Enter")
    expect(page.get_by_role("heading", name="Port “SDI OUT”")).to_be_visible()


def test_a_lamp_is_dragged_taken_off_the_drawing_and_put_on_another_side(opened: Opener):
    page = opened("/workshop")
    page.get_by_role("button", name="Start from this").click()
    lamp = page.get_by_role("region", name="right side").get_by_role("button", name="side lamp")
    dragged(page, lamp, (-15, 12))
    lamp.press("Enter")
    page.get_by_role("button", name="Take it off the drawing").click()
    expect(lamp).to_have_count(0)
    page.get_by_role("region", name="On no side yet").get_by_role("button", name="Side of side lamp").click()
    page.get_by_role("option", name="on the top").click()
    expect(page.get_by_role("region", name="top side").get_by_role("button", name="side lamp")).to_be_visible()
    expect(page.get_by_text("Nothing is wrong with it")).to_be_visible()


def test_what_no_device_here_gives_is_taken_from_the_shelf_in_two_taps(opened: Opener):
    page = opened(f"{RIG}/case")
    field = page.get_by_role("combobox", name="Promise")
    field.click()
    field.fill("zoom")
    page.get_by_role("option", name=re.compile("^Take one that gives zoom: hand unit")).click()
    expect(page.get_by_role("main")).to_contain_text("Hand unit, three axes")


def test_the_theme_is_the_devices_until_somebody_chooses(browser: Browser, calm_server: str):
    for scheme, theme, other in (("light", "day", "Night"), ("dark", "night", "Day")):
        context = patient(browser)
        page = context.new_page()
        page.emulate_media(color_scheme=scheme)
        page.goto(calm_server)
        expect(page.locator("html")).to_have_attribute("data-theme", theme)
        page.get_by_role("button", name=other, exact=True).click()
        expect(page.locator("html")).to_have_attribute("data-theme", other.lower())
        page.reload()
        expect(page.locator("html")).to_have_attribute("data-theme", other.lower())
        context.close()


def test_a_gimbal_that_is_searched_is_a_gimbal(looked_at: Opener):
    page = looked_at("/new")
    page.get_by_label("Search the shelf").fill("gimbal")
    expect(page.get_by_role("button", name=re.compile("^Take ")).first).to_have_accessible_name(re.compile("gimbal,"))
