"""Who runs from what: feeds before batteries, loads that add up, feeds that brown out, rings that feed nobody."""

import pytest

from isotact.core.calc.loads import Lead, Load, Source
from isotact.core.calc.power import Supply, hours
from isotact.core.calc.power import supply as settle


def supply(
    draws: dict[str, float | None],
    batteries: set[str],
    leads: list[Lead],
    peaks: dict[str, float] | None = None,
    stalls: dict[str, float] | None = None,
) -> Supply:
    """A rig in short: watts by device, which have a battery, and the leads."""
    more, held = peaks or {}, stalls or {}
    loads = [Load(one, watts, more.get(one), held.get(one, 0.0)) for one, watts in draws.items()]
    return settle(loads, [Source(one) for one in batteries], leads)


def lead(giver: str, taker: str, limit_w: float = 100, key: str | None = None) -> Lead:
    return Lead(key or f"{giver}-{taker}", giver, taker, limit_w)


def test_a_feed_comes_before_a_battery_of_ones_own():
    found = supply({"grip": 4, "body": 5}, {"grip", "body"}, [lead("grip", "body")])
    assert found.root("body") == "grip"
    assert found.roots() == {"grip": 9}


def test_who_is_fed_is_told_in_the_order_of_the_rig():
    """So that the same rig is told alike at every start: sets of words have another order each time."""
    names = [f"device {number}" for number in range(40)]
    loads = [Load(one, 1.0 if number % 3 else None) for number, one in enumerate(names)]
    assert list(settle(loads, [Source(one) for one in reversed(names)], []).fed) == names


def test_without_its_feed_it_falls_back_on_its_own_battery():
    found = supply({"grip": 4, "body": 5}, {"grip", "body"}, [])
    assert found.roots() == {"grip": 4, "body": 5}


def test_power_is_passed_on_from_device_to_device():
    chain = [lead("battery", "driver"), lead("driver", "motor"), lead("motor", "next")]
    found = supply({"battery": 0, "driver": 2, "motor": 3, "next": 4}, {"battery"}, chain)
    assert found.root("next") == "battery"
    assert found.roots() == {"battery": 9}


def test_a_ring_of_leads_with_no_battery_in_it_feeds_nobody():
    found = supply({"a": 1, "b": 1}, set(), [lead("a", "b"), lead("b", "a")])
    assert not found.has_power("a")
    assert not found.has_power("b")
    assert found.root("a") is None


def test_two_batteries_that_feed_each_other_have_one_root():
    found = supply({"a": 1, "b": 1}, {"a", "b"}, [lead("a", "b"), lead("b", "a")])
    assert {found.root("a"), found.root("b")} == {"a"}


def test_a_lead_that_carries_more_than_its_limit_browns_out():
    assert not supply({"tap": 0, "box": 6}, {"tap"}, [lead("tap", "box", 5)]).has_power("box")
    assert supply({"tap": 0, "box": 5}, {"tap"}, [lead("tap", "box", 5)]).has_power("box")


def test_what_hangs_behind_counts_too():
    leads = [lead("tap", "driver", 8), lead("driver", "motor", 8)]
    assert supply({"tap": 0, "driver": 2, "motor": 5}, {"tap"}, leads).has_power("motor")
    heavy = supply({"tap": 0, "driver": 2, "motor": 7}, {"tap"}, leads)
    assert not heavy.has_power("driver")
    assert not heavy.has_power("motor")


def test_a_browned_out_device_falls_back_on_the_next_lead_or_its_battery():
    leads = [lead("thin", "box", 3), lead("thick", "box", 30)]
    assert supply({"thin": 0, "thick": 0, "box": 6}, {"thin", "thick"}, leads).root("box") == "thick"
    assert supply({"thin": 0, "box": 6}, {"thin", "box"}, [lead("thin", "box", 3)]).root("box") == "box"


def test_of_all_that_hang_on_a_lead_the_one_that_stalls_worst_comes_on_top():
    thin = [Lead("tap-driver", "tap", "driver", 100, peak_w=30), lead("driver", "one"), lead("driver", "two")]
    draws, peaks = {"tap": 0.0, "driver": 2.0, "one": 5.0, "two": 5.0}, {"one": 9.0, "two": 9.0}
    for stalls, stands in (({}, True), ({"one": 10.0, "two": 10.0}, True), ({"one": 10.5, "two": 1.0}, False)):
        assert supply(draws, {"tap"}, thin, peaks, stalls=stalls).has_power("driver") is stands


def test_what_is_left_out_takes_no_power_and_passes_none_on():
    leads = [lead("battery", "driver"), lead("driver", "motor")]
    found = supply({"battery": 0, "motor": 3}, {"battery"}, leads)
    assert not found.has_power("driver")
    assert not found.has_power("motor")


def test_what_needs_no_power_has_it_and_draws_none():
    found = supply({"lens": None}, set(), [])
    assert found.has_power("lens")
    assert found.roots() == {}


@pytest.mark.parametrize(("usable_wh", "load_w", "expected_h"), [(31.5, 10.4, 3.0288), (50.32, 25.16, 2.0)])
def test_hours_are_energy_over_load(usable_wh: float, load_w: float, expected_h: float):
    assert hours(usable_wh, load_w) == pytest.approx(expected_h, abs=1e-4)
