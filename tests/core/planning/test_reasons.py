"""What stands in the way, in a technician's words: the thing, its number, and a way out that helps.

The sentences were written before the rigs were planned. Common practice, no source.
"""

import re
from collections import Counter
from collections.abc import Iterator
from typing import Any

import pytest

from isotact.catalogue import shipped
from isotact.core.model import Plan, ResolvedRig, resolve
from isotact.core.model.profile import Profile
from isotact.core.model.rig import BagItem
from isotact.core.model.variants import with_devices, with_profile
from isotact.core.planning import plan
from tests.core.planning.test_feeds import FOCUS, LENS, ROLL, planned, rig
from tests.rigs import RECORD, SHIPPED, cable, camera, grip, port, power, profile, promise, rig_of


def why(made: Plan, promise: str) -> tuple[str, tuple[str, ...]]:
    unmet = next(unmet for unmet in made.unmet if unmet.promise == promise)
    return unmet.because, unmet.ways_out


def with_schools(asked: ResolvedRig, **schools: str) -> ResolvedRig:
    changed = asked.rig.model_copy(update={"schools": asked.rig.schools.model_copy(update=schools)})
    return type(asked)(changed, asked.cables, asked.devices)


GRIP = {"body": "mirrorless-usb-c-full-hdmi", "grip": "gimbal-single-grip-two-usb-c"}


def test_a_charge_only_lead_is_named_as_one():
    because, outs = why(planned(rig(GRIP, ["usb-c-usb-c-charge-30"], [ROLL])), "roll")
    assert "“USB-C to USB-C, charge only, 0.3 m” carries power only" in because
    assert outs[0].startswith("Get one of: USB-C to USB-C, data, 0.3 m")


def test_leads_with_one_fault_are_named_together():
    because, _ = why(planned(rig(GRIP, ["usb-c-usb-c-charge-30", "usb-c-usb-c-charge-100"], [ROLL])), "roll")
    assert "charge only, 0.3 m” carry power only" in because
    assert because.count("power only") == 1


def test_a_straight_plug_where_only_an_angled_one_goes_in():
    devices = {"body": "mirrorless-remote-jack", "grip": "gimbal-single-grip-remote-jack"}
    because, outs = why(planned(rig(devices, ["jack-2-5-jack-2-5-straight-30"], [ROLL])), "roll")
    assert "has a straight plug, and only a right-angled one clears what is beside" in because
    assert outs == ("Get one of: 2.5 mm 4-pole to 2.5 mm 4-pole, remote, 0.3 m.",)


def test_the_school_that_is_in_the_way_is_named_with_how_to_let_go_of_it():
    asked = rig(LENS, ["driver-7-lens-12-30", "motor-bus-motor-bus-20", "tap-power-2-50"], [FOCUS])
    because, outs = why(planned(with_schools(asked, focus="through-body")), "focus")
    assert "This job pulls focus by the body" in because
    assert "Leave the school of focus open, or bring what it asks for." in outs


SINGLE = {
    "body": "hybrid-single-port", "lens": "lens-by-wire", "grip": "gimbal-single-grip-two-usb-c",
    "bank": "usb-power-bank",
}  # fmt: skip


@pytest.mark.parametrize(
    ("school", "more", "bag", "words"),
    [
        (
            "dummy-battery",
            {},
            ["usb-c-y-data-power-35", "usb-c-usb-c-data-30", "usb-c-usb-c-charge-100"],
            "a dummy battery",
        ),
        ("splitter", {"dummy": "dummy-battery-usb"}, ["usb-c-usb-c-data-30", "usb-c-usb-c-charge-30"], "a splitter"),
    ],
)
def test_the_school_of_the_port_is_named_too(school: str, more: dict[str, str], bag: list[str], words: str):
    """Five hours: body and grip last them only where the bank feeds the body besides. What would do lies there."""
    hours = {"kind": "power", "id": "hours", "who": "All", "hours_h": 5, "weight": 2}
    asked = rig({**SINGLE, **more}, bag, [ROLL, hours], bank={"stage": "tilt-cage"})
    assert planned(asked).kept == ("roll", "hours")
    because, outs = why(planned(with_schools(asked, port=school)), "hours")
    assert f"This job gives one port both control and power by {words}; another way would do." in because
    assert outs[0] == "Leave the school of one port open."


def test_a_school_that_is_not_in_the_way_is_not_named():
    """There is no splitter in the bag."""
    hours = {"kind": "power", "id": "hours", "who": "All", "hours_h": 5, "weight": 2}
    asked = rig(SINGLE, ["usb-c-usb-c-data-30"], [ROLL, hours])
    because, outs = why(planned(with_schools(asked, port="dummy-battery")), "hours")
    assert "This job" not in because
    assert not any("school" in out for out in outs)


