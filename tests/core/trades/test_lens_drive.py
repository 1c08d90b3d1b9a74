"""Motors on rings: ends by hand or by stops, lost with the power, one motor to an axis, the right table."""

from dataclasses import replace

import pytest

from isotact.core.bench import run
from isotact.core.model.keys import Item
from isotact.core.model.plan import LinkEnd
from isotact.core.model.variants import with_devices, with_profile
from isotact.core.planning import plan
from isotact.core.runsheet import run_sheet
from isotact.core.trades import conditions_of, perform
from isotact.core.trades.cables.acts import Unplug
from isotact.core.trades.lens_drive import LensDrive, MapEnds
from isotact.core.trades.lens_drive.acts import LoadTable
from isotact.core.trades.menus.acts import Set
from isotact.core.trades.power.acts import RunFlat
from isotact.core.trades.waking import Sleep, WakeUp
from isotact.core.world import World, prove
from tests.rigs import SHIPPED, carried

MOTORS = ("motor-focus", "motor-iris", "motor-zoom")


def gear(device: str) -> LinkEnd:
    return LinkEnd(device=device, endpoint="gear")


def heavy() -> World:
    return carried("night-ferry-a").world.fork()


def mapped(world: World) -> set[str]:
    return {item.device for item in world[LensDrive].ends}


def test_ends_are_found_only_where_the_ring_stops_and_set_by_hand_where_it_does_not():
    """In every sheet that ships; the facts are the lens's, by ring."""
    seen = set()
    for rig_id in SHIPPED:
        done = carried(rig_id)
        for step in done.sheet.steps:
            if isinstance(step.act, MapEnds):
                stops = done.rig[step.act.ring.device].port(step.act.ring.endpoint).hard_stops
                assert (step.act.by == "stops") == stops
                assert "by hand" in step.title or stops
                seen.add(step.act.by)
    assert seen == {"stops", "hand"}


def test_a_ring_without_stops_is_turned_on_and_on_and_nothing_is_learnt():
    done = carried("single-port-ring")
    world = done.world.fork()
    world[LensDrive].ends.clear()
    ring = LinkEnd(device="body", endpoint="ring")
    act = MapEnds(motor=gear("motor"), ring=ring, by="stops")
    assert perform(world, act) == "Motor turns on and on: that ring has no stops. Set both ends by hand."
    assert mapped(world) == set()
    assert not prove(world, "iris").ok
    perform(world, act.model_copy(update={"by": "hand"}))
    assert prove(world, "iris").ok


@pytest.mark.parametrize("acts", [(Sleep(device="driver"), WakeUp(device="driver")), (RunFlat(device="battery"),)])
def test_power_lost_is_ends_lost(acts):
    world = heavy()
    assert mapped(world) == set(MOTORS)
    for act in acts:
        perform(world, act)
    assert mapped(world) == set()
    assert not prove(world, "focus").ok


def test_a_motor_that_lost_its_lead_has_lost_its_ends_and_so_have_those_behind_it():
    done = carried("night-ferry-a")
    chain = {frozenset((join.link.a.device, join.link.b.device)): join.link for join in done.plan.joins}
    last = chain[frozenset(("motor-iris", "motor-zoom"))]
    world = heavy()
    perform(world, Unplug(a=last.a, b=last.b))
    assert mapped(world) == {"motor-focus", "motor-iris"}
    assert prove(world, "focus").ok
    assert not prove(world, "zoom").ok


def test_two_motors_on_one_axis_fight_and_neither_serves():
    world = heavy()
    perform(world, Set(device="motor-zoom", setting="axis", value="iris"))
    assert not prove(world, "iris").ok
    assert not prove(world, "zoom").ok
    assert prove(world, "focus").ok


def test_lens_data_wants_the_table_of_the_lens_that_is_on():
    done = carried("two-drivers")
    world = done.world.fork()
    assert prove(world, "data").ok
    world[LensDrive].tables = {Item(item.device, "another-lens") for item in world[LensDrive].tables}
    world.settle()
    assert not prove(world, "data").ok
    assert prove(world, "focus").ok
    load = next(step.act for step in done.sheet.steps if isinstance(step.act, LoadTable))
    perform(world, load)
    assert prove(world, "data").ok


def test_a_lens_that_does_not_repeat_its_marks_is_said_when_marks_are_wanted():
    done = carried("night-ferry-a")
    ends = next(one for one in done.conditions if one.kind == "ends-known")
    wire = ends.model_copy(update={"repeats": False})
    assert not any("mark" in line for line in wire.draft(done.rig).detail)
    shot = done.rig.rig.shot.model_copy(update={"marks": True})
    marked = replace(done.rig, rig=done.rig.rig.model_copy(update={"shot": shot}))
    assert "It does not come back to the same mark: say so to whoever wants marks." in wire.draft(marked).detail


def test_motors_are_meshed_before_balance_and_mapped_once_all_is_awake_and_the_torque_is_warned_of():
    steps = carried("night-ferry-a").sheet.steps
    *lens, last = [step for step in steps if step.stage == "lens"]
    assert [step.act.kind for step in lens] == ["set"] * 3 + ["map-ends"] * 3 + ["load-table"]
    # Once nothing more is put on, the gimbal tunes itself.
    assert "tune itself" in last.title
    meshed = [step.stage for step in steps if step.title.startswith("Mesh ")]
    assert meshed == ["build"] * 3
    warned = [step for step in steps if any("fingers clear" in words for words in step.cautions)]
    assert {step.stage for step in warned} == {"lens"}


def test_a_lens_table_lies_where_the_profile_says_else_in_the_driver():
    done = carried("night-ferry-a")
    assert [str(one.key) for one in done.conditions if one.key.kind == "table"] == ["table:hand.lens"]
    bare = with_devices(done.rig, [with_profile(done.rig["hand"], keeps_tables=False)])
    made = plan(bare)
    assert [str(one.key) for one in conditions_of(bare, made) if one.key.kind == "table"] == ["table:driver.lens"]
    assert run(bare, run_sheet(bare, made)).unproven == ()
