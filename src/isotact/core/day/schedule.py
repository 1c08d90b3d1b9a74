"""The shortest way through tasks that wait for each other and need resources of which there are only so many.

The resource-constrained project scheduling problem with time lags: minimise the end of the last task. CP-SAT, one
worker and a fixed seed, bounded by the solver's own measure of work: the same tasks always give the same answer.
"""

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any, Literal

from isotact.core.day.justified import Justifier
from isotact.core.day.tasks import Task
from isotact.core.solver import new_model, solve_within

WORK = 0.06
"""So much work the solver may put into it, in its own measure: about half a second. With it three people are within 2 %
of the bound over 77 steps."""


@dataclass(frozen=True)
class Schedule:
    """When each task begins, who of `one_of` does it, and the end of all.

    `bound`: no schedule ends earlier. It is proven to be the shortest where that is the end.
    """

    starts: Mapping[str, int]
    by: Mapping[str, tuple[str, ...]]
    end: int
    bound: int

    @property
    def status(self) -> Literal["proven", "best-so-far"]:
        return "proven" if self.bound >= self.end else "best-so-far"


def schedule(tasks: Sequence[Task], capacities: Mapping[str, int] | None = None, work: float = WORK) -> Schedule:
    """The shortest schedule of `tasks`, or the best that so much work finds; never worse than a simple one.

    `capacities`: of each resource in `uses`, how much there is at once. Without `work` nothing is proven.
    """
    if not tasks:
        return Schedule({}, {}, 0, 0)
    known = capacities or {}
    # The better of two simple schedules: never worse than that, and the shorter the horizon, the sooner the solver is
    # done.
    orders = (tasks, _longest_tail_first(tasks))
    simple = min((_one_after_the_other(order, known) for order in orders), key=lambda one: one.end)
    if _are_alike(tasks):
        people = max(len(task.one_of) for task in tasks)
        starts = Justifier(tasks, known, people).best(simple.starts)
        end = max(starts[task.key] + task.takes + task.waits for task in tasks)
        simple = min(simple, Schedule(starts, _dealt_out(tasks, starts), end, 0), key=lambda one: one.end)
    found = _Model(tasks, known, horizon=simple.end).solved(simple, work) if work else simple
    return _moved_up(tasks, known, found)


def _are_alike(tasks: Sequence[Task]) -> bool:
    """Whether nobody is given anything of his own.

    Then so many hands at once is all that there is to say, and who it is can be dealt out afterwards.
    """
    return len({task.one_of for task in tasks if task.one_of}) <= 1


