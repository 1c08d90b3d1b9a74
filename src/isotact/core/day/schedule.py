"""The shortest way through jobs that wait for each other and need resources of which there are only so many.

The resource-constrained project scheduling problem with time lags: minimise the end of the last job. CP-SAT, one worker
and a fixed seed, bounded by the solver's own measure of work, so that the same jobs always give the same answer.
"""

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any, Literal

WORK = 0.08
"""So much work the solver may put into it, in its own measure: about half a second."""


@dataclass(frozen=True)
class Task:
    """One job. `takes`, `waits`: whole units of time, the second after its end, in which it holds no resource.

    `after`: the jobs that must be over, their wait too. `uses`: resource -> how much of it. `one_of`: those of whom it
    takes some entirely, such as persons; `count` of them. `from_`: the earliest moment at which it can begin.
    """

    key: str
    takes: int
    waits: int = 0
    after: tuple[str, ...] = ()
    uses: Mapping[str, int] = field(default_factory=dict)
    one_of: tuple[str, ...] = ()
    count: int = 0
    from_: int = 0


@dataclass(frozen=True)
class Schedule:
    """When each job begins, who of `one_of` does it, and the end of all.

    `bound`: no schedule ends earlier. It is proven to be the shortest where that is the end.
    """

    starts: Mapping[str, int]
    by: Mapping[str, tuple[str, ...]]
    end: int
    bound: int

    @property
    def status(self) -> Literal["proven", "best-so-far"]:
        return "proven" if self.bound >= self.end else "best-so-far"


def schedule(jobs: Sequence[Task], capacities: Mapping[str, int] | None = None, work: float = WORK) -> Schedule:
    """The shortest schedule of `jobs`, or the best that so much work finds; never worse than a simple one.

    `capacities`: of each resource in `uses`, how much there is at once.
    """
    if not jobs:
        return Schedule({}, {}, 0, 0)
    known = capacities or {}
    orders = (jobs, _longest_tail_first(jobs))
    simple = min((_one_after_the_other(order, known) for order in orders), key=lambda one: one.end)
    found = _Model(jobs, known, horizon=simple.end).solved(simple, work)
    return _moved_up(jobs, known, found)


class _Model:
    """The jobs as intervals."""

    def __init__(self, jobs: Sequence[Task], capacities: Mapping[str, int], horizon: int) -> None:
        from ortools.sat.python import cp_model

        self.model = cp_model.CpModel()
        self.jobs = jobs
        self.starts: dict[str, Any] = {}
        self.taken: dict[tuple[str, str], Any] = {}
        uses: dict[str, list[tuple[Any, int]]] = defaultdict(list)
        alone: dict[str, list[Any]] = defaultdict(list)
        groups: dict[tuple[str, ...], list[tuple[Any, int]]] = defaultdict(list)
        self.end = self.model.new_int_var(0, horizon, "end")
        for job in jobs:
            start = self.model.new_int_var(job.from_, max(job.from_, horizon - job.takes), job.key)
            self.starts[job.key] = start
            interval = self.model.new_fixed_size_interval_var(start, job.takes, job.key)
            for resource, amount in job.uses.items():
                uses[resource].append((interval, amount))
            self._deal(job, start, alone)
            if job.one_of:
                groups[job.one_of].append((interval, job.count))
            self.model.add(self.end >= start + job.takes + job.waits)
        for job in jobs:
            for other in job.after:
                before = next((one for one in jobs if one.key == other), None)
                if before is not None:
                    self.model.add(self.starts[job.key] >= self.starts[other] + before.takes + before.waits)
        for resource, held in uses.items():
            self.model.add_cumulative([one for one, _ in held], [n for _, n in held], capacities[resource])
        for intervals in alone.values():
            self.model.add_no_overlap(intervals)
        for group, members in groups.items():
            # Says nothing new, and closes the bound far sooner than single persons do.
            self.model.add_cumulative([one for one, _ in members], [n for _, n in members], len(group))
        self._at_least()
        self.model.minimize(self.end)

    def _at_least(self) -> None:
        """All that has to be done, by all who can do it, and then what goes on by itself: said outright, since the
        solver finds the schedule at once and would look for this reason for long.
        """
        everybody = {person for job in self.jobs for person in job.one_of}
        work = sum(job.takes * job.count for job in self.jobs if job.one_of)
        if everybody:
            tail = min((job.waits for job in self.jobs if job.one_of), default=0)
            self.model.add(self.end * len(everybody) >= work + tail * len(everybody))

    def _deal(self, job: Task, start: Any, alone: dict[str, list[Any]]) -> None:
        if len(job.one_of) == job.count:
            for person in job.one_of:
                alone[person].append(self.model.new_fixed_size_interval_var(start, job.takes, f"{job.key} {person}"))
            return
        chosen = []
        for person in job.one_of:
            taken = self.model.new_bool_var(f"{job.key} by {person}")
            self.taken[job.key, person] = taken
            chosen.append(taken)
            alone[person].append(
                self.model.new_optional_fixed_size_interval_var(start, job.takes, taken, f"{job.key} {person}")
            )
        self.model.add(sum(chosen) == job.count)

    def solved(self, simple: Schedule, work: float) -> Schedule:
        from ortools.sat.python import cp_model

        for job in self.jobs:
            self.model.add_hint(self.starts[job.key], simple.starts[job.key])
        for (key, person), taken in self.taken.items():
            self.model.add_hint(taken, person in simple.by[key])
        solver = cp_model.CpSolver()
        solver.parameters.num_workers = 1
        solver.parameters.random_seed = 1
        solver.parameters.max_deterministic_time = work
        found = solver.solve(self.model)
        bound = round(solver.best_objective_bound)
        if found not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            return Schedule(simple.starts, simple.by, simple.end, max(0, min(bound, simple.end)))
        starts = {key: solver.value(start) for key, start in self.starts.items()}
        by = {
            job.key: tuple(
                person
                for person in job.one_of
                if (job.key, person) not in self.taken or solver.value(self.taken[job.key, person])
            )
            for job in self.jobs
        }
        return Schedule(starts, by, round(solver.objective_value), bound)


