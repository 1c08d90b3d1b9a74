"""Recipes for promises that a plan has no way for, or only one that rests on firmware or licences nobody has seen."""

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import Literal

from pydantic import Field

from isotact.core.calc.rates import Rate
from isotact.core.model.base import Struct
from isotact.core.model.plan import Plan
from isotact.core.model.profile import Profile
from isotact.core.model.recipe import Recipe
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import Promise
from isotact.core.model.words import Id
from isotact.core.telling.recipe_words import differences


class Offer(Struct):
    """A recipe that may keep a promise: maybe, never more.

    `devices`: those of the rig that stand for its own, in its order. `differs`: what is not as it was when it was
    found, a sentence each. `brings`: the devices that it needs and the rig has not; where there are any, `devices` is
    empty.
    """

    promise: Id
    recipe: Id
    name: str
    why: Literal["no way", "poor way"] = Field(
        description="whether the plan has none, or one that rests on what nobody looked at"
    )
    rate: Rate
    devices: tuple[Id, ...] = ()
    differs: tuple[str, ...] = ()
    brings: tuple[str, ...] = ()


def offers(rig: ResolvedRig, plan: Plan, recipes: Iterable[Recipe], rates: Mapping[Id, Rate]) -> tuple[Offer, ...]:
    """The recipes whose devices are all in the rig, for the promises that need one; the most trusted first.

    Trust is the lower end of the interval: two of two is less sure than nine of ten.
    """
    profiles = {key: placed.profile.id for key, placed in rig.devices.items()}
    found = [
        Offer(
            promise=promise.id,
            recipe=recipe.id,
            name=recipe.name,
            why=why,
            rate=rates[recipe.id],
            devices=tuple(devices),
            differs=tuple(differences(rig, recipe, devices)),
        )
        for recipe in recipes
        for promise, why in _in_need(rig, plan)
        if (devices := recipe.bound(promise, profiles)) is not None
    ]
    return tuple(sorted(found, key=_trust))


def offered_for(
    rig: ResolvedRig,
    plan: Plan,
    promise_id: str,
    recipes: Sequence[Recipe],
    rates: Mapping[Id, Rate],
    profiles: Mapping[str, Profile],
) -> tuple[Offer, ...]:
    """For one promise the recipes that may keep it, with those as well that want devices of the shelf."""
    here = [one for one in offers(rig, plan, recipes, rates) if one.promise == promise_id]
    why = dict((promise.id, why) for promise, why in _in_need(rig, plan)).get(promise_id)
    known = {one.recipe for one in here}
    for recipe in recipes if why is not None else ():
        lacking = _lacking(rig, recipe, profiles)
        wider = {key: placed.profile.id for key, placed in rig.devices.items()}
        wider |= {f"new {number}": key for number, key in enumerate(lacking)}
        if recipe.id not in known and lacking and recipe.bound(rig.rig.promise(promise_id), wider) is not None:
            here.append(
                Offer(
                    promise=promise_id,
                    recipe=recipe.id,
                    name=recipe.name,
                    why=why,
                    rate=rates[recipe.id],
                    brings=tuple(profiles[key].name for key in lacking),
                )
            )
    return tuple(sorted(here, key=lambda one: (len(one.brings), _trust(one))))


def _trust(one: Offer) -> tuple[str, float, int, str]:
    return one.promise, -one.rate.low, -one.rate.tries, one.recipe


def _lacking(rig: ResolvedRig, recipe: Recipe, profiles: Mapping[str, Profile]) -> list[str]:
    """The profiles of the shelf that a recipe wants more of than the rig has; nothing where one is not to be had."""
    wanted = Counter(device.profile for device in recipe.devices)
    wanted.subtract(placed.profile.id for placed in rig.devices.values())
    lacking = [*(+wanted).elements()]
    return lacking if all(key in profiles for key in lacking) else []


def _in_need(rig: ResolvedRig, plan: Plan) -> Iterator[tuple[Promise, Literal["no way", "poor way"]]]:
    wanting = {
        promise for one in plan.requisites if not one.is_known_of(rig[one.device].device) for promise in one.promises
    }
    for promise in rig.rig.promises:
        if promise.id not in plan.kept:
            yield promise, "no way"
        elif promise.id in wanting:
            yield promise, "poor way"
