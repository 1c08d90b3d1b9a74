"""Questions about one thing in a plan: why this cable, what else would do, what hangs on it; what a pin costs."""

from collections.abc import Iterator

from isotact.core.model.base import Struct
from isotact.core.model.plan import Join, Link, Plan
from isotact.core.model.problems import NotFoundError
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.variants import without_pin
from isotact.core.model.words import Id
from isotact.core.planning.model_access import candidates, plan_only, price_list
from isotact.core.progress import at
from isotact.core.telling.phrases import lead_words, promise_words


class Instead(Struct):
    """Something else that would do, and what speaks against it."""

    says: str
    cable: Id | None
    points: int
    """How much dearer it is, on the price list of plans."""


class JoinAnswer(Struct):
    """All that can be asked about one join."""

    link: str
    tag: str
    why: str
    instead: tuple[Instead, ...]
    depends: tuple[str, ...]
    without: str


class PinCost(Struct):
    """What one pin costs, against the plan without it."""

    number: int
    obeyed: bool
    says: str
    costs: str
    lost: tuple[str, ...]
    points: int


def ask_join(rig: ResolvedRig, plan: Plan, link_id: str) -> JoinAnswer:
    """Why this join is as it is. Raises NotFoundError when the plan has no such join."""
    joins = {join.link.id: join for join in plan.joins}
    if link_id not in joins:
        raise NotFoundError("join in this plan", link_id, joins)
    join = joins[link_id]
    link = join.link
    others = list(_instead(rig, plan, join))
    return JoinAnswer(
        link=link_id,
        tag=join.tag,
        why=_why(rig, join, others),
        instead=tuple(others),
        depends=tuple(_depends(rig, plan, join)),
        without=_without(rig, plan, link),
    )


def _carried(join: Join) -> set[tuple[str, str]]:
    return {(use.role_a, use.role_b) for use in join.carries}


def _instead(rig: ResolvedRig, plan: Plan, join: Join) -> Iterator[Instead]:
    """Like links between the same ends that carry what this one has to."""
    link = join.link
    left = {key: count - plan.cables_used[key] for key, count in rig.stock.items()}
    mine = _price(rig, link)
    for other in candidates(rig):
        if (other.a, other.b) != (link.a, link.b) or other.id == link.id or other.lead or other.cable is None:
            continue
        if not _carried(join) <= {(use.role_a, use.role_b) for use in other.uses}:
            continue
        says = lead_words(rig, other)
        if left.get(other.cable, 0) < 1:
            says += ", in use elsewhere"
        yield Instead(says=says, cable=other.cable, points=_price(rig, other) - mine)


def _price(rig: ResolvedRig, link: Link) -> int:
    pieces = [rig.cables[key] for key in link.stock]
    length = sum(piece.length_mm for piece in pieces)
    return (
        price_list.JOIN
        + price_list.ADAPTER * len(link.adapters)
        + price_list.AXIS * len(link.axes)
        + price_list.PER_100_MM * price_list.length_units(length)
    )


def _why(rig: ResolvedRig, join: Join, others: list[Instead]) -> str:
    link = join.link
    if link.is_radio:
        return "It is the radio that both ends share."
    if link.is_direct:
        return "The two parts mate; there is no cable to choose."
    cable = rig.cables[link.cable or ""]
    media = " and ".join(dict.fromkeys(use.kind for use in join.carries))
    if not others:
        return f"It is the only one in the bag that fits both ends and carries {media}."
    cheaper = min(other.points for other in others)
    worse = "as good as the others" if cheaper == 0 else f"{cheaper} points better than the next"
    return f"It carries {media} and is {cable.length_mm / 1000:g} m long: {worse}."


def _depends(rig: ResolvedRig, plan: Plan, join: Join) -> Iterator[str]:
    for promise in rig.rig.promises:
        if promise.id in join.promises:
            yield promise_words(rig, promise)
    for feed in plan.feeds:
        if feed.join == join.link.id:
            yield f"the feed of {rig[feed.device].name}"


def _without(rig: ResolvedRig, plan: Plan, link: Link) -> str:
    """What the plan would be if this very join could not be made."""
    other = plan_only(rig, links=[one for one in candidates(rig) if one.id != link.id])
    lost = [promise_words(rig, one) for one in rig.rig.promises if one.id in plan.kept and one.id not in other.kept]
    if lost:
        return f"Without it you lose {', and '.join(lost)}."
    more = _points(other) - _points(plan)
    price = f"{more} points dearer" if more else "at the same price"
    return f"Without it everything still holds another way, {price}."


def _points(plan: Plan) -> int:
    return sum(line.points for line in plan.cost)


def pin_costs(rig: ResolvedRig, plan: Plan) -> list[PinCost]:
    """What each pin costs, in the order of the rig."""
    found = []
    for number in range(len(plan.pins)):
        at("Planning without each pin", number, len(plan.pins))
        found.append(_pin_cost(rig, plan, number))
    return found


def _pin_cost(rig: ResolvedRig, plan: Plan, number: int) -> PinCost:
    answer = plan.pins[number]
    free = plan_only(without_pin(rig, number))
    lost = tuple(promise_words(rig, one) for one in rig.rig.promises if one.id in free.kept and one.id not in plan.kept)
    points = _points(plan) - _points(free)
    if lost:
        says = f"It costs {', and '.join(lost)}."
    elif points > 0:
        says = f"It costs {points} points: more to plug, carry or set."
    else:
        says = "It costs nothing."
    return PinCost(
        number=number, obeyed=answer.obeyed, says=answer.says, costs=says if answer.obeyed else "", lost=lost,
        points=points,
    )  # fmt: skip
