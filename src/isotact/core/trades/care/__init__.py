"""Care: good manners that profiles ask for, and the proof of every promise at the end."""

from collections.abc import Callable, Iterator
from typing import Any

from isotact.core.model.keys import Item, Key
from isotact.core.model.rig import ControlPromise, PicturePromise, PowerPromise
from isotact.core.model.words import FUNCTIONS
from isotact.core.telling.words import promise_words
from isotact.core.trades.base import Draft
from isotact.core.trades.care.acts import Prove, TakeALook
from isotact.core.trades.graph import StepGraph
from isotact.core.trades.planned import Planned
from isotact.core.trades.trade import Trade


def _care(planned: Planned) -> Iterator[Draft]:
    for device in planned.in_use:
        placed = planned.rig[device]
        for number, care in enumerate(placed.profile.care):
            yield Draft(
                key=Key.of("care", Item(device, str(number))),
                stage=care.at,
                title=f"{placed.name}: take care",
                detail=(care.says,),
                device=device,
                expect="Done, or left out knowingly.",
                takes_s=30,
                act=TakeALook(),
                care=True,
            )
    for promise in planned.rig.rig.promises:
        if promise.id in planned.plan.kept:
            detail, expect = _PROOFS[promise.kind](promise)
            yield Draft(
                key=Key.of("prove", promise.id),
                stage="prove",
                title=f"Prove: {promise_words(planned.rig, promise)}",
                detail=(f"For {promise.who}.", *detail),
                device=promise.place,
                expect=expect,
                takes_s=15,
                act=Prove(promise=promise.id),
                promises=(promise.id,),
            )


def _control(promise: ControlPromise) -> tuple[list[str], str]:
    function = FUNCTIONS[promise.function]
    detail = [f"{function.act[0].upper()}{function.act[1:]}."]
    if function.rolls:
        detail.append("See that a card is in. The button toggles: never leave a test rolling.")
    return detail, f"{function.seen[0].upper()}{function.seen[1:]}."


def _picture(promise: PicturePromise) -> tuple[list[str], str]:
    detail = ["Wave a hand before the lens."]
    if promise.within_ms is not None:
        detail.append(f"Film a running clock beside the screen: at most {promise.within_ms:g} ms behind.")
    return detail, "The picture is there and moves with the hand."


def _power(promise: PowerPromise) -> tuple[list[str], str]:
    return ["Read every battery level."], f"Each lasts {promise.hours_h:g} h at this load."


_PROOFS: dict[str, Callable[[Any], tuple[list[str], str]]] = {
    "control": _control, "picture": _picture, "power": _power,
}  # fmt: skip


def _arrange(planned: Planned, graph: StepGraph) -> None:
    """Care of waking comes after it; proofs come when all is done that is not care."""
    proofs = graph.doing(Prove)
    doing = [node.key for node in graph if not node.care and not isinstance(node.act, Prove)]
    for node in graph:
        if node.key.kind == "care" and node.draft.stage == "wake" and node.draft.device is not None:
            graph.order(Key.of("wake", node.draft.device), node.key)
    for proof in proofs:
        graph.order_all(doing, proof)


TRADE = Trade(name="care", acts=(TakeALook, Prove), care=_care, arrange=_arrange)
