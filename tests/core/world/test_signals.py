"""What gets through and what does not: direction, limits, adapters, formats, looks, the moment of waking."""

import pytest

from isotact.core.model.plan import LinkEnd
from isotact.core.trades import fresh_world, perform
from isotact.core.trades.cables.acts import LayOut, Plug
from isotact.core.trades.menus.acts import Set
from isotact.core.trades.power import FitBattery
from isotact.core.trades.waking import WakeUp
from isotact.core.world import prove
from tests.rigs import RECORD, cable, camera, grip, picture, port, profile, rig_of, video

ON = {"how": "On.", "boot_s": 1}
CELL = {"draw_w": 1, "inner_battery": {"name": "b", "energy_wh": 9}}


def source(*formats, **more):
    """A body that sends a picture."""
    return profile(
        "source",
        ports=[port("out", "hdmi-a", video("out", *formats, **more))],
        makes=[{"over": "out", "delay_ms": 20}],
        settings=[
            {
                "id": "format",
                "name": "Format",
                "path": ["Out"],
                "factory": formats[0],
                "values": [{"id": one, "name": one} for one in (*formats, "720p25")],
            }
        ],
        wake=ON,
        power=CELL,
    )


def loop(look="keeps", key="loop", formats=("2160p25", "1080p25")):
    """A monitor that sends on what it gets."""
    return profile(
        key,
        ports=[port("in", "hdmi-a", video("in", *formats)), port("on", "hdmi-a", video("out", *formats))],
        passes=[{"over": "in", "to": "on", "delay_ms": 5, "look": look}],
        wake=ON,
        power=CELL,
    )


def viewer(*formats):
    return profile(
        "viewer",
        ports=[port("in", "hdmi-a", video("in", *formats))],
        surfaces=[{"id": "screen", "name": "screen", "kind": "screen"}],
        shows=[{"screen": "screen", "over": "in", "delay_ms": 10}],
        wake=ON,
        power=CELL,
    )


def world_of(profiles, lead, joins, promise, *acts):
    """Everything joined by `lead`, awake, in the order of `profiles`."""
    rig = rig_of(profiles, [(lead, 3)], [promise])
    world = fresh_world(rig)
    for number, (a, b, *ends) in enumerate(joins):
        perform(world, LayOut(tag=str(number), cable=lead.id))
        one, other = (LinkEnd(device=end.split(".")[0], endpoint=end.split(".")[1]) for end in (a, b))
        first, second = ends or (1, 2)
        perform(world, Plug(tag=str(number), a=one, b=other, end_a=first, end_b=second))
    for device in rig.devices:
        perform(world, FitBattery(device=device))
        perform(world, WakeUp(device=device))
    for act in acts:
        perform(world, act)
    return world


SEE = picture("viewer", "screen")
HDMI = cable("hdmi", "hdmi-a", "hdmi-a", {"medium": "hdmi"})


@pytest.mark.parametrize(("ends", "ok"), [((1, 2), True), ((2, 1), False)])
def test_a_one_way_cable_works_one_way_round(ends, ok):
    lead = cable("hdmi", "hdmi-a", "hdmi-a", {"medium": "hdmi", "one_way": True})
    world = world_of([source("1080p25"), viewer("1080p25")], lead, [("source.out", "viewer.in", *ends)], SEE)
    assert prove(world, "picture").ok is ok


@pytest.mark.parametrize(("limit", "ok"), [(None, True), ("2160p25", True), ("1080p60", False)])
def test_a_cable_carries_no_more_picture_than_its_limit(limit, ok):
    lead = cable("hdmi", "hdmi-a", "hdmi-a", {"medium": "hdmi", "max_format": limit})
    world = world_of([source("2160p25"), viewer("2160p25")], lead, [("source.out", "viewer.in")], SEE)
    assert prove(world, "picture").ok is ok


def test_a_cable_of_another_medium_carries_nothing():
    lead = cable("hdmi", "hdmi-a", "hdmi-a", {"medium": "sdi"})
    world = world_of([source("1080p25"), viewer("1080p25")], lead, [("source.out", "viewer.in")], SEE)
    assert not prove(world, "picture").ok


@pytest.mark.parametrize(("wired", "ok"), [([], True), (["p"], True), (["q"], False)])
def test_an_adapter_conducts_only_what_it_is_made_for(wired, ok):
    adapter = cable(
        "adapter",
        "usb-c",
        "usb-micro-b",
        {"medium": "usb-data", "wired_for": wired},
        kind="adapter",
        ends=[{"connector": "usb-c"}, {"connector": "usb-micro-b", "gender": "receptacle"}],
    )
    lead = cable("lead", "usb-micro-b", "usb-c")
    rig = rig_of([camera(), grip()], [(lead, 1), (adapter, 1)], [RECORD])
    world = fresh_world(rig)
    a, b = LinkEnd(device="camera", endpoint="usb"), LinkEnd(device="grip", endpoint="out")
    for act in (
        LayOut(tag="A1", cable="lead", adapters=("adapter",)),
        Plug(tag="A1", a=a, b=b),
        *(FitBattery(device=device) for device in rig.devices),
        *(WakeUp(device=device) for device in rig.devices),
    ):
        perform(world, act)
    assert prove(world, "record").ok is ok


def test_a_picture_is_not_made_over_on_its_way():
    """What was sent in one format does not leave a monitor in another: every link has to take the same."""
    sent = source("2160p25", "1080p25", format_setting="format")
    joins = [("source.out", "loop.in"), ("loop.on", "viewer.in")]
    world = world_of([sent, loop(), viewer("1080p25")], HDMI, joins, SEE)
    assert not prove(world, "picture").ok
    perform(world, Set(device="source", setting="format", value="1080p25"))
    assert prove(world, "picture").ok


@pytest.mark.parametrize(
    ("first", "second", "look"),
    [("adds", "keeps", "with"), ("adds", "strips", "clean"), ("keeps", "adds", "with"), ("keeps", "keeps", "clean")],
)
def test_the_look_is_what_the_last_that_touched_it_made_of_it(first, second, look):
    profiles = [source("1080p25"), loop(first, "one"), loop(second, "two"), viewer("1080p25")]
    joins = [("source.out", "one.in"), ("one.on", "two.in"), ("two.on", "viewer.in")]
    for wanted in ("with", "clean"):
        world = world_of(profiles, HDMI, joins, {**SEE, "look": wanted})
        assert prove(world, "picture").ok is (wanted == look)


@pytest.mark.parametrize(("within_ms", "ok"), [(40, True), (39.9, False)])
def test_a_picture_that_is_late_is_not_proven(within_ms, ok):
    joins = [("source.out", "one.in"), ("one.on", "two.in"), ("two.on", "viewer.in")]
    profiles = [source("1080p25"), loop(key="one"), loop(key="two"), viewer("1080p25")]
    proof = prove(world_of(profiles, HDMI, joins, {**SEE, "within_ms": within_ms}), "picture")
    assert proof.ok is ok
    assert proof.reading == "40 ms"