def test_the_school_of_the_chain_is_let_go_of_by_its_own_name():
    devices = {
        "body": "mirrorless-usb-c-full-hdmi", "tx": "video-transmitter-hdmi", "rx": "video-receiver-hdmi",
        "village": "large-monitor-hdmi", "battery": "plate-battery",
    }  # fmt: skip
    village = {
        "kind": "picture", "id": "village", "who": "Director", "weight": 4,
        "at": {"device": "village", "surface": "screen"},
    }  # fmt: skip
    bag = ["hdmi-a-hdmi-a-50", "hdmi-a-hdmi-a-50", "tap-power-2-50"]
    because, outs = why(planned(with_schools(rig(devices, bag, [village]), chain="look")), "village")
    assert "This job sends pictures on with the look" in because
    assert outs == ("Leave open whether pictures are sent on with the look, or bring what that school asks for.",)


@pytest.mark.parametrize("leads", [1, 0])
def test_what_is_loaded_on_prep_day_is_only_named_where_it_would_do(leads: int):
    """The licence is wanting. Without the tap lead nothing feeds the driver either, and the licence alone is no help."""
    devices = {
        "body": "cine-body-large-panel",
        "driver": "driver-newer",
        "hand": "hand-unit",
        "battery": "plate-battery",
    }
    asked = {**ROLL, "at": {"device": "hand", "surface": "record-button"}}
    made = planned(rig(devices, ["driver-7-remote-8-40", *["tap-power-2-50"] * leads], [asked]))
    because, outs = why(made, "roll")
    assert "hand needs the licence “camera control”, which is not loaded." in because
    assert outs == (
        ("Load the licence on prep day.",) if leads else ("Ask what it takes, or promise it from another device.",)
    )


def test_a_pin_that_stands_in_the_way_is_named_and_may_be_let_go():
    asked = rig(GRIP, ["usb-c-usb-c-data-30"], [ROLL])
    port = next(join for join in planned(asked).joins).link.a
    pin: dict[str, Any] = {"kind": "keep-out", "at": {"device": port.device, "port": port.endpoint}}
    pinned = type(asked.rig).model_validate({**asked.rig.model_dump(mode="json"), "pins": [pin]})
    because, outs = why(planned(type(asked)(pinned, asked.cables, asked.devices)), "roll")
    assert "You pinned it: Keep out of body" in because
    assert "Let go of that pin." in outs


def test_hours_name_the_battery_that_is_empty_first():
    hours = {"kind": "power", "id": "hours", "who": "All", "hours_h": 40, "weight": 2}
    asked = rig(LENS, ["driver-7-lens-12-30", "motor-bus-motor-bus-20", "tap-power-2-50"], [FOCUS, hours])
    because, _ = why(planned(asked), "hours")
    assert "it is empty first, after " in because


def test_what_has_no_feed_says_which_lead_to_get():
    asked = rig(LENS, ["motor-bus-motor-bus-20", "driver-7-lens-12-30"], [FOCUS])
    because, outs = why(planned(asked), "focus")
    assert "gives 1 A for electronics only, and motors hang on driver" in because
    assert any(out.startswith("Get a feed for driver: battery tap to ") for out in outs)


def test_without_any_lead_the_feed_is_named():
    asked = rig(LENS, ["motor-bus-motor-bus-20"], [FOCUS])
    because, outs = why(planned(asked), "focus")
    assert "driver has no feed: nothing in the bag joins it with battery" in because
    assert any(out.startswith("Get a feed for driver: battery tap to ") for out in outs)


CATALOGUE = shipped()
NAMES = {cable.name: key for key, cable in CATALOGUE.cables.items()}
PIECES = {"Get one of: ": 1, "Get one more: ": 1, "Get 2 of one kind: ": 2, "Get 3 of one kind: ": 3}


def without_one_type(key: str) -> Iterator[ResolvedRig]:
    """A shipped rig as it is, and with each type of cable taken out of its bag."""
    document = SHIPPED[key].model_copy(update={"pins": [], "built": None, "flags": []})
    for gone in [None, *document.bag]:
        bag = [item for item in document.bag if item is not gone]
        yield resolve(document.model_copy(update={"bag": bag}), CATALOGUE.profiles, CATALOGUE.cables)


def with_got(asked: ResolvedRig, outs: tuple[str, ...]) -> ResolvedRig:
    """The rig with the first cable of every way out."""
    bag = Counter({item.cable: item.count for item in asked.rig.bag})
    for out in outs:
        for start, pieces in PIECES.items():
            if out.startswith(start):
                bag[NAMES[out.removeprefix(start).removesuffix(".").split("; ")[0].split(", for “")[0]]] += pieces
        if out.startswith("Get a feed for "):
            bag[NAMES[out.split(": ", 1)[1].removesuffix(".")]] += 1
    items = [BagItem(cable=cable, count=count) for cable, count in bag.items()]
    return type(asked)(asked.rig.model_copy(update={"bag": items}), asked.cables, asked.devices)


