"""Cuts that say nothing new: no more pictures leave a device than come in, times the clients that it serves.

Each way says so for itself already. Put together it is said outright what is otherwise found by trying every sharing
out: that twenty phones behind one camera with one socket are served by one link, however many links lie there.
"""

from __future__ import annotations

from collections import defaultdict
from typing import TYPE_CHECKING

from isotact.core.model.legs import legs_of
from isotact.core.planning.optimising.choice_model import ChoiceModel, Group
from isotact.core.planning.optimising.pins import is_pinned
from isotact.core.planning.ways.candidates import Span
from isotact.core.solver import weighted

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

    from isotact.core.model.plan import LinkEnd


def add_relay_cuts(c: ChoiceModel) -> None:
    """Add one for each end by which a device that makes no picture itself could send one on."""
    making = {leg.device for placed in c.rig.devices.values() for leg in legs_of(placed) if leg.starts_picture}
    comes: dict[str, list[cp_model.IntVar]] = defaultdict(list)
    leaves: dict[tuple[str, str, str], list[Span]] = defaultdict(list)
    for span in c.spans.values():
        if span.key in c.span and span.use.is_picture:
            giver, role, taker = _sent(span)
            comes[taker.device].append(c.span[span.key])
            leaves[giver.device, giver.endpoint, role].append(span)
            if span.use.flow == "both":
                making |= {giver.device, taker.device}
    for (device, endpoint, role), spans in leaves.items():
        # A splitter serves several ends of one, and what a pin joins is joined whether a picture comes or not.
        if device in making or any(link.lead or is_pinned(c.rig, link) for span in spans for link in span.links):
            continue
        sender = c.rig[device]
        serves, room = sender.role(endpoint, role).serves, sender.endpoint(endpoint).takes
        group: Group = ("port", (device, endpoint))
        if serves is not None and serves < room:
            group, room = ("clients", (device, role, str(serves))), serves
        sent = [(1, c.span[span.key]) for span in spans]
        made = c.model.add(weighted([*sent, *((-room, var) for var in comes[device])]) <= 0)
        if len(spans) > room and c.guarded:
            made.only_enforce_if(c.guard(group))


def _sent(span: Span) -> tuple[LinkEnd, str, LinkEnd]:
    """From where a picture is sent, by which role, and where it comes in."""
    if span.use.flow == "b-to-a":
        return span.b, span.use.role_b, span.a
    return span.a, span.use.role_a, span.b
