"""Every screen in both themes without a barrier; keys; bad files; the phone."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect

from isotact.demo import FOLDER
from tests.e2e.conftest import AXE, RIG, Opener, patient
from tests.rigs import DEMO

pytestmark = pytest.mark.browser
SCREENS = [
    "/", "/new", "/bin", RIG, f"{RIG}/case", f"{RIG}/functions", f"{RIG}/schools", f"{RIG}/wiring", f"{RIG}/power", f"{RIG}/balance", f"{RIG}/other-ways",
    f"{RIG}/run-sheet", f"{RIG}/bench", f"{RIG}/prove", f"{RIG}/find", f"{RIG}/train", "/job", "/job/night-ferry/packs/0", "/kit", "/workshop", "/log", "/share", "/join", "/recipes",
]  # fmt: skip
GOOD = (FOLDER / DEMO).read_text(encoding="utf-8")


def barriers(page: Page) -> list[str]:
    """What stands in somebody's way, in both themes: they differ in colours only."""
    # Not by a script tag: the page forbids scripts that are not its own.
    page.evaluate(AXE.read_text(encoding="utf-8"))
    found = page.evaluate(
        """async () => {
          const root = document.documentElement, theme = root.dataset.theme
          const whole = (await axe.run()).violations
          root.dataset.theme = theme === 'day' ? 'night' : 'day'
          const other = (await axe.run({runOnly: ['color-contrast']})).violations
          root.dataset.theme = theme
          return [...whole, ...other]
        }"""
    )
    return [
        f"{one['id']}: {one['nodes'][0]['html'][:160]}" for one in found if one["impact"] in ("serious", "critical")
    ]


SMALL_TARGETS = """() => [...document.querySelectorAll('button, a, select, input:not(.sr-only)')]
    .map(e => [e.getAttribute('aria-label') || e.innerText, e.getBoundingClientRect()])
    .filter(([, r]) => r.width && (r.height < 43.5 || r.width < 43.5))
    .map(([name, r]) => `${name} ${r.width}x${r.height}`)"""


def settled(page: Page) -> None:
    expect(page.get_by_role("heading").first).to_be_visible()
    page.wait_for_load_state("networkidle")


@pytest.mark.parametrize("path", SCREENS)
def test_there_is_no_barrier_every_target_fits_a_glove_and_nothing_sticks_out(looked_at: Opener, path: str):
    """One page for all three: opening it is what takes the time."""
    page = looked_at(path)
    settled(page)
    assert page.evaluate("document.documentElement.dataset.theme") == "night"
    assert barriers(page) == []
    if path != "/":
        assert page.evaluate(SMALL_TARGETS) == []
    assert page.evaluate("document.documentElement.scrollWidth") <= 1280
    page.set_viewport_size({"width": 390, "height": 844})
    assert page.evaluate("document.documentElement.scrollWidth") <= 390


def test_no_serious_barrier_in_what_opens(looked_at: Opener):
    page = looked_at(f"{RIG}/case")
    for opener, closer in (
        (lambda: page.keyboard.press("Control+k"), "Escape"),
        (lambda: page.keyboard.press("?"), "Escape"),
    ):
        expect(page.get_by_role("heading", name="Devices")).to_be_visible()
        opener()
        expect(page.get_by_role("dialog")).to_have_count(1)
        assert barriers(page) == []
        page.keyboard.press(closer)
        expect(page.get_by_role("dialog")).to_have_count(0)
    page.get_by_role("navigation", name="Promises").get_by_role("button").nth(3).click()
    expect(page.get_by_role("region", name="Director: ISO")).to_be_visible()
    assert barriers(page) == []
    page.get_by_role("button", name=re.compile("^Brindle 2")).click()
    expect(page.get_by_label("Firmware")).to_be_visible()
    assert barriers(page) == []
    page.get_by_role("button", name="Take from the shelf").click()
    page.get_by_label("Search the shelf").fill("gimbal")
    assert barriers(page) == []
    page.get_by_role("combobox", name="Promise").click()
    expect(page.get_by_role("option").first).to_be_visible()
    assert barriers(page) == []


def test_the_whole_story_by_keys_alone(opened: Opener):
    page = opened()
    expect(page.get_by_role("heading", name="Devices")).to_be_visible()
    page.keyboard.press("3")
    expect(page.get_by_role("heading", name="Rig map")).to_be_visible()
    page.keyboard.press("6")
    card = page.get_by_role("article", name="Step")
    expect(card).to_contain_text("1–2 of 39")
    page.keyboard.press("Space")
    expect(card).to_contain_text("3–6 of 39")
    page.keyboard.press("j")
    expect(card).to_contain_text("7 of 39")
    page.keyboard.press("k")
    expect(card).to_contain_text("3–6 of 39")
    page.keyboard.press("7")
    expect(page.get_by_role("heading", name="Bench")).to_be_visible()
    page.keyboard.press("Space")
    expect(page.get_by_text("B1 lies ready.")).to_be_visible()
    page.keyboard.press("a")
    expect(page.get_by_role("button", name="Hold")).to_be_visible()


