"""How likely each hypothesis is after what was seen: single faults, pairs of them, and what is not in the list."""

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from itertools import groupby

import numpy as np

from isotact.core.diagnosis.evidence import (
    MISREAD,
    MISREAD_PROMISE,
    else_likelihood,
    likelihood,
    odd_likelihood,
)
from isotact.core.diagnosis.findings import CURED, STILL, Seen
from isotact.core.diagnosis.hitting_sets import explained_by, minimal_hitting_sets
from isotact.core.diagnosis.table import Table
from isotact.core.trades.symptoms import COMES_AND_GOES, favoured, symptom

ELSE_SHARE = 0.05
"""What is kept for faults that nobody put into the catalogue. Common practice, no source."""
PAIRS = 0.25
"""Two faults at once, beside their product: a rig on which one thing was done in a hurry has another. No source."""
TOUCHED = 4.0
"""How much likelier a fault is where something was changed since it worked. Common practice, no source."""
UNNOTICED = 0.4
"""How often somebody ticks a step that looks otherwise than it should. Common practice, no source."""
LEARNING = 30.0
"""So many finds of one's own count as much as the catalogue's weights (the concentration of the Dirichlet prior)."""
MOST_PAIRS = 4000
"""More pairs than that are too many to weigh while somebody waits; the likeliest stay."""


@dataclass
class Belief:
    """The state of the search.

    `members[n]`: the columns of the table that hypothesis `n` is made of, -1 where there is no second. `share[n]`: its
    probability; `elsewhere`: that of something else. Together they make 1. `mended`: the causes that were cured in
    vain: what is looked at since is looked at without them.
    """

    table: Table
    members: np.ndarray
    share: np.ndarray
    elsewhere: float
    prior: np.ndarray
    mended: set[str] = field(default_factory=set)

    def outcomes(self, row: int) -> np.ndarray:
        """What look `row` shows in each hypothesis now."""
        return _composed(self.table, row, self.members, self.mended)

    def by_cause(self) -> dict[tuple[str, ...], float]:
        """The probability of each set of causes, the likeliest first: however and whenever it came about."""
        found: dict[tuple[str, ...], float] = defaultdict(float)
        causes = self.table.causes
        for (one, other), share in zip(self.members.tolist(), self.share.tolist(), strict=True):
            names = tuple(sorted({causes[one]} | ({causes[other]} if other >= 0 else set())))
            found[names] += share
        return dict(sorted(found.items(), key=lambda item: (-item[1], item[0])))


def prior_of(table: Table, finds: Mapping[str, int]) -> np.ndarray:
    """The probability of each single hypothesis before anything is seen.

    By the catalogue's weights, drawn towards what was found here: kinds of fault follow a Dirichlet distribution whose
    mean is the catalogue's and whose concentration is `LEARNING`; `finds` says how often each kind was found.
    """
    weights = np.array([one.weight for one in table.hypotheses], dtype=float)
    # One cause that may have crept in at two moments is no likelier for it.
    times: dict[str, int] = defaultdict(int)
    for one in table.hypotheses:
        times[one.cause] += 1
    weights /= np.array([times[one.cause] for one in table.hypotheses], dtype=float)
    total = weights.sum() or 1.0
    by_kind: dict[str, float] = defaultdict(float)
    for one, weight in zip(table.hypotheses, weights, strict=True):
        by_kind[one.kind] += weight / total
    found = sum(finds.get(kind, 0) for kind in by_kind)
    learned = {
        kind: (LEARNING * share + finds.get(kind, 0)) / (LEARNING + found) / (share or 1.0)
        for kind, share in by_kind.items()
    }
    touched = set(table.situation.standing.changed)
    factors = [learned[one.kind] * (TOUCHED if one.about & touched else 1.0) for one in table.hypotheses]
    prior: np.ndarray = weights * np.array(factors) * UNNOTICED ** np.minimum(table.noticed, 5)
    return prior / (prior.sum() or 1.0)


def believe(table: Table, seen: Sequence[Seen], finds: Mapping[str, int] | None = None) -> Belief:
    """What to believe after all that was seen, in the order in which it was. What nobody could tell says nothing."""
    prior = prior_of(table, finds or {})
    pairs = _pairs(table, seen, prior)
    members = np.array([(n, -1) for n in range(len(prior))] + pairs, dtype=np.int32).reshape(-1, 2)
    both = np.array([PAIRS * prior[a] * prior[b] for a, b in pairs], dtype=float)
    weight = np.concatenate([prior, both]) * (1.0 - ELSE_SHARE)
    belief = Belief(table, members, weight, ELSE_SHARE, prior)
    if table.situation.standing.differs is not None:
        odd = table.at_step[members[:, 0]] | (table.at_step[members[:, 1]] & (members[:, 1] >= 0))
        belief.share = belief.share * np.where(odd, 1 - MISREAD, MISREAD)
        belief.elsewhere *= 0.5  # nothing is known of which steps such a fault shows at
    for one in seen:
        _weigh(belief, one)
    total = belief.share.sum() + belief.elsewhere
    belief.share /= total
    belief.elsewhere /= total
    return belief


