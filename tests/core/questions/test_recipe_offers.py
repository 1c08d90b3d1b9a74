"""Recipes are offered where a plan has no way, to rigs that have their devices, with what is not as it was."""

from typing import Any

import pytest
from pydantic import ValidationError

from isotact.catalogue import shipped
from isotact.core.calc.rates import rate
from isotact.core.model import ResolvedRig
from isotact.core.model.recipe import Recipe
from isotact.core.planning import plan
from isotact.core.questions.recipe_offers import Offer, offered_for, offers
from tests.rigs import demo, device_of


def recipe(**more: Any) -> Recipe:
    """The link that lets ISO through once it was put to sleep with the menu open."""
    rig = demo()
    base: dict[str, Any] = {
        "format": "isotact/recipe",
        "version": 1,
        "id": "late-card",
        "name": "ISO by the card that comes late",
        "devices": [
            {"profile": rig["transmitter"].profile.id, "firmware": "1.3"},
            {"profile": rig["body"].profile.id},
        ],
        "gives": [{"kind": "control", "function": "iso"}],
        "steps": [
            {"says": "Take the card out of the body.", "expect": "Its screen counts down."},
            {"says": "Put it in again before it is at nought."},
        ],
    }
    return Recipe.model_validate({**base, **more})


def offered(rig: ResolvedRig, *recipes: Recipe, worked: int = 2, tries: int = 3) -> tuple[Offer, ...]:
    return offers(rig, plan(rig), recipes, {one.id: rate(worked, tries) for one in recipes})


def test_it_is_offered_for_the_promise_that_has_no_way_and_for_no_other():
    (offer,) = offered(demo(), recipe())
    assert (offer.promise, offer.why, offer.differs) == ("iso", "no way", ())
    assert (offer.rate.worked, offer.rate.tries) == (2, 3)
    assert offered(demo(), recipe(gives=[{"kind": "control", "function": "focus"}])) == (), "focus has a way"
    assert offered(demo(), recipe(gives=[{"kind": "picture"}])) == ()


def test_it_is_not_offered_to_a_rig_without_its_devices():
    assert offered(demo(), recipe(devices=[{"profile": "on-board-monitor-loop"}])) == ()
    twice = [{"profile": demo()["body"].profile.id}] * 2
    assert offered(demo(), recipe(devices=twice)) == (), "one body is not two"


@pytest.mark.parametrize(
    ("firmware", "says"),
    [
        ("1.3", ()),
        ("1.2", ("Quillon link has 1.2; the recipe was found with firmware 1.3.",)),
        (None, ("Quillon link has one that nobody looked at; the recipe was found with firmware 1.3.",)),
    ],
)
def test_another_firmware_is_said(firmware: str | None, says: tuple[str, ...]):
    rig = demo(lambda data: device_of(data, "transmitter").update(firmware=firmware))
    found = [offer.differs for offer in offered(rig, recipe()) if offer.promise == "iso"]
    assert found == [says]


def test_the_more_trusted_comes_first():
    often, twice = recipe(id="often"), recipe(id="twice")
    rig = demo()
    found = offers(rig, plan(rig), [twice, often], {"twice": rate(2, 2), "often": rate(18, 20)})
    assert [offer.recipe for offer in found] == ["often", "twice"]


@pytest.mark.parametrize(
    "wrong",
    [
        {"devices": []},
        {"steps": []},
        {"gives": []},
        {"gives": [{"kind": "control"}]},
        {"gives": [{"kind": "picture", "function": "iso"}]},
        {"gives": [{"kind": "control", "function": "levitate"}]},
    ],
)
def test_a_recipe_says_with_what_how_and_for_what(wrong: dict[str, Any]):
    with pytest.raises(ValidationError):
        recipe(**wrong)


def test_a_recipe_is_of_one_way_and_offered_for_no_other():
    phone, body = demo()["phone"].profile.id, demo()["body"].profile.id
    devices = [{"profile": phone}, {"profile": body}]

    def found(**gives: str) -> list[str]:
        one = recipe(devices=devices, gives=[{"kind": "control", "function": "iso", **gives}])
        return [offer.promise for offer in offered(demo(), one)]

    assert found(at=phone, to=body) == ["iso"]
    assert found(at=body) == [], "here it is worked at the phone"
    with pytest.raises(ValidationError, match="references"):
        found(at="on-board-monitor-loop")


def test_the_devices_of_the_rig_stand_in_for_those_of_the_recipe():
    (offer,) = offered(demo(), recipe())
    assert offer.devices == ("transmitter", "body")


def test_what_it_takes_offers_those_too_that_want_something_from_the_shelf():
    rig = demo()
    one = recipe(devices=[{"profile": "on-board-monitor-loop"}, {"profile": rig["body"].profile.id}])
    shelf = shipped().profiles
    rates = {one.id: rate(1, 2)}
    (offer,) = offered_for(rig, plan(rig), "iso", [one], rates, shelf)
    assert offer.brings == (shelf["on-board-monitor-loop"].name,)
    assert offered_for(rig, plan(rig), "roll", [one], rates, shelf) == (), "that holds"
    unknown = recipe(devices=[{"profile": "nobody-has-it"}])
    assert offered_for(rig, plan(rig), "iso", [unknown], rates, shelf) == ()
