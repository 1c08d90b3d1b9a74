"""A rig under somebody's hands: the same acts as the sheet's, wrong ones too, undone, and told what they cost."""

from random import Random

import pytest

from isotact.core.bench import Built, DoAct, DoStep, HandBench, NoMoveError, WaitFor, seen
from isotact.core.model.plan import LinkEnd
from isotact.core.model.rig import Point
from isotact.core.trades import fresh_world, not_for_a_hand, offered_acts
from isotact.core.trades.cables.acts import LayOut, Plug
from isotact.core.trades.care.acts import Prove, TakeCare, Work
from isotact.core.trades.media.acts import TakeCardOut
from isotact.core.trades.power import FitBattery
from isotact.core.trades.waking.acts import Sleep, WakeUp
from isotact.core.world import Cables, Waking
from tests.rigs import DATA, SHIPPED, cable, camera, carried, control, grip, port, rig_of

B_CAMERA, A_CAMERA = "night-ferry-b", "night-ferry-a"
SOME = sorted(SHIPPED)[::6]


def bench_of(rig: str, standing: bool = False, rehearses: bool = False) -> HandBench:
    done = carried(rig)
    built = Built(done.rig, done.plan, done.conditions, done.sheet)
    if not standing:
        return HandBench(built, fresh_world(done.rig), rehearses=rehearses)
    steps = {step.id: 0 for step in done.sheet.steps}
    return HandBench(built, done.world.fork(), done=steps, rehearses=rehearses)


def moves_of(rig: str) -> list:
    """A sheet tap by tap: what a hand does as an act of its own, and looks, which only the sheet can name, as steps."""
    steps = carried(rig).sheet.steps
    return [DoStep(step=one.id) if isinstance(one.act, TakeCare) else DoAct(act=one.act) for one in steps]


@pytest.mark.parametrize("rig", SHIPPED)
def test_a_sheet_carried_out_by_hand_gives_the_same_world_and_nothing_is_left_to_do(rig):
    bench = bench_of(rig)
    told = [bench.do(move) for move in moves_of(rig)]
    assert [one.step for one in told] == [step.id for step in carried(rig).sheet.steps]
    assert bench.world.to_data() == carried(rig).world.to_data()
    assert bench.ahead().steps == ()
    assert {proof.promise for proof in bench.worked.values() if proof.ok} == {*carried(rig).plan.kept}


@pytest.mark.parametrize("rig", SHIPPED)
def test_every_step_of_a_sheet_is_for_a_hand_to_try_at_its_moment(rig):
    bench = bench_of(rig)
    for step in carried(rig).sheet.steps:
        assert not_for_a_hand(bench.world, step.act) is None
        assert step.act.says(bench.built.rig)
        bench.do(DoStep(step=step.id))


def tap(bench: HandBench, chance: Random) -> None:
    """Anything at all: what is offered somewhere, any cable out of the bag, any two ports."""
    devices = [*bench.built.rig.devices]
    what = chance.random()
    bag = sorted(bench.world[Cables].left_in_bag(bench.built.rig))
    if what < 0.05:
        bench.do(WaitFor(seconds=chance.choice((1, 60, 3600))))
    elif what < 0.15 and bag:
        flag = f"X{len(bench.told)}"
        bench.do(DoAct(act=LayOut(tag=flag, cable=chance.choice(bag))))
    elif what < 0.3 and bench.world[Cables].laid_out:
        ports = [LinkEnd(device=d, endpoint=one.id) for d in devices for one in bench.built.rig[d].profile.ports]
        a, b = chance.choice(ports), chance.choice(ports)
        tag = chance.choice([*bench.world[Cables].laid_out])
        ends = chance.sample((1, 2, 3), 2)
        held, direct = chance.random() < 0.2, chance.random() < 0.3
        bench.do(DoAct(act=Plug(tag=tag, a=a, b=b, end_a=ends[0], end_b=ends[1], held=held, direct=direct)))
    else:
        offers = offered_acts(bench.world, chance.choice(devices))
        if offers:
            bench.do(DoAct(act=chance.choice(offers)))


@pytest.mark.parametrize("rig", SHIPPED)
def test_no_random_taps_raise_or_lose_the_way_back(rig):
    chance = Random(rig)
    bench, before = bench_of(rig), []
    for number in range(150):
        if number % 30 == 0:
            before.append((bench.fork(), bench.world.to_data()))
        tap(bench, chance)
    assert seen(bench).count == len(bench.told)
    for earlier, data in before:
        assert earlier.world.to_data() == data
    bench.ahead()


@pytest.mark.parametrize("rig", SOME)
def test_after_random_taps_the_sheet_still_leads_to_the_end(rig):
    chance = Random(f"{rig} ahead")
    bench = bench_of(rig)
    for _ in range(60):
        tap(bench, chance)
    ahead = bench.ahead()
    # What hands did hands undo: nothing is left that no step here could mend.
    assert not [says for says in ahead.warnings if says.startswith("Not to be mended")]
    for step in ahead.steps:
        bench.do(DoStep(step=step.id))
    assert all(one.holds(bench.world) for one in bench.built.conditions if one.promises)


