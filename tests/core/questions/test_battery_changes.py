"""What it comes to to change a battery: motors that lose their ends, what a plate keeps up, what is built in."""

from isotact.core.questions.battery_changes import _says, battery_change
from isotact.core.trades.power import FitBattery
from tests.rigs import carried


def change_of(key: str, device: str):
    stood = carried(key)
    return battery_change(stood.world, stood.plan, stood.conditions, device)


def test_motors_lose_their_ends_with_the_battery_that_feeds_them():
    change = change_of("night-ferry-a", "battery")
    assert {"focus", "iris", "zoom"} <= set(change.lost)
    assert len([says for says in change.forgotten if "knows both ends" in says]) == 3
    # Three motors mapped again, a body and a driver started, on top of the change itself.
    assert 120 < change.takes_s < 600
    assert change.says.startswith("A change costs ")


def test_a_hot_swap_battery_costs_nothing():
    change = change_of("night-ferry-a", "ring")
    assert change.lost == change.forgotten == ()
    assert "without a break" in change.says


def test_a_plate_that_bridges_keeps_all_up_and_without_one_it_goes_dark():
    bridged, bare = change_of("change-bridged", "battery"), change_of("no-change", "battery")
    assert "without a break" in bridged.says
    assert bare.lost
    assert bare.takes_s > bridged.takes_s


def test_what_is_built_in_is_not_changed():
    assert change_of("night-ferry-b", "gimbal") is None


def test_what_goes_dark_and_comes_back_by_itself_is_no_change_without_a_break():
    assert "".join(_says(("village",), (), FitBattery.hand_s)) == "It goes dark meanwhile, and comes back by itself."
