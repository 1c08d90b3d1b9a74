"""The crew's own order of suspicion: what people try first, whatever the probabilities. Common practice, no source."""

from collections.abc import Sequence

ORDER: tuple[tuple[str, str], ...] = (
    ("joined/wrong-port", "wrong port"),
    ("joined", "a plug that is out"),
    ("carries", "a lead that only charges, or is broken"),
    ("seated", "half seated"),
    ("setting/wrong", "a menu setting"),
    ("answered", "a question answered wrongly, or missed"),
    ("wiring", "a lead for another camera"),
    ("setting/waiting", "not restarted since it was set"),
    ("found-at-start", "plugged after it had started"),
    ("mode", "the wrong mode"),
    ("firmware", "firmware"),
    ("woken-after", "the wake order"),
    ("network", "on another network"),
    ("no-guest", "somebody else is on it"),
    ("on-channel", "channel"),
    ("paired", "not paired"),
    ("alone-on-axis", "axis"),
    ("ends-known", "not mapped"),
    ("table", "the wrong lens table"),
    ("followed", "a step of the recipe left out"),
    ("format", "another format than the menu says"),
    ("address-typed", "an address mistyped"),
    ("licence", "a licence"),
    ("screen", "a screen turned down"),
    ("card-in", "no card"),
    ("awake", "switched off"),
    ("incident", "restarted, and not set again"),
    ("fed/flat", "a flat battery"),
    ("outlet", "a dead outlet"),
    ("balanced", "out of balance"),
    ("in-place", "come loose"),
    ("responds", "it hangs"),
    ("fed", "a fuse or dirty contacts"),
)
"""Kinds of faults as the finder has them, or the part before the stroke, and what people call them."""


def suspicion_rank(kind: str) -> int:
    """The place of a kind of fault in the crew's order, the first 0; what nobody thinks of comes last."""
    return next((place for place, (start, _) in enumerate(ORDER) if _is_of(kind, start)), len(ORDER))


def suspicion_words(kind: str) -> str:
    """What people call a kind of fault; empty for one that has no name of its own."""
    return next((words for start, words in ORDER if _is_of(kind, start)), "")


def in_crews_order(kinds: Sequence[str]) -> list[str]:
    """What a crew would suspect among these kinds, each name once, in their order."""
    return list(dict.fromkeys(words for kind in sorted(kinds, key=suspicion_rank) if (words := suspicion_words(kind))))


def _is_of(kind: str, start: str) -> bool:
    return start in (kind, kind.partition("/")[0])
