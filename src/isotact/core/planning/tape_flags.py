"""Tape flags: which cable carries which, so that what stays keeps its own."""

from collections.abc import Iterable

from isotact.core.model.pins import PortPoint
from isotact.core.model.plan import Link, Plan
from isotact.core.model.rig import Flag, Rig


def known_flag(rig: Rig, link: Link) -> Flag | None:
    """The flag that a link was given before: the same two ends, and the same cable."""
    return next((flag for flag in rig.flags if _names(flag, link)), None)


def _names(flag: Flag, link: Link) -> bool:
    ends = {(flag.a.device, flag.a.port), (flag.b.device, flag.b.port)}
    same = {(end.device, end.endpoint) for end in link.ends} == ends
    return same and (flag.cable, *flag.adapters) == (link.cable, *link.adapters)


def _passed_on(rig: Rig, link: Link) -> Flag | None:
    """The flag of the same lead, where the device at its other end was exchanged: it hangs there, flagged already."""
    here = {device.id for device in rig.devices}
    ends = {(end.device, end.endpoint) for end in link.ends}
    for flag in rig.flags:
        stays = {(end.device, end.port) for end in (flag.a, flag.b) if end.device in here}
        if len(stays) == 1 and stays <= ends and (flag.cable, *flag.adapters) == (link.cable, *link.adapters):
            return flag
    return None


def tags_of(rig: Rig, links: Iterable[Link]) -> dict[str, str]:
    """Piece, or link where it is no cable -> its tag. A number that was given once is not given to something else."""
    ordered = list(links)
    tags: dict[str, str] = {}
    for link in ordered:
        flag = known_flag(rig, link)
        if flag is not None:
            tags.setdefault(link.lead or link.id, flag.tag)
    for link in ordered:
        passed = _passed_on(rig, link) if link.is_cable and not link.lead and link.id not in tags else None
        if passed is not None and passed.tag not in tags.values():
            tags[link.id] = passed.tag
    taken = {flag.tag for flag in rig.flags}
    number = 0
    for link in ordered:
        if (link.lead or link.id) not in tags:
            number += 1
            while f"{rig.camera}{number}" in taken:
                number += 1
            tags[link.lead or link.id] = f"{rig.camera}{number}"
    return tags


def is_plugged(rig: Rig, link: Link) -> bool:
    """Whether a link of a built rig is made already."""
    flag = known_flag(rig, link)
    return flag is not None and flag.plugged


def flags_of(plan: Plan, plugged: bool = False) -> list[Flag]:
    """The flags of a plan, to be kept in the rig's document."""
    return [
        Flag(
            tag=join.tag,
            a=PortPoint(device=join.link.a.device, port=join.link.a.endpoint),
            b=PortPoint(device=join.link.b.device, port=join.link.b.endpoint),
            cable=join.link.cable,
            adapters=list(join.link.adapters),
            plugged=plugged,
        )
        for join in plan.joins
    ]


def kept_flags(rig: Rig, plan: Plan) -> list[Flag]:
    """The flags that a rig's document keeps from here on: those of the plan, and of whatever is still plugged."""
    planned = [
        flag.model_copy(update={"plugged": is_plugged(rig, join.link)})
        for flag, join in zip(flags_of(plan), plan.joins, strict=True)
    ]
    here, used = {device.id for device in rig.devices}, {flag.tag for flag in planned}
    still_in = [
        flag
        for flag in rig.flags
        if flag.plugged and not any(_names(flag, join.link) for join in plan.joins)
        if flag.tag not in used or {flag.a.device, flag.b.device} <= here  # else the lead was passed on
    ]
    return [*planned, *still_in]
