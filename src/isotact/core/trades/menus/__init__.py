"""Menus: modes, settings and when they take, prompts, picture formats, firmware, licences."""

from collections.abc import Iterator

from isotact.core.model.behaviour import Looks, Setting
from isotact.core.model.keys import Key
from isotact.core.model.plan import Choice, Join, Use
from isotact.core.model.words import pixels_rate
from isotact.core.trades.base import Condition, Draft
from isotact.core.trades.care.acts import TakeALook
from isotact.core.trades.graph import Node, StepGraph
from isotact.core.trades.menus.acts import (
    Answer,
    AnswerMissed,
    FirmwareOld,
    LicenceGone,
    ModeWrong,
    NotTaken,
    SendAnother,
    Set,
    SetMode,
    SetWrong,
)
from isotact.core.trades.menus.knobs import ModeIs, PromptAnswered, SettingIs
from isotact.core.trades.menus.loaded import FirmwareAtLeast, FormatAccepted, LicenceLoaded, before
from isotact.core.trades.planned import Knob, Planned, Without
from isotact.core.trades.trade import Derived, Trade
from isotact.core.trades.waking.acts import Sleep, WakeUp
from isotact.core.world import Menus, World


def _derive(planned: Planned) -> Derived:
    for requisite in planned.plan.requisites:
        device, value = requisite.device, requisite.value
        if requisite.kind == "firmware":
            old = Without(knobs=(((device, "firmware", ""), before(value)),))
            yield FirmwareAtLeast(device=device, firmware=value, promises=planned.needed_by(old))
        else:
            gone = Without(knobs=(((device, "licence", value), ""),))
            yield LicenceLoaded(device=device, licence=value, promises=planned.needed_by(gone))
    for choice in planned.plan.choices:
        yield from _of_choice(planned, choice)
    for join in planned.joins:
        for use in join.carries:
            yield from _of_format(planned, join, use)


def _of_choice(planned: Planned, choice: Choice) -> Derived:
    """One condition per set of values that will do: what a promise does not care about is none."""
    knob: Knob = (choice.device, choice.kind, choice.key)
    values = planned.rig[choice.device].values_of(choice.kind, choice.key)
    asked = (*values, "") if choice.kind == "answer" else values
    sets = planned.values_that_do(knob, asked)
    groups = dict.fromkeys(sets.values())
    if not groups and choice.is_change:
        groups = {(choice.value,): None}  # nothing needs it, and the plan makes it all the same
    for allowed in groups:
        needing = tuple(promise for promise, those in sets.items() if those == allowed)
        yield _condition(choice, allowed, needing)


def _condition(choice: Choice, allowed: tuple[str, ...], needing: tuple[str, ...]) -> Condition:
    device, value, was = choice.device, choice.value, choice.before
    if choice.kind == "answer":
        return PromptAnswered(device=device, prompt=choice.key, answer=value, allowed=allowed, promises=needing)
    if choice.kind == "mode":
        return ModeIs(device=device, value=value, allowed=allowed, before=was, promises=needing)
    return SettingIs(device=device, setting=choice.key, value=value, allowed=allowed, before=was, promises=needing)


def _of_format(planned: Planned, join: Join, use: Use) -> Derived:
    (sender, mine), (receiver, theirs) = planned.roles(join, use)
    if mine.picture_setting is None:
        return
    cable = planned.rig.cables[join.link.cable] if join.link.cable else None
    limit = cable.max_format if cable else None
    refused = tuple(
        picture
        for picture in planned.rig[sender.device].values_of("setting", mine.picture_setting)
        if picture not in theirs.pictures or (limit is not None and pixels_rate(picture) > pixels_rate(limit))
    )
    if refused:
        yield FormatAccepted(
            sender=sender,
            receiver=receiver,
            signal=mine.name,
            setting=mine.picture_setting,
            refused=refused,
            promises=planned.needed_by(Without(uses=frozenset(((join.link.id, use),)))),
        )


def _care(planned: Planned) -> Iterator[Draft]:
    """What is right already, or so it is thought: one look per device, since nobody may have looked yet."""
    for device in dict.fromkeys(choice.device for choice in planned.plan.choices):
        placed = planned.rig[device]
        right = [
            choice
            for choice in planned.plan.choices
            if choice.device == device and choice.kind != "answer" and not choice.is_change
        ]
        if right:
            yield Draft(
                key=Key.of("look-settings", device),
                stage="menus",
                title=f"{placed.name}: see that these still stand",
                detail=tuple(placed.knob_words(choice.kind, choice.key, choice.value) for choice in right),
                device=device,
                expect="Each reads as written here.",
                takes_s=10 * len(right),
                act=TakeALook(),
                care=True,
            )


