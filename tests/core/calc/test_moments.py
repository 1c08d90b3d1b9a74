"""Balance by arithmetic, held against turning every weight by hand in many small steps."""

from itertools import pairwise
from math import cos, pi, sin
from random import Random

import pytest

from isotact.core.calc.moments import ACROSS, GRAVITY_M_S2, ORDER, Balancing, Mass, Sliding
from isotact.core.model.gimbals import CARRIED

CARRIES = {axis: frozenset(rides) for axis, rides in CARRIED.items()}
PLATE, CAGE, ARM = frozenset({"plate"}), CARRIES["tilt"], CARRIES["roll"]
BUILDS = 300


def drawn(seed: int) -> Balancing:
    """A build of up to a dozen things, on a gimbal with travel for most of them, some of its scales the other way."""
    chance = Random(seed)

    def sign() -> int:
        return chance.choice((1, -1))

    def zero() -> float:
        return float(chance.randint(-30, 30))

    def mass(number: int, rides: str) -> Mass:
        at = (chance.uniform(-60, 60), chance.uniform(-160, 40), chance.uniform(-60, 60))
        return Mass(f"m{number}", chance.uniform(20, 2500), at, rides)

    masses = [mass(number, "plate") for number in range(chance.randint(1, 9))]
    masses += [mass(90, "tilt-cage"), mass(91, "roll-arm"), mass(92, "pan-base")]
    step = chance.choice((0.5, 1.0, 2.0))
    slides = [
        Sliding("plate", "tilt", 1, sign(), PLATE, -250, 250, 5.0, zero=zero()),
        Sliding("knob", "tilt", 1, sign(), CAGE, -20, 20, 0.5, fine=True, zero=zero() / 5),
        Sliding("roll", "roll", 0, sign(), CAGE, -150, 150, step, zero=zero()),
        Sliding("height", "tilt", 2, sign(), PLATE, -150, 150, step, zero=zero()),
        Sliding("pan", "pan", 1, sign(), ARM, -400, 400, step, zero=zero()),
    ]
    return Balancing(tuple(masses), tuple(slides), CARRIES)


def turned_nm(build: Balancing, axis: str, marks: dict[str, float]) -> float:
    """The most torque about an axis while it is turned once round: by the height that all weights gain together."""
    one, other = ACROSS[axis]
    within = ORDER[: ORDER.index(axis) + 1]
    weights = []
    for mass in build.masses:
        if mass.rides not in CARRIES[axis]:
            continue
        at = list(mass.at_mm)
        for slide in build.slides:
            if slide.axis in within and mass.rides in slide.moves:
                at[slide.along] += slide.sign * (marks[slide.key] - slide.zero)
        weights.append((mass.mass_g / 1000, at[one] / 1000, at[other] / 1000))
    steps = 3600
    heights = [
        sum(kg * (x * sin(2 * pi * n / steps) + y * cos(2 * pi * n / steps)) for kg, x, y in weights)
        for n in range(steps + 1)
    ]
    return GRAVITY_M_S2 * max(abs(after - before) for before, after in pairwise(heights)) / (2 * pi / steps)


@pytest.mark.parametrize("seed", range(0, BUILDS, 10))
def test_the_torque_is_what_turning_every_weight_round_takes(seed: int):
    build = drawn(seed)
    marks = {slide.key: Random(seed).uniform(slide.low, slide.high) for slide in build.slides}
    for axis in ORDER:
        assert build.torque_nm(axis, marks) == pytest.approx(turned_nm(build, axis, marks), rel=1e-4, abs=1e-4)


def test_after_the_marks_every_axis_that_can_be_is_in_balance_and_no_mark_is_beyond_its_travel():
    in_balance = 0
    for seed in range(BUILDS):
        build = drawn(seed)
        marks = build.marks()
        for slide in build.slides:
            assert slide.low <= marks[slide.key] <= slide.high
            assert (marks[slide.key] - slide.low) / slide.step == pytest.approx(
                round((marks[slide.key] - slide.low) / slide.step)
            )
        for slide in build.slides:
            pair = [one for one in build.slides if (one.axis, one.along) == (slide.axis, slide.along)]
            at_end = all(marks[one.key] in (one.low, one.high) for one in pair)
            moment = build.moment_g_mm(slide.axis, slide.along, marks)
            # A millimetre of all that slides, or half a step of the finest where that is coarser.
            finest = min(pair, key=lambda one: one.step)
            allowed = build.sliding_g(finest) * max(1.0, finest.step / 2)
            assert at_end or abs(moment) <= allowed, (seed, slide.key)
            in_balance += not at_end
    assert in_balance > 4 * BUILDS


def test_a_weight_by_hand():
    """200 g at 150 mm in front of 1,500 g on the axis: by -(200 x 150) / 1,700 = -17.6 mm, all of it sliding."""
    masses = (Mass("monitor", 200, (0, 150, 0), "plate"), Mass("body", 1500, (0, 0, 0), "plate"))
    slide = Sliding("plate", "tilt", 1, 1, PLATE, -50, 50, 0.1)
    build = Balancing(masses, (slide,), CARRIES)
    assert build.marks()["plate"] == pytest.approx(-17.6)
    # g x 200 g x 150 mm: 0.294 N m before anything slides.
    assert build.torque_nm("tilt", {"plate": 0}) == pytest.approx(0.2942, abs=1e-4)


def test_pan_takes_what_tilt_has_left_it_and_a_scale_that_grows_backwards_is_read_backwards():
    """By hand: tilt puts its 1,000 g over its axis; 300 g of roll motor 100 mm behind: 300 x 100 / 1,300 = 23.1 mm."""
    masses = (Mass("body", 1000, (0, -60, 0), "plate"), Mass("motor", 300, (0, -100, 0), "roll-arm"))
    slides = (
        Sliding("plate", "tilt", 1, -1, PLATE, 0, 100, 0.1, zero=80),
        Sliding("pan", "pan", 1, 1, ARM, 0, 100, 0.1),
    )
    marks = Balancing(masses, slides, CARRIES).marks()
    assert marks == pytest.approx({"plate": 20, "pan": 23.1}, abs=0.051)


def test_what_is_not_known_of_each_place_adds_up_as_squares():
    """By hand: 1,000 g known to 3 mm and 500 g to 8 mm: the root of 3,000² + 4,000² is 5,000 g mm."""
    masses = (Mass("a", 1000, (0, 0, 0), "plate", (0, 3, 0)), Mass("b", 500, (0, 0, 0), "plate", (0, 8, 0)))
    assert Balancing(masses, (), CARRIES).spread_g_mm("tilt", 1) == pytest.approx(5000)


def test_a_coarse_slide_leaves_the_fine_one_in_its_middle_as_near_as_its_steps_allow():
    masses = (Mass("body", 2000, (0, -73.3, 0), "plate"),)
    coarse = Sliding("plate", "tilt", 1, 1, PLATE, 0, 160, 5)
    fine = Sliding("knob", "tilt", 1, 1, CAGE, 0, 20, 0.5, fine=True)
    marks = Balancing(masses, (fine, coarse), CARRIES).marks()
    assert marks == pytest.approx({"plate": 65, "knob": 8.5})


def test_where_nothing_sits_no_scale_has_to_move():
    slide = Sliding("plate", "tilt", 1, 1, PLATE, 0, 160, 5)
    assert Balancing((), (slide,), CARRIES).marks() == {"plate": 0}
