"""What is fixed before the day stands in the way of every way: firmware, licences, what was promised, a school."""

from collections.abc import Callable, Collection, Iterator
from typing import Any

from isotact.core.model.plan import Obstacle, Unmet
from isotact.core.model.references import whens
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import ControlPromise, PicturePromise, Promise
from isotact.core.model.variants import with_devices, with_piece, with_promise, with_schools
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


def and_besides(rig: ResolvedRig, promise: Routed, unmet: Unmet, more: list[Obstacle]) -> Unmet:
    """The same with what is fixed before the day and in the way as well: one named alone sends people home twice."""
    listed = (*unmet.obstacles, *more)
    outs = dict.fromkeys((*unmet.ways_out, *(words(promise) for one in more if (words := _OUTS.get(one.kind)))))
    says = sentence(rig, promise, listed)
    return unmet.model_copy(update={"because": says, "obstacles": listed, "ways_out": tuple(outs)})


def by_school(
    rig: ResolvedRig, promise: Promise, trying: Trying, wanted: Collection[str]
) -> Iterator[tuple[Obstacle, str]]:
    """The school of one port, where it stands in the way: with the other it would hold."""
    chosen = rig.rig.schools.port
    words = {"splitter": "a splitter", "dummy-battery": "a dummy battery"}
    if chosen in words and trying.with_rig(with_schools(rig, port="either"), {*wanted, promise.id}):
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


def _loaded(rig: ResolvedRig, device: str | None, **loaded: Any) -> ResolvedRig:
    return with_devices(rig, [with_piece(rig[device or ""], **loaded)])


def _licensed(rig: ResolvedRig, _: Routed, one: Obstacle) -> ResolvedRig:
    asked = [when.licence for _, when in whens(rig[one.device or ""].profile) if when.licence]
    return _loaded(rig, one.device, licences=asked)


_CLEARED: dict[str, Callable[[ResolvedRig, Routed, Obstacle], ResolvedRig]] = {
    "firmware": lambda rig, _, one: _loaded(rig, one.device, firmware=None),
    "licence": _licensed,
    "delay": lambda rig, promise, _: with_promise(rig, promise.id, within_ms=None),
    "look": lambda rig, promise, _: with_promise(rig, promise.id, look="any"),
    "school": lambda rig, promise, _: with_schools(rig, **{"chain" if promise.is_picture else "focus": "either"}),
}
"""The rig with an obstacle out of the way, where that can be tried."""