def least_end(tasks: Sequence[Task], capacities: Mapping[str, int]) -> int:
    """A moment before which no schedule ends, by what has to come before, between and after.

    Of all tasks that cannot begin before some moment and after which so much must still go by, the work lies between:
    it takes as long as all hands, or all there is of a resource, need for it (energetic reasoning; Baptiste, Le Pape
    and Nuijten, Constraint-Based Scheduling, 2001, chapter 3).
    """
    known = {task.key: task for task in tasks}
    heads: dict[str, int] = {}
    tails: dict[str, int] = {task.key: task.waits for task in tasks}
    for task in tasks:
        over = (heads[key] + known[key].takes + known[key].waits for key in task.after if key in heads)
        heads[task.key] = max(task.from_, *over, 0)
    for task in reversed(tasks):
        for key in task.after:
            if key in tails:
                tails[key] = max(tails[key], known[key].waits + task.takes + tails[task.key])
    everybody = {person for task in tasks for person in task.one_of}
    rooms = [(len(everybody), {task.key: task.takes * task.count for task in tasks if task.one_of})]
    for resource, room in capacities.items():
        rooms.append((room, {one.key: one.takes * one.uses[resource] for one in tasks if resource in one.uses}))
    least = max((heads[key] + task.takes + tails[key] for key, task in known.items()), default=0)
    for room, work in rooms:
        for head in {heads[key] for key in work} if room else ():
            held = 0
            for key in sorted((key for key in work if heads[key] >= head), key=lambda one: -tails[one]):
                held += work[key]
                least = max(least, head + -(-held // room) + tails[key])
    return least


class _Model:
    """The tasks as intervals."""

    def __init__(self, tasks: Sequence[Task], capacities: Mapping[str, int], horizon: int) -> None:
        self.model = new_model()
        self.tasks = tasks
        self.starts: dict[str, Any] = {}
        self.taken: dict[tuple[str, str], Any] = {}
        uses: dict[str, list[tuple[Any, int]]] = defaultdict(list)
        alone: dict[str, list[Any]] = defaultdict(list)
        groups: dict[tuple[str, ...], list[tuple[Any, int]]] = defaultdict(list)
        self.end = self.model.new_int_var(0, horizon, "end")
        for task in tasks:
            start = self.model.new_int_var(task.from_, max(task.from_, horizon - task.takes), task.key)
            self.starts[task.key] = start
            interval = self.model.new_fixed_size_interval_var(start, task.takes, task.key)
            for resource, amount in task.uses.items():
                uses[resource].append((interval, amount))
            self._deal(task, start, alone)
            if task.one_of:
                groups[task.one_of].append((interval, task.count))
            self.model.add(self.end >= start + task.takes + task.waits)
        for task in tasks:
            for other in task.after:
                before = next((one for one in tasks if one.key == other), None)
                if before is not None:
                    self.model.add(self.starts[task.key] >= self.starts[other] + before.takes + before.waits)
        for resource, held in uses.items():
            self.model.add_cumulative([one for one, _ in held], [n for _, n in held], capacities[resource])
        for intervals in alone.values():
            self.model.add_no_overlap(intervals)
        for group, members in groups.items():
            # Says nothing new, and closes the bound far sooner than single persons do.
            self.model.add_cumulative([one for one, _ in members], [n for _, n in members], len(group))
        # Said outright: the solver finds the schedule at once, and would look for this reason for long.
        self.model.add(self.end >= least_end(tasks, capacities))
        self.model.minimize(self.end)

    def _deal(self, task: Task, start: Any, alone: dict[str, list[Any]]) -> None:
        # It takes all of them: there is nobody to choose.
        if len(task.one_of) == task.count:
            for person in task.one_of:
                alone[person].append(self.model.new_fixed_size_interval_var(start, task.takes, f"{task.key} {person}"))
            return
        chosen = []
        for person in task.one_of:
            taken = self.model.new_bool_var(f"{task.key} by {person}")
            self.taken[task.key, person] = taken
            chosen.append(taken)
            alone[person].append(
                self.model.new_optional_fixed_size_interval_var(start, task.takes, taken, f"{task.key} {person}")
            )
        self.model.add(sum(chosen) == task.count)

    def solved(self, simple: Schedule, work: float) -> Schedule:
        # It begins where the simple schedule stands, so that being stopped early never costs anything.
        for task in self.tasks:
            self.model.add_hint(self.starts[task.key], simple.starts[task.key])
        for (key, person), taken in self.taken.items():
            self.model.add_hint(taken, person in simple.by[key])
        solver, verdict = solve_within(self.model, work)
        bound = round(solver.best_objective_bound)
        if verdict not in ("optimal", "feasible"):
            return Schedule(simple.starts, simple.by, simple.end, max(0, min(bound, simple.end)))
        starts = {key: solver.value(start) for key, start in self.starts.items()}
        by = {
            task.key: tuple(
                person
                for person in task.one_of
                if (task.key, person) not in self.taken or solver.value(self.taken[task.key, person])
            )
            for task in self.tasks
        }
        return Schedule(starts, by, round(solver.objective_value), bound)


def _dealt_out(tasks: Sequence[Task], starts: Mapping[str, int]) -> dict[str, tuple[str, ...]]:
    """Who does what, where any could do each and never more are needed at once than there are: whoever is free."""
    free_from: dict[str, int] = {person: 0 for task in tasks for person in task.one_of}
    by: dict[str, tuple[str, ...]] = {}
    for task in sorted(tasks, key=lambda one: starts[one.key]):
        free = [person for person in task.one_of if free_from[person] <= starts[task.key]]
        by[task.key] = tuple(free[: task.count])
        free_from |= dict.fromkeys(by[task.key], starts[task.key] + task.takes)
    return by


def _longest_tail_first(tasks: Sequence[Task]) -> list[Task]:
    """The tasks in an order that keeps what waits for what, each time the one with the most still hanging on it."""
    known = {task.key: task for task in tasks}
    tails: dict[str, int] = {}
    followers: dict[str, list[str]] = defaultdict(list)
    for task in tasks:
        for other in task.after:
            followers[other].append(task.key)
    for task in reversed(tasks):
        tails[task.key] = task.takes + task.waits + max((tails[key] for key in followers[task.key]), default=0)
    placed: dict[str, Task] = {}
    while len(placed) < len(tasks):
        ready = (
            task
            for task in tasks
            if task.key not in placed and all(one in placed or one not in known for one in task.after)
        )
        chosen = max(ready, key=lambda task: tails[task.key])
        placed[chosen.key] = chosen
    return list(placed.values())


def _moved_up(tasks: Sequence[Task], capacities: Mapping[str, int], found: Schedule) -> Schedule:
    """The same order and people, each task as soon as it can be: nobody stands about for no reason."""
    place = {task.key: (found.starts[task.key], number) for number, task in enumerate(tasks)}
    fixed = [replace(task, one_of=found.by[task.key]) for task in sorted(tasks, key=lambda task: place[task.key])]
    moved = _one_after_the_other(fixed, capacities)
    return Schedule(moved.starts, found.by, moved.end, found.bound)


def _one_after_the_other(tasks: Sequence[Task], capacities: Mapping[str, int]) -> Schedule:
    """Each task as soon as it can be, in the order given, by whoever is free first: a serial schedule.

    Tasks come after those that they wait for; what waits for a later one raises ValueError.
    """
    known = {task.key: task for task in tasks}
    placed: dict[str, int] = {}
    by: dict[str, tuple[str, ...]] = {}
    for task in tasks:
        late = [other for other in task.after if other in known and other not in placed]
        if late:
            raise ValueError(f"found {task.key} before {late[0]}, for which it waits; give them in their order")
        ready = max(
            (placed[other] + known[other].takes + known[other].waits for other in task.after if other in known),
            default=0,
        )
        # It begins when it may, or when something else ends: at no moment in between does anything become free.
        moments = sorted(
            {max(ready, task.from_)}
            | {end for key, start in placed.items() if (end := start + known[key].takes) > max(ready, task.from_)}
        )
        for moment in moments:
            people = _free(task, moment, placed, by, known)
            if people is not None and _fits(task, moment, placed, known, capacities):
                placed[task.key], by[task.key] = moment, people
                break
    end = max(placed[task.key] + task.takes + task.waits for task in tasks)
    return Schedule(placed, by, end, 0)


def _overlaps(task: Task, at: int, other: Task, start: int) -> bool:
    return at < start + other.takes and start < at + task.takes


def _free(
    task: Task, at: int, placed: Mapping[str, int], by: Mapping[str, tuple[str, ...]], known: Mapping[str, Task]
) -> tuple[str, ...] | None:
    busy = {person for key, start in placed.items() if _overlaps(task, at, known[key], start) for person in by[key]}
    free = [person for person in task.one_of if person not in busy]
    return tuple(free[: task.count]) if len(free) >= task.count else None


def _fits(
    task: Task, at: int, placed: Mapping[str, int], known: Mapping[str, Task], capacities: Mapping[str, int]
) -> bool:
    """Whether every resource suffices at each moment at which something else begins while the task lasts."""
    beside = [(known[key], start) for key, start in placed.items() if _overlaps(task, at, known[key], start)]
    for moment in {at, *(start for _, start in beside if start > at)}:
        for resource, amount in task.uses.items():
            held = sum(other.uses.get(resource, 0) for other, start in beside if start <= moment < start + other.takes)
            if held + amount > capacities[resource]:
                return False
    return True
