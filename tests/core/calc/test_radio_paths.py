"""Loss and margin over distance."""

import pytest

from isotact.core.calc.radio_paths import free_space_loss_db, margin_db


def test_twice_as_far_costs_six_decibels():
    assert free_space_loss_db(200, 5.8e9) - free_space_loss_db(100, 5.8e9) == pytest.approx(6.0206, abs=1e-4)
    assert margin_db(200, 100) == pytest.approx(6.0206, abs=1e-4)


def test_there_is_no_margin_at_the_end_of_the_range():
    assert margin_db(150, 150) == 0
    assert margin_db(100, 200) < 0