@pytest.mark.parametrize("key", sorted(SHIPPED))
def test_what_is_to_be_got_helps_in_every_shipped_rig_whichever_cable_is_missing(key: str):
    for asked in without_one_type(key):
        made = plan(asked)
        for unmet in made.unmet:
            gets = tuple(out for out in unmet.ways_out if out.startswith("Get "))
            if gets:
                assert {*made.kept, unmet.promise} <= {*plan(with_got(asked, gets)).kept}, (unmet.because, gets)


@pytest.mark.parametrize("key", sorted(SHIPPED))
def test_no_reason_contradicts_itself(key: str):
    """Nothing is said to be needed in one mode and taken in another; no sentence stands twice."""
    for asked in without_one_type(key):
        for unmet in plan(asked).unmet:
            sentences = [one.strip() for one in unmet.because.split(". ")]
            assert len(sentences) == len(set(sentences)), unmet.because
            for placed in asked.devices.values():
                for mode in placed.profile.modes.values if placed.profile.modes else ():
                    needs = re.findall(rf"(\w[\w ]*) from [^,.]* needs {mode.name} mode", unmet.because)
                    others = [one for one in placed.profile.modes.values if one.id != mode.id]  # type: ignore[union-attr]
                    for name in needs:
                        taken = [one.name for one in others if f"in {one.name} mode it takes {name}" in unmet.because]
                        assert not taken, unmet.because


def test_a_cable_may_be_called_as_its_owner_likes():
    asked = rig(GRIP, ["usb-c-usb-c-charge-30"], [ROLL])
    named = {key: one.model_copy(update={"name": "Lead; the short one."}) for key, one in asked.cables.items()}
    made = plan(type(asked)(asked.rig, named, asked.devices))
    assert made.unmet[0].ways_out[0].startswith("Get one of: Lead; the short one.")


def test_two_faults_at_once_are_both_named():
    """Old firmware and no lead: one named alone sends people home twice. And a feed that is too weak says the sum."""
    body = camera(
        accepts=[{"functions": ["record"], "over": "usb", "when": {"firmware": "3.0", "licence": "pro"}}],
        licences=["pro"],
    )
    lead = cable("lead", "usb-c", "usb-c", {"medium": "usb-data"})
    asked = rig_of([body, grip()], [(lead, 0)], [RECORD], devices={"camera": {"firmware": "2.0"}})
    unmet = plan(asked).unmet[0]
    assert "No cable joins" in unmet.because
    assert "camera has firmware 2.0; this needs 3.0 or newer." in unmet.because
    assert "camera needs the licence “pro”, which is not loaded." in unmet.because
    assert unmet.ways_out == (
        "Get one of: lead.",
        "Load the newer firmware on prep day.",
        "Load the licence on prep day.",
    )


HEADS = [
    camera(
        ports=[port("usb", "usb-c", power("in"))],
        power={"draw_w": 5},
        surfaces=[{"id": "rec", "name": "rec", "kind": "button"}],
        accepts=[{"functions": ["record"], "surface": "rec"}],
    ).model_copy(update={"id": f"head-{n}", "name": f"head-{n}"})
    for n in range(3)
]
"""Three that roll by themselves, of 5 W each."""
FEED = cable("feed", "usb-a", "usb-a", {"medium": "power", "max_a": 5})
TAIL = cable("tail", "usb-c", "usb-c", {"medium": "power", "max_a": 5})
ROLLING = [promise("record", f"head-{n}", "rec", f"record-{n}", weight=3 - n) for n in range(3)]


def test_a_feed_that_is_too_weak_says_the_sum():
    """A hub that gives 10 W, and three lamps of 5 W on it."""
    hub = profile(
        "hub",
        ports=[
            port("in", "usb-a", power("in")),
            *(port(f"out-{n}", "usb-c", power("out", max_a=3)) for n in range(3)),
        ],
        power={"draw_w": 1},
    )
    bank = profile(
        "bank",
        ports=[port("out", "usb-a", power("out", max_a=2))],
        power={"draw_w": 0, "inner_battery": {"name": "battery", "energy_wh": 90}},
    )
    made = plan(rig_of([bank, hub, *HEADS], [(FEED, 1), (TAIL, 3)], ROLLING))
    assert made.kept == ("record-0",)
    assert "draw 16 W together" in made.unmet[-1].because


def seen(device: str, **more: Any) -> dict[str, Any]:
    at = {"device": device, "surface": "screen"}
    return {"kind": "picture", "id": device, "who": "Director", "at": at, "weight": 3, **more}


