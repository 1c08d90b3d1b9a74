"""What is done of a recipe: its steps, and the try at the end of them."""

from typing import ClassVar, Literal

from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id
from isotact.core.trades.base import Act, HandAct, Mishap
from isotact.core.trades.recipes.state import Recipes
from isotact.core.world import World


class _OfRecipe(Act):
    """A step of the recipe for a promise, counted from 0."""

    promise: Id
    number: int

    def unknown(self, world: World) -> str | None:
        """The promise, where no recipe was taken for it."""
        taken = any(one.promise == self.promise for one in world.rig.rig.recipes)
        return None if taken else f"no recipe was taken for {self.promise}"

    def why_not(self, world: World) -> str | None:
        if world[Recipes].count(world.rig, self.promise) < self.number:
            return "The step of the recipe before this one was not done."
        return None

    def do(self, world: World) -> str:
        for taken in world.rig.rig.recipes:
            if taken.promise == self.promise:
                world[Recipes].followed[taken.token] = self.number + 1
        return self.seen

    @property
    def seen(self) -> str:
        """What is said on the bench of a step whose effect it does not know."""
        return "Done by hand: what comes of it the bench does not know."


class FollowStep(_OfRecipe, HandAct):
    """One step of a recipe, as its finder wrote it down."""

    kind: Literal["follow-recipe"] = "follow-recipe"
    warns: ClassVar[bool] = False

    def says(self, rig: ResolvedRig) -> str:
        return f"Step {self.number + 1} of the recipe"


class TryRecipe(_OfRecipe, HandAct):
    """The promise tried at the end of its recipe, and the try counted, whichever way it went."""

    kind: Literal["try-recipe"] = "try-recipe"
    recipe: Id
    warns: ClassVar[bool] = False

    def says(self, rig: ResolvedRig) -> str:
        return "Try what the recipe is for"

    @property
    def seen(self) -> str:
        return "Tried by hand: it works, or it does not. The bench cannot tell, and proves nothing by it."


class LoseTheThread(Mishap):
    """A step of the recipe was left out, or came too late."""

    kind: Literal["lose-the-thread"] = "lose-the-thread"
    promise: Id

    def do(self, world: World) -> str:
        for taken in world.rig.rig.recipes:
            if taken.promise == self.promise:
                world[Recipes].followed.pop(taken.token, None)
        return "A step of the recipe was left out."
