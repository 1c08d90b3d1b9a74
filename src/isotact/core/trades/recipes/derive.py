"""The steps of the recipes on which promises of a plan rest."""

from isotact.core.trades.planned import Planned
from isotact.core.trades.recipes.conditions import Followed
from isotact.core.trades.trade import Derived


def derive(planned: Planned) -> Derived:
    """Each step of each recipe that is needed, and the try after them; nothing where a device of it is not in use."""
    resting = {one.promise for one in planned.plan.maybe}
    for taken in planned.rig.rig.recipes:
        if taken.promise in resting and {*taken.devices} <= {*planned.in_use}:
            for number in range(len(taken.recipe.steps) + 1):
                yield Followed(promise=taken.promise, number=number)
