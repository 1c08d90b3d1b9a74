"""A piece to bring where one like it, or one that fits, is wanting: a motor, a lens on another mount, a gimbal."""

import math
from collections import Counter
from collections.abc import Callable, Collection, Iterator

from isotact.core.model.plan import Plan
from isotact.core.model.ports import Port
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.small_parts import PartItem
from isotact.core.model.variants import with_document, with_piece, with_profile
from isotact.core.model.words import free_id
from isotact.core.planning.explaining.trials import Trying
from isotact.core.planning.optimising.choice_model import ChoiceModel, Group
from isotact.core.telling.phrases import together


def another_motor(
    c: ChoiceModel,
    core: list[Group],
    made: Plan,
    wanted: Collection[str],
    trying: Trying,
    would_do: Callable[[Collection[Group]], bool],
) -> Iterator[str]:
    """One motor more, where one would have to turn two rings or be two axes at once; with its lead if that is wanting.

    `wanted` are the promises that are to hold with it, `would_do` tells whether they could if groups did not count.
    """
    rig = c.rig
    busy = dict.fromkeys(key[0] for kind, key in core if kind in ("port", "knob"))
    for device in busy:
        own = [group for group in c.guards if group[0] in ("port", "knob") and group[1][0] == device]
        if rig[device].profile.motor is None or not would_do(own):
            continue
        name = f"Bring another {rig[device].profile.name}"
        joins = [join.link for join in made.joins if device in (join.link.a.device, join.link.b.device)]
        leads = [link.cable for link in joins if link.cable]
        if trying.with_devices([_like(rig, device)], wanted):
            yield f"{name}."
        elif leads and trying.with_devices([_like(rig, device)], wanted, leads):
            pieces = ", ".join(dict.fromkeys(rig.cables[cable].name for cable in leads))
            yield f"{name}, with one more of its leads: {pieces}."
        return


def other_mount(rig: ResolvedRig, core: list[Group], wanted: Collection[str], trying: Trying) -> Iterator[str]:
    """A lens on the mount that is there, where the one that is here has another."""
    for lens in [key[0] for kind, key in core if kind == "seat"]:
        placed = rig[lens]
        holders = [
            end
            for other in rig.devices.values()
            for end in other.profile.ports
            if any(role.holds for role in end.roles)
        ]
        for holder in holders:
            if trying.with_devices([_sitting(placed, holder)], wanted):
                mount = holder.shown[-1]
                yield f"Bring a mount adapter, where one is made for the two, or a lens with a {mount}."
                return


def stronger_gimbal(rig: ResolvedRig, core: list[Group], wanted: Collection[str], trying: Trying) -> Iterator[str]:
    """A gimbal that carries what sits in the cage, where the one that is here does not."""
    for gimbal in [key[0] for kind, key in core if kind == "payload"]:
        placed = rig[gimbal]
        weight_g = rig.payload_g(rig.devices)
        carrier = placed.profile.carrier and placed.profile.carrier.model_copy(update={"max_payload_g": weight_g})
        able = with_profile(placed, carrier=carrier)
        if trying.with_devices([able], wanted):
            yield f"Bring a gimbal that carries {math.ceil(weight_g / 100) / 10:g} kg."


def parts_to_get(rig: ResolvedRig, core: list[Group], wanted: Collection[str], trying: Trying) -> Iterator[str]:
    """The small parts that are wanting, where one that will do is all that lacks."""
    bag = rig.part_bag
    stock = Counter(bag.counts)
    own = {item.part: item.made for item in rig.rig.parts or ()}
    got: Counter[str] = Counter()
    for device, number in [key for kind, key in core if kind == "fixing"]:
        fixing = rig[device].profile.fixed_by[int(number)]
        able = bag.doing(fixing, bag.kinds)
        if not able:
            yield f"Get {fixing.words} for {rig[device].name}."
            return
        got[able[0]] += 1
    for part in got:
        # Several may want the one that lies there: as few as will do.
        for count in range(1, got[part] + 1):
            more = stock + Counter({**{other: got[other] for other in got if other != part}, part: count})
            items = [
                PartItem(part=key, count=min(99, number), made=own.get(key)) for key, number in sorted(more.items())
            ]
            if trying.with_rig(with_document(rig, parts=items), wanted):
                got[part] = count
                break
        else:
            return
    if got:
        pieces = [f"{count} {bag.kinds[part].name}" for part, count in sorted(got.items())]
        yield f"Get {together(pieces)}."


def _like(rig: ResolvedRig, device: str) -> Placed:
    """One more of the same, as it comes."""
    placed = rig[device]
    key = free_id(device, rig.devices)
    return with_piece(placed, id=key, settings={}, tag=None)


def _sitting(placed: Placed, holder: Port) -> Placed:
    """The same lens, if its mount were that of the holder."""
    ports = [
        port.model_copy(update={"connector": holder.connector}) if port.id == placed.seat else port
        for port in placed.profile.ports
    ]
    return with_profile(placed, ports=ports)
