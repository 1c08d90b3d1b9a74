"""What a plan comes to, in the figures by which people compare plans."""

from isotact.core.model.base import Struct
from isotact.core.model.calculation import Calculation, Given
from isotact.core.model.plan import Plan, Route
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Stage


class Figures(Struct):
    """One plan in numbers. `mass_g` is of the cables and of the devices in use that the gimbal carries,
    with what they are fixed by."""

    kept: int
    weight: int
    points: int
    cables: int
    radios: int
    axes: int
    worst_delay_ms: float
    mass_g: float
    load_w: float
    workarounds: int
    devices: int


def figures(rig: ResolvedRig, plan: Plan) -> Figures:
    """Count `plan`. Workarounds are modes and settings changed, and prompts answered."""
    weights = {promise.id: promise.weight for promise in rig.rig.promises}
    pieces = {join.link.piece: join.link for join in plan.joins if join.link.piece is not None}
    pictures = {promise.id for promise in rig.rig.pictures}
    carried = [rig[feed.device] for feed in plan.feeds if rig[feed.device].stage != Stage.OFF_GIMBAL]
    fixed_g = rig.part_bag.weights_g((placed.id, placed.profile.fixed_by) for placed in carried)
    cables_g = sum(rig.cables[key].mass_g for link in pieces.values() for key in link.stock)
    return Figures(
        kept=len(plan.kept),
        weight=sum(weights[key] for key in plan.kept),
        points=sum(line.points for line in plan.cost),
        cables=len(pieces),
        radios=sum(join.link.is_radio for join in plan.joins),
        axes=sum(len(link.axes) for link in pieces.values()),
        worst_delay_ms=max((route.delay_ms for route in plan.routes if route.promise in pictures), default=0),
        mass_g=cables_g + fixed_g + sum(placed.mass_g for placed in carried),
        load_w=round(sum(_draw_w(rig, feed.device) for feed in plan.feeds), 2),
        workarounds=sum(choice.is_change for choice in plan.choices),
        devices=len(plan.feeds),
    )


def _draw_w(rig: ResolvedRig, device: str) -> float:
    power = rig[device].profile.power
    return power.draw_w if power else 0


def battery_hours(rig: ResolvedRig, plan: Plan) -> tuple[Calculation, ...]:
    """How long each battery in use lasts: the one that is empty first comes first."""
    found = []
    for feed in plan.feeds:
        usable_wh, lasts_h = rig[feed.device].usable_wh, feed.hours_h
        if feed.battery != feed.device or not lasts_h or usable_wh is None:
            continue
        lost_w = usable_wh / lasts_h - feed.load_w
        others = [other for other in plan.feeds if other.from_device == feed.device]
        lost = f" and {lost_w:.1f} W lost on the way" if lost_w >= 0.05 else ""
        made = Calculation(
            name=rig[feed.device].name,
            value=f"{lasts_h:.1f} h",
            why=f"{usable_wh:.1f} Wh usable ÷ {feed.load_w:.1f} W{lost} = {lasts_h:.1f} h",
            given=(
                Given(name="usable energy", value=usable_wh, unit="Wh"),
                Given(name="load", value=feed.load_w, unit="W"),
                Given(name="lost in leads, outlets and cells", value=lost_w, unit="W"),
            ),
            also=tuple(f"It also feeds {rig[one.device].name}: {one.load_w:.1f} W of that." for one in others),
        )
        found.append((lasts_h, made))
    return tuple(made for _, made in sorted(found, key=lambda pair: pair[0]))


def route_words(rig: ResolvedRig, route: Route) -> str:
    """The devices of a route, in its order."""
    return " to ".join(dict.fromkeys(rig[hop.device].name for hop in route.hops if not hop.link)) or "the batteries"
