"""From conditions to a run sheet: every step that makes a condition true, and those that manners ask for."""

from collections.abc import Iterable, Iterator
from typing import cast

from isotact.core.conditions import Condition, battery_step, conditions_of
from isotact.core.model.plan import Plan
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import Promise
from isotact.core.model.steps import JobStage, Look, Prove, RunSheet, Sleep, Step, WakeUp
from isotact.core.model.words import FUNCTIONS, Stage
from isotact.core.runsheet.ordering import in_order
from isotact.core.wiring import promise_words


def run_sheet(rig: ResolvedRig, plan: Plan) -> RunSheet:
    """The steps that carry out `plan`, in an order in which each can be done and stays done."""
    conditions = conditions_of(rig, plan)
    steps = _merge(_drafts(rig, plan, conditions))
    steps = _with_needs(steps, conditions)
    steps = _taking_late(rig, _with_menus(rig, steps))
    steps = _with_wake_order(rig, plan, steps)
    steps = [_with_cautions(rig, step) for step in steps]
    away = [device for device, placed in rig.devices.items() if placed.stage == Stage.OFF_GIMBAL]
    ordered = in_order(steps, balance_last=rig.rig.schools.balance == "after-outer-cables", last=away)
    return RunSheet(
        rig=plan.rig,
        steps=tuple(ordered),
        takes_s=sum(step.takes_s for step in ordered),
        warnings=plan.warnings,
    )


def _drafts(rig: ResolvedRig, plan: Plan, conditions: tuple[Condition, ...]) -> Iterator[Step]:
    for condition in conditions:
        step = condition.step(rig)
        if step is not None:
            yield step.model_copy(update={"promises": condition.promises})
    for feed in plan.feeds:
        spare = battery_step(rig, feed.device, care=True) if feed.source == "join" else None
        if spare is not None:
            yield spare.model_copy(update={"detail": (*spare.detail, "It carries the device when its lead is pulled.")})
    yield from _care(rig, plan)
    yield from _of_schools(rig, plan)
    yield from _settled(rig, plan)
    for promise in rig.rig.promises:
        if promise.id in plan.kept:
            yield _proof(rig, promise)


def _settled(rig: ResolvedRig, plan: Plan) -> Iterator[Step]:
    """Settings that are right already: one look per device, since somebody may have changed them."""
    for device in dict.fromkeys(choice.device for choice in plan.choices):
        placed = rig[device]
        right = [c for c in plan.choices if c.device == device and c.kind == "setting" and not c.is_change]
        if not right:
            continue
        lines = []
        for choice in right:
            setting = placed.profile.setting(choice.key)
            name = next(value.name for value in setting.values if value.id == choice.value)
            lines.append(f"{' › '.join(setting.path)}: {name}")
        yield Step(
            id=f"look-settings:{device}",
            stage="menus",
            title=f"{placed.name}: see that these still stand",
            detail=tuple(lines),
            device=device,
            expect="Each reads as written here.",
            takes_s=10 * len(lines),
            action=Look(),
            after=(f"wake:{device}",),
            care=True,
        )


def _care(rig: ResolvedRig, plan: Plan) -> Iterator[Step]:
    for feed in plan.feeds:
        placed = rig[feed.device]
        for number, care in enumerate(placed.profile.care):
            after = (f"wake:{feed.device}",) if care.at == "wake" else ()
            yield Step(
                id=f"care:{feed.device}.{number}",
                stage=care.at,
                title=f"{placed.name}: take care",
                detail=(care.says,),
                device=feed.device,
                expect="Done, or left out knowingly.",
                takes_s=30,
                action=Look(),
                after=after,
                care=True,
            )


_ANTENNAS = {
    "upright": "Upright and spread, clear of the motors and of the camera.",
    "inward": "Turned inward, so that the plug beside them goes in. Walk the range with it before the first take.",
}
_MOTORS = {
    "above": "On the rods above the lens, so that the roll axis stays on the lens.",
    "beside": "Beside the lens, to counter a body that is heavy on the other side. Balance the roll axis again.",
}


