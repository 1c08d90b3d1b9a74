"""Before you pull it: what goes at once, what is forgotten, and what brings it back."""

from collections.abc import Sequence

from isotact.core.model.base import Struct
from isotact.core.model.plan import Plan
from isotact.core.model.problems import IsotactError
from isotact.core.model.words import Id
from isotact.core.runsheet import RunSheet, sheet_between
from isotact.core.trades import Act, Condition, perform
from isotact.core.world import World, prove


class CannotAskError(IsotactError):
    """What was asked cannot be done to this rig."""


class Aftermath(Struct):
    """What comes of one thing done to a rig that is up.

    `lost` are promises that go at once, `forgotten` what no longer stands and does not come back by itself, in words;
    `sheet` brings everything back.
    """

    seen: str
    lost: tuple[Id, ...]
    forgotten: tuple[str, ...]
    sheet: RunSheet


def aftermath(world: World, plan: Plan, conditions: tuple[Condition, ...], acts: Sequence[Act]) -> Aftermath:
    """What comes of `acts` in `world`, which stays as it is. Raises CannotAskError where they cannot be done."""
    after = world.fork()
    seen = ""
    for act in acts:
        reason = act.why_not(after)
        if reason is not None:
            raise CannotAskError(reason)
        seen = perform(after, act)
    lost = tuple(promise for promise in plan.kept if prove(world, promise).ok and not prove(after, promise).ok)
    forgotten = tuple(
        condition.says(world.rig)
        for condition in conditions
        if condition.is_remembered and condition.holds(world) and not condition.holds(after)
    )
    return Aftermath(seen=seen, lost=lost, forgotten=forgotten, sheet=sheet_between(after, plan, conditions))
