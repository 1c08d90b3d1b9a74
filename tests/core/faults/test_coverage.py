"""Every single fault of every shipped rig: it breaks its condition, what needs that falls, and it can be told apart."""

from pathlib import Path

import pytest
import yaml

from isotact.core.faults.coverage import checks_of, coverage, faults_of, put_in
from isotact.core.world import prove
from tests.corpus import Drawn, every
from tests.rigs import (
    DATA,
    SHIPPED,
    Carried,
    cable,
    camera,
    carried,
    control,
    covered,
    grip,
    port,
    power,
    profile,
    promise,
    rig_of,
)

EXCEPTIONS = yaml.safe_load((Path(__file__).parent / "exceptions.yaml").read_text(encoding="utf-8"))
each = pytest.mark.parametrize("rig_id", SHIPPED)
DEMO = ("night-ferry-a", "night-ferry-b", "night-ferry-c")


def excused(row, what: str) -> bool:
    return any(
        (one["rig"], one["condition"], one["fault"], one["promise"]) == (row.rig, row.condition, row.fault, what)
        for one in EXCEPTIONS
    )


def test_every_exception_has_a_reason_and_is_still_one():
    for one in EXCEPTIONS:
        assert len(one["reason"]) > 20
        rows = [row for row in covered(one["rig"]) if (row.condition, row.fault) == (one["condition"], one["fault"])]
        assert any(row.still_holds if one["promise"] == "holds" else one["promise"] in row.standing for row in rows)


@each
def test_every_fault_makes_its_condition_false(rig_id: str):
    assert [
        f"{row.condition}/{row.fault}" for row in covered(rig_id) if row.still_holds and not excused(row, "holds")
    ] == []


@each
def test_every_promise_that_needs_a_condition_falls_with_it(rig_id: str):
    standing = [
        (row.condition, row.fault, key) for row in covered(rig_id) for key in row.standing if not excused(row, key)
    ]
    assert standing == []


@each
def test_no_promise_falls_that_needs_nothing_of_what_broke(rig_id: str):
    """The other way round: what each promise needs is told in full."""
    assert list(unexplained(carried(rig_id))) == []


def unexplained(done: Carried):
    for condition, fault in faults_of(done.rig, done.conditions):
        broken = put_in(done.world, fault)
        fallen = {key for key in done.plan.kept if not prove(broken, key).ok}
        needing = {key for other in done.conditions if not other.holds(broken) for key in other.promises}
        if fallen - needing:
            yield str(condition.key), fault.id, fallen - needing


@each
def test_every_fault_is_seen_by_some_look(rig_id: str):
    assert [f"{row.condition}/{row.fault}" for row in covered(rig_id) if not row.seen_by] == []


@pytest.mark.parametrize("rig_id", DEMO)
def test_more_than_nine_in_ten_are_told_apart(rig_id: str):
    rows = covered(rig_id)
    assert sum(not row.alike for row in rows) > 0.9 * len(rows)


@each
def test_every_condition_has_a_fault_of_its_own_name(rig_id: str):
    done = carried(rig_id)
    for condition in done.conditions:
        found = condition.faults(done.rig)
        assert found, condition.key
        assert len({fault.id for fault in found}) == len(found), condition.key
        assert all(fault.weight > 0 and fault.mend_s > 0 and fault.says for fault in found)


@each
def test_putting_a_fault_in_leaves_the_sound_rig_as_it_is(rig_id: str):
    done = carried(rig_id)
    before = done.world.to_data()
    for _, fault in faults_of(done.rig, done.conditions):
        put_in(done.world, fault)
    assert done.world.to_data() == before


@each
def test_looks_have_names_of_their_own_and_read_the_same_twice(rig_id: str):
    done = carried(rig_id)
    looks = list(checks_of(done.rig, done.plan, done.conditions))
    assert len({look.id for look in looks}) == len(looks)
    for look in looks:
        assert look.says.endswith(".")
        assert look.seconds > 0
        assert look.where is None or look.where in done.rig.devices
        assert look.read(done.world) == look.read(done.world)


@every("small or shaken", 40)
def test_generated_rigs_break_and_fall_as_they_should(drawn: Drawn):
    done = drawn.done
    rows = coverage(done.rig, done.plan)
    assert [(row.condition, row.fault) for row in rows if row.still_holds] == []
    assert [(row.condition, row.fault, row.standing) for row in rows if row.standing] == []
    assert list(unexplained(done)) == []


def test_one_that_nobody_switches_on_comes_too_early_with_what_feeds_it():
    """A converter without a switch must find the body awake: what comes too early is the receiver that feeds it."""
    leads = [cable(key, key, key, {"medium": "power"}) for key in ("tap",)]
    body = camera(ports=[port("usb", "usb-c", control("p", "device"))])
    converter = profile(
        "converter",
        ports=[port("out", "usb-c", control("p", "host", wake="peer-first")), port("dc", "tap", power("in", 12))],
        surfaces=[{"id": "button", "name": "button", "kind": "button"}],
        emits=[{"functions": ["record"], "surface": "button", "over": "out"}],
        power={"draw_w": 1},
    )
    feeder = grip(ports=[port("tap", "tap", power("out", 12))], surfaces=[], emits=[])
    wanted = promise("record", "converter", "button")
    done = Carried.out(rig_of([body, converter, feeder], [(DATA, 1), (leads[0], 1)], [wanted]))
    (order,) = (one for one in done.conditions if one.kind == "woken-after")
    assert (order.device, order.peer, order.waker) == ("converter", "camera", "grip")
    (fault,) = order.faults(done.rig)
    broken = put_in(done.world, fault)
    assert not order.holds(broken)
    assert not prove(broken, "record").ok
