"""The sentence that says why a promise is not kept."""

from collections.abc import Iterator, Sequence

from isotact.core.model.plan import Obstacle
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import Promise
from isotact.core.telling.phrases import promise_words, together

ASK = "Ask what it takes, or promise it from another device."
"""Where nothing that was tried would do."""


def sentence(rig: ResolvedRig, promise: Promise, reasons: Sequence[Obstacle]) -> str:
    """What is not kept, and every reason."""
    words = promise_words(rig, promise)
    return f"{words[0].upper()}{words[1:]}: no. {' '.join(_of_likes(rig, reasons))}"


def _of_likes(rig: ResolvedRig, reasons: Sequence[Obstacle]) -> Iterator[str]:
    """The sentences, each once: what is said of several like devices is said of all of them together."""
    alike: dict[tuple[str, str], list[str]] = {}
    for one in reasons:
        placed = rig[one.device] if one.device is not None else None
        if placed is not None and one.says.startswith((f"{placed.name} ", f"{placed.name}, port ")):
            alike.setdefault((placed.profile.id, one.says.removeprefix(placed.name)), []).append(placed.name)
        else:
            alike.setdefault(("", one.says), [])
    for (_, says), names in alike.items():
        several = together(list(dict.fromkeys(names)))
        if len(set(names)) < 2:
            yield f"{several}{says}"
        elif says.startswith(","):
            yield f"On each of {several} the{says.removeprefix(',')}"
        else:
            yield f"Each of {several}{says}"
