"""Building up: what goes on what, in which order, before anything is balanced."""

from isotact.core.bench import run
from isotact.core.trades import perform
from isotact.core.trades.cables.acts import Unplug
from isotact.core.trades.mounting.acts import ComeLoose, Fix
from isotact.core.world import Waking, prove
from tests.rigs import carried


def test_the_body_goes_on_first_then_the_lens_then_what_drives_it():
    steps = [step for step in carried("night-ferry-a").sheet.steps if isinstance(step.act, Fix)]
    built = [step.act.device for step in steps if not step.title.startswith("Stand ")]
    assert built == ["body", "driver", "motor-focus", "motor-iris", "motor-zoom", "transmitter"]


def test_what_hangs_on_a_part_goes_on_after_it():
    """The lens by its adapter, the battery by its plate: first what is nearer to the body."""
    for rig_id, first, then in (("three-axes", "adapter.back", "lens.mount"), ("hot-swap", "swap.front", "swap.back")):
        ids = [step.id for step in carried(rig_id).sheet.steps if step.id.startswith("plug:")]
        places = [
            next(n for n, one in enumerate(ids) if end in one.removeprefix("plug:").split("--"))
            for end in (first, then)
        ]
        assert places == sorted(places)


def test_a_lens_that_sits_on_nothing_serves_nobody():
    done = carried("three-axes")
    world = done.world.fork()
    seat = next(
        one.link for one in done.plan.joins if {str(end) for end in one.link.ends} == {"body.mount", "adapter.back"}
    )
    perform(world, Unplug(a=seat.a, b=seat.b))
    assert not prove(world, "focus").ok
    assert prove(world, "roll").ok


def test_what_is_not_fixed_cannot_be_balanced():
    done = carried("night-ferry-b")
    ran = run(done.rig, done.sheet, skip={"fix:body"}, film=True)
    frame = next(frame for frame in ran.frames if frame.step == "balance:gimbal")
    assert frame.seen == "Brindle 2 is not fixed in its place: do that first."
    assert set(ran.unproven) >= {"roll", "focus"}


def test_what_comes_loose_takes_the_balance_with_it():
    world = carried("night-ferry-b").world.fork()
    perform(world, ComeLoose(device="transmitter"))
    assert not world[Waking].is_on("gimbal")
    assert not prove(world, "focus").ok


def test_weight_is_not_moved_while_the_gimbal_is_on():
    world = carried("night-ferry-b").world.fork()
    assert (
        perform(world, Fix(device="lens", on_gimbal=True))
        == "Tansy grip is on and fights your hand: switch it off first."
    )


def test_what_hangs_on_another_is_put_on_it_and_not_the_other_way_round():
    titles = [step.title for step in carried("night-ferry-a").sheet.steps]
    assert "Mount Plate battery on Marlstone 6" in titles
    assert "Mount Marlstone module on Marlstone 6" in titles


def test_without_a_gimbal_building_up_is_care():
    steps = {step.id: step for step in carried("panel-mode").sheet.steps}
    assert steps["fix:body"].care
    assert steps["fix:body"].title == "Set Body up"
