"""One rig at two moments: what became different, in the words of the trade, and the steps from one to the other."""

from collections.abc import Iterator, Mapping
from typing import Literal

from isotact.core.model.base import Struct
from isotact.core.model.plan import Join
from isotact.core.model.resolved import ResolvedRig
from isotact.core.questions.built_rig import BuiltRig
from isotact.core.questions.rebalanced import balances_of
from isotact.core.runsheet import RunSheet
from isotact.core.telling.phrases import lead_words, promise_words
from isotact.core.trades.balance.marks_words import mm

Of = Literal["device", "firmware", "join", "setting", "promise", "balance"]


class Different(Struct):
    """One thing: what it is, and how it is in either; empty where it is not there."""

    of: Of
    what: str
    then: str
    now: str


class Compared(Struct):
    """What became different between two moments, and the steps from the rig as it stood then to the one of now."""

    different: tuple[Different, ...]
    sheet: RunSheet


def compared(then: BuiltRig, now: BuiltRig, sheet: RunSheet) -> Compared:
    """All that is different for who built `then` and is to have `now`; `sheet`: the steps between."""
    return Compared(different=tuple(_different(then, now)), sheet=sheet)


def _different(then: BuiltRig, now: BuiltRig) -> Iterator[Different]:
    yield from _unlike("device", _devices(then.rig), _devices(now.rig))
    yield from _unlike("firmware", _loaded(then.rig), _loaded(now.rig))
    yield from _unlike("join", _joins(then), _joins(now))
    yield from _unlike("setting", _knobs(then), _knobs(now))
    yield from _unlike("promise", _promises(then), _promises(now))
    yield from _unlike("balance", _marks(then), _marks(now))


def _unlike(of: Of, then: Mapping[str, tuple[str, str]], now: Mapping[str, tuple[str, str]]) -> Iterator[Different]:
    """Rows by key, each a name and how it is; what is the same in both is left out."""
    for key in dict.fromkeys((*then, *now)):
        was, is_now = then.get(key, ("", "")), now.get(key, ("", ""))
        if was[1] != is_now[1]:
            yield Different(of=of, what=is_now[0] or was[0], then=was[1], now=is_now[1])


def _devices(rig: ResolvedRig) -> dict[str, tuple[str, str]]:
    return {
        key: (placed.name, f"{placed.profile.name}, {placed.stage.value.replace('-', ' ')}")
        for key, placed in rig.devices.items()
    }


def _loaded(rig: ResolvedRig) -> dict[str, tuple[str, str]]:
    found = {}
    for key, placed in rig.devices.items():
        parts = [f"firmware {placed.device.firmware}"] if placed.device.firmware else []
        parts += [f"licence {licence}" for licence in sorted(placed.device.licences)]
        if parts:
            found[key] = (placed.name, ", ".join(parts))
    return found


def _joins(stood: BuiltRig) -> dict[str, tuple[str, str]]:
    """By the two ends, whichever way round and under whatever flag."""
    found = {}
    for join in stood.plan.joins:
        a, b = sorted((str(join.link.a), str(join.link.b)))
        found[f"{a}--{b}"] = (_ends(stood.rig, join), _by(stood.rig, join))
    return found


def _ends(rig: ResolvedRig, join: Join) -> str:
    return " to ".join(rig[end.device].port_words(end.endpoint) for end in join.link.ends)


def _by(rig: ResolvedRig, join: Join) -> str:
    if join.link.cable is None:
        return f"by radio{f' on {join.channel}' if join.channel else ''}" if join.link.is_radio else "joined"
    return f"{join.tag}, {lead_words(rig, join.link)}"


def _knobs(stood: BuiltRig) -> dict[str, tuple[str, str]]:
    return {
        f"{one.device} {one.kind} {one.key}": (
            stood.rig[one.device].name,
            stood.rig[one.device].knob_words(one.kind, one.key, one.value),
        )
        for one in stood.plan.choices
    }


def _promises(stood: BuiltRig) -> dict[str, tuple[str, str]]:
    found = {}
    for promise in stood.rig.rig.promises:
        words = promise_words(stood.rig, promise)
        held = "" if promise.id in stood.plan.kept else "; cannot be kept"
        found[promise.id] = (f"{promise.who}: {words}", f"{promise.who}: {words}{promise.limits}{held}")
    return found


def _marks(stood: BuiltRig) -> dict[str, tuple[str, str]]:
    """Where each scale of a gimbal has to stand."""
    found = {}
    for gimbal, balance in balances_of(stood.rig, stood.plan).items():
        for slide in balance.carrier.slides:
            is_out = balance.is_beyond(slide)
            says = f"{mm(balance.marks[slide.id])}{', its end: too little' if is_out else ''}"
            found[f"{gimbal} {slide.id}"] = (f"{stood.rig[gimbal].name}, {slide.name}", says)
    return found
