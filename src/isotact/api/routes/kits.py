"""Kits: what the crew has; lists in and out; and the day, all rigs planned with one kit."""

from typing import Annotated, Any

from fastapi import APIRouter
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import PlainTextResponse, Response
from pydantic import BaseModel, Field

from isotact.api.compute.answers import AnswerContext
from isotact.api.compute.work import Asks, question
from isotact.api.dependencies import TheCatalogue, TheStore, looked_up
from isotact.api.errors import MISSING, RESPONSES, STALE
from isotact.api.routes.documents import Body, DocumentId, Number, Rules, add_routes
from isotact.api.security.doorman import MAY_LOOK
from isotact.catalogue import Catalogue
from isotact.catalogue.tables import read_table, write_table
from isotact.core.day import Day, plan_day
from isotact.core.model import Kit, RefusedError, Rig
from isotact.core.model.kitlist import Field as ColumnKind
from isotact.core.model.kitlist import KitLine, guess_columns, kit_of, read_lines, table_of
from isotact.core.model.problems import Problem, nearest
from isotact.core.model.words import Id
from isotact.store import KIT, RIG, Saved, Store

router = APIRouter(prefix="/api/kits", tags=["kits"], responses=RESPONSES)
LineNumber = Annotated[str, Field(pattern=r"^[0-9]{1,6}$")]


class ListToRead(Body):
    """A list as text, what its columns are (left out: guessed), and what single lines are."""

    text: Annotated[str, Field(max_length=1_000_000)]
    file: Annotated[str, Field(max_length=200)] = ""
    columns: Annotated[list[ColumnKind], Field(max_length=60)] | None = None
    chosen: dict[LineNumber, Id] = {}
    left_out: Annotated[list[Annotated[int, Field(strict=True)]], Field(max_length=2000)] = []


class ListToTakeIn(ListToRead):
    """The same, to be taken in on top of a revision."""

    made_on: Number


class Preview(BaseModel):
    """A list as it was understood. `ready` when nothing in it is wrong."""

    headings: list[str]
    columns: list[ColumnKind]
    lines: list[KitLine]
    ready: bool


class DayToPlan(Body):
    """Which rigs to plan together; all when left out."""

    rigs: Annotated[list[Id], Field(max_length=20)] | None = None


class KitAndRigs(BaseModel):
    """A kit, and the rigs that share it."""

    kit: Kit
    rigs: list[Rig]


@question()
def list_as_read(desk: AnswerContext, body: ListToRead) -> Preview:
    """A list as it was understood."""
    return _preview(body, desk.catalogue)


@router.post("/{key}/preview", response_model=Preview, responses=MISSING, openapi_extra=MAY_LOOK)
async def preview(key: DocumentId, body: ListToRead, store: TheStore, ask: Asks) -> Response:
    """Read a list without taking it in: every line with what it was taken for, and every problem."""
    await run_in_threadpool(store[KIT].one, key)
    return await ask(list_as_read, body)


@router.post("/{key}/list", responses={**MISSING, **STALE})
async def take_in(key: DocumentId, body: ListToTakeIn, store: TheStore, ask: Asks) -> Saved[Kit]:
    """Take a list in. Refused whole while any line of it is wrong."""
    kit = (await run_in_threadpool(store[KIT].one, key)).document
    answer = await ask(list_as_read, ListToRead(**body.model_dump(exclude={"made_on"})), is_kept=True)
    return await run_in_threadpool(_taken_in, store, kit, Preview.model_validate_json(bytes(answer.body)), body)


def _taken_in(store: Store, kit: Kit, read: Preview, body: ListToTakeIn) -> Saved[Kit]:
    problems = [
        Problem(code="bad-line", path=f"line {line.line}", message=text, file=body.file, line=line.line)
        for line in read.lines
        for text in line.problems
    ]
    if problems:
        raise RefusedError(problems)
    return store[KIT].save(kit.id, kit_of(read.lines, kit), body.made_on)


_AS_CSV: dict[int | str, dict[str, Any]] = {200: {"content": {"text/csv": {"schema": {"type": "string"}}}}}


@router.get("/{key}/list", responses={**MISSING, **_AS_CSV}, response_class=Response)
def list_out(key: DocumentId, store: TheStore, catalogue: TheCatalogue) -> Response:
    """The kit as CSV; taken in again it gives the same kit."""
    kit = store[KIT].one(key).document
    text = write_table(table_of(kit, catalogue.profiles, catalogue.cables))
    name = f'attachment; filename="{kit.id}.csv"'
    return PlainTextResponse(text, media_type="text/csv", headers={"Content-Disposition": name})


@question(long=True, best=True)
def whole_day(desk: AnswerContext, body: KitAndRigs) -> Day:
    """All rigs of a day planned together."""
    rigs = [desk.looked_up(rig) for rig in body.rigs]
    return plan_day(rigs, body.kit, watch=desk.watch, profiles=desk.catalogue.profiles)


@router.post("/{key}/day", response_model=Day, responses=MISSING, openapi_extra=MAY_LOOK)
async def plan_the_day(
    key: DocumentId, body: DayToPlan, store: TheStore, catalogue: TheCatalogue, ask: Asks
) -> Response:
    """Plan all rigs of the day with this kit; it may take long, and can be followed and stopped."""
    return await ask(whole_day, await run_in_threadpool(_of_the_day, key, body, store, catalogue))


def _of_the_day(key: str, body: DayToPlan, store: Store, catalogue: Catalogue) -> KitAndRigs:
    kit = store[KIT].one(key).document
    saved = store[RIG].all() if body.rigs is None else [store[RIG].one(rig) for rig in dict.fromkeys(body.rigs)]
    for one in saved:
        looked_up(catalogue, one.document)
    return KitAndRigs(kit=kit, rigs=[one.document for one in saved])


def _preview(body: ListToRead, catalogue: Catalogue) -> Preview:
    headings, rows = read_table(body.text, body.file)
    columns = body.columns or guess_columns(headings)
    if "item" not in columns:
        says = "No column was taken for the item; say which one it is."
        return Preview(headings=headings, columns=columns, lines=[_unread(says)], ready=False)
    left_out = set(body.left_out)
    chosen = {int(key): value for key, value in body.chosen.items()}
    lines = read_lines(
        [(number, row) for number, row in rows if number not in left_out],
        columns,
        catalogue.profiles,
        catalogue.cables,
        chosen,
    )
    return Preview(
        headings=headings, columns=columns, lines=lines, ready=bool(lines) and not any(line.problems for line in lines)
    )


def _unread(says: str) -> KitLine:
    return KitLine(line=1, text="", kind="nothing", problems=(says,))


def _names_are_known(catalogue: Catalogue, kit: Kit) -> None:
    problems = []
    for field, key, known in (("devices", "profile", catalogue.profiles), ("cables", "cable", catalogue.cables)):
        for number, item in enumerate(getattr(kit, field)):
            found = getattr(item, key)
            if found not in known:
                message = f"found '{found}', which is no {key} that we know{nearest(found, known)}"
                problems.append(Problem(code="unknown-name", path=f"{field}[{number}].{key}", message=message))
    for number, pack in enumerate(kit.packs):
        if pack.battery is not None and pack.battery not in catalogue.profiles:
            found = (
                f"found '{pack.battery}', which is no profile that we know{nearest(pack.battery, catalogue.profiles)}"
            )
            problems.append(Problem(code="unknown-name", path=f"packs[{number}].battery", message=found))
    if problems:
        raise RefusedError(problems)


add_routes(router, KIT, Rules(must_know=_names_are_known))


ROUTERS = (router,)
