"""Good manners that profiles ask for, and the proof of every promise that the plan keeps."""

from collections import Counter
from collections.abc import Callable, Iterator
from typing import Any

from isotact.core.model.gimbals import POLE_SCALE
from isotact.core.model.keys import Item, Key
from isotact.core.model.named_keys import prove_key
from isotact.core.model.reach import distance_m
from isotact.core.model.rig import ControlPromise, PicturePromise, PowerPromise, Promise
from isotact.core.model.vocabulary import vocabulary
from isotact.core.telling.phrases import promise_words
from isotact.core.trades.balance.marks import balance_of
from isotact.core.trades.balance.pole import pole_of
from isotact.core.trades.balance.pole_words import pole_lines
from isotact.core.trades.base import Draft
from isotact.core.trades.care.acts import Prove, TakeCare
from isotact.core.trades.mounting.small_parts import fixed_with, wanting_words
from isotact.core.trades.planned import Planned
from isotact.core.trades.power.feeding import feeding_of
from isotact.core.world.feed_volts import Feeding

POLE_S = 60.0
"""A holder is loosened, slid, tried and tightened. Common practice, no source."""
OUT_OF_SIGHT_M = 5.0
"""From so far one does not see what the camera does: one works it, another looks. Common practice, no source."""


def care(planned: Planned) -> Iterator[Draft]:
    """Steps that nothing rests on at once, and that belong to the job all the same."""
    for device in planned.in_use:
        placed = planned.rig[device]
        for number, care in enumerate(placed.profile.care):
            says = care.says[0].lower() + care.says[1:].rstrip(".")
            yield Draft(
                key=Key.of("care", Item(device, str(number))),
                stage=care.at,
                title=f"{placed.name}: {says}",
                device=device,
                expect="Seen to.",
                # A line of advice: read, looked at, done.
                takes_s=30,
                act=TakeCare(),
                care=True,
            )
    yield from _spares(planned)
    yield from _left_in_the_case(planned)
    yield from _small_parts(planned)
    yield from _poles(planned)
    yield from _resting(planned)
    kept = [promise for promise in planned.rig.rig.promises if promise.id in planned.plan.kept]
    words = {promise.id: _proof_words(planned, promise) for promise in kept}
    for promise in kept:
        detail, expect = _PROOFS[promise.kind](promise)
        twice = sum(other == words[promise.id] for other in words.values()) > 1
        yield Draft(
            key=prove_key(promise.id),
            stage="prove",
            title=f"Prove: {words[promise.id]}{f', for {promise.who}' if twice else ''}",
            detail=(f"For {promise.who}.", *detail, *_afterwards(planned, promise)),
            device=promise.place,
            expect=expect,
            # Worked once, and seen by who was promised it.
            takes_s=15,
            act=Prove(promise=promise.id),
            people=2 if promise.worked and _away_m(planned, promise) >= OUT_OF_SIGHT_M else 1,
            promises=(promise.id,),
        )


def _afterwards(planned: Planned, promise: Promise) -> Iterator[str]:
    """What the button does from then on: whoever was promised it wants to know."""
    function = vocabulary().functions[promise.worked] if promise.worked is not None else None
    if function is None or function.then is None:
        return
    route = next((route for route in planned.plan.routes if route.promise == promise.id), None)
    way = [planned.rig[hop.device] for hop in route.hops] if route is not None else []
    then = function.then
    if any(placed.profile.motor is not None for placed in way):
        then = "the ring follows; marks come back until a motor loses power"
    elif promise.worked == "focus" and len(way) > 1:
        then += "; turned fast it drops steps, and marks do not come back"
    elif function.rolls and way and (card := way[-1].profile.card) is not None:
        then += f"; the clip is on {card.name} in {way[-1].name}"
    yield f"After that {then}."


def _away_m(planned: Planned, promise: Promise) -> float:
    return (distance_m(planned.rig, promise.place) if promise.place else None) or 0.0


def _spares(planned: Planned) -> Iterator[Draft]:
    """The full batteries that are put in one after the other while the hours of a promise run."""
    kept = [promise for promise in planned.rig.rig.lasting if promise.id in planned.plan.kept]
    if not any(promise.changes for promise in kept):
        return
    feeding = feeding_of(planned)
    for feed in planned.plan.feeds:
        if feed.battery != feed.device or not feed.load_w:
            continue
        placed = planned.rig[feed.device]
        needed = {promise.id: _changes(feeding, feed.device, promise) for promise in kept}
        most = max(kept, key=lambda promise: needed[promise.id], default=None)
        if most is not None and (count := needed[most.id]):
            often = "once" if count == 1 else f"{count} times"
            yield Draft(
                key=Key.of("care", Item(feed.device, "spares")),
                stage="gather",
                title=f"{placed.name}: {'one full spare' if count == 1 else f'{count} full spares'} at hand",
                detail=(f"At {feed.load_w:.1f} W the battery is changed {often} in {most.hours_h:g} h.",),
                device=feed.device,
                expect="Each reads full.",
                takes_s=30,
                act=TakeCare(),
                care=True,
                promises=tuple(key for key, changes in needed.items() if changes),
            )


