"""Where questions about rigs are answered: plans by document and catalogue, so that no rig is planned twice."""

import pickle
from collections import OrderedDict
from collections.abc import Callable
from functools import cached_property
from threading import Lock
from typing import TYPE_CHECKING

from isotact.api.compute.benches import BenchStates
from isotact.api.dependencies import looked_up
from isotact.catalogue import Catalogue
from isotact.core.bench import Built, carry_through
from isotact.core.diagnosis import Situation, Standing
from isotact.core.model import Plan, ResolvedRig, Rig
from isotact.core.planning import Chosen, Watch, chosen_for, with_reasons
from isotact.core.runsheet import RunSheet, moved_to, run_sheet, sheet_between
from isotact.core.trades import Condition, conditions_of
from isotact.core.world import World

if TYPE_CHECKING:
    from isotact.core.diagnosis.table import Table

KEPT = 48
"""So many answers are kept: the rigs of a day with the last few drafts of each, a few megabytes in all."""


class Answer:
    """A rig looked up and planned, and what follows from that."""

    def __init__(self, rig: ResolvedRig, plan: Plan, chosen: Chosen | None = None) -> None:
        self.rig = rig
        self.plan = plan
        """Without reasons, which take longer to find than the plan itself."""
        self._chosen, self._told = chosen, Lock()
        self._with_reasons: Plan | None = None
        self._outcomes: tuple[Standing, Table] | None = None
        self.benches = BenchStates()

    def with_reasons(self, watch: Watch | None = None) -> Plan:
        """The plan, with what stands in the way of what it cannot keep."""
        with self._told:
            if self._with_reasons is not None:
                return self._with_reasons
            told = with_reasons(self.rig, self._chosen or chosen_for(self.rig, watch=watch), watch)
            if watch is None or not watch.stopped:
                self._with_reasons = told
                self.forget()
            return told

    def forget(self) -> None:
        """Forget what the plan was chosen from, which is large: it is found anew if reasons are asked for after all."""
        self._chosen = None

    @cached_property
    def conditions(self) -> tuple[Condition, ...]:
        return conditions_of(self.rig, self.plan)

    @cached_property
    def sheet(self) -> RunSheet:
        return run_sheet(self.rig, self.plan, self.conditions)

    @cached_property
    def world(self) -> World:
        """The rig once its sheet is carried out. Fork it, do not change it."""
        return carry_through(self.rig, self.sheet)

    @cached_property
    def built(self) -> Built:
        """What a bench stands for."""
        return Built(self.rig, self.plan, self.conditions, self.sheet)

    def outcomes(self, standing: Standing) -> "Table":
        """What every look would show in every hypothesis, where the rig is as `standing` says: the last one is kept."""
        from isotact.core.diagnosis.table import outcome_table

        known = self._outcomes
        if known is None or known[0] != standing:
            situation = Situation(self.rig, self.plan, self.conditions, self.sheet, standing)
            known = self._outcomes = (standing, outcome_table(situation))
        return known[1]

    def since(self, built: "Answer") -> tuple[World, RunSheet]:
        """The rig as `built` stands, of this document, and the sheet from there to this one."""
        world, gone = moved_to(built.world, self.rig)
        return world, sheet_between(world, self.plan, self.conditions, gone)


class AnswerCache:
    """The last answers given, by catalogue and document. Only proven ones are kept: a search that was cut short or
    stopped may find more the next time.
    """

    def __init__(self) -> None:
        self._lock = Lock()
        self._catalogue: Catalogue | None = None
        self._known: OrderedDict[str, Answer] = OrderedDict()
        self._last: Answer | None = None

    def of(
        self,
        catalogue: Catalogue,
        document: Rig,
        watch: Watch | None = None,
        known: Callable[[], Plan | None] | None = None,
    ) -> Answer:
        """The answer for `document`, perhaps with a plan that is known already.

        Raises RefusedError when it names something that is not there.
        """
        key = document.model_dump_json()
        with self._lock:
            if catalogue is not self._catalogue:
                self._catalogue = catalogue
                self._known.clear()
            if key in self._known:
                self._known.move_to_end(key)
                return self._known[key]
        rig = looked_up(catalogue, document)
        answer = _answer(rig, known() if known else None, watch)
        with self._lock:
            if self._last is not None:
                self._last.forget()
            self._last = answer
        if answer.plan.status == "proven-optimal":
            with self._lock:
                if catalogue is self._catalogue:
                    self._known[key] = answer
                    while len(self._known) > KEPT:
                        self._known.popitem(last=False)
        return answer


def _answer(rig: ResolvedRig, known: Plan | None, watch: Watch | None) -> Answer:
    if known is not None:
        return Answer(rig, known)
    chosen = chosen_for(rig, watch=watch)
    return Answer(rig, chosen.plan, chosen)


class AnswerContext:
    """What a question is asked of: the answers, over the catalogue of the moment.

    `planned`: the plans that came up while it was asked, pickled, by document: whoever asked may hand them on to
    another process with the next question. `offer`: takes an answer that will do if the search is stopped from here on.
    """

    def __init__(
        self,
        answers: AnswerCache,
        catalogue: Catalogue,
        watch: Watch | None = None,
        known: dict[str, bytes] | None = None,
    ) -> None:
        self._answers, self._known = answers, known or {}
        self.catalogue, self.watch = catalogue, watch
        self.planned: dict[str, bytes] = {}
        self.offer: Callable[[object], None] = lambda _: None

    def about(self, document: Rig) -> Answer:
        """The answer for `document`."""
        key = document.model_dump_json()
        answer = self._answers.of(self.catalogue, document, self.watch, lambda: self._plan(key))
        if key not in self._known and answer.plan.status == "proven-optimal":
            self.planned[key] = pickle.dumps(answer.plan)
        return answer

    def _plan(self, key: str) -> Plan | None:
        found = self._known.get(key)
        # It was made by one of our own processes a moment ago, and never left them.
        return pickle.loads(found) if found else None

    def looked_up(self, document: Rig) -> ResolvedRig:
        """`document` with what it names."""
        return looked_up(self.catalogue, document)
