"""What a hand can do at a device, what looking does to the rig, and acts told apart by their type."""

import json

import pytest

from isotact.core.model.keys import Item
from isotact.core.trades import TRADES, HandAct, Mishap, fresh_world, hand_acts, observe, parts, perform
from isotact.core.trades.base import Check
from isotact.core.trades.cables.acts import Plug, PushHome, Unplug
from isotact.core.trades.cables.mishaps import HalfSeat
from isotact.core.trades.menus.acts import Set, SetMode
from isotact.core.trades.radio.acts import MeetByRadio, PartRadios
from isotact.core.trades.waking.acts import Dim, Hang, Sleep, TurnUp, WakeUp
from isotact.core.world import Cables, Menus, Waking, World, prove
from tests.rigs import SHIPPED, Carried, carried

ACTS = {act for trade in TRADES for act in trade.acts}


def kinds(world: World, device: str) -> set[type]:
    return {type(act) for act in hand_acts(world, device)}


def at_rest(done: Carried) -> World:
    """The rig built, its gimbal switched off: one that is on fights the hand that plugs."""
    world = done.world.fork()
    for device, placed in done.rig.devices.items():
        if placed.is_balanced:
            perform(world, Sleep(device=device))
    return world


def test_every_act_is_a_hand_s_or_a_mishap_and_never_both():
    assert all(issubclass(act, HandAct) is not issubclass(act, Mishap) for act in ACTS)
    assert {"hang", "half-seat", "unbalance"} <= {
        act.model_fields["kind"].default for act in ACTS if issubclass(act, Mishap)
    }


@pytest.mark.parametrize("rig", SHIPPED)
def test_no_step_of_a_sheet_is_a_mishap(rig):
    assert all(isinstance(step.act, HandAct) for step in carried(rig).sheet.steps)


@pytest.mark.parametrize("rig", SHIPPED)
@pytest.mark.parametrize("built", [False, True])
def test_whatever_is_offered_can_be_done_and_its_world_written_down(rig, built):
    done = carried(rig)
    world = done.world if built else fresh_world(done.rig)
    offered = [act for device in done.rig.devices for act in hand_acts(world, device)]
    assert offered
    assert all(isinstance(act, HandAct) for act in offered)
    for act in offered:
        other = world.fork()
        assert perform(other, act)
        data = json.loads(json.dumps(other.to_data()))
        assert World.from_data(done.rig, data, parts()).to_data() == data


def test_a_hand_at_the_demo_body_can_do_what_one_expects():
    """In its case: nothing to pull. Built: plugs to pull, a switch, menus, its card."""
    done = carried("night-ferry-a")
    camera = next(key for key, placed in done.rig.devices.items() if placed.profile.card is not None)
    fresh, built = kinds(fresh_world(done.rig), camera), kinds(done.world, camera)
    assert Unplug not in fresh
    assert Sleep not in fresh
    assert {Unplug, Sleep} <= built
    assert WakeUp not in built


def test_a_plug_that_was_pulled_can_be_put_into_any_free_port_that_takes_it():
    done = carried("night-ferry-a")
    world = at_rest(done)
    plug = next(one for one in world[Cables].plugs.values() if one.tag == "A2")
    perform(world, Unplug(a=plug.a, b=plug.b))
    back = [act for act in hand_acts(world, plug.a.device) if isinstance(act, Plug) and act.tag == plug.tag]
    assert any({act.a, act.b} == {plug.a, plug.b} for act in back)


def test_a_battery_that_was_taken_off_its_plate_can_go_back_on():
    done = carried("night-ferry-a")
    world = at_rest(done)
    plate = next(one for one in world[Cables].plugs.values() if one.cable is None)
    perform(world, Unplug(a=plate.a, b=plate.b))
    back = [act for act in hand_acts(world, plate.a.device) if isinstance(act, Plug) and act.direct]
    assert any({act.a, act.b} == {plate.a, plate.b} for act in back)


