"""Several people at one run sheet: what one ticks the others see; out of reach it waits in line, and nothing counts twice."""

import json
import urllib.request
from collections.abc import Callable, Iterator

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect

from tests.e2e.conftest import RIG, patient
from tests.e2e.test_kept import Cart, Laptop, cart, laptop

pytestmark = pytest.mark.browser
__all__ = ["cart", "laptop"]

Joins = Callable[[str, Laptop], Page]


@pytest.fixture
def joins(browser: Browser) -> Iterator[Joins]:
    """Somebody opens the run sheet on a phone of their own, and says who they are."""
    phones: list[BrowserContext] = []

    def join(name: str, at: Laptop) -> Page:
        phones.append(patient(browser, width=390, height=844))
        page = phones[-1].new_page()
        page.goto(f"{at.address}{RIG}/run-sheet")
        page.get_by_label("You are").fill(name)
        page.get_by_label("You are").press("Enter")
        return page

    yield join
    for phone in phones:
        phone.close()


def done(page: Page, count: int) -> None:
    expect(page.get_by_role("heading", name=f"{count} of 39 done")).to_be_visible()


def tick(page: Page) -> None:
    page.get_by_role("article", name="Step").get_by_role("button", name="one").filter(has_not_text="tick off").click()


def by(at: Laptop) -> dict[str, int]:
    """How many steps stand done, by who did them."""
    with urllib.request.urlopen(f"{at.address}/api/rigs/night-ferry-b/steps") as answer:
        marks = json.load(answer)["steps"].values()
    people = [mark["person"] for mark in marks if mark["what"] == "done"]
    return {person: people.count(person) for person in sorted(set(people))}


def test_three_people_tick_and_one_of_them_is_out_of_reach_for_a_while(joins: Joins, laptop: Laptop):
    ada, bo, cem = joins("Ada", laptop), joins("Bo", laptop), joins("Cem", laptop)
    tick(ada)
    for page in (ada, bo, cem):
        done(page, 2)
    expect(bo.locator("[aria-live=polite]", has_text="Ada: Lay out B1")).to_have_count(1)
    expect(ada.locator("[aria-live=polite]", has_text="Lay out B1")).to_have_count(0)
    bo.get_by_role("button", name="Lay out the cables, and flag them").click()
    expect(bo.get_by_role("article", name="Step")).to_contain_text("Ada, ")
    bo.get_by_role("button", name="Batteries in, and full").click()
    bo.context.set_offline(True)
    tick(bo)
    done(bo, 6)
    expect(bo.get_by_role("status").filter(has_text="4 ticks wait in line")).to_be_visible()
    tick(bo)
    done(bo, 7)
    done(cem, 2)
    tick(cem)  # the same batteries, by somebody who cannot know
    done(ada, 6)
    bo.context.set_offline(False)
    for page in (ada, bo, cem):
        done(page, 7)
    expect(bo.get_by_role("status").filter(has_text="in line")).to_have_count(0)
    assert by(laptop) == {"Ada": 2, "Bo": 1, "Cem": 4}, "who ticked last did it; each step counts once"


def test_what_is_ticked_while_the_server_is_killed_is_there_afterwards_though_the_tab_was_closed(
    joins: Joins, cart: Cart
):
    ada, bo = joins("Ada", cart), joins("Bo", cart)
    tick(ada)
    done(bo, 2)
    cart.kill()
    tick(ada)
    done(ada, 6)
    expect(ada.get_by_role("status").filter(has_text="4 ticks wait in line")).to_be_visible()
    phone = ada.context
    ada.close()
    cart.start()
    again = phone.new_page()
    again.goto(f"{cart.address}{RIG}/run-sheet")
    done(again, 6)
    done(bo, 6)
    assert by(cart) == {"Ada": 6}


def test_a_proof_by_hand_lapses_with_what_it_rests_on_for_everybody(joins: Joins, laptop: Laptop):
    ada, bo = joins("Ada", laptop), joins("Bo", laptop)
    ada.goto(f"{laptop.address}{RIG}/run-sheet?step=prove:roll")
    tick(ada)
    ada.goto(f"{laptop.address}{RIG}/run-sheet?step=prove:picture")
    tick(ada)
    bo.goto(f"{laptop.address}{RIG}")
    column = bo.get_by_role("navigation", name="Promises")
    expect(column.get_by_role("button", name="proven. Operator: record")).to_be_visible()
    expect(column.get_by_role("button", name="proven. Director: picture")).to_be_visible()
    rig = laptop.rig()
    devices = [{**one, "firmware": "1.2"} if one["id"] == "transmitter" else one for one in rig["document"]["devices"]]
    body = {"made_on": rig["revision"], "document": {**rig["document"], "devices": devices}}
    headers = {"Origin": laptop.address}
    assert ada.request.put(f"{laptop.address}/api/rigs/night-ferry-b", data=body, headers=headers).ok
    column.get_by_role("button", name="prove again. Director: picture").click()
    panel = bo.get_by_role("region", name="Director: picture")
    expect(panel).to_contain_text("Proven by hand by Ada")
    expect(panel).to_contain_text("Quillon link had firmware 1.3 when it was proven, and has 1.2 now.")
    expect(column.get_by_role("button", name="proven. Operator: record")).to_be_visible()
    done(ada, 1)
    tick(ada)
    expect(column.get_by_role("button", name="proven. Director: picture")).to_be_visible()
