"""The rota of a day: which pack goes where when, and the same for calendars and spreadsheets."""

from typing import Annotated

from fastapi import APIRouter
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import Response
from pydantic import Field

from isotact.api.compute.answers import AnswerContext
from isotact.api.compute.work import Asks, question
from isotact.api.dependencies import TheStore
from isotact.api.errors import RESPONSES
from isotact.api.routes.documents import Body
from isotact.api.security.doorman import MAY_LOOK
from isotact.core.day import DayRota, NoDayError, RotaDay, day_rig, day_rota, on_that_day
from isotact.core.model import Kit, Rig
from isotact.core.model.base import Struct
from isotact.core.model.job import Clock, Job
from isotact.papers import rota_calendar, rota_table
from isotact.store import KIT, RIG, Store

router = APIRouter(prefix="/api", tags=["rota"], responses=RESPONSES)


class DayToRota(Body):
    """A day of a job, as it stands on the screen. `now`: the time of day, from which on the rest is planned again."""

    document: Job
    day: Annotated[int, Field(ge=0, lt=400, strict=True)] = 0
    now: Clock | None = None


class DayAndRigs(Body):
    """A day of a job with its rigs and its kit."""

    job: Job
    day: int
    now: Clock | None
    rigs: list[Rig]
    kit: Kit | None


class RotaPapers(Struct):
    """A rota in open formats: a table as CSV, and a calendar as iCalendar."""

    table: str
    calendar: str


@question()
def rota_asked(desk: AnswerContext, body: DayAndRigs) -> DayRota:
    """The rota of a day."""
    return day_rota(_day_of(desk, body), body.now)


@question()
def rota_papers(desk: AnswerContext, body: DayAndRigs) -> RotaPapers:
    """The same for other programs."""
    rota = day_rota(_day_of(desk, body), body.now)
    return RotaPapers(table=rota_table(rota), calendar=rota_calendar(rota, body.job.name))


def _day_of(desk: AnswerContext, body: DayAndRigs) -> RotaDay:
    if body.day >= len(body.job.days):
        raise NoDayError(f"Found no day {body.day + 1} in {body.job.name}; it has {len(body.job.days)}.")
    day = body.job.days[body.day]
    rigs = []
    for rig in body.rigs:
        answer = desk.about(rig)
        cold = desk.looked_up(on_that_day(rig, day))
        rigs.append(day_rig(cold, answer.world, answer.plan, answer.conditions))
    return RotaDay(body.job, body.day, rigs, body.kit, desk.catalogue.profiles)


@router.post("/rota", response_model=DayRota, openapi_extra=MAY_LOOK)
async def rota(body: DayToRota, store: TheStore, ask: Asks) -> Response:
    """Which pack goes where when, which charges meanwhile, and where it cannot be done what it would take."""
    return await ask(rota_asked, await run_in_threadpool(_with_rigs, body, store))


@router.post("/rota/papers", response_model=RotaPapers, openapi_extra=MAY_LOOK)
async def papers(body: DayToRota, store: TheStore, ask: Asks) -> Response:
    """The rota as a table and as a calendar."""
    return await ask(rota_papers, await run_in_threadpool(_with_rigs, body, store))


def _with_rigs(body: DayToRota, store: Store) -> DayAndRigs:
    """The rigs that the blocks of the day name, and the job's kit, as they are kept."""
    day = body.document.days[body.day] if body.day < len(body.document.days) else None
    named = {used.rig for block in day.blocks for used in block.rigs} if day is not None else set()
    rigs = [one.document for one in store[RIG].all() if one.document.id in named]
    kits = [one.document for one in store[KIT].all() if one.document.id == body.document.kit]
    return DayAndRigs(job=body.document, day=body.day, now=body.now, rigs=rigs, kit=kits[0] if kits else None)


ROUTERS = (router,)
