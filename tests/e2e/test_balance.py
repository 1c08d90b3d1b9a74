"""Balance in a browser: marks, where the scales stand, what sits where, what has too little travel."""

import re

import pytest
from playwright.sync_api import expect

from tests.e2e.conftest import Opener

pytestmark = pytest.mark.browser


def test_marks_are_followed_scale_by_scale_and_what_nobody_said_can_be_said(opened: Opener):
    page = opened("/rigs/night-ferry-a/balance")
    expect(page.get_by_role("heading", name=re.compile("Osier ring: Set the scales to these marks"))).to_be_visible()
    page.get_by_role("spinbutton", name="Where the plate stands").fill("60")
    # Three scales fewer: one of five stands somewhere, and has to go back to 45.
    expect(page.get_by_text("Slide the plate 15 mm back, from 60 mm to 45 mm.")).to_be_visible()
    carried = page.get_by_role("group", name="What it carries")
    carried.get_by_role("button", name=re.compile("Wimble long link")).click()
    expect(page.get_by_role("heading", name="Wimble long link", exact=True)).to_be_visible()
    expect(page.get_by_text("Its place is known nobody said where.")).to_have_count(0)
    expect(page.get_by_text("Nobody said where it sits")).to_be_visible()
    page.get_by_role("button", name="On which side").click()
    page.get_by_role("option", name="on the left").click()
    # 260 g to the left of a body of 1.8 kg: the roll bar goes to the right.
    expect(page.get_by_text("Its place is as you said.")).to_be_visible()
    expect(page.get_by_role("listitem").filter(has_text="roll bar").first).not_to_contain_text(
        re.compile(r"roll bar\s*0\s*mm")
    )
    page.get_by_role("button", name="It stands at these marks").click()
    expect(page.get_by_role("heading", name="Osier ring: It stands as it should.")).to_be_visible()
    expect(page.get_by_text("Tilt stays where you leave it.")).to_be_visible()
    page.get_by_role("button", name="From behind").click()
    expect(page.get_by_role("button", name=re.compile("^Cine zoom, 2500 g"))).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("heading", name=re.compile("has to move|have to move|scales"))).to_be_visible()


def test_a_rig_without_a_gimbal_says_so(opened: Opener):
    page = opened("/rigs/night-ferry-c/balance")
    expect(page.get_by_text("No gimbal is in use: nothing to balance.")).to_be_visible()


def test_a_change_is_tried_before_anything_is_touched(opened: Opener):
    page = opened("/rigs/night-ferry-a/balance")
    off = page.get_by_role("group", name="Comes off")
    off.get_by_role("button", name="Cine zoom").click()
    # 2.5 kg less in front of the body: what is left goes forward.
    moves = page.get_by_role("list", name="Scales that would move")
    expect(moves.get_by_role("listitem").first).to_contain_text(re.compile(r"plate.*mm forward"))
    expect(page.get_by_text("Motor F, Motor I and Motor Z, fixed to what comes off")).to_be_visible()
    page.get_by_role("button", name="Goes on").click()
    page.get_by_role("option", name="something weighed").click()
    page.get_by_role("spinbutton", name="It weighs").fill("2500")
    # As heavy as what it takes the place of.
    expect(page.get_by_text("No scale moves: feel it, and go on.")).to_be_visible()
    page.get_by_role("spinbutton", name="It weighs").fill("3800")
    expect(moves.get_by_role("listitem").first).to_contain_text(re.compile(r"plate.*mm back"))
    # Nothing reaches below the screen: the page scrolls in its middle alone.
    assert page.evaluate("document.documentElement.scrollHeight <= innerHeight")
    page.get_by_role("button", name="Start over").click()
    expect(moves).to_have_count(0)
    expect(page.get_by_role("heading", name=re.compile("Set the scales to these marks"))).to_be_visible()


