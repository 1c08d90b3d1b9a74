"""What readings say of a promise: it holds, it does not, it cannot be told, or nobody looked."""

from collections.abc import Sequence
from typing import Annotated, Literal

from pydantic import Field, model_validator

from isotact.core.calc.delay import Measured
from isotact.core.model.base import Struct
from isotact.core.model.words import Id
from isotact.core.proofs.film import Clocks, Filmed, by_clocks, by_frames
from isotact.core.proofs.proof_checks import ProofCheck

Verdict = Literal["holds", "fails", "open", "missing"]


class Reading(Struct):
    """What somebody saw or read: seen or not, a number in the unit of what was asked, or film to work it out from."""

    ask: Id
    seen: bool | None = None
    value: Annotated[float | None, Field(ge=0, le=1e6, strict=True)] = None
    plus_minus: Annotated[
        float | None, Field(ge=0, le=1e6, strict=True, description="how far `value` may be off; film tells its own")
    ] = None
    filmed: Filmed | None = None
    clocks: Clocks | None = None

    @model_validator(mode="after")
    def _one_of_them(self) -> "Reading":
        given = [one for one in (self.seen, self.value, self.filmed, self.clocks) if one is not None]
        if len(given) != 1:
            raise ValueError(f"found {len(given)} readings in one; give one of seen, value, filmed and clocks")
        if self.plus_minus is not None and self.value is None:
            raise ValueError("found a plus_minus without its value; give it with a value only")
        return self


class Judged(Struct):
    """One thing that was asked, what was read, and what that says."""

    ask: ProofCheck
    verdict: Verdict
    read: str = Field(description="what was seen or measured, in words; empty where nobody looked")


def measured(reading: Reading) -> Measured | None:
    """The number of a reading, with its uncertainty; None for what is only seen."""
    if reading.filmed is not None:
        return by_frames(reading.filmed)
    if reading.clocks is not None:
        return by_clocks(reading.clocks)
    return None if reading.value is None else Measured(value=reading.value, plus_minus=reading.plus_minus or 0.0)


def judged(asks: Sequence[ProofCheck], readings: Sequence[Reading]) -> tuple[Judged, ...]:
    """Each ask with what the last reading of it says. A reading of what is not asked says nothing."""
    given = {reading.ask: reading for reading in readings}
    return tuple(_judged(ask, given.get(ask.id)) for ask in asks)


def _judged(ask: ProofCheck, reading: Reading | None) -> Judged:
    if reading is None:
        return Judged(ask=ask, verdict="missing", read="")
    found = measured(reading)
    if found is None:
        return Judged(
            ask=ask, verdict="holds" if reading.seen else "fails", read="seen" if reading.seen else "not seen"
        )
    off = f" ± {found.plus_minus:g}" if found.plus_minus else ""
    return Judged(ask=ask, verdict=_within(ask, found), read=f"{found.value:g}{off} {ask.unit}".rstrip())


def _within(ask: ProofCheck, found: Measured) -> Verdict:
    """Whether a number is within its limit; open where its uncertainty reaches over it."""
    room = [
        *([] if ask.at_most is None else [ask.at_most - found.value]),
        *([] if ask.at_least is None else [found.value - ask.at_least]),
    ]
    if all(one >= found.plus_minus for one in room):
        return "holds"
    return "fails" if any(one < -found.plus_minus for one in room) else "open"
