"""What a battery gives as it empties: volts by the energy that is left, ohms within it, and what cold and age take.

All of it goes by the share of its *energy* that is left, as its watt hours are counted, not by its charge: at a steady
load the hours are then a plain quotient.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from functools import cached_property

from isotact.core.calc.curves import Points, along, area

LOW_LEFT = 0.2
"""What is left at the end of a charge, when motors stall at the last slate: the fifth that lamps warn of."""
WORN_OHM = 5.0
"""A pack that holds a fifth less has twice the ohms: the two ends of life of a battery. Common practice, no source."""
STEPS = 12
"""A curve over a charge in so many steps: twice as many move the hours by less than one in a thousand."""
HALVINGS = 30
"""So often a share of charge is halved when it is looked for: to a billionth."""


@dataclass(frozen=True)
class Chemistry:
    """One cell of its sort.

    `rest_v`: volts at rest by the share of charge left, 0 to 1. `ohm_ah`: ohms within it, times its amp hours.
    `cold`: the share of its energy that is there, by temperature in °C; `cold_ohm`: its ohms against those at 20 °C.
    """

    name: str
    rest_v: Points
    ohm_ah: float
    cold: Points
    cold_ohm: Points
    source: str
    by_energy: Points = field(init=False)
    """`rest_v` by the share of energy left."""

    def __post_init__(self) -> None:
        whole = area(self.rest_v)
        shares = [area(self.rest_v[: number + 1]) / whole for number in range(len(self.rest_v))]
        points = tuple((share, volts) for share, (_, volts) in zip(shares, self.rest_v, strict=True))
        object.__setattr__(self, "by_energy", points)

    @cached_property
    def mean_v(self) -> float:
        """Watt hours over amp hours of a full cell."""
        return area(self.rest_v)


_LITHIUM_COLD = ((-20.0, 0.65), (-10.0, 0.8), (0.0, 0.9), (20.0, 1.0))
_LITHIUM_COLD_OHM = ((-20.0, 4.0), (-10.0, 2.6), (0.0, 1.8), (20.0, 1.0))
_COLD_SAID = "cold and ohms within: from data sheets, from memory"

CHEMISTRIES: dict[str, Chemistry] = {
    "li-ion": Chemistry(
        name="lithium ion",
        rest_v=(
            *((0.0, 2.5), (0.02, 2.84), (0.05, 3.07), (0.1, 3.26), (0.15, 3.4), (0.2, 3.45), (0.3, 3.55), (0.4, 3.63)),
            *((0.5, 3.71), (0.6, 3.81), (0.7, 3.92), (0.8, 4.02), (0.9, 4.09), (0.95, 4.12), (1.0, 4.19)),
        ),
        ohm_ah=0.17,
        cold=_LITHIUM_COLD,
        cold_ohm=_LITHIUM_COLD_OHM,
        source=f"Chen and others, J. Electrochem. Soc. 167 (2020) 080534: a nickel cell at rest; {_COLD_SAID}",
    ),
    "li-iron": Chemistry(
        name="lithium iron phosphate",
        rest_v=(
            *((0.0, 2.5), (0.05, 2.69), (0.1, 2.99), (0.15, 3.14), (0.2, 3.17), (0.3, 3.22), (0.4, 3.26)),
            *((0.6, 3.27), (0.7, 3.3), (0.9, 3.31), (1.0, 3.34)),
        ),
        ohm_ah=0.1,
        cold=((-20.0, 0.5), (-10.0, 0.7), (0.0, 0.85), (20.0, 1.0)),
        cold_ohm=_LITHIUM_COLD_OHM,
        source=f"Afshar and others, arXiv:1709.03970, against the graphite of Chen and others (2020); {_COLD_SAID}",
    ),
    "nimh": Chemistry(
        name="nickel metal hydride",
        rest_v=(
            (0.0, 1.0),
            (0.05, 1.14),
            (0.1, 1.19),
            (0.2, 1.23),
            (0.5, 1.27),
            (0.8, 1.31),
            (0.95, 1.36),
            (1.0, 1.42),
        ),
        ohm_ah=0.06,
        cold=((-20.0, 0.5), (0.0, 0.85), (20.0, 1.0)),
        cold_ohm=((-20.0, 3.0), (0.0, 1.5), (20.0, 1.0)),
        source="common practice, no source, from memory",
    ),
    "lead": Chemistry(
        name="lead acid",
        rest_v=((0.0, 1.89), (0.1, 1.92), (0.25, 1.97), (0.5, 2.03), (0.75, 2.08), (1.0, 2.12)),
        ohm_ah=0.06,
        cold=((-20.0, 0.5), (0.0, 0.8), (20.0, 1.0)),
        cold_ohm=((-20.0, 2.0), (0.0, 1.3), (20.0, 1.0)),
        source="volts at rest by the density of its acid: common practice, no source, from memory",
    ),
}
"""By the word that a profile writes. What a battery's own profile says of its curve and ohms comes before."""


