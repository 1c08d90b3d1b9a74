"""What was done otherwise than the sheet has it, and what that costs: told as it happens, and never forbidden."""

from typing import Literal

from isotact.core.bench.moves import Told
from isotact.core.model.base import Struct
from isotact.core.runsheet import RunSheet

NOTHING_S = 1.0
"""What costs less is nothing: no hand is that even."""


class Otherwise(Struct):
    """A move that was not the sheet's next step.

    `how`: a later step of the sheet, one that it has not at all, or one that could not be done. `costs_s`: how much
    more there is to do than if it had been done as the sheet has it, its own seconds with it; less than nothing: it
    saved some. `later`: the steps that come besides because of it.
    """

    number: int
    says: str
    how: Literal["earlier", "beside", "refused"]
    costs_s: float
    later: tuple[str, ...] = ()


def otherwise(told: Told, before: RunSheet, after: RunSheet) -> Otherwise | None:
    """What a move did to the sheet: None where it was the next step, or cost nothing and stood nowhere."""
    first = before.steps[0] if before.steps else None
    if first is not None and told.could and told.step == first.id:
        return None
    known = {step.id for step in before.steps}
    later = tuple(step.title for step in after.steps if step.id not in known)
    is_care = any(step.id == told.step and step.care for step in before.steps)
    costs_s = (0.0 if is_care else told.took_s) + _all_of(after) - _all_of(before)
    how: Literal["earlier", "beside", "refused"] = "beside" if told.step is None else "earlier"
    return Otherwise(
        number=told.number,
        says=told.says,
        how=how if told.could else "refused",
        costs_s=0.0 if abs(costs_s) < NOTHING_S else round(costs_s, 1),
        later=later,
    )


def _all_of(sheet: RunSheet) -> float:
    """How long all of a sheet takes whoever does it alone, waits with it; good manners are done when there is time."""
    return sum(step.takes_s + step.waits_s for step in sheet.steps if not step.care)
