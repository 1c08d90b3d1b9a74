"""Which channel each radio link takes, so that no two links of a day's rigs stand on the same one."""

from collections import defaultdict
from collections.abc import Iterable, Sequence

from isotact.core.model.plan import Link, LinkEnd, Plan
from isotact.core.model.ports import Radio
from isotact.core.model.resolved import ResolvedRig


def channels_of(rig: ResolvedRig, links: Iterable[Link]) -> dict[str, str]:
    """Link id -> its channel, for every radio link whose radios have any.

    Links that share a radio share the channel. The camera's letter says where in the list a rig begins, so that the
    rigs of a day, each with a letter of its own, do not meet; what the rig itself asks for comes first.
    """
    groups: list[tuple[set[LinkEnd], list[Link]]] = []
    for link in sorted((link for link in links if link.is_radio), key=lambda link: link.id):
        touching = [group for group in groups if group[0] & {*link.ends}]
        ends = {*link.ends}.union(*(group[0] for group in touching))
        those = [one for group in touching for one in group[1]] + [link]
        groups = [*(group for group in groups if group not in touching), (ends, those)]
    number: dict[str, int] = {}
    found: dict[str, str] = {}
    for ends, those in groups:
        system = _radio(rig, those[0].a).system
        channels = _common(rig, ends, system)
        if channels:
            place = number.get(system, 0)
            number[system] = place + 1
            found |= dict.fromkeys((link.id for link in those), channels[_offset(rig, place) % len(channels)])
    return found


def _common(rig: ResolvedRig, ends: Iterable[LinkEnd], system: str) -> list[str]:
    """The channels that every radio of a group has, in the order of the first; what the rig wants alone, if it can."""
    lists = [radio.channels for radio in (_radio(rig, end) for end in sorted(ends, key=str)) if radio.channels]
    common = [one for one in lists[0] if all(one in other for other in lists)] if lists else []
    wanted = [one for one in rig.rig.channels.get(system, ()) if one in common]
    return wanted or common


def _offset(rig: ResolvedRig, place: int) -> int:
    """Where a link begins in its list: every second place per camera, so that each has room for two."""
    return 2 * (ord(rig.rig.camera) - ord("A")) + place


def _radio(rig: ResolvedRig, end: LinkEnd) -> Radio:
    found = rig[end.device].endpoint(end.endpoint)
    if not isinstance(found, Radio):
        raise LookupError(f"{end} is no radio")
    return found


def clashes(rigs: Sequence[ResolvedRig], plans: Sequence[Plan]) -> list[str]:
    """The channels on which links of two rigs of a day would stand, in words; none is the rule."""
    users: dict[tuple[str, str], dict[str, None]] = defaultdict(dict)
    for rig, plan in zip(rigs, plans, strict=True):
        for join in plan.joins:
            if join.channel is not None:
                users[_radio(rig, join.link.a).system, join.channel][rig.rig.name] = None
    return [
        f"{' and '.join(names)} would both be on channel {channel} of {system}: give one of them another."
        for (system, channel), names in sorted(users.items())
        if len(names) > 1
    ]
