"""The finder's own way on an exercise: it looks where it says one should, and is answered by what is hidden."""

from collections.abc import Iterator, Sequence
from random import Random

import numpy as np

from isotact.core.diagnosis import CURED, STILL, Finding, NextLook, Seen
from isotact.core.diagnosis.cures import mended_by
from isotact.core.diagnosis.finder import find
from isotact.core.diagnosis.findings import answered
from isotact.core.diagnosis.next_look import PROOF_S
from isotact.core.diagnosis.table import Table, look_key
from isotact.core.training.hidden import fallen, shown
from isotact.core.training.told import Trail, TrailStep

MOST_LOST = 12
"""So often he looks on whom the finder tells that it knows no answer."""
MOST_LOOKS = 40
"""Whoever has not found it by then gives up: the longest search of the trials took 31."""


class Search:
    """One search played to its end. `wrong`: so often an answer is not what is there.

    `seen`: every answer given; `finding`: how it ended; `found`: whether the last thing mended was the last thing
    wrong; `seconds` without the right mends themselves, `looks`, `undoes_s`, and each step as one reads it.
    """

    def __init__(
        self,
        table: Table,
        columns: tuple[int, ...],
        seen: Sequence[Seen] | None = None,
        wrong: float = 0.0,
        seed: int = 0,
        most: int = MOST_LOOKS,
    ) -> None:
        self._table, self._wrong, self._chance = table, wrong, Random(seed)
        self.left = list(columns)
        self.said_unknown = 0
        self.seen = fails_of(table, columns) if seen is None else list(seen)
        self.seconds, self.undoes_s, self.looks = 0.0, 0.0, 0
        self.steps: list[TrailStep] = []
        self.found = False
        self.finding: Finding = find(table, self.seen)
        while self._goes_on() and self.looks < most:
            self.looks += 1
            if not self._one():
                break
            self.finding = find(table, self.seen)

    def _goes_on(self) -> bool:
        if self.finding.status == "not-in-the-list":
            # That it knows no answer is said as soon as it is likely: whoever doubts what he saw looks on for a while.
            self.said_unknown += 1
            return self.said_unknown <= MOST_LOST and bool(self.finding.next)
        return self.finding.status != "mended"

    def _one(self) -> bool:
        """Mend what was named, or look where it says; whether the search goes on."""
        if self.finding.status == "found":
            return self._mend(self.finding.causes[0].ids, self.finding.causes[0].mend_s)
        one = self.finding.next[0]
        if one.is_cure:
            cause = one.id.removeprefix("cure:")
            mend_s = self._table.hypotheses[self._table.causes.index(cause)].mend_s
            self._mend((cause,), mend_s)
            return True
        self._look(one)
        return True

    def _mend(self, causes: tuple[str, ...], mend_s: float) -> bool:
        helped = cured(self._table, self.left, causes)
        works = bool(helped) and len(helped) == len(self.left)
        self.left = [column for column in self.left if column not in helped]
        took_s = seconds_of_a_mend(self._table, mend_s, helped)
        self.seconds += took_s
        says = "; ".join(self._table.hypotheses[self._table.causes.index(one)].says for one in causes)
        self.steps.append(TrailStep(kind="mend", says=says, seen=CURED if works else STILL, seconds=took_s))
        self.found = works
        tried = {f"cure:{one}" for one in causes} - {one.look for one in self.seen}
        self.seen += [Seen(look=look, saw=CURED if works else STILL) for look in sorted(tried)]
        return bool(tried)

    def _look(self, one: NextLook) -> None:
        self.seconds += one.takes_s
        self.undoes_s += one.undoes_s
        row = self._table.place[one.id]
        words = self._table.looks[row].words
        number = shown(self._table, row, tuple(self.left))
        if len(words) > 1 and self._chance.random() < self._wrong:
            number = self._chance.choice([other for other in range(len(words)) if other != number])
        answer = Seen(look=one.id, saw=words[number])
        self.steps.append(TrailStep(kind="look", says=one.says, seen=words[number], seconds=one.takes_s))
        self.seen = answered(self.seen, answer)


def finders_way(table: Table, columns: tuple[int, ...]) -> Trail:
    """The finder's own way, to read beside somebody's."""
    one = Search(table, columns)
    return Trail(seconds=one.seconds, looks=one.looks, undoes_s=one.undoes_s, steps=tuple(one.steps), found=one.found)


def fails_of(table: Table, columns: tuple[int, ...]) -> list[Seen]:
    """What the people who wait for them say: that these promises fail."""
    return [Seen(look=look_key(promise), answer="odd") for promise in fallen(table, columns)]


def twins(table: Table, column: int) -> set[str]:
    """The causes that no look tells from this one."""
    same = (table.outcome == table.outcome[:, [column]]).all(axis=0)
    return {table.causes[other] for other in np.flatnonzero(same)}


def cured(table: Table, left: Sequence[int], causes: Sequence[str]) -> list[int]:
    """Those of the faults that are there which somebody mends who carries out the cure of `causes`."""
    return [
        column
        for column in left
        if twins(table, column) & set(causes) or any(mended_by(table, one)[column] for one in causes)
    ]


def seconds_of_a_mend(table: Table, mend_s: float, helped: Sequence[int]) -> float:
    """What a mend adds to a search: all of it where it was in vain, else what it takes beyond the least that would do.

    What is wrong has to be mended by whoever finds it.
    """
    least_s = sum(table.hypotheses[column].mend_s for column in helped)
    return max(mend_s - least_s, 0.0) if helped else mend_s + PROOF_S


def faults(table: Table) -> Iterator[int]:
    """The columns of faults that somebody notices: a promise falls with them."""
    for column, one in enumerate(table.hypotheses):
        if one.acts and fallen(table, (column,)):
            yield column
