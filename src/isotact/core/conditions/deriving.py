"""From a plan to the conditions on the way of every promise: the list that all later engines read."""

from collections import defaultdict
from collections.abc import Iterable, Iterator

from isotact.core.conditions.base import Condition
from isotact.core.conditions.cables import Carries, FormatAccepted, Joined, Seated, Wired
from isotact.core.conditions.devices import (
    Awake,
    Balanced,
    Fed,
    ScreenLive,
    WokenAfter,
)
from isotact.core.conditions.menus import FirmwareAtLeast, LicenceLoaded, ModeIs, PromptAnswered, SettingIs
from isotact.core.conditions.radios import NetworkJoined, Paired
from isotact.core.model.plan import Join, Plan
from isotact.core.model.ports import ControlRole, Radio, VideoRole
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Stage


def conditions_of(rig: ResolvedRig, plan: Plan) -> tuple[Condition, ...]:
    """Every condition of `plan`, each once, with the promises that need it, in a stable order."""
    found: dict[str, Condition] = {}
    for condition in _all(rig, plan):
        if condition.key in found:
            found[condition.key] = found[condition.key].for_promises(condition.promises)
        else:
            found[condition.key] = condition
    return tuple(found.values())


def _all(rig: ResolvedRig, plan: Plan) -> Iterator[Condition]:
    users = _users(rig, plan)
    for requisite in plan.requisites:
        if requisite.kind == "firmware":
            yield FirmwareAtLeast(device=requisite.device, firmware=requisite.value, promises=requisite.promises)
        else:
            yield LicenceLoaded(device=requisite.device, licence=requisite.value, promises=requisite.promises)
    for join in plan.joins:
        yield from _of_join(rig, plan, join)
    yield from _of_feeds(rig, plan, users)
    yield from _of_choices(rig, plan)
    yield from _of_waking(rig, plan, users)
    for promise in rig.rig.promises:
        if promise.kind == "picture" and promise.id in plan.kept:
            yield ScreenLive(device=promise.at.device, screen=promise.at.surface, promises=(promise.id,))


def _users(rig: ResolvedRig, plan: Plan) -> dict[str, tuple[str, ...]]:
    """Device -> the promises that need it, directly or because it alone feeds one that is needed."""
    users: dict[str, list[str]] = defaultdict(list)
    lasting = [route.promise for route in plan.routes if not route.hops]
    for route in plan.routes:
        for hop in route.hops:
            users[hop.device].append(route.promise)
    for feed in plan.feeds:
        users[feed.device] += lasting
    for _ in plan.feeds:
        for feed in plan.feeds:
            if feed.from_device is not None and not rig.runs_alone(feed.device):
                users[feed.from_device] += users[feed.device]
                users[feed.from_device] = list(dict.fromkeys(users[feed.from_device]))
    return {device: tuple(dict.fromkeys(promises)) for device, promises in users.items()}


def _join_users(rig: ResolvedRig, plan: Plan, join: Join) -> tuple[str, ...]:
    """The promises that need a join: those routed over it, and those whose device it alone feeds.

    Where the fed device has a battery of its own, only promised hours count on the feed.
    """
    users = _users(rig, plan)
    lasting = [route.promise for route in plan.routes if not route.hops]
    fed = [
        promise
        for feed in plan.feeds
        if feed.join == join.link.id
        for promise in (lasting if rig.runs_alone(feed.device) else users.get(feed.device, ()))
    ]
    return tuple(dict.fromkeys((*join.promises, *fed)))


def _of_join(rig: ResolvedRig, plan: Plan, join: Join) -> Iterator[Condition]:
    link, promises = join.link, _join_users(rig, plan, join)
    if link.kind == "radio":
        radio = rig[link.a.device].endpoint(link.a.endpoint)
        made = Paired if isinstance(radio, Radio) and radio.joins_by != "network" else NetworkJoined
        yield made(a=link.a, b=link.b, promises=promises)
        yield from _formats(rig, join, promises)
        return
    joined = Joined(
        tag=join.tag,
        a=link.a,
        b=link.b,
        cable=link.cable,
        adapter=link.adapter,
        adapter_at=link.adapter_at,
        end_a=link.end_a,
        end_b=link.end_b,
        lead=link.lead,
        outside=_leaves_cage(rig, join),
        axes=link.axes,
        avoid=join.avoid,
        before_wake_of=tuple(_noticed_at_boot(rig, join)),
        promises=promises,
    )
    yield joined
    yield Seated(tag=join.tag, a=link.a, b=link.b, cable=link.cable, promises=promises)
    if link.cable is not None:
        media = tuple(dict.fromkeys(_media(rig, join)))
        yield Carries(
            tag=join.tag, a=link.a, b=link.b, cable=link.cable, adapter=link.adapter, lead=link.lead, media=media,
            promises=promises,
        )  # fmt: skip
        for use in join.carries:
            role = rig[link.a.device].role(link.a.endpoint, use.role_a)
            if isinstance(role, ControlRole):
                wired = Wired(
                    tag=join.tag, a=link.a, b=link.b, cable=link.cable, medium=role.medium, protocol=role.protocol
                )
                yield wired.for_promises(join.promises)
    yield from _formats(rig, join, promises)


def _media(rig: ResolvedRig, join: Join) -> Iterator[tuple[str, str]]:
    for use in join.carries:
        role = rig[join.link.a.device].role(join.link.a.endpoint, use.role_a)
        match role.kind:
            case "control":
                yield role.medium, role.protocol
            case "video":
                yield role.signal, role.signal
            case "bus":
                yield "bus", role.bus
            case "power":
                yield "power", "power"


