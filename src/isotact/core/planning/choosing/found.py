"""From what a search turned up to the model of choosing among it."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from isotact.core.model.plan import Link
from isotact.core.model.resolved import ResolvedRig
from isotact.core.planning.choosing.building import build
from isotact.core.planning.choosing.model import PLAIN, Choosing, Terms
from isotact.core.planning.choosing.pinning import is_pinned
from isotact.core.planning.finding.searching import Searched

if TYPE_CHECKING:
    from ortools.sat.python import cp_model


def build_found(
    rig: ResolvedRig, found: Searched, terms: Terms = PLAIN, model: cp_model.CpModel | None = None
) -> Choosing:
    """The model of what `found` turned up, without the links that can only cost."""
    return build(rig, useful_links(rig, found), found.options, replace(terms, walks=found.walks), model)


def useful_links(rig: ResolvedRig, found: Searched) -> list[Link]:
    """The links that some way takes, that carry power, or that a pin names; the rest can only cost."""
    taken = {
        link.id
        for ways in found.options.values()
        for needs in ways
        for crossing in needs.way.crossings
        for link in crossing.span.links
    }
    taken |= {link.id for walk in found.walks.values() for hop in walk.hops for link in hop.crossing.span.links}
    return [
        link
        for link in found.links
        if link.id in taken or any(use.is_power or use.is_seat for use in link.uses) or is_pinned(rig, link)
    ]
