"""What would feed what has no feed, none that is strong enough, or none that lasts."""

from collections.abc import Callable, Collection, Iterator
from math import inf
from weakref import WeakKeyDictionary

from isotact.core.model.behaviour import InnerBattery
from isotact.core.model.plan import Link, Plan
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.rig import Promise
from isotact.core.model.variants import of_devices, with_piece, with_profile
from isotact.core.planning.explaining.trials import Trying
from isotact.core.planning.optimising.choice_model import ChoiceModel, Group
from isotact.core.planning.optimising.power_flow import MOST_CHANGES
from isotact.core.planning.ways.candidates import spans_of, would_be
from isotact.core.planning.ways.feed_spans import is_feed, is_power, power_ends
from isotact.core.telling.phrases import together
from isotact.core.world.circuit import ohms_of

_ASKED: WeakKeyDictionary[ResolvedRig, dict[str, list[tuple[str, Link]]]] = WeakKeyDictionary()
"""Every reason of a plan asks again."""


def could_feed(rig: ResolvedRig, device: str) -> list[tuple[str, Link]]:
    """Who could feed `device`, and by which join, if every cable there is were in the bag.

    What has a battery of its own comes first, then the shortest lead.
    """
    asked = _ASKED.setdefault(rig, {})
    if device not in asked:
        asked[device] = _could_feed(rig, device)
    return asked[device]


def _could_feed(rig: ResolvedRig, device: str) -> list[tuple[str, Link]]:
    able = {
        key: placed
        for key, placed in rig.devices.items()
        if key == device or any(role.is_outlet for end in placed.profile.endpoints.values() for role in end.roles)
    }
    near = of_devices(rig, able)
    found = [
        (power_ends(near, span)[0], link)
        for span in spans_of(near, would_be(near)).values()
        if is_power(span) and is_feed(near, span) and power_ends(near, span)[2] == device
        for link in span.links
        if link.is_cable and not link.adapters and not link.lead
    ]
    return sorted(
        found, key=lambda one: (not rig.runs_alone(one[0]), rig.cables[one[1].cable or ""].length_mm, one[1].id)
    )


MOST_WH = 1000
"""More than anybody carries."""
SMALL_BATTERY_G = 300
"""What the smallest battery weighs with its plate that runs more than a light. Common practice, no source."""


def leads_to_get(
    c: ChoiceModel,
    core: list[Group],
    wanted: Collection[str],
    trying: Trying,
    would_do: Callable[[Collection[Group]], bool],
) -> Iterator[str]:
    """The lead to get, where one more feed is what is wanting and would do.

    `wanted` are the promises that are to hold with it. `would_do` tells whether they could if some groups of
    constraints did not count: where not even that helps, nothing is tried.
    """
    if any(kind == "battery" for kind, _ in core):
        return  # there is a feed, and it does not last
    wanting: dict[str, list[Group]] = {}
    # A lead that loses too much is mended by another lead, before anybody carries one battery more.
    for group in sorted(core, key=lambda one: one[0] != "volts"):
        for device in _unfed(c, group):
            wanting.setdefault(device, []).append(group)
    for device, groups in wanting.items():
        if not would_do(groups):
            continue
        full = {key for kind, key in core if kind == "port"}
        joins = [link for _, link in could_feed(c.rig, device)]
        free = [link for link in joins if not full & {(end.device, end.endpoint) for end in link.ends}]
        able = list(dict.fromkeys(link.cable or "" for link in free))
        for cable in _worth_trying(c.rig, able):
            if trying.with_cables([cable], wanted):
                yield f"Get a feed for {c.rig[device].name}: {c.rig.cables[cable].name}."
                return
        placed = c.rig[device]
        if able:
            continue
        if trying.with_devices([_with_battery(placed, SMALL_BATTERY_G)], wanted):
            yield f"Bring a battery, or another feed, for {placed.name}."
            return
        if trying.with_devices([_with_battery(placed)], wanted):
            yield f"Bring a lighter feed, or one that sits outside the cage, for {placed.name}."
            return


def one_more(
    rig: ResolvedRig,
    core: list[Group],
    wanted: Collection[str],
    trying: Trying,
    would_do: Callable[[Collection[Group]], bool],
) -> Iterator[str]:
    """The cable of which one more is what is wanting and would do."""
    for group in core:
        if group[0] == "stock" and would_do([group]) and trying.with_cables([group[1][0]], wanted):
            yield f"Get one more: {rig.cables[group[1][0]].name}."
            return


def to_charge(rig: ResolvedRig, promise: Promise, made: Plan, kept: Collection[str], trying: Trying) -> Iterator[str]:
    """The batteries that are not full, where hours would hold if they were."""
    low = [
        f"{rig[feed.device].name} ({rig[feed.device].device.charge_percent} %)"
        for feed in made.feeds
        if feed.battery == feed.device and (rig[feed.device].device.charge_percent or 100) < 100
    ]
    if low and any(one.id == promise.id for one in rig.rig.lasting) and trying.with_full({*kept, promise.id}):
        yield f"Charge first: {together(low)}."


