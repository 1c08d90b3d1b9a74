"""Which look to make next: the one after which the rest of the search is shortest, and why not another.

By information a minute alone one would take what tells a little at a glance, again and again, before what settles it.
So the likeliest few by that measure are played to their end, each time taking what tells most a minute from there on
(a rollout, as D. Bertsekas calls it), and the one with the shortest whole is next.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from isotact.core.diagnosis.belief import Belief
from isotact.core.diagnosis.evidence import ELSE_SOUND, ELSE_WORKS, MISREAD, MISREAD_PROMISE
from isotact.core.diagnosis.table import Look

HANDS_S = 15.0
"""To still a live gimbal before a hand goes into its cage, and to set it going again. Common practice, no source."""
READ_S = 2.0
"""Whatever is looked at, it takes so long to read what to do and to tap what was seen. No source."""
PROOF_S = 15.0
"""To work a promise once more after a cure."""
PLAYED = 10
"""So many looks are played to the end. More change the choice in fewer than one case in fifty."""
SURE = 0.9
"""So sure of a cause, a search that is played is over: what is left is to mend it."""
WEIGHED = 160
"""So many hypotheses are played with, the likeliest: the rest hold less than a hundredth together."""
TINY = 1e-6
"""What is less likely than that is not played."""
LEAST_PLAYED = 1e-4
"""A look that tells less than so many bits tells nothing: what is left is rounding."""
LIKELY_CURE = 0.08
"""A cure is thought of where it would help so often."""


@dataclass(frozen=True)
class Told:
    """What a look, or a cure that is tried, would tell now.

    `bits`: the information to be expected of it; `cost_s`: all that it takes; `search_s`: what the whole search takes
    from here if it comes next, where that was played. `shares[k]`: the probability that word `k` of the look is what is
    seen, the last one for what is not in its words; of a cure that it works, and that it does not.
    """

    look: Look | None
    row: int
    cure: str | None
    bits: float
    cost_s: float
    walk_s: float
    shares: tuple[float, ...]
    search_s: float = float("inf")

    @property
    def id(self) -> str:
        return f"cure:{self.cure}" if self.look is None else self.look.id

    @property
    def rate(self) -> float:
        """Bits a minute."""
        return 60.0 * self.bits / max(self.cost_s, 1.0)


def entropy_bits(shares: np.ndarray) -> float:
    """H of a distribution, in bits."""
    positive = shares[shares > 0]
    return float(-(positive * np.log2(positive)).sum())


def cost_s(look: Look, walk_s: float = 0.0) -> float:
    """All that a look takes: to read it, to walk there, to still the gimbal, to look, to make good what it undid."""
    return READ_S + look.check.seconds + look.undoes_s + walk_s + (HANDS_S if look.is_in_the_cage else 0.0)


def ranked(belief: Belief, asked: Sequence[str], here: str | None, least_bits: float) -> list[Told]:
    """What could be done next and tells something, best first. `here`: the device at which the last look was."""
    looks = [
        told
        for row, look in enumerate(belief.table.looks)
        if look.id not in asked and look.is_asked and (told := _told(belief, row, here)).bits >= least_bits
    ]
    cures = [
        _cure(belief, ids[0], share)
        for ids, share in belief.by_cause().items()
        if len(ids) == 1 and share >= LIKELY_CURE and f"cure:{ids[0]}" not in asked and ids[0] not in belief.mended
    ]
    by_rate = sorted([*looks, *cures], key=lambda one: (-one.rate, one.id))
    played = Played(belief, by_rate)
    first = [played.after(number) for number in range(min(PLAYED, len(by_rate)))]
    return [*sorted(first, key=lambda one: (one.search_s, one.id)), *by_rate[PLAYED:]]


def _told(belief: Belief, row: int, here: str | None) -> Told:
    look = belief.table.looks[row]
    outcome, words = belief.outcomes(row), len(look.words)
    open_share = float(belief.share[outcome == -1].sum())
    shown = np.bincount(outcome[outcome >= 0], weights=belief.share[outcome >= 0], minlength=words + 1)
    # Of two faults that show differently either may be seen: to each word that turns up its part.
    shown = shown + open_share * shown / (shown.sum() or 1.0)
    misread = MISREAD_PROMISE if look.is_promise else MISREAD
    wrong = misread / words
    listed = shown.sum()
    seen = shown * (1.0 - misread - wrong) + listed * wrong
    noise = entropy_bits(np.array([1.0 - misread, *[wrong] * words]))
    sound = ELSE_WORKS if look.is_promise else ELSE_SOUND
    other = np.array([sound, *[(1.0 - sound) / words] * words])
    seen = seen + belief.elsewhere * other
    bits = entropy_bits(seen / seen.sum()) - listed * noise - belief.elsewhere * entropy_bits(other)
    walk_s = belief.table.walk_s(here, look.check.where)
    shares = tuple((seen / seen.sum()).tolist())
    return Told(look, row, None, max(bits, 0.0), cost_s(look, walk_s), walk_s, shares)


def _cure(belief: Belief, cause: str, share: float) -> Told:
    """To mend a cause and see whether that was it. Where it was, nothing was lost: it had to be mended."""
    mend_s = belief.table.hypotheses[belief.table.causes.index(cause)].mend_s + PROOF_S
    bits = entropy_bits(np.array([share, 1.0 - share]))
    return Told(None, -1, cause, bits, mend_s * (1.0 - share), 0.0, (share, 1.0 - share))


class Played:
    """A search played to its end, as if every answer were right, over the likeliest hypotheses.

    `rows[r, h]`: 1 where word `r` of all words of all looks is what hypothesis `h` shows; those of look `l` begin at
    `starts[l]`. `spent_s[l]`: what `l` costs where it does not end the search, `ends[l]`: whether its first word does.
    """

    def __init__(self, belief: Belief, choices: Sequence[Told]) -> None:
        order = np.argsort(-belief.share, kind="stable")[:WEIGHED]
        self.choices = list(choices)
        self.share = belief.share[order] / (belief.share[order].sum() or 1.0)
        causes = belief.table.causes
        names = [causes[one] for one in belief.members[order, 0].tolist()]
        alone = belief.members[order, 1] < 0
        self.cause = np.unique(np.array(names), return_inverse=True)[1] if names else np.zeros(0, dtype=int)
        rows: list[np.ndarray] = []
        starts: list[int] = []
        for one in choices:
            starts.append(len(rows))
            if one.look is None:
                cured = np.array([name == one.cure for name in names]) & alone
                rows += [cured, ~cured]
            else:
                shown = np.maximum(belief.outcomes(one.row)[order], 0)
                # Only words that some hypothesis shows: most looks have a few, and one has a dozen.
                rows += [shown == word for word in np.unique(shown).tolist()]
        self.rows = np.array(rows, dtype=float).reshape(len(rows), len(order))
        self.starts = np.array([*starts, len(rows)])
        self.spent_s = np.array([_spent_s(belief, one) for one in choices])
        self.ends = np.array([one.look is None for one in choices], dtype=bool)

    def after(self, number: int) -> Told:
        """One choice with what the whole search takes if it comes first."""
        told = self.choices[number]
        # As told, with the walk: in what follows nobody knows where he will stand.
        return replace(told, search_s=told.walk_s + self._with(number, self.share))

    def _with(self, number: int, share: np.ndarray) -> float:
        """Seconds, times the probability of getting here, from `share` on if look `number` is next."""
        first, last = int(self.starts[number]), int(self.starts[number + 1])
        found = self.rows[first:last] @ share
        spent = float(self.spent_s[number]) * float(share.sum() - (found[0] if self.ends[number] else 0.0))
        going_on = range(1 if self.ends[number] else 0, last - first)
        return spent + sum(self._rest(share * self.rows[first + word]) for word in going_on if found[word] > TINY)

    def _rest(self, share: np.ndarray) -> float:
        total = float(share.sum())
        if total <= TINY or float(np.bincount(self.cause, weights=share).max()) >= SURE * total:
            return 0.0
        part = (self.rows @ share) / total
        bits = -np.add.reduceat(part * np.log2(np.maximum(part, TINY)), self.starts[:-1])
        cost = self.spent_s * (1.0 - np.where(self.ends, part[self.starts[:-1]], 0.0))
        rate = np.where(bits > LEAST_PLAYED, bits / np.maximum(cost, 0.5), 0.0)
        best = int(rate.argmax())
        return self._with(best, share) if rate[best] > 0.0 else 0.0


def _spent_s(belief: Belief, told: Told) -> float:
    if told.look is None:
        return belief.table.hypotheses[belief.table.causes.index(told.cure or "")].mend_s + PROOF_S
    return cost_s(told.look)
