"""Who carries iris and focus out, and what a mode costs: a technician's answers, written before they were planned.

Common practice, no source.
"""

import pytest

from isotact.core.planning import plan
from tests.core.planning.test_feeds import FOCUS, IRIS, LENS, Plan, because, planned, rig
from tests.rigs import RECORD, cable, camera, control, grip, port, rig_of

LICENSED = {"firmware": "4.1", "licences": ["camera-control"]}
BAG = ["tap-power-2-50", "driver-7-remote-8-40", "motor-bus-motor-bus-20"]


def mode(made: Plan) -> str | None:
    return next((choice.value for choice in made.choices if (choice.device, choice.kind) == ("body", "mode")), None)


def test_a_body_drives_no_iris_of_a_lens_that_it_cannot_drive():
    """A cine lens has its iris on a ring: the panel of the body does nothing to it."""
    made = planned(rig(LENS, BAG, [FOCUS, IRIS], driver=LICENSED))
    assert (made.kept, mode(made)) == (("focus",), None)


def test_a_second_motor_turns_the_ring():
    devices = {**LENS, "motor-2": "lens-motor"}
    made = planned(rig(devices, [*BAG, "motor-bus-motor-bus-20"], [FOCUS, IRIS], driver=LICENSED))
    assert (made.kept, mode(made)) == (("focus", "iris"), None)


HYBRID = {"body": "mirrorless-usb-c-full-hdmi", "link": "phone-link-transmitter", "phone": "phone"}
BY_PHONE = {
    "kind": "control", "id": "iris", "who": "Director", "function": "iris", "weight": 4,
    "at": {"device": "phone", "surface": "touch-screen"},
}  # fmt: skip


@pytest.mark.parametrize(("lens", "kept"), [("lens-by-wire", ("iris",)), ("lens-stills-ring", ())])
def test_iris_through_the_body_happens_in_the_lens_that_is_on(lens: str, kept: tuple[str, ...]):
    made = planned(rig({**HYBRID, "lens": lens}, ["usb-c-usb-c-data-30"], [BY_PHONE]))
    assert made.kept == kept


def test_without_a_lens_there_is_no_iris():
    assert planned(rig(HYBRID, ["usb-c-usb-c-data-30"], [BY_PHONE])).kept == ()


@pytest.mark.parametrize(("adapter", "kept"), [(True, ("focus",)), (False, ())])
def test_a_lens_sits_on_a_body_only_where_the_mounts_match_or_an_adapter_lies_there(
    adapter: bool, kept: tuple[str, ...]
):
    devices = {
        "body": "hybrid-single-port", "lens": "lens-cine-pl", "motor": "motor-with-driver", "hand": "hand-unit",
        "battery": "plate-battery", **({"adapter": "lens-mount-adapter"} if adapter else {}),
    }  # fmt: skip
    made = planned(rig(devices, ["tap-power-2-50"], [FOCUS]))
    assert made.kept == kept
    if not adapter:
        assert "lens has a PL lens mount, and body has a bayonet lens mount." in because(made, "focus")


def test_a_body_holds_one_lens():
    devices = {**LENS, "lens-2": "lens-cine-pl", "motor-2": "lens-motor"}
    first, second = ({**one, "to": lens} for one, lens in ((FOCUS, "lens"), (IRIS, "lens-2")))
    made = planned(rig(devices, [*BAG, "motor-bus-motor-bus-20"], [first, second]))
    assert made.kept == ("focus",)


@pytest.mark.parametrize(("upsets", "way"), [([], "usb"), (["restarts"], "usb"), (["resets-settings"], "aux")])
def test_a_mode_that_wipes_the_camera_is_dearer_than_a_longer_lead(upsets: list[str], way: str):
    """Two ports: the near one works in another mode only, the far one wants two metres and crosses no axis more."""
    values = [{"id": "plain", "name": "Plain"}, {"id": "panel", "name": "Panel", "upsets": upsets}]
    body = camera(
        ports=[port("usb", "usb-c", control("p", "device")), port("aux", "hdmi-a", control("p", "device"))],
        modes={"how": "Turn to {name}.", "factory": "plain", "values": values},
        accepts=[
            {"functions": ["record"], "over": "usb", "when": {"mode": ["panel"]}},
            {"functions": ["record"], "over": "aux"},
        ],
    )
    cables = [(cable("near", "usb-c", "usb-c"), 1), (cable("far", "usb-c", "hdmi-a", length_mm=2000), 1)]
    (join,) = plan(rig_of([body, grip()], cables, [RECORD])).joins
    assert way in (join.link.a.endpoint, join.link.b.endpoint)


def test_what_is_said_of_like_devices_is_said_once():
    """Three motors on a bus that stands two: which of them goes without is all the same."""
    weak = {
        "body": "cine-body-lens-radio",
        "lens": "lens-cine-zoom-pl",
        "hand": "hand-unit",
        "battery": "plate-battery",
    }
    zoom = {**IRIS, "id": "zoom", "function": "zoom", "at": {"device": "hand", "surface": "zoom-stick"}, "weight": 3}
    motors = {f"motor-{number}": "lens-motor" for number in (1, 2)}
    made = planned(rig({**weak, **motors}, ["motor-bus-motor-bus-20"] * 2, [FOCUS, IRIS, zoom]))
    assert made.kept == ("focus", "iris")
    says = because(made, "zoom")
    assert "Each of motor-1 and motor-2 has one “Axis” at a time" in says
    assert says.count("has one “Axis” at a time") == 1
