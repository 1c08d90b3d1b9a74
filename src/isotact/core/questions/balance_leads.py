"""The leads that cross axes of a gimbal: how each is led and tied, and what they may pull."""

from __future__ import annotations

from collections.abc import Iterator

from isotact.core.calc.leads import pull_nm
from isotact.core.model.gimbals import Axis
from isotact.core.model.plan import Join
from isotact.core.questions.balance_answers import LedLead, three
from isotact.core.telling.phrases import lead_words
from isotact.core.trades import Planned
from isotact.core.trades.balance.leads import KNOWN_MM, least_mm, tied
from isotact.core.trades.balance.leads_words import led_words


def led_leads(planned: Planned) -> Iterator[tuple[Join, LedLead]]:
    """Each lead of which it is known how it is led, in the order of the plan."""
    rig = planned.rig
    for join in planned.joins:
        link = join.link
        led = tied(rig, *link.ends) if link.is_cable and link.axes else None
        if led is None:
            continue
        has_mm = sum(rig.cables[key].length_mm for key in link.stock)
        mass_g = sum(rig.cables[key].mass_g for key in link.stock)
        yield (
            join,
            LedLead(
                tag=join.tag,
                name=lead_words(rig, link),
                says=tuple(led_words(rig, link.ends, link.axes, has_mm)),
                through=tuple(three(at) for at in led.through),
                ties=tuple(three(at) for _, at in led.ties),
                has_mm=has_mm,
                needs_mm=round(led.needs_mm),
                least_mm=least_mm(rig, *link.ends),
                is_tied=has_mm >= led.needs_mm - KNOWN_MM,
                pull_nm=round(pull_nm(mass_g, has_mm), 4),
            ),
        )


def pull_on(axis: Axis, leads: list[tuple[Join, LedLead]]) -> float:
    """What all leads that cross an axis may turn it by together, in newton metres."""
    return sum(lead.pull_nm for join, lead in leads if axis in join.link.axes)
