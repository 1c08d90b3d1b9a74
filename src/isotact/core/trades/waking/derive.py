"""What a plan asks of waking: awake, in the right order, the screen lit."""

from collections import defaultdict
from collections.abc import Iterator

from isotact.core.model.keys import Item
from isotact.core.model.needed_pictures import screen_of
from isotact.core.model.plan import Join, Use
from isotact.core.telling.phrases import hours_words
from isotact.core.trades.planned import Planned, Removal
from isotact.core.trades.power.lasting_words import from_lamp_h
from isotact.core.trades.trade import Derived
from isotact.core.trades.waking.conditions import Awake, Responds, ScreenLive, WokenAfter


def derive(planned: Planned) -> Derived:
    """The conditions that a plan asks of this trade, each with the promises that need it."""
    for device in sorted(planned.in_use):
        if planned.rig[device].profile.wake is not None:
            one = frozenset((device,))
            waker = planned.waker(device)
            yield _awake_when(planned, device, waker)
            if device in planned.on_ways:
                muted = planned.lost_without(Removal(mute=one))
                yield Responds(device=device, waker=waker or device, promises=muted)
    yield from _in_order(planned)
    for promise in planned.rig.rig.routed:
        at = screen_of(planned.rig, promise)
        if at is not None and promise.id in planned.plan.kept:
            dark = Removal(screens=frozenset((Item(at.device, at.surface),)))
            yield ScreenLive(device=at.device, screen=at.surface, promises=planned.lost_without(dark))


def _awake_when(planned: Planned, device: str, waker: str | None) -> Awake:
    feed, held = planned.feed(device), planned.held(device)
    join = planned.plan.join_of(feed.join) if feed is not None and feed.join is not None else None
    words = []
    for lead in (held, *planned.also_held(device)) if held is not None else ():
        giver = lead.link.far(device)
        words.append((lead.tag, planned.rig[giver.device].port_words(giver.endpoint)))
    left_h = from_lamp_h(planned, feed) if feed is not None and feed.join is None else None
    return Awake(
        device=device,
        waker=waker,
        lamp="" if left_h is None else f"When its battery lamp warns, {hours_words(left_h)} are left.",
        feed=join.link.ends if join else None,
        feed_words=tuple(words),
        promises=planned.lost_without(Removal(devices=frozenset((device,)))),
    )


def _in_order(planned: Planned) -> Derived:
    """Pairs on whose order a profile insists; what a school merely prefers is no condition."""
    lost: dict[tuple[str, str], set[tuple[str, Use]]] = defaultdict(set)
    for join in planned.joins:
        for use in join.carries if join.promises and not join.link.is_radio else ():
            for pair in _pairs(planned, join, use):
                lost[pair].add((join.link.id, use))
    for (first, second), uses in lost.items():
        waker, peer_waker = planned.waker(second), planned.waker(first)
        if waker is not None and peer_waker is not None and waker != peer_waker:
            needing = planned.lost_without(Removal(uses=frozenset(uses)))
            yield WokenAfter(device=second, peer=first, waker=waker, peer_waker=peer_waker, promises=needing)


def _pairs(planned: Planned, join: Join, use: Use) -> Iterator[tuple[str, str]]:
    for end, role in planned.roles(join, use):
        far = join.link.far(end.device).device
        if role.wake_rule == "peer-first":
            yield far, end.device
        elif role.wake_rule == "self-first":
            yield end.device, far
