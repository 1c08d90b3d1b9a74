"""The finder: what could be wrong, how likely each is, what to look at next and why, and when it is found."""

from collections.abc import Mapping, Sequence

import numpy as np

from isotact.core.diagnosis.belief import Belief, believe
from isotact.core.diagnosis.findings import CURED, STILL, Cause, Finding, LookOutcome, NextLook, Seen, Status
from isotact.core.diagnosis.next_look import Told, cost_s, entropy_bits, ranked
from isotact.core.diagnosis.table import Table

NAMED_AT = 0.8
"""So sure is the finder before it names a cause, whatever else could be looked at. Chosen by trial."""
MENDED_AT = 0.5
"""So sure it is where to mend it comes before every look, or where nothing else comes near: whoever reads a setting
that is wrong puts it right and tries. Chosen by trial."""
CLEAR_LEAD = 5.0
"""So many times likelier than the next a cause stands out. Chosen by trial."""
NOT_IN_THE_LIST_AT = 0.25
"""What is not in the list is said to be so from here on, where no cause comes near it. Chosen by trial."""
BESIDE_THE_BEST = 2.0
"""So many times likelier than any cause in the list: each of those was looked at by then. Chosen by trial."""
FITS = 0.3
"""Where one answer less makes a cause so likely, that answer is doubted. Chosen by trial."""
MOST_AGAIN = 2
"""So many looks are asked for a second time: who is asked more often stops answering."""
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
    asked = [one.look for one in seen]
    mended = bool(seen) and seen[-1].saw == CURED
    if mended:
        # What was mended is what it was, however unlikely it had been: only that goes into the log as found.
        cured = {one.look.removeprefix("cure:") for one in seen if one.saw == CURED}
        shares = dict(sorted(shares.items(), key=lambda item: not cured & set(item[0]) or not set(item[0]) <= cured))
    here = next((where for one in reversed(seen) if (where := _where(table, one)) is not None), None)
    told = ranked(belief, asked, here, LEAST_BITS)
    best, second = [*shares.values(), 0.0, 0.0][:2]
    lost = _is_lost(best, belief.elsewhere)
    if lost and (doubted := _doubted(table, seen, finds)) is not None:
        again = Told(
            table.looks[doubted], doubted, None, 0.0, cost_s(table.looks[doubted]), 0.0, _shares(belief, doubted)
        )
        told = [again, *told]
        lost = False
    glances = [one for one in told[count:] if one.look is not None and one.look.is_glance]
    return Finding(
        status="mended" if mended else _status(best, max(second, belief.elsewhere), lost, told),
        causes=tuple(_cause(table, ids, share) for ids, share in list(shares.items())[:SHOWN]),
        elsewhere=belief.elsewhere,
        next=tuple(_written(belief, one, one.id in asked) for one in told[:count]),
        glances=tuple(_written(belief, one) for one in glances[:count]),
        bits_left=entropy_bits(np.array([*shares.values(), belief.elsewhere])),
    )


def _status(best: float, second: float, lost: bool, told: Sequence[Told]) -> Status:
    stands_out = best >= CLEAR_LEAD * second or bool(told and told[0].look is None)
    if best >= NAMED_AT or (best >= MENDED_AT and stands_out):
        return "found"
    return "not-in-the-list" if lost or not told else "looking"


def _is_lost(best: float, elsewhere: float) -> bool:
    """Whether hardly anything in the list fits what was seen."""
    return elsewhere >= NOT_IN_THE_LIST_AT and elsewhere >= BESIDE_THE_BEST * best


def _doubted(table: Table, seen: Sequence[Seen], finds: Mapping[str, int] | None) -> int | None:
    """The look to make once more before anybody says that nothing fits: the one without which some cause fits best."""
    if sum(one.times - 1 for one in seen) >= MOST_AGAIN:
        return None
    best, found = FITS, None
    for number, one in enumerate(seen):
        row = table.place.get(one.look)
        if row is None or one.times > 1 or table.looks[row].is_promise or one.answer == "cannot-tell":
            continue
        rest = believe(table, [*seen[:number], *seen[number + 1 :]], finds)
        share = next(iter(rest.by_cause().values()), 0.0)
        if share > best:
            best, found = share, row
    return found


def _shares(belief: Belief, row: int) -> tuple[float, ...]:
    """How likely each word of a look is, were it made for the first time."""
    words = len(belief.table.looks[row].words)
    return tuple([1.0 / words] * words)


def _where(table: Table, one: Seen) -> str | None:
    row = table.place.get(one.look)
    return None if row is None else table.looks[row].check.where


def _written(belief: Belief, told: Told, is_again: bool = False) -> NextLook:
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
        is_again=is_again,
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
