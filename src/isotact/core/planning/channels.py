"""Which channel each radio link takes, so that no two links of a day's rigs stand on the same one."""

from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence

from isotact.core.model.base import Struct
from isotact.core.model.plan import Link, LinkEnd, Plan
from isotact.core.model.ports import Radio
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id
from isotact.core.telling.phrases import plain


def channels_of(rig: ResolvedRig, links: Iterable[Link]) -> dict[str, str]:
    """Link id -> its channel, for every radio link whose radios have any.

    Links that share a radio share the channel. The camera's letter says where in the list a rig begins, so that the
    rigs of a day, each with a letter of its own, do not meet; what the rig itself asks for comes first.
    """
    number: dict[str, int] = {}
    found: dict[str, str] = {}
    for system, channels, those in _groups(rig, links):
        place = number.get(system, 0)
        number[system] = place + 1
        found |= dict.fromkeys(those, channels[_offset(rig, place) % len(channels)])
    return found


def _groups(rig: ResolvedRig, links: Iterable[Link]) -> list[tuple[str, list[str], list[str]]]:
    """The links that share a channel: the family of their radios, the channels that all of them have, their ids."""
    groups: list[tuple[set[LinkEnd], list[Link]]] = []
    for link in sorted((link for link in links if link.is_radio), key=lambda link: link.id):
        # A radio has one channel: links that share one share it, and so does whatever these touch in turn.
        touching = [group for group in groups if group[0] & {*link.ends}]
        ends = {*link.ends}.union(*(group[0] for group in touching))
        those = [one for group in touching for one in group[1]] + [link]
        groups = [*(group for group in groups if group not in touching), (ends, those)]
    named = [(_radio(rig, those[0].a).system, ends, those) for ends, those in groups]
    listed = [(system, _common(rig, ends, system), [link.id for link in those]) for system, ends, those in named]
    return [one for one in listed if one[1]]


def _common(rig: ResolvedRig, ends: Iterable[LinkEnd], system: str) -> list[str]:
    """The channels that every radio of a group has, in the order of the first; what the rig wants alone, if it can."""
    lists = [radio.channels for radio in (_radio(rig, end) for end in sorted(ends, key=str)) if radio.channels]
    common = [one for one in lists[0] if all(one in other for other in lists)] if lists else []
    wanted = [one for one in rig.rig.channels.get(system, ()) if one in common]
    return wanted or common


def _offset(rig: ResolvedRig, place: int) -> int:
    """Where a link begins in its list: every second place per camera, so that each has room for two."""
    # Letters, not numbers of the day: a camera that joins later moves nobody who stands already.
    return 2 * (ord(rig.rig.camera) - ord("A")) + place


def _radio(rig: ResolvedRig, end: LinkEnd) -> Radio:
    found = rig[end.device].endpoint(end.endpoint)
    if not isinstance(found, Radio):
        raise LookupError(f"{end} is no radio")
    return found


class Retune(Struct):
    """A rig of a day that takes other channels than it would alone, since another rig stands on its own.

    `channels`: what goes into its document, per radio family, so that its own sheet says the same.
    """

    rig: Id
    channels: dict[Id, list[str]]
    says: tuple[str, ...]


def without_clashes(rigs: Sequence[ResolvedRig], plans: Sequence[Plan]) -> tuple[list[Plan], list[Retune]]:
    """The plans with each radio link on a channel of its own, as far as there are enough; who gives way is said.

    A matching of links to channels by augmenting paths (Kuhn 1955): whoever stands well stays, and only who has to
    moves.
    """
    asked: list[tuple[int, str, list[str], list[str]]] = []
    for number, (rig, plan) in enumerate(zip(rigs, plans, strict=True)):
        asked += [(number, *group) for group in _groups(rig, (join.link for join in plan.joins))]
    now = [_channel(plans[number], those) for number, _, _, those in asked]
    taken: dict[tuple[str, str], int] = {}
    given: dict[int, str] = {}
    for one, channel in enumerate(now):  # who is first on a channel of its own stays
        if channel is not None and (asked[one][1], channel) not in taken:
            taken[asked[one][1], channel], given[one] = one, channel

    def place(one: int, tried: set[tuple[str, str]]) -> bool:
        keys = [(asked[one][1], channel) for channel in asked[one][2]]
        for key in sorted(keys, key=lambda key: key in taken):  # what is free before somebody else has to move
            if key not in tried:
                tried.add(key)
                if key not in taken or place(taken[key], tried):
                    taken[key], given[one] = one, key[1]
                    return True
        return False

    for one in range(len(asked)):
        if one not in given:
            place(one, set())
    moved = {one: channel for one, channel in given.items() if now[one] not in (None, channel)}
    return _retuned(plans, asked, moved), [*_told(rigs, asked, now, given, moved)]


def _channel(plan: Plan, links: Sequence[str]) -> str | None:
    return next(join.channel for join in plan.joins if join.link.id == links[0])


def _retuned(
    plans: Sequence[Plan], asked: Sequence[tuple[int, str, list[str], list[str]]], moved: Mapping[int, str]
) -> list[Plan]:
    other = {(asked[one][0], link): channel for one, channel in moved.items() for link in asked[one][3]}
    return [
        plan.model_copy(
            update={
                "joins": tuple(
                    join.model_copy(update={"channel": other.get((number, join.link.id), join.channel)})
                    for join in plan.joins
                )
            }
        )
        if any(key[0] == number for key in other)
        else plan
        for number, plan in enumerate(plans)
    ]


def _told(
    rigs: Sequence[ResolvedRig],
    asked: Sequence[tuple[int, str, list[str], list[str]]],
    now: Sequence[str | None],
    given: Mapping[int, str],
    moved: Mapping[int, str],
) -> Iterator[Retune]:
    for number in dict.fromkeys(asked[one][0] for one in moved):
        systems = dict.fromkeys(asked[one][1] for one in moved if asked[one][0] == number)
        # All of a family, in the order of its links: what is listed is what the rig then takes.
        channels = {
            system: [given[one] for one in range(len(asked)) if asked[one][:2] == (number, system) and one in given]
            for system in systems
        }
        says = tuple(
            f"{rigs[number].rig.name} takes channel {channel} of {plain(asked[one][1])}: on {now[one]} stands another."
            for one, channel in moved.items()
            if asked[one][0] == number
        )
        yield Retune(rig=rigs[number].rig.id, channels=channels, says=says)


def clashes(rigs: Sequence[ResolvedRig], plans: Sequence[Plan]) -> list[str]:
    """The channels on which links of two rigs of a day would stand, in words; none is the rule."""
    users: dict[tuple[str, str], dict[str, None]] = defaultdict(dict)
    for rig, plan in zip(rigs, plans, strict=True):
        for join in plan.joins:
            if join.channel is not None:
                users[_radio(rig, join.link.a).system, join.channel][rig.rig.name] = None
    return [
        f"{' and '.join(names)} would both be on channel {channel} of {plain(system)}, and no other is open to them: "
        "give one of them another in its channels, or use them one after the other."
        for (system, channel), names in sorted(users.items())
        if len(names) > 1
    ]
