"""Exercises: something hidden is wrong; looked for, mended, told at the end; and what somebody tends to miss."""

from datetime import UTC, datetime
from typing import Annotated

from fastapi import APIRouter, Path, Query, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import Response
from pydantic import BaseModel, Field, StrictBool, TypeAdapter

from isotact.api.bench_hub import BenchHub
from isotact.api.compute.answers import AnswerContext
from isotact.api.compute.work import Asks, question
from isotact.api.dependencies import TheStore
from isotact.api.errors import MISSING, RESPONSES
from isotact.api.routes.benches import Beginning, BenchAsked, BenchId, asked, bench_of, hidden_in
from isotact.api.routes.documents import Body
from isotact.api.security.doorman import MAY_TICK
from isotact.core.diagnosis import Sight
from isotact.core.model import Rig
from isotact.core.model.problems import IsotactError
from isotact.core.training import (
    LEVELS,
    Answer,
    Exercise,
    ExerciseState,
    Level,
    Missed,
    Suspect,
    Trained,
    Verdict,
    missed,
)
from isotact.core.training.exercise import SEED_BITS, code_of, from_code, rig_bits
from isotact.examples import examples
from isotact.store import RIG, Store
from isotact.store.author import person

router = APIRouter(prefix="/api/exercises", tags=["training"], responses={**RESPONSES, **MISSING})
about = APIRouter(prefix="/api/training", tags=["training"], responses={**RESPONSES, **MISSING})
ExerciseId = Annotated[str, Path(pattern=r"^[0-9a-f]+$", max_length=40)]
MOST_MISSED = 6
"""So many kinds of fault are named as those that somebody tends to miss: more is no advice."""
_ANSWER: TypeAdapter[Answer] = TypeAdapter(Answer)


class ToTrain(Body):
    """The rig to train on, how hard, and the seed; the same seed hides the same."""

    document: Rig
    level: Level = 1
    seed: Annotated[int, Field(ge=0, lt=2**SEED_BITS, strict=True)]


class ByCode(Body):
    """A code that somebody read out."""

    code: Annotated[str, Field(max_length=40)]


class WhatTrainee(Body):
    """What the trainee does now."""

    answer: Answer


class ExerciseBegun(Body):
    """What an exercise follows from."""

    document: Rig
    exercise: Exercise


class ExerciseAsked(Body):
    """How an exercise began, and what was done since."""

    begun: ExerciseBegun
    answers: list[Answer] = []


class ExerciseLine(BaseModel):
    """An exercise that was begun."""

    id: str
    code: str
    rig: str
    level: Level
    name: str
    says: str


class LevelLine(BaseModel):
    """How hard an exercise can be."""

    level: Level
    name: str
    says: str


class ExerciseChoices(BaseModel):
    """What can be looked at, and what could be wrong."""

    sights: list[Sight]
    suspects: list[Suspect]


class Progress(BaseModel):
    """What somebody did, the last one first, and what he tends to miss."""

    trained: list[Trained]
    missed: list[Missed]


@question(quick=True)
def how_it_stands(desk: AnswerContext, body: ExerciseAsked) -> ExerciseState:
    """The exercise, with all that was done."""
    from isotact.core.training.training import Training

    table, hidden = hidden_in(desk.about(body.begun.document), body.begun.exercise)
    return Training(table, hidden).all(body.answers).standing()


@question(quick=True)
def what_can_be_done(desk: AnswerContext, body: ExerciseAsked) -> ExerciseChoices:
    """All looks and all that could be wrong."""
    from isotact.core.diagnosis.sights import sights
    from isotact.core.training.training import suspects

    table, _ = hidden_in(desk.about(body.begun.document), body.begun.exercise)
    return ExerciseChoices(sights=sights(table), suspects=suspects(table))


class AtTheEnd(Body):
    """Whether to give up: otherwise it is over once all works."""

    give_up: StrictBool = False


class BenchJudged(BenchAsked):
    """A bench, and whether it is given up."""

    give_up: bool = False