def _longest_tail_first(jobs: Sequence[Task]) -> list[Task]:
    """The jobs in an order that keeps what waits for what, each time the one with the most still hanging on it."""
    known = {job.key: job for job in jobs}
    tails: dict[str, int] = {}
    followers: dict[str, list[str]] = defaultdict(list)
    for job in jobs:
        for other in job.after:
            followers[other].append(job.key)
    for job in reversed(jobs):
        tails[job.key] = job.takes + job.waits + max((tails[key] for key in followers[job.key]), default=0)
    placed: dict[str, Task] = {}
    while len(placed) < len(jobs):
        ready = (
            job for job in jobs if job.key not in placed and all(one in placed or one not in known for one in job.after)
        )
        chosen = max(ready, key=lambda job: tails[job.key])
        placed[chosen.key] = chosen
    return list(placed.values())


def _moved_up(jobs: Sequence[Task], capacities: Mapping[str, int], found: Schedule) -> Schedule:
    """The same order and people, each job as soon as it can be: nobody stands about for no reason."""
    place = {job.key: (found.starts[job.key], number) for number, job in enumerate(jobs)}
    fixed = [replace(job, one_of=found.by[job.key]) for job in sorted(jobs, key=lambda job: place[job.key])]
    moved = _one_after_the_other(fixed, capacities)
    return Schedule(moved.starts, found.by, moved.end, found.bound)


def _one_after_the_other(jobs: Sequence[Task], capacities: Mapping[str, int]) -> Schedule:
    """Each job as soon as it can be, in the order given, by whoever is free first: a serial schedule.

    Jobs come after those that they wait for; what waits for a later one raises ValueError.
    """
    known = {job.key: job for job in jobs}
    placed: dict[str, int] = {}
    by: dict[str, tuple[str, ...]] = {}
    for job in jobs:
        late = [other for other in job.after if other in known and other not in placed]
        if late:
            raise ValueError(f"found {job.key} before {late[0]}, for which it waits; give them in their order")
        ready = max(
            (placed[other] + known[other].takes + known[other].waits for other in job.after if other in known),
            default=0,
        )
        moments = sorted(
            {max(ready, job.from_)}
            | {end for key, start in placed.items() if (end := start + known[key].takes) > max(ready, job.from_)}
        )
        for moment in moments:
            people = _free(job, moment, placed, by, known)
            if people is not None and _fits(job, moment, placed, known, capacities):
                placed[job.key], by[job.key] = moment, people
                break
    end = max(placed[job.key] + job.takes + job.waits for job in jobs)
    return Schedule(placed, by, end, 0)


def _overlaps(job: Task, at: int, other: Task, start: int) -> bool:
    return at < start + other.takes and start < at + job.takes


def _free(
    job: Task, at: int, placed: Mapping[str, int], by: Mapping[str, tuple[str, ...]], known: Mapping[str, Task]
) -> tuple[str, ...] | None:
    busy = {person for key, start in placed.items() if _overlaps(job, at, known[key], start) for person in by[key]}
    free = [person for person in job.one_of if person not in busy]
    return tuple(free[: job.count]) if len(free) >= job.count else None


def _fits(
    job: Task, at: int, placed: Mapping[str, int], known: Mapping[str, Task], capacities: Mapping[str, int]
) -> bool:
    """Whether every resource suffices at each moment at which something else begins while the job lasts."""
    beside = [(known[key], start) for key, start in placed.items() if _overlaps(job, at, known[key], start)]
    for moment in {at, *(start for _, start in beside if start > at)}:
        for resource, amount in job.uses.items():
            held = sum(other.uses.get(resource, 0) for other, start in beside if start <= moment < start + other.takes)
            if held + amount > capacities[resource]:
                return False
    return True
