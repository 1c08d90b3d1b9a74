"""What is fed how, where nothing promised decides: as it lasts longest, until the first thing in use goes dark.

A body with a battery of its own may run from the grip besides. Where hours are promised the choice itself sees to
them; where none are, nobody asks, and whoever leaves it as it stands finds out at four in the morning.
"""

from __future__ import annotations

from collections.abc import Iterator
from itertools import product
from math import inf

from isotact.core.model.plan import Plan
from isotact.core.model.resolved import ResolvedRig
from isotact.core.planning.optimising.choice_model import ChoiceModel
from isotact.core.planning.ways.requirements import Knob, knobs_of
from isotact.core.trades import Planned
from isotact.core.trades.planned import Removal
from isotact.core.trades.power.feeding import feeding_of

# To set something takes twenty seconds, and is found changed tomorrow: for less than a tenth nobody does it.
WORTH = 1.1
# Two settings of two values at each of two devices; more are not weighed against each other.
MOST_WEIGHED = 16


def longer(rig: ResolvedRig, plan: Plan, c: ChoiceModel) -> dict[Knob, str]:
    """The settings with which it lasts longer, where only feeds hang on them; empty where it is well as it is."""
    if rig.rig.lasting or not plan.kept:
        return {}
    planned = Planned(rig, plan)
    knobs = [knob for knob in _of_feeds(c) if knob[1] == "setting" and knob[0] in planned.in_use]
    now = {knob: planned.now[knob] for knob in knobs if knob in planned.now}
    weighed = list(product(*(c.value[knob] for knob in now)))
    if not now or len(weighed) > MOST_WEIGHED:
        return {}
    best_h = _first_dark(planned, {}, now)
    best: dict[Knob, str] = {}
    for values in weighed:
        other = dict(zip(now, values, strict=True))
        lasts_h = _first_dark(planned, other, now)
        if lasts_h is not None and best_h is not None and lasts_h > (best_h if best else WORTH * best_h):
            best_h, best = lasts_h, {knob: value for knob, value in other.items() if value != now[knob]}
    return best


def _of_feeds(c: ChoiceModel) -> Iterator[Knob]:
    """What some feed asks for, each once."""
    found: dict[Knob, None] = {}
    for feed in c.feeds.values():
        for device, role in ((feed.giver, feed.outlet), (feed.taker, feed.inlet)):
            found |= dict.fromkeys(knob for knob, _ in knobs_of(device, role.when))
    return iter(found)


def _first_dark(planned: Planned, other: dict[Knob, str], now: dict[Knob, str]) -> float | None:
    """Hours until the first battery in use is empty; None where something promised would not hold."""
    knobs = tuple((knob, value) for knob, value in other.items() if value != now[knob])
    without = Removal(knobs=knobs)
    if knobs and planned.lost_without(without):
        return None
    feeding = feeding_of(planned, without)
    if any(not feeding.supply.has_power(device) for device in planned.in_use):
        return None
    lasts = [feeding.lasts_h(device) for device, load_w in feeding.supply.roots().items() if load_w]
    return min((one for one in lasts if one < inf), default=None)
