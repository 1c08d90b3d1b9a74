"""After the wrap: when everything is full again, with so many chargers."""

from collections.abc import Sequence
from dataclasses import dataclass

from isotact.core.day.schedule import WORK, Schedule, schedule
from isotact.core.day.tasks import Task


@dataclass(frozen=True)
class ToCharge:
    """A charge that is to come: it takes one of `slots` for so many `minutes`, `after` other charges."""

    key: str
    minutes: int
    slots: tuple[str, ...]
    after: tuple[str, ...] = ()


def full_by(charges: Sequence[ToCharge], work: float = WORK) -> Schedule:
    """Which goes into which slot when, so that all are full as early as can be: `end`, in minutes."""
    tasks = [Task(one.key, one.minutes, after=one.after, one_of=one.slots, count=1) for one in charges]
    return schedule(tasks, work=work)
