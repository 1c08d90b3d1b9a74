"""The finder put to the trial: every single fault, pairs, wrong answers, faults that it does not know.

    python tools/finder_trials.py [RIG ...]

Its figures stand in docs/finder.md.

Beside it three people's ways over the same table of outcomes, and a bound that no way of looking can beat (`bound`).
"""

import sys
from collections.abc import Callable, Iterator
from concurrent.futures import ProcessPoolExecutor
from functools import cache, partial
from itertools import combinations
from pathlib import Path
from random import Random
from statistics import mean

import numpy as np

sys.path.insert(0, str(Path(__file__).parents[1]))

from tests.rigs import SHIPPED, carried
from tests.searches import fallen, faults, search, shown, table_of, twins

from isotact.core.diagnosis import STILL, Seen, Standing
from isotact.core.diagnosis.belief import prior_of
from isotact.core.diagnosis.cures import mended_by
from isotact.core.diagnosis.finder import find
from isotact.core.diagnosis.findings import answered
from isotact.core.diagnosis.next_look import PROOF_S, cost_s
from isotact.core.diagnosis.table import Table
from isotact.core.trades.suspicion import suspicion_rank

PAIR_RIGS = ("night-ferry-b", "night-ferry-c", "two-drivers", "serial-body", "single-port")
WITHIN = 12
"""Within so many looks it should say that it does not know."""
SMALL = 6
"""Groups of so few are searched whole for the bound."""
MIDDLING = 30
"""Groups of so few are searched two looks deep; larger ones one: the number of ways grows by a hundred with each."""


class Outcomes:
    """A table as the people's ways and the bound see it: each choice with what it shows and costs, nothing noisy."""

    def __init__(self, table: Table) -> None:
        self.table = table
        self.prior = prior_of(table, {})
        asked = [row for row, look in enumerate(table.looks) if look.is_asked]
        self.shows = [table.outcome[row] for row in asked]
        self.costs = [cost_s(table.looks[row]) for row in asked]
        self.sound = [int(table.base[row]) for row in asked]
        self.cures: list[str] = [""] * len(self.costs)
        for cause in dict.fromkeys(table.causes):
            self.shows.append(mended_by(table, cause).astype(int))
            self.costs.append(table.hypotheses[table.causes.index(cause)].mend_s + PROOF_S)
            self.sound.append(0)
            self.cures.append(cause)

    def parts(self, choice: int, left: tuple[int, ...]) -> dict[int, tuple[int, ...]]:
        found: dict[int, list[int]] = {}
        for one in left:
            found.setdefault(int(self.shows[choice][one]), []).append(one)
        return {word: tuple(some) for word, some in found.items()}

    def cost(self, choice: int, parts: dict[int, tuple[int, ...]]) -> float:
        """Its seconds, times the share of those whom it costs: the right cure has to be done in any case."""
        total = sum(self.mass(some) for some in parts.values())
        seconds = [
            float(self.prior[one]) * self.spent_s(choice, one, word) for word, some in parts.items() for one in some
        ]
        return sum(seconds) / (total or 1.0)

    def spent_s(self, choice: int, one: int, word: int) -> float:
        """What `choice` costs where `one` is so: of a cure that works only what it takes beyond the least."""
        if not self.cures[choice] or word != 1:
            return self.costs[choice]
        return max(self.costs[choice] - PROOF_S - self.table.hypotheses[one].mend_s, 0.0)

    def mass(self, left: tuple[int, ...]) -> float:
        return float(self.prior[list(left)].sum())

    def is_over(self, left: tuple[int, ...]) -> bool:
        return len({self.table.causes[one] for one in left} - twins(self.table, left[0])) == 0


def groups(table: Table) -> list[tuple[int, ...]]:
    """The faults by what the people say who wait: those that make the same promises fail are told apart by looking."""
    found: dict[tuple[str, ...], list[int]] = {}
    for column in faults(table):
        found.setdefault(tuple(one.look for one in fallen(table, (column,))), []).append(column)
    return [tuple(some) for some in found.values()]


