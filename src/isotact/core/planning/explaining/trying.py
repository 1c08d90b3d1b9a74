"""A way out is tried before it is named: the rig is planned with what would be got."""

from collections import Counter
from collections.abc import Callable, Collection, Hashable, Iterable
from dataclasses import replace

from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.rig import BagItem

Keeps = Callable[[ResolvedRig], Collection[str]]
"""What the best plan of a rig keeps."""

MOST_TRIED = 6
"""Rigs planned for the reasons of one plan: nobody is to wait for more. What was not tried is not named."""


class Trying:
    """One rig with more in its bag, or another device in the place of one; each is planned once, whoever asks."""

    def __init__(self, rig: ResolvedRig, keeps: Keeps) -> None:
        self._rig = rig
        self._keeps = keeps
        self._tried: dict[Hashable, Collection[str]] = {}

    def with_cables(self, cables: Iterable[str]) -> Collection[str]:
        """The promises that would be kept with `cables` more, each counted as often as it is named."""
        more = Counter(cables)
        key = tuple(sorted(more.items()))
        if key not in self._tried and len(self._tried) < MOST_TRIED:
            bag = Counter({item.cable: item.count for item in self._rig.rig.bag}) + more
            items = [BagItem(cable=cable, count=min(count, 99)) for cable, count in bag.items()]
            self._tried[key] = self._keeps(replace(self._rig, rig=self._rig.rig.model_copy(update={"bag": items})))
        return self._tried.get(key, ())

    def with_device(self, placed: Placed) -> Collection[str]:
        """The promises that would be kept with another device in the place of the one of that id."""
        key = placed.profile.model_dump_json()
        if key not in self._tried and len(self._tried) < MOST_TRIED:
            devices = {**self._rig.devices, placed.id: placed}
            self._tried[key] = self._keeps(replace(self._rig, devices=devices))
        return self._tried.get(key, ())