def test_a_loose_plug_is_offered_to_be_pushed_home_and_that_mends_it():
    done = carried("night-ferry-a")
    world = done.world.fork()
    plug = next(one for one in world[Cables].plugs.values() if one.tag == "A2")
    perform(world, HalfSeat(a=plug.a, b=plug.b))
    (push,) = (act for act in hand_acts(world, plug.a.device) if isinstance(act, PushHome))
    perform(world, push)
    assert all(prove(world, promise).ok for promise in done.plan.kept)


def test_menus_are_offered_at_every_value_but_the_one_at_which_they_stand():
    done = carried("night-ferry-a")
    for device, placed in done.rig.devices.items():
        offered = [act for act in hand_acts(done.world, device) if isinstance(act, Set | SetMode)]
        for act in offered:
            if isinstance(act, Set):
                assert done.world[Menus].stored[Item(device, act.setting)] != act.value
        settings = {act.setting for act in offered if isinstance(act, Set)}
        assert settings <= {one.id for one in placed.profile.settings}


def test_radios_that_met_can_be_parted_and_met_again():
    done = carried("night-ferry-a")
    world = done.world.fork()
    met = [act for device in done.rig.devices for act in hand_acts(world, device) if isinstance(act, PartRadios)]
    assert met
    perform(world, met[0])
    again = [act for act in hand_acts(world, met[0].a.device) if isinstance(act, MeetByRadio)]
    assert any({act.a, act.b} == {met[0].a, met[0].b} for act in again)


@pytest.mark.parametrize("rig", SHIPPED)
def test_a_look_leaves_the_world_as_it_is_unless_it_says_what_it_disturbs(rig):
    done = carried(rig)
    for condition in done.conditions:
        check = condition.check(done.rig)
        other = done.world.fork()
        seen = observe(other, check)
        assert seen.words
        assert seen == check.read(done.world)
        if not check.disturbs:
            assert other.to_data() == done.world.to_data(), str(check.id)


@pytest.mark.parametrize("rig", SHIPPED)
def test_a_fault_reads_otherwise_than_a_whole_rig_or_lies_where_no_eye_goes(rig):
    """Every check of a condition gives an observation of the same kind and unit, whole or broken."""
    done = carried(rig)
    for condition in done.conditions:
        check: Check = condition.check(done.rig)
        whole = check.read(done.world)
        for fault in condition.faults(done.rig):
            broken = done.world.fork()
            perform(broken, fault.act)
            seen = check.read(broken)
            assert (seen.unit, seen.kind) == (whole.unit, whole.kind) or "state" in (seen.kind, whole.kind)


def test_tugging_at_a_plug_pushes_it_home_on_the_way():
    """The look that finds it mends it: who asks afterwards sees it in."""
    done = carried("night-ferry-a")
    seated = next(one for one in done.conditions if one.kind == "seated")
    world = done.world.fork()
    perform(world, next(fault.act for fault in seated.faults(done.rig) if isinstance(fault.act, HalfSeat)))
    assert not seated.holds(world)
    observe(world, seated.check(done.rig))
    assert seated.holds(world)


def test_turning_a_screen_up_to_see_whether_it_is_down_leaves_it_up():
    done = carried("night-ferry-a")
    screen = next(
        one for one in done.conditions if any(isinstance(act, TurnUp) for act in one.check(done.rig).disturbs)
    )
    world = done.world.fork()
    perform(world, next(fault.act for fault in screen.faults(done.rig) if isinstance(fault.act, Dim)))
    assert any(isinstance(act, TurnUp) for act in hand_acts(world, screen.device))
    observe(world, screen.check(done.rig))
    assert screen.holds(world)


def test_a_test_that_rolls_is_stopped_by_the_next_thing_that_a_hand_does_and_by_no_mishap():
    done = carried("night-ferry-a")
    world = done.world.fork()
    roll = next(step for step in done.sheet.steps if step.id.startswith("prove:") and "record" in _function(done, step))
    perform(world, roll.act)
    assert world[Waking].recording
    perform(world, Hang(device=next(key for key in done.rig.devices if key not in world[Waking].recording)))
    assert world[Waking].recording
    perform(world, WakeUp(device=next(iter(done.rig.devices))))
    assert not world[Waking].recording


def _function(done, step):
    promise = done.rig.rig.promise(step.act.proves)
    return getattr(promise, "function", "")