@dataclass(frozen=True)
class Battery:
    """One battery, or several side by side that are one to the circuit.

    `curve_v`: its own volts by the share of energy left, before what its chemistry says. `ohm`: at 20 °C and new;
    None: by its chemistry. `health`: what a full charge is of what it was when new. Invariant: `cells` > 0,
    `energy_wh` > 0, 0 < `health` <= 1.
    """

    chemistry: Chemistry
    cells: int
    energy_wh: float
    curve_v: Points | None = None
    ohm: float | None = None
    celsius: float = 20.0
    health: float = 1.0

    def rest_v(self, left: float) -> float:
        """Volts without load at a share of energy left."""
        if self.curve_v is not None:
            return along(self.curve_v, left)
        return self.cells * along(self.chemistry.by_energy, left)

    @cached_property
    def inner_ohm(self) -> float:
        """Ohms within it, as cold and as old as it is."""
        amp_hours = self.energy_wh / (self.cells * self.chemistry.mean_v)
        new = self.cells * self.chemistry.ohm_ah / amp_hours if self.ohm is None else self.ohm
        worn = 1 + WORN_OHM * (1 - self.health)
        return new * worn * along(self.chemistry.cold_ohm, self.celsius)

    @property
    def cold_share(self) -> float:
        """What is there of its energy as cold as it is."""
        return along(self.chemistry.cold, self.celsius)

    @property
    def there_wh(self) -> float:
        """What a full charge gives as cold and as old as it is."""
        return self.energy_wh * self.health * self.cold_share


def left_at(battery: Battery, volts: float, watts: float) -> float | None:
    """The share of energy that is left at so many volts while it gives so many watts; None where no share gives them.

    At the terminals: what is lost within it by the amps is added to what is read.
    """
    if volts <= 0:
        return None
    rest = volts + battery.inner_ohm * watts / volts
    low, high = 0.0, 1.0
    if not battery.rest_v(low) <= rest <= battery.rest_v(high):
        return None
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        low, high = (middle, high) if battery.rest_v(middle) < rest else (low, middle)
    return (low + high) / 2


@dataclass(frozen=True)
class Moment:
    """A point of a discharge: hours from its beginning, share of energy left, volts under load."""

    hours_h: float
    left: float
    volts: float


def discharged(
    battery: Battery, asked: Callable[[float], tuple[float, float] | None], start: float = 1.0, end: float = 0.0
) -> Sequence[Moment]:
    """How it empties from a share of energy to another.

    `asked(left)`: volts under load, and watts that the cells give, what is lost within them included; None where it
    cannot feed what hangs on it, which ends the curve there. A load of nothing ends it as well: it lasts for ever.
    """
    found: list[Moment] = []
    lasted_h, before_w = 0.0, 0.0
    for number in range(STEPS + 1):
        left = start + (end - start) * number / STEPS
        now = asked(left)
        if now is None or now[1] <= 0:
            break
        volts, watts = now
        if found:
            # Hours for each watt hour change little from step to step: the mean of both ends.
            lasted_h += battery.there_wh * (found[-1].left - left) * (1 / before_w + 1 / watts) / 2
        found.append(Moment(lasted_h, left, volts))
        before_w = watts
    return found
