"""What a plan says of the recipes that were taken: for which promises, how sure, and what is not as it was."""

from collections.abc import Collection, Iterator, Sequence

from isotact.core.model.plan import Maybe
from isotact.core.model.resolved import ResolvedRig
from isotact.core.telling.phrases import promise_words
from isotact.core.telling.recipe_words import differences


def maybes_of(rig: ResolvedRig, kept: Collection[str], in_use: Collection[str]) -> Iterator[Maybe]:
    """One for each promise that rests on a recipe, since the plan keeps it in no other way."""
    for taken in rig.rig.recipes:
        if taken.promise not in kept:
            differs = (*differences(rig, taken.recipe, taken.devices), *_not_there(rig, taken.devices, in_use))
            yield Maybe(
                promise=taken.promise, recipe=taken.recipe.id, name=taken.recipe.name, says=taken.says, differs=differs
            )


def not_needed(rig: ResolvedRig, kept: Collection[str]) -> Iterator[str]:
    """A recipe is laid aside where its promise has a way of its own."""
    for taken in rig.rig.recipes:
        if taken.promise in kept:
            words = promise_words(rig, rig.rig.promise(taken.promise))
            yield f"The recipe “{taken.recipe.name}” is not needed: {words} has a way of its own."


def _not_there(rig: ResolvedRig, devices: Sequence[str], in_use: Collection[str]) -> Iterator[str]:
    for key in devices:
        if key in rig.rig.left_in_case:
            yield f"{rig[key].name} is to stay in its case, and the recipe needs it."
        elif key not in in_use:
            yield f"{rig[key].name} is not in use in this plan: nothing is left to run it, or it is too heavy."
