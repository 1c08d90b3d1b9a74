"""Draw new random rigs and hold every promise of the house against them. The same seed draws the same."""

import argparse
import sys

from hypothesis import HealthCheck, Phase, given, seed, settings

sys.path.insert(0, ".")

from tests.core.faults.test_coverage import unexplained
from tests.rigs import Carried
from tests.strategies import mid_rigs, rigs, shaken_rigs

from isotact.core.bench import run, watch
from isotact.core.faults import coverage
from isotact.core.model import ResolvedRig

options = argparse.ArgumentParser()
options.add_argument("--seed", type=int, required=True)
options.add_argument("--rigs", type=int, default=400)
asked = options.parse_args()
print(
    f"seed {asked.seed}, {asked.rigs} small rigs and {asked.rigs // 8} mid-size and {asked.rigs // 2} shaken ones",
    flush=True,
)
DRAWN = {"small": 0, "mid-size": 0, "shaken": 0}


def hold(rig: ResolvedRig) -> None:
    """Sound, needed, stable; every fault breaks its condition, and what needs it falls."""
    done = Carried.out(rig)
    ran = run(rig, done.sheet, film=False, conditions=done.conditions)
    assert {proof.promise for proof in ran.proofs if proof.ok} == set(done.plan.kept), "not sound"
    assert ran.broken == (), f"broken at the end: {ran.broken}"
    for step in done.sheet.steps:
        if not step.care:
            after = set(run(rig, done.sheet, skip={step.id}, film=False).unproven)
            assert after > set(ran.unproven), f"not needed: {step.id}"
    seen = list(watch(rig, done.sheet, done.conditions))
    last = {key: number for number, step in enumerate(done.sheet.steps) for key in step.makes}
    for key, number in last.items():
        assert all(key in holding for _, holding in seen[number:]), f"not stable: {key}"
    for row in coverage(rig, done.plan):
        assert not row.still_holds, f"{row.condition} still holds after {row.fault}"
        assert not row.standing, f"{row.standing} stand without {row.condition} ({row.fault})"
    assert list(unexplained(done)) == []


def draw(name: str, strategy, count: int) -> None:  # type: ignore[no-untyped-def]
    """Hold `count` rigs of one size."""

    @seed(asked.seed)
    @settings(
        max_examples=count, deadline=None, database=None, derandomize=False, suppress_health_check=list(HealthCheck),
        phases=[Phase.generate, Phase.shrink],
    )  # fmt: skip
    @given(strategy)
    def each(rig: ResolvedRig) -> None:
        DRAWN[name] += 1
        hold(rig)

    each()


draw("small", rigs(), asked.rigs)
draw("mid-size", mid_rigs(), asked.rigs // 8)
draw("shaken", shaken_rigs(), asked.rigs // 2)
print(f"{', '.join(f'{count} {name}' for name, count in DRAWN.items())} rigs hold (seed {asked.seed})")
