"""Which lead would feed what has no feed, or none that is strong enough."""

from collections.abc import Collection, Iterator
from dataclasses import replace
from itertools import islice

from isotact.core.model.behaviour import InnerBattery
from isotact.core.model.plan import Link
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.rig import Promise
from isotact.core.planning.choosing.model import Choosing, Group
from isotact.core.planning.explaining.trying import Trying
from isotact.core.planning.finding.candidates import spans_of, would_be
from isotact.core.planning.finding.feeds import is_feed, is_power, power_ends


def could_feed(rig: ResolvedRig, device: str) -> list[tuple[str, Link]]:
    """Who could feed `device`, and by which join, if every cable there is were in the bag.

    What has a battery of its own comes first, then the shortest lead.
    """
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
    return sorted(
        found, key=lambda one: (not rig.runs_alone(one[0]), rig.cables[one[1].cable or ""].length_mm, one[1].id)
    )


MOST_WH = 1000
"""More than anybody carries."""
MOST_LEADS = 2
"""A technician looks at the shortest lead and at the next."""


def leads_to_get(
    c: Choosing, promise: Promise, core: list[Group], kept: Collection[str], trying: Trying
) -> Iterator[str]:
    """The lead to get, where one more feed is what is wanting and would do."""
    wanting = dict.fromkeys(device for group in core for device in _unfed(c, group))
    for device in wanting:
        for cable in islice(dict.fromkeys(link.cable or "" for _, link in could_feed(c.rig, device)), MOST_LEADS):
            if {*kept, promise.id} <= {*trying.with_cables([cable])}:
                yield f"Get a feed for {c.rig[device].name}: {c.rig.cables[cable].name}."
                return
    for device in wanting:
        if {*kept, promise.id} <= {*trying.with_device(_with_battery(c.rig[device]))}:
            yield f"Bring a battery, or another feed, for {c.rig[device].name}."
            return


def _with_battery(placed: Placed) -> Placed:
    """The device, if it had a battery of its own that never ends."""
    power = placed.profile.power
    own = InnerBattery(name="battery", energy_wh=MOST_WH)
    more = power.model_copy(update={"inner_battery": own}) if power is not None else None
    return replace(placed, profile=placed.profile.model_copy(update={"power": more}))


def _unfed(c: Choosing, group: Group) -> list[str]:
    """The device that a group of a conflict leaves without what it needs."""
    kind, key = group
    at_outlet = {"limit", "peak", "electronics"} & {kind}
    return [power_ends(c.rig, c.spans[key[0]])[2]] if at_outlet else [key[0]] * ("feed" in group)
