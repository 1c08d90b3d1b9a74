"""What is looked at and what is read when a promise is proven by hand."""

from collections.abc import Callable, Iterator
from typing import Any, Literal

from pydantic import Field

from isotact.core.model.base import Struct
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import ControlPromise, PicturePromise, PowerPromise
from isotact.core.model.vocabulary import vocabulary
from isotact.core.model.words import Id

Unit = Literal["", "ms", "m", "mm", "V"]


class ProofCheck(Struct):
    """One thing to see, or to read off in a unit. `is_needed`: the promise is not proven without."""

    id: Id
    says: str
    unit: Unit = Field(default="", description="empty for what is seen or not")
    at_most: float | None = None
    at_least: float | None = None
    is_needed: bool = True


def checks_of_promise(rig: ResolvedRig, promise: Id, by_radio: bool = False) -> tuple[ProofCheck, ...]:
    """What is asked when `promise` is proven. `by_radio`: its way leaves by radio, so that its range can be walked."""
    promised = rig.rig.promise(promise)
    found = list(_BY_KIND[promised.kind](promised))
    if by_radio:
        away = rig.devices[promised.place].device.distance_m if promised.place else None
        needs = f": it has to hold at {away:g} m" if away else ""
        found.append(
            ProofCheck(
                id="range",
                says=f"Walk the range{needs}. How far did it hold?",
                unit="m",
                at_least=away or None,
                is_needed=False,
            )
        )
    return tuple(found)


def _control(promise: ControlPromise) -> Iterator[ProofCheck]:
    function = vocabulary().functions[promise.function]
    if function.has_ends:
        yield ProofCheck(id="near-end", says="It reaches the near or wide end.")
        yield ProofCheck(id="far-end", says="It reaches the far or long end.")
        yield ProofCheck(id="direction", says="It turns the way that the operator expects.")
    elif function.rolls:
        yield ProofCheck(id="starts", says="It rolls: the lamp lights and the timecode runs.")
        yield ProofCheck(id="stops", says="Pressed again, it stops.")
    else:
        yield ProofCheck(id="seen", says=f"{function.seen[0].upper()}{function.seen[1:]}.")


def _picture(promise: PicturePromise) -> Iterator[ProofCheck]:
    yield ProofCheck(id="seen", says="The picture is there and moves with the hand.")
    if promise.look != "any":
        with_it = promise.look == "with"
        yield ProofCheck(id="look", says="The look is on it." if with_it else "It is clean: no look, no overlays.")
    limit = promise.within_ms
    asked = f": at most {limit:g} ms" if limit is not None else ""
    yield ProofCheck(id="delay", says=f"Its delay{asked}.", unit="ms", at_most=limit, is_needed=limit is not None)


def _power(promise: PowerPromise) -> Iterator[ProofCheck]:
    yield ProofCheck(id="full", says="Every battery in use reads full.")
    if promise.changes:
        yield ProofCheck(id="spares", says="The charged spares are at hand.")


_BY_KIND: dict[str, Callable[[Any], Iterator[ProofCheck]]] = {"control": _control, "picture": _picture, "power": _power}
