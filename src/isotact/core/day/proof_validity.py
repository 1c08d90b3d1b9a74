"""Whether a proof still holds: what a promise rests on now, beside what it rested on when it was seen to work."""

from collections.abc import Iterator

from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id
from isotact.core.questions.built_rig import BuiltRig
from isotact.core.telling.phrases import promise_words
from isotact.core.trades import Condition


def _bare(condition: Condition) -> str:
    """Whom else it serves makes it no other condition."""
    return condition.model_dump_json(exclude={"promises"})


def lapsed(then: BuiltRig, now: BuiltRig, promise: Id) -> tuple[str, ...]:
    """What `promise` rests on now that was not so when it was proven, a sentence each; nothing when the proof holds.

    What is no longer needed spoils no proof: all that it rests on was there when it was seen to work.
    """
    return tuple(dict.fromkeys(_lapsed(then, now, promise)))


def _lapsed(then: BuiltRig, now: BuiltRig, promise: Id) -> Iterator[str]:
    before = next((one for one in then.rig.rig.promises if one.id == promise), None)
    if before is None or promise not in then.plan.kept:
        yield "It was not planned when it was proven."
        return
    asked = now.rig.rig.promise(promise)
    unasked = {"who", "weight"}
    if before.model_dump(exclude=unasked) != asked.model_dump(exclude=unasked):
        was, is_now = promise_words(then.rig, before), promise_words(now.rig, asked)
        yield f"It was proven as “{was}”." if was != is_now else "How well it has to work has changed since."
    for device in now.on_the_way(promise):
        if device in then.rig.devices:
            yield from _another_piece(then.rig, now.rig, device)
    told, quiet = [], []
    known = then.asks(promise)
    for key, condition in now.asks(promise).items():
        before_it = known.get(key)
        if before_it is None:
            told.append(condition.says(now.rig))
        elif _bare(condition) != _bare(before_it):
            told += _changed(then.rig, before_it, now.rig, condition)
            quiet.append(condition.says(now.rig))
    # Where the change shows in no words of its own, what it is about has to do.
    yield from told or quiet


def _changed(then: ResolvedRig, before: Condition, now: ResolvedRig, condition: Condition) -> Iterator[str]:
    """A condition that was there already, and asks for something else now."""
    was, is_now = (getattr(one, "cable", None) for one in (before, condition))
    if was and is_now and was != is_now:
        tag = getattr(condition, "tag", "")
        yield f"{tag} is another cable: {now.cables[is_now].name} now, {then.cables[was].name} when it was proven."
    elif condition.says(now) != before.says(then):
        yield f"{condition.says(now)} When it was proven: {before.says(then)}"


def _another_piece(then: ResolvedRig, now: ResolvedRig, device: Id) -> Iterator[str]:
    old, new = then[device], now[device]
    if old.profile != new.profile:
        yield f"{new.name} is another device than the one that it was proven with, or was described otherwise."
        return
    # To learn what was unknown is no change.
    for what, was, is_now in (
        ("tag", old.device.tag, new.device.tag),
        ("firmware", old.device.firmware, new.device.firmware),
    ):
        if was and is_now and was != is_now:
            yield f"{new.name} had {what} {was} when it was proven, and has {is_now} now."
