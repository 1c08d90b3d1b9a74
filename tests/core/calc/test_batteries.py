"""A battery as it empties: cold and age take of it, volts fall, and a greater load is sooner done."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from isotact.core.calc.batteries import CHEMISTRIES, Battery, discharged
from isotact.core.calc.curves import along, area
from isotact.core.calc.volts import Cell, Taking, flowing

PACK = Battery(CHEMISTRIES["li-ion"], 4, 98.0)


def lasting(battery: Battery, watts: float, end: float = 0.15) -> float:
    def asked(left: float) -> tuple[float, float] | None:
        cell = Cell("pack", battery.rest_v(left), battery.inner_ohm)
        found = flowing([cell], [], {"pack": Taking(watts)})
        return None if found is None else (found.volts["pack"], cell.open_v * found.drawn_a["pack"])

    curve = discharged(battery, asked, 1.0, end)
    return curve[-1].hours_h if curve else 0.0


@pytest.mark.parametrize("name", CHEMISTRIES)
def test_every_chemistry_says_all_that_is_reckoned_with(name: str):
    chemistry = CHEMISTRIES[name]
    for points in (chemistry.rest_v, chemistry.by_energy, chemistry.cold, chemistry.cold_ohm):
        assert [x for x, _ in points] == sorted({x for x, _ in points})
    assert [volts for _, volts in chemistry.rest_v] == sorted(volts for _, volts in chemistry.rest_v)
    assert chemistry.by_energy[0][0] == 0
    assert chemistry.by_energy[-1][0] == pytest.approx(1)
    assert along(chemistry.cold, 20) == along(chemistry.cold_ohm, 20) == 1
    assert chemistry.source


@given(st.sampled_from(sorted(CHEMISTRIES)), st.floats(-20, 40), st.floats(-20, 40), st.floats(5, 80))
def test_a_colder_battery_never_lasts_longer(name: str, one_c: float, other_c: float, watts: float):
    battery = Battery(CHEMISTRIES[name], 4, 98.0)
    cold, warm = sorted((one_c, other_c))
    assert lasting(replace(battery, celsius=cold), watts) <= lasting(replace(battery, celsius=warm), watts) + 1e-6


@given(st.floats(0.3, 1.0), st.floats(0.3, 1.0), st.floats(5, 80))
def test_an_older_one_never_lasts_longer(one: float, other: float, watts: float):
    older, newer = sorted((one, other))
    assert lasting(replace(PACK, health=older), watts) <= lasting(replace(PACK, health=newer), watts) + 1e-6


def test_more_watts_are_sooner_done_and_a_reserve_is_not_touched():
    assert lasting(PACK, 40) > lasting(PACK, 60)
    assert lasting(PACK, 40, end=0.3) < lasting(PACK, 40, end=0.15)
    # At the same watts out of its cells, hours are watt hours over watts.
    plain = discharged(PACK, lambda left: (PACK.rest_v(left), 40.0), 1.0, 0.15)
    assert plain[-1].hours_h == pytest.approx(98 * 0.85 / 40)


def test_its_own_curve_and_ohms_come_before_those_of_its_chemistry():
    own = replace(PACK, curve_v=((0.0, 12.0), (1.0, 16.0)), ohm=0.05)
    assert own.rest_v(0.5) == pytest.approx(14)
    assert own.inner_ohm == 0.05
    assert PACK.inner_ohm == pytest.approx(4 * 0.17 / (98 / (4 * PACK.chemistry.mean_v)))


def test_what_it_can_no_longer_feed_ends_the_curve():
    stops = discharged(PACK, lambda left: None if left < 0.5 else (14.0, 50.0))
    assert 0.5 <= stops[-1].left < 0.6
    assert discharged(PACK, lambda left: (14.0, 0.0)) == []


def test_an_area_is_that_of_its_trapezoids():
    assert area([(0, 0), (1, 2), (3, 2)]) == pytest.approx(5)
    assert along([(0, 1), (2, 3)], -1) == 1
    assert along([(0, 1), (2, 3)], 1) == 2
    assert along([(0, 1), (2, 3)], 9) == 3
