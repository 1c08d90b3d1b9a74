"""Searches played to their end: one who answers as the rig with a fault would show, and what that took."""

from collections.abc import Iterator
from dataclasses import dataclass
from random import Random

import numpy as np

from isotact.core.diagnosis import CURED, STILL, Finding, NextLook, Seen, Situation, Standing
from isotact.core.diagnosis.finder import find
from isotact.core.diagnosis.next_look import PROOF_S
from isotact.core.diagnosis.table import Table, look_key, outcome_table
from tests.rigs import Carried, carried


@dataclass(frozen=True)
class Trail:
    """How a search went: how it ended, what it took without the right cure itself, and every answer given."""

    finding: Finding
    seconds: float
    looks: int
    seen: tuple[Seen, ...]

    @property
    def named(self) -> tuple[str, ...]:
        """What it ended on; nothing where it said that it does not know."""
        return self.finding.causes[0].ids if self.finding.status in ("found", "mended") else ()


def table_of(rig: Carried | str, standing: Standing = Standing()) -> Table:  # noqa: B008
    one = carried(rig) if isinstance(rig, str) else rig
    return outcome_table(Situation(one.rig, one.plan, one.conditions, one.sheet, standing))


def fallen(table: Table, columns: tuple[int, ...]) -> list[Seen]:
    """What the people who wait for them say: that these promises fail."""
    return [
        Seen(look=look_key(promise), answer="odd")
        for promise in table.situation.plan.kept
        if shown(table, table.place[look_key(promise)], columns) != 0
    ]


def shown(table: Table, row: int, columns: tuple[int, ...]) -> int:
    """What a look shows with all of these faults: of two that show the one that is not as it should be, the first."""
    base = int(table.base[row])
    return next((one for column in columns if (one := int(table.outcome[row, column])) != base), base)


def faults(table: Table) -> Iterator[int]:
    """The columns of faults that somebody notices: a promise falls with them."""
    for column, one in enumerate(table.hypotheses):
        if one.acts and fallen(table, (column,)):
            yield column


def twins(table: Table, column: int) -> set[str]:
    """The causes that no look tells from this one."""
    same = (table.outcome == table.outcome[:, [column]]).all(axis=0)
    return {table.causes[other] for other in np.flatnonzero(same)}


def search(
    table: Table,
    columns: tuple[int, ...],
    seen: list[Seen] | None = None,
    wrong: float = 0.0,
    seed: int = 0,
    most: int = 40,
) -> Trail:
    """Look where the finder says until it is mended or given up. `wrong`: so often an answer is not what is there."""
    chance = Random(seed)
    given = fallen(table, columns) if seen is None else list(seen)
    left, seconds, looks = list(columns), 0.0, 0
    while True:
        finding = find(table, given)
        if finding.status in ("mended", "not-in-the-list") or looks >= most:
            return Trail(finding, seconds, looks, tuple(given))
        looks += 1
        if finding.status == "found":
            cured = _cured(table, left, finding.causes[0].ids)
            if cured and len(left) == len(cured):
                return Trail(finding, seconds, looks, tuple(given))
            seconds += 0.0 if cured else finding.causes[0].mend_s + PROOF_S
            left = [column for column in left if column not in cured]
            tried = {f"cure:{one}" for one in finding.causes[0].ids} - {one.look for one in given}
            if not tried:
                return Trail(finding, seconds, looks, tuple(given))
            given += [Seen(look=look, saw=STILL) for look in sorted(tried)]
            continue
        one = finding.next[0]
        if one.is_cure:
            cured = _cured(table, left, (one.id.removeprefix("cure:"),))
            works = bool(cured) and len(cured) == len(left)
            seconds += (
                0.0 if cured else table.hypotheses[table.causes.index(one.id.removeprefix("cure:"))].mend_s + PROOF_S
            )
            left = [column for column in left if column not in cured]
            given.append(Seen(look=one.id, saw=CURED if works else STILL))
            continue
        seconds += one.takes_s
        answer = _answer(table, one, tuple(left), chance, wrong)
        again = [number for number, other in enumerate(given) if other.look == one.id]
        if again:
            given[again[0]] = answer.model_copy(update={"times": given[again[0]].times + 1})
        else:
            given.append(answer)


def _cured(table: Table, left: list[int], causes: tuple[str, ...]) -> list[int]:
    """Those of the faults that are there which somebody mends who mends `causes`, or what looks just like them."""
    return [column for column in left if twins(table, column) & set(causes)]


def _answer(table: Table, look: NextLook, columns: tuple[int, ...], chance: Random, wrong: float) -> Seen:
    row = table.place[look.id]
    words = table.looks[row].words
    number = shown(table, row, columns)
    if len(words) > 1 and chance.random() < wrong:
        number = chance.choice([other for other in range(len(words)) if other != number])
    return Seen(look=look.id, saw=words[number])