@question(quick=True)
def how_it_is_judged(desk: AnswerContext, body: BenchJudged) -> Verdict:
    """The verdict on an exercise at the bench."""
    from isotact.core.training.by_hand import judged_blind, judged_hunt

    bench, _ = bench_of(desk, body)
    if body.beginning.hunt is None:
        return judged_blind(bench, body.give_up)
    return judged_hunt(bench, *hidden_in(desk.about(body.beginning.document), body.beginning.hunt), body.give_up)


@about.get("/levels")
def levels() -> list[LevelLine]:
    """How hard an exercise can be."""
    return [LevelLine(level=level, name=name, says=says) for level, (name, says) in LEVELS.items()]


@router.post("", status_code=201, openapi_extra=MAY_TICK)
async def begin_exercise(body: ToTrain, store: TheStore, ask: Asks) -> ExerciseLine:
    """Begin an exercise on a rig."""
    return await _begun(store, ask, body.document, Exercise(level=body.level, seed=body.seed))


@about.post("/by-code", status_code=201, openapi_extra=MAY_TICK)
async def begin_by_code(body: ByCode, store: TheStore, ask: Asks) -> ExerciseLine:
    """Begin the exercise that somebody else has: on the rig of this laptop, or the example, that it was made of."""
    bits, exercise = from_code(body.code)
    rig = await run_in_threadpool(_rig_of, store, bits)
    return await _begun(store, ask, rig, exercise)


def _rig_of(store: Store, bits: int) -> Rig:
    here = [saved.document for saved in store[RIG].all()]
    for rig in (*here, *(rig for one in examples() for rig in one.rigs)):
        if rig_bits(rig) == bits:
            return rig
    raise IsotactError(
        "No rig here is as the one was that this code was made of. Open that rig as it was then, or another example."
    )


async def _begun(store: Store, ask: Asks, rig: Rig, exercise: Exercise) -> ExerciseLine:
    begun = ExerciseBegun(document=rig, exercise=exercise)
    await ask(how_it_stands, ExerciseAsked(begun=begun))  # what cannot be made an exercise of is refused before
    text = begun.model_dump_json()
    line = await run_in_threadpool(store.benches.begin, rig.id, rig.name, text, "exercise")
    name, says = LEVELS[exercise.level]
    code = code_of(rig, exercise)
    return ExerciseLine(id=line.id, code=code, rig=rig.id, level=exercise.level, name=name, says=says)


@about.get("/progress")
def progress(
    store: TheStore, who: Annotated[str | None, Query(max_length=60, description="left out: everybody")] = None
) -> Progress:
    """What was trained, and which kinds of fault are missed."""
    every = [Trained.model_validate_json(one) for one in store.benches.trained()]
    trained = [one for one in every if who is None or one.person == who]
    return Progress(trained=trained, missed=missed(trained)[:MOST_MISSED])


@router.get("/{exercise}", response_model=ExerciseState)
async def look_at_exercise(exercise: ExerciseId, store: TheStore, ask: Asks) -> Response:
    """How an exercise stands."""
    begun, answers = await run_in_threadpool(_kept, store, exercise)
    return await ask(how_it_stands, ExerciseAsked(begun=begun, answers=answers))


@router.get("/{exercise}/beginning")
def how_exercise_began(exercise: ExerciseId, store: TheStore) -> ExerciseBegun:
    """The rig of an exercise, how hard it is, and its seed."""
    return _kept(store, exercise)[0]


@router.get("/{exercise}/choices", response_model=ExerciseChoices)
async def choices_of_exercise(exercise: ExerciseId, store: TheStore, ask: Asks) -> Response:
    """What can be looked at in an exercise, and what could be wrong: all of it, whatever was done so far."""
    begun, _ = await run_in_threadpool(_kept, store, exercise)
    return await ask(what_can_be_done, ExerciseAsked(begun=begun))


