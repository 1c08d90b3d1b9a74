"""The packs of a day of a job: the demo's night, and plain days of which a technician can write the answer down."""

import re
from dataclasses import replace
from functools import cache
from typing import Any

import pytest

from isotact.catalogue import read_file, shipped
from isotact.core.day import DayRota, NoDayError, RotaDay, day_rig, day_rota, on_that_day
from isotact.core.day.battery_seats import STEP_MIN
from isotact.core.day.pack_pool import health_by_age
from isotact.core.day.rota import PackIs, carried_out, parts, rota_of
from isotact.core.model import Kit, resolve
from isotact.core.model.job import Job
from isotact.demo import FOLDER
from tests.rigs import SHIPPED, carried

JOB: dict[str, Any] = read_file(FOLDER / "night-ferry.job.yaml", Job).model_dump(mode="json")
KIT: dict[str, Any] = read_file(FOLDER / "ferry-van.kit.yaml", Kit).model_dump(mode="json")
LINK = "Quillon link"


def day_of(job: dict[str, Any], kit: dict[str, Any] | None = None, number: int = 0) -> RotaDay:
    document, catalogue = Job.model_validate(job), shipped()
    rigs = []
    for rig in dict.fromkeys(used.rig for block in document.days[number].blocks for used in block.rigs):
        built = carried(rig)
        cold = resolve(on_that_day(SHIPPED[rig], document.days[number]), catalogue.profiles, catalogue.cables)
        rigs.append(day_rig(cold, built.world, built.plan, built.conditions))
    return RotaDay(document, number, rigs, Kit.model_validate(kit) if kit else None, catalogue.profiles)


def a_day(begins: str, ends: str, **more: Any) -> dict[str, Any]:
    """A job with one day, on which B rolls all the time from one time to another, at 20 °C and with no mains."""
    block = {"name": "All of it", "begins": begins, "ends": ends}
    block["rigs"] = [{"rig": "night-ferry-b", "use": "rolling", "rolling_percent": 100}]  # type: ignore[assignment]
    day = {"date": "2026-06-01", "call": "08:00", "wrap": "20:00", "blocks": [block], "mains": [], **more}
    return {"format": "isotact/job", "version": 2, "id": "plain", "name": "Plain", "days": [day]}


@cache
def the_night() -> DayRota:
    """The rota of the demo's night, found once for all tests."""
    return day_rota(day_of(JOB, KIT))


def test_a_night_without_mains_and_kit_says_how_many_packs_it_takes():
    """A plate of 88 Wh at 4 °C carries 37 W for two hours: eight hours of A and of the village's monitor are nine more."""
    rota = day_rota(day_of({**JOB, "days": [{**JOB["days"][0], "mains": []}], "kit": None}))
    assert rota.first_dark
    found = [one for one in rota.remedies if "Plate battery of A" in one.says]
    assert [(one.says, one.gone) for one in found] == [
        ("Plate battery of A, dark at 20:55: 9 more packs (Plate battery, 14.4 V).", True)
    ]


def test_where_takes_are_spoilt_whatever_is_bought_the_fewest_packs_are_named_that_leave_nothing_dark():
    """One battery of 88 Wh that rolls for twelve hours without a pause: a pack less and it is dark again."""
    use = [{"rig": "night-ferry-c", "use": "rolling", "rolling_percent": 100}]
    block = {"name": "All of it", "begins": "08:00", "ends": "20:00", "rigs": use}
    day = day_of(
        {**JOB, "kit": None, "days": [{"date": "2026-06-01", "call": "08:00", "wrap": "20:00", "blocks": [block]}]}
    )
    grip = next(one.key for one in day.seats if one.device == "grip")
    says = next(one.says for one in day_rota(day).remedies if "net grip" in one.says)
    count = int(re.search(r": (\d+) more pack", says)[1])  # type: ignore[index]
    assert "spoilt" in says

    def is_dark(more: int) -> bool:
        part = next(one for one in parts(day.rotation) if grip in {seat.key for seat in one.seats})
        sort = next(seat.sort for seat in part.seats if seat.key == grip)
        full = max(pack.full_mwh for pack in part.by_sort[sort])
        packs = (*part.packs, *(PackIs(f"more {number}", sort, full, full) for number in range(more)))
        return bool(rota_of(replace(part, packs=packs), 0.0).dark)

    assert (is_dark(count), is_dark(count - 1)) == (False, True)