def test_what_cannot_be_done_is_felt_and_takes_its_time():
    bench = bench_of(B_CAMERA)
    told = bench.do(DoAct(act=WakeUp(device="body")))
    assert (told.could, told.seen) == (False, "Brindle 2 stays dark: no power.")
    assert bench.world.clock_s > 0
    assert told.step not in bench.done


@pytest.mark.parametrize(
    "act",
    [
        WakeUp(device="nobody"),
        FitBattery(device="lens"),
        LayOut(tag="X1", cable="no-such-cable"),
        Plug(tag="X1", a=LinkEnd(device="body", endpoint="no"), b=LinkEnd(device="gimbal", endpoint="camera")),
        Work(at=Point(device="body", surface="no"), function="record"),
    ],
)
def test_what_names_nothing_there_is_refused_whole(act):
    bench = bench_of(B_CAMERA)
    with pytest.raises(NoMoveError, match="This cannot be tried"):
        bench.do(DoAct(act=act))
    assert (bench.told, bench.world.clock_s) == ([], 0)


def test_a_step_is_not_done_twice_by_its_name_and_an_unknown_one_not_at_all():
    bench = bench_of(B_CAMERA)
    first = carried(B_CAMERA).sheet.steps[0].id
    bench.do(DoStep(step=first))
    with pytest.raises(NoMoveError, match="is done already"):
        bench.do(DoStep(step=first))
    with pytest.raises(NoMoveError, match="is no step of this sheet"):
        bench.do(DoStep(step="no-such-step"))


def plugging(**ends: str) -> HandBench:
    """Two ports of a kind each, and a lead from one kind to the other lying ready under X1."""
    body = camera(ports=[port("usb", "usb-c", control("p", "device")), port("mini", "hdmi-c")])
    host = grip(ports=[port("out", "usb-c", control("p", "host")), port("far", "usb-c")])
    lead = cable("short", ends.get("one", "usb-c"), ends.get("other", "usb-c"), length_mm=300)
    rig = rig_of([body, host], [(lead, 2), (DATA, 1)], [])
    bench = HandBench(Built(rig, carried(B_CAMERA).plan, (), carried(B_CAMERA).sheet), fresh_world(rig))
    bench.do(DoAct(act=LayOut(tag="X1", cable="short")))
    return bench


def plug(a: str, b: str, **more) -> DoAct:
    ends = [LinkEnd(device=one.split(".")[0], endpoint=one.split(".")[1]) for one in (a, b)]
    return DoAct(act=Plug(tag="X1", a=ends[0], b=ends[1], **more))


def test_a_plug_of_another_shape_does_not_go_in():
    told = plugging().do(plug("camera.mini", "grip.out"))
    assert not told.could
    assert told.seen == "It does not go in: USB-C, and “MINI” is mini HDMI (C)."


def test_a_lead_of_the_right_shape_goes_into_the_wrong_port_and_nothing_happens():
    told = plugging().do(plug("camera.usb", "grip.far"))
    assert told.could
    assert told.seen == "X1 holds at both ends."


def test_a_port_that_is_taken_stays_taken_and_a_lead_has_two_different_ends():
    bench = plugging()
    bench.do(plug("camera.usb", "grip.far"))
    bench.do(DoAct(act=LayOut(tag="X2", cable="short")))
    again = DoAct(
        act=Plug(tag="X2", a=LinkEnd(device="camera", endpoint="usb"), b=LinkEnd(device="grip", endpoint="out"))
    )
    assert bench.do(again).seen == "camera, port marked “USB” (left side) is taken by X1."
    assert plugging().do(plug("camera.usb", "grip.out", end_a=1, end_b=1)).seen == "short has no such ends."


def test_only_what_is_in_the_bag_can_be_laid_out_and_a_flag_is_on_one_cable():
    bench = plugging()
    for act in (LayOut(tag="X1", cable="short"), LayOut(tag="X2", cable="none")):
        with pytest.raises(NoMoveError):
            bench.do(DoAct(act=act))
    bench.do(DoAct(act=LayOut(tag="X2", cable="short")))
    with pytest.raises(NoMoveError, match="there is no short in the bag any more"):
        bench.do(DoAct(act=LayOut(tag="X3", cable="short")))


def pressed(bench: HandBench, surface: str, function: str, device: str, turn: int = 0):
    return bench.do(DoAct(act=Work(at=Point(device=device, surface=surface), function=function, turn=turn)))


def test_the_button_rolls_at_the_first_press_and_stops_at_the_next():
    bench = bench_of(B_CAMERA, standing=True)
    assert pressed(bench, "record-button", "record", "gimbal").seen == "Brindle 2 rolls."
    # Whatever else is done meanwhile, it goes on.
    bench.do(WaitFor(seconds=60))
    look = next(one for one in seen(bench).devices if one.device == "body")
    phone = next(one for one in seen(bench).devices if one.device == "phone")
    assert look.rolling
    assert [screen.rolling for screen in phone.screens] == [True]
    assert pressed(bench, "record-button", "record", "gimbal").seen == "Brindle 2 stops."
    assert not bench.world[Waking].recording