@router.post("/{exercise}/answers", response_model=ExerciseState, openapi_extra=MAY_TICK)
async def work_at_exercise(
    exercise: ExerciseId, body: WhatTrainee, store: TheStore, ask: Asks, request: Request
) -> Response:
    """Look, mend, or give up. Once it is over, what came of it stands in the log."""
    hub: BenchHub = request.app.state.benches
    async with hub.turn(exercise):
        begun, answers = await run_in_threadpool(_kept, store, exercise)
        asked = ExerciseAsked(begun=begun, answers=[*answers, body.answer])
        answer = await ask(how_it_stands, asked, is_kept=True)
        state = ExerciseState.model_validate_json(bytes(answer.body))
        await run_in_threadpool(store.benches.add, exercise, _ANSWER.dump_json(body.answer).decode())
        if state.status != "open":
            await run_in_threadpool(_finished, store, begun, state)
    return answer


@about.post("/at-bench/{bench}", response_model=Verdict, openapi_extra=MAY_TICK)
async def judge_bench(bench: BenchId, body: AtTheEnd, store: TheStore, ask: Asks) -> Response:
    """How an exercise at a bench stands. Once it is over, what came of it stands in the log, once."""
    history = await run_in_threadpool(store.benches.history, bench)
    asked_now = asked(history)
    if not asked_now.beginning.is_training:
        raise IsotactError("This bench is no exercise: nothing is hidden at it.")
    judged = BenchJudged(beginning=asked_now.beginning, moves=asked_now.moves, give_up=body.give_up)
    answer = await ask(how_it_is_judged, judged, is_kept=True)
    verdict = Verdict.model_validate_json(bytes(answer.body))
    if verdict.status != "open":
        await run_in_threadpool(_finished_at_bench, store, bench, asked_now.beginning, verdict)
    return answer


def _finished_at_bench(store: Store, bench: str, beginning: Beginning, verdict: Verdict) -> None:
    if any(Trained.model_validate_json(one).bench == bench for one in store.benches.trained()):
        return
    hunt, rig = beginning.hunt, beginning.document
    name = f"{LEVELS[hunt.level][0]}, at the bench" if hunt is not None else "Built blind"
    code = code_of(rig, hunt) if hunt is not None else ""
    trained = Trained(
        at=datetime.now(UTC).isoformat(timespec="seconds"),
        person=person.get(),
        rig=rig.id,
        code=code,
        level=hunt.level if hunt is not None else 0,
        status=verdict.status,
        seconds=verdict.seconds,
        finder_s=verdict.par_s or 0.0,
        looks=verdict.moves,
        points=verdict.points or 0,
        kinds=verdict.kinds,
        bench=bench,
    )
    text = f"{'; '.join(verdict.was) or 'Built without its sheet'}: {verdict.status.replace('-', ' ')}, "
    text += f"{trained.points} of 100 points."
    store.benches.finished(rig.id, ", ".join(filter(None, (name, code))), text, trained.model_dump(mode="json"))


def _kept(store: Store, exercise: str) -> tuple[ExerciseBegun, list[Answer]]:
    history = store.benches.history(exercise, "exercise")
    answers = [_ANSWER.validate_json(one) for one in history.moves]
    return ExerciseBegun.model_validate_json(history.beginning), answers


def _finished(store: Store, begun: ExerciseBegun, state: ExerciseState) -> None:
    code, name = code_of(begun.document, begun.exercise), LEVELS[begun.exercise.level][0]
    trained = Trained(
        at=datetime.now(UTC).isoformat(timespec="seconds"),
        person=person.get(),
        rig=begun.document.id,
        code=code,
        level=begun.exercise.level,
        status=state.status,
        seconds=state.seconds,
        finder_s=state.finder.seconds if state.finder is not None else 0.0,
        looks=state.looks,
        points=state.points or 0,
        kinds=state.kinds,
    )
    text = f"{'; '.join(state.was)}: {state.status.replace('-', ' ')}, {trained.points} of 100 points."
    store.benches.finished(begun.document.id, f"{name}, {code}", text, trained.model_dump(mode="json"))


ROUTERS = (router, about)