def row(rota: DayRota, name: str) -> Any:
    return next(one for one in rota.seats if one.name == name)


def test_the_demo_night_is_lit_to_the_wrap_and_proven():
    rota = the_night()
    assert rota.says.startswith("Nothing goes dark")
    assert (rota.status, rota.dark_min, rota.spoilt, rota.remedies) == ("proven", 0, 0, ())
    assert rota.changes == sum(1 for one in rota.acts if one.kind == "change")
    assert rota.clock_says == "Plate battery of A is the clock: as it is now, empty at 20:55. Have its volts in sight."
    for act in rota.acts:
        assert not act.spoils


def test_the_hours_are_those_of_the_circuit():
    # B's grip lasts 2.8 h at 20 °C while it all runs (the power screen says so): from 08:00 until past 10:45.
    rota = day_rota(day_of(a_day("08:00", "12:00")))
    assert row(rota, "Tansy grip").alone_min in (165, 170)
    assert rota.first_dark == "Tansy grip of Night ferry, B camera goes dark at 10:45"


def test_what_waits_draws_less_and_lasts_longer():
    waits = a_day("08:00", "12:00")
    waits["days"][0]["blocks"][0]["rigs"][0]["use"] = "standby"
    rolling, standby = day_rota(day_of(a_day("08:00", "12:00"))), day_rota(day_of(waits))
    assert row(rolling, "Tansy grip").alone_min is not None
    assert row(standby, "Tansy grip").alone_min is None


def test_a_cold_day_is_shorter():
    cold = day_rota(day_of(a_day("08:00", "12:00", temperature_c=-10)))
    assert row(cold, "Tansy grip").alone_min < row(day_rota(day_of(a_day("08:00", "12:00"))), "Tansy grip").alone_min
    assert any("0 °C" in one for one in cold.cautions)


def test_where_it_goes_dark_it_says_what_would_do():
    rota = day_rota(day_of(a_day("08:00", "12:00")))
    says = [one.says for one in rota.remedies]
    assert any("feed Tansy grip of B from a bigger battery" in one for one in says)


def test_a_pack_more_is_asked_for_where_packs_are_short():
    few = {**KIT, "packs": [one for one in KIT["packs"] if not one["tag"].startswith("P-")]}
    rota = day_rota(day_of(JOB, few))
    assert rota.dark_min > 0
    assert any(one.gone and "more pack" in one.says and "Plate battery, 14.4 V" in one.says for one in rota.remedies)


def test_a_meal_with_mains_charges_what_is_built_in():
    lunch = a_day("08:00", "12:00", mains=[{"begins": "10:00", "ends": "11:00"}])
    first, second = lunch["days"][0]["blocks"][0], {**lunch["days"][0]["blocks"][0], "name": "Later", "begins": "11:00"}
    first["ends"] = "10:00"
    lunch["days"][0]["blocks"] = [first, {**second, "ends": "12:45"}]
    rota = day_rota(day_of(lunch, KIT))
    assert rota.dark_min == 0
    grip = next(one for one in rota.acts if one.kind == "charge" and "Tansy grip" in one.says)
    assert (grip.clock, grip.where) == ("10:00", "before Later")


def test_packs_nobody_knows_the_sort_of_are_not_counted_and_it_says_so():
    odd = {**KIT, "packs": [{"tag": "X-1", "fits": "body battery"}, *KIT["packs"]]}
    rota = day_rota(day_of(JOB, odd))
    assert "X-1" not in {one.key for one in rota.packs}


def test_whatever_nobody_said_of_mains_is_reckoned_without_and_said():
    job = {**JOB, "places": [{"name": "Pier 4"}, {"name": "On board"}]}
    job["days"] = [{**JOB["days"][0], "mains": None}]
    rota = day_rota(day_of(job, KIT))
    assert "Nobody said whether there is mains at On board: reckoned without." in rota.assumed
    assert [(one.begins_min, one.ends_min) for one in rota.mains] == [(0, 600)]