def _arrange(planned: Planned, graph: StepGraph) -> None:
    for device in planned.in_use:
        _visit_menus(planned, graph, device)
        _take_late(planned, graph, device)
        look, asleep = Key.of("look-settings", device), Key.of("menu-sleep", device)
        if graph.get(asleep) is not None:
            # Seen while the device is on for its menus, before it is switched off again.
            graph.order(Key.of("menu-wake", device), look)
            graph.order(look, asleep)
        else:
            graph.order(Key.of("wake", device), look)


def _visit_menus(planned: Planned, graph: StepGraph, device: str) -> None:
    """Wake a device for its menus when a change there takes effect only later, and switch it off again.

    Changes that take at once are made after the device has woken for good.
    """
    wake = graph.get(Key.of("wake", device))
    changes = graph.doing((Set, SetMode), device)
    awake = [node for node in changes if _needs_awake(planned, node)]
    if wake is None or not awake:
        return
    if not any(_takes_late(planned, node) for node in changes):
        for node in awake:
            node.stage = "wake"
            graph.order(wake.key, node.key)
        return
    first, last = _menu_visit(planned, graph, wake)
    for node in awake:
        graph.order(first.key, node.key)
    for node in changes:
        graph.order(node.key, last.key)
    graph.order(last.key, wake.key)


def _needs_awake(planned: Planned, node: Node) -> bool:
    if isinstance(node.act, SetMode):
        modes = planned.rig[node.act.device].profile.modes
        return modes is not None and modes.needs_awake
    return _setting_of(planned, node).needs_awake


def _takes_late(planned: Planned, node: Node) -> bool:
    """Whether a change has to wait for a start; a mode is there at once."""
    return isinstance(node.act, Set) and _setting_of(planned, node).takes_effect != "at-once"


def _setting_of(planned: Planned, node: Node) -> Setting:
    act = node.act
    if not isinstance(act, Set):
        raise LookupError(f"{node.key} sets nothing")
    return planned.rig[act.device].profile.setting(act.setting)


def _menu_visit(planned: Planned, graph: StepGraph, wake: Node) -> tuple[Node, Node]:
    device = wake.draft.device or ""
    placed = planned.rig[device]
    profile_wake = placed.profile.wake
    first = graph.add(
        Draft(
            key=Key.of("menu-wake", device),
            stage="menus",
            title=f"Switch {placed.name} on for its menus",
            detail=((profile_wake.how,) if profile_wake else ()) + ("Pass over any prompt for now.",),
            device=device,
            expect=wake.draft.expect,
            takes_s=3,
            act=WakeUp(device=device),
        ),
        wake.promises,
    )
    last = graph.add(
        Draft(
            key=Key.of("menu-sleep", device),
            stage="menus",
            title=f"Switch {placed.name} off again",
            detail=((profile_wake.off,) if profile_wake else ()) + ("Its changes take effect at the next start.",),
            device=device,
            expect="Its lamps and screen are dark.",
            takes_s=5,
            act=Sleep(device=device),
        ),
        wake.promises,
    )
    first.visit, last.visit = 0, 2
    first.care = last.care = wake.care
    # It needs power and balance for this visit too, but nobody else awake.
    for key in wake.after:
        before_it = graph.get(key)
        if before_it is not None and not isinstance(before_it.act, WakeUp):
            graph.order(key, first.key)
    return first, last


def _take_late(planned: Planned, graph: StepGraph, device: str) -> None:
    """A change that takes at the next start is made true by the waking after it, not by the menu."""
    wake = graph.get(Key.of("wake", device))
    for node in graph.doing(Set, device):
        if wake is not None and _takes_late(planned, node):
            wake.makes |= node.makes
            node.makes = {}
            graph.order(node.key, wake.key)


def _asking(world: World, device: str, look: Looks) -> bool:
    return world[Menus].asks(device) is not None


TRADE = Trade(
    name="menus",
    state=(Menus,),
    acts=(
        SetMode, Set, Answer, SetWrong, NotTaken, ModeWrong, SendAnother, AnswerMissed, FirmwareOld, LicenceGone,
    ),
    conditions=(ModeIs, SettingIs, FormatAccepted, PromptAnswered, FirmwareAtLeast, LicenceLoaded),
    lamps={"asking": _asking},
    derive=_derive,
    care=_care,
    arrange=_arrange,
)  # fmt: skip
