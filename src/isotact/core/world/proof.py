"""Works a promise in a world and says what a person would see."""

from collections.abc import Callable
from typing import Any

from isotact.core.model.base import Struct
from isotact.core.model.needed_pictures import screen_of
from isotact.core.model.rig import ControlPromise, PicturePromise, PowerPromise
from isotact.core.model.vocabulary import vocabulary
from isotact.core.model.words import Id, told_apart
from isotact.core.world.power import hours_of
from isotact.core.world.signals import now
from isotact.core.world.waking import Waking
from isotact.core.world.world import World


class Proof(Struct):
    """A promise worked once: whether it was seen to hold, and the reading."""

    promise: Id
    ok: bool
    seen: str
    at_s: float
    reading: str = ""
    at: Id | None = None


def prove(world: World, promise_id: str) -> Proof:
    """Work the promise in `world` as it is now."""
    promise = world.rig.rig.promise(promise_id)
    return _PROOFS[promise.kind](world, promise)


def worked(world: World, promise: ControlPromise) -> Proof:
    """Work a function at its surface in `world` as it is now, whether or not anybody was promised it."""
    found = now(world).functions(promise)
    if not found:
        nothing = f"Nothing happens: {vocabulary().functions[promise.function].name} does not arrive."
        told = (part.instead(world, promise.function) for part in world.parts.values())
        seen = next((words for words in told if words is not None), nothing)
        return Proof(promise=promise.id, ok=False, seen=seen, at_s=world.clock_s)
    screen = screen_of(world.rig, promise)
    if screen is not None and not now(world).pictures(screen.device, screen.surface):
        where = (
            f"the {world.rig[screen.device].profile.surface(screen.surface).name} of {world.rig[screen.device].name}"
        )
        seen = f"It is worked on the picture, and {where} shows none."
        return Proof(promise=promise.id, ok=False, seen=seen, at_s=world.clock_s)
    last = found[0].devices[-1]
    seen = f"{world.rig[last].name}: {vocabulary().functions[promise.function].seen}."
    way = " to ".join(world.rig[device].name for device in found[0].devices)
    return Proof(promise=promise.id, ok=True, seen=seen, at_s=world.clock_s, reading=way, at=last)


def _picture(world: World, promise: PicturePromise) -> Proof:
    shown = now(world).pictures(promise.at.device, promise.at.surface)
    if not shown:
        return Proof(promise=promise.id, ok=False, seen="The screen stays dark.", at_s=world.clock_s)
    found = [arrival for arrival in shown if promise.of in (None, arrival.devices[0])]
    if not found:
        seen = f"The picture of {world.rig[shown[0].devices[0]].name}, not of {world.rig[promise.of or ''].name}."
        return Proof(promise=promise.id, ok=False, seen=seen, at_s=world.clock_s)
    whose = f"Picture of {world.rig[promise.of].name}" if promise.of else "Picture"
    good = [arrival for arrival in found if arrival.look in promise.looks_wanted]
    best = (good or found)[0]
    delay = f"{best.delay_ms:g} ms"
    if not good:
        seen = f"{whose}, {delay} late, {'with' if best.look else 'without'} the look."
        return Proof(promise=promise.id, ok=False, seen=seen, at_s=world.clock_s, reading=delay)
    on_time = promise.within_ms is None or best.delay_ms <= promise.within_ms
    seen = f"{whose}, {delay} late." if on_time else f"{whose}, but {delay} late."
    return Proof(promise=promise.id, ok=on_time, seen=seen, at_s=world.clock_s, reading=delay)


def _power(world: World, promise: PowerPromise) -> Proof:
    """Every battery in use, from full, at the load that it carries now. What is out and dark lasts no time at all."""
    drawing = [d for d, placed in world.rig.devices.items() if d in world.out and placed.profile.power is not None]
    for device in drawing:
        name, powered = world.rig[device].name, now(world).supply.has_power(device)
        off = world.rig[device].profile.wake is not None and not world[Waking].is_awake(device)
        if off or not powered:
            seen = f"{name} is off." if powered else f"{name} has no power."
            return Proof(promise=promise.id, ok=False, seen=seen, at_s=world.clock_s)
    lasting = hours_of(world, drawing, promise.changes)
    short = min(lasting, key=lambda device: lasting[device], default=None)
    if short is None:
        return Proof(promise=promise.id, ok=False, seen="Nothing is on: nothing is known of hours.", at_s=world.clock_s)
    hours_h = told_apart(lasting[short], promise.hours_h)
    seen = f"{world.rig[short].name} lasts {hours_h} h{promise.meanwhile}, the shortest."
    ok = lasting[short] >= promise.hours_h
    return Proof(promise=promise.id, ok=ok, seen=seen, at_s=world.clock_s, reading=f"{lasting[short]:.2f} h")


_PROOFS: dict[str, Callable[[World, Any], Proof]] = {"control": worked, "picture": _picture, "power": _power}
