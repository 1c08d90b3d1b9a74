"""Works a promise on the bench and says what a person would see."""

from isotact.core.bench.signals import Arrival, arrivals
from isotact.core.conditions.world import World, feeder_of
from isotact.core.model.base import Part
from isotact.core.model.rig import ControlPromise, PicturePromise, PowerPromise
from isotact.core.model.words import FUNCTIONS, Id


class Proof(Part):
    """A promise worked once: whether it was seen to hold, and the reading."""

    promise: Id
    ok: bool
    seen: str
    at_s: float
    reading: str = ""
    at: Id | None = None


def prove(world: World, promise_id: str) -> Proof:
    """Work the promise in `world` as it is now."""
    promise = next(promise for promise in world.rig.rig.promises if promise.id == promise_id)
    match promise:
        case ControlPromise():
            return _control(world, promise)
        case PicturePromise():
            return _picture(world, promise)
        case PowerPromise():
            return _power(world, promise)


def _control(world: World, promise: ControlPromise) -> Proof:
    found = arrivals(world, promise)
    if not found:
        seen = f"Nothing happens: {FUNCTIONS[promise.function].name} does not arrive."
        return Proof(promise=promise.id, ok=False, seen=seen, at_s=world.clock_s)
    where = world.rig[found[0].devices[-1]].name
    seen = f"{where}: {FUNCTIONS[promise.function].seen}."
    last = found[0].devices[-1]
    return Proof(promise=promise.id, ok=True, seen=seen, at_s=world.clock_s, reading=_way(world, found[0]), at=last)


def _picture(world: World, promise: PicturePromise) -> Proof:
    found = arrivals(world, promise)
    if not found:
        return Proof(promise=promise.id, ok=False, seen="The screen stays dark.", at_s=world.clock_s)
    wanted = {"any": (True, False), "with": (True,), "clean": (False,)}[promise.look]
    good = [arrival for arrival in found if arrival.look in wanted]
    best = (good or found)[0]
    delay = f"{best.delay_ms:g} ms"
    if not good:
        seen = f"Picture, {delay} late, {'with' if best.look else 'without'} the look."
        return Proof(promise=promise.id, ok=False, seen=seen, at_s=world.clock_s, reading=delay)
    on_time = promise.within_ms is None or best.delay_ms <= promise.within_ms
    seen = f"Picture, {delay} late." if on_time else f"Picture, but {delay} late."
    return Proof(promise=promise.id, ok=on_time, seen=seen, at_s=world.clock_s, reading=delay)


def _power(world: World, promise: PowerPromise) -> Proof:
    """Every battery in use, from full, at the load that it carries now."""
    loads: dict[str, float] = {}
    for device, placed in world.rig.devices.items():
        if placed.profile.power is not None and world.devices[device].is_awake:
            root = feeder_of(world, device)
            if root is None:
                seen = f"{placed.name} has no power."
                return Proof(promise=promise.id, ok=False, seen=seen, at_s=world.clock_s)
            loads[root] = loads.get(root, 0) + placed.profile.power.draw_w
    hours = {}
    for device, load_w in loads.items():
        power = world.rig[device].profile.power
        if power is not None and power.inner_battery is not None and load_w:
            hours[device] = power.inner_battery.energy_wh * power.inner_battery.usable / load_w
    short = min(hours, key=lambda device: hours[device], default=None)
    if short is None:
        return Proof(promise=promise.id, ok=True, seen="Nothing draws power.", at_s=world.clock_s)
    seen = f"{world.rig[short].name} lasts {hours[short]:.1f} h, the shortest."
    ok = hours[short] >= promise.hours_h
    return Proof(promise=promise.id, ok=ok, seen=seen, at_s=world.clock_s, reading=f"{hours[short]:.2f} h")


def _way(world: World, arrival: Arrival) -> str:
    return " to ".join(world.rig[device].name for device in arrival.devices)
