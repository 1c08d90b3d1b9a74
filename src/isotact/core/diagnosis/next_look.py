"""Which look to make next: the one after which the rest of the search is shortest, and why not another.

By information a minute alone one would take what tells a little at a glance, again and again, before what settles it.
So the likeliest few by that measure are played to their end, each time taking what tells most a minute from there on
(a rollout, as D. Bertsekas calls it), and the one with the shortest whole is next.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from isotact.core.diagnosis.belief import AGAIN_MISREAD, Belief
from isotact.core.diagnosis.evidence import ELSE_SOUND, ELSE_WORKS, MISREAD, MISREAD_PROMISE
from isotact.core.diagnosis.findings import STILL, Seen
from isotact.core.diagnosis.table import Look

HANDS_S = 15.0
"""To still a live gimbal before a hand goes into its cage, and to set it going again. Common practice, no source."""
READ_S = 4.0
"""To read what to do and tap what was seen: some ten words at 238 a minute (M. Brysbaert, "How many words do we read
per minute?", Journal of Memory and Language 109, 2019; from memory), and a second and a half for the tap."""
PROOF_S = 15.0
"""To work a promise once more after a cure."""
PLAYED = 10
"""So many looks are played to the end. With seven of them searches took three in a hundred longer (eight rigs)."""
SURE = 0.9
"""So sure of a cause, a search that is played is over: what is left is to mend it."""
WEIGHED = 160
"""So many hypotheses are played with, the likeliest: each more makes every search that is played longer."""
TINY = 1e-6
"""What is less likely than that is not played."""
SELDOM = 2e-3
"""What is seen more seldom than that is not played on: it would add a fifth of a second to a search."""
LEAST_PLAYED = 1e-4
"""A look that tells less than so many bits tells nothing: what is left is rounding."""
MOST_AGAIN = 4
"""So many looks are asked for a second time: who is asked more often stops answering."""
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
    is_again: bool = False
    """Whether it was looked at before."""

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


def ranked(belief: Belief, seen: Sequence[Seen], here: str | None, least_bits: float) -> list[Told]:
    """What could be done next and tells something, best first. `here`: the device at which the last look was."""
    standing = _standing(belief, seen)
    doubted = _doubted(belief, standing)
    looks = []
    for row, look in enumerate(belief.table.looks):
        before = standing.get(look.id)
        if look.is_asked and (before is None or look.id in doubted):
            told = _told(belief, row, here, None if before is None else look.words.index(before.saw))
            looks += [told] if told.bits >= least_bits else []
    cures = [
        _cure(belief, ids[0]) for ids, share in belief.by_cause().items() if len(ids) == 1 and share >= LIKELY_CURE
    ]
    by_rate = sorted([*looks, *cures], key=lambda one: (-one.rate, one.id))
    played = Played(belief, by_rate)
    first = [played.after(number) for number in range(min(PLAYED, len(by_rate)))]
    return [*sorted(first, key=lambda one: (one.search_s, one.id)), *by_rate[PLAYED:]]


def _standing(belief: Belief, seen: Sequence[Seen]) -> dict[str, Seen]:
    """The answers that stand: what was not as it should be before a cure in vain may look otherwise now."""
    found: dict[str, Seen] = {}
    for one in seen:
        if one.look.startswith("cure:") and one.saw == STILL:
            found = {key: other for key, other in found.items() if _stands_after_a_cure(belief, other)}
        else:
            found[one.look] = one
    return found


def _stands_after_a_cure(belief: Belief, one: Seen) -> bool:
    row = belief.table.place.get(one.look)
    is_sound = row is not None and one.answer == "seen" and one.saw == belief.table.looks[row].words[0]
    return is_sound or one.answer == "cannot-tell"


def _doubted(belief: Belief, standing: Mapping[str, Seen]) -> set[str]:
    """The looks that may be made a second time: those whose answer is not what the likeliest cause would show."""
    if sum(one.times - 1 for one in standing.values()) >= MOST_AGAIN or not len(belief.share):
        return set()
    best = int(belief.share.argmax())
    found = set()
    for key, one in standing.items():
        row = belief.table.place.get(key)
        if row is None or one.answer != "seen" or one.times > 1 or belief.table.looks[row].is_promise:
            continue
        words = belief.table.looks[row].words
        if one.saw in words and belief.outcomes(row)[best] not in (words.index(one.saw), -1):
            found.add(key)
    return found


def told_again(belief: Belief, row: int, here: str | None, seen: Sequence[Seen]) -> Told:
    """What a second look at `row` would tell."""
    look = belief.table.looks[row]
    before = next(one for one in reversed(seen) if one.look == look.id)
    return _told(belief, row, here, look.words.index(before.saw) if before.saw in look.words else 0)


def _told(belief: Belief, row: int, here: str | None, before: int | None) -> Told:
    """What a look would tell; `before`: what was seen there already."""
    look = belief.table.looks[row]
    outcome, words = belief.outcomes(row), len(look.words)
    open_share = float(belief.share[outcome == -1].sum())
    shown = np.bincount(outcome[outcome >= 0], weights=belief.share[outcome >= 0], minlength=words + 1)
    # Of two faults that show differently either may be seen: to each word that turns up its part.
    shown = shown + open_share * shown / (shown.sum() or 1.0)
    if before is not None:
        return _told_again(belief, row, here, before, shown)
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


def _told_again(belief: Belief, row: int, here: str | None, before: int, shown: np.ndarray) -> Told:
    """What a second look would tell. Whoever misread it once does so again in one case of four."""
    look = belief.table.looks[row]
    repeated = AGAIN_MISREAD / MISREAD
    right = shown * (1.0 - repeated)
    right[before] = shown[before] * (1.0 - AGAIN_MISREAD)
    same = float(shown.sum() - shown[before]) * repeated + belief.elsewhere * (1.0 - AGAIN_MISREAD)
    lost = float(shown[before] + belief.elsewhere) * AGAIN_MISREAD / len(look.words)
    seen = right + lost
    seen[before] += same
    noise = entropy_bits(np.array([repeated, 1.0 - repeated])) * float(shown.sum() - shown[before])
    noise += entropy_bits(np.array([AGAIN_MISREAD, 1.0 - AGAIN_MISREAD])) * float(shown[before] + belief.elsewhere)
    bits = entropy_bits(seen / seen.sum()) - noise
    walk_s = belief.table.walk_s(here, look.check.where)
    return Told(
        look,
        row,
        None,
        max(bits, 0.0),
        cost_s(look, walk_s),
        walk_s,
        tuple((seen / seen.sum()).tolist()),
        is_again=True,
    )


def _cure(belief: Belief, cause: str) -> Told:
    """To mend a cause and see whether that was it. Where it was, nothing was lost: it had to be mended."""
    works = belief.mended_by(cause)
    share = float(belief.share[works].sum())
    cost = _cure_s(belief, cause, works) @ belief.share + float(belief.elsewhere) * _mend_s(belief, cause)
    return Told(None, -1, cause, entropy_bits(np.array([share, 1.0 - share])), float(cost), 0.0, (share, 1.0 - share))


def _mend_s(belief: Belief, cause: str) -> float:
    """What it takes to mend it and try: as its short sheet says, where that is longer than the mend itself."""
    table = belief.table
    return max(table.hypotheses[table.causes.index(cause)].mend_s, table.cure_s.get(cause, 0.0)) + PROOF_S


def _cure_s(belief: Belief, cause: str, works: np.ndarray) -> np.ndarray:
    """What a cure costs in each hypothesis: where it works only what it takes beyond the least that would mend it."""
    mend_s = np.array([*(one.mend_s for one in belief.table.hypotheses), 0.0])
    least_s = mend_s[belief.members[:, 0]] + mend_s[belief.members[:, 1]]
    full_s = _mend_s(belief, cause)
    return np.where(works, np.maximum(full_s - PROOF_S - least_s, 0.0), full_s)


class Played:
    """A search played to its end, as if every answer were right, over the likeliest hypotheses.

    `rows[r, h]`: 1 where word `r` of all words of all looks is what hypothesis `h` shows; those of look `l` begin at
    `starts[l]`. `cost_s[l, h]`: what `l` costs where `h` is so; `ends[l]`: whether its first word ends the search.
    """

    def __init__(self, belief: Belief, choices: Sequence[Told]) -> None:
        order = np.argsort(-belief.share, kind="stable")[:WEIGHED]
        self.choices = list(choices)
        self.share = belief.share[order] / (belief.share[order].sum() or 1.0)
        names = ["; ".join(belief.left[one]) for one in order.tolist()]
        self.cause = np.unique(np.array(names), return_inverse=True)[1] if names else np.zeros(0, dtype=int)
        rows: list[np.ndarray] = []
        starts: list[int] = []
        costs: list[np.ndarray] = []
        for one in choices:
            starts.append(len(rows))
            if one.look is None:
                works = belief.mended_by(one.cure or "")
                rows += [works[order], ~works[order]]
                costs.append(_cure_s(belief, one.cure or "", works)[order])
            else:
                shown = np.maximum(belief.outcomes(one.row)[order], 0)
                # Only words that some hypothesis shows: most looks have a few, and one has a dozen.
                rows += [shown == word for word in np.unique(shown).tolist()]
                costs.append(np.full(len(order), cost_s(one.look)))
        self.rows = np.array(rows, dtype=float).reshape(len(rows), len(order))
        self.starts = np.array([*starts, len(rows)])
        self.cost_s = np.array(costs).reshape(len(choices), len(order))
        places = [None if one.look is None else one.look.check.where for one in choices]
        known = {place: number for number, place in enumerate(dict.fromkeys(places))}
        self.place = np.array([known[place] for place in places], dtype=int)
        self.walk_s = np.array([[belief.table.walk_s(one, other) for other in places] for one in known])
        self.ends = np.array([one.look is None for one in choices], dtype=bool)

    def after(self, number: int) -> Told:
        """One choice with what the whole search takes if it comes first."""
        told = self.choices[number]
        return replace(told, search_s=told.walk_s + self._with(number, self.share))

    def _with(self, number: int, share: np.ndarray) -> float:
        """Seconds, times the probability of getting here, from `share` on if look `number` is next."""
        first, last = int(self.starts[number]), int(self.starts[number + 1])
        found = self.rows[first:last] @ share
        spent = float(self.cost_s[number] @ share)
        going_on = range(1 if self.ends[number] else 0, last - first)
        walk_s = self.walk_s[self.place[number]]
        return spent + sum(
            self._rest(share * self.rows[first + word], walk_s) for word in going_on if found[word] > SELDOM
        )

    def _rest(self, share: np.ndarray, walk_s: np.ndarray) -> float:
        """The same, with the look that tells most a minute next. `walk_s`: to each of them from where one is."""
        total = float(share.sum())
        if total <= TINY or float(np.bincount(self.cause, weights=share).max()) >= SURE * total:
            return 0.0
        part = (self.rows @ share) / total
        bits = -np.add.reduceat(part * np.log2(np.maximum(part, TINY)), self.starts[:-1])
        cost = walk_s + self.cost_s @ share / total
        rate = np.where(bits > LEAST_PLAYED, bits / np.maximum(cost, 0.5), 0.0)
        best = int(rate.argmax())
        return float(walk_s[best]) * total + self._with(best, share) if rate[best] > 0.0 else 0.0
