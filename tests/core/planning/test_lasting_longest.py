"""USB power is switched by what lasts longest, though nobody asked for hours."""

import pytest

from isotact.catalogue import shipped
from isotact.core.bench import run
from isotact.core.model import Plan, ResolvedRig, resolve
from isotact.core.model.variants import with_devices, with_piece
from isotact.core.planning import plan
from isotact.core.planning.lasting_truly import with_true_hours
from isotact.core.planning.planner import choose
from isotact.core.runsheet import run_sheet
from isotact.examples import examples

RIGS = {rig.id: rig for example in examples() for rig in example.rigs}


def found(key: str) -> ResolvedRig:
    catalogue = shipped()
    return resolve(RIGS[key], catalogue.profiles, catalogue.cables)


def first_dark_h(made: Plan) -> float:
    return min(feed.hours_h for feed in made.feeds if feed.hours_h is not None)


def fed(made: Plan, device: str) -> str | None:
    return next(feed.from_device for feed in made.feeds if feed.device == device)


@pytest.mark.parametrize("key", ["body-or-motor", "shared-c", "by-radio", "on-a-leash"])
def test_a_body_runs_from_the_grip_where_its_own_battery_is_empty_sooner(key: str):
    """A sixth longer until something goes dark: worth a setting."""
    rig = found(key)
    before, made = with_true_hours(rig, choose(rig).plan), plan(rig)
    assert (fed(before, "body"), fed(made, "body")) == (None, "grip")
    assert first_dark_h(made) > 1.1 * first_dark_h(before)
    assert made.kept == before.kept
    assert run(rig, run_sheet(rig, made)).unproven == tuple(unmet.promise for unmet in made.unmet)


@pytest.mark.parametrize("key", sorted(RIGS))
def test_nothing_goes_dark_sooner_and_nothing_promised_is_lost_by_it(key: str):
    rig = found(key)
    before, made = with_true_hours(rig, choose(rig).plan), plan(rig)
    assert set(made.kept) <= set(before.kept)
    if made.kept == before.kept and any(feed.hours_h for feed in before.feeds):
        assert first_dark_h(made) >= first_dark_h(before) - 1e-9


def test_where_hours_are_promised_the_choice_itself_sees_to_them():
    key = next(key for key, rig in RIGS.items() if rig.lasting and rig.routed)
    assert plan(found(key)).choices == choose(found(key)).plan.choices


def test_a_full_battery_in_the_body_decides_otherwise_than_a_flat_one():
    """At a tenth of its charge the grip would be empty first, and the body runs from its own."""
    rig = found("body-or-motor")
    low = with_devices(rig, [with_piece(rig["grip"], charge_percent=20)])
    assert fed(plan(low), "body") is None


def test_where_it_does_not_last_a_tenth_longer_nothing_is_changed():
    rig = found("relayed-control")
    assert plan(rig).choices == choose(rig).plan.choices
