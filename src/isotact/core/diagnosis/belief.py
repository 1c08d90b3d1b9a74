"""How likely each hypothesis is after what was seen: single faults, pairs of them, and what is not in the list."""

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np

from isotact.core.diagnosis.cures import mended_by
from isotact.core.diagnosis.evidence import (
    MISREAD,
    MISREAD_PROMISE,
    else_likelihood,
    likelihood,
    odd_likelihood,
)
from isotact.core.diagnosis.findings import CURED, Seen
from isotact.core.diagnosis.pairs import pairs_of
from isotact.core.diagnosis.table import Table
from isotact.core.trades.symptoms import COMES_AND_GOES, favoured, symptom

ELSE_SHARE = 0.1
"""What is kept for faults that nobody put into the catalogue. Chosen by trial."""
PAIRS = 0.25
"""Two faults at once, beside their product: a rig on which one thing was done in a hurry has another. No source."""
TOUCHED = 4.0
"""How much likelier a fault is where something was changed since it worked. Common practice, no source."""
UNNOTICED = 0.4
"""How often somebody ticks a step that looks otherwise than it should. Common practice, no source."""
LEARNING = 30.0
"""So many finds of one's own count as much as the catalogue's weights (the concentration of the Dirichlet prior)."""
UNSAID = 0.35
"""How often nothing is said of a second promise that fails as well: it was not tried yet. No source."""
CURE_MISREAD = 0.03
"""How often a cure is said to help, or not to, and it is the other way: a promise is worked to see. No source."""
BY_THE_WAY = 0.2
"""How often a cure does not mend what its steps would mend by the way: somebody left one out. No source."""
AGAIN_MISREAD = 0.02
"""How often an answer is not what is there where two looks in a row gave the same: a doubt that was gone into."""


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

    @cached_property
    def left(self) -> list[tuple[str, ...]]:
        """For each hypothesis the causes that are still to be mended; none where all of it was mended in vain."""
        causes = self.table.causes
        return [tuple(sorted({causes[n] for n in pair if n >= 0} - self.mended)) for pair in self.members.tolist()]

    def by_cause(self) -> dict[tuple[str, ...], float]:
        """The probability of what is left to mend, the likeliest first: however and whenever it came about."""
        found: dict[tuple[str, ...], float] = defaultdict(float)
        for names, share in zip(self.left, self.share.tolist(), strict=True):
            if names:
                found[names] += share
        return dict(sorted(found.items(), key=lambda item: (-item[1], item[0])))

    def mended_by(self, cause: str) -> np.ndarray:
        """For each hypothesis whether all would be well were the cure of `cause` carried out now."""
        mended = mended_by(self.table, cause) | np.isin(self.table.causes, sorted(self.mended))
        both = np.append(mended, True)
        something = np.array([bool(names) for names in self.left], dtype=bool)
        mends: np.ndarray = both[self.members[:, 0]] & both[self.members[:, 1]] & something
        return mends

    @property
    def not_listed(self) -> float:
        """The probability of something else: of what is not in the list, or is, was mended, and is wrong still."""
        spent = sum(float(share) for names, share in zip(self.left, self.share.tolist(), strict=True) if not names)
        return self.elsewhere + spent


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
    pairs = pairs_of(table, seen, prior)
    members = np.array([(n, -1) for n in range(len(prior))] + pairs, dtype=np.int32).reshape(-1, 2)
    both = np.array([PAIRS * prior[a] * prior[b] for a, b in pairs], dtype=float)
    weight = np.concatenate([prior, both]) * (1.0 - ELSE_SHARE)
    belief = Belief(table, members, weight, ELSE_SHARE, prior)
    if table.situation.standing.differs is not None:
        odd = table.at_step[members[:, 0]] | (table.at_step[members[:, 1]] & (members[:, 1] >= 0))
        belief.share = belief.share * np.where(odd, 1 - MISREAD, MISREAD)
        belief.elsewhere *= 0.5  # nothing is known of which steps such a fault shows at
    _unsaid(belief, seen)
    for number, one in enumerate(seen):
        _weigh(belief, one, is_as_before=any((one.look, one.saw) == (other.look, other.saw) for other in seen[:number]))
    total = belief.share.sum() + belief.elsewhere
    belief.share /= total
    belief.elsewhere /= total
    return belief


