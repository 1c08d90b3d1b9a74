"""What balance takes: the marks of a heavy rig, and learning from fifty builds."""

from random import Random

from tests.rigs import SHIPPED

from isotact.catalogue import shipped
from isotact.core.calc.centres import Reading, learned
from isotact.core.model.resolved import resolve
from isotact.core.planning import plan
from isotact.core.trades import Planned
from isotact.core.trades.balance.marks import balance_of


def test_marks_of_the_heavy_rig(benchmark):
    catalogue = shipped()
    rig = resolve(SHIPPED["night-ferry-a"], catalogue.profiles, catalogue.cables)
    made = plan(rig)
    planned = Planned(rig, made)

    def marks() -> dict[str, float]:
        balance = balance_of(planned, "ring")
        assert balance is not None
        return balance.marks

    found = benchmark.pedantic(marks, rounds=50, warmup_rounds=5)
    benchmark.extra_info.update(target_ms=2, what=f"balance: {len(found)} marks of a gimbal that carries nine things")


def test_learning_from_fifty_builds(benchmark):
    chance = Random(1)
    things = [f"thing-{number}" for number in range(12)]
    spreads = {key: chance.uniform(3, 20) for key in things}
    readings = []
    for _ in range(50):
        on = chance.sample(things, 8)
        readings.append(Reading(chance.gauss(0, 5), {key: 1 / 8 for key in on}))

    def all_learned() -> float:
        found = [learned(readings, spreads) for _ in range(3)]
        return sum(one.spread_mm(key) + len(one.odd) for one in found for key in one.keys)

    assert benchmark.pedantic(all_learned, rounds=10, warmup_rounds=2) > 0
    benchmark.extra_info.update(target_ms=20, what="centres of twelve things learned from fifty builds, each direction")
