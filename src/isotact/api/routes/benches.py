"""Benches under somebody's hands: begun, worked at move by move, undone, and asked where the sheet goes on."""

from typing import TYPE_CHECKING, Annotated, Literal

from fastapi import APIRouter, Path, Query, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import Response
from pydantic import BaseModel, Field, StrictBool

from isotact.api.bench_hub import BenchHub
from isotact.api.compute.answers import Answer, AnswerContext
from isotact.api.compute.benches import as_kept
from isotact.api.compute.work import Asks, question
from isotact.api.dependencies import TheStore
from isotact.api.errors import MISSING, RESPONSES
from isotact.api.routes.documents import Body
from isotact.api.security.doorman import MAY_TICK
from isotact.core.bench import AtBench, DoStep, HandBench, Move, NoMoveError, seen
from isotact.core.model import Rig
from isotact.core.model.words import Id
from isotact.core.runsheet import RunSheet, Step, moved_to
from isotact.core.trades import fresh_world
from isotact.core.training import Exercise
from isotact.store import BenchHistory, BenchLine, Store

if TYPE_CHECKING:
    from isotact.core.diagnosis.table import Table
    from isotact.core.training.hidden import Hidden

router = APIRouter(prefix="/api/benches", tags=["benches"], responses={**RESPONSES, **MISSING})
BenchId = Annotated[str, Path(pattern=r"^[0-9a-f]+$", max_length=40)]
AtDevice = Annotated[Id | None, Query(max_length=100, description="of which device to list what a hand can try there")]


class Beginning(Body):
    """A rig as it lies or stands when somebody begins.

    `start`: in its cases, or as it stands built, by its sheet where it was not built yet. `rehearses`: what is done
    otherwise than the sheet has it is told, with what it costs.
    """

    document: Rig
    start: Literal["cases", "standing"] = "cases"
    rehearses: StrictBool = False
    hunt: Exercise | None = Field(default=None, description="something hidden is wrong with the rig as it stands")
    blind: StrictBool = Field(default=False, description="from its cases, and nobody tells where the sheet goes on")

    @property
    def is_training(self) -> bool:
        """Whether nothing is given away."""
        return self.hunt is not None or self.blind


class ToDo(Body):
    """One thing to do, and the device about which is to be told then what a hand can try."""

    move: Move
    device: Id | None = None


class BackTo(Body):
    """How many moves are to count from now on; more than now: what was undone is done again."""

    moves: Annotated[int, Field(ge=0, le=100_000, strict=True)]
    device: Id | None = None


class BenchAsked(Body):
    """How a bench began, what was done since, what is to be done now, and which device is asked about."""

    beginning: Beginning
    moves: list[str] = []
    move: Move | None = None
    device: Id | None = None


class _Last(BaseModel):
    """Of all that is seen at a bench, what the last move did."""

    last_step: Step | None = None


@question(quick=True)
def at_the_bench(desk: AnswerContext, body: BenchAsked) -> AtBench:
    """The bench, once the move is made."""
    bench, key = bench_of(desk, body)
    if body.move is not None:
        bench = desk.about(body.beginning.document).benches.then(bench, key, body.move)
    return seen(bench, body.device)


@question(quick=True)
def where_it_goes_on(desk: AnswerContext, body: BenchAsked) -> RunSheet:
    """The sheet from there."""
    if body.beginning.is_training:
        raise NoMoveError("In an exercise nobody says where the sheet goes on. End it to be told.")
    return bench_of(desk, body)[0].ahead()


def bench_of(desk: AnswerContext, body: BenchAsked) -> tuple[HandBench, bytes]:
    """A bench as it is once its moves are made, and its key."""
    beginning = body.beginning
    answer = desk.about(beginning.document)

    def begin() -> HandBench:
        if beginning.hunt is not None:
            from isotact.core.training.by_hand import hunted

            return hunted(HandBench(answer.built, fresh_world(answer.rig)), *hidden_in(answer, beginning.hunt))
        bench = HandBench(answer.built, fresh_world(answer.rig), rehearses=beginning.rehearses and not beginning.blind)
        earlier = beginning.document.built
        if beginning.blind:
            return bench
        if beginning.start == "standing" and earlier is not None:
            bench.world = moved_to(desk.about(earlier).world, answer.rig)[0]
        elif beginning.start == "standing":
            bench.world = answer.world.fork()
            bench.done = {step.id: 0 for step in answer.sheet.steps}
        return bench

    how = beginning.model_dump_json(exclude={"document"})
    return answer.benches.after(how, body.moves, begin)


