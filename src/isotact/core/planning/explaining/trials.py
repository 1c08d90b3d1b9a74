"""A way out is tried before it is named: would the best plan with it keep the promise beside the others?"""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Hashable, Iterable, Sequence
from math import inf
from typing import TYPE_CHECKING

from isotact.core.model.plan import Link
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.variants import with_bag, with_devices, with_every_piece, with_promise
from isotact.core.planning.lasting_truly import ruled_out_by_the_circuit
from isotact.core.planning.optimising.choice_model import ChoiceModel
from isotact.core.planning.optimising.objective import aim
from isotact.core.planning.optimising.pruning import build_found
from isotact.core.planning.plan_writer import write_plan
from isotact.core.planning.ways.all_ways import search
from isotact.core.planning.ways.candidates import candidates_with
from isotact.core.solver import Verdict, solve

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

MOST_TRIED = 4
"""Rigs tried for the reasons of one plan: nobody is to wait for more. What was not tried is not named."""
MOST_CHOSEN = 3
"""So often a rig that is tried is chosen anew where its hours hold by watts only: the next is seldom better."""
TRIED_WORK = 1.2
"""Within this work, a second or two, a way out is tried: one that takes more is not named."""


class Trying:
    """One rig with more in its bag, or another device; each is planned once, whoever asks.

    `links` are all that could be made in it as it is.
    """

    def __init__(self, rig: ResolvedRig, links: list[Link]) -> None:
        self._rig = rig
        self._links = links
        self._tried: dict[Hashable, _Tried] = {}

    def with_cables(self, cables: Iterable[str], wanted: Collection[str]) -> bool:
        """Whether the promises `wanted` can all hold with `cables` more, each counted as often as it is named."""
        more = Counter(cables)
        return self._keeps(tuple(sorted(more.items())), self._more(more), wanted)

    def with_devices(self, brought: Iterable[Placed], wanted: Collection[str], cables: Iterable[str] = ()) -> bool:
        """Whether they can with other devices, in the place of those of like ids if there are such, and cables more."""
        more, others = Counter(cables), {one.id: one for one in brought}
        rig = with_devices(self._more(more), others.values())
        shapes = [(key, one.profile.model_dump_json()) for key, one in others.items()]
        return self._keeps((*shapes, *sorted(more.items())), rig, wanted, frozenset(others))

    def with_changes(self, hours: str, changes: int, wanted: Collection[str]) -> bool:
        """Whether they would with so many battery changes allowed to a promise of hours."""
        return self._keeps((hours, changes), with_promise(self._rig, hours, changes=changes), wanted)

    def with_full(self, wanted: Collection[str]) -> bool:
        """Whether they would with every battery full."""
        return self._keeps("full", with_every_piece(self._rig, charge_percent=None), wanted)

    def with_rig(self, changed: ResolvedRig, wanted: Collection[str]) -> bool:
        """Whether they would in `changed`: the same rig nearer, under other schools, or with less asked for."""
        key = (changed.rig.model_dump_json(), *(one.device.model_dump_json() for one in changed.devices.values()))
        rig = self._rig
        # What could be joined follows from the pieces, how far they stand and the school of one port alone.
        same = (changed.rig.shot, changed.rig.schools.port) == (rig.rig.shot, rig.rig.schools.port)
        others = [one for one, placed in changed.devices.items() if not same or placed is not rig.devices.get(one)]
        return self._keeps(key, changed, wanted, others)

    def _more(self, cables: Counter[str]) -> ResolvedRig:
        bag = Counter({item.cable: item.count for item in self._rig.rig.bag})
        return with_bag(self._rig, bag + cables)

    def _keeps(self, key: Hashable, rig: ResolvedRig, wanted: Collection[str], brought: Collection[str] = ()) -> bool:
        if key not in self._tried and len(self._tried) < MOST_TRIED:
            links = candidates_with(rig, brought, self._links) if _lying(rig) == _lying(self._rig) else None
            found = search(rig, links)
            self._tried[key] = _Tried(build_found(rig, found), found.links)
        return key in self._tried and self._tried[key].keeps(wanted)


def _lying(rig: ResolvedRig) -> dict[str, float]:
    """All of a bag that links follow from: one more of what is there lies as the others do.

    But for splitters, of which each piece is told apart, and for the second of an adapter, for the lead's other end.
    """
    most = {"splitter": inf, "adapter": 2, "cable": 1}
    return {key: min(count, most[rig.cables[key].kind]) for key, count in rig.stock.items() if count}


class _Tried:
    """One rig that was built to be tried. Solved at most once, and only if that has a chance."""

    def __init__(self, built: ChoiceModel, links: list[Link]) -> None:
        self._built = built
        self._links = links
        self._kept: frozenset[str] | None = None

    def keeps(self, wanted: Collection[str]) -> bool:
        """Whether its best plan keeps these promises: first whether any plan can, which is soon told."""
        if self._kept is None:
            unrivalled = not self._rivals(wanted) or self._asked([self._any_of(self._rivals(wanted))]) == "infeasible"
            held = [self._built.kept[key] for key in sorted(wanted)]
            pins = self._built.obeyed if unrivalled else []
            verdict = self._asked([*held, *pins])
            hours = any(promise.id in wanted for promise in self._built.rig.rig.lasting)
            if verdict in ("optimal", "feasible") and unrivalled and not hours:
                return True
            if verdict == "infeasible" and (not pins or self._asked(held) == "infeasible"):
                return False
            self._kept = self._best()
        return self._kept >= {*wanted}

    def _best(self) -> frozenset[str]:
        """What the best plan keeps that lasts by the circuit as well; nothing where none was found in time."""
        aim(self._built)
        for _ in range(MOST_CHOSEN):
            solver, verdict = solve(self._built.model, TRIED_WORK)
            if verdict != "optimal":
                break
            made = write_plan(self._built, solver, self._links, "proven-optimal")
            if not ruled_out_by_the_circuit(self._built.rig, made, self._built):
                return frozenset(made.kept)
        return frozenset()

    def _rivals(self, wanted: Collection[str]) -> list[str]:
        """The promises that could be preferred. Where none can hold, a plan that keeps all pins is as good as any."""
        promises = self._built.rig.rig.promises
        last = any(promise.id in wanted and not promise.comes_first for promise in promises)
        return [one.id for one in promises if one.id not in wanted and (one.comes_first or last)]

    def _any_of(self, promises: Sequence[str]) -> cp_model.IntVar:
        model = self._built.model
        one_holds = model.new_bool_var("one holds")
        model.add_bool_or([self._built.kept[key] for key in promises]).only_enforce_if(one_holds)
        return one_holds

    def _asked(self, literals: Sequence[cp_model.IntVar]) -> Verdict:
        """Whether all of `literals` can be true at once."""
        model = self._built.model
        model.add_assumptions(literals)
        _, verdict = solve(model, TRIED_WORK, sort="question")
        model.clear_assumptions()
        return verdict
