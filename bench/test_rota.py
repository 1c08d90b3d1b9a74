"""What rotas take: the demo's night, and days of packs and chargers that grow."""

import pytest
from tests.core.day.test_rota_day import JOB, KIT, day_of

from isotact.core.day.rota import ChargerIs, PackIs, Rotation, Rules, Seat, rota_of

STEPS = 144
"""Twelve hours by five minutes."""


def long_day(packs: int, seats: int, chargers: int) -> Rotation:
    """Twelve hours, a meal in the middle, blocks of an hour, plate packs for loads of 12 to 60 W."""
    watts = (25, 45, 34, 60, 12, 45, 25, 34, 60, 34, 12, 45)
    meal = range(60, 69)
    found = []
    for number in range(seats):
        load = tuple(0 if step in meal else round(watts[number % len(watts)] * 1000 / 12) for step in range(STEPS))
        spoils = tuple(0 if step % 12 == 0 or 60 <= step <= 69 else 1 for step in range(STEPS + 1))
        found.append(Seat(f"seat {number}", "plate", load, spoils, spoils, f"rig {number // 3}", f"pack {number}"))
    every = tuple(PackIs(f"pack {number}", "plate", 83_000, 83_000) for number in range(packs))
    those = tuple(ChargerIs(f"charger {number}", 2, {"plate": 4250}, 70) for number in range(chargers))
    return Rotation(STEPS, tuple(found), every, those, rules=Rules(walk_steps=1))


def test_the_night_of_the_demo(benchmark):
    rotation = day_of(JOB, KIT).rotation
    found = benchmark.pedantic(rota_of, args=(rotation,), rounds=5, warmup_rounds=1)
    what = f"rota of the demo's night: {len(rotation.packs)} packs, {found.cost.changes} changes, {_proven(found)}"
    benchmark.extra_info.update(target_ms=2000, what=what)


@pytest.mark.parametrize(("packs", "seats", "chargers"), [(10, 3, 2), (20, 6, 3), (40, 12, 6), (80, 24, 12)])
def test_a_day_that_grows(benchmark, packs: int, seats: int, chargers: int):
    day = long_day(packs, seats, chargers)
    found = benchmark.pedantic(rota_of, args=(day,), rounds=3, warmup_rounds=1)
    changes = f"{found.cost.changes} changes, {_proven(found)}"
    what = f"rota of 12 h: {packs} packs, {seats} batteries in use, {chargers} chargers: {changes}"
    benchmark.extra_info.update(target_ms=2000 if packs == 40 else None, what=what)


def _proven(found) -> str:
    cost, least = found.cost, found.least
    if cost.ordered[:3] == least.ordered[:3]:
        return "proven"
    return f"{least.changes} at least"
