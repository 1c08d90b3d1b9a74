"""The interval of a recipe's rate against scipy's score interval, and a worked example of a textbook."""

import pytest
from scipy.stats import binomtest

from isotact.core.calc.rates import rate


@pytest.mark.parametrize(
    ("worked", "tries"), [(w, n) for n in (1, 2, 3, 5, 10, 37, 400) for w in {0, 1, n // 2, n - 1, n}]
)
def test_the_interval_is_scipys(worked: int, tries: int):
    theirs = binomtest(worked, tries).proportion_ci(confidence_level=0.95, method="wilson")
    ours = rate(worked, tries)
    assert (ours.low, ours.high) == pytest.approx((theirs.low, theirs.high), abs=1e-9)


def test_two_of_three_is_hardly_anything():
    """By hand: z = 1.96, z squared 3.8415. Middle (2/3 + 0.64025) / 2.2805 = 0.5731, half 0.3653."""
    found = rate(2, 3)
    assert found.low == pytest.approx(0.2077, abs=5e-4)
    assert found.high == pytest.approx(0.9385, abs=5e-4)


def test_without_a_try_nothing_is_known_and_nonsense_is_refused():
    assert (rate(0, 0).low, rate(0, 0).high) == (0, 1)
    with pytest.raises(ValueError, match="3 of 2"):
        rate(3, 2)