THROUGH_THE_LOOP = {
    "body": "mirrorless-usb-c-mini-hdmi",
    "loop": "on-board-monitor-loop",
    "village": "large-monitor-hdmi",
}


def always(look: str, asked: ResolvedRig) -> Plan:
    """The plan, if the loop did nothing else to the look."""
    loop = asked["loop"].profile
    only = [path for path in loop.passes if path.look == look]
    return planned(with_devices(asked, [with_profile(asked["loop"], passes=only)]))


def test_the_device_that_puts_the_look_on_is_named():
    bag = ["hdmi-c-hdmi-a-30", "hdmi-a-hdmi-a-200"]
    because, _ = why(always("adds", rig(THROUGH_THE_LOOP, bag, [seen("village", look="clean")])), "village")
    assert "loop puts the look on the picture on this way; a clean one was promised." in because


def test_a_device_of_the_rig_that_would_put_it_on_is_named():
    """Its lead is there, and the loop hands the picture on as it came: the look is at its own screen alone."""
    straight = {"body": "mirrorless-usb-c-full-hdmi", "village": "large-monitor-hdmi"}
    because, _ = why(planned(rig(straight, ["hdmi-a-hdmi-a-200"], [seen("village", look="with")])), "village")
    assert because.endswith("Nothing on this way puts the look on the picture.")


@pytest.mark.parametrize(
    ("bag", "says", "first"),
    [
        (
            ["hdmi-a-hdmi-a-50"],
            "“HDMI to HDMI, 0.5 m” would, with an adapter.",
            "Get one of: mini HDMI plug to HDMI socket, adapter, for “HDMI to HDMI, 0.5 m”; mini HDMI to HDMI, 0.3 m; ",
        ),
        ([], "none in the bag fits.", "Get one of: mini HDMI to HDMI, 0.3 m; "),
    ],
)
def test_adapters_are_tried_before_it_is_said_that_none_fits(bag: list[str], says: str, first: str):
    near = {key: THROUGH_THE_LOOP[key] for key in ("body", "loop")}
    because, outs = why(planned(rig(near, bag, [seen("loop")])), "loop")
    assert because.endswith(says)
    assert outs[0].startswith(first)


def test_with_the_adapter_that_is_named_it_holds():
    near = {key: THROUGH_THE_LOOP[key] for key in ("body", "loop")}
    assert planned(rig(near, ["hdmi-a-hdmi-a-50", "hdmi-c-plug-hdmi-a-socket"], [seen("loop")])).kept == ("loop",)


def test_promises_that_are_not_kept_for_one_cause_say_so_once():
    both = [{**FOCUS, "id": one, "who": one, "function": "shutter"} for one in ("first", "second")]
    made = planned(rig(LENS, [], [*both, {**FOCUS, "id": "other", "function": "gain"}]))
    same = {unmet.promise: unmet.same_as for unmet in made.unmet}
    assert same["first"] is None
    assert same["second"] == "first"
    assert same.get("other") is None
    assert [unmet.obstacles for unmet in made.unmet if unmet.same_as] == [
        unmet.obstacles for unmet in made.unmet if unmet.promise == "first"
    ], "the reason itself is there for whoever looks at that one"


@pytest.mark.parametrize("marks", [True, False])
def test_marks_that_go_through_the_body_are_warned_of(marks: bool):
    from tests.rigs import demo

    found = demo(lambda data: data.update(shot={"marks": marks}))
    warned = [one for one in plan(found).warnings if "marks do not come back" in one]
    assert bool(warned) is marks
    assert not [one for one in planned(rig(LENS, ["power-2-power-2-100"], [FOCUS])).warnings if "marks do not" in one]


def test_what_could_hang_on_either_of_two_is_summed_over_both():
    """Two hubs of 10 W each, and three heads of 5 W that each could take: with its own watt a hub carries one."""

    def hub(number: int) -> Profile:
        ends = [port("in", "usb-a", power("in")), *(port(f"out-{n}", "usb-c", power("out", max_a=3)) for n in range(3))]
        return profile(f"hub-{number}", ports=ends, power={"draw_w": 1})

    bank = profile(
        "bank",
        ports=[port(f"out-{n}", "usb-a", power("out", max_a=2)) for n in range(2)],
        power={"draw_w": 0, "inner_battery": {"name": "battery", "energy_wh": 90}},
    )
    made = plan(rig_of([bank, hub(0), hub(1), *HEADS], [(FEED, 2), (TAIL, 3)], ROLLING))
    assert made.kept == ("record-0", "record-1")
    assert "head-0, head-1, head-2, hub-0 and hub-1 draw 17 W together." in made.unmet[-1].because
