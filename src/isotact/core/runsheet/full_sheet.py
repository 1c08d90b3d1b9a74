"""From conditions to the steps of a whole build: all that makes a condition true, and what manners ask for."""

from collections import Counter
from collections.abc import Iterator

from isotact.core.model.keys import Key
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Stage
from isotact.core.runsheet.cautions import cautions_at, left_free
from isotact.core.runsheet.sheet import RunSheet, Step
from isotact.core.runsheet.topological_order import in_order
from isotact.core.trades import TRADES, Condition, Node, Planned, StepGraph


def sheet_of(planned: Planned, ordered: list[Node]) -> RunSheet:
    """The sheet of these steps in this order."""
    steps = tuple(steps_of(planned, ordered))
    took_s = sum(step.takes_s for step in steps)
    return RunSheet(rig=planned.plan.rig, steps=steps, takes_s=took_s, warnings=planned.plan.warnings)


def in_full_order(planned: Planned, graph: StepGraph, torn: bool = False) -> list[Node]:
    """Every step of `graph` in its place, by the schools of the rig. `torn`: a ring of steps is torn somewhere.

    Raises NoOrderError where the steps wait for each other, and no ring may be torn.
    """
    away = [device for device, placed in planned.rig.devices.items() if placed.stage == Stage.OFF_GIMBAL]
    last = planned.rig.rig.schools.balance == "after-outer-cables"
    return in_order(list(graph), balance_last=last, last=away, torn=torn)


def graph_of(planned: Planned, conditions: tuple[Condition, ...]) -> StepGraph:
    """The steps and what they wait for. A step that no promise needs is care."""
    graph = StepGraph()
    for condition in conditions:
        draft = condition.draft(planned.rig)
        if draft is not None:
            graph.add(draft, condition.promises)
    for trade in TRADES:
        for draft in trade.care(planned):
            graph.add(draft)
    graph.tie(conditions, lambda act: act.spoils(planned.rig))
    for node in graph:
        node.care = node.care or not node.promises
    for trade in TRADES:
        trade.arrange(planned, graph)
    graph.grant_wishes()
    return graph


def steps_of(planned: Planned, ordered: list[Node]) -> Iterator[Step]:
    """Steps as they stand on the sheet: with their cautions, and titles that no two share."""
    rig = planned.rig
    names = {node.key: str(node.key) for node in ordered}  # each is named by many others
    said = cautions_at(planned, ordered)
    free = left_free(planned, ordered)
    titles = _titles(rig, ordered)
    told: set[str] = set()
    done: set[Key] = set()
    for node in ordered:
        draft = node.draft
        again = {line for about, line in draft.once if about in told}
        told |= {about for about, _ in draft.once}
        following = [line for key, line in draft.following if key in done]
        done.add(node.key)
        warned = [one for one in dict.fromkeys((*node.cautions, *said.get(node.key, ()))) if one not in told]
        told |= {*warned}
        yield Step(
            id=names[node.key],
            stage=node.stage,
            title=titles[node.key],
            detail=(*(line for line in draft.detail if line not in again), *following, *free.get(node.key, ())),
            ends=draft.ends,
            avoid=draft.avoid,
            device=draft.device,
            tag=draft.tag,
            expect=draft.expect,
            takes_s=draft.takes_s,
            waits_s=draft.act.waits_s(rig),
            people=draft.people,
            act=draft.act,
            makes=tuple(str(key) for key in node.makes),
            after=tuple(names[key] for key in node.after if key in names),
            cautions=tuple(warned),
            care=node.care,
            promises=tuple(node.promises),
            asks=draft.asks,
            card=draft.card,
        )


def _titles(rig: ResolvedRig, ordered: list[Node]) -> dict[Key, str]:
    """Titles that no two steps share: by the flag or the asset tag where two would, by number where these are alike."""
    plain = Counter(node.draft.title for node in ordered)
    titles = {
        node.key: node.draft.title if plain[node.draft.title] == 1 else f"{node.draft.title}{_which(rig, node)}"
        for node in ordered
    }
    given: Counter[str] = Counter()
    for key, title in titles.items():
        given[title] += 1
        if given[title] > 1:
            titles[key] = f"{title}, {given[title]}"
    return titles


def _which(rig: ResolvedRig, node: Node) -> str:
    """What tells a step from another of the same title."""
    device = node.draft.device
    mark = node.draft.tag or (rig[device].device.tag if device is not None else None)
    return f" ({mark})" if mark is not None else ""
