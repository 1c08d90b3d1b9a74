"""What it comes to to change a battery of a rig that is up: what is lost, what has to be done again, for how long."""

from collections.abc import Iterator

from isotact.core.model.plan import Plan
from isotact.core.questions.feed_answers import BatteryChange, FeedTree
from isotact.core.questions.what_if import CannotAskError, aftermath
from isotact.core.telling.phrases import together
from isotact.core.trades import Condition
from isotact.core.trades.power.acts import FitBattery
from isotact.core.world import World

MOST_NAMED = 3
"""More than three things that are forgotten nobody reads in one line: the short sheet has them all."""


def with_battery_changes(tree: FeedTree, world: World, plan: Plan, conditions: tuple[Condition, ...]) -> FeedTree:
    """The same tree with what each battery's change comes to, in a `world` where the plan stands."""
    changed = tuple(
        one.model_copy(update={"change": battery_change(world, plan, conditions, one.device)}) for one in tree.batteries
    )
    return tree.model_copy(update={"batteries": changed})


def battery_change(world: World, plan: Plan, conditions: tuple[Condition, ...], device: str) -> BatteryChange | None:
    """What comes of a full battery for the one that is in; None for one that is built in, or cannot be reached."""
    power = world.rig[device].profile.power
    if power is None or power.inner_battery is None or not power.inner_battery.fitted:
        return None
    try:
        after = aftermath(world, plan, conditions, [FitBattery(device=device)])
    except CannotAskError:
        return None
    takes_s = FitBattery.hand_s + sum(step.takes_s + step.waits_s for step in after.sheet.steps if not step.care)
    return BatteryChange(
        lost=after.lost,
        forgotten=after.forgotten,
        takes_s=takes_s,
        says="".join(_says(after.lost, after.forgotten, takes_s)),
    )


def _says(lost: tuple[str, ...], forgotten: tuple[str, ...], takes_s: float) -> Iterator[str]:
    if takes_s <= FitBattery.hand_s:
        without = "Changed without a break: nothing has to be done again."
        yield "It goes dark meanwhile, and comes back by itself." if lost else without
        return
    minutes = max(1, round(takes_s / 60))
    yield f"A change costs {minutes} min"
    if forgotten:
        named = [words.rstrip(".") for words in forgotten[:MOST_NAMED]]
        more = len(forgotten) - len(named)
        yield f": no longer so is {together([f'“{one}”' for one in named])}" + (f" and {more} more" if more else "")
    yield "."
