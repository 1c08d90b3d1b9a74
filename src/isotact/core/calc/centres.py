"""Where weights sit, learned from the marks at which builds stood: least squares, weighed by what was known before.

A reading says by how much all that an axis turns was off where it ought to have been, `sum(share x centre) + read`,
with the share of each thing in the weight, its centre off by what nobody knows, and how well a scale is read. What was
known of each before (nought, to its spread) and the readings make the best estimate and its covariance: Gelman and
others, Bayesian Data Analysis, 3rd edition, section 14.8, from memory.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from math import log as log_of
from math import sqrt

import numpy as np
from numpy.typing import NDArray

READ_MM = 1.0
"""How well a scale is read and a hand feels balance, one standard deviation. Common practice, no source."""
ENOUGH = 8
"""From so many readings on their own spread is learned from them."""
_TRIED_MM = (0.3, 0.5, 0.7, 1.0, 1.4, 2.0, 2.8, 4.0, 5.6, 8.0)
"""Spreads of a reading that are tried, each about four tenths more than the one before."""
ODD = 3.0
"""A reading so many standard deviations from what the others say contradicts them: three in a thousand would."""
UNTOLD = 0.8
"""A centre whose spread stays above that share of what it was was not told apart from the rest."""


@dataclass(frozen=True)
class Reading:
    """By how much all that an axis turns was off, in millimetres; the share of each thing in the weight."""

    off_mm: float
    shares: Mapping[str, float]


@dataclass(frozen=True)
class Centres:
    """What readings of one direction say of the centres of things.

    `spreads`: thing -> one standard deviation before anything was read, in millimetres. Invariant: more than nothing.
    """

    readings: Sequence[Reading]
    spreads: Mapping[str, float]
    read_mm: float

    @cached_property
    def keys(self) -> tuple[str, ...]:
        """The things that were on some build, in a fixed order."""
        return tuple(sorted({key for one in self.readings for key in one.shares if key in self.spreads}))

    @cached_property
    def _shares(self) -> NDArray[np.float64]:
        return np.array([[one.shares.get(key, 0.0) for key in self.keys] for one in self.readings], dtype=np.float64)

    @cached_property
    def _before(self) -> NDArray[np.float64]:
        return np.array([self.spreads[key] ** 2 for key in self.keys], dtype=np.float64)

    @cached_property
    def _certain(self) -> NDArray[np.float64]:
        """The inverse of the covariance of the readings."""
        spread = (self._shares * self._before) @ self._shares.T
        return np.asarray(np.linalg.inv(spread + self.read_mm**2 * np.eye(len(self.readings))), dtype=np.float64)

    @cached_property
    def _off(self) -> NDArray[np.float64]:
        return np.array([one.off_mm for one in self.readings], dtype=np.float64)

    @cached_property
    def _gain(self) -> NDArray[np.float64]:
        return (self._shares * self._before).T @ self._certain

    @cached_property
    def mean_mm(self) -> Mapping[str, float]:
        """Thing -> how far its centre is from where it was taken to be."""
        return dict(zip(self.keys, map(float, self._gain @ self._off), strict=True))

    @cached_property
    def covariance(self) -> NDArray[np.float64]:
        """Of the centres, in the order of `keys`, in square millimetres."""
        found: NDArray[np.float64] = np.diag(self._before) - self._gain @ self._shares * self._before
        return found

    def spread_mm(self, key: str) -> float:
        """One standard deviation of a centre now."""
        if key not in self.keys:
            return self.spreads[key]
        place = self.keys.index(key)
        return sqrt(max(0.0, float(self.covariance[place, place])))

    def predicted(self, shares: Mapping[str, float]) -> tuple[float, float]:
        """By how much a build would be off, and one standard deviation of that, the reading left out."""
        known = np.array([shares.get(key, 0.0) for key in self.keys], dtype=np.float64)
        mean = float(sum(share * self.mean_mm.get(key, 0.0) for key, share in shares.items()))
        new = sum((share * self.spreads.get(key, 0.0)) ** 2 for key, share in shares.items() if key not in self.keys)
        return mean, sqrt(max(0.0, float(known @ self.covariance @ known) + new))

    @cached_property
    def odd(self) -> list[tuple[int, float]]:
        """The readings that contradict the others: which, and how many millimetres from what those say.

        The worst first, and each without those found before it: one that is wrong makes others look so.
        """
        left, found = list(range(len(self.readings))), []
        while len(left) > 2:  # of two that differ nobody can say which is wrong
            rest = Centres([self.readings[number] for number in left], self.spreads, self.read_mm)
            worst, off, share = rest._worst
            if share <= ODD:
                break
            found.append((left.pop(worst), off))
        return found

    @cached_property
    def _worst(self) -> tuple[int, float, float]:
        """The reading that is furthest from what the others say, by how much, and in standard deviations."""
        sure = np.diag(self._certain)
        off = (self._certain @ self._off) / sure
        share = np.abs(off) * np.sqrt(sure)
        place = int(np.argmax(share))
        return place, float(off[place]), float(share[place])

    @property
    def untold(self) -> list[str]:
        """Those that were read more than once, and are known hardly better: the builds do not tell them apart."""
        often = [key for key in self.keys if sum(key in one.shares for one in self.readings) > 1]
        return [key for key in often if self.spread_mm(key) > UNTOLD * self.spreads[key]]

    @cached_property
    def _turned(self) -> tuple[NDArray[np.float64], NDArray[np.float64], float]:
        """Along the directions that the things can move the readings: variances, squares of what was read, the rest."""
        ways, sizes, _ = np.linalg.svd(self._shares * np.sqrt(self._before), full_matrices=False)
        along = np.square(ways.T @ self._off)
        return np.square(sizes), along, max(0.0, float(self._off @ self._off - along.sum()))

    def likelihood(self, read_mm: float) -> float:
        """How well what was read fits what was known at a spread of a reading, as a logarithm: for comparing those."""
        variances, along, rest = self._turned
        both, alone = variances + read_mm**2, max(0, len(self.readings) - len(variances))
        log = float(np.log(both).sum()) + alone * log_of(read_mm**2)
        return -(log + float((along / both).sum()) + rest / read_mm**2) / 2


def learned(readings: Sequence[Reading], spreads: Mapping[str, float]) -> Centres:
    """What readings say; of the spread of a reading, what is usual until there are enough to learn it from."""
    usual = Centres(readings, spreads, READ_MM)
    if len(readings) < ENOUGH:
        return usual
    return Centres(readings, spreads, max(_TRIED_MM, key=usual.likelihood))
