"""The finder: what could be wrong, how likely each is, what to look at next and why, and when it is found."""

from collections.abc import Mapping, Sequence

import numpy as np

from isotact.core.diagnosis.belief import Belief, believe
from isotact.core.diagnosis.findings import CURED, STILL, Cause, Finding, LookOutcome, NextLook, Seen, Status, replaced
from isotact.core.diagnosis.next_look import MOST_AGAIN, Told, entropy_bits, ranked, told_again
from isotact.core.diagnosis.table import Table

NAMED_AT = 0.95
"""So sure is the finder before it names a cause. Of 124 faults that are not in its list it said so of 119, and with 0.8
of 89: it named others."""
MENDED_AT = 0.5
"""So sure it is where to mend it comes before every look, if nothing else comes near: whoever reads a setting that is
wrong puts it right and tries. Chosen by trial."""
CLEAR_LEAD = 5.0
"""So many times likelier than the next a cause stands out. Chosen by trial."""
NOT_IN_THE_LIST_AT = 0.35
"""From here on it says that it may be something not in its list; the search goes on. By trial:
with 0.25 it said so without need in one search in nine, with this in one in twenty-five."""
LEAST_LOOKED = 3
"""Nobody believes it before so many things were looked at or tried."""
FITS = 0.7
"""Where one answer less leaves so much less for what is not in the list, that answer is doubted. Chosen by trial."""
LEAST_BITS = 0.02
"""A look that tells less than that is not worth the walk."""
SHOWN = 8
"""So many causes are shown: what fits on a phone."""
LIKELY = 0.005
"""What is less likely than that is not offered as an answer; somebody may still say that it was otherwise."""


def find(table: Table, seen: Sequence[Seen], finds: Mapping[str, int] | None = None, count: int = 3) -> Finding:
    """What to believe after `seen`, and what to look at next. `finds`: how often each kind of fault was found here."""
    belief = believe(table, seen, finds)
    shares = belief.by_cause()
    mended = bool(seen) and seen[-1].saw == CURED
    if mended:
        # What was mended is what it was, however unlikely it had been; or what the same work mends by the way.
        mends = belief.mended_by(seen[-1].look.partition(":")[2])
        names = {names for names, works in zip(belief.left, mends.tolist(), strict=True) if works}
        shares = {ids: share for ids, share in shares.items() if ids in names}
    here = next((where for one in reversed(seen) if (where := _where(table, one)) is not None), None)
    told = ranked(belief, seen, here, LEAST_BITS)
    best, second = [*shares.values(), 0.0, 0.0][:2]
    told = _cure_first(told, shares, max(second, belief.not_listed))
    lost = belief.not_listed >= NOT_IN_THE_LIST_AT and best < NAMED_AT
    if lost and (row := _in_doubt(belief, seen, finds)) is not None:
        told = [told_again(belief, row, here, seen), *told]
        lost = False
    looked = [one for one in seen if one.look not in table.place or not table.looks[table.place[one.look]].is_promise]
    lost = lost and len(looked) >= LEAST_LOOKED
    told = _varied(told)
    glances = [one for one in told[count:] if one.look is not None and one.look.is_glance]
    return Finding(
        status="mended" if mended else _status(best, lost, told),
        causes=tuple(_cause(table, ids, share) for ids, share in list(shares.items())[:SHOWN]),
        elsewhere=belief.not_listed,
        next=tuple(_written(belief, one) for one in told[:count]),
        glances=tuple(_written(belief, one) for one in glances[:count]),
        bits_left=entropy_bits(np.array([*shares.values(), belief.not_listed])),
    )


def _cure_first(told: list[Told], shares: Mapping[tuple[str, ...], float], second: float) -> list[Told]:
    """Where one cause is likelier than not and nothing comes near it, to mend it and try comes before every look."""
    ids, best = next(iter(shares.items()), ((), 0.0))
    if best < MENDED_AT or best < CLEAR_LEAD * second:
        return told
    return sorted(told, key=lambda one: one.look is not None or (one.cure,) != ids)