def _of_schools(rig: ResolvedRig, plan: Plan) -> Iterator[Step]:
    """Where the job has chosen how antennas stand and motors hang, a step of care says so."""
    used = [rig[feed.device] for feed in plan.feeds]
    antennas = [placed for placed in used if any(radio.range_m for radio in placed.profile.radios)]
    motors = [placed for placed in used if placed.profile.motor is not None]
    for what, those, says, stage in (
        ("antennas", antennas, _ANTENNAS[rig.rig.schools.antennas], "pair"),
        ("motors", motors, _MOTORS[rig.rig.schools.motor], "build"),
    ):
        if those:
            yield Step(
                id=f"care:{what}",
                stage=cast(JobStage, stage),
                title=f"{what.capitalize()}: {', '.join(placed.name for placed in those)}",
                detail=(says,),
                expect="As the job has it.",
                takes_s=20,
                action=Look(),
                care=True,
            )


def _proof(rig: ResolvedRig, promise: Promise) -> Step:
    words = promise_words(rig, promise)
    if promise.kind == "control":
        function = FUNCTIONS[promise.function]
        detail = [f"{function.act[0].upper()}{function.act[1:]}."]
        if promise.function == "record":
            detail.append("See that a card is in. The button toggles: never leave a test rolling.")
        expect = f"{function.seen[0].upper()}{function.seen[1:]}."
    elif promise.kind == "picture":
        detail = ["Wave a hand before the lens."]
        if promise.within_ms is not None:
            detail.append(f"Film a running clock beside the screen: at most {promise.within_ms:g} ms behind.")
        expect = "The picture is there and moves with the hand."
    else:
        detail, expect = ["Read every battery level."], f"Each lasts {promise.hours_h:g} h at this load."
    return Step(
        id=f"prove:{promise.id}",
        stage="prove",
        title=f"Prove: {words}",
        detail=(f"For {promise.who}.", *detail),
        device=None if promise.kind == "power" else promise.at.device,
        expect=expect,
        takes_s=15,
        action=Prove(promise=promise.id),
        promises=(promise.id,),
    )


def _merge(steps: Iterable[Step]) -> list[Step]:
    """One step per id: what several conditions ask of it is put together."""
    merged: dict[str, Step] = {}
    for step in steps:
        if step.id in merged:
            old = merged[step.id]
            step = old.model_copy(
                update={
                    "promises": tuple(dict.fromkeys((*old.promises, *step.promises))),
                    "care": old.care and step.care,
                }
            )
        merged[step.id] = step
    return list(merged.values())


def _with_needs(steps: list[Step], conditions: tuple[Condition, ...]) -> list[Step]:
    """Tie each condition to the step that makes it true, and that step to those of its needs."""
    makers = {condition.key: condition.made_by() for condition in conditions}
    makes: dict[str, list[str]] = {step.id: [] for step in steps}
    after: dict[str, list[str]] = {step.id: list(step.after) for step in steps}
    for condition in conditions:
        maker = condition.made_by()
        if maker in makes:
            makes[maker].append(condition.key)
            after[maker] += [makers[need] for need in condition.needs() if makers.get(need, maker) != maker]
    return [
        step.model_copy(update={"makes": tuple(makes[step.id]), "after": tuple(dict.fromkeys(after[step.id]))})
        for step in steps
    ]


def _with_menus(rig: ResolvedRig, steps: list[Step]) -> list[Step]:
    """Wake a device for its menus when a change there takes effect only later, and switch it off again.

    Changes that take at once are made after the device has woken for good.
    """
    known = {step.id: step for step in steps}
    for device, placed in rig.devices.items():
        changes = [step for step in steps if step.action.kind == "set" and step.device == device]
        settings = [placed.profile.setting(step.action.setting) for step in changes if step.action.kind == "set"]
        if not any(setting.needs_awake for setting in settings):
            continue
        wake = f"wake:{device}"
        if all(setting.takes_effect == "at-once" for setting in settings):
            for step, setting in zip(changes, settings, strict=True):
                if setting.needs_awake:
                    known[step.id] = step.model_copy(update={"after": (*step.after, wake), "stage": "wake"})
            continue
        first, last = _menu_visit(rig, known[wake])
        for step, setting in zip(changes, settings, strict=True):
            if setting.needs_awake:
                known[step.id] = step.model_copy(update={"after": (*step.after, first.id)})
        known[first.id] = first
        known[last.id] = last.model_copy(update={"after": tuple(step.id for step in changes)})
        known[wake] = known[wake].model_copy(update={"after": (*known[wake].after, last.id)})
    return list(known.values())


