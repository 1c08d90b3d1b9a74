"""Like devices that nothing sets apart: of all ways to share out the work among them, one is enough.

Without this a rig with six spare motors is searched once for each order of them. A pin, a name in a promise, a tape
flag, a battery half full, or a cable that only one of them could have sets a device apart.
"""

from __future__ import annotations

from collections import defaultdict
from itertools import pairwise
from typing import TYPE_CHECKING

from isotact.core.model.legs import legs_of
from isotact.core.model.plan import Link, LinkEnd
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.rig import Promise
from isotact.core.planning.optimising.choice_model import ChoiceModel
from isotact.core.solver import weighted

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

Port = tuple[str, str]
"""A device, or a kind of device where it makes no difference which, and an end of it."""


def add_interchanging(c: ChoiceModel) -> None:
    """Of like devices the first are used first; a chain of them runs from first to last."""
    at = _links_at(c)
    settled: set[str] = set()
    for those in _likes(c, at):
        for one, after in pairwise(those):
            c.model.add_implication(c.awake[after], c.awake[one])
        if (inlet := _chained(c.rig[those[0]], those, at)) is not None:
            _onward(c, those, at, inlet)
        else:
            _in_order(c, those, at, settled)
        settled.update(those)
    for alike in asked_alike(c):
        for first, second in pairwise(alike):
            # The first is served first: read as one number, what is kept at it is no less than at the next. Only where
            # the best is looked for: whoever asks about the last of them is not told of the first.
            ahead, behind = (weighted([(2**n, c.kept[key]) for n, key in enumerate(kept)]) for kept in (first, second))
            c.model.add(ahead >= behind).only_enforce_if(c.aimed)


def asked_alike(c: ChoiceModel) -> list[list[tuple[str, ...]]]:
    """The promises at like devices of each of which the same is promised: twenty phones that all want the picture.

    A group holds for each such device its promises, in one order for all of them.
    """
    at = _links_at(c)
    apart = c.terms.apart | _set_apart(c.rig)
    asked: dict[str, list[Promise]] = defaultdict(list)
    for promise in c.rig.rig.promises:
        for device in promise.devices:
            asked[device].append(promise)
    alike: dict[object, list[str]] = defaultdict(list)
    for device in dict.fromkeys(one.id for one in c.rig.rig.devices):
        wanted = asked.get(device, [])
        if wanted and device not in apart and all(promise.devices == {device} for promise in wanted):
            shapes = tuple(sorted(_shape(promise) for promise in wanted))
            alike[_piece(c.rig[device]), shapes].append(device)
    groups = [those for those in alike.values() if len({_reach(device, those, at) for device in those}) == 1]
    return [[_in_one_order(asked[device]) for device in those] for those in groups if len(those) > 1]


def _shape(promise: Promise) -> str:
    """What is promised, but for whose it is and at which of several like devices."""
    return promise.model_copy(update={"id": "like", "who": "like"}).model_dump_json(exclude={"at": {"device"}})


def _in_one_order(promises: list[Promise]) -> tuple[str, ...]:
    return tuple(promise.id for promise in sorted(promises, key=_shape))


def _links_at(c: ChoiceModel) -> dict[str, list[tuple[LinkEnd, LinkEnd, Link]]]:
    at: dict[str, list[tuple[LinkEnd, LinkEnd, Link]]] = defaultdict(list)
    for link in c.links.values():
        for end, other in (link.ends, link.ends[::-1]):
            at[end.device].append((end, other, link))
    return at


def _likes(c: ChoiceModel, at: dict[str, list[tuple[LinkEnd, LinkEnd, Link]]]) -> list[list[str]]:
    """Groups of two and more that could change places, each in the order of the rig."""
    apart = c.terms.apart | _named(c.rig)
    alike: dict[object, list[str]] = defaultdict(list)
    # In the order of the document, by which the price list breaks ties too: two orders would pull against each other.
    for device in dict.fromkeys([*(one.id for one in c.rig.rig.devices), *c.rig.devices]):
        placed = c.rig.devices.get(device)
        if placed is not None and device not in apart:
            alike[_piece(placed)].append(device)
    groups = []
    for those in alike.values():
        by_reach: dict[object, list[str]] = defaultdict(list)
        for device in those:
            by_reach[_reach(device, those, at)].append(device)
        # One that cannot be joined as the others are breaks the whole group: who could change places then is unclear.
        if len(those) > 1 and len(by_reach) == 1:
            groups.append(those)
    return groups


def _piece(placed: Placed) -> tuple[str, str]:
    """What is known of a piece, but for its name."""
    piece = placed.device.model_copy(update={"id": "like", "name": None, "tag": None, "note": None})
    return placed.profile.id, piece.model_dump_json()


