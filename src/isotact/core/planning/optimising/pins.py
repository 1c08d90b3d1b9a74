"""What the user decides: pins as constraints, and in words what became of them.

Each is obeyed if it can be at all, before any promise counts; so a plan always comes back, and says which was not.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING

from isotact.core.model.pins import CablePin, KeepOutPin, OffPin, Pin, PortPoint, WayPin, contradict
from isotact.core.model.plan import Link, PinAnswer
from isotact.core.model.resolved import ResolvedRig
from isotact.core.planning.optimising.choice_model import ChoiceModel
from isotact.core.planning.ways.simple_ways import Crossing, Way

if TYPE_CHECKING:
    from ortools.sat.python import cp_model


def add_pins(c: ChoiceModel) -> None:
    """Add one `obeyed` variable per pin, and what each asks for."""
    for number, pin in enumerate(c.rig.rig.pins):
        obeyed = c.model.new_bool_var(f"obeyed {number}")
        c.obeyed.append(obeyed)
        c.wishes["pin", (str(number),)] = obeyed
        held = [obeyed.negated()]
        match pin:
            case CablePin():
                c.model.add_bool_or([*held, *(c.link[link.id] for link in c.links.values() if _is_join(pin, link))])
                for device in pin.devices:  # nothing is plugged into what lies in its case
                    c.model.add_bool_or([*held, c.awake[device]])
            case KeepOutPin():
                for link in _at(c, pin.at):
                    c.model.add_bool_or([*held, link.negated()])
            case OffPin():
                c.model.add_bool_or([*held, c.awake[pin.device].negated()])
            case WayPin():
                if pin.promise in c.paths:
                    _walks_over(c, pin, held)
                    continue
                ways = c.options.get(pin.promise, [])
                fit = [c.route[pin.promise, n] for n, needs in enumerate(ways) if goes_over(needs.way) == set(pin.over)]
                c.model.add_bool_or([*held, *fit])


def _walks_over(c: ChoiceModel, pin: WayPin, held: Sequence[cp_model.LiteralT]) -> None:
    """The path goes over every join of the pin and over no other."""
    hops: dict[str, list[cp_model.IntVar]] = {over: [] for over in pin.over}
    c.model.add_bool_or([*held, c.kept[pin.promise]])
    for hop, var in c.paths[pin.promise].hops.items():
        join = joint(hop.crossing)
        if join in hops:
            hops[join].append(var)
        else:
            c.model.add_bool_or([*held, var.negated()])
    for those in hops.values():
        c.model.add_bool_or([*held, *those])


def _is_join(pin: CablePin, link: Link) -> bool:
    ends = {(link.a.device, link.a.endpoint), (link.b.device, link.b.endpoint)}
    wanted = {(pin.a.device, pin.a.port), (pin.b.device, pin.b.port)}
    return ends == wanted and pin.cable in (None, link.cable)


def _at(c: ChoiceModel, point: PortPoint) -> Iterator[cp_model.IntVar]:
    for link in c.links.values():
        if (point.device, point.port) in ((end.device, end.endpoint) for end in (link.a, link.b)):
            yield c.link[link.id]


def goes_over(way: Way) -> set[str]:
    """The joins of a way as a pin writes them."""
    return {joint(crossing) for crossing in way.crossings}


def joint(crossing: Crossing) -> str:
    """The join that is crossed, as a pin writes it."""
    return f"{crossing.span.a}--{crossing.span.b}"


def is_pinned(rig: ResolvedRig, link: Link) -> bool:
    """Whether a pin names this join: such a link is weighed although no promise may want it."""
    return any(isinstance(pin, CablePin) and _is_join(pin, link) for pin in rig.rig.pins)


def pin_answers(c: ChoiceModel, values: list[int], links: list[Link]) -> Iterator[PinAnswer]:
    """What became of each pin; `links` are all that could be made, wanted by a promise or not."""
    pins = c.rig.rig.pins
    for pin, value in zip(pins, values, strict=True):
        words = pin_words(c.rig, pin)
        against = next((other for other in pins if other is not pin and contradict(pin, other)), None)
        if value:
            yield PinAnswer(obeyed=True, says=f"{words}: done.")
        elif pin.joins_itself is not None:
            yield PinAnswer(obeyed=False, says=f"{words}: it would join {c.rig[pin.joins_itself].name} with itself.")
        elif against is not None:
            yield PinAnswer(obeyed=False, says=f"{words}: another pin says otherwise: {pin_words(c.rig, against)}.")
        elif isinstance(pin, CablePin) and not any(_is_join(pin, link) for link in links):
            yield PinAnswer(obeyed=False, says=f"{words}: no cable in the bag joins these two ports.")
        elif isinstance(pin, CablePin):
            yield PinAnswer(obeyed=False, says=f"{words}: nothing that was promised can use it there.")
        elif isinstance(pin, WayPin):
            yield PinAnswer(obeyed=False, says=f"{words}: that way is no longer there.")
        else:
            yield PinAnswer(obeyed=False, says=f"{words}: cannot be done beside the other pins.")


def pin_words(rig: ResolvedRig, pin: Pin) -> str:
    """A pin in words."""
    match pin:
        case CablePin():
            what = rig.cables[pin.cable].name if pin.cable else "A cable"
            one, other = (rig[point.device].port_words(point.port) for point in (pin.a, pin.b))
            return f"{what} between {one} and {other}"
        case KeepOutPin():
            return f"Keep out of {rig[pin.at.device].port_words(pin.at.port)}"
        case OffPin():
            return f"{rig[pin.device].name} stays in its case"
        case WayPin():
            from isotact.core.telling.phrases import promise_words

            promise = next(promise for promise in rig.rig.promises if promise.id == pin.promise)
            return f"The chosen way for {promise_words(rig, promise)}"