def _weigh(belief: Belief, one: Seen) -> None:
    """Take one answer into account."""
    table = belief.table
    if one.answer == "cannot-tell":
        return
    head, _, rest = one.look.partition(":")
    if head == "cure":
        _weigh_cure(belief, rest, one.saw == CURED)
        return
    if head == "said":
        belief.share = belief.share * _said(table, rest)[belief.members[:, 0]]
        return
    row = table.place.get(one.look)
    if row is None:
        return  # of a device that is gone, or a promise that nobody asks for any more
    look, outcome = table.looks[row], belief.outcomes(row)
    misread = MISREAD_PROMISE if look.is_promise else MISREAD
    if one.answer != "seen":
        _take(belief, odd_likelihood(outcome, 0, misread), is_sound=False, others=1, is_promise=look.is_promise)
        if one.answer == "now-and-then":
            belief.share = belief.share * _said(table, COMES_AND_GOES)[belief.members[:, 0]]
        return
    answered = look.words.index(one.saw) if one.saw in look.words else len(look.words)
    likely = likelihood(outcome, answered, len(look.words), misread)
    _take(belief, likely, is_sound=answered == 0, others=len(look.words), is_promise=look.is_promise)


def _take(belief: Belief, likely: np.ndarray, is_sound: bool, others: int, is_promise: bool) -> None:
    """Bayes' rule for one answer."""
    total = float(belief.share.sum()) or 1.0
    after = belief.share * likely
    belief.elsewhere *= else_likelihood(is_sound, others, is_promise, listed=float(after.sum()) / total)
    belief.share = after


def _said(table: Table, key: str) -> np.ndarray:
    """How much each hypothesis is favoured by what was said unasked; 1 for words that nobody knows."""
    found = symptom(key)
    if found is None:
        return np.ones(len(table.hypotheses))
    return np.array([favoured(found, one.kind, one.has_teeth) for one in table.hypotheses])


def _weigh_cure(belief: Belief, cause: str, works: bool) -> None:
    """A cure that was carried out: what it mends is gone since, and where that was all there was, it works."""
    causes = np.array([*belief.table.causes, ""])
    first, second = causes[belief.members[:, 0]] == cause, causes[belief.members[:, 1]] == cause
    cured = (first & (belief.members[:, 1] < 0)) | (first & second)
    belief.share = belief.share * np.where(cured == works, 1.0 - MISREAD, MISREAD)
    # Not one half: most cures of what is not broken change nothing.
    belief.elsewhere *= 0.1 if works else 0.9
    belief.mended.add(cause)


def _composed(table: Table, row: int, members: np.ndarray, mended: set[str]) -> np.ndarray:
    """What look `row` shows in each hypothesis: of two faults that which is seen, -1 where either may be."""
    base = table.base[row]
    outcome = table.outcome[row]
    if mended:
        outcome = np.where([cause in mended for cause in table.causes], base, outcome)
    one = outcome[members[:, 0]]
    other = np.where(members[:, 1] >= 0, outcome[members[:, 1]], base)
    both = np.where(one == base, other, one)
    return np.where((one != base) & (other != base) & (one != other), -1, both)


def _pairs(table: Table, seen: Sequence[Seen], prior: np.ndarray) -> list[tuple[int, int]]:
    """Pairs of columns that explain together what neither explains alone: minimal hitting sets of what was odd.

    Each look that was not as it should be is a conflict: one of those faults must be there that show so at it.
    """
    conflicts: list[frozenset[str]] = []
    mended: set[str] = set()
    single = _one_column_each(table)
    for one in seen:
        head, _, cause = one.look.partition(":")
        if head == "cure" and one.saw == STILL:
            mended.add(cause)
            failing = [conflict - {cause} for conflict in conflicts]
            conflicts += [conflict for conflict in failing[:1] if conflict]
            continue
        row = table.place.get(one.look)
        if row is None or one.answer == "cannot-tell":
            continue
        look, outcome = table.looks[row], table.outcome[row]
        if one.answer == "seen" and (one.saw not in look.words or look.words.index(one.saw) == 0):
            continue
        shown = outcome != 0 if one.answer != "seen" else outcome == look.words.index(one.saw)
        members = frozenset(cause for cause, column in single.items() if shown[column] and cause not in mended)
        if members:
            conflicts.append(members)
    if len(conflicts) < 2:
        return []
    pairs = [
        (single[one], single[other])
        for one, other in map(sorted, explained_by(minimal_hitting_sets(conflicts, largest=2), 2))
        # Two ways of breaking one condition cannot both be so: a setting has one value.
        if one.rpartition("/")[0] != other.rpartition("/")[0]
    ]
    pairs.sort(key=lambda pair: (-prior[pair[0]] * prior[pair[1]], pair))
    return pairs[:MOST_PAIRS]


def _one_column_each(table: Table) -> dict[str, int]:
    """One column for each cause: that which came since, where there is one."""
    columns = sorted(enumerate(table.hypotheses), key=lambda item: (item[1].cause, item[1].at is not None))
    return {cause: next(iter(group))[0] for cause, group in groupby(columns, key=lambda item: item[1].cause)}
