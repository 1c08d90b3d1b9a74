"""What every variable of a choice costs, and the aim: most promises first, then the least cost."""

from __future__ import annotations

from collections import defaultdict
from typing import TYPE_CHECKING

from isotact.core.model.plan import Link
from isotact.core.wiring import costs
from isotact.core.wiring.choosing import Choosing
from isotact.core.wiring.requirements import knob_now

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

FINE = 1000
"""Points are scaled by this, so that ties can be broken below one point by the order of the profile."""


def price(c: Choosing) -> dict[str, list[tuple[int, cp_model.IntVar]]]:
    """Per kind of cost, how many units each variable stands for."""
    lines: dict[str, list[tuple[int, cp_model.IntVar]]] = defaultdict(list)
    for link in c.links.values():
        lines["axis"].append((len(link.axes), c.link[link.id]))
        if not link.lead:
            _price_of_piece(c, lines, link, c.link[link.id])
    for lead, var in c.lead.items():
        _price_of_piece(c, lines, next(link for link in c.links.values() if link.lead == lead), var)
    for knob, values in c.value.items():
        now = knob_now(c.rig[knob[0]], knob)
        for value, var in values.items():
            if value != now:
                lines[knob[1]].append((1, var))
    for var in c.awake.values():
        lines["device"].append((1, var))
    for promise in c.rig.rig.promises:
        for number, needs in enumerate(c.options.get(promise.id, [])):
            if promise.kind == "picture":
                lines["delay"].append((costs.delay_units(needs.way.delay_ms), c.route[promise.id, number]))
    return lines


def _price_of_piece(
    c: Choosing, lines: dict[str, list[tuple[int, cp_model.IntVar]]], link: Link, var: cp_model.IntVar
) -> None:
    lines["join" if link.kind == "cable" else link.kind].append((1, var))
    if link.adapter:
        lines["adapter"].append((1, var))
    length = sum(c.rig.cables[key].length_mm for key in (link.cable, link.adapter) if key)
    lines["length"].append((costs.length_units(length), var))


def aim(c: Choosing) -> None:
    """Keep the most promises by weight; among those the cheapest; among those by the order of the profiles."""
    points = [
        (FINE * costs.WORDS[kind][1] * count, var) for kind, items in price(c).items() for count, var in items if count
    ]
    points += [(min(place, 9), var) for values in c.value.values() for place, var in enumerate(values.values())]
    dear = 1 + sum(weight for weight, _ in points)
    gain = [(dear * promise.weight, c.kept[promise.id]) for promise in c.rig.rig.promises]
    c.model.maximize(sum(weight * var for weight, var in gain) - sum(weight * var for weight, var in points))
