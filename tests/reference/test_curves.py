"""A curve of ours against the piecewise linear interpolation of another library.

Source: numpy.interp (numpy 2), which is straight between points and level beyond the ends.
"""

import numpy
import pytest
from hypothesis import given
from hypothesis import strategies as st

from isotact.core.model.measures import Curve

_PLACES = st.lists(st.integers(-1000, 1000), min_size=2, max_size=12, unique=True).map(sorted)


@given(_PLACES, st.lists(st.floats(-100, 100), min_size=12, max_size=12), st.floats(-2000, 2000))
def test_it_reads_as_numpy_interpolates(places: list[int], figures: list[float], x: float):
    curve = Curve(points=list(zip(map(float, places), figures, strict=False)))
    assert curve.at(x) == pytest.approx(float(numpy.interp(x, places, figures[: len(places)])), abs=1e-6)
