"""What a plan turned out not to be able to: constraints that are learnt from sheets that prove nothing."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import TYPE_CHECKING

from isotact.core.model.plan import Plan
from isotact.core.planning.optimising.choice_model import ChoiceModel

if TYPE_CHECKING:
    from ortools.sat.python import cp_model


def rule_out(c: ChoiceModel, made: Plan, missing: Mapping[str, str], outright: bool) -> None:
    """Forbid the ways that some promises take in `made` together, in the modes that it has; `outright`: any way at all.

    `missing` says of each what it lacked at the end. Which of them stands in the way is not known: at least one has to
    go, or to go another way. Each has a group of its own, so that it can be asked about.
    """
    if outright:
        for promise, says in missing.items():
            c.clause(("sheet", (promise, says)), [c.kept[promise].negated()])
    else:
        ways = [var for promise in missing for var in _way(c, made, promise)]
        promise, says = next(iter(missing.items()))
        c.clause(("sheet", (promise, says)), [var.negated() for var in (*ways, *_modes(c, made))])
    c.enforce_all()


def does_not_last(
    c: ChoiceModel,
    made: Plan,
    promise: str,
    device: str,
    outright: bool = False,
    unless: Iterable[cp_model.IntVar] = (),
) -> None:
    """Forbid that `promise` of hours is kept while the battery of `device` carries all that it carries in `made`.

    What carries more is forbidden with it, and what carries the same over leads that lose as much: it would last
    no longer. `outright`: whatever it carries. `unless`: what would make it last longer, such as to charge it first.
    """
    literals = [c.kept[promise].negated(), *unless]
    if not outright:
        literals.append(c.battery[device].negated())
    for feed in () if outright else made.feeds:
        if feed.battery == device and feed.join is not None:
            for over in c.feeds.values():
                if over.taker == feed.device and feed.join in over.by_link:
                    lost = over.by_link[feed.join].line.ohm
                    literals.append(c.carries[over.span.key].negated())
                    literals += [c.link[link] for link, most in over.by_link.items() if most.line.ohm < lost]
    c.clause(("battery", (promise, device)), literals)
    c.enforce_all()


def _way(c: ChoiceModel, made: Plan, promise: str) -> list[cp_model.IntVar]:
    route = next((one for one in made.routes if one.promise == promise), None)
    crossed = [hop for hop in route.hops if hop.link is not None and hop.use is not None] if route is not None else []
    spans = [
        c.span[span.key]
        for hop in crossed
        for span in c.spans.values()
        if span.key in c.span and span.use == hop.use and any(link.id == hop.link for link in span.links)
    ]
    return [c.kept[promise], *spans]


def _modes(c: ChoiceModel, made: Plan) -> list[cp_model.IntVar]:
    return [c.value[device, "mode", ""][mode] for device, mode in made.modes.items() if (device, "mode", "") in c.value]
