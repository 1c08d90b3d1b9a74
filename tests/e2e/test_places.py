"""The kit, the day and the workshop in a browser."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import expect

from tests.e2e.conftest import Opener
from tests.e2e.test_manners import barriers
from tests.e2e.test_story import settled
from tests.house_pack import PACK, WORDS

pytestmark = pytest.mark.browser
LIST = "Item;Qty;Asset tag;FW\nPhone with the link app;2;P-1, P-2;\nmirorless body one usb-c micro hdmi;1;B-01;2.1\nMystery box;3;;\n"


def test_counts_are_changed_and_undone(opened: Opener):
    page = opened("/kit")
    row = page.get_by_role("listitem").filter(has_text="Lens motor, bus in and out")
    expect(row).to_contain_text("A-05, A-06, A-07")
    page.get_by_role("button", name="One more: Lens motor, bus in and out").click()
    expect(row.get_by_text("4", exact=True)).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(row.get_by_text("3", exact=True)).to_be_visible()


def test_a_piece_gets_tags_firmware_and_a_note(opened: Opener):
    page = opened("/kit")
    page.get_by_role("button", name=re.compile("^Network grip")).click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Firmware").fill("one")
    dialog.get_by_role("button", name="Keep").click()
    expect(page.get_by_role("alert")).to_contain_text("found 'one'; expected a version such as '2.10'")
    page.get_by_role("button", name=re.compile("^Network grip")).click()
    dialog.get_by_label("Firmware").fill("1.2")
    dialog.get_by_label("Note").fill("sticky latch")
    dialog.get_by_role("button", name="Keep").click()
    expect(page.get_by_role("button", name=re.compile("^Network grip"))).to_contain_text("firmware 1.2; sticky latch")


def test_a_list_is_matched_previewed_mended_and_taken_in(opened: Opener, tmp_path: Path):
    page = opened("/kit")
    page.get_by_role("button", name="Bring in a list").click()
    file = tmp_path / "van.csv"
    file.write_text(LIST, encoding="utf-8")
    page.get_by_label("Kit list").set_input_files(file)
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_role("status")).to_have_text("✔ 1 right, ◐ 1 by likeness, ✕ 1 wrong")
    expect(dialog).to_contain_text("Found 'Mystery box', which is no device or cable that we know")
    assert barriers(page) == []
    expect(dialog.get_by_role("button", name="Mend or leave out what is wrong first")).to_be_disabled()
    dialog.get_by_role("button", name="Leave out line 4").click()
    dialog.get_by_role("button", name="Take in 2 lines").click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    expect(page.get_by_role("button", name=re.compile("^Phone with the link app"))).to_contain_text("P-1, P-2")
    expect(page.get_by_text("Network grip")).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("Network grip")).to_have_count(1)


def test_the_rigs_of_the_day_are_planned_with_one_kit(opened: Opener):
    page = opened("/")
    page.get_by_role("button", name=re.compile("Four cameras sharing one kit")).click()
    expect(page.get_by_role("heading", name="The van", exact=True)).to_be_visible()
    for name in ("Night ferry, A camera", "Night ferry, B camera", "Night ferry, C camera"):
        page.get_by_label(re.compile(name)).uncheck()
    page.get_by_role("button", name="Plan 4 rigs together").click()
    expect(page.get_by_text("The best split, proven.")).to_be_visible()
    rigs = page.get_by_role("list", name="Rigs")
    expect(rigs).to_contain_text("▲ Gives way: record from the record button of Grip")
    expect(page.get_by_text("want 4 of USB-C to USB-C, data, 0.3 m between them; the kit has 2.")).to_be_visible()
    expect(page.get_by_text("1 more of Phone with the link app")).to_be_visible()
    assert barriers(page) == []
    page.get_by_role("button", name="Give each rig its share").click()
    expect(page.get_by_text("Each bag holds what its plan lays.")).to_be_visible()
    rigs.get_by_role("link", name="Shared kit, D camera").click()
    settled(page, ["impossible", "impossible", "impossible"])
    page.get_by_role("button", name="Undo").click()
    settled(page, ["planned", "planned", "planned"])


def test_a_device_is_made_checked_tried_and_kept(opened: Opener):
    page = opened("/workshop")
    page.get_by_role("button", name=re.compile("^Archetype")).click()
    page.get_by_role("option", name=re.compile("^Single-grip gimbal, two USB-C")).click()
    page.get_by_role("button", name="Start from this").click()
    expect(page.get_by_text("Nothing is wrong with it.")).to_be_visible()
    page.get_by_label("Name", exact=True).first.fill("Grandfather's grip")
    page.get_by_role("button", name="Put a port on the top").click()
    page.get_by_role("button", name="PORT 3").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Marking, as printed").fill("")
    expect(page.get_by_text("1 thing is wrong.")).to_be_attached()
    dialog.get_by_label("Marking, as printed").fill("AUX")
    dialog.get_by_role("button", name="+ power").click()
    assert barriers(page) == []
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name="AUX")).to_be_visible()
    expect(page.get_by_text("Nothing is wrong with it.")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Rig:")).click()
    page.get_by_role("option", name="Night ferry, B camera").click()
    page.get_by_role("button", name=re.compile("^Place:")).click()
    page.get_by_role("option", name="instead of Tansy grip").click()
    page.get_by_role("button", name="Plan the rig with it").click()
    expect(page.get_by_text("3 of 4 promises hold")).to_be_visible()
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("Kept: grandfather-s-grip")).to_be_visible()
    page.reload()
    page.get_by_role("button", name=re.compile("^Archetype")).click()
    expect(page.get_by_role("option", name=re.compile("^Grandfather's grip"))).to_be_visible()


def test_a_device_that_is_worked_at_outlives_a_reload_and_is_put_down_and_taken_up(opened: Opener):
    page = opened("/workshop")
    page.get_by_role("button", name="Start from this").click()
    page.get_by_label("Name", exact=True).first.fill("Grandfather's body")
    expect(page.get_by_text("this browser holds it")).to_be_visible()
    page.reload()
    expect(page.get_by_label("Name", exact=True).first).to_have_value("Grandfather's body")
    page.get_by_role("button", name="Put it down").click()
    expect(page.get_by_text("Nothing on the bench")).to_be_visible()
    page.get_by_role("button", name="Take Grandfather's body up again").click()
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("Kept: grandfather-s-body")).to_be_visible()
    expect(page.get_by_text("Kept as it stands.")).to_be_visible()
    page.reload()
    expect(page.get_by_text("Nothing on the bench")).to_be_visible()


def test_a_device_goes_out_as_yaml_and_a_pack_comes_in(opened: Opener, tmp_path: Path):
    page = opened("/workshop")
    page.get_by_role("button", name="Start from this").click()
    with page.expect_download() as download:
        page.get_by_role("button", name="Save as YAML").click()
    text = download.value.path().read_text(encoding="utf-8")
    assert text.startswith("format: isotact/profile\n")
    file = tmp_path / "pack.yaml"
    file.write_text(text.replace("mass_g: ", "mass_g: -", 1), encoding="utf-8")
    page.get_by_label("Profile pack").set_input_files(file)
    expect(page.get_by_role("alert")).to_contain_text("expected 0 or more")
    file.write_text(f"{text}---\n{text.replace('id: our-', 'id: her-', 1)}", encoding="utf-8")
    page.get_by_label("Profile pack").set_input_files(file)
    expect(page.get_by_text(re.compile("Kept: our-.*, her-"))).to_be_visible()


def test_a_device_of_ones_own_is_changed_undone_taken_off_and_brought_back(opened: Opener, tmp_path: Path):
    page = opened("/workshop")
    page.get_by_role("button", name="Start from this").click()
    keep = page.get_by_role("button", name="Keep it")
    keep.click()
    expect(page.get_by_text(re.compile("^✔ Kept: our-"))).to_be_visible()
    mass = page.get_by_role("spinbutton", name="Mass")
    mass.fill("777")
    mass.press("Enter")
    with page.expect_response(lambda answer: answer.url.endswith("/workshop/keep")) as kept:
        keep.click()
    assert list(kept.value.json()["revisions"].values()) == [2], "the next revision of what was kept before"
    with page.expect_download() as download:
        page.get_by_role("button", name="Save as YAML").click()
    file = tmp_path / "pack.yaml"
    file.write_text(
        download.value.path().read_text(encoding="utf-8").replace("mass_g: 777", "mass_g: 555"), encoding="utf-8"
    )
    page.get_by_label("Profile pack").set_input_files(file)
    expect(page.get_by_role("alert")).to_contain_text("of which you keep revision 2 already, and it differs.")
    with page.expect_response(lambda answer: answer.url.endswith("/workshop/keep")):
        page.get_by_role("button", name="Keep mine as the next revision").click()
    expect(page.get_by_role("alert")).to_have_count(0)
    page.reload()
    panel = page.locator("section").filter(has_text="Devices of your own")
    expect(panel).to_contain_text("revision 3")
    panel.get_by_role("button", name=re.compile("^Undo the last change")).click()
    expect(panel).to_contain_text("revision 4")
    panel.get_by_role("button", name=re.compile("^Take off")).click()
    expect(panel.get_by_role("status")).to_contain_text("is taken off. Its history is kept.")
    panel.get_by_role("button", name="Bring it back").click()
    panel.get_by_role("button", name=re.compile("^Change ")).click()
    expect(page.get_by_role("spinbutton", name="Mass")).to_have_value("777")
    assert barriers(page) == []


def test_words_of_ones_own_come_in_with_a_pack_and_stay_while_something_uses_them(opened: Opener, tmp_path: Path):
    page = opened("/workshop")
    file = tmp_path / "pack.yaml"
    file.write_text(WORDS, encoding="utf-8")
    page.get_by_label("Profile pack").set_input_files(file)
    expect(page.get_by_text("Kept: round-house.")).to_be_visible()
    expect(page.get_by_text("Connectors: 6-pin round, snap rail")).to_be_visible()
    assert barriers(page) == []
    page.get_by_role("button", name="Take off").click()
    expect(page.get_by_text("Words of your own")).to_have_count(0)
    file.write_text(PACK, encoding="utf-8")
    page.get_by_label("Profile pack").set_input_files(file)
    expect(page.get_by_text(re.compile("Kept: round-house, puck, round-body"))).to_be_visible()
    page.get_by_role("button", name=re.compile("^Archetype")).click()
    page.get_by_role("option", name=re.compile("^Puck.*horizon puck")).click()
    page.get_by_role("button", name="Start from this").click()
    expect(page.get_by_role("button", name="Kind: horizon puck")).to_be_visible()


def test_hours_are_promised_with_changes_of_battery(opened: Opener):
    page = opened("/rigs/night-ferry-a/case")
    page.get_by_text("without a battery change").click()
    page.get_by_label("Battery changes").fill("2")
    page.get_by_label("Battery changes").press("Tab")
    expect(page.get_by_text("1.2 h with 2 battery changes").first).to_be_visible()