def hidden_in(answer: Answer, exercise: Exercise) -> "tuple[Table, Hidden]":
    """What is wrong in an exercise, and the table that it was drawn from."""
    from isotact.core.training.hidden import hide, standing_for

    table = answer.outcomes(standing_for(exercise, answer.sheet))
    return table, hide(table, exercise)


async def told(store: Store, bench: str, ask: Asks, device: str | None) -> Response:
    """What is seen at a bench now."""
    history = await run_in_threadpool(store.benches.history, bench)
    return await ask(at_the_bench, asked(history, device=device))


def asked(history: BenchHistory, move: Move | None = None, device: str | None = None) -> BenchAsked:
    """What is asked of a bench that was kept."""
    beginning = Beginning.model_validate_json(history.beginning)
    return BenchAsked(beginning=beginning, moves=history.moves, move=move, device=device)


def hub_of(request: Request) -> BenchHub:
    """Those who stand at benches."""
    hub: BenchHub = request.app.state.benches
    return hub


@router.get("")
def list_benches(store: TheStore, rig: Annotated[Id | None, Query(max_length=100)] = None) -> list[BenchLine]:
    """Every bench, or those of one rig, the newest first."""
    return store.benches.all(rig)


@router.post("", status_code=201, openapi_extra=MAY_TICK)
async def begin_bench(body: Beginning, store: TheStore, ask: Asks) -> BenchLine:
    """Begin a bench. It is there for everybody who joined, until newer ones take its room."""
    await ask(at_the_bench, BenchAsked(beginning=body))  # what cannot be looked up is refused before it is kept
    rig = body.document
    return await run_in_threadpool(store.benches.begin, rig.id, rig.name, body.model_dump_json())


@router.get("/{bench}", response_model=AtBench)
async def look_at_bench(bench: BenchId, store: TheStore, ask: Asks, device: AtDevice = None) -> Response:
    """What is seen at a bench now."""
    return await told(store, bench, ask, device)


@router.get("/{bench}/beginning")
def how_it_began(bench: BenchId, store: TheStore) -> Beginning:
    """The rig of a bench, and how it stood at the beginning."""
    return Beginning.model_validate_json(store.benches.history(bench).beginning)


@router.post("/{bench}/moves", response_model=AtBench, openapi_extra=MAY_TICK)
async def do_at_bench(bench: BenchId, body: ToDo, store: TheStore, ask: Asks, request: Request) -> Response:
    """Do one thing at a bench. What comes of it is told, in vain or not; refused is what names nothing there is."""
    return await moved(store, hub_of(request), bench, ask, body.move, body.device)


async def moved(store: Store, hub: BenchHub, bench: str, ask: Asks, move: Move, device: str | None) -> Response:
    """Make a move, one after the other, and keep it."""
    move = move.model_copy(update={"said": None}) if isinstance(move, DoStep) else move
    async with hub.turn(bench):
        history = await run_in_threadpool(store.benches.history, bench)
        answer = await ask(at_the_bench, asked(history, move, device), is_kept=True)
        step = _Last.model_validate_json(bytes(answer.body)).last_step
        await run_in_threadpool(store.benches.add, bench, as_kept(move, step))
    hub.moved(bench)
    return answer


@router.post("/{bench}/back", response_model=AtBench, openapi_extra=MAY_TICK)
async def undo_at_bench(bench: BenchId, body: BackTo, store: TheStore, ask: Asks, request: Request) -> Response:
    """Undo moves, or do again what was undone."""
    hub = hub_of(request)
    async with hub.turn(bench):
        await run_in_threadpool(store.benches.go_to, bench, body.moves)
        answer = await told(store, bench, ask, body.device)
    hub.moved(bench)
    return answer


@router.get("/{bench}/ahead", response_model=RunSheet)
async def where_next(bench: BenchId, store: TheStore, ask: Asks) -> Response:
    """Where the sheet would go on from here."""
    history = await run_in_threadpool(store.benches.history, bench)
    return await ask(where_it_goes_on, asked(history))


ROUTERS = (router,)
