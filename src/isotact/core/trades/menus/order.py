"""Visits to menus: when a device is woken for them, what is done there, what takes effect only later."""

from collections.abc import Iterator, Mapping
from dataclasses import replace

from isotact.core.model.behaviour import Setting
from isotact.core.model.keys import Between, Key
from isotact.core.model.named_keys import balance_key, fit_key, menu_sleep_key, plug_key, wake_key
from isotact.core.model.plan import Join
from isotact.core.model.ports import Upset
from isotact.core.trades.base import Draft
from isotact.core.trades.menus.acts import (
    Set,
    SetMode,
)
from isotact.core.trades.planned import Planned
from isotact.core.trades.radio.starting_mode import started_elsewhere
from isotact.core.trades.step_graph import Node, StepGraph
from isotact.core.trades.waking.acts import Sleep, WakeUp

TAKES_LATER = "Its changes take effect at the next start."


def arrange(planned: Planned, graph: StepGraph) -> None:
    """Put what this trade knows of order into the graph of steps."""
    for device in planned.in_use:
        _visit_menus(planned, graph, device)
        _take_late(planned, graph, device)
        _before_leads(planned, graph, device)
        _restart_drivers(planned, graph, device)
        _asked_when_joined(planned, graph, device)
        waker = planned.waker(device) or device
        look, asleep = Key.of("look-settings", device), menu_sleep_key(waker)
        if graph.get(asleep) is not None:
            # Seen while the device is on for its menus, before it is switched off again.
            graph.order(Key.of("menu-wake", waker), look)
            graph.order(look, asleep)
        else:
            graph.order(wake_key(waker), look)


def _asked_when_joined(planned: Planned, graph: StepGraph, device: str) -> None:
    """A device asks only what it finds at its start: what it asks about is plugged before."""
    wake = planned.rig[device].profile.wake
    asked = {prompt.joined for prompt in wake.prompts if prompt.joined is not None} if wake is not None else set()
    for join in planned.joins if asked else ():
        if any(end.device == device and end.endpoint in asked for end in join.link.ends):
            plug = plug_key(Between(join.link.a, join.link.b))
            graph.wish(plug, wake_key(planned.waker(device) or device))


def _visit_menus(planned: Planned, graph: StepGraph, device: str) -> None:
    """Wake a device for its menus when a change there takes effect only later, and switch it off again.

    Changes that take at once are made after the device has woken for good.
    """
    waker = planned.waker(device)
    wake = graph.get(wake_key(waker)) if waker is not None else None
    changes = graph.doing((Set, SetMode), device)
    modes = planned.rig[device].profile.modes
    if any(started_elsewhere(planned, device)):
        changes = [node for node in changes if not isinstance(node.act, SetMode)]
    elif modes is not None and modes.lapses and wake is not None:
        # Chosen once it is up for good: it would be forgotten when the menus are left.
        for node in (one for one in changes if isinstance(one.act, SetMode)):
            node.stage = "wake"
            graph.order(wake.key, node.key)
        changes = [node for node in changes if not isinstance(node.act, SetMode)]
    awake = [node for node in changes if _needs_awake(planned, node)]
    if wake is None or not awake:
        return
    own = waker == device
    if not any(_takes_late(planned, node) or "restarts" in _upsets(planned, node) for node in changes):
        for node in awake:
            node.stage = "wake" if own or planned.rig[device].profile.motor is None else "lens"
            _save_first(graph, device, wake, node)
            graph.order(wake.key, node.key)
        return
    late = any(_takes_late(planned, node) for node in changes)
    known = graph.get(menu_sleep_key(waker or device))
    # A reboot alone does not ask for it: then it is switched off so that all start from off, in their order.
    needless = not late and (known is None or known.care)
    first, last = _menu_visit(planned, graph, wake, late)
    last.care = wake.care or needless
    if not own:  # it comes to life with what feeds it
        for feed in planned.feeds_above(device):
            join = planned.plan.join_of(feed.join or "")
            graph.order(plug_key(Between(join.link.a, join.link.b)), first.key)
    for node in awake:
        graph.order(first.key, node.key)
    for node in changes:
        graph.order(node.key, last.key)
    graph.order(last.key, wake.key)
    for node in changes:
        _save_first(graph, device, first, node)


def _save_first(graph: StepGraph, device: str, awake: Node, change: Node) -> None:
    """The set-up is saved once the device is on, before anything is changed."""
    save = graph.get(Key.of("save-setup", device))
    if save is not None:
        save.stage = change.stage
        graph.order(awake.key, save.key)
        graph.order(save.key, change.key)


def _needs_awake(planned: Planned, node: Node) -> bool:
    if isinstance(node.act, SetMode):
        modes = planned.rig[node.act.device].profile.modes
        return modes is not None and modes.needs_awake
    return _setting_of(planned, node).needs_awake


def _takes_late(planned: Planned, node: Node) -> bool:
    """Whether a change has to wait for a start; a mode is there at once."""
    return isinstance(node.act, Set) and _setting_of(planned, node).takes_effect != "at-once"


def _upsets(planned: Planned, node: Node) -> list[Upset]:
    return node.act.upsets(planned.rig) if isinstance(node.act, Set | SetMode) else []


def _setting_of(planned: Planned, node: Node) -> Setting:
    act = node.act
    if not isinstance(act, Set):
        raise LookupError(f"{node.key} sets nothing")
    return planned.rig[act.device].profile.setting(act.setting)