def walked(
    outcomes: Outcomes, left: tuple[int, ...], truth: int, way: Callable[[Outcomes, tuple[int, ...]], int]
) -> float:
    """Seconds until `truth` is known, by a way of choosing."""
    spent = 0.0
    while not outcomes.is_over(left):
        choice = way(outcomes, left)
        if choice < 0:
            return spent
        parts = outcomes.parts(choice, left)
        shown = int(outcomes.shows[choice][truth])
        spent += outcomes.spent_s(choice, truth, shown)
        if outcomes.cures[choice] and shown == 1:
            return spent
        left = parts[shown]
    return spent


def by_the_handbook(outcomes: Outcomes, left: tuple[int, ...]) -> int:
    """The crew's order of suspicion: what is suspected first is looked at, the quickest way there is."""
    order = sorted(left, key=lambda one: (suspicion_rank(outcomes.table.hypotheses[one].kind), one))
    return _singling_out(outcomes, order, left)


def likeliest_first(outcomes: Outcomes, left: tuple[int, ...]) -> int:
    """What happens most often is looked at first."""
    return _singling_out(outcomes, sorted(left, key=lambda one: (-outcomes.prior[one], one)), left)


def _singling_out(outcomes: Outcomes, order: list[int], left: tuple[int, ...]) -> int:
    for suspect in order:
        telling = [
            choice
            for choice in range(len(outcomes.shows))
            if outcomes.shows[choice][suspect] != outcomes.sound[choice] and len(outcomes.parts(choice, left)) > 1
        ]
        if telling:
            return min(telling, key=lambda choice: (outcomes.costs[choice], choice))
    return _halving(outcomes, left)


def _halving(outcomes: Outcomes, left: tuple[int, ...]) -> int:
    """Half-splitting: the look that leaves most evenly, however long it takes; a cure where no look tells anything."""
    best, found = 1.0, -1
    for choice in range(len(outcomes.shows)):
        if outcomes.cures[choice] and found >= 0:
            return found
        parts = outcomes.parts(choice, left)
        if len(parts) > 1:
            largest = max(map(outcomes.mass, parts.values())) / outcomes.mass(left)
            if largest < best - 1e-9:
                best, found = largest, choice
    return found


WAYS = {"handbook's order": by_the_handbook, "half-splitting": _halving, "likeliest first": likeliest_first}


def bound(outcomes: Outcomes, left: tuple[int, ...], depth: int = 2) -> float:
    """Seconds below which no way of choosing can come, on average, for telling `left` apart.

    A search has to gain the entropy of what it tells apart. A look that is made where share p of the cases are gains
    at most the entropy of its outcomes within the best such share, by the concavity of entropy, and costs its seconds
    times p: the cheapest bits first is a lower bound (a fractional knapsack). It is drawn closer by trying every first
    look, and every second, and, where few are left, all of them: the least of these is a bound as well.
    """

    @cache
    def least(left: tuple[int, ...], depth: int) -> float:
        if outcomes.is_over(left):
            return 0.0
        if depth == 0 and len(left) > SMALL:
            return _knapsack(outcomes, left)
        best = float("inf")
        total, floor = outcomes.mass(left), _knapsack(outcomes, left)
        for choice in range(len(outcomes.shows)):
            parts = outcomes.parts(choice, left)
            if len(parts) < 2:
                continue
            spent = outcomes.cost(choice, parts)
            if spent >= best:
                continue
            ends = [some for word, some in parts.items() if not (outcomes.cures[choice] and word == 1)]
            spent += sum(outcomes.mass(some) / total * _knapsack(outcomes, some) for some in ends)
            if spent >= best:
                continue
            spent = outcomes.cost(choice, parts)
            spent += sum(outcomes.mass(some) / total * least(some, max(depth - 1, 0)) for some in ends)
            best = min(best, spent)
        return max(floor, best) if best < float("inf") else 0.0

    return least(left, depth)


def _entropy(masses: np.ndarray) -> float:
    part = masses[masses > 0] / masses.sum()
    return float(-(part * np.log2(part)).sum())


def _knapsack(outcomes: Outcomes, left: tuple[int, ...]) -> float:
    known = _KNOWN.setdefault(id(outcomes), {})
    if left not in known:
        known[left] = _cheapest_bits(outcomes, left)
    return known[left]


_KNOWN: dict[int, dict[tuple[int, ...], float]] = {}


