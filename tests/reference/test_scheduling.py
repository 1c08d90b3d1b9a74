"""The schedule of jobs against trying every order, and against a published instance with a known optimum."""

from itertools import permutations
from pathlib import Path
from random import Random

import pytest

from isotact.core.day import Schedule, Task, schedule
from isotact.core.day.schedule import _one_after_the_other

PSPLIB = Path(__file__).parent / "psplib"


def small(seed: int) -> tuple[list[Task], dict[str, int]]:
    """Five or six jobs with waits, two sorts of resources, and persons of whom each takes one or two."""
    draw = Random(seed)
    people = ("a", "b", "c")[: draw.randint(1, 3)]
    capacities = {"place": 1, "cable": draw.randint(1, 3)}
    jobs: list[Task] = []
    for number in range(draw.randint(5, 6)):
        uses = {"place": 1} if draw.random() < 0.4 else {"cable": draw.randint(1, capacities["cable"])}
        jobs.append(
            Task(
                key=f"job-{number}",
                takes=draw.randint(1, 9),
                waits=draw.choice([0, 0, 0, draw.randint(1, 12)]),
                after=tuple(job.key for job in jobs if draw.random() < 0.3),
                uses=uses if draw.random() < 0.6 else {},
                one_of=people,
                count=draw.randint(1, min(2, len(people))),
                from_=draw.choice([0, 0, draw.randint(1, 6)]),
            )
        )
    return jobs, capacities


def shortest(jobs: list[Task], capacities: dict[str, int]) -> int:
    """Among the serial schedules of all orders is one that ends earliest (Kolisch 1996, active schedules)."""
    return min(_one_after_the_other(order, capacities).end for order in permutations(jobs) if _keeps(order))


def _keeps(order: tuple[Task, ...]) -> bool:
    place = {job.key: number for number, job in enumerate(order)}
    return all(place[other] < place[job.key] for job in order for other in job.after)


def must_hold(jobs: list[Task], capacities: dict[str, int], found: Schedule) -> None:
    """Checked moment by moment, with nothing of the planner's."""
    known = {job.key: job for job in jobs}
    for job in jobs:
        start = found.starts[job.key]
        assert start >= job.from_
        for other in job.after:
            assert start >= found.starts[other] + known[other].takes + known[other].waits
        assert len(set(found.by[job.key])) == job.count if job.one_of else True
    for moment in range(found.end):
        running = [job for job in jobs if found.starts[job.key] <= moment < found.starts[job.key] + job.takes]
        hands = [person for job in running for person in found.by[job.key]]
        assert len(hands) == len(set(hands))
        for resource, capacity in capacities.items():
            assert sum(job.uses.get(resource, 0) for job in running) <= capacity


@pytest.mark.parametrize("block", range(10))
def test_two_hundred_small_ones_end_as_early_as_trying_everything(block: int):
    for seed in range(block * 20, block * 20 + 20):
        jobs, capacities = small(seed)
        found = schedule(jobs, capacities)
        must_hold(jobs, capacities, found)
        assert (found.end, found.status) == (shortest(jobs, capacities), "proven"), f"seed {seed}"


def published(name: str) -> tuple[list[Task], dict[str, int]]:
    """An instance of PSPLIB in its own format (Kolisch and Sprecher 1996, European Journal of Operational Research)."""
    text = (PSPLIB / name).read_text(encoding="utf-8")
    follow, needs, available = (part.splitlines() for part in _parts(text))
    followers = {row[0]: row[3:] for row in _numbers(follow)}
    rows = {row[0]: row[2:] for row in _numbers(needs)}
    capacities = {f"R{number}": amount for number, amount in enumerate(_numbers(available)[0])}
    jobs = [
        Task(
            key=str(key),
            takes=takes,
            uses={f"R{number}": amount for number, amount in enumerate(uses) if amount},
            after=tuple(str(other) for other, nexts in followers.items() if key in nexts),
        )
        for key, (takes, *uses) in rows.items()
    ]
    return jobs, capacities


def _parts(text: str) -> list[str]:
    after = text.split("PRECEDENCE RELATIONS:")[1]
    follow, after = after.split("REQUESTS/DURATIONS:")
    needs, after = after.split("RESOURCEAVAILABILITIES:")
    return [follow, needs, after]


def _numbers(lines: list[str]) -> list[list[int]]:
    rows = [line.split() for line in lines]
    return [[int(part) for part in row] for row in rows if row and all(part.isdigit() for part in row)]


def test_a_published_instance_of_thirty_jobs():
    """Its optimum of 43 is that of the list that goes with the library (j30opt); from memory."""
    jobs, capacities = published("j301_1.sm")
    assert (len(jobs), capacities) == (32, {"R0": 12, "R1": 13, "R2": 4, "R3": 12})
    found = schedule(jobs, capacities, work=5.0)
    must_hold(jobs, capacities, found)
    assert (found.end, found.status) == (43, "proven")
