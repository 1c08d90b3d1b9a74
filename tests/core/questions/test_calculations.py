"""What every "why" of a number shows: the number follows from what it says went in."""

import pytest

from isotact.core.calc.power import hours
from isotact.core.calc.radio_paths import margin_db
from isotact.core.model.calculation import Calculation
from isotact.core.questions.school_advice import advise
from isotact.core.telling import battery_hours
from tests.rigs import SHIPPED, carried


def given(one: Calculation) -> dict[str, float]:
    return {item.name: item.value for item in one.given}


@pytest.mark.parametrize("rig", SHIPPED)
def test_the_hours_of_a_battery_follow_from_what_they_say(rig: str):
    done = carried(rig)
    found = battery_hours(done.rig, done.plan)
    lasting = [feed for feed in done.plan.feeds if feed.battery == feed.device and feed.hours_h is not None]
    assert len(found) == len(lasting)
    for one in found:
        assert one.value == f"{lasts(one):.1f} h"
        assert one.why.endswith(f"= {one.value}")
        assert -1e-9 <= given(one)["lost in leads, outlets and cells"] < 0.25 * given(one)["load"]
    assert {one.name for one in found} == {done.rig[feed.device].name for feed in lasting}
    assert [lasts(one) for one in found] == pytest.approx(sorted(lasts(one) for one in found), rel=0.01)


def lasts(one: Calculation) -> float:
    """The hours that its own figures give."""
    went_in = given(one)
    return hours(went_in["usable energy"], went_in["load"] + went_in["lost in leads, outlets and cells"])


def test_what_a_battery_feeds_besides_is_named():
    done = carried("night-ferry-a")
    fed = {done.rig[feed.device].name for feed in done.plan.feeds if feed.from_device == "battery"}
    brick = next(one for one in battery_hours(done.rig, done.plan) if one.name == done.rig["battery"].name)
    assert fed
    assert all(any(name in sentence for sentence in brick.also) for name in fed)


def test_the_margin_of_antennas_follows_from_the_ranges_that_it_names():
    advice = next(one for one in advise(carried("night-ferry-a").rig) if one.kind == "antennas")
    (margin,) = advice.options[0].numbers
    ranges = given(margin)
    assert margin.value == f"{margin_db(ranges['claimed'], ranges['needed']):.1f} dB"