def test_a_day_without_times_says_what_is_missing():
    with pytest.raises(NoDayError, match="say when the call is"):
        day_rota(day_of({**JOB, "days": [{"date": "2026-05-05"}]}, KIT))


def test_a_change_within_a_block_that_rolls_costs_a_take_but_in_its_pause():
    job = {**JOB, "days": [{**JOB["days"][0]}]}
    job["days"][0]["blocks"] = [{**one, "pauses": []} for one in JOB["days"][0]["blocks"]]
    without = day_rota(day_of(job, KIT))
    assert without.spoilt > 0
    assert "within a take" in without.says
    assert the_night().spoilt == 0


def test_carried_out_by_the_circuit_minute_by_minute_nothing_goes_dark():
    day = day_of(JOB, KIT)
    found = rota_of(day.rotation)
    seats = {one.key: one for one in day.seats}

    def by_circuit(seat: Any, pack: str, step: int, left_mwh: float) -> float:
        """What the cells really give at the volts that are left, not on the average of a charge."""
        of = seats[seat.key]
        minutes = range(step * STEP_MIN, (step + 1) * STEP_MIN)
        watts = 0.0
        share = 1 - of.placed.used_share * (1 - left_mwh / day.rotation.pack(pack).full_mwh)
        for minute in minutes:
            for used in of.uses:
                if used.begins <= minute < used.ends and used.is_up:
                    flow = of.feeding.at_rule(max(share, 0.02))
                    drawn = (
                        of.placed.battery.rest_v(share) * flow.drawn_a[of.device] if flow and of.placed.battery else 0
                    )
                    watts += of.watts(used.use) * drawn / of.rolling_w / len(minutes)
        return watts * 1000 * STEP_MIN / 60

    played = carried_out(day.rotation, found, parts=STEP_MIN, drain=by_circuit)
    assert not played.wrong
    # A pack that is emptied to the last is dark some minutes sooner at the volts of its end: never a quarter of an hour.
    assert all(sum(1 for one in played.dark if one.seat == key) <= 2 for key in seats)


def test_a_pack_loses_a_twentieth_a_year():
    assert health_by_age("2024-05-01", "2026-05-04") == pytest.approx(0.9)
    assert health_by_age("2026-05-01", "2026-05-04") == 1.0
    assert health_by_age("1999-01-01", "2026-05-04") == 0.5


def test_after_the_wrap_it_says_what_is_to_be_charged():
    rota = the_night()
    assert rota.overnight_says.startswith("After the wrap 14 packs to charge, 6")


def test_it_says_how_many_packs_it_takes_and_which_stay_in_the_van():
    says = the_night().packs_says
    assert "Pair of gimbal batteries, 196 Wh: 1 pack in the rigs, no spare. Not needed: G-1+G-2." in says
    plate = next(one for one in says if one.startswith("Plate battery, 14.4 V: 3 packs in the rigs, "))
    assert sum(plate.count(tag) for tag in ("P-1", "P-2", "P-3", "P-4")) == 4


def test_a_rig_or_a_kit_that_is_not_here_is_said_and_not_passed_over():
    whole = day_of(JOB, None)
    few = RotaDay(whole.job, whole.number, whole.rigs[:2], None, whole.profiles)
    assert "Rig night-ferry-c is not here: nothing of it is reckoned with." in few.assumed
    assert "Kit ferry-van is not here: reckoned without its packs and chargers." in few.assumed


def test_what_cannot_be_fed_at_all_is_dark_and_no_load_of_nothing():
    class Empty:
        """Feeds that no battery can carry, as in great cold."""

        def __init__(self, feeding: Any) -> None:
            self.supply, self.charging = feeding.supply, feeding.charging

        def curve(self, *_: Any) -> tuple[()]:
            return ()

    seat = next(one for one in day_of(JOB, KIT).seats if one.key == "night-ferry-a/battery")
    dead = replace(seat, feeding=Empty(seat.feeding))  # type: ignore[arg-type]
    assert dead.rolling_w > 0
    assert dead.floor_share == 1.0


def test_what_the_health_of_a_pack_rests_on_is_said():
    says = {one.key: one.health_says for one in the_night().packs}
    assert (says["P-1"], says["P-4"], says["A-14"]) == (
        "by its age",
        "nobody said, taken as new",
        "nobody said, taken as new",
    )