def _cheapest_bits(outcomes: Outcomes, left: tuple[int, ...]) -> float:
    total = outcomes.mass(left)
    classes: dict[frozenset[str], float] = {}
    for one in left:
        key = frozenset(twins(outcomes.table, one))
        classes[key] = classes.get(key, 0.0) + float(outcomes.prior[one]) / total
    need = _entropy(np.array(list(classes.values())))
    pieces: list[tuple[float, float, float]] = []
    for choice in range(len(outcomes.shows)):
        masses = np.array([outcomes.mass(some) / total for some in outcomes.parts(choice, left).values()])
        if len(masses) < 2:
            continue
        free = outcomes.mass(outcomes.parts(choice, left).get(1, ())) / total if outcomes.cures[choice] else 0.0
        gained = spent = 0.0
        for cap in np.linspace(0.0, float(masses.max()), 13)[1:]:
            capped = np.minimum(masses, cap)
            share = float(capped.sum())
            bits, cost = share * _entropy(capped), outcomes.costs[choice] * max(share - min(free, float(cap)), 0.0)
            if bits > gained:
                pieces.append((bits - gained, max(cost - spent, 0.0), (cost - spent) / (bits - gained)))
                gained, spent = bits, max(cost, spent)
    seconds = 0.0
    for bits, cost, _ in sorted(pieces, key=lambda piece: piece[2]):
        if need <= 1e-9:
            break
        part = min(1.0, need / bits)
        seconds, need = seconds + part * cost, need - part * bits
    return seconds


def singles(rig_id: str, standing: Standing = Standing()) -> dict[str, float]:  # noqa: B008
    """Every single fault of a rig: how many were found, and the expected seconds of each way, weighed by the prior."""
    table = table_of(rig_id, standing)
    outcomes = Outcomes(table)
    row = {
        "faults": 0.0,
        "right": 0.0,
        "looks": 0.0,
        "first": 0.0,
        "unknown": 0.0,
        "finder": 0.0,
        "bound": 0.0,
        "mass": 0.0,
        **dict.fromkeys(WAYS, 0.0),
    }
    for group in groups(table):
        mass = outcomes.mass(group)
        row["mass"] += mass
        row["bound"] += mass * bound(outcomes, group, 2 if len(group) <= MIDDLING else 1)
        for column in group:
            trail = search(table, (column,))
            row["faults"] += 1
            row["right"] += trail.is_mended
            row["looks"] += trail.looks
            row["first"] += bool(twins(table, column) & set(trail.finding.causes[0].ids))
            row["unknown"] += trail.said_unknown > 0
            row["finder"] += float(outcomes.prior[column]) * trail.seconds
            for name, way in WAYS.items():
                row[name] += float(outcomes.prior[column]) * walked(outcomes, group, column, way)
    for name in ("finder", "bound", *WAYS):
        row[name] /= row["mass"] or 1.0
    return row


def half_built(rig_id: str) -> dict[str, float]:
    """The same once everything but the proofs was done, so that a fault may have crept in at its step."""
    steps = tuple(step.id for step in carried(rig_id).sheet.steps if step.act.proves is None)
    return singles(rig_id, Standing(done=steps))


def pairs(rig_id: str) -> tuple[int, int]:
    """Forty drawn pairs: how many are mended in the end, or the true ones among the final three."""
    table, draw = table_of(rig_id), Random(rig_id)
    every = [pair for pair in combinations(list(faults(table)), 2) if len({table.causes[one] for one in pair}) == 2]
    right = 0
    drawn = draw.sample(every, min(40, len(every)))
    for pair in drawn:
        trail = search(table, pair)
        held = {one for cause in trail.finding.causes[:3] for one in cause.ids}
        held |= {one.look.removeprefix("cure:") for one in trail.seen if one.look.startswith("cure:")}
        right += trail.is_mended or all(twins(table, one) & held for one in pair)
    return right, len(drawn)


def noisy(rig_id: str) -> tuple[int, int, float]:
    """One answer in ten wrong: how many are found all the same, and how many times the looks it takes."""
    table, right, often, seldom = table_of(rig_id), 0, 0, 0
    columns = list(faults(table))[::2]
    for column in columns:
        trail = search(table, (column,), wrong=0.1, seed=column)
        right += trail.is_mended
        often += trail.looks
        seldom += search(table, (column,)).looks
    return right, len(columns), often / max(seldom, 1)