def _named(rig: ResolvedRig) -> frozenset[str]:
    return _set_apart(rig) | {device for one in rig.rig.promises for device in one.devices}


def _set_apart(rig: ResolvedRig) -> frozenset[str]:
    """The devices that a pin, a recipe or a tape flag tells from others like them."""
    pinned = {device for one in rig.rig.pins for device in one.devices}
    pinned |= {device for taken in rig.rig.recipes for device in taken.devices}
    return frozenset(pinned | {point.device for flag in rig.rig.flags for point in (flag.a, flag.b)})


def _reach(device: str, likes: list[str], at: dict[str, list[tuple[LinkEnd, LinkEnd, Link]]]) -> object:
    """All that `device` could be joined with, and by what."""
    return frozenset(
        (
            end.endpoint,
            "" if other.device in likes else other.device,
            other.endpoint,
            link.cable,
            link.adapter_a,
            link.adapter_b,
            link.lead,
        )
        for end, other, link in at[device]
    )


def _chained(placed: Placed, likes: list[str], at: dict[str, list[tuple[LinkEnd, LinkEnd, Link]]]) -> str | None:
    """The end by which like devices hang on one another, where a ring of them could not be of use to anybody."""
    outlets: dict[str, set[str]] = defaultdict(set)
    for end, other, _ in at[likes[0]]:
        if other.device in likes and end.endpoint != other.endpoint:
            outlets[end.endpoint].add(other.endpoint)
    return next((inlet for inlet in outlets if _no_use_in_a_ring(placed, inlet, outlets[inlet])), None)


def _no_use_in_a_ring(placed: Placed, inlet: str, outlets: set[str]) -> bool:
    """Whether nothing that comes from outside a ring of these ends could leave it again, or act in it."""
    inner = {inlet, *outlets}
    if any(placed.endpoint(end).takes != 1 for end in inner):
        return False
    come, go = set[str](), set[str]()
    for leg in legs_of(placed):
        starts = leg.enters is None or leg.enters[0] not in inner
        stops = leg.leaves is None or leg.leaves[0] not in inner
        if starts != stops:
            (come if starts else go).update(leg.functions or {"picture"})
        if len(outlets) > 1 and leg.enters is not None and leg.enters[0] in outlets:
            return False
    inlets = {key for key, end in placed.profile.endpoints.items() if any(role.is_inlet for role in end.roles)}
    power = any(role.is_inlet or role.is_outlet for end in inner for role in placed.endpoint(end).roles)
    own = placed.profile.power is not None and placed.profile.power.inner_battery is not None
    return not come & go and not (power and (own or inlets - {inlet}))


def _onward(c: ChoiceModel, likes: list[str], at: dict[str, list[tuple[LinkEnd, LinkEnd, Link]]], inlet: str) -> None:
    """Nothing is led back from a later one to an earlier."""
    place = {device: number for number, device in enumerate(likes)}
    for device in likes:
        for end, other, link in at[device]:
            back = place.get(other.device, -1) > place[device]
            if back and end.endpoint == inlet and other.endpoint != inlet:
                c.model.add(c.link[link.id] == 0)


def _in_order(
    c: ChoiceModel, likes: list[str], at: dict[str, list[tuple[LinkEnd, LinkEnd, Link]]], settled: set[str]
) -> None:
    """The first of them goes to the first of what they could be joined with, by the end that has most to choose."""
    kinds = {device: placed.profile.id for device, placed in c.rig.devices.items()}
    partners: dict[str, dict[Port, None]] = defaultdict(dict)
    for end, other, _ in at[likes[0]]:
        if other.device not in likes:
            known = other.device in settled or list(kinds.values()).count(kinds[other.device]) == 1
            partners[end.endpoint][other.device if known else kinds[other.device], other.endpoint] = None
    if not partners:
        return
    # An order at the end with the most to choose from rules out the most.
    chosen = max(partners, key=lambda end: len(partners[end]))
    ranks = {port: len(partners[chosen]) - number for number, port in enumerate(partners[chosen])}
    marks: list[cp_model.LinearExpr | int] = []
    for device in likes:
        terms = []
        for end, other, link in at[device]:
            if end.endpoint == chosen and other.device not in likes:
                port = (other.device, other.endpoint)
                rank = ranks[port] if port in ranks else ranks[kinds[other.device], other.endpoint]
                terms.append(rank * c.link[link.id])
        marks.append(sum(terms))
    for one, after in pairwise(marks):
        c.model.add(one >= after)
