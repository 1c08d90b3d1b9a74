"""Puts steps in order: what must come first comes first; where that leaves a choice, the stages of the job decide."""

import heapq
from collections import defaultdict
from collections.abc import Collection

from isotact.core.model.keys import Key
from isotact.core.model.problems import IsotactError
from isotact.core.model.words import JOB_STAGES
from isotact.core.trades import Node


class NoOrderError(IsotactError):
    """The steps wait for each other in a ring. A plan whose wake order is sound never gives one."""


def in_order(
    nodes: list[Node], balance_last: bool = False, last: Collection[str] = (), torn: bool = False
) -> list[Node]:
    """`nodes` so that each comes after what it names in `after`; ties by stage, device and name.

    `balance_last` is the second school: every cable first, then balance once. Devices in `last` come
    after the others of their stage.
    """
    stages: list[str] = list(JOB_STAGES)
    if balance_last:
        stages.remove("balance")
        stages.insert(stages.index("outer-cables") + 1, "balance")
    known = {node.key: node for node in nodes}
    waiting = {node.key: {key for key in node.after if key in known} for node in nodes}
    followers: dict[Key, list[Key]] = defaultdict(list)
    for key, before in waiting.items():
        for other in before:
            followers[other].append(key)
    # Keys are compared by the words of their rank alone: the last of it is the key's own text, which no two share.
    ready = [(_rank(known[key], stages, last), key) for key, before in waiting.items() if not before]
    heapq.heapify(ready)
    ordered: list[Node] = []
    done: set[Key] = set()
    while ready or (torn and len(ordered) < len(nodes)):
        if not ready:  # a ring: it is torn at the step that would be first of them
            ready = [min((_rank(known[key], stages, last), key) for key in waiting if key not in done)]
        _, key = heapq.heappop(ready)
        done.add(key)
        ordered.append(known[key])
        for other in followers[key]:
            waiting[other].discard(key)
            if not waiting[other] and other not in done:
                heapq.heappush(ready, (_rank(known[other], stages, last), other))
    if len(ordered) != len(nodes):
        left = ", ".join(sorted(str(key) for key in set(known) - {node.key for node in ordered}))
        raise NoOrderError(f"These steps wait for each other: {left}.")
    return ordered


_BY_KIND = ("gather", "lens")
"""The stages in which like is done with like; in the others what is done at one device stays together."""


def _rank(node: Node, stages: list[str], last: Collection[str]) -> tuple[int, int, bool, str, int, str]:
    draft = node.draft
    device = draft.device or ""
    within = draft.act.rank if node.stage in _BY_KIND else 0
    by_tag = "" if node.stage == "menus" else (draft.tag or "")
    return stages.index(node.stage), within, device in last, by_tag.rjust(4) + device, node.visit, str(node.key)
