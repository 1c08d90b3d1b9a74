"""Depth of field: where it begins and ends, and what is refused."""

import pytest

from isotact.core.calc.optics import depth_of_field


def test_it_holds_the_distance_and_grows_when_stopped_down():
    open_, closed = depth_of_field(50, 2.8, 3000), depth_of_field(50, 5.6, 3000)
    assert open_.near_mm < 3000 < (open_.far_mm or 0)
    assert (closed.total_mm or 0) > (open_.total_mm or 0)


def test_from_the_hyperfocal_distance_on_it_has_no_end():
    far = depth_of_field(35, 2.8, 20_000)
    assert far.far_mm is None
    assert far.total_mm is None
    at = depth_of_field(35, 2.8, far.hyperfocal_mm)
    assert at.near_mm == pytest.approx(far.hyperfocal_mm / 2, rel=0.01)


def test_a_lens_does_not_focus_inside_its_focal_length():
    with pytest.raises(ValueError, match="found 40 mm; a 50 mm lens focuses beyond its focal length"):
        depth_of_field(50, 2.8, 40)
