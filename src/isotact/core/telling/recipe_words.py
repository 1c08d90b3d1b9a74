"""What is not as it was when a recipe was found to work."""

from collections.abc import Iterator, Sequence

from isotact.core.model.recipe import Recipe
from isotact.core.model.resolved import ResolvedRig


def differences(rig: ResolvedRig, recipe: Recipe, devices: Sequence[str]) -> Iterator[str]:
    """A sentence for each; `devices` of the rig stand for those of the recipe, in their order."""
    for wanted, key in zip(recipe.devices, devices, strict=True):
        has = rig[key].device.firmware
        if wanted.firmware is not None and has != wanted.firmware:
            is_now = f"has {has}" if has else "has one that nobody looked at"
            yield f"{rig[key].name} {is_now}; the recipe was found with firmware {wanted.firmware}."
