"""Two faults at once: which pairs are worth a thought, after what was seen."""

from collections.abc import Iterator, Sequence
from itertools import groupby

import numpy as np

from isotact.core.diagnosis.findings import STILL, Seen
from isotact.core.diagnosis.hitting_sets import explained_by, minimal_hitting_sets
from isotact.core.diagnosis.hypotheses import UNFINISHED
from isotact.core.diagnosis.table import Table

MOST_PAIRS = 4000
"""More pairs than that are too many to weigh while somebody waits; the likeliest stay."""


def pairs_of(table: Table, seen: Sequence[Seen], prior: np.ndarray) -> list[tuple[int, int]]:
    """Pairs of columns that explain together what neither explains alone; and after a cure in vain, it and any other.

    Whoever mends a thing, and it still fails, was wrong, or has a second thing to find: then it is anything else.
    """
    single = _one_column_each(table)
    vain = [one.look.partition(":")[2] for one in seen if one.look.startswith("cure:") and one.saw == STILL]
    vain = [cause for cause in vain if cause in single]
    found = {
        tuple(sorted((single[cured], column)))
        for cured in vain
        for cause, column in single.items()
        if cause not in vain and cause != UNFINISHED
    }
    found |= set(_explaining(table, seen, single))
    # Two ways of breaking one condition cannot both be so: a setting has one value.
    pairs = [(a, b) for a, b in found if _condition(table, a) != _condition(table, b)]
    pairs.sort(key=lambda pair: (-prior[pair[0]] * prior[pair[1]], pair))
    return pairs[:MOST_PAIRS]


def _condition(table: Table, column: int) -> str:
    head, _, _ = table.causes[column].rpartition("/")
    return head or table.causes[column]


def _explaining(table: Table, seen: Sequence[Seen], single: dict[str, int]) -> Iterator[tuple[int, int]]:
    """Minimal hitting sets of two over what was odd.

    Each look that was not as it should be is a conflict: one of those faults must be there that show so at it.
    """
    conflicts = list(_conflicts(table, seen, single))
    if len(conflicts) > 1:
        for pair in explained_by(minimal_hitting_sets(conflicts, largest=2), 2):
            one, other = sorted(single[cause] for cause in pair)
            yield one, other


def _conflicts(table: Table, seen: Sequence[Seen], single: dict[str, int]) -> Iterator[frozenset[str]]:
    mended: set[str] = set()
    for one in seen:
        head, _, cause = one.look.partition(":")
        if head == "cure" and one.saw == STILL:
            mended.add(cause)
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
            yield members


def _one_column_each(table: Table) -> dict[str, int]:
    """One column for each cause: that which came since, where there is one."""
    columns = sorted(enumerate(table.hypotheses), key=lambda item: (item[1].cause, item[1].at is not None))
    return {cause: next(iter(group))[0] for cause, group in groupby(columns, key=lambda item: item[1].cause)}
