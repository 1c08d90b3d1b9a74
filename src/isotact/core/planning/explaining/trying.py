"""A way out is tried before it is named: would the best plan with it keep the promise beside the others?"""

from collections import Counter
from collections.abc import Collection, Hashable, Iterable
from dataclasses import replace

from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.rig import BagItem
from isotact.core.planning.choosing.found import build_found
from isotact.core.planning.choosing.pricing import aim
from isotact.core.planning.choosing.solving import solve
from isotact.core.planning.finding.searching import search

MOST_TRIED = 6
"""Rigs tried for the reasons of one plan: nobody is to wait for more. What was not tried is not named."""
TRIED_S = 2.0
"""Within this a way out is tried: one that takes longer is not named."""


class Trying:
    """One rig with more in its bag, or another device in the place of one; each is planned once, whoever asks."""

    def __init__(self, rig: ResolvedRig) -> None:
        self._rig = rig
        self._tried: dict[Hashable, frozenset[str]] = {}

    def with_cables(self, cables: Iterable[str], wanted: Collection[str]) -> bool:
        """Whether the promises `wanted` can all hold with `cables` more, each counted as often as it is named."""
        more = Counter(cables)
        return self._kept(tuple(sorted(more.items())), self._more(more)) >= {*wanted}

    def with_device(self, placed: Placed, wanted: Collection[str]) -> bool:
        """Whether they can with another device in the place of the one of that id."""
        rig = replace(self._rig, devices={**self._rig.devices, placed.id: placed})
        return self._kept(placed.profile.model_dump_json(), rig) >= {*wanted}

    def with_changes(self, hours: str, changes: int, wanted: Collection[str]) -> bool:
        """Whether they would with so many battery changes allowed to a promise of hours."""
        document = self._rig.rig
        promises = [
            one.model_copy(update={"changes": changes}) if one.id == hours else one for one in document.promises
        ]
        rig = replace(self._rig, rig=document.model_copy(update={"promises": promises}))
        return self._kept((hours, changes), rig) >= {*wanted}

    def with_full(self, wanted: Collection[str]) -> bool:
        """Whether they would with every battery full."""
        full = {"charge_percent": None}
        devices = {
            key: replace(one, device=one.device.model_copy(update=full)) for key, one in self._rig.devices.items()
        }
        return self._kept("full", replace(self._rig, devices=devices)) >= {*wanted}

    def _more(self, cables: Counter[str]) -> ResolvedRig:
        bag = Counter({item.cable: item.count for item in self._rig.rig.bag}) + cables
        items = [BagItem(cable=cable, count=min(count, 99)) for cable, count in bag.items()]
        return replace(self._rig, rig=self._rig.rig.model_copy(update={"bag": items}))

    def _kept(self, key: Hashable, rig: ResolvedRig) -> frozenset[str]:
        if key not in self._tried and len(self._tried) < MOST_TRIED:
            c = build_found(rig, search(rig))
            aim(c)
            solver, verdict = solve(c.model, TRIED_S)
            kept = (key for key, var in c.kept.items() if verdict == "optimal" and solver.value(var))
            self._tried[key] = frozenset(kept)
        return self._tried.get(key, frozenset())