@pytest.mark.parametrize("end", [Sleep(device="body"), TakeCardOut(device="body")])
def test_what_rolls_stops_without_power_or_card(end):
    bench = bench_of(B_CAMERA, standing=True)
    pressed(bench, "record-button", "record", "gimbal")
    bench.do(DoAct(act=end))
    assert not bench.world[Waking].recording


def test_a_proof_of_record_never_leaves_it_rolling():
    bench = bench_of(B_CAMERA, standing=True)
    for promise in carried(B_CAMERA).plan.kept:
        bench.do(DoAct(act=Prove(promise=promise)))
        assert not bench.world[Waking].recording


def test_numbers_follow_the_wheel_to_their_ends_and_count_as_worked():
    bench = bench_of(B_CAMERA, standing=True)
    told = pressed(bench, "wheel", "focus", "gimbal", turn=1)
    assert told.seen == "35 mm: focus stands at 6 of 10."
    assert [proof.promise for proof in told.worked] == ["focus"]
    for _ in range(8):
        told = pressed(bench, "wheel", "focus", "gimbal", turn=1)
    assert told.seen == "35 mm: focus stands at 10 of 10."
    lens = next(one for one in seen(bench).devices if one.device == "lens")
    assert [(number.function, number.tenths) for number in lens.numbers] == [("focus", 10)]


def test_nobody_waits_for_what_starts_again_and_again():
    """Found by random taps: a driver that loses its thin tap whenever both motors are up started for thirty hours."""
    bench = bench_of("thin-tap", standing=True)
    bench.do(DoAct(act=LayOut(tag="X1", cable="motor-bus-motor-bus-20")))
    ends = [LinkEnd(device=one, endpoint=port) for one, port in (("motor-1", "bus-out"), ("motor-2", "bus-in"))]
    told = bench.do(DoAct(act=Plug(tag="X1", a=ends[0], b=ends[1])))
    assert told.seen == "X1 holds at both ends. Driver starts again and again: its feed is too weak."
    assert told.took_s < 120
    bench.do(WaitFor(seconds=60))
    out = next(offer.act for offer in seen(bench, "motor-2").offers if offer.says.startswith("Pull what is between"))
    assert "again" not in bench.do(DoAct(act=out)).seen


def test_a_wheel_that_reaches_nothing_says_so():
    told = pressed(bench_of(B_CAMERA), "wheel", "focus", "gimbal", turn=1)
    assert told.seen == "Nothing happens: focus does not arrive."


def test_who_rehearses_is_told_what_was_otherwise_and_what_it_costs():
    bench = bench_of(B_CAMERA, rehearses=True)
    moves = moves_of(B_CAMERA)
    wake = next(number for number, step in enumerate(carried(B_CAMERA).sheet.steps) if step.id == "wake:gimbal")
    for move in moves[:wake]:
        bench.do(move)
    assert bench.otherwise == []
    # The body must come up after its grip, which asks it; woken first, it is switched off and on again.
    bench.do(DoAct(act=WakeUp(device="body")))
    (early,) = bench.otherwise
    assert (early.how, early.number) == ("earlier", wake)
    assert early.costs_s > 0
    assert any("off" in title for title in early.later)


def test_what_is_not_on_the_sheet_costs_its_own_time_and_what_undoes_it():
    bench = bench_of(B_CAMERA, standing=True, rehearses=True)
    bench.do(DoAct(act=Sleep(device="phone")))
    (beside,) = bench.otherwise
    assert beside.how == "beside"
    assert beside.costs_s > 10
    assert beside.later


def test_a_step_done_earlier_than_the_sheet_has_it_may_cost_nothing():
    bench = bench_of(B_CAMERA, rehearses=True)
    bench.do(DoAct(act=FitBattery(device="phone")))
    assert [(one.how, one.costs_s, one.later) for one in bench.otherwise] == [("earlier", 0.0, ())]


def test_the_bench_shows_what_lies_ready_and_what_the_plan_wants_of_the_bag():
    bench = bench_of(A_CAMERA)
    there = seen(bench, "body")
    flags = {join.tag for join in bench.built.plan.joins if join.link.cable is not None}
    assert {one.tag for one in there.bag if one.planned} == flags
    assert there.lying == ()
    first = next(one for one in there.bag if one.planned)
    bench.do(DoAct(act=LayOut(tag=first.tag, cable=first.cable, adapters=first.adapters)))
    (lies,) = seen(bench).lying
    assert (lies.tag, lies.left) == (first.tag, len(first.ends))
    assert {offer.where for offer in there.offers} >= {"switch", "port", "mount"}
    assert seen(bench, "no-such-device").offers == ()
