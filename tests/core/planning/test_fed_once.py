"""What is fed is not fed twice: answers that a technician gives, written before the rigs were planned.

Common practice, no source.
"""

from collections import Counter

import pytest

from isotact.core.model import Plan, ResolvedRig
from isotact.core.model.plan import Link, Use
from isotact.core.model.profile import Profile
from isotact.core.runsheet import run_sheet
from tests.core.planning.test_feeds import planned
from tests.corpus import Drawn, every
from tests.rigs import DATA, RECORD, cable, camera, control, grip, port, power, profile, rig_of

TAP = cable("tap", "tap", "power-2", {"medium": "power"})
TWELVE = {"volts": 12, "max_v": 17}


def plated(wh: float, key: str = "battery", max_a: float = 10) -> Profile:
    """A battery with contacts and a tap."""
    return profile(
        key,
        ports=[
            port("plate", "battery-plate", power("out", **TWELVE, max_a=max_a)),
            port("tap", "tap", power("out", **TWELVE, max_a=4)),
        ],
        power={"draw_w": 0, "inner_battery": {"name": "cells", "energy_wh": wh}},
    )


def on_a_plate(draw_w: float, hours_h: float | None, *batteries: Profile) -> ResolvedRig:
    """A body that a plate could feed, and a lead as well."""
    body = camera(
        ports=[
            port("usb", "usb-c", control("p", "device")),
            port("plate", "battery-plate", power("in", **TWELVE)),
            port("dc", "power-2", power("in", **TWELVE)),
        ],
        power={"draw_w": draw_w},
    )
    hours = {"kind": "power", "id": "hours", "who": "All", "hours_h": hours_h, "weight": 2}
    bag = [(DATA, 1), (TAP, 2)]
    return rig_of([body, grip(), *batteries], bag, [RECORD, *([] if hours_h is None else [hours])])


def fed(made: Plan, device: str) -> list[str]:
    """What brings a device power and nothing else."""
    return sorted(
        join.link.cable or join.link.kind
        for join in made.joins
        if all(use.is_power and _taker(join.link, use) == device for use in join.carries)
    )


def _taker(link: Link, use: Use) -> str:
    return (link.b if use.flow == "a-to-b" else link.a).device


@pytest.mark.parametrize("hours_h", [None, 2, 3.4])
def test_what_sits_on_a_plate_hangs_on_no_lead_besides(hours_h: float | None):
    made = planned(on_a_plate(20, hours_h, plated(98)))
    assert fed(made, "camera") == ["direct"]
    assert len(made.kept) == 1 + (hours_h is not None)


def test_nor_where_a_second_battery_lies_there():
    assert fed(planned(on_a_plate(20, 3, plated(98), plated(98, "other"))), "camera") == ["direct"]


def test_a_plate_that_carries_too_little_is_left_for_the_tap_and_not_helped_by_it():
    """4 A through a tap, 1 A through the contacts; 20 W at 12 V are 1.7 A."""
    made = planned(on_a_plate(20, 2, plated(98, max_a=1)))
    assert fed(made, "camera") == ["tap"]


def test_the_sheet_feeds_it_once():
    asked = on_a_plate(20, 3, plated(98))
    steps = run_sheet(asked, planned(asked)).steps
    joined = Counter(
        step.act.kind for step in steps if step.act.kind == "plug" and {"camera", "battery"} <= {*step.act.touches()}
    )
    assert joined == {"plug": 1}


def once(drawn: Drawn) -> None:
    assert all(len(fed(drawn.plan, device)) <= 1 for device in drawn.rig.devices)


test_no_lead_is_laid_to_what_another_feeds = every("small", 150)(once)
test_nor_beside_one_that_feeds_unasked = every("fed twice", 80)(once)
test_nor_where_wake_orders_and_modes_are_tangled = every("tangled", 100)(once)


# A plate of cells and a body 12 V away; half a metre of AWG 18 is 0.021 ohm and of AWG 28 0.21 ohm there and back, with
# 0.02 ohm of its plugs (ASTM B258).
@pytest.mark.parametrize(
    ("leads", "taken"),
    [
        ([("thick", 500, 18), ("thin", 500, 28)], "thick"),  # alike but for the gauge
        ([("thick", 500, 18), ("longer", 800, 18)], "thick"),  # alike but for the length
        ([("thick", 2500, 18), ("thin", 500, 28)], "thin"),  # two metres more to lay and to trip over
    ],
)
def test_of_two_leads_that_feed_as_well_the_shorter_and_the_thicker_is_taken(
    leads: list[tuple[str, float, int]], taken: str
):
    body = camera(
        ports=[port("usb", "usb-c", control("p", "device")), port("dc", "power-2", power("in", **TWELVE))],
        power={"draw_w": 20},
    )
    bag = [
        (cable(key, "tap", "power-2", {"medium": "power"}, length_mm=length_mm, gauge_awg=awg), 1)
        for key, length_mm, awg in leads
    ]
    made = planned(rig_of([body, grip(), plated(98)], [(DATA, 1), *bag], [RECORD]))
    assert fed(made, "camera") == [taken]
