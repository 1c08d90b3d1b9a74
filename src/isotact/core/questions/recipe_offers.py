"""Recipes for promises that a plan has no way for, or only one that rests on firmware or licences nobody has seen."""

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping
from typing import Literal

from pydantic import Field

from isotact.core.calc.rates import Rate
from isotact.core.model.base import Struct
from isotact.core.model.plan import Plan
from isotact.core.model.recipe import Recipe
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import Promise
from isotact.core.model.words import Id


class Offer(Struct):
    """A recipe that may keep a promise. `differs`: what is not as it was when it was found, a sentence each."""

    promise: Id
    recipe: Id
    name: str
    why: Literal["no way", "poor way"] = Field(
        description="whether the plan has none, or one that rests on what nobody looked at"
    )
    rate: Rate
    differs: tuple[str, ...] = ()


def offers(rig: ResolvedRig, plan: Plan, recipes: Iterable[Recipe], rates: Mapping[Id, Rate]) -> tuple[Offer, ...]:
    """The recipes whose devices are all in the rig, for the promises that need one; the most trusted first.

    Trust is the lower end of the interval: two of two is less sure than nine of ten.
    """
    found = [
        Offer(promise=promise.id, recipe=recipe.id, name=recipe.name, why=why, rate=rates[recipe.id], differs=differs)
        for recipe in recipes
        if (differs := _differs(rig, recipe)) is not None
        for promise, why in _in_need(rig, plan)
        if any(gives.covers(promise) for gives in recipe.gives)
    ]
    return tuple(sorted(found, key=lambda one: (one.promise, -one.rate.low, -one.rate.tries, one.recipe)))


def _in_need(rig: ResolvedRig, plan: Plan) -> Iterator[tuple[Promise, Literal["no way", "poor way"]]]:
    wanting = {
        promise for one in plan.requisites if not one.is_known_of(rig[one.device].device) for promise in one.promises
    }
    for promise in rig.rig.promises:
        if promise.id not in plan.kept:
            yield promise, "no way"
        elif promise.id in wanting:
            yield promise, "poor way"


def _differs(rig: ResolvedRig, recipe: Recipe) -> tuple[str, ...] | None:
    """What is not as it was; None where a device of the recipe is not in the rig at all."""
    wanted = Counter(device.profile for device in recipe.devices)
    here = Counter(placed.profile.id for placed in rig.devices.values())
    if any(here[profile] < count for profile, count in wanted.items()):
        return None
    says = []
    for device in recipe.devices:
        pieces = [placed for placed in rig.devices.values() if placed.profile.id == device.profile]
        if device.firmware is None or any(one.device.firmware == device.firmware for one in pieces):
            continue
        has = pieces[0].device.firmware
        is_now = f"has {has}" if has else "has one that nobody looked at"
        says.append(f"{pieces[0].name} {is_now}; the recipe was found with firmware {device.firmware}.")
    return tuple(says)
