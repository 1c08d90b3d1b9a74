"""That a recipe was followed, step by step."""

from typing import Literal

from isotact.core.model.keys import Item, Key
from isotact.core.model.recipe import TakenRecipe
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.vocabulary import vocabulary
from isotact.core.model.words import Id
from isotact.core.telling.phrases import promise_words
from isotact.core.telling.recipe_words import differences
from isotact.core.trades.base import Check, Condition, Draft, Fault
from isotact.core.trades.recipes.acts import FollowStep, LoseTheThread, TryRecipe
from isotact.core.trades.recipes.state import Recipes
from isotact.core.world import World
from isotact.core.world.observation import state


class Followed(Condition):
    """Step `number` of the recipe for a promise was done, counted from 0; the one after the last is the try.

    No promise needs it by what the plan knows: what rests on a recipe is kept by no plan.
    """

    kind: Literal["followed"] = "followed"
    promise: Id
    number: int

    @property
    def key(self) -> Key:
        return Key.of("followed", Item(self.promise, str(self.number)))

    def holds(self, world: World) -> bool:
        return world[Recipes].count(world.rig, self.promise) > self.number

    def says(self, rig: ResolvedRig) -> str:
        name = self._taken(rig).recipe.name
        if self._is_try(rig):
            return f"The recipe “{name}” was tried, and the try counted."
        return f"Step {self.number + 1} of the recipe “{name}” was done."

    def made_by(self) -> Key:
        return recipe_key(self.promise, self.number)

    def needs(self) -> tuple[Key, ...]:
        return (Followed(promise=self.promise, number=self.number - 1).key,) if self.number else ()

    def draft(self, rig: ResolvedRig) -> Draft:
        taken = self._taken(rig)
        return self._try(rig, taken) if self._is_try(rig) else self._step(rig, taken)

    def _step(self, rig: ResolvedRig, taken: TakenRecipe) -> Draft:
        steps = taken.recipe.steps
        words = promise_words(rig, rig.rig.promise(taken.promise))
        lead = [f"{taken.says[0].upper()}{taken.says[1:]}: the recipe “{taken.recipe.name}”, for {words}."]
        lead += differences(rig, taken.recipe, taken.devices)
        lead += [taken.recipe.conditions] if taken.recipe.conditions else []
        return Draft(
            key=self.made_by(),
            stage="prove",
            title=f"Maybe, {self.number + 1} of {len(steps)}: {steps[self.number].says.rstrip('.')}",
            detail=() if self.number else tuple(lead),
            expect=steps[self.number].expect or "Done.",
            # A line of a list, read and done with care.
            takes_s=30,
            act=FollowStep(promise=self.promise, number=self.number),
            device=taken.devices[0],
            care=True,
        )

    def _try(self, rig: ResolvedRig, taken: TakenRecipe) -> Draft:
        promise = rig.rig.promise(taken.promise)
        function = vocabulary().functions[promise.worked] if promise.worked is not None else None
        act, seen = (function.act, function.seen) if function else ("wave a hand before the lens", "the picture moves")
        stop = ("The button toggles: stop again.",) if function and function.rolls else ()
        return Draft(
            key=self.made_by(),
            stage="prove",
            title=f"Maybe: try {promise_words(rig, promise)}",
            detail=(
                f"{act[0].upper()}{act[1:]}.",
                *stop,
                "Count the try, whichever way it went: one that failed is worth as much to the next crew.",
                "A maybe is not a promise kept: tell whoever it was promised to.",
            ),
            expect=f"{seen[0].upper()}{seen[1:]}; or it does not, and that is counted too.",
            # Worked once, and counted.
            takes_s=30,
            act=TryRecipe(promise=self.promise, number=self.number, recipe=taken.recipe.id),
            device=promise.place,
            care=True,
        )

    def check(self, rig: ResolvedRig) -> Check:
        return Check(
            id=Key.of("ask-about-recipe", Item(self.promise, str(self.number))),
            says=f"Ask whoever followed the recipe “{self._taken(rig).recipe.name}” whether this step was done.",
            seconds=5,
            read=lambda world: state("it was" if self.holds(world) else "it was not"),
        )

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        says = f"a step of the recipe “{self._taken(rig).recipe.name}” was left out"
        # Steps that nobody knows the reason of are the first to be forgotten.
        return (Fault(id="left-out", says=says, weight=2, mend_s=120, act=LoseTheThread(promise=self.promise)),)

    def _taken(self, rig: ResolvedRig) -> TakenRecipe:
        return next(one for one in rig.rig.recipes if one.promise == self.promise)

    def _is_try(self, rig: ResolvedRig) -> bool:
        return self.number == len(self._taken(rig).recipe.steps)


def recipe_key(promise: str, number: int) -> Key:
    """A step of the recipe for a promise, counted from 0."""
    return Key.of("recipe", Item(promise, str(number)))
