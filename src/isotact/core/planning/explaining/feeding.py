"""Which lead would feed what has no feed, or none that is strong enough: tried before it is named."""

from collections.abc import Callable, Collection, Iterator
from dataclasses import replace

from isotact.core.model.plan import Link
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import BagItem, Promise
from isotact.core.planning.choosing.model import Choosing, Group
from isotact.core.planning.finding.candidates import spans_of, would_be
from isotact.core.planning.finding.feeds import is_feed, is_power, power_ends

Keeps = Callable[[ResolvedRig], Collection[str]]
"""What the best plan of a rig keeps."""

MOST_TRIED = 3
"""Leads tried per plan: a technician names one, and has looked at the next two."""


def could_feed(rig: ResolvedRig, device: str) -> list[tuple[str, Link]]:
    """Who could feed `device`, and by which join, if every cable there is were in the bag; the shortest first."""
    able = {
        key: placed
        for key, placed in rig.devices.items()
        if key == device or any(role.is_outlet for end in placed.profile.endpoints.values() for role in end.roles)
    }
    near = replace(rig, devices=able)
    found = [
        (power_ends(near, span)[0], link)
        for span in spans_of(near, would_be(near)).values()
        if is_power(span) and is_feed(near, span) and power_ends(near, span)[2] == device
        for link in span.links
        if link.is_cable and not link.adapter and not link.lead
    ]
    return sorted(found, key=lambda one: (rig.cables[one[1].cable or ""].length_mm, one[1].id))


class Feeding:
    """Leads to get for one rig; what a plan with one of them keeps is worked out once."""

    def __init__(self, rig: ResolvedRig, keeps: Keeps) -> None:
        self._rig = rig
        self._keeps = keeps
        self._tried: dict[str, Collection[str]] = {}

    def outs(self, c: Choosing, promise: Promise, core: list[Group], kept: Collection[str]) -> Iterator[str]:
        """The lead to get, where one more feed is what is wanting and would do."""
        wanting = dict.fromkeys(device for group in core for device in _unfed(c, group))
        for device in wanting:
            for cable in dict.fromkeys(link.cable or "" for _, link in could_feed(self._rig, device)):
                if {*kept, promise.id} <= {*self._with(cable)}:
                    yield f"Get a feed for {self._rig[device].name}: {self._rig.cables[cable].name}."
                    return

    def _with(self, cable: str) -> Collection[str]:
        if cable not in self._tried and len(self._tried) < MOST_TRIED:
            bag = {item.cable: item.count for item in self._rig.rig.bag}
            bag[cable] = bag.get(cable, 0) + 1
            more = [BagItem(cable=key, count=min(count, 99)) for key, count in bag.items()]
            self._tried[cable] = self._keeps(replace(self._rig, rig=self._rig.rig.model_copy(update={"bag": more})))
        return self._tried.get(cable, ())


def _unfed(c: Choosing, group: Group) -> list[str]:
    """The device that a group of a conflict leaves without what it needs."""
    kind, key = group
    at_outlet = {"limit", "peak", "electronics"} & {kind}
    return [power_ends(c.rig, c.spans[key[0]])[2]] if at_outlet else [key[0]] * ("feed" in group)