def test_the_command_palette_finds_and_goes(looked_at: Opener):
    page = looked_at()
    expect(page.get_by_role("heading", name="Devices")).to_be_visible()
    page.keyboard.press("Control+k")
    page.get_by_role("combobox", name="Command").fill("run sh")
    page.keyboard.press("Enter")
    expect(page.get_by_role("article", name="Step")).to_be_visible()


def test_the_theme_turns_and_stays(opened: Opener):
    page = opened()
    page.get_by_role("button", name="Day", exact=True).click()
    assert page.evaluate("document.documentElement.dataset.theme") == "day"
    page.reload()
    expect(page.get_by_role("button", name="Night", exact=True)).to_be_visible()


def test_on_a_phone_the_step_comes_first_and_can_be_ticked(opened: Opener):
    page = opened(f"{RIG}/run-sheet", width=390, height=844)
    expect(page.get_by_role("article", name="Step")).to_be_in_viewport()
    page.get_by_role("button", name="All done").click()
    expect(page.get_by_role("article", name="Step")).to_contain_text("3–6 of 39")


@pytest.mark.parametrize(
    ("name", "text", "says"),
    [
        ("broken.yaml", "a: [", "this is not YAML"),
        ("connector.yaml", GOOD.replace("usb-c-usb-c-data-30", "usb-d-cable"), "found 'usb-d-cable', which is no cable type"),
        ("dangling.yaml", GOOD.replace("device: phone, surface", "device: fone, surface"), "found 'fone', which is not in this rig"),
        ("twice.yaml", GOOD.replace("id: lens,", "id: body,"), "found 'body' twice"),
        ("negative.yaml", GOOD.replace("count: 2", "count: -2"), "found -2; expected 0 or more."),
        ("large.yaml", "#" * 5_000_000, "found 5,000,000 bytes"),
        ("bomb.yaml", "a: &a [x]\nb: [*a, *a]\n", "found an anchor or alias"),
        ("version.yaml", GOOD.replace("version: 1", "version: 9"), "found 9; expected 1."),
        ("here.yaml", GOOD, "is the id of a rig that is here already"),
    ],
)  # fmt: skip
def test_a_bad_file_is_refused_whole_and_its_place_is_shown(
    looked_at: Opener, tmp_path: Path, name: str, text: str, says: str
):
    page = looked_at("/")
    expect(page.get_by_role("link", name=re.compile("^Night ferry"))).to_have_count(3)
    file = tmp_path / name
    file.write_text(text, encoding="utf-8")
    page.get_by_label("Rig document").set_input_files(file)
    expect(page.get_by_role("alert")).to_contain_text(says)
    page.reload()
    expect(page.get_by_role("link", name=re.compile("^Night ferry"))).to_have_count(3)


def test_a_good_file_is_taken_in_and_opened(opened: Opener, tmp_path: Path):
    page = opened("/")
    file = tmp_path / "d.yaml"
    text = (
        GOOD.replace("night-ferry-b", "night-ferry-d").replace("camera: B", "camera: D").replace("B camera", "D camera")
    )
    file.write_text(text, encoding="utf-8")
    page.get_by_label("Rig document").set_input_files(file)
    expect(page.get_by_role("heading", name="Night ferry, D camera")).to_be_visible()


def test_a_rig_that_is_not_there_says_so_and_leads_back(looked_at: Opener):
    page = looked_at("/rigs/none/case")
    expect(page.get_by_role("alert")).to_contain_text("There is no rig 'none'.")
    page.get_by_role("link", name="To the rigs of the day").click()
    expect(page.get_by_role("heading", name="Rigs of the day")).to_be_visible()


def test_what_was_changed_in_the_last_moment_is_saved_when_the_window_is_closed(opened: Opener):
    page = opened(f"{RIG}/case")
    page.get_by_role("button", name="Take one out: micro HDMI to HDMI, 0.3 m").click()
    page.goto(page.url.split("/rigs")[0] + "/api/health")
    again = opened(f"{RIG}/case")
    expect(again.get_by_role("button", name="Take one out: micro HDMI to HDMI, 0.3 m")).to_be_disabled()


@pytest.mark.parametrize(("path", "script"), [("/log", "log"), (f"{RIG}/bench", "bench")])
def test_a_page_that_fails_says_so_and_the_way_back_works(browser: Browser, calm_server: str, path: str, script: str):
    """Its script cannot be fetched; what a browser says of that on its console is not held against it here."""
    context = patient(browser)
    page = context.new_page()
    scripts = re.compile(rf"/assets/{script}-.*\.js")
    page.route(scripts, lambda route: route.abort())
    page.goto(calm_server + path)
    failed = page.get_by_role("alert", name="This page failed")
    expect(failed).to_contain_text("What was saved is safe")
    if path.startswith(RIG):
        expect(page.get_by_role("navigation", name="Promises")).to_be_visible()
    page.unroute(scripts)
    failed.get_by_role("button", name="Load it again").click()
    expect(failed).to_have_count(0)
    expect(page.get_by_role("heading").first).to_be_visible()
    context.close()
