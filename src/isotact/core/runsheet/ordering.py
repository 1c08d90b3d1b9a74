"""Puts steps in order: what must come first comes first; where that leaves a choice, the stages of the job decide."""

import heapq
from collections import defaultdict
from collections.abc import Collection

from isotact.core.model.problems import IsotactError
from isotact.core.model.steps import JOB_STAGES, Step


class NoOrderError(IsotactError):
    """The steps wait for each other in a ring. A plan whose wake order is sound never gives one."""


def in_order(steps: list[Step], balance_last: bool = False, last: Collection[str] = ()) -> list[Step]:
    """`steps` so that each comes after what it names in `after`; ties by stage, device and id.

    `balance_last` is the second school: every cable first, then balance once. Devices in `last` come
    after the others of their stage.
    """
    stages: list[str] = list(JOB_STAGES)
    if balance_last:
        stages.remove("balance")
        stages.insert(stages.index("outer-cables") + 1, "balance")
    known = {step.id: step for step in steps}
    waiting = {step.id: {key for key in step.after if key in known} for step in steps}
    followers: dict[str, list[str]] = defaultdict(list)
    for key, before in waiting.items():
        for other in before:
            followers[other].append(key)
    ready = [(_rank(known[key], stages, last), key) for key, before in waiting.items() if not before]
    heapq.heapify(ready)
    ordered: list[Step] = []
    while ready:
        _, key = heapq.heappop(ready)
        ordered.append(known[key])
        for other in followers[key]:
            waiting[other].discard(key)
            if not waiting[other]:
                heapq.heappush(ready, (_rank(known[other], stages, last), other))
    if len(ordered) != len(steps):
        left = ", ".join(sorted(set(known) - {step.id for step in ordered}))
        raise NoOrderError(f"These steps wait for each other: {left}.")
    return ordered


_WITHIN = {"lay-out": 0, "fit-battery": 1, "look": 9}


def _rank(step: Step, stages: list[str], last: Collection[str]) -> tuple[int, int, bool, str, int, str]:
    device = step.device or ""
    visit = 0 if step.id.startswith("menu-wake") else 2 if step.id.startswith("menu-sleep") else 1
    by_kind = _WITHIN.get(step.action.kind, 5) if step.stage == "gather" else 0
    by_tag = "" if step.stage == "menus" else (step.tag or "")
    return stages.index(step.stage), by_kind, device in last, by_tag.rjust(4) + device, visit, step.id
