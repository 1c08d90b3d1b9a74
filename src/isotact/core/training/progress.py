"""What somebody tends to miss, by the exercises that they did."""

from collections import defaultdict
from collections.abc import Iterable

from pydantic import Field

from isotact.core.model.base import Struct

SLOW = 3.0
"""So many times the finder's own time, and it is a kind of fault that one does not think of. Chosen, no source."""


class Trained(Struct):
    """An exercise that somebody did; `bench`: at which, where it was under his hands. Level 0: built blind."""

    at: str
    person: str
    rig: str
    code: str
    level: int
    status: str
    seconds: float
    finder_s: float
    looks: int
    points: int
    kinds: tuple[str, ...]
    bench: str = ""


class Missed(Struct):
    """A kind of fault: how often it was met, and how often missed, given up or found long after the finder."""

    kind: str
    met: int
    missed: int = Field(ge=0)


def missed(trained: Iterable[Trained]) -> list[Missed]:
    """Kinds of fault that were missed at all, the one that is missed most often first."""
    met: dict[str, int] = defaultdict(int)
    lost: dict[str, int] = defaultdict(int)
    for one in trained:
        for kind in set(one.kinds):
            met[kind] += 1
            lost[kind] += one.status == "given-up" or one.seconds > SLOW * max(one.finder_s, 1.0)
    found = [Missed(kind=kind, met=met[kind], missed=lost[kind]) for kind in met if lost[kind]]
    return sorted(found, key=lambda one: (-one.missed / one.met, -one.missed, one.kind))
