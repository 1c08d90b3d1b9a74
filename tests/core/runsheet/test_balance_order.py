"""Nothing incomplete is ever balanced: over every shipped rig, and over all that are drawn."""

from collections.abc import Iterator
from typing import Any

import pytest

from isotact.core.model.resolved import ResolvedRig, resolve
from isotact.core.model.words import Stage
from isotact.core.planning import flags_of
from isotact.core.runsheet import moved_to, sheet_between
from isotact.core.trades.balance.acts import BalanceIt
from isotact.core.trades.cables.acts import Plug
from isotact.core.trades.media.acts import InsertCard
from isotact.core.trades.mounting.acts import Fix
from isotact.core.trades.power.acts import FitBattery
from tests.corpus import CORPORA, corpus
from tests.rigs import SHIPPED, Carried, carried, demo

ON_GIMBAL = {Stage.TILT_CAGE, Stage.ROLL_ARM, Stage.PAN_BASE}


def added_after_balance(done: Carried) -> Iterator[str]:
    """Each step that puts weight into the cage, or moves it there, after the gimbal was balanced for the last time."""
    rig, steps = done.rig, done.sheet.steps
    balanced = [number for number, step in enumerate(steps) if isinstance(step.act, BalanceIt)]
    for step in steps[balanced[-1] + 1 :] if balanced else ():
        act = step.act
        if isinstance(act, Fix) and rig[act.device].stage in ON_GIMBAL:
            yield step.title
        if isinstance(act, (InsertCard, FitBattery)) and rig[act.device].stage == Stage.TILT_CAGE:
            yield step.title
        if isinstance(act, Plug):
            stages = [rig[end.device].stage_of(end.endpoint) for end in (act.a, act.b)]
            ends = [rig[end.device].endpoint(end.endpoint) for end in (act.a, act.b)]
            mounts = any(end.mated for end in ends) and Stage.TILT_CAGE in stages
            if mounts or set(stages) == {Stage.TILT_CAGE}:
                yield step.title


@pytest.mark.parametrize("rig_id", SHIPPED)
def test_no_shipped_sheet_adds_to_the_cage_after_balance(rig_id: str):
    done = carried(rig_id)
    assert not [*added_after_balance(done)]
    gimbals = {feed.device for feed in done.plan.feeds if done.rig[feed.device].is_balanced}
    assert {step.act.device for step in done.sheet.steps if isinstance(step.act, BalanceIt)} == gimbals


@pytest.mark.parametrize("name", [one for one in CORPORA if one != "thin leads"])
def test_no_drawn_sheet_adds_to_the_cage_after_balance(name: str):
    assert not [(drawn.name, *late) for drawn in corpus(name) if (late := [*added_after_balance(drawn.done)])]


def test_the_motors_are_meshed_and_the_leads_of_the_cage_in_before_the_gimbal_is_balanced():
    steps = [step.title for step in carried("night-ferry-a").sheet.steps]
    balance = steps.index("Balance Osier ring")
    for title in ("Mesh Motor F with the focus gear of Cine zoom", "Plug A3: Sedge driver to Motor F"):
        assert steps.index(title) < balance
    tuning = next(n for n, title in enumerate(steps) if "tune itself" in title)
    assert tuning > steps.index("Wake Osier ring") > balance


def built_and_changed(then: Carried, now: ResolvedRig) -> list[str]:
    """The short sheet from a rig that is built to another document of it, its flags kept: the ids of its steps."""
    flags = flags_of(then.plan, plugged=True)
    profiles = {placed.profile.id: placed.profile for placed in now.devices.values()}
    done = Carried.out(resolve(now.rig.model_copy(update={"flags": flags}), profiles, now.cables))
    world, gone = moved_to(then.world, done.rig)
    return [step.id for step in sheet_between(world, done.plan, done.conditions, gone).steps]


def test_what_is_mounted_late_spoils_balance_and_it_comes_again_with_the_motors_off():
    def bare(data: dict[str, Any]) -> None:
        data["promises"] = [one for one in data["promises"] if one["id"] != "picture"]

    steps = built_and_changed(Carried.out(demo(bare)), demo())
    order = ["sleep:gimbal", "fix:transmitter", "plug:body.hdmi--transmitter.hdmi-in", "balance:gimbal", "wake:gimbal"]
    assert [step for step in steps if step in order] == order


def test_what_leaves_the_promises_stays_on_and_the_balance_with_it():
    def bare(data: dict[str, Any]) -> None:
        data["promises"] = [one for one in data["promises"] if one["id"] != "picture"]

    assert built_and_changed(Carried.out(demo()), demo(bare)) == []