def feeds_to_bring(
    rig: ResolvedRig, promise: Promise, made: Plan, kept: Collection[str], trying: Trying
) -> Iterator[str]:
    """What would last if something else fed it, where hours are short."""
    asked = next((one for one in rig.rig.lasting if one.id == promise.id), None)
    if asked is None:
        return
    short = [
        rig[feed.device]
        for feed in made.feeds
        if feed.battery == feed.device
        and (wh := rig[feed.device].lasting_wh(asked.changes)) is not None
        and wh < asked.hours_h * feed.load_w
    ]
    ports = [[port for port in one.profile.ports if not port.is_battery_bay] for one in short]
    runs = all(any(role.keeps_going for port in those for role in port.roles) for those in ports)
    if short and runs and trying.with_devices(map(_with_battery, short), {*kept, promise.id}):
        yield f"Bring another feed for {together([one.name for one in short])}."


def spares_to_bring(
    rig: ResolvedRig, promise: Promise, made: Plan, kept: Collection[str], trying: Trying
) -> Iterator[str]:
    """The full batteries to bring, where as many changes are allowed as it takes and too few lie there."""
    asked = next((one for one in rig.rig.lasting if one.id == promise.id), None)
    few = [
        rig[feed.device]
        for feed in made.feeds
        if asked is not None and feed.battery == feed.device
        if (known := rig[feed.device].device.spare_batteries) is not None and known < asked.changes
    ]
    if asked is None or not few:
        return
    for count in range(1, asked.changes + 1):
        more = [with_piece(one, spare_batteries=(one.device.spare_batteries or 0) + count) for one in few]
        if trying.with_devices(more, {*kept, promise.id}):
            several = "a full spare battery" if count == 1 else f"{count} full spare batteries"
            yield f"Bring {several} for {together([one.name for one in few])}."
            return


def changes_to_allow(
    rig: ResolvedRig, promise: Promise, made: Plan, kept: Collection[str], trying: Trying
) -> Iterator[str]:
    """The battery changes with which hours would hold: as few as would do, of those that were tried."""
    asked = next((one for one in rig.rig.lasting if one.id == promise.id), None)
    if asked is None or asked.changes >= MOST_CHANGES:
        return
    drawn = [(rig[feed.device], asked.hours_h * feed.load_w) for feed in made.feeds if feed.battery == feed.device]

    def would_last(often: int) -> bool:
        return all(wh is None or wh >= drawn_wh for one, drawn_wh in drawn for wh in [one.lasting_wh(often)])

    def would_do(often: int) -> bool:
        return trying.with_changes(asked.id, often, {*kept, promise.id})

    fewer = range(asked.changes + 1, MOST_CHANGES)
    # As the plan draws now, so many would do. Else the most first: where that is not enough, nothing else is tried.
    often = next(filter(would_last, fewer), MOST_CHANGES)
    if often == MOST_CHANGES or not would_do(often):
        if not would_do(MOST_CHANGES):
            return
        often = next(filter(would_do, fewer), MOST_CHANGES)
    several = "one battery change" if often == 1 else f"{often} battery changes"
    yield f"Allow {several}, with full spares at hand."


def _worth_trying(rig: ResolvedRig, able: list[str]) -> list[str]:
    """The shortest of several leads, the one that carries most, if that is more, and the thickest for its length."""
    amps = {cable: rig.cables[cable].limit_of("power") or inf for cable in able}
    most = max(able, key=lambda cable: amps[cable], default="")
    thick = min(able, key=lambda cable: ohms_of(rig, [cable]), default="")
    others = [most] * bool(able and amps[most] > amps[able[0]]) + [thick] * bool(able)
    return list(dict.fromkeys([*able[:1], *others]))


def _with_battery(placed: Placed, weighs_g: float = 0.0) -> Placed:
    """The device, if it had a battery of its own that never ends and weighs so much."""
    power = placed.profile.power
    own = InnerBattery(name="battery", energy_wh=MOST_WH)
    more = power.model_copy(update={"inner_battery": own}) if power is not None else None
    return with_profile(placed, power=more, mass_g=placed.profile.mass_g + weighs_g)


def _unfed(c: ChoiceModel, group: Group) -> list[str]:
    """The device that a group of a conflict leaves without what it needs."""
    kind, key = group
    at_outlet = {"limit", "peak", "electronics", "volts"} & {kind}
    if at_outlet:
        return [power_ends(c.rig, c.spans[key[0]])[2]]
    # What runs from its own battery is never without power: it only stands in the way of what hangs on it.
    return [key[0]] if kind == "feed" and not (c.rig.runs_alone(key[0]) and not has_bay(c.rig, key[0])) else []


def has_bay(rig: ResolvedRig, device: str) -> bool:
    """Whether something can take the place of a device's own battery."""
    return any(port.is_battery_bay for port in rig[device].profile.ports)
