"""Hours that were promised, looked at once more with all that is lost on the way: in leads, in outlets, within cells.

The choice counts watts, which is linear and a little kind. A plan that keeps its hours by watts and not by the circuit
is no plan: so much may not hang on that battery for so long, nor more, and it is chosen again.
"""

from __future__ import annotations

from isotact.core.calc.power import hours
from isotact.core.model.plan import Plan
from isotact.core.model.resolved import ResolvedRig
from isotact.core.planning.optimising.choice_model import ChoiceModel
from isotact.core.planning.optimising.nogoods import does_not_last
from isotact.core.trades import Planned
from isotact.core.trades.power.feeding import feeding_of

MOST_LOST = 0.5
"""Nothing that runs loses as much as half of its battery on the way: what lasts longer than that allows is passed."""
A_HAIR = 1e-9
"""What is held to just what it gives must not fail by rounding."""


def short_lived(rig: ResolvedRig, plan: Plan) -> list[tuple[str, str]]:
    """Each promise of hours that `plan` keeps by watts and not by the circuit, with the battery that is empty first."""
    kept = [promise for promise in rig.rig.lasting if promise.id in plan.kept]
    if not kept:
        return []
    feeding = feeding_of(Planned(rig, plan))
    found = []
    for device, load_w in feeding.supply.roots().items():
        for promise in kept:
            by_watts_wh = rig[device].lasting_wh(promise.changes)
            if not load_w or by_watts_wh is None:
                continue
            by_watts_h = hours(by_watts_wh, load_w)
            if by_watts_h * MOST_LOST > promise.hours_h:
                continue
            if feeding.lasts_h(device, promise.changes) < promise.hours_h - A_HAIR:
                found.append((promise.id, device))
    return found


def ruled_out_by_the_circuit(rig: ResolvedRig, plan: Plan, c: ChoiceModel, outright: bool = False) -> bool:
    """Rule out what hangs on the batteries of `plan` that do not last as promised. Whether there were any.

    `outright`: the promise itself, where so many plans failed that nobody is to wait for the next.
    """
    short = short_lived(rig, plan)
    for promise, device in short:
        does_not_last(c, plan, promise, device, outright)
    return bool(short)


def with_true_hours(rig: ResolvedRig, plan: Plan) -> Plan:
    """The same plan, each feed with the hours that its battery lasts with all that is lost on the way."""
    feeding = feeding_of(Planned(rig, plan))
    lasts_h = {feed.battery: feeding.lasts_h(feed.battery) for feed in plan.feeds if feed.battery and feed.hours_h}
    feeds = [
        feed.model_copy(update={"hours_h": lasts_h[feed.battery]}) if feed.hours_h and feed.battery else feed
        for feed in plan.feeds
    ]
    return plan.model_copy(update={"feeds": tuple(feeds)})
