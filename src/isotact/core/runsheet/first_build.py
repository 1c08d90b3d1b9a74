"""The sheet of a first build, out of the cases: carried out before anybody is given it."""

from isotact.core.model.plan import Plan
from isotact.core.model.resolved import ResolvedRig
from isotact.core.runsheet.full_sheet import graph_of, in_full_order, sheet_of
from isotact.core.runsheet.partial_sheet import sheet_between
from isotact.core.runsheet.sheet import RunSheet
from isotact.core.runsheet.topological_order import NoOrderError
from isotact.core.trades import Condition, Node, Planned, conditions_of, fresh_world, perform
from isotact.core.world import World, prove


def run_sheet(rig: ResolvedRig, plan: Plan, conditions: tuple[Condition, ...] | None = None) -> RunSheet:
    """The steps that carry out `plan`, in an order in which each can be done and stays done.

    `conditions` are those of the plan, where they are known already. Where the order that the trades ask for does not
    prove what the plan keeps, another is looked for by trying.
    """
    known = conditions_of(rig, plan) if conditions is None else conditions
    planned = Planned(rig, plan)
    try:
        ordered = in_full_order(planned, graph_of(planned, known))
    except NoOrderError:
        return sheet_between(fresh_world(rig), plan, known)
    if _missing(planned, known, _carried_out(rig, ordered)):
        return sheet_between(fresh_world(rig), plan, known)
    return sheet_of(planned, ordered)


def not_to_be_built(rig: ResolvedRig, plan: Plan) -> dict[str, str]:
    """The promises of `plan` that no sheet proves, each with what is missing at the end of it; nothing as a rule."""
    known, planned = conditions_of(rig, plan), Planned(rig, plan)
    world = fresh_world(rig)
    for step in run_sheet(rig, plan, known).steps:
        perform(world, step.act, step.takes_s)
    return _missing(planned, known, world)


def _carried_out(rig: ResolvedRig, ordered: list[Node]) -> World:
    world = fresh_world(rig)
    for node in ordered:
        perform(world, node.act, node.draft.takes_s)
    return world


def _missing(planned: Planned, conditions: tuple[Condition, ...], world: World) -> dict[str, str]:
    """Promise -> what does not hold of all that it needs, or else what is seen of it."""
    found: dict[str, str] = {}
    for condition in conditions:
        for promise in condition.promises if not condition.holds(world) else ():
            found.setdefault(promise, condition.says(planned.rig))
    for promise in planned.plan.kept:
        if promise not in found and not (proof := prove(world, promise)).ok:
            found[promise] = proof.seen
    return found
