"""What people say unasked, and of which kinds of faults it speaks. All of it common practice, no source."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from rapidfuzz import fuzz, process

ELSEWHERE = 0.12
"""What such words leave of a fault of which they do not speak: people see more than they say."""
AT_TEETH = "@teeth"
"""What stands behind a kind of fault that speaks of gears that mesh, and of no other join."""
AT_LEAST = 78.0
"""So like a phrase must be what was typed, of 100: two letters wrong in a word of eight are let pass."""


@dataclass(frozen=True)
class Symptom:
    """Something that is seen, heard or felt without being looked for.

    `favours`: how much likelier it is with a fault of a kind than with most; a kind without its fault, such as
    `joined`, stands for all of that condition. `phrases`: what people call it.
    """

    id: str
    says: str
    phrases: tuple[str, ...]
    favours: Mapping[str, float]


def _symptom(key: str, says: str, phrases: str, **favours: float) -> Symptom:
    kinds = {
        kind.replace("__at_teeth", AT_TEETH).replace("__", "/").replace("_", "-"): factor
        for kind, factor in favours.items()
    }
    return Symptom(key, says, (says.lower(), *phrases.split("; ")), MappingProxyType(kinds))


COMES_AND_GOES = "comes-and-goes"
SYMPTOMS: tuple[Symptom, ...] = (
    _symptom(
        "comes-and-goes",
        "It comes and goes",
        "now and then; drops out; intermittent; flickers; cuts out; sometimes works",
        seated__half=1.0, carries__dead=0.9, in_place__loose=0.8, on_channel=0.8, network=0.5, fed__fuse=0.5,
    ),
    _symptom(
        "two-rings",
        "Two rings turn",
        "both rings move; two motors move; iris turns with focus; wrong ring turns",
        alone_on_axis=1.0, setting__wrong=0.4,
    ),
    _symptom(
        "teeth-click",
        "Teeth click",
        "gears slip; motor slips; grinding; clicks when it turns; gear jumps",
        seated__half__at_teeth=1.0, in_place__loose=1.0, ends_known=0.6,
    ),
    _symptom(
        "wrong-numbers",
        "The numbers are wrong",
        "marks are off; distance does not match; scale is wrong; wrong distance",
        table=1.0, ends_known=0.8, setting__wrong=0.5, followed=0.5,
    ),
    _symptom(
        "part-of-the-way",
        "It turns only part of the way",
        "stops short; does not reach infinity; not full travel",
        ends_known=1.0, table=0.6, setting__wrong=0.5,
    ),
    _symptom(
        "only-charges",
        "It charges, and nothing else",
        "charging only; charge symbol; power but no control; only charges",
        answered=1.0, carries__dead=1.0, joined__wrong_port=1.0, setting__wrong=0.7, wiring=0.7,
    ),
    _symptom(
        "asks",
        "It asks something",
        "a question on the screen; prompt; dialog; pop up; message on the screen",
        answered=1.0, incident__restarted=0.6,
    ),
    _symptom(
        "goes-off",
        "It switches itself off",
        "shuts down; keeps switching off; keeps dying; reboots; restarts by itself; turns off",
        fed=1.0, outlet=1.0, carries__dead=0.7, balanced=0.7, in_place__loose=0.6, seated__half=0.6,
    ),
    _symptom(
        "buzzes",
        "The gimbal buzzes or drifts",
        "vibrates; shakes; motors hot; horizon drifts; jitter; hums",
        balanced=1.0, in_place__loose=1.0,
    ),
    _symptom(
        "frozen",
        "It is frozen",
        "hangs; no reaction to buttons; stuck; does not respond; locked up",
        responds=1.0, answered=0.5, mode=0.4,
    ),
    _symptom(
        "since-restart",
        "It worked until it was restarted",
        "after the battery change; after the restart; since lunch",
        incident=1.0, woken_after=1.0, found_at_start=1.0, answered=1.0, ends_known=1.0, setting__waiting=0.8,
        paired=0.5, network=0.7,
    ),
    _symptom(
        "anothers",
        "It shows or obeys somebody else",
        "wrong picture; other camera moves; interference; other crew",
        on_channel=1.0, network=1.0, no_guest=0.8, paired=0.7,
    ),
    _symptom(
        "greyed",
        "The menu line is grey",
        "greyed out; option not available; locked menu; cannot be chosen; missing in menu",
        mode=1.0, licence=1.0, firmware=0.9, setting__wrong=0.6, seated__half=0.4, joined=0.4,
    ),
    _symptom(
        "dark",
        "Everything on it is dark",
        "no lamp; dead; black; will not switch on; no power",
        fed=1.0, outlet=1.0, awake=1.0, joined=0.7, carries__dead=0.7, seated__half=0.7, screen=0.5,
    ),
)  # fmt: skip


def symptom(key: str) -> Symptom | None:
    """The symptom of that id; None where nobody knows it."""
    return next((one for one in SYMPTOMS if one.id == key), None)


def favoured(found: Symptom, kind: str, has_teeth: bool = False) -> float:
    """How much a fault of `kind` is favoured, between `ELSEWHERE` and 1; `has_teeth`: of gears that mesh."""
    if has_teeth and (factor := found.favours.get(kind + AT_TEETH)):
        return factor
    factor = found.favours.get(kind, found.favours.get(kind.partition("/")[0], 0.0))
    return max(ELSEWHERE, factor)


def heard(text: str, most: int = 3) -> list[Symptom]:
    """The symptoms that typed words may mean, the likeliest first; none where nothing is like them."""
    phrases = {(one.id, number): phrase for one in SYMPTOMS for number, phrase in enumerate(one.phrases)}
    found = process.extract(
        text.lower().strip(), phrases, scorer=fuzz.token_set_ratio, score_cutoff=AT_LEAST, limit=len(phrases)
    )
    ids = dict.fromkeys(place[0] for _, _, place in found)
    return [one for key in list(ids)[:most] if (one := symptom(key)) is not None]
