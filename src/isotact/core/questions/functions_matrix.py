"""The functions matrix: every function that a rig takes, from every surface that could give it, each with a reason."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

from isotact.core.model.base import Struct
from isotact.core.model.legs import legs_of
from isotact.core.model.plan import Plan
from isotact.core.model.problems import NotFoundError
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import ControlPromise, Point, Promise
from isotact.core.model.variants import with_promises
from isotact.core.model.vocabulary import FunctionId, vocabulary
from isotact.core.model.words import Id
from isotact.core.planning.model_access import (
    MOST_TRIES,
    ChoiceModel,
    Requirements,
    Searched,
    Ways,
    build_found,
    no_way,
    ruled_out,
    ruled_out_by_the_circuit,
    search,
    write_plan,
)
from isotact.core.progress import at
from isotact.core.solver import solve, without_aim
from isotact.core.telling.phrases import plain, promise_words

CELL = "cell-"
# A matrix has some hundred cells; one that takes longer is said to be given up.
WORK = 1.2
Verdict = Literal["yes", "condition", "no", "gave-up"]


class Cell(Struct):
    """One function from one surface. `yes`: beside all that is kept; `condition`: at a price, which `says` names."""

    function: FunctionId
    device: Id
    surface: Id
    verdict: Verdict
    says: str
    way: str = ""
    when: tuple[str, ...] = ()
    """Modes, firmware and licences that the ways of this cell ask for."""
    promised: tuple[Id, ...] = ()


class Column(Struct):
    """A surface, in words."""

    device: Id
    surface: Id
    device_name: str
    surface_name: str


class Matrix(Struct):
    """Functions down, surfaces across. Cells in the order of the rows, then of the columns."""

    body: Id
    modes: dict[str, str] = {}
    """The modes of the body by id, under the names that it shows."""
    mode: str | None = None
    says: str
    functions: tuple[FunctionId, ...]
    names: dict[FunctionId, str]
    columns: tuple[Column, ...]
    cells: tuple[Cell, ...]


def functions_matrix(rig: ResolvedRig, plan: Plan, body: str, mode: str | None = None) -> Matrix:
    """What can be done to `body` and to what sits on it, from where, beside what `plan` keeps.

    With `mode`, as if the body were to stay in that one. Raises NotFoundError when the rig has no such device, or the
    device no such mode.
    """
    if body not in rig.devices:
        raise NotFoundError("device", body, rig.devices)
    modes = rig[body].profile.modes
    known = {value.id: value.name for value in modes.values} if modes else {}
    if mode is not None and mode not in known:
        raise NotFoundError(f"mode of {rig[body].name}", mode, known)
    functions = _functions_of(rig, body)
    columns = _columns(rig, functions)
    asked = [
        (function, column, f"{CELL}{row}-{place}")
        for row, function in enumerate(functions)
        for place, column in enumerate(columns)
    ]
    cells = [
        ControlPromise(
            id=key, who="anybody", function=function, at=Point(device=column.device, surface=column.surface), weight=1
        )
        for function, column, key in asked
    ]
    questions = _Questions(rig, plan, cells, (body, mode) if mode else None)
    return Matrix(
        body=body,
        modes=known,
        mode=mode,
        says=rig[body].name,
        functions=tuple(functions),
        names={key: vocabulary().functions[key].name for key in functions},
        columns=tuple(columns),
        cells=tuple(questions.asked(cells)),
    )


def _functions_of(rig: ResolvedRig, body: str) -> list[FunctionId]:
    """What the body takes or passes on, and what is taken by what sits with it: lens, rings, matte box."""
    stage = rig[body].stage
    taken = {
        function
        for placed in rig.devices.values()
        for leg in legs_of(placed)
        if (placed.id == body and not leg.starts_outside) or (leg.is_taken and placed.stage == stage)
        for function in leg.functions
    }
    return [key for key in vocabulary().functions if key in taken]


def _columns(rig: ResolvedRig, functions: list[FunctionId]) -> list[Column]:
    found: dict[tuple[str, str], None] = {}
    for placed in rig.devices.values():
        for leg in legs_of(placed):
            if leg.enters is None and leg.surface and leg.functions & set(functions):
                found[placed.id, leg.surface] = None
    return [
        Column(
            device=device,
            surface=surface,
            device_name=rig[device].name,
            surface_name=rig[device].profile.surface(surface).name,
        )
        for device, surface in found
    ]


@dataclass
class _Asked:
    """The rig with every cell promised, and the model of it."""

    rig: ResolvedRig
    found: Searched
    c: ChoiceModel


class _Questions:
    """One model for all cells; each is asked of it in turn."""

    def __init__(self, rig: ResolvedRig, plan: Plan, cells: list[ControlPromise], held: tuple[str, str] | None) -> None:
        self.rig, self.plan = rig, plan
        every: list[Promise] = [*rig.rig.promises, *cells]
        wider = with_promises(rig, every)
        found = search(wider)
        self._asked = _Asked(wider, found, build_found(wider, found))
        self._dream: Ways | None = None
        self._held = []
        if held is not None:
            device, mode = held
            values = self._asked.c.value.get((device, "mode", ""), {})
            self._held = [values[mode]] if mode in values else []

    def asked(self, cells: Sequence[ControlPromise]) -> Iterator[Cell]:
        """Each cell, answered in turn."""
        for number, cell in enumerate(cells):
            at("Asking every surface for every function", number, len(cells))
            yield self.cell(cell)

    def cell(self, cell: ControlPromise) -> Cell:
        options = self._asked.found.options[cell.id]
        if not options:
            return self._closed(cell)
        kept = [self._asked.c.kept[key] for key in self.plan.kept]
        obeyed = [var for var, pin in zip(self._asked.c.obeyed, self.plan.pins, strict=False) if pin.obeyed]
        # Beside all that is kept first: a plain yes needs no second question.
        wanted = self._asked.c.kept[cell.id]
        verdict = self._can([wanted, *kept, *obeyed, *self._held])
        way = self._way(options)
        if verdict == "yes":
            return self._made(cell, "yes", f"Yes, by way of {way}.", options)
        # Then with every other promise free, so that no is told from not beside the rest.
        alone = self._can([wanted, *obeyed, *self._held]) if verdict == "no" else verdict
        if alone == "yes":
            lost = self._lost(cell.id)
            price = f" if you give up {' and '.join(lost)}" if lost else ""
            return self._made(cell, "condition", f"Yes, by way of {way}{price}.", options)
        if alone == "no":
            says = "No: it cannot be fed, set or plugged with what is here."
            if self._held and self._can([wanted, *obeyed]) == "yes":
                says = f"Not in this mode. {'; '.join(dict.fromkeys(_whens(self.rig, options)))}."
            return self._made(cell, "no", says, options)
        return self._made(cell, "gave-up", "There was no time to look at it.", options)

    def _can(self, held: list[object]) -> Literal["yes", "no", "gave-up"]:
        c = self._asked.c
        without_aim(c.model)
        for _ in range(MOST_TRIES):
            c.model.clear_assumptions()
            c.model.add_assumptions(held)  # type: ignore[arg-type]
            solver, verdict = solve(c.model, WORK, sort="question")
            c.model.clear_assumptions()
            if verdict not in ("optimal", "feasible"):
                return "no" if verdict == "infeasible" else "gave-up"
            if not any(promise.id in self.plan.kept for promise in self.rig.rig.lasting):
                return "yes"
            # Hours are counted in watts there: kept are those that the circuit says as well.
            made = write_plan(c, solver, self._asked.found.links, "best-so-far")
            if not ruled_out_by_the_circuit(self._asked.rig, made, c):
                return "yes"
        return "gave-up"

    def _lost(self, cell: str) -> list[str]:
        """The promises that would have to go, the least by weight."""
        c = self._asked.c
        weights = {promise.id: promise.weight for promise in self.rig.rig.promises}
        # The cell weighs more than all promises together, and being held to a mode more than both.
        first = 1 + sum(weights.values())
        kept = self.plan.kept
        ahead = 2 * first * sum(self._held)
        c.model.maximize(ahead + first * c.kept[cell] + sum(weights[key] * c.kept[key] for key in kept))
        solver, verdict = solve(c.model, WORK, sort="question")
        if verdict not in ("optimal", "feasible"):
            return []
        gone = [key for key in kept if not solver.value(c.kept[key])]
        return [promise_words(self.rig, promise) for promise in self.rig.rig.promises if promise.id in gone]

    def _closed(self, cell: ControlPromise) -> Cell:
        """No way is open: one may be ruled out by something loaded or set for good, or want another cable."""
        rig = self._asked.rig
        barred = self._asked.found.ruled_out[cell.id]
        if barred:
            reason = ruled_out(rig, cell, barred)
            mendable = all(obstacle.is_mendable for obstacle in reason.obstacles)
            says = " ".join(one.says for one in reason.obstacles)
            return self._made(cell, "condition" if mendable else "no", says, barred)
        if not self._gives(cell):
            surface = rig[cell.at.device].profile.surface(cell.at.surface).name
            says = f"The {surface} does not give {vocabulary().functions[cell.function].name}."
            return self._made(cell, "no", says, [])
        if self._dream is None:
            from isotact.core.planning.model_access import would_be

            self._dream = Ways(rig, would_be(rig))
        reason = no_way(rig, cell, self._dream)
        missing = all(obstacle.is_to_be_got for obstacle in reason.obstacles)
        says = " ".join([*(one.says for one in reason.obstacles), *(reason.ways_out if missing else ())])
        return self._made(cell, "condition" if missing else "no", says, [])

    def _gives(self, cell: ControlPromise) -> bool:
        return any(
            cell.function in leg.functions and leg.surface == cell.at.surface
            for leg in legs_of(self.rig[cell.at.device])
        )

    def _way(self, options: list[Requirements]) -> str:
        # Of several ways the shortest is said: who asks wants to know that there is one.
        shortest = min(options, key=lambda needs: len(needs.way.legs))
        return " to ".join(dict.fromkeys(self.rig[leg.device].name for leg in shortest.way.legs))

    def _made(self, cell: ControlPromise, verdict: Verdict, says: str, ways: list[Requirements]) -> Cell:
        promised = tuple(
            promise.id
            for promise in self.rig.rig.promises
            if isinstance(promise, ControlPromise) and (promise.function, promise.at) == (cell.function, cell.at)
        )
        return Cell(
            function=cell.function,
            device=cell.at.device,
            surface=cell.at.surface,
            verdict=verdict,
            says=says,
            way=self._way(ways) if ways else "",
            when=tuple(dict.fromkeys(_whens(self.rig, ways))),
            promised=promised,
        )


def _whens(rig: ResolvedRig, ways: list[Requirements]) -> Iterator[str]:
    """In which modes it works, and what has to be loaded."""
    # Six ways say all modes that matter; a large rig has hundreds that differ in cables only.
    for needs in ways[:6]:
        for (device, kind, _), values in needs.knobs.items():
            if kind == "mode":
                names = [rig[device].mode_name(value) for value in values]
                yield f"{rig[device].name} in {' or '.join(names)} mode"
        for leg in needs.way.legs:
            for when in leg.whens:
                if when.firmware:
                    yield f"firmware {when.firmware} on {rig[leg.device].name}"
                if when.licence:
                    yield f"licence “{plain(when.licence)}” on {rig[leg.device].name}"
