"""Promises in words, short, as they stand in the column, on map and sheet."""

from collections.abc import Callable, Sequence
from typing import Any

from pydantic import Field

from isotact.core.model.base import Struct
from isotact.core.model.plan import Link
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import ControlPromise, PicturePromise, Promise
from isotact.core.model.vocabulary import vocabulary
from isotact.core.model.words import Id


def promise_words(rig: ResolvedRig, promise: Promise) -> str:
    """What was promised, short: `ISO from the touch screen of Phone`."""
    return _WORDS[promise.kind](rig, promise)


class PromiseLine(Struct):
    """A promise in a line of a list: what, and from where. The person stands above; the whole sentence in its panel."""

    what: str
    where: str = ""
    function: Id | None = Field(default=None, description="what is controlled, by which it is drawn; none of a picture")


def promise_line(rig: ResolvedRig, promise: Promise) -> PromiseLine:
    """`focus`, `knob, Hand unit`."""
    return _LINES[promise.kind](rig, promise)


def _control_line(rig: ResolvedRig, promise: ControlPromise) -> PromiseLine:
    what = function_words(rig, promise)
    # "focus · focus knob" says it twice.
    function = vocabulary().functions[promise.function].name
    where = rig[promise.at.device].profile.surface(promise.at.surface).name.removeprefix(f"{function} ")
    return PromiseLine(what=what, where=f"{where}, {rig[promise.at.device].name}", function=promise.function)


def _picture_line(rig: ResolvedRig, promise: PicturePromise) -> PromiseLine:
    placed = rig[promise.at.device]
    what = f"picture of {rig[promise.of].name}" if promise.of else "picture"
    return PromiseLine(what=what, where=f"{placed.profile.surface(promise.at.surface).name}, {placed.name}")


_LINES: dict[str, Callable[[ResolvedRig, Any], PromiseLine]] = {
    "control": _control_line,
    "picture": _picture_line,
    "power": lambda _rig, one: PromiseLine(
        what=f"{one.hours_h:g} h", where=(one.meanwhile or "without a battery change").strip()
    ),
}


def _surface(rig: ResolvedRig, promise: ControlPromise | PicturePromise) -> str:
    placed = rig[promise.at.device]
    return f"the {placed.profile.surface(promise.at.surface).name} of {placed.name}"


def function_words(rig: ResolvedRig, promise: ControlPromise) -> str:
    """The function of a promise, and whose it is where one knob was promised for several: `record of B camera`."""
    asked = (promise.function, promise.at)
    several = [one for one in rig.rig.controls if (one.function, one.at) == asked]
    whose = f" of {rig[promise.to].name}" if promise.to and len(several) > 1 else ""
    return f"{vocabulary().functions[promise.function].name}{whose}"


_WORDS: dict[str, Callable[[ResolvedRig, Any], str]] = {
    "control": lambda rig, one: f"{function_words(rig, one)} from {_surface(rig, one)}",
    "picture": lambda rig, one: f"picture{f' of {rig[one.of].name}' if one.of else ''} on {_surface(rig, one)}",
    "power": lambda _rig, one: f"{one.hours_h:g} h{one.meanwhile or ' without a battery change'}",
}


def crossing_words(axes: tuple[str, ...]) -> tuple[str, ...]:
    """What a cable asks for that crosses axes of the gimbal, or leaves it; nothing for one that does neither."""
    turning = [axis for axis in axes if axis != "off"]
    several = "axes" if len(turning) > 1 else "axis"
    loop = f"Crosses the {together(turning)} {several}: leave a loop, tie it, full travel."
    walk = "Leaves the gimbal: as long as the walk, tied clear of feet."
    return (*([loop] if turning else []), *([walk] if len(turning) < len(axes) else []))


_NAMES = {
    "usb-data": "USB data", "hdmi": "HDMI", "sdi": "SDI", "pwm": "PWM", "bus": "the motor bus", "contact": "a contact",
    "remote-wire": "a wired remote",
}  # fmt: skip
"""What the trade calls a medium, where that is not its id."""


def plain(key: str) -> str:
    """An id as it is said: ids never reach a sentence."""
    return _NAMES.get(key, key.replace("-", " "))


def lead_words(rig: ResolvedRig, link: Link) -> str:
    """What lies between the two ends of a link by cable: the lead, and the adapters on it."""
    on = f" with {adapter_words(rig, link.adapters)}" if link.adapters else ""
    return f"{rig.cables[link.cable or ''].name}{on}"


def adapter_words(rig: ResolvedRig, adapters: Sequence[str]) -> str:
    """Adapters in a row; two of one kind are “2 × …”."""
    names = [rig.cables[key].name for key in dict.fromkeys(adapters)]
    return f"2 × {names[0]}" if len(names) < len(adapters) else together(names)


def together(names: Sequence[str]) -> str:
    """Names in a row: “A”, “A and B”, “A, B and C”."""
    return " and ".join((", ".join(names[:-1]), names[-1])) if len(names) > 1 else "".join(names)


def counted(number: int, word: str, several: str | None = None) -> str:
    """So many of something: `one change`, `3 changes`."""
    return f"{number} {word if number == 1 else several or word + 's'}"


def hours_words(hours_h: float) -> str:
    """`2.8 h`, and below an hour `48 min`."""
    return f"{hours_h:.1f} h" if hours_h >= 1 else f"{60 * hours_h:.0f} min"
