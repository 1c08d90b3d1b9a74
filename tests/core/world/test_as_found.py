"""What is known of a very piece: how full its battery is, what was looked at, and what was not."""

import pytest

from isotact.core.bench import run
from isotact.core.planning import plan
from isotact.core.planning.planner import choose
from isotact.core.runsheet import run_sheet
from tests.rigs import demo


def hours(data, promised: float) -> None:
    data["promises"] = [{"kind": "power", "id": "hours", "who": "Everybody", "hours_h": promised}, *data["promises"]]


def test_a_half_full_battery_lasts_half_as_long_in_plan_and_on_the_bench():
    full = demo()
    half = demo(lambda data: [one.update(charge_percent=50) for one in data["devices"] if one["id"] == "gimbal"])
    usable = full["gimbal"].usable_wh
    assert usable is not None
    assert half["gimbal"].usable_wh == pytest.approx(usable / 2)
    feeds = [{feed.device: feed.hours_h for feed in choose(rig).plan.feeds} for rig in (full, half)]
    assert feeds[1]["gimbal"] == pytest.approx(feeds[0]["gimbal"] / 2, abs=0.01)


@pytest.mark.parametrize(("percent", "kept"), [(100, True), (30, False)])
def test_hours_are_promised_of_what_is_in_it_now(percent: int, kept: bool):
    def change(data) -> None:
        hours(data, 2.5)
        for one in data["devices"]:
            one["charge_percent"] = percent if one["id"] == "gimbal" else None

    rig = demo(change)
    made = plan(rig)
    assert ("hours" in made.kept) == kept
    proofs = {proof.promise: proof.ok for proof in run(rig, run_sheet(rig, made)).proofs}
    assert proofs.get("hours", False) == kept


def test_a_mode_that_nobody_looked_at_is_looked_at_where_the_plan_needs_it():
    def factory(data) -> None:
        data["promises"] = [one for one in data["promises"] if one["id"] == "iso"]

    rig = demo(factory)  # ISO needs the stills mode, which is the one from the factory
    look = next(step for step in run_sheet(rig, plan(rig)).steps if step.id == "look-settings:body")
    assert "Stills mode" in look.detail
