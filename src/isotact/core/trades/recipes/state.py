"""How far each recipe was followed."""

from dataclasses import dataclass, field
from typing import ClassVar

from isotact.core.model.resolved import ResolvedRig
from isotact.core.world import State, World


@dataclass
class Recipes(State):
    """By the token of a recipe that was taken, how many of its steps were done in a row; the try is the last."""

    word: ClassVar[str] = "recipes"
    followed: dict[str, int] = field(default_factory=dict)

    def count(self, rig: ResolvedRig, promise: str) -> int:
        """How many steps were done of the recipe for a promise."""
        return next((self.followed.get(one.token, 0) for one in rig.rig.recipes if one.promise == promise), 0)

    def sleeps(self, world: World, device: str) -> None:
        """Whatever it was, it may well be gone when a device of it goes off: it is followed and tried again."""
        for taken in world.rig.rig.recipes:
            if device in taken.devices:
                self.followed.pop(taken.token, None)
