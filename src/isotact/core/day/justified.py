"""Good schedules found quickly: serial ones, justified to and fro, from orders that are shaken a little each time.

The forward-backward improvement of project scheduling (Tormos and Lova 2001, Annals of Operations Research 102, 65-81;
after Li and Willis 1992). From memory. It proves nothing: the solver begins where this ends.
"""

import heapq
from collections.abc import Mapping, Sequence
from random import Random

from isotact.core.day.tasks import Task

SHAKEN = 60
"""So many orders are tried: a fifth of a second for eighty steps, and more hardly ever find anything shorter."""
SHAKE = 60
"""By up to so many units of time a task may come sooner or later in its order than where it stood."""


class Justifier:
    """Tasks of which any can be done by whoever is free. All times are whole units, as the tasks have them."""

    def __init__(self, tasks: Sequence[Task], capacities: Mapping[str, int], people: int) -> None:
        place = {task.key: number for number, task in enumerate(tasks)}
        self._tasks, self._people = tasks, people
        self._capacities = capacities
        self._before = [[place[other] for other in task.after if other in place] for task in tasks]
        self._behind: list[list[int]] = [[] for _ in tasks]
        for number, before in enumerate(self._before):
            for other in before:
                self._behind[other].append(number)

    def best(self, starts: Mapping[str, int]) -> dict[str, int]:
        """The shortest schedule that is found from one that is known; the same for the same tasks."""
        random = Random(1)
        best = now = [starts[task.key] for task in self._tasks]
        for number in range(SHAKEN):
            shaken = [start + (random.uniform(-SHAKE, SHAKE) if number else 0) for start in now]
            found = self._forward(self._in_order(shaken, self._before, self._behind))
            found = self._to_and_fro(found)
            now = found if self._end(found) <= self._end(now) else now
            best = now if self._end(now) < self._end(best) else best
        return {task.key: start for task, start in zip(self._tasks, best, strict=True)}

    def _to_and_fro(self, starts: list[int]) -> list[int]:
        """Each task as late as the end allows, the last first; then each as soon as it can be."""
        late = self._backward(starts)
        again = self._forward(self._in_order(late, self._before, self._behind))
        return again if self._end(again) <= self._end(starts) else starts

    def _end(self, starts: Sequence[int]) -> int:
        return max(start + task.takes + task.waits for start, task in zip(starts, self._tasks, strict=True))

    def _in_order(self, wanted: Sequence[float], before: list[list[int]], behind: list[list[int]]) -> list[int]:
        """The tasks by `wanted`, each after those that it waits for."""
        left = [len(those) for those in before]
        ready = [(wanted[number], number) for number, count in enumerate(left) if not count]
        heapq.heapify(ready)
        order: list[int] = []
        while ready:
            _, number = heapq.heappop(ready)
            order.append(number)
            for other in behind[number]:
                left[other] -= 1
                if not left[other]:
                    heapq.heappush(ready, (wanted[other], other))
        return order

    def _forward(self, order: Sequence[int]) -> list[int]:
        tasks, line = self._tasks, _TimeLine(self._people, self._capacities)
        starts = [0] * len(tasks)
        for number in order:
            task = tasks[number]
            ends = (starts[other] + tasks[other].takes + tasks[other].waits for other in self._before[number])
            starts[number] = line.put(task, max(task.from_, *ends, 0))
        return starts

    def _backward(self, starts: Sequence[int]) -> list[int]:
        """The same from the end: what a task sets going goes by before whatever waits for it, and before the end."""
        tasks, line, end = self._tasks, _TimeLine(self._people, self._capacities), self._end(starts)
        turned = [end - start - task.takes for start, task in zip(starts, tasks, strict=True)]
        found = [0] * len(tasks)
        for number in self._in_order(turned, self._behind, self._before):
            task = tasks[number]
            ends = (found[other] + tasks[other].takes for other in self._behind[number])
            found[number] = line.put(task, max(*ends, 0, 0) + task.waits)
        return [end - start - task.takes for start, task in zip(found, tasks, strict=True)]


class _TimeLine:
    """How much of each resource, and how many hands, are held at each unit of time.

    `_held[resource][n - 1]`: the moments at which n and more are held, a bit each: to look for a gap is then a few
    operations on whole numbers, however long it all takes.
    """

    def __init__(self, people: int, capacities: Mapping[str, int]) -> None:
        self._held = {resource: [0] * count for resource, count in ({"": people} | {**capacities}).items()}

    def put(self, task: Task, ready: int) -> int:
        """Begin a task as soon as everything suffices while it lasts, at `ready` or later; returns when that is."""
        if not task.takes:
            return ready
        asked = [(self._held[resource], amount) for resource, amount in task.uses.items() if amount]
        asked += [(self._held[""], task.count)] if task.count else []
        blocked = 0
        for held, amount in asked:
            blocked |= held[len(held) - amount]
        start = ready + _first_gap(blocked >> ready, task.takes)
        moments = ((1 << task.takes) - 1) << start
        for held, amount in asked:
            for _ in range(amount):
                for level in range(len(held) - 1, 0, -1):
                    held[level] |= held[level - 1] & moments
                held[0] |= moments
        return start


def _first_gap(blocked: int, takes: int) -> int:
    """The first moment from which so many in a row are not blocked."""
    free = ~blocked & ((1 << (blocked.bit_length() + takes)) - 1)
    run = 1
    while run < takes:
        further = min(run, takes - run)
        free &= free >> further
        run += further
    return (free & -free).bit_length() - 1
