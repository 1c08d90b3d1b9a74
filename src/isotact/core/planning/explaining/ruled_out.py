"""What is fixed before the day stands in the way of every way: firmware, licences, what was promised, a school."""

from collections.abc import Callable, Collection, Iterator
from dataclasses import replace
from typing import Any

from isotact.core.model.plan import Obstacle, Unmet
from isotact.core.model.references import whens
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import ControlPromise, PicturePromise, Promise
from isotact.core.planning.explaining.sentences import ASK, sentence
from isotact.core.planning.explaining.trials import Trying
from isotact.core.planning.ways.requirements import Requirements, obstacles

Routed = ControlPromise | PicturePromise


def ruled_out(
    rig: ResolvedRig,
    promise: Routed,
    ways: list[Requirements],
    trying: Trying | None = None,
    kept: Collection[str] = (),
) -> Unmet:
    """Name what rules out the way with the fewest obstacles, and what would clear it.

    With `trying`, that is named only if the promise then holds beside those that are `kept`.
    """
    listed = [list(obstacles(rig, promise, needs)) for needs in ways]
    best = min(listed, key=len)
    outs = tuple(dict.fromkeys(words(promise) for one in best if (words := _OUTS.get(one.kind))))
    if trying is not None and {one.kind for one in best} <= _CLEARED.keys():
        cleared = rig
        for one in best:
            cleared = _CLEARED[one.kind](cleared, promise, one)
        if not trying.with_rig(cleared, {*kept, promise.id}):
            outs = (ASK,)
    return Unmet(
        promise=promise.id,
        verdict="impossible",
        because=sentence(rig, promise, best),
        obstacles=tuple(best),
        ways_out=outs,
    )


def by_school(
    rig: ResolvedRig, promise: Promise, trying: Trying, wanted: Collection[str]
) -> Iterator[tuple[Obstacle, str]]:
    """The school of one port, where it stands in the way: with the other it would hold."""
    chosen = rig.rig.schools.port
    words = {"splitter": "a splitter", "dummy-battery": "a dummy battery"}
    if chosen in words and trying.with_rig(_under(rig, port="either"), {*wanted, promise.id}):
        says = f"This job gives one port both control and power by {words[chosen]}; another way would do."
        yield Obstacle(kind="school", says=says), "Leave the school of one port open."


_OUTS: dict[str, Callable[[Routed], str]] = {
    "firmware": lambda _: "Load the newer firmware on prep day.",
    "licence": lambda _: "Load the licence on prep day.",
    "delay": lambda _: "Agree a longer delay with whoever watches, or bring a faster link.",
    "look": lambda _: "Agree a picture without that look, or add a monitor that puts it on and loops out.",
    "format": lambda _: "Bring a link that takes the format that the body gives.",
    "school": lambda promise: (
        "Leave open whether pictures are sent on with the look, or bring what that school asks for."
        if promise.is_picture
        else "Leave the school of focus open, or bring what it asks for."
    ),
    "setting": lambda _: "Take another device for one of the two ends.",
}


def _under(rig: ResolvedRig, **schools: str) -> ResolvedRig:
    """The same rig under other schools."""
    document = rig.rig
    return replace(rig, rig=document.model_copy(update={"schools": document.schools.model_copy(update=schools)}))


def _asking(rig: ResolvedRig, promise: Routed, **less: Any) -> ResolvedRig:
    """The same rig with less asked for by one promise."""
    promises = [one.model_copy(update=less) if one.id == promise.id else one for one in rig.rig.promises]
    return replace(rig, rig=rig.rig.model_copy(update={"promises": promises}))


def _loaded(rig: ResolvedRig, device: str | None, **loaded: Any) -> ResolvedRig:
    placed = rig[device or ""]
    known = replace(placed, device=placed.device.model_copy(update=loaded))
    return replace(rig, devices={**rig.devices, placed.id: known})


def _licensed(rig: ResolvedRig, _: Routed, one: Obstacle) -> ResolvedRig:
    asked = [when.licence for _, when in whens(rig[one.device or ""].profile) if when.licence]
    return _loaded(rig, one.device, licences=asked)


_CLEARED: dict[str, Callable[[ResolvedRig, Routed, Obstacle], ResolvedRig]] = {
    "firmware": lambda rig, _, one: _loaded(rig, one.device, firmware=None),
    "licence": _licensed,
    "delay": lambda rig, promise, _: _asking(rig, promise, within_ms=None),
    "look": lambda rig, promise, _: _asking(rig, promise, look="any"),
    "school": lambda rig, promise, _: _under(rig, **{"chain" if promise.is_picture else "focus": "either"}),
}
"""The rig with an obstacle out of the way, where that can be tried."""
