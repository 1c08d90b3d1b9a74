"""What happened to a rig that was proven: a battery changed, a device restarted; and what has to be done again."""

from collections.abc import Sequence

from isotact.core.model.base import Struct
from isotact.core.model.words import Id
from isotact.core.questions.built_rig import BuiltRig
from isotact.core.questions.what_if import CannotAskError
from isotact.core.runsheet import sheet_between
from isotact.core.trades import Act, Condition, perform
from isotact.core.world import World
from isotact.core.world.signals import now


class Spoilt(Struct):
    """`promises`: each that rests on a condition which was not so for a while or is not so any more, and on which.

    `steps`: those of the sheet that have to be done again for it.
    """

    promises: dict[Id, tuple[str, ...]]
    steps: tuple[str, ...]


def spoilt_by(stood: BuiltRig, world: World, acts: Sequence[Act]) -> Spoilt:
    """What `acts` spoil in `world`, where the plan holds. Raises CannotAskError where they cannot be done."""
    after = world.fork()
    broken: dict[int, Condition] = {}
    for act in acts:
        reason = act.why_not(after)
        if reason is not None:
            raise CannotAskError(reason)
        perform(after, act)
        broken |= {
            number: one
            for number, one in enumerate(stood.conditions)
            if one.holds(world) and (not one.holds(after) or _began_anew(one, world, after))
        }
    promises: dict[Id, list[str]] = {}
    for number in sorted(broken):
        for promise in broken[number].promises:
            promises.setdefault(promise, []).append(broken[number].says(stood.rig))
    sheet = sheet_between(after, stood.plan, stood.conditions)
    again = (step.id for step in sheet.steps if not step.care)
    return Spoilt(promises={key: tuple(says) for key, says in promises.items()}, steps=tuple(again))


def _began_anew(condition: Condition, before: World, after: World) -> bool:
    """Whether it holds again only since its device came up, or got its power, a second time."""
    if not condition.lasts_while_up:
        return False
    return any(now(before).up_since_s(str(one)) != now(after).up_since_s(str(one)) for one in condition.key.about)
