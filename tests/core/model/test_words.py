"""Numbers that are said beside their limits."""

import pytest

from isotact.core.model.words import told_apart


@pytest.mark.parametrize(
    ("value", "limit", "said"),
    [
        (0.985, 1.0, "0.98"),  # an hour, short by a minute
        (2.9996, 3.0, "3.000"),  # by a second: then it is all the same
        (2.4, 3.0, "2.4"),
        (3.0, 3.0, "3.0"),
        (2.04, 2.0, "2.04"),  # forty grams over
        (7.32, 6.5, "7.3"),
        (0.04, 0.0, "0.04"),
    ],
)
def test_a_number_shows_on_which_side_of_its_limit_it_is(value: float, limit: float, said: str):
    assert told_apart(value, limit) == said
