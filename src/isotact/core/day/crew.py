"""The steps of a run sheet dealt out to people: who does what when, how long it takes, and what must not wait."""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Literal

from pydantic import Field

from isotact.core.day.schedule import WORK, Schedule, least_end, schedule
from isotact.core.day.tasks import Task
from isotact.core.model.base import Struct
from isotact.core.runsheet import RunSheet, Step

# More than three pairs of hands at one rig stand in each other's way. Common practice, no source.
MOST_PEOPLE = 3


class Turn(Struct):
    """One step: by whom, from when to when hands are on it, and when it is over, all in seconds from now."""

    step: str
    by: tuple[str, ...]
    from_s: float
    to_s: float
    ready_s: float
    is_critical: bool = Field(description="whether all takes longer when this does")


class Crewed(Struct):
    """A sheet dealt out. `left_s`: until all is done. `gap`: by what share it might be shorter, where unproven."""

    status: Literal["proven", "best-so-far"]
    left_s: float
    gap: float
    alone_s: float = Field(description="how long one person by themselves would need for what is left")
    turns: tuple[Turn, ...] = Field(description="in the order in which they begin")


def crewed(
    sheet: RunSheet,
    people: Sequence[str],
    given: Mapping[str, str] | None = None,
    done: Mapping[str, float] | None = None,
    work: float = WORK,
) -> Crewed:
    """The steps of `sheet` that are left, on `people`, in the shortest time.

    `given`: step, `stage:...` or `device:...` -> the one who is to do it, where that is one of them. `done`: step ->
    the seconds since it was done: what it set going may still be under way. Hands at one device are one person's,
    unless a step takes two. A step that takes more people than there are is done by all of them. `work`: how much may
    be put into the search, in the solver's measure.
    """
    done = done or {}
    left = [step for step in sheet.steps if step.id not in done]
    under_way = {step.id: max(0, round(step.waits_s - done[step.id])) for step in sheet.steps if step.id in done}
    whose = {one for one in (given or {}).values() if one in people}
    hands = max((step.people for step in left), default=1)
    tasks, found = _dealt(left, people, given or {}, under_way, work)
    # Fewer hands are never quicker: where the search ended early, the shortest of all stands.
    for count in range(len(people) - 1, 0, -1) if found.status != "proven" else ():
        if count < hands or not whose <= {*people[:count]}:
            continue
        fewer, capacities = _tasks(left, people[:count], given or {}, under_way)
        if least_end(fewer, capacities) < found.end:
            other = replace(schedule(fewer, capacities, work=0), bound=found.bound)
            tasks, found = min((tasks, found), (fewer, other), key=lambda way: way[1].end)
    critical = _critical(tasks, found)
    turns = sorted((_turn(task, found, critical) for task in tasks), key=lambda turn: (turn.from_s, turn.step))
    alone = sum(step.takes_s for step in left)
    gap = (found.end - found.bound) / found.end if found.end else 0.0
    return Crewed(
        status=found.status, left_s=float(found.end), gap=round(max(0.0, gap), 4), alone_s=alone, turns=tuple(turns)
    )


def _dealt(
    left: Sequence[Step], people: Sequence[str], given: Mapping[str, str], under_way: Mapping[str, int], work: float
) -> tuple[list[Task], Schedule]:
    tasks, capacities = _tasks(left, people, given, under_way)
    return tasks, schedule(tasks, capacities, work)


def _tasks(
    left: Sequence[Step], people: Sequence[str], given: Mapping[str, str], under_way: Mapping[str, int]
) -> tuple[list[Task], dict[str, int]]:
    tasks = [_task(step, people, given, under_way) for step in left]
    return tasks, {f"at {step.device}": 1 for step in left if step.device is not None}


def _task(step: Step, people: Sequence[str], given: Mapping[str, str], under_way: Mapping[str, int]) -> Task:
    asked = (given.get(key) for key in (step.id, f"device:{step.device}", f"stage:{step.stage}"))
    whose = next((one for one in asked if one in people), None)
    count = min(step.people, len(people))
    return Task(
        key=step.id,
        takes=round(step.takes_s),
        waits=round(step.waits_s),
        after=step.after,
        uses={f"at {step.device}": 1} if step.device is not None else {},
        one_of=(whose,) if whose is not None and count == 1 else tuple(people),
        count=count,
        from_=max((under_way[key] for key in step.after if key in under_way), default=0),
    )


def _turn(task: Task, found: Schedule, critical: set[str]) -> Turn:
    start = found.starts[task.key]
    return Turn(
        step=task.key,
        by=found.by[task.key],
        from_s=float(start),
        to_s=float(start + task.takes),
        ready_s=float(start + task.takes + task.waits),
        is_critical=task.key in critical,
    )


def _critical(tasks: Sequence[Task], found: Schedule) -> set[str]:
    """The tasks that hold up the end: back from the last ones, each that another begins right after, for its sake.

    One begins for the sake of another that it waits for, or that had the same hands or the same place.
    """
    known = {task.key: task for task in tasks}
    ahead = [task.key for task in tasks if found.starts[task.key] + task.takes + task.waits == found.end]
    critical: set[str] = set()
    while ahead:
        key = ahead.pop()
        if key in critical:
            continue
        critical.add(key)
        task, start = known[key], found.starts[key]
        for other in tasks:
            over = found.starts[other.key] + other.takes
            waited_for = other.key in task.after and over + other.waits == start
            shares = bool(set(found.by[other.key]) & set(found.by[key]) or set(other.uses) & set(task.uses))
            if other.key != key and (waited_for or (over == start and shares and other.takes)):
                ahead.append(other.key)
    return critical
