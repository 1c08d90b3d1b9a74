"""Power at a port: what an outlet gives, what an inlet takes."""

from typing import Literal

from pydantic import Field, model_validator

from isotact.core.model.base_role import BaseRole, When
from isotact.core.model.units import Amps, Volts, Watts

USUAL_TOLERANCE = 0.1
"""What is made for a voltage by its name runs a tenth below it as well. Common practice, no source."""


class PowerRole(BaseRole):
    """Power enters or leaves here."""

    kind: Literal["power"] = "power"
    flow: Literal["in", "out"]
    min_v: Volts
    max_v: Volts
    max_a: Amps | None = Field(default=None, description="out: what this outlet gives for good")
    peak_a: Amps | None = Field(default=None, description="out: what it gives for a moment; left out: as for good")
    good_for: Literal["anything", "electronics"] = Field(
        default="anything", description="out: electronics only, where it cannot stand motors"
    )
    efficiency: float | None = Field(
        default=None,
        gt=0,
        le=1,
        strict=True,
        description="out, where it holds its volts: what it gives of what it takes in; left out: nine tenths",
    )
    needs_v: Volts | None = Field(
        default=None, description="out, where it holds its volts: with fewer coming in it gives nothing"
    )
    least_w: Watts | None = Field(default=None, description="out: it falls asleep while less than this is taken")
    feeds: Literal["run", "charge"] = Field(default="run", description="in: can run from it, or only charges by it")
    charge_w: Watts | None = Field(
        default=None, description="in: what it takes besides, while its own battery is not full; left out: nothing"
    )
    when: When = When()

    @property
    def name(self) -> str:
        return f"power-{self.flow}"

    @property
    def conductor(self) -> tuple[str, str]:
        return "power", "power"

    @property
    def gives(self) -> bool:
        return self.flow == "out"

    @property
    def is_inlet(self) -> bool:
        return not self.gives

    @property
    def keeps_going(self) -> bool:
        return not self.gives and self.feeds == "run"

    @property
    def is_outlet(self) -> bool:
        return self.gives

    @property
    def held_v(self) -> float | None:
        """The volts that an outlet holds whatever comes in; None where it gives what comes in."""
        return self.min_v if self.gives and self.min_v == self.max_v else None

    def lowest_v(self, outlet: "PowerRole") -> float:
        """The fewest volts at which this inlet runs when `outlet` feeds it.

        Where both name the same as their least, as a socket of five volts and a device for five volts, that is what
        they are called, and a lead may take its part.
        """
        return self.min_v if self.min_v < outlet.min_v else (1 - USUAL_TOLERANCE) * self.min_v

    def takes(self, outlet: "PowerRole") -> bool:
        """Whether this inlet stands every voltage that `outlet` gives."""
        return self.min_v <= outlet.min_v and outlet.max_v <= self.max_v

    def fits(self, other: BaseRole) -> bool:
        """An outlet and an inlet that stands its volts."""
        if not isinstance(other, PowerRole) or self.flow == other.flow:
            return False
        outlet, inlet = (self, other) if self.gives else (other, self)
        return inlet.takes(outlet)

    @model_validator(mode="after")
    def _volts_in_order(self) -> "PowerRole":
        if self.min_v > self.max_v:
            raise ValueError(f"found min_v {self.min_v:g} above max_v {self.max_v:g}; swap them")
        if self.flow == "out" and self.max_a is None:
            raise ValueError("an outlet needs max_a, the most it gives; found none")
        if self.peak_a is not None and self.max_a is not None and self.peak_a < self.max_a:
            raise ValueError(f"found peak_a {self.peak_a:g} below max_a {self.max_a:g}; swap them")
        for field, asks in (("efficiency", "held"), ("needs_v", "held"), ("least_w", "out"), ("charge_w", "in")):
            where = {"held": self.held_v is not None, "out": self.gives, "in": not self.gives}[asks]
            if getattr(self, field) is not None and not where:
                ends = {"held": "an outlet whose min_v and max_v are the same", "out": "an outlet", "in": "an inlet"}
                raise ValueError(f"found {field} elsewhere than at {ends[asks]}; take it away")
        return self
