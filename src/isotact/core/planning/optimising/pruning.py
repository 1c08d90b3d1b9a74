"""From what a search turned up to the model of choosing among it."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import replace
from typing import TYPE_CHECKING

from isotact.core.model.plan import Link
from isotact.core.model.resolved import ResolvedRig
from isotact.core.planning.optimising.choice_model import PLAIN, ChoiceModel, Terms
from isotact.core.planning.optimising.constraints import build
from isotact.core.planning.optimising.pins import is_pinned
from isotact.core.planning.ways.all_ways import Searched

if TYPE_CHECKING:
    from ortools.sat.python import cp_model


def build_found(
    rig: ResolvedRig, found: Searched, terms: Terms = PLAIN, model: cp_model.CpModel | None = None
) -> ChoiceModel:
    """The model of what `found` turned up, without the links that can only cost."""
    return build(rig, useful_links(rig, found), found.options, replace(terms, walks=found.walks), model)


def useful_links(rig: ResolvedRig, found: Searched) -> list[Link]:
    """The links that some way takes, that feed what could be of use, or that a pin names; the rest can only cost."""
    crossings = [one for ways in found.options.values() for needs in ways for one in needs.way.crossings]
    crossings += [hop.crossing for walk in found.walks.values() for hop in walk.hops]
    taken = {link.id for crossing in crossings for link in crossing.span.links}
    kept, feeding = [], []
    used = {device for ways in found.options.values() for needs in ways for device in needs.way.devices}
    used |= {step.leg.device for walk in found.walks.values() for step in walk.steps}
    # What is in use whatever is promised: bodies and their gimbals, and all that can run where hours alone are.
    alone = not rig.rig.routed
    used |= {
        device
        for device, placed in rig.devices.items()
        if placed.profile.makes or placed.profile.carrier or (alone and placed.profile.power)
    }
    used |= {device for taken in rig.rig.recipes for device in taken.devices}
    for link in found.links:
        if link.id in taken or any(use.is_seat for use in link.uses) or is_pinned(rig, link):
            kept.append(link)
            used |= {end.device for end in link.ends}
        elif any(use.is_power for use in link.uses):
            feeding.append(link)
    kept += _of_use(feeding, used, [*kept, *feeding])
    return sorted(kept, key=lambda link: link.id)


def _of_use(feeding: list[Link], used: set[str], links: list[Link]) -> list[Link]:
    """Those of `feeding` by which something of use is fed, at first hand or through others."""
    fed_by: dict[str, set[str]] = defaultdict(set)
    for link in links:
        for giver, taker in _given(link):
            fed_by[taker].add(giver)
    ahead = [*used]
    while ahead:
        new = fed_by[ahead.pop()] - used
        used |= new
        ahead += new
    return [link for link in feeding if any(taker in used for _, taker in _given(link))]


def _given(link: Link) -> Iterator[tuple[str, str]]:
    """Who could feed whom over a link."""
    for use in link.uses:
        if use.is_power:
            giver, taker = link.ends if use.flow == "a-to-b" else link.ends[::-1]
            yield giver.device, taker.device
