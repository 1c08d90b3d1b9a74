"""The bench as whoever stands at it sees it: every device, what lies there, what is in the bag, what can be tried."""

from collections import defaultdict
from collections.abc import Iterable

from pydantic import Field

from isotact.core.bench.hands import HandBench
from isotact.core.bench.moves import Told
from isotact.core.bench.rehearsal import Otherwise
from isotact.core.model.base import Struct
from isotact.core.model.cable import CableType
from isotact.core.model.vocabulary import ConnectorId
from isotact.core.model.words import Id
from isotact.core.runsheet import Step
from isotact.core.trades import AnyHandAct, offered_acts, views_of
from isotact.core.trades.base import HandPlace
from isotact.core.world import Cables, DeviceView, Proof

LAST_TOLD = 40
"""So many moves are told at once: what somebody scrolls back through; the bench itself forgets none."""


class InHand(Struct):
    """A cable with what is plugged onto it, as it lies in a hand.

    `tag`: its tape flag, or the one that the plan has for it. `left`: how many lie in the bag; of what lies flagged and
    ready, how many of its plugs are in no port.
    """

    tag: str
    cable: Id
    name: str
    adapters: tuple[Id, ...] = ()
    ends: tuple[ConnectorId, ...]
    left: int = 1
    planned: bool = Field(default=False, description="the plan has this cable under this flag")


class HandOffer(Struct):
    """Something that a hand can try at a device, in vain or not, and at which part of it."""

    act: AnyHandAct
    says: str
    where: HandPlace
    part: str


class AtBench(Struct):
    """All that is seen at the bench now.

    `count`: how many moves were made. `offers`: what can be tried at the device that was asked about. `worked`: of each
    promise that was worked, how it was seen the last time.
    """

    clock_s: float
    count: int
    devices: tuple[DeviceView, ...]
    lying: tuple[InHand, ...]
    bag: tuple[InHand, ...]
    told: tuple[Told, ...]
    worked: tuple[Proof, ...]
    done: tuple[str, ...]
    last_step: Step | None = Field(default=None, description="what the last move did, where it was a step by name")
    offers: tuple[HandOffer, ...] = ()
    otherwise: tuple[Otherwise, ...] = ()


def seen(bench: HandBench, device: str | None = None) -> AtBench:
    """The bench as it is now, with what can be tried at `device`."""
    return AtBench(
        clock_s=bench.world.clock_s,
        count=len(bench.told),
        devices=tuple(views_of(bench.world)),
        lying=tuple(_lying(bench)),
        bag=tuple(_in_bag(bench)),
        told=tuple(bench.told[-LAST_TOLD:]),
        worked=tuple(bench.worked.values()),
        done=tuple(bench.done),
        last_step=bench.last_step,
        offers=tuple(_offers(bench, device)) if device is not None else (),
        otherwise=tuple(bench.otherwise),
    )


def _offers(bench: HandBench, device: str) -> Iterable[HandOffer]:
    rig = bench.built.rig
    if device not in rig.devices:
        return
    for act in offered_acts(bench.world, device):
        yield HandOffer(act=act, says=act.says(rig), where=act.where, part=act.part(device))


def _lying(bench: HandBench) -> Iterable[InHand]:
    """What lies flagged, and how many of its plugs are in no port yet."""
    cables = bench.world[Cables]
    in_use: dict[str, set[int]] = defaultdict(set)
    for plug in cables.plugs.values():
        in_use[plug.tag] |= {plug.end_a, plug.end_b}
    for tag, laid in cables.laid_out.items():
        cable = bench.built.rig.cables.get(laid.cable)
        if cable is not None:
            yield _in_hand(tag, cable, laid.adapters, left=len(cable.ends) - len(in_use[tag]))


def _in_bag(bench: HandBench) -> Iterable[InHand]:
    """What the plan wants out of the bag, under its flag, and then every kind of cable that is in it."""
    rig, cables = bench.built.rig, bench.world[Cables]
    left = cables.left_in_bag(rig)
    planned = {join.tag: join.link for join in bench.built.plan.joins if join.link.cable is not None}
    for tag, link in planned.items():
        if tag not in cables.laid_out and left.get(link.cable or ""):
            yield _in_hand(tag, rig.cables[link.cable or ""], link.adapters, planned=True)
    for key, count in left.items():
        if not rig.cables[key].is_adapter:
            yield _in_hand(_free_flag(cables), rig.cables[key], (), left=count)


def _free_flag(cables: Cables) -> str:
    """A flag that is on nothing: of a cable that the plan does not know."""
    return next(flag for number in range(1, len(cables.laid_out) + 2) if (flag := f"X{number}") not in cables.laid_out)


def _in_hand(tag: str, cable: CableType, adapters: tuple[str, ...], left: int = 1, planned: bool = False) -> InHand:
    ends = tuple(end.connector for end in cable.ends)
    return InHand(tag=tag, cable=cable.id, name=cable.name, adapters=adapters, ends=ends, left=left, planned=planned)