def _menu_visit(planned: Planned, graph: StepGraph, wake: Node, late: bool) -> tuple[Node, Node]:
    """Switch a device on for its menus and off again; `late`: something that is set there waits for its next start."""
    device = wake.draft.device or ""
    placed = planned.rig[device]
    profile_wake, held = placed.profile.wake, planned.held(device)
    if profile_wake is None:
        raise LookupError(f"{device} is never switched on")
    how, off = profile_wake.how, profile_wake.off
    if held is not None:
        giver = held.link.far(device)
        where = planned.rig[giver.device].port_words(giver.endpoint)
        how, off = f"Put {held.tag} into {where}: it has no switch.", f"Take {held.tag} out of {where}."
    first = graph.add(
        Draft(
            key=Key.of("menu-wake", device),
            stage="menus",
            title=f"Switch {placed.name} on for its menus" if held is None else f"Feed {placed.name} for its menus",
            detail=(how, *(["Pass over what it asks for now."] if profile_wake.prompts else [])),
            device=device,
            expect=wake.draft.expect,
            # The press alone: how long it takes to be up is waited for, and counted there.
            takes_s=3,
            act=WakeUp(device=device),
        ),
        wake.promises,
    )
    last = graph.add(
        Draft(
            key=menu_sleep_key(device),
            stage="menus",
            title=f"Switch {placed.name} off again" if held is None else f"Pull the feed of {placed.name} again",
            detail=(off,),
            device=device,
            expect="Its lamps and screen are dark.",
            # Off, and seen to be off: what is still up keeps what was set for the next start.
            takes_s=5,
            act=Sleep(device=device),
        ),
        wake.promises,
    )
    if late and TAKES_LATER not in last.draft.detail:
        last.draft = replace(last.draft, detail=(*last.draft.detail, TAKES_LATER))
    # What is done in between stands at one.
    first.visit, last.visit = 0, 2
    first.care = wake.care
    # It needs power and balance for this visit too, but nobody else awake, and no lead but its feed.
    for key in (balance_key(device), *(fit_key(one) for one in _fed_along(planned, device))):
        graph.order(key, first.key)
    return first, last


def _fed_along(planned: Planned, device: str) -> Iterator[str]:
    """The device, what feeds it, what feeds that, and so on to the battery."""
    seen: set[str] = set()
    while device not in seen:
        yield device
        seen.add(device)
        feed = planned.feed(device)
        if feed is not None and feed.join is not None:
            device = planned.plan.join_of(feed.join).link.far(device).device


def _take_late(planned: Planned, graph: StepGraph, device: str) -> None:
    """A change that takes at the next start is made true by the waking after it, not by the menu."""
    wake = graph.get(wake_key(planned.waker(device) or device))
    for node in graph.doing(Set, device):
        if wake is not None and _takes_late(planned, node):
            wake.makes |= node.makes
            node.makes = {}
            graph.order(node.key, wake.key)


def _before_leads(planned: Planned, graph: StepGraph, device: str) -> None:
    """What must stand before a lead goes in is set before it, and the device is off again when it does.

    So is a switch on the outside that takes effect when the lead goes in.
    """
    for node in graph.doing(Set, device):
        setting = _setting_of(planned, node)
        if setting.takes_effect == "at-reconnect" and not setting.needs_awake:
            for join in planned.joins:
                if any(
                    end.device == device and setting.id in planned.rig[device].asked_at(end.endpoint)
                    for end in join.link.ends
                ):
                    graph.wish(node.key, plug_key(Between(*join.link.ends)))
        if isinstance(node.act, Set) and setting.before_lead:
            for join in _leads_asking(planned, device, node.act.setting):
                plug = plug_key(Between(join.link.a, join.link.b))
                graph.wish(menu_sleep_key(device), plug)
                graph.wish(node.key, plug)


def _leads_asking(planned: Planned, device: str, setting: str) -> Iterator[Join]:
    """The cables for which a setting must stand: at the ports that ask for it, else the nearest on the ways that do."""
    feed = planned.feed(device)
    cables = {join.link.id: join for join in planned.joins if join.link.is_cable and join.family == "control"}
    cables.pop(feed.join if feed is not None and feed.join is not None else "", None)
    gated = [
        join
        for join in cables.values()
        for end in join.link.ends
        if end.device == device
        and any(setting in role.when.settings for role in planned.rig[device].endpoint(end.endpoint).roles)
    ]
    yield from gated or _nearest(planned, cables, device, setting)


def _nearest(planned: Planned, cables: Mapping[str, Join], device: str, setting: str) -> Iterator[Join]:
    for route in planned.plan.routes:
        if any((want.device, want.key) == (device, setting) for want in route.wants):
            crossed = [hop.link for hop in route.hops if hop.link in cables]
            if crossed:
                yield cables[crossed[-1] or ""]


def _restart_drivers(planned: Planned, graph: StepGraph, device: str) -> None:
    """What loses its driver is chosen before the driver is woken for good."""
    for node in graph.doing((Set, SetMode), device):
        if "restarts-driver" in _upsets(planned, node):
            for join in planned.joins:
                if join.link.is_cable and device in (join.link.a.device, join.link.b.device):
                    graph.order(node.key, wake_key(join.link.far(device).device))
