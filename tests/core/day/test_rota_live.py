"""A day while it runs: what was put in, what was read, and what the rest of it becomes."""

from typing import Any

import pytest

from isotact.core.calc.batteries import CHEMISTRIES, Battery, left_at
from isotact.core.day import day_rota
from isotact.core.day.rota_live import Health, standing_at
from tests.core.day.test_rota_day import JOB, KIT, day_of

PLATE = {"rig": "night-ferry-a", "device": "battery"}


def night(*happened: dict[str, Any]) -> Any:
    day = {**JOB["days"][0], "happened": [*happened]}
    return day_of({**JOB, "days": [day]}, KIT)


def put_in(at: str, pack: str) -> dict[str, Any]:
    return {"kind": "changed", "at": at, "pack": pack, **PLATE}


def read(at: str, volts: float) -> dict[str, Any]:
    return {"kind": "read", "at": at, "volts": volts, **PLATE}


def test_what_was_said_holds_and_the_rest_is_planned_again():
    rota = day_rota(night(put_in("20:30", "P-2")), "21:00")
    assert rota.now_min == 180
    plate = next(one for one in rota.seats if one.device == "battery" and one.camera == "A")
    assert [(one.pack, one.begins_min) for one in plate.stints][:2] == [("A-14", 0), ("P-2", 150)]
    said = [one for one in rota.acts if one.changed]
    assert [(one.clock, one.pack) for one in said] == [("20:30", "P-2")]
    assert all(one.at_min >= 180 for one in rota.acts if one.kind == "change" and not one.changed)


def test_a_change_that_is_said_at_this_very_minute_counts():
    rota = day_rota(night(put_in("20:30", "P-2")), "20:30")
    assert [one.pack for one in rota.acts if one.changed] == ["P-2"]


def test_a_battery_that_should_be_empty_by_now_is_asked_after():
    rota = day_rota(night(), "22:00")
    assert any(one.startswith("By what was said Plate battery of A is empty since 20:55") for one in rota.noted)


def test_a_reading_tells_what_is_left_and_moves_the_rest_of_the_day():
    high, low = day_rota(night(read("19:30", 16.0)), "19:30"), day_rota(night(read("19:30", 13.9)), "19:30")

    def empty_at(rota: Any) -> int:
        return next(one.alone_min for one in rota.seats if one.device == "battery" and one.camera == "A") or 9999

    assert empty_at(low) < empty_at(high)
    assert any(one.startswith("19:30: 13.9 V under 37 W is") for one in low.noted)


def test_a_reading_that_no_charge_gives_is_left_out_and_said():
    rota = day_rota(night(read("19:30", 9.0)), "19:30")
    assert "19:30: 9 V is no charge of A-14, which has 10.0 to 16.8 V; left out. Read it again." in rota.noted


def test_a_lamp_that_came_on_is_a_reading_too_and_says_what_is_left():
    lamp = {"kind": "lamp", "at": "20:25", "rig": "night-ferry-a", "device": "ring"}
    seats = [day_rota(night(*said), "20:30").seats for said in ([lamp], [])]
    ring, early = (next(one for one in each if one.device == "ring") for each in seats)
    # At a fifth of 196 Wh at 4 °C, of which 15 % are kept in reserve, some 5 % are left.
    noted = day_rota(night(lamp), "20:30").noted
    said = "20:25: the lamp of Osier ring is on: 20 % of Osier ring's own, about "
    assert any(one.startswith(said) and "min left, which holds" in one for one in noted), noted
    assert ring.rolls_from_lamp_min is not None
    assert early.alone_min is None, "by what was reckoned it lasts the day"
    assert ring.alone_min is not None
    assert ring.alone_min <= 180 + ring.rolls_from_lamp_min * 3, "it is emptier than was reckoned"


def test_a_lamp_of_which_nobody_says_when_it_comes_on_is_left_out_and_said():
    noted = day_rota(night({"kind": "lamp", "at": "19:30", **PLATE}), "19:30").noted
    says = "19:30: nobody says at what charge the lamp of Plate battery comes on; left out. Read its volts."
    assert says in noted


def test_a_pack_that_nobody_knows_is_left_out_and_said():
    rota = day_rota(night(put_in("20:30", "Z-9")), "21:00")
    assert "20:30: pack Z-9 is not among those of the day; left out." in rota.noted


def test_a_pack_that_falls_too_fast_is_found_to_be_worn():
    # After 1.5 h at 37 W some 56 Wh are gone of 88 that are there at 4 °C: a reading of half as much left as there
    # should be is a worn pack.
    sound, worn = standing_at(night(read("20:25", 14.3)), 150), standing_at(night(read("20:25", 13.0)), 150)
    assert worn.healths["A-14"].share < sound.healths["A-14"].share
    assert worn.healths["A-14"].known_to < 0.1
    packs = {one.key: one for one in day_rota(night(read("20:25", 13.0)), "20:25").packs}
    assert packs["A-14"].health_percent < 100
    assert packs["A-14"].health_says == "by what was read today"


def test_two_readings_are_surer_than_one():
    # The mean of two normal distributions by their precision: 1.0 to 0.1 and 0.8 to 0.1 are 0.9 to 0.0707.
    once = Health(1.0, 0.1).with_reading(0.8, 0.1)
    assert (once.share, once.known_to) == (pytest.approx(0.9), pytest.approx(0.1 / 2**0.5))


@pytest.mark.parametrize("left", [0.1, 0.35, 0.6, 0.9])
@pytest.mark.parametrize("watts", [0.0, 20.0, 60.0])
def test_volts_under_load_lead_back_to_the_charge(left: float, watts: float):
    battery = Battery(CHEMISTRIES["li-ion"], 4, 98.0, celsius=4.0)
    rest, ohm = battery.rest_v(left), battery.inner_ohm
    # v = rest - ohm * watts / v, solved by its formula.
    volts = (rest + (rest**2 - 4 * ohm * watts) ** 0.5) / 2
    assert left_at(battery, volts, watts) == pytest.approx(left, abs=1e-6)


def test_now_after_the_wrap_has_nothing_left_to_do():
    rota = day_rota(night(), "03:55")
    assert all(one.at_min >= 595 or one.changed or one.kind != "change" for one in rota.acts)
