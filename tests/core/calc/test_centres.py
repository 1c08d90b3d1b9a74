"""Centres learned from marks: do they hold the truth as often as they say, and what do they not tell apart?"""

from random import Random

import numpy as np
import pytest

from isotact.core.calc.centres import READ_MM, Centres, Reading, learned

WORLDS = 200
THINGS = [f"thing-{number}" for number in range(8)]


def world(seed: int, builds: int, read_mm: float = READ_MM) -> tuple[dict[str, float], dict[str, float], list[Reading]]:
    """The truth of eight things, how well each is known, and builds of some of them, each read once."""
    chance = Random(seed)
    spreads = {key: chance.uniform(3, 20) for key in THINGS}
    truth = {key: chance.gauss(0, spreads[key]) for key in THINGS}
    masses = {key: chance.uniform(100, 2500) for key in THINGS}
    readings = []
    for _ in range(builds):
        on = chance.sample(THINGS, chance.randint(2, 6))
        weight = sum(masses[key] for key in on)
        shares = {key: masses[key] / weight for key in on}
        readings.append(Reading(sum(shares[key] * truth[key] for key in on) + chance.gauss(0, read_mm), shares))
    return truth, spreads, readings


@pytest.mark.parametrize("builds", [2, 5, 12])
def test_the_truth_lies_within_the_stated_spread_nineteen_times_in_twenty(builds: int):
    held = []
    for seed in range(WORLDS):
        truth, spreads, readings = world(seed, builds)
        found = learned(readings, spreads) if builds < 8 else Centres(readings, spreads, READ_MM)
        held += [abs(found.mean_mm[key] - truth[key]) <= 1.96 * found.spread_mm(key) for key in found.keys]
    assert 0.92 <= sum(held) / len(held) <= 0.98


def test_so_does_the_next_mark_of_a_build_that_was_never_made():
    held = []
    for seed in range(WORLDS):
        truth, spreads, readings = world(seed, 6)
        chance = Random(-seed - 1)
        shares = {key: 1 / 3 for key in chance.sample(THINGS, 3)}
        mean, spread = learned(readings, spreads).predicted(shares)
        held.append(abs(mean - sum(share * truth[key] for key, share in shares.items())) <= 1.96 * spread)
    assert 0.92 <= sum(held) / len(held) <= 0.98


def test_it_is_what_ridge_regression_gives():
    """numpy.linalg.lstsq on the readings and what was known, each divided by its spread: the same by another way."""
    _, spreads, readings = world(3, 7)
    found = learned(readings, spreads)
    rows = [[one.shares.get(key, 0.0) / READ_MM for key in found.keys] for one in readings]
    rows += [[1 / spreads[key] if key == other else 0.0 for other in found.keys] for key in found.keys]
    wanted, *_ = np.linalg.lstsq(np.array(rows), np.array([one.off_mm / READ_MM for one in readings] + [0.0] * len(found.keys)), rcond=None)  # fmt: skip
    assert [found.mean_mm[key] for key in found.keys] == pytest.approx(list(wanted), abs=1e-9)


def test_two_builds_of_one_proportion_give_the_next_mark_and_not_the_centres():
    """By hand: body and lens, half the weight each, known to 10 mm: what is read is their mean, the rest stays open."""
    halves = {"body": 0.5, "lens": 0.5}
    found = learned([Reading(6.0, halves), Reading(6.2, halves)], {"body": 10.0, "lens": 10.0})
    mean, spread = found.predicted(halves)
    # Known before to 7.1 mm, read twice to 1 mm: within 0.7 mm now.
    assert mean == pytest.approx(6.04, abs=0.03)
    assert spread == pytest.approx(0.703, abs=0.005)
    assert found.spread_mm("body") == pytest.approx(7.1, abs=0.1)
    three = learned([Reading(6.0, halves)] * 2, {"body": 20.0, "lens": 2.0})
    assert three.untold == ["lens"]


def test_another_lens_on_the_same_body_tells_them_apart():
    """The body alone was read: whatever else a build is off by is the lens."""
    readings = [Reading(4.0, {"body": 1.0}), Reading(5.0, {"body": 0.5, "lens": 0.5})]
    found = learned(readings, {"body": 20.0, "lens": 20.0})
    assert found.mean_mm == pytest.approx({"body": 4.0, "lens": 6.0}, abs=0.1)
    assert found.untold == []


def test_a_mark_that_contradicts_the_rest_is_pointed_out():
    truth, spreads, readings = world(11, 7)
    assert learned(readings, spreads).odd == []
    wrong = [*readings[:4], Reading(readings[4].off_mm + 40, readings[4].shares), *readings[5:]]
    [(number, off)] = learned(wrong, spreads).odd
    assert number == 4
    assert off == pytest.approx(40, abs=12)
    assert truth


def test_of_two_that_differ_nobody_says_which_is_wrong():
    alone = {"body": 1.0}
    assert learned([Reading(0.0, alone), Reading(30.0, alone)], {"body": 5.0}).odd == []


@pytest.mark.parametrize("read_mm", [0.5, 4.0])
def test_how_well_a_scale_is_read_is_learned_once_there_are_enough(read_mm: float):
    found = [learned(readings, spreads).read_mm for _, spreads, readings in (world(n, 40, read_mm) for n in range(20))]
    assert np.median(found) == pytest.approx(read_mm, rel=0.45)
    _, spreads, readings = world(1, 7, read_mm)
    assert learned(readings, spreads).read_mm == READ_MM


def test_more_readings_never_make_a_centre_less_certain():
    _, spreads, readings = world(5, 7)
    for count in range(1, 7):
        before, after = (Centres(readings[:n], spreads, READ_MM) for n in (count, count + 1))
        assert all(after.spread_mm(key) <= before.spread_mm(key) + 1e-9 for key in before.keys)
