"""What a technician would bring, and what is not said because it is no reason.

The answers were written before the rigs were planned. Common practice, no source, unless a profile's figure is named.
"""

from typing import Any

import pytest

from isotact.catalogue import shipped
from isotact.core.model import Plan, resolve
from isotact.core.model.plan import Unmet
from isotact.core.model.rig import Device
from isotact.core.planning import plan
from tests.core.planning.test_feeds import FOCUS, IRIS, LENS, ROLL, because, planned, rig

BUS, TAP = "motor-bus-motor-bus-20", "tap-power-2-50"
ZOOM = {**FOCUS, "id": "zoom", "function": "zoom", "at": {"device": "hand", "surface": "zoom-stick"}, "weight": 3}
GRIP = {"body": "mirrorless-usb-c-micro-hdmi", "grip": "gimbal-single-grip-two-usb-c"}
DATA = "usb-c-usb-c-data-30"


def control(function: str, device: str, surface: str) -> dict[str, Any]:
    return {**FOCUS, "id": function, "function": function, "at": {"device": device, "surface": surface}}


def picture(device: str, surface: str = "screen") -> dict[str, Any]:
    at = {"device": device, "surface": surface}
    return {"kind": "picture", "id": "picture", "who": "Director", "at": at, "weight": 4}


def hours(hours_h: float, **more: Any) -> dict[str, Any]:
    return {"kind": "power", "id": "hours", "who": "Everybody", "hours_h": hours_h, "weight": 2, **more}


def unmet(made: Plan, promise: str) -> Unmet:
    return next(one for one in made.unmet if one.promise == promise)


@pytest.mark.parametrize(
    ("devices", "mounts"),
    [
        (
            {"body": GRIP["body"], "motor": "motor-with-driver", "lens": "lens-cine-pl"},
            ("lens has a PL lens mount, and body has a bayonet lens mount.", "a bayonet lens mount"),
        ),
        (
            {"lens": "lens-stills-ring"},
            ("lens has a bayonet lens mount, and body has a PL lens mount.", "a PL lens mount"),
        ),
    ],
)
def test_of_a_lens_that_does_not_sit_the_mounts_are_named_and_one_that_would(
    devices: dict[str, str], mounts: tuple[str, str]
):
    made = planned(rig({**LENS, **devices}, [TAP, BUS], [FOCUS]))
    assert mounts[0] in because(made, "focus")
    assert unmet(made, "focus").ways_out == (
        f"Bring a mount adapter, where one is made for the two, or a lens with {mounts[1]}.",
    )


def test_with_the_adapter_that_is_made_for_the_two_it_sits():
    devices = {**LENS, "body": GRIP["body"], "motor": "motor-with-driver", "adapter": "lens-mount-adapter"}
    assert planned(rig(devices, [TAP], [FOCUS])).kept == ("focus",)


@pytest.mark.parametrize(
    ("motors", "leads", "out"),
    [
        (1, 1, "Bring another Lens motor, bus in and out, with one more of its leads: motor bus to motor bus, 0.2 m."),
        (1, 2, "Bring another Lens motor, bus in and out."),
        (2, 3, "Bring another Lens motor, bus in and out."),
    ],
)
def test_an_axis_without_a_motor_wants_another_one(motors: int, leads: int, out: str):
    devices = {**LENS, "lens": "lens-cine-zoom-pl"} | {
        f"motor-{number}": "lens-motor" for number in range(2, motors + 1)
    }
    wanted = [FOCUS, IRIS, ZOOM][: motors + 1]
    made = planned(rig(devices, [TAP, *[BUS] * leads], wanted))
    assert len(made.kept) == motors
    assert made.unmet[0].ways_out[0] == out


@pytest.mark.parametrize("wanted", [[FOCUS, IRIS], [FOCUS, IRIS, ZOOM]])
def test_where_a_lead_is_too_thin_nothing_else_is_a_reason(wanted: list[dict[str, Any]]):
    """2 A of a thin lead against motors that start together: that each has one axis at a time is beside the point."""
    devices = {**LENS, "lens": "lens-cine-zoom-pl", "motor-2": "lens-motor", "motor-3": "lens-motor"}
    made = planned(rig(devices, ["tap-power-2-thin-150", *[BUS] * 3], wanted))
    assert made.kept == ("focus",)
    for one in made.unmet:
        assert [obstacle.kind for obstacle in one.obstacles] == ["power"]
        assert "thin, 1.5 m” carries 2 A for a moment (24 W)" in one.because
        assert one.ways_out[0] == "Get a feed for driver: battery tap to 7-pin driver, power only, 0.4 m."


def test_where_the_tap_is_taken_another_feed_is_brought_and_no_lead():
    link = {"tx": "video-transmitter-sdi", "rx": "video-receiver-sdi", "village": "large-monitor-sdi"}
    bag = [TAP, TAP, BUS, "bnc-bnc-50", "bnc-bnc-50"]
    made = planned(rig({**LENS, **link}, bag, [FOCUS, picture("village")]))
    assert "port marked “TAP” (left side) takes one plug" in because(made, "picture")
    assert unmet(made, "picture").ways_out[0].startswith("Bring a battery, or another feed, for ")
    hub = planned(rig({**LENS, **link, "hub": "tap-hub"}, bag, [FOCUS, picture("village")]))
    assert hub.kept == ("focus", "picture")


