"""Centre and inertia of boxes, against trimesh."""

import pytest

from isotact.core.calc.moments import Balancing, Mass, box_inertia_kg_m2
from isotact.core.model.gimbals import CARRIED

BOXES = (
    Mass("body", 1800, (0, -130, -45), "plate", size_mm=(130, 170, 110)),
    Mass("lens", 2500, (0, 65, -45), "plate", size_mm=(120, 240, 120)),
    Mass("transmitter", 260, (12, -130, 64), "plate", size_mm=(70, 40, 90)),
)
# trimesh 5.2.0: creation.box of each, its density its mass by its volume; the sum of mass times center_mass over the
# masses, and the diagonal of the sum of moment_inertia_frame about the origin.
CENTRE_MM = (0.6842105263157895, -23.092105263157872, -38.78508771929825)
INERTIA_KG_M2 = {"tilt": 0.07650912666666666, "roll": 0.020441566666666664, "pan": 0.06742477333333334}
BUILD = Balancing(BOXES, (), {axis: frozenset(rides) for axis, rides in CARRIED.items()})


def test_the_centre_of_boxes():
    grams = BUILD.turned_g("tilt")
    assert grams == pytest.approx(4560)
    for along, axis in ((0, "roll"), (1, "tilt"), (2, "tilt")):
        assert BUILD.moment_g_mm(axis, along, {}) / grams == pytest.approx(CENTRE_MM[along], rel=1e-9)


@pytest.mark.parametrize("axis", INERTIA_KG_M2)
def test_the_inertia_of_boxes_about_each_axis(axis: str):
    assert BUILD.inertia_kg_m2(axis, {}) == pytest.approx(INERTIA_KG_M2[axis], rel=1e-9)


def test_a_cube_resists_alike_every_way():
    """m a² / 6, the handbooks' figure for a cube about a line through its middle: 6 kg and 100 mm make 0.01 kg m²."""
    assert box_inertia_kg_m2(6000, (100, 100, 100)) == pytest.approx((0.01, 0.01, 0.01))
