"""Promises in words, short, as they stand on strip, map and sheet."""

from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import Promise
from isotact.core.model.words import FUNCTIONS


def promise_words(rig: ResolvedRig, promise: Promise) -> str:
    """What was promised, short: `ISO from the touch screen of Phone`."""
    if promise.kind == "power":
        return f"{promise.hours_h:g} h without a battery change"
    placed = rig[promise.at.device]
    surface = placed.profile.surface(promise.at.surface).name
    if promise.kind == "control":
        return f"{FUNCTIONS[promise.function].name} from the {surface} of {placed.name}"
    return f"picture on the {surface} of {placed.name}"