def _varied(told: list[Told]) -> list[Told]:
    """Of promises that could be worked the best alone, the others last: three of them would say one thing thrice."""
    promises = [one for one in told if one.look is not None and one.look.is_promise]
    return [*(one for one in told if one not in promises[1:]), *promises[1:]]


def _status(best: float, lost: bool, told: Sequence[Told]) -> Status:
    if best >= NAMED_AT:
        return "found"
    return "not-in-the-list" if lost or not told else "looking"


def _in_doubt(belief: Belief, seen: Sequence[Seen], finds: Mapping[str, int] | None) -> int | None:
    """The look to make once more before anybody says that nothing fits: the one without which most would fit."""
    if sum(one.times - 1 for one in seen) >= MOST_AGAIN:
        return None
    table = belief.table
    least, found = FITS * belief.not_listed, None
    for number, one in enumerate(seen):
        row = table.place.get(one.look)
        if row is None or one.times > 1 or one.answer != "seen" or replaced(seen, one.look) != number:
            continue
        rest = believe(table, [*seen[:number], *seen[number + 1 :]], finds).not_listed
        if rest < least:
            least, found = rest, row
    return found


def _where(table: Table, one: Seen) -> str | None:
    row = table.place.get(one.look)
    return None if row is None else table.looks[row].check.where


def _written(belief: Belief, told: Told) -> NextLook:
    """A choice as it is shown."""
    if told.look is None:
        return _cure_written(belief, told)
    shown = belief.outcomes(told.row)
    outcomes = [
        LookOutcome(words=words, share=told.shares[number], leaves=_leaves(belief, shown == number))
        for number, words in enumerate(told.look.words)
        if told.shares[number] > LIKELY
    ]
    return NextLook(
        id=told.id,
        says=told.look.check.says,
        device=told.look.check.where,
        takes_s=told.cost_s,
        walk_s=told.walk_s,
        undoes_s=told.look.undoes_s,
        stills_gimbal=told.look.is_in_the_cage,
        bits=told.bits,
        search_s=told.search_s if np.isfinite(told.search_s) else None,
        goes=1.0 - sum(share * share for share in told.shares),
        outcomes=tuple(sorted(outcomes, key=lambda one: -one.share)),
        is_cure=False,
        is_glance=told.look.is_glance,
        is_again=told.is_again,
    )


def _cure_written(belief: Belief, told: Told) -> NextLook:
    one = belief.table.hypotheses[belief.table.causes.index(told.cure or "")]
    works, still = told.shares
    return NextLook(
        id=told.id,
        says=f"Mend it as if {one.says}, and work it again.",
        device=next((name for name in sorted(one.about) if name in belief.table.situation.rig.devices), None),
        takes_s=told.cost_s,
        walk_s=0.0,
        undoes_s=0.0,
        stills_gimbal=False,
        bits=told.bits,
        search_s=told.search_s if np.isfinite(told.search_s) else None,
        goes=2 * works * still,
        outcomes=(
            LookOutcome(words=CURED, share=works, leaves=(one.cause,)),
            LookOutcome(words=STILL, share=still, leaves=()),
        ),
        is_cure=True,
        is_glance=False,
    )


def _leaves(belief: Belief, which: np.ndarray) -> tuple[str, ...]:
    """The likeliest few causes among those hypotheses."""
    order = np.argsort(-np.where(which, belief.share, 0.0), kind="stable")[:3]
    causes = belief.table.causes
    return tuple(dict.fromkeys(causes[belief.members[n, 0]] for n in order.tolist() if which[n]))


def _cause(table: Table, ids: tuple[str, ...], share: float) -> Cause:
    found = [table.hypotheses[table.causes.index(one)] for one in ids]
    devices = sorted({name for one in found for name in one.about} & table.situation.rig.devices.keys())
    return Cause(
        ids=ids,
        says=tuple(one.says for one in found),
        kinds=tuple(one.kind for one in found),
        devices=tuple(devices),
        share=share,
        mend_s=sum(one.mend_s for one in found),
    )
