"""Lenses, bodies, mount adapters and motors against a search through every way to put them together.

The search knows mounts by name, that one thing sits on a mount, that one motor turns one ring and one knob works one
motor: common practice, no source. It shares nothing with the planner but the names of the profiles.
"""

from collections.abc import Iterator
from itertools import combinations, permutations

from hypothesis import given, settings
from hypothesis import strategies as st

from isotact.core.model import ResolvedRig
from isotact.core.planning import plan_only
from tests.core.planning.test_feeds import FOCUS, rig

BODIES = {"cine-body-large-panel": "PL", "mirrorless-usb-c-full-hdmi": "bayonet"}
LENSES = {"lens-cine-pl": "PL", "lens-cine-zoom-pl": "PL", "lens-stills-ring": "bayonet"}


def build(bodies: list[str], lenses: list[str], adapters: int, motors: int, weights: list[int]) -> ResolvedRig:
    """Every lens is promised focus from a knob of its own; nothing is short but what sits on what, and motors."""
    devices = {f"body-{n}": one for n, one in enumerate(bodies)} | {f"lens-{n}": one for n, one in enumerate(lenses)}
    devices |= {f"adapter-{n}": "lens-mount-adapter" for n in range(adapters)}
    devices |= {f"motor-{n}": "motor-with-driver" for n in range(motors)}
    devices |= {f"hand-{n}": "hand-unit-one-axis" for n in range(len(lenses))}
    devices |= {f"battery-{n}": "plate-battery" for n in range(len(bodies) + motors)}
    wanted = [
        {
            **FOCUS,
            "id": f"focus-{n}",
            "at": {"device": f"hand-{n}", "surface": "knob"},
            "to": f"lens-{n}",
            "weight": weight,
        }
        for n, weight in zip(range(len(lenses)), weights, strict=True)
    ]
    return rig(devices, ["tap-power-2-50"] * motors, wanted)


def seats(bodies: list[str], adapters: int) -> Iterator[list[str]]:
    """The mounts that are free for lenses, for each choice of bodies that wear an adapter from PL to bayonet."""
    bayonets = [number for number, one in enumerate(bodies) if BODIES[one] == "bayonet"]
    for many in range(min(adapters, len(bayonets)) + 1):
        for adapted in combinations(bayonets, many):
            yield ["PL" if number in adapted else BODIES[one] for number, one in enumerate(bodies)]


def most(bodies: list[str], lenses: list[str], adapters: int, motors: int, weights: list[int]) -> int:
    """The greatest weight of lenses that can all sit somewhere and be turned at once."""
    best = 0
    for free in seats(bodies, adapters):
        for many in range(1, min(motors, len(lenses), len(free)) + 1):
            for chosen in combinations(range(len(lenses)), many):
                if any(
                    all(LENSES[lenses[one]] == mount for one, mount in zip(chosen, placed, strict=True))
                    for placed in permutations(free, many)
                ):
                    best = max(best, sum(weights[one] for one in chosen))
    return best


@settings(max_examples=40)
@given(st.data())
def test_as_many_lenses_are_turned_as_any_way_of_putting_them_together_allows(data: st.DataObject):
    bodies = data.draw(st.lists(st.sampled_from(sorted(BODIES)), min_size=1, max_size=2), label="bodies")
    lenses = data.draw(st.lists(st.sampled_from(sorted(LENSES)), min_size=1, max_size=3), label="lenses")
    adapters, motors = data.draw(st.integers(0, 2), label="adapters"), data.draw(st.integers(0, 3), label="motors")
    weights = data.draw(st.lists(st.integers(1, 9), min_size=len(lenses), max_size=len(lenses)), label="weights")
    asked = build(bodies, lenses, adapters, motors, weights)
    kept = {*plan_only(asked).kept}
    weight = sum(promise.weight for promise in asked.rig.promises if promise.id in kept)
    assert weight == most(bodies, lenses, adapters, motors, weights)


def test_the_search_itself_on_a_case_by_hand():
    """One bayonet body: its own lens or, by the adapter, the cine lens; never both. Of two PL lenses the dearer."""
    both = ["lens-cine-pl", "lens-stills-ring"]
    bayonet, panel = "mirrorless-usb-c-full-hdmi", "cine-body-large-panel"
    assert most([bayonet], both, 0, 2, [9, 2]) == 2
    assert most([bayonet], both, 1, 2, [9, 2]) == 9
    assert most([bayonet, panel], both, 0, 2, [9, 2]) == 11
    assert most([bayonet, panel], both, 1, 1, [9, 2]) == 9
    assert most([panel], ["lens-cine-pl", "lens-cine-zoom-pl"], 1, 2, [3, 4]) == 4