def _taking_late(rig: ResolvedRig, steps: list[Step]) -> list[Step]:
    """A change that takes at the next start is made true by the waking after it, not by the menu."""
    known = {step.id: step for step in steps}
    for step in steps:
        if step.action.kind == "set" and step.device is not None:
            setting = rig[step.device].profile.setting(step.action.setting)
            wake = known.get(f"wake:{step.device}")
            if setting.takes_effect != "at-once" and wake is not None:
                known[wake.id] = wake.model_copy(
                    update={"makes": (*wake.makes, *step.makes), "after": (*wake.after, step.id)}
                )
                known[step.id] = step.model_copy(update={"makes": ()})
    return list(known.values())


def _menu_visit(rig: ResolvedRig, wake: Step) -> tuple[Step, Step]:
    device = wake.device or ""
    placed = rig[device]
    profile_wake = placed.profile.wake
    first = Step(
        id=f"menu-wake:{device}",
        stage="menus",
        title=f"Switch {placed.name} on for its menus",
        detail=((profile_wake.how,) if profile_wake else ()) + ("Pass over any prompt for now.",),
        device=device,
        expect=wake.expect,
        takes_s=3,
        action=WakeUp(device=device),
        after=tuple(key for key in wake.after if key.startswith(("fit:", "balance:", "plug:"))),
        promises=wake.promises,
    )
    last = Step(
        id=f"menu-sleep:{device}",
        stage="menus",
        title=f"Switch {placed.name} off again",
        detail=((profile_wake.off,) if profile_wake else ()) + ("Its changes take effect at the next start.",),
        device=device,
        expect="Its lamps and screen are dark.",
        takes_s=5,
        action=Sleep(device=device),
        promises=wake.promises,
    )
    return first, last


def _with_wake_order(rig: ResolvedRig, plan: Plan, steps: list[Step]) -> list[Step]:
    """The wake order, and after each waking what the device has to be asked or told before the next."""
    known = {step.id: step for step in steps}

    def add(later: str, earlier: str) -> None:
        if later in known and earlier in known:
            known[later] = known[later].model_copy(update={"after": (*known[later].after, earlier)})

    for pair in plan.wake_order:
        add(f"wake:{pair.second}", f"wake:{pair.first}")
    for feed in plan.feeds:
        if feed.from_device is None or feed.join is None or rig.runs_alone(feed.device):
            continue
        giver = feed.from_device
        for key in (f"wake:{giver}", f"mode:{giver}", *_gates(rig, plan, feed.join, giver)):
            add(f"menu-wake:{feed.device}", key)
            add(f"wake:{feed.device}", key)
    doing = [step.id for step in steps if step.action.kind != "prove" and not step.care]
    for step in steps:
        for other in doing if step.action.kind == "prove" else []:
            add(step.id, other)
        if step.id.startswith("look-settings:"):
            add(step.id, f"menu-wake:{step.device}")
            # Seen while the device is on for its menus, before it is switched off again.
            if f"menu-sleep:{step.device}" in known:
                known[step.id] = known[step.id].model_copy(update={"after": (f"menu-wake:{step.device}",)})
                add(f"menu-sleep:{step.device}", step.id)
    return list(known.values())


def _gates(rig: ResolvedRig, plan: Plan, link: str, giver: str) -> list[str]:
    """The steps that set what lets the outlet of `giver` feed over `link`."""
    join = plan.join_of(link)
    end, side = (join.link.a, "role_a") if join.link.a.device == giver else (join.link.b, "role_b")
    roles = [rig[giver].role(end.endpoint, getattr(use, side)) for use in join.carries if use.kind == "power"]
    return [f"set:{giver}.{key}" for role in roles for key in role.when.settings]


def _with_cautions(rig: ResolvedRig, step: Step) -> Step:
    """The cautions of the devices that a step touches, at the step where they matter."""
    touched = {step.device} if step.device else set()
    if step.action.kind == "plug":
        touched |= {step.action.a.device, step.action.b.device}
    first_of_stage = step.action.kind not in ("look", "set", "answer", "sleep")
    said = [
        caution.says
        for device in sorted(touched)
        for caution in rig[device].profile.cautions
        if first_of_stage and _matters(step, caution.at)
    ]
    return step.model_copy(update={"cautions": tuple(dict.fromkeys((*step.cautions, *said)))})


def _matters(step: Step, at: str) -> bool:
    if step.action.kind == "wake":
        return at == "wake"
    if step.action.kind == "plug":
        return at in ("inner-cables", "outer-cables") and step.stage in ("inner-cables", "outer-cables")
    return at == step.stage