def unlisted(rig_id: str) -> tuple[int, int]:
    """A fault of which the finder knows nothing: how often it says so within twelve looks, and never names another.

    Whatever would mend it by the way is taken out of the list as well: else it would be found by another name.
    """
    whole, said = table_of(rig_id), 0
    columns = list(faults(whole))[::3]
    for column in columns:
        known = dict.fromkeys(whole.causes)
        gone = twins(whole, column) | {cause for cause in known if mended_by(whole, cause)[column]}
        keep = [other for other, cause in enumerate(whole.causes) if cause not in gone]
        lesser = Table(
            situation=whole.situation,
            looks=whole.looks,
            hypotheses=[whole.hypotheses[other] for other in keep],
            worlds=[whole.worlds[other] for other in keep],
            outcome=whole.outcome[:, keep],
            base=whole.base,
            noticed=whole.noticed[keep],
            at_step=whole.at_step[keep],
        )
        said += _says_so(lesser, whole, column)
    return said, len(columns)


def _says_so(lesser: Table, whole: Table, column: int) -> bool:
    """Whether it says so within twelve looks and cures, and names nothing in as many after that."""
    seen, has_said = fallen(whole, (column,)), False
    for number in range(2 * WITHIN):
        finding = find(lesser, seen)
        if finding.status == "found" or (number > WITHIN and not has_said):
            return False
        has_said |= finding.status == "not-in-the-list"
        if not finding.next:
            break
        one = finding.next[0]
        if one.is_cure:
            saw = STILL
        else:
            row = whole.place[one.id]
            saw = whole.looks[row].words[shown(whole, row, (column,))]
        seen = answered(seen, Seen(look=one.id, saw=saw))
    return has_said


def table_lines(rows: dict[str, dict[str, float]]) -> Iterator[str]:
    """The rows as a table for the docs."""
    yield f"| rig | faults | found | looks | finder | bound | ratio | {' | '.join(WAYS)} |"
    yield "|---|---|---|---|---|---|---|---|---|---|"
    for rig_id, row in rows.items():
        ways = " | ".join(f"{row[name]:.0f} s" for name in WAYS)
        yield (
            f"| {rig_id} | {row['faults']:.0f} | {row['right']:.0f} | {row['looks'] / max(row['faults'], 1):.1f} "
            f"| {row['finder']:.0f} s | {row['bound']:.0f} s | {row['finder'] / (row['bound'] or 1):.2f} | {ways} |"
        )


def main(wanted: list[str]) -> None:
    """Print everything, rig by rig where that tells something."""
    rigs = wanted or list(SHIPPED)
    with ProcessPoolExecutor(2) as pool:
        for title, trial in (("From a finished sheet", singles), ("Before the proofs", half_built)):
            rows = dict(zip(rigs, pool.map(partial(trial), rigs), strict=True))
            print(f"\n{title}\n")
            print("\n".join(table_lines(rows)))
            print(
                f"\nNamed first: {sum(row['first'] for row in rows.values()):.0f}; said in between that it does not "
                f"know: {sum(row['unknown'] for row in rows.values()):.0f}"
            )
            print(
                f"\nAll: {sum(row['right'] for row in rows.values()):.0f} of "
                f"{sum(row['faults'] for row in rows.values()):.0f} found; mean of rigs: "
                + ", ".join(
                    f"{name} {mean(row[name] for row in rows.values()):.0f} s" for name in ("finder", "bound", *WAYS)
                ),
                flush=True,
            )
        some = [rig for rig in PAIR_RIGS if rig in rigs] or rigs
        for title, found in (("Pairs", list(pool.map(pairs, some))), ("Unlisted", list(pool.map(unlisted, rigs)))):
            print(f"{title}: {sum(one for one, _ in found)} of {sum(of for _, of in found)}", flush=True)
        found = list(pool.map(noisy, rigs))
        print(
            f"One answer in ten wrong: {sum(one for one, _, _ in found)} of {sum(of for _, of, _ in found)}, "
            f"{mean(times for _, _, times in found):.2f} times the looks"
        )


if __name__ == "__main__":
    main(sys.argv[1:])