@pytest.mark.parametrize(("changes", "fed"), [(0, "body and link"), (1, "link")])
def test_what_is_built_in_and_does_not_last_wants_another_feed(changes: int, fed: str):
    """The link lasts 3.5 h, the body 2.7 h a battery; on the grip's own 31.5 Wh the link would take it to 3.9 h."""
    devices = {**GRIP, "link": "phone-link-transmitter", "phone": "phone"}
    asked = [picture("phone", "touch-screen"), hours(4, changes=changes)]
    made = planned(rig(devices, ["hdmi-d-hdmi-c-30", DATA, DATA], asked))
    assert unmet(made, "hours").ways_out == (f"Bring another feed for {fed}.",)


@pytest.mark.parametrize("charge", [10, 60])
def test_to_give_up_all_that_is_on_is_no_way_to_hours(charge: int):
    devices = {"body": "cine-body-large-panel", "battery": "plate-battery", "village": "large-monitor-sdi"}
    made = planned(rig(devices, ["bnc-bnc-200"], [picture("village"), hours(1)], battery={"charge_percent": charge}))
    assert [out.split(" ")[0] for out in unmet(made, "hours").ways_out] == ["Charge", "Allow"]


def test_two_radios_that_only_happen_to_be_here_are_no_reason():
    """The set drives the converter, which has the wrong plug for this body: that both have a radio is chance."""
    devices = {
        "body": "mirrorless-multi-remote", "set": "hobby-radio", "receiver": "hobby-receiver",
        "converter": "hobby-converter", "bank": "usb-power-bank",
    }  # fmt: skip
    made = planned(rig(devices, ["usb-a-usb-c-charge-30"], [control("record", "set", "record-switch")]))
    says = because(made, "record")
    assert "Record gets as far as converter, port marked “camera”" in says
    assert "body, port marked “MULTI”" in says


@pytest.mark.parametrize(
    ("lenses", "carried"),
    [(("lens-cine-zoom-pl",), False), (("lens-cine-pl",), True), (("lens-cine-zoom-pl", "lens-cine-pl"), True)],
)
def test_a_camera_is_not_flown_without_a_lens_though_nothing_is_promised_of_it(lenses: tuple[str, ...], carried: bool):
    """0.61 kg and an adapter of 0.18 on a grip for 3 kg: a prime of 1.45 kg goes on, a zoom of 2.5 does not.

    The prime has the body so far back that a lead of 0.3 m no longer reaches when it tilts.
    """
    devices = {**GRIP, "adapter": "lens-mount-adapter"} | {f"lens-{one}": key for one, key in enumerate(lenses)}
    made = planned(rig(devices, ["usb-c-usb-c-data-60"], [control("record", "grip", "record-button")]))
    assert (made.kept == ("record",)) is carried
    if not carried:
        assert "grip carries 3 kg at most; in its cage sit 3.3 kg" in because(made, "record")


@pytest.mark.parametrize(("lens", "carried"), [("lens-stills-ring", True), ("lens-of-lead", False)])
def test_tubes_that_could_each_sit_on_the_other_are_weighed_once(lens: str, carried: bool):
    """Two extension tubes have one mount at both ends; on the grip for 3 kg a lens of 2.5 kg is too much with one."""
    catalogue = shipped()
    adapter, stills = catalogue.profiles["lens-mount-adapter"], catalogue.profiles["lens-stills-ring"]
    ends = [port.model_copy(update={"connector": "bayonet-mount"}) for port in adapter.ports]
    made_up = {
        "tube": adapter.model_copy(update={"id": "tube", "ports": ends}),
        "lens-of-lead": stills.model_copy(update={"id": "lens-of-lead", "mass_g": 2500}),
    }
    base = rig(GRIP, [DATA], [control("record", "grip", "record-button")]).rig
    more = [Device(id="tube-1", profile="tube"), Device(id="tube-2", profile="tube"), Device(id="lens", profile=lens)]
    document = base.model_copy(update={"devices": [*base.devices, *more]})
    made = plan(resolve(document, {**catalogue.profiles, **made_up}, catalogue.cables))
    assert (made.kept == ("record",)) is carried


def test_a_spare_that_is_known_to_lack_is_to_be_brought():
    hours = {"kind": "power", "id": "hours", "who": "Everybody", "hours_h": 3, "changes": 2, "weight": 2}
    roll = {**ROLL, "at": {"device": "body", "surface": "record-button"}}
    devices = {"body": "cine-body-network", "battery": "plate-battery"}
    made = plan(rig(devices, [], [roll, hours], battery={"spare_batteries": 0}))
    assert unmet(made, "hours").ways_out[0] == "Bring a full spare battery for battery."
