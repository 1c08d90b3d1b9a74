"""What a plan asks of modes, settings, prompts, formats, firmware and licences; what is looked at besides."""

from collections.abc import Iterator

from isotact.core.model.keys import Key
from isotact.core.model.plan import Choice, Join, Use
from isotact.core.model.words import pixels_rate
from isotact.core.trades.base import Condition, Draft
from isotact.core.trades.care.acts import TakeCare
from isotact.core.trades.menus.conditions import ModeIs, PromptAnswered, SettingIs
from isotact.core.trades.menus.loaded_conditions import FirmwareAtLeast, FormatAccepted, LicenceLoaded, before
from isotact.core.trades.planned import Knob, Planned, Removal
from isotact.core.trades.trade import Derived


def derive(planned: Planned) -> Derived:
    """The conditions that a plan asks of this trade, each with the promises that need it."""
    for requisite in planned.plan.requisites:
        device, value = requisite.device, requisite.value
        if requisite.kind == "firmware":
            old = Removal(knobs=(((device, "firmware", ""), before(value)),))
            yield FirmwareAtLeast(device=device, firmware=value, promises=planned.lost_without(old))
        else:
            gone = Removal(knobs=(((device, "licence", value), ""),))
            yield LicenceLoaded(device=device, licence=value, promises=planned.lost_without(gone))
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
            promises=planned.lost_without(Removal(uses=frozenset(((join.link.id, use),)))),
        )


def care(planned: Planned) -> Iterator[Draft]:
    """What is right already, or so it is thought: one look per device, since nobody may have looked yet."""
    yield from _saving(planned)
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
                # To read one line of a menu, and go on to the next.
                takes_s=10 * len(right),
                act=TakeCare(),
                care=True,
            )


def _saving(planned: Planned) -> Iterator[Draft]:
    """The user's own set-up is saved before a mode takes it away."""
    for choice in planned.plan.choices:
        placed = planned.rig[choice.device]
        if choice.is_change and "resets-settings" in placed.upsets_of(choice.kind, choice.key, choice.value):
            words = placed.knob_words(choice.kind, choice.key, choice.value)
            yield Draft(
                key=Key.of("save-setup", choice.device),
                stage="menus",
                title=f"{placed.name}: save the user set-up to a card",
                detail=(f"{words} puts every setting back to the factory's.",),
                device=choice.device,
                expect="It lists the set-up on the card.",
                # A card in, three presses, and a name that says the day.
                takes_s=30,
                act=TakeCare(),
                care=True,
            )
