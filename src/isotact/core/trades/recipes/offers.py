"""What a hand can do of a recipe."""

from collections.abc import Iterator

from isotact.core.trades.base import HandAct
from isotact.core.trades.recipes.acts import FollowStep, TryRecipe
from isotact.core.world import World


def offers(world: World, device: str) -> Iterator[HandAct]:
    """Every step of the recipes in which the device has a part, and the try at the end of each."""
    for taken in world.rig.rig.recipes:
        if device in taken.devices:
            for number in range(len(taken.recipe.steps)):
                yield FollowStep(promise=taken.promise, number=number)
            yield TryRecipe(promise=taken.promise, number=len(taken.recipe.steps), recipe=taken.recipe.id)
