"""A number and how it was come by: what every "why" on a screen shows."""

from isotact.core.model.base import Struct


class Given(Struct):
    """One number that went into a calculation."""

    name: str
    value: float
    unit: str = ""


class Calculation(Struct):
    """A number, and the way to it.

    `value`: with its unit, rounded as it is said. `why`: the formula with its numbers in it. `given`: these numbers as
    they were reckoned with. `also`: what else belongs to it, a sentence each.
    """

    name: str
    value: str
    why: str
    given: tuple[Given, ...] = ()
    also: tuple[str, ...] = ()
