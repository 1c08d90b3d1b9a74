"""How often a recipe works, from how often it did: the share, and what it may well be."""

from math import sqrt

from pydantic import BaseModel, ConfigDict

Z = 1.959963984540054
"""The quantile of the normal distribution that leaves out 2.5 in 100 at either side."""


class Rate(BaseModel):
    """`worked` of `tries`; `low` to `high`: the 95 % interval of the share. Without any try nothing is known."""

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)

    worked: int
    tries: int
    low: float
    high: float


def rate(worked: int, tries: int) -> Rate:
    """The score interval of a share (Wilson 1927, Journal of the American Statistical Association 22, 209-212).

    Raises ValueError for more successes than tries.
    """
    if not 0 <= worked <= tries:
        raise ValueError(f"found {worked} of {tries}; a recipe cannot have worked more often than it was tried")
    if tries == 0:
        return Rate(worked=0, tries=0, low=0.0, high=1.0)
    share, square = worked / tries, Z * Z
    middle = (share + square / (2 * tries)) / (1 + square / tries)
    half = Z / (1 + square / tries) * sqrt(share * (1 - share) / tries + square / (4 * tries * tries))
    # At either end the interval reaches the end itself; what is left of it is rounding.
    low = 0.0 if worked == 0 else max(0.0, middle - half)
    high = 1.0 if worked == tries else min(1.0, middle + half)
    return Rate(worked=worked, tries=tries, low=low, high=high)
