"""USB power changed once during the day: first from the grip, then from one's own, so that neither is left over."""

import pytest

from isotact.catalogue import shipped
from isotact.core.bench import run
from isotact.core.model import ResolvedRig, Rig, resolve
from isotact.core.planning import plan
from isotact.core.questions.feed_tree import feed_tree
from isotact.core.runsheet import run_sheet
from isotact.core.trades import Planned
from isotact.core.trades.planned import AS_PLANNED, Removal
from isotact.core.trades.power.feeding import feeding_of
from isotact.core.trades.power.switching_once import switched_once
from isotact.examples import examples

RIGS = {rig.id: rig for example in examples() for rig in example.rigs}


def found(key: str, **changes: object) -> ResolvedRig:
    catalogue = shipped()
    rig = Rig.model_validate(RIGS[key].model_dump() | changes)
    return resolve(rig, catalogue.profiles, catalogue.cables)


def left_after(planned: Planned, without: Removal, hours_h: float, left: dict[str, float]) -> dict[str, float]:
    """What is left of each battery, as a share of what may be used, after so many hours of it."""
    feeding = feeding_of(planned, without)
    used = {one: hours_h / feeding.lasts_h(one) for one, load_w in feeding.supply.roots().items() if load_w}
    return {one: left.get(one, 1.0) - used.get(one, 0.0) for one in {*left, *used}}


@pytest.mark.parametrize("key", ["body-or-motor", "look-alikes", "shared-a", "by-radio"])
def test_a_body_that_runs_from_the_grip_first_and_then_from_its_own_leaves_neither_over(key: str):
    planned = Planned(rig := found(key), plan(rig))
    switch = switched_once(planned)
    assert switch is not None
    assert switch.lasts_h > 1.1 * switch.instead_h
    to = Removal(knobs=(((switch.device, "setting", switch.setting), switch.then),))
    assert planned.lost_without(to) == ()

    def end(after_h: float) -> float:
        """What is left of the emptiest battery when it should be the end of all."""
        half = left_after(planned, AS_PLANNED, after_h, {})
        return min(left_after(planned, to, switch.lasts_h - after_h, half).values())

    assert end(switch.after_h) == pytest.approx(0, abs=1e-9)
    for other_h in (0.0, 0.8 * switch.after_h, 1.2 * switch.after_h, switch.lasts_h):
        assert end(other_h) <= 1e-9, "changed over at another time it lasts no longer"


def test_it_is_said_where_one_wakes_it_and_on_the_tree():
    rig = found("body-or-motor")
    made = plan(rig)
    says = (
        "After 1.6 h set Grip screen › Power › Camera power: Off on Grip: the first battery in use is then empty after "
        "4.0 h; left as it is, after 2.6 h."
    )
    assert says in [one.says for one in feed_tree(rig, made).remarks if one.kind == "switch"]
    sheet = run_sheet(rig, made)
    assert any(says in line for step in sheet.steps for line in step.detail)
    assert run(rig, sheet).unproven == tuple(unmet.promise for unmet in made.unmet)


def test_where_hours_are_promised_or_nothing_can_be_switched_nothing_is_said():
    hours = {"kind": "power", "id": "hours", "who": "All", "hours_h": 1.0, "weight": 2}
    promised = found("body-or-motor", promises=[*RIGS["body-or-motor"].model_dump()["promises"], hours])
    assert switched_once(Planned(promised, plan(promised))) is None
    none = [key for key in RIGS if switched_once(Planned(rig := found(key), plan(rig))) is None]
    assert len(none) >= len(RIGS) / 2


def test_a_setting_that_takes_at_a_start_only_is_not_switched_in_the_middle_of_a_day():
    rig = found("body-or-motor")
    profiles = {placed.profile.id: placed.profile for placed in rig.devices.values()}
    for key, profile in profiles.items():
        slow = [one.model_copy(update={"takes_effect": "at-boot"}) for one in profile.settings]
        profiles[key] = profile.model_copy(update={"settings": slow})
    other = resolve(rig.rig, profiles, rig.cables)
    assert switched_once(Planned(other, plan(other))) is None