def _noticed_at_boot(rig: ResolvedRig, join: Join) -> Iterator[str]:
    for use in join.carries:
        for end, name in ((join.link.a, use.role_a), (join.link.b, use.role_b)):
            role = rig[end.device].role(end.endpoint, name)
            if isinstance(role, ControlRole) and role.joined_before_wake:
                yield end.device


def _leaves_cage(rig: ResolvedRig, join: Join) -> bool:
    """A cable that does not lie wholly within one stage moves against the camera, or hangs off it."""
    return bool(join.link.axes) or any(
        rig[end.device].stage_of(end.endpoint) == Stage.OFF_GIMBAL for end in (join.link.a, join.link.b)
    )


def _formats(rig: ResolvedRig, join: Join, promises: tuple[str, ...]) -> Iterator[Condition]:
    link = join.link
    for use in join.carries:
        if use.kind == "video":
            ends = (link.a, link.b) if use.flow == "a-to-b" else (link.b, link.a)
            name = use.role_a if use.flow == "a-to-b" else use.role_b
            role = rig[ends[0].device].role(ends[0].endpoint, name)
            if isinstance(role, VideoRole) and role.format_setting is not None:
                yield FormatAccepted(
                    sender=ends[0],
                    receiver=ends[1],
                    signal=role.signal,
                    setting=role.format_setting,
                    promises=promises,
                )


def _of_feeds(rig: ResolvedRig, plan: Plan, users: dict[str, tuple[str, ...]]) -> Iterator[Condition]:
    for feed in plan.feeds:
        promises = users.get(feed.device, ())
        if feed.source == "inner-battery":
            yield Fed(device=feed.device, promises=promises)
        elif feed.join is not None:
            join = plan.join_of(feed.join)
            yield Fed(
                device=feed.device,
                join=(join.link.a, join.link.b),
                join_words=f"{join.tag} from {rig[feed.from_device or ''].name}",
                has_battery=rig.runs_alone(feed.device),
                wakes_with=_woken_feeder(rig, plan, feed.device),
                promises=promises,
            )


def _woken_feeder(rig: ResolvedRig, plan: Plan, device: str) -> str | None:
    """The device itself when it is switched on, else the nearest of those that feed it that is; None when none is."""
    above = {feed.device: feed.from_device for feed in plan.feeds}
    here: str | None = device
    while here is not None:
        if rig[here].profile.wake is not None:
            return here
        here = above.get(here)
    return None


def _of_choices(rig: ResolvedRig, plan: Plan) -> Iterator[Condition]:
    lasting = tuple(route.promise for route in plan.routes if not route.hops)
    for choice in plan.choices:
        # A setting that no route asks for is there for the feeds, and so for the hours.
        promises = choice.promises or lasting
        if choice.kind == "mode":
            yield ModeIs(device=choice.device, mode=choice.value, before=choice.before, promises=promises)
        elif choice.kind == "setting":
            yield SettingIs(
                device=choice.device,
                setting=choice.key,
                value=choice.value,
                before=choice.before,
                promises=promises,
                care=not choice.promises and not _lets_in_the_only_feed(rig, plan, choice.device),
            )
        else:
            yield PromptAnswered(device=choice.device, prompt=choice.key, answer=choice.value, promises=promises)


def _lets_in_the_only_feed(rig: ResolvedRig, plan: Plan, device: str) -> bool:
    return any(
        feed.from_device is not None and not rig.runs_alone(feed.device) and device in (feed.device, feed.from_device)
        for feed in plan.feeds
    )


def _of_waking(rig: ResolvedRig, plan: Plan, users: dict[str, tuple[str, ...]]) -> Iterator[Condition]:
    used = {feed.device for feed in plan.feeds}
    inner = tuple(
        f"joined:{join.link.a}--{join.link.b}"
        for join in plan.joins
        if join.link.kind == "direct" or (join.link.kind == "cable" and not _leaves_cage(rig, join))
    )
    for device in sorted(used):
        wake = rig[device].profile.wake
        if wake is None:
            continue
        wants = [f"fed:{device}"]
        if wake.needs_balance:
            yield Balanced(device=device, joins=inner, promises=users.get(device, ()))
            wants.append(f"balanced:{device}")
        yield Awake(device=device, wants=tuple(wants), promises=users.get(device, ()))
    for first, second in _insisted(rig, plan):
        shared = tuple(p for p in users.get(second, ()) if p in users.get(first, ()))
        yield WokenAfter(device=second, peer=first, promises=shared)


def _insisted(rig: ResolvedRig, plan: Plan) -> Iterable[tuple[str, str]]:
    """Of the plan's wake order, the pairs that a profile insists on; the rest is only a preference."""
    wanted = set()
    for join in plan.joins:
        for use in join.carries:
            for end, name in ((join.link.a, use.role_a), (join.link.b, use.role_b)):
                role = rig[end.device].role(end.endpoint, name)
                if isinstance(role, ControlRole) and role.wake != "any" and join.promises:
                    pair = (join.link.far(end.device).device, end.device)
                    wanted.add(pair if role.wake == "peer-first" else pair[::-1])
    pairs = [(pair.first, pair.second) for pair in plan.wake_order]
    return [pair for pair in pairs if pair in wanted]