def _unsaid(belief: Belief, seen: Sequence[Seen]) -> None:
    """Where somebody said that a promise fails, he would likely have said so of the others."""
    table = belief.table
    told = {one.look for one in seen}
    promises = [row for row, look in enumerate(table.looks) if look.is_promise and look.is_asked]
    if not any(table.looks[row].id in told for row in promises):
        return
    fails = np.zeros(len(belief.share), dtype=bool)
    for row in promises:
        if table.looks[row].id not in told and table.base[row] == 0:
            fails |= belief.outcomes(row) != 0
    _take_alike(belief, np.where(fails, UNSAID, 1.0))


def _weigh(belief: Belief, one: Seen, is_as_before: bool) -> None:
    """Take one answer into account. `is_as_before`: it was so before something was mended, too."""
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
    misread = MISREAD_PROMISE if look.is_promise else AGAIN_MISREAD if one.times > 1 else MISREAD
    if one.answer != "seen" and look.is_promise:
        # What fails is where a search begins: of itself it speaks neither for nor against the list.
        _take_alike(belief, odd_likelihood(outcome, 0, misread))
    elif one.answer != "seen":
        _take(belief, odd_likelihood(outcome, 0, misread), is_sound=False, others=1, is_promise=False)
    if one.answer != "seen":
        if one.answer == "now-and-then":
            belief.share = belief.share * _said(table, COMES_AND_GOES)[belief.members[:, 0]]
        return
    answered = look.words.index(one.saw) if one.saw in look.words else len(look.words)
    likely = likelihood(outcome, answered, len(look.words), misread)
    if is_as_before:
        belief.share = belief.share * likely
        belief.elsewhere *= 1.0 - misread
        return
    _take(belief, likely, is_sound=answered == 0, others=len(look.words), is_promise=look.is_promise)


def _take(belief: Belief, likely: np.ndarray, is_sound: bool, others: int, is_promise: bool) -> None:
    """Bayes' rule for one answer."""
    total = float(belief.share.sum()) or 1.0
    after = belief.share * likely
    belief.elsewhere *= else_likelihood(is_sound, others, is_promise, listed=float(after.sum()) / total)
    belief.share = after


def _take_alike(belief: Belief, likely: np.ndarray) -> None:
    """Bayes' rule where a fault that is not in the list shows as those in it do."""
    total = float(belief.share.sum()) or 1.0
    belief.share = belief.share * likely
    belief.elsewhere *= float(belief.share.sum()) / total


def _said(table: Table, key: str) -> np.ndarray:
    """How much each hypothesis is favoured by what was said unasked; 1 for words that nobody knows."""
    found = symptom(key)
    if found is None:
        return np.ones(len(table.hypotheses))
    return np.array([favoured(found, one.kind, one.has_teeth) for one in table.hypotheses])


def _weigh_cure(belief: Belief, cause: str, works: bool) -> None:
    """A cure that was carried out: what it mends is gone since, and where that was all there was, it works."""
    if cause not in belief.table.causes:
        return  # of a device that is gone
    likely = np.append(np.where(mended_by(belief.table, cause), 1.0 - BY_THE_WAY, CURE_MISREAD), 1.0)
    likely[:-1][[one == cause for one in belief.table.causes]] = 1.0 - CURE_MISREAD
    # Of two, both have to be mended.
    helps = np.minimum(likely[belief.members[:, 0]], likely[belief.members[:, 1]])
    gone = np.array([not names for names in belief.left])
    belief.share = belief.share * np.where(gone, CURE_MISREAD, helps if works else 1.0 - helps)
    # Not one half: most cures of what is not broken change nothing.
    belief.elsewhere *= 0.1 if works else 0.9
    if not works:
        belief.mended.add(cause)
        del belief.left


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
