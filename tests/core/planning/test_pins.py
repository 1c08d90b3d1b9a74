"""What the user decides is obeyed before any promise counts; what cannot be is said, and what it costs."""

from typing import Any

import pytest
from pydantic import ValidationError

from isotact.catalogue import shipped
from isotact.cli.reports import plan_report
from isotact.core.model import RefusedError, resolve
from isotact.core.model.problems import path_text
from isotact.core.model.rig import Rig
from isotact.core.planning import plan
from isotact.core.questions import pin_costs
from tests.rigs import demo, demo_rig

LONG = {"kind": "cable", "a": {"device": "body", "port": "usb"}, "b": {"device": "gimbal", "port": "camera"}, "cable": "usb-c-usb-c-data-60"}  # fmt: skip
VIA_LINK = ["body.usb--transmitter.camera", "gimbal.camera--transmitter.link"]


def pinned(*pins: dict[str, Any]):
    return demo(lambda data: data.update(pins=list(pins)))


def cables(made) -> set[str | None]:
    return {join.link.cable for join in made.joins}


def test_without_pins_the_shorter_cable_is_taken_and_with_one_the_longer():
    assert "usb-c-usb-c-data-30" in cables(plan(pinned()))
    made = plan(pinned(LONG))
    assert "usb-c-usb-c-data-60" in cables(made)
    assert "usb-c-usb-c-data-30" not in cables(made)
    assert [(pin.obeyed, pin.says.endswith("done.")) for pin in made.pins] == [(True, True)]


def test_a_device_left_in_its_case_takes_its_promises_with_it_and_the_reason_names_the_pin():
    made = plan(pinned({"kind": "off", "device": "gimbal"}))
    assert made.kept == ("picture", "iso")
    reason = next(unmet for unmet in made.unmet if unmet.promise == "roll")
    assert [obstacle.kind for obstacle in reason.obstacles] == ["pin"]
    assert reason.because.endswith("You pinned it: Tansy grip stays in its case.")


def test_a_port_kept_out_of_stays_empty():
    made = plan(pinned({"kind": "keep-out", "at": {"device": "gimbal", "port": "camera"}}))
    assert "gimbal.camera" not in {str(end) for join in made.joins for end in (join.link.a, join.link.b)}
    assert "roll" not in made.kept


def test_a_way_that_is_pinned_is_taken_though_it_is_dearer():
    made = plan(pinned({"kind": "way", "promise": "focus", "over": [*VIA_LINK, "body.mount--lens.mount"]}))
    route = next(route for route in made.routes if route.promise == "focus")
    assert "transmitter" in [hop.device for hop in route.hops]


@pytest.mark.parametrize(
    ("pin", "says"),
    [
        (
            {**LONG, "cable": "usb-c-usb-c-coiled-40"},
            "no cable in the bag joins these two ports.",
        ),
        ({**LONG, "b": {"device": "gimbal", "port": "charge"}}, "no cable in the bag joins these two ports."),
        ({"kind": "way", "promise": "focus", "over": ["body.hdmi--phone.charge"]}, "that way is no longer there."),
    ],
)
def test_a_pin_that_cannot_be_obeyed_is_said_so_and_the_plan_stands(pin: dict[str, Any], says: str):
    made = plan(pinned(pin))
    assert [answer.obeyed for answer in made.pins] == [False]
    assert made.pins[0].says.endswith(says)
    assert made.kept == ("roll", "focus", "picture")


def test_two_pins_that_exclude_each_other_one_is_obeyed():
    made = plan(pinned(LONG, {"kind": "keep-out", "at": {"device": "gimbal", "port": "camera"}}))
    assert sorted(answer.obeyed for answer in made.pins) == [False, True]


def test_what_a_pin_costs_is_the_plan_without_it():
    rig = pinned(LONG, {"kind": "off", "device": "phone"})
    costs = pin_costs(rig, plan(rig))
    assert costs[0].costs == "It costs 4 points: more to plug, carry or set."
    assert costs[1].lost == ("picture on the touch screen of Director's phone",)
    assert costs[1].costs == "It costs picture on the touch screen of Director's phone."


def test_a_pin_that_costs_nothing_says_so():
    rig = pinned({"kind": "keep-out", "at": {"device": "gimbal", "port": "charge"}})
    assert pin_costs(rig, plan(rig))[0].costs == "It costs nothing."


@pytest.mark.parametrize(
    ("pin", "path"),
    [
        ({"kind": "off", "device": "gimbl"}, "pins[0].device"),
        ({**LONG, "cable": "usb-x"}, "pins[0].cable"),
        ({"kind": "keep-out", "at": {"device": "gimbal", "port": "camra"}}, "pins[0].at.port"),
    ],
)
def test_a_pin_that_names_nothing_is_refused_at_its_place(pin: dict[str, Any], path: str):
    data = demo_rig().model_dump(mode="json")
    data["pins"] = [pin]
    catalogue = shipped()
    with pytest.raises((RefusedError, ValidationError)) as caught:
        resolve(Rig.model_validate(data), catalogue.profiles, catalogue.cables)
    if isinstance(caught.value, RefusedError):
        assert [problem.path for problem in caught.value.problems] == [path]
    else:
        assert [path_text(at) for at, _ in caught.value.errors()[0]["ctx"]["flaws"]] == [path]


OTHER = {"kind": "cable", "a": {"device": "transmitter", "port": "link"}, "b": {"device": "gimbal", "port": "camera"}}


@pytest.mark.parametrize(
    "other",
    [
        {"kind": "keep-out", "at": {"device": "gimbal", "port": "camera"}},
        {"kind": "off", "device": "gimbal"},
        OTHER,
    ],
)
def test_a_pin_that_contradicts_another_says_so(other: dict[str, Any]):
    made = plan(pinned(LONG, other))
    assert sorted(pin.obeyed for pin in made.pins) == [False, True]
    (says,) = (pin.says for pin in made.pins if not pin.obeyed)
    obeyed = next(pin.says for pin in made.pins if pin.obeyed)
    assert says.endswith(f"another pin says otherwise: {obeyed.removesuffix(': done.')}.")


def test_a_pin_that_joins_a_device_with_itself_says_so():
    itself = {**LONG, "a": {"device": "gimbal", "port": "charge"}}
    (answer,) = plan(pinned(itself)).pins
    assert not answer.obeyed
    assert answer.says.endswith("it would join Tansy grip with itself.")


def test_pins_are_printed():
    asked = pinned(LONG, {"kind": "off", "device": "gimbal"})
    lines = plan_report(asked, plan(asked)).splitlines()
    at = lines.index("Pins")
    assert sorted(line[:10].split()[0] for line in lines[at + 1 : at + 3]) == ["NOT", "obeyed"]
