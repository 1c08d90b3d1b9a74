"""From conditions to a run sheet: every step that makes a condition true, and those that manners ask for."""

from collections.abc import Iterator, Mapping

from isotact.core.model.keys import Key
from isotact.core.model.plan import Plan
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Stage
from isotact.core.runsheet.ordering import in_order
from isotact.core.runsheet.sheet import RunSheet, Step
from isotact.core.trades import TRADES, Condition, Node, Planned, StepGraph, conditions_of


def run_sheet(rig: ResolvedRig, plan: Plan, conditions: tuple[Condition, ...] | None = None) -> RunSheet:
    """The steps that carry out `plan`, in an order in which each can be done and stays done.

    `conditions` are those of the plan, where they are known already.
    """
    planned = Planned(rig, plan)
    graph = graph_of(planned, conditions_of(rig, plan) if conditions is None else conditions)
    away = [device for device, placed in rig.devices.items() if placed.stage == Stage.OFF_GIMBAL]
    ordered = in_order(list(graph), balance_last=rig.rig.schools.balance == "after-outer-cables", last=away)
    names = {node.key: str(node.key) for node in ordered}  # each is named by many others
    steps = tuple(_step(rig, node, names) for node in ordered)
    return RunSheet(rig=plan.rig, steps=steps, takes_s=sum(step.takes_s for step in steps), warnings=plan.warnings)


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
    return graph


def _step(rig: ResolvedRig, node: Node, names: Mapping[Key, str]) -> Step:
    draft = node.draft
    return Step(
        id=names[node.key],
        stage=node.stage,
        title=draft.title,
        detail=draft.detail,
        avoid=draft.avoid,
        device=draft.device,
        tag=draft.tag,
        expect=draft.expect,
        takes_s=draft.takes_s,
        act=draft.act,
        makes=tuple(str(key) for key in node.makes),
        after=tuple(names[key] for key in node.after),
        cautions=tuple(dict.fromkeys((*node.cautions, *_cautions(rig, node)))),
        care=node.care,
        promises=tuple(node.promises),
    )


def _cautions(rig: ResolvedRig, node: Node) -> Iterator[str]:
    """The cautions of the devices that a step touches, at the step where they matter."""
    if not node.act.warns:
        return
    touched = {*node.act.touches(), *((node.draft.device,) if node.draft.device else ())}
    stages = node.act.caution_stages(node.stage)
    for device in sorted(touched):
        yield from (caution.says for caution in rig[device].profile.cautions if caution.at in stages)
