"""What power takes: the feed trees of a day, and circuits that grow."""

from random import Random

import pytest

from bench.rigs import cameras
from isotact.core.calc.volts import Cell, Taking, Wire, flowing
from isotact.core.planning import plan
from isotact.core.questions import feed_tree


def test_feed_trees_of_four_cameras(benchmark):
    rigs, _ = cameras(4)
    plans = [plan(rig) for rig in rigs]
    trees = benchmark.pedantic(
        lambda: [feed_tree(rig, made) for rig, made in zip(rigs, plans, strict=True)], rounds=20, warmup_rounds=3
    )
    devices, batteries = (sum(len(getattr(tree, name)) for tree in trees) for name in ("devices", "batteries"))
    what = f"feed trees of a day of four cameras: {devices} devices, the curves of {batteries} batteries"
    benchmark.extra_info.update(target_ms=10, what=what)


@pytest.mark.parametrize(("loads", "target_ms"), [(100, None), (250, None), (500, 100), (1000, None)])
def test_a_circuit_that_grows(benchmark, loads: int, target_ms: int | None):
    chance = Random(1)
    wires = [Wire(f"w{n}", f"n{chance.randrange(max(0, n - 40), n)}", f"n{n}", 0.001) for n in range(1, loads)]
    taken = {f"n{n}": Taking(watts=200 / loads) for n in range(1, loads)}
    found = benchmark.pedantic(flowing, args=([Cell("n0", 14.8, 0.001)], wires, taken), rounds=20, warmup_rounds=2)
    assert found is not None
    benchmark.extra_info.update(target_ms=target_ms, what=f"a circuit of {loads} loads on one battery solved")