def test_small_parts_are_counted_and_what_lacks_one_stays_in_its_case(opened: Opener):
    page = opened("/rigs/night-ferry-b/case")
    expect(page.get_by_text("nothing is refused for want of one")).to_be_visible()
    page.get_by_role("button", name="Say what is there").click()
    parts = page.get_by_role("list", name="Small parts in the bag")
    parts.get_by_role("button", name="Put one in: camera screw 1/4-20, 5 mm out").click()
    # The body has its screw; the link wants a cold shoe, and with it goes the director's picture.
    expect(page.get_by_text("2 of 4 hold")).to_be_visible()
    expect(
        page.get_by_role("listitem").filter(has_text="Quillon link").filter(has_text="stays in its case")
    ).to_have_count(1)
    parts.get_by_role("button", name="Put one in: cold shoe").click()
    expect(page.get_by_text("3 of 4 hold")).to_be_visible()
    page.get_by_role("button", name="Nobody has looked").click()
    expect(page.get_by_text("nothing is refused for want of one")).to_be_visible()
    expect(page.get_by_text("3 of 4 hold")).to_be_visible()


def test_a_part_of_your_own_is_put_in_counted_and_taken_off_the_list(opened: Opener):
    page = opened("/rigs/night-ferry-b/case")
    page.get_by_role("button", name="Say what is there").click()
    page.get_by_text("Put in one that is not on the list").click()
    put_in = page.get_by_role("button", name="Put it in")
    expect(put_in).to_be_disabled()
    page.get_by_label("What it is called").fill("brass screw")
    page.get_by_label("Size", exact=True).fill("1/4-20")
    expect(page.get_by_text("Say how far the screw stands out.")).to_be_visible()
    page.get_by_label("How far it stands out").fill("4.5")
    page.get_by_label("What it weighs").fill("9")
    put_in.click()
    row = page.get_by_role("listitem").filter(has_text="of your own: screw, 1/4-20, 4.5 mm, 9 g")
    expect(row).to_be_visible()
    # It holds the body: what else lacks stays as it is.
    expect(page.get_by_text("2 of 4 hold")).to_be_visible()
    row.get_by_role("button", name="Take one out").click()
    row.get_by_role("button", name="Take it off the list").click()
    expect(row).to_have_count(0)
    expect(page.get_by_text("0 of 4 hold")).to_be_visible()
    page.get_by_role("button", name="Nobody has looked").click()
    expect(page.get_by_text("3 of 4 hold")).to_be_visible()


def test_the_kit_has_small_parts_and_the_rig_takes_them_from_it(opened: Opener):
    page = opened("/kit")
    page.get_by_role("button", name="Say what is there").click()
    parts = page.get_by_role("list", name="Small parts of the kit")
    parts.get_by_role("button", name="Put one in: camera screw 1/4-20, 5 mm out").click()
    parts.get_by_role("button", name="Put one in: cold shoe").click()
    expect(parts.get_by_role("listitem").filter(has_text="cold shoe").get_by_text("1", exact=True)).to_be_visible()
    expect(page.get_by_text("Saved").first).to_be_visible()
    page.goto(page.url.split("/kit")[0] + "/rigs/night-ferry-b/case")
    page.get_by_role("button", name=re.compile("^As in ")).click()
    expect(page.get_by_role("list", name="Small parts in the bag")).to_be_visible()
    expect(page.get_by_text("3 of 4 hold")).to_be_visible()
    page.get_by_role("button", name="Nobody has looked").click()


def test_a_pole_is_balanced_front_against_back(opened: Opener):
    page = opened("/")
    page.get_by_role("button", name=re.compile("Front against back")).click()
    expect(page.get_by_role("heading", name="Pole, weight at the back")).to_be_visible()
    page.get_by_role("group", name="Build").get_by_role("link", name=re.compile("^Balance")).click()
    expect(page.get_by_role("heading", name="Pole: front against back")).to_be_visible()
    expect(page.get_by_text("Set the back holder to 610 mm behind the grip.")).to_be_visible()
    page.get_by_role("spinbutton", name="Where the back holder stands").fill("400")
    expect(page.get_by_text("Slide the back holder 210 mm back, from 400 mm to 610 mm.")).to_be_visible()
