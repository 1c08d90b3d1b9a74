"""What a battery's card says of its hours: how long it lasts with all that hangs on it, and from its lamp on."""

import pytest

from isotact.core.planning import plan
from isotact.core.runsheet import run_sheet
from tests.rigs import carried, demo, device_of


def card(rig, made, device: str) -> str:
    steps = run_sheet(rig, made).steps
    return " ".join(next(step.detail for step in steps if step.id == f"fit:{device}"))


@pytest.mark.parametrize(("charge", "says"), [(None, "from its lamp on 19 min"), (60, "from its lamp on 58 min")])
def test_a_battery_says_how_long_it_lasts_and_how_long_from_its_lamp_on(charge: int | None, says: str):
    rig = demo(lambda data: device_of(data, "gimbal").update(charge_percent=charge))
    made = plan(rig)
    lasts_h = next(feed.hours_h for feed in made.feeds if feed.device == "gimbal")
    assert f"Lasts {lasts_h:.1f} h here" in card(rig, made, "gimbal")
    assert says in card(rig, made, "gimbal")


def test_one_that_is_lower_than_its_lamp_says_nothing_of_it():
    rig = demo(lambda data: device_of(data, "gimbal").update(charge_percent=15))
    assert "lamp" not in card(rig, plan(rig), "gimbal")


def test_one_without_a_lamp_says_its_hours_only():
    stood = carried("night-ferry-a")
    words = card(stood.rig, stood.plan, "battery")
    assert "Lasts 1.4 h here." in words
    assert "lamp" not in words