def _changes(feeding: Feeding, device: str, promise: PowerPromise) -> int:
    """How often the battery of a device is changed until the hours are over, with all that is lost on the way."""
    enough = (n for n in range(promise.changes) if feeding.lasts_h(device, n) >= promise.hours_h)
    return next(enough, promise.changes)


def _left_in_the_case(planned: Planned) -> Iterator[Draft]:
    """What lies in the rig's case and is not used: named, so that nobody builds it in."""
    left = [device for device in planned.rig.devices if device not in planned.in_use]
    if left and planned.in_use:
        yield Draft(
            key=Key.of("care", "left-out"),
            stage="gather",
            title=f"Leave in the case: {', '.join(planned.rig[device].name for device in left)}",
            detail=(f"This plan does not use {'it' if len(left) == 1 else 'them'}.",),
            expect="It stays there.",
            takes_s=5,
            act=TakeCare(),
            care=True,
        )


def _small_parts(planned: Planned) -> Iterator[Draft]:
    """What all of it is fixed with, laid out at once: nobody looks for a screw with a camera in the other hand."""
    rig, fixed = planned.rig, fixed_with(planned.rig, planned.in_use)
    if not fixed.by and not fixed.missing:
        return
    kinds = rig.part_bag.kinds
    pieces = Counter(part for part in fixed.by.values() if not kinds[part].is_tool)
    tools = {part: 1 for part in fixed.by.values() if kinds[part].is_tool}
    yield Draft(
        key=Key.of("care", "small-parts"),
        stage="gather",
        title="Lay out the small parts",
        detail=(
            *(f"{count} {kinds[part].name}." for part, count in sorted({**pieces, **tools}.items())),
            *(f"Wanting for {words}." for words in wanting_words(rig, fixed)),
        ),
        expect="Nothing is missing, no thread is worn.",
        # Each is picked from its box.
        takes_s=10 * (len(pieces) + len(tools)) + 10,
        act=TakeCare(),
        care=True,
    )


def _poles(planned: Planned) -> Iterator[Draft]:
    """Its front part against its back part: a balance of its own, once all is on."""
    for gimbal in sorted(planned.in_use):
        balance = balance_of(planned, gimbal)
        pole = pole_of(balance) if balance is not None else None
        if pole is None:
            continue
        yield Draft(
            key=Key.of("care", Item(pole.device.id, POLE_SCALE)),
            stage="balance",
            title=f"Balance {pole.device.name}, front against back",
            detail=(*pole_lines(pole), "Held at the middle of the grip, over something soft; motors off."),
            device=pole.device.id,
            expect="Neither end sinks.",
            takes_s=POLE_S,
            # One holds what the other slides: an end that drops falls on somebody's foot.
            people=2,
            act=TakeCare(),
            care=True,
        )


def _resting(planned: Planned) -> Iterator[Draft]:
    """Sticks and switches stand where they must rest before anything hangs on them."""
    for device in planned.in_use:
        placed = planned.rig[device]
        lines = [
            f"{surface.name}: {surface.rests}{f', {surface.pulse_us[1]} us' if surface.pulse_us else ''}."
            for surface in placed.profile.surfaces
            if surface.rests is not None
        ]
        if lines:
            yield Draft(
                key=Key.of("resting", device),
                stage="wake",
                title=f"{placed.name}: see that every stick and switch rests where it must",
                detail=(*lines, "On its monitor page, before the camera is connected."),
                device=device,
                expect="Every value is as written here.",
                # Each stick and switch touched once.
                takes_s=20,
                act=TakeCare(),
                care=True,
            )


def _proof_words(planned: Planned, promise: Promise) -> str:
    """What is proven, and where it is carried out."""
    words = promise_words(planned.rig, promise)
    route = next((route for route in planned.plan.routes if route.promise == promise.id and route.hops), None)
    if route is None or promise.worked is None:
        return words
    target = route.hops[-1].device
    name = vocabulary().functions[promise.worked].name
    return words if target == promise.place else words.replace(name, f"{name} on {planned.rig[target].name}", 1)


def _control(promise: ControlPromise) -> tuple[list[str], str]:
    function = vocabulary().functions[promise.function]
    detail = [f"{function.act[0].upper()}{function.act[1:]}."]
    if function.rolls:
        detail.append("Card in first. Stop again: never leave a test rolling.")
    return detail, f"{function.seen[0].upper()}{function.seen[1:]}."


def _picture(promise: PicturePromise) -> tuple[list[str], str]:
    detail = ["Wave a hand before the lens."]
    if promise.within_ms is not None:
        detail.append(f"Film a running clock beside the screen: at most {promise.within_ms:g} ms behind.")
    return detail, f"The picture is there and moves with the hand.{_LOOKS[promise.look]}"


_LOOKS = {
    "any": "",
    "with": " The look is on: it differs from the body's own plain picture.",
    "clean": " No look is on it, and nothing is written over it.",
}


def _power(promise: PowerPromise) -> tuple[list[str], str]:
    return ["Read every battery level."], f"Each lasts {promise.hours_h:g} h at this load{promise.meanwhile}."


_PROOFS: dict[str, Callable[[Any], tuple[list[str], str]]] = {
    "control": _control, "picture": _picture, "power": _power,
}  # fmt: skip
