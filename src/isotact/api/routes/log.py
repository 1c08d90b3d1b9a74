"""Saying what was done to a rig, and reading it: how the day stands, the log book, a day's report."""

from collections.abc import Callable, Iterable, Iterator
from datetime import UTC, datetime
from typing import Annotated, Any, Literal

from fastapi import APIRouter, Query
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import StreamingResponse
from pydantic import Field, TypeAdapter

from isotact.api.compute.answers import Answer, AnswerContext
from isotact.api.compute.work import Asks, question
from isotact.api.dependencies import TheStore
from isotact.api.errors import MISSING, RESPONSES
from isotact.api.routes.documents import Body, DocumentId, Number
from isotact.api.security.doorman import MAY_TICK, TheWho
from isotact.core.day import spoilt_by
from isotact.core.faults.coverage import checks_of
from isotact.core.model import NotFoundError, Rig
from isotact.core.model.incidents import Noted
from isotact.core.model.named_keys import prove_key
from isotact.core.model.words import Id, Name
from isotact.core.questions import BuiltRig
from isotact.core.trades.incident_acts import acts_at_device
from isotact.store import RIG, About, Choices, Entry, Line, Looked, Spoiling, Stands, Wanted, as_csv, as_json_lines
from isotact.store.log_book import CalendarDay

router = APIRouter(prefix="/api/rigs", tags=["log"], responses=RESPONSES)
book = APIRouter(prefix="/api/log", tags=["log"], responses=RESPONSES)
OF_STEPS = ("done", "skipped", "differs")
"""What can only be said of a step that is on the sheet; to take something back is always allowed."""


class Done(Body):
    """What was done, by whom, and on which revision of the rig. `person`: for the laptop itself; others are known."""

    revision: Number
    person: Annotated[Name, Field(max_length=60)] | Literal[""] = ""
    entries: Annotated[list[Entry], Field(min_length=1, max_length=200)]


class RigAndEntries(Body):
    """A rig, and what was said of it."""

    document: Rig
    entries: list[Entry]


_LOOKED: TypeAdapter[Looked] = TypeAdapter(Looked)


@question(quick=True)
def looked_at(desk: AnswerContext, body: RigAndEntries) -> Looked:
    """What is known of the entries. Raises NotFoundError for one about a step that is on no sheet, CannotAskError."""
    answer = desk.about(body.document)
    built = body.document.built
    sheets = [answer.sheet] if built is None else [answer.sheet, answer.since(desk.about(built))[1]]
    steps = {step.id: About(words=step.title, device=step.device or "") for sheet in sheets for step in sheet.steps}
    devices = {key: About(words=placed.name, device=key) for key, placed in answer.rig.devices.items()}
    looks: dict[str, About] = {}
    if any(entry.what in ("looked", "unlooked") for entry in body.entries):
        found = checks_of(answer.rig, answer.plan, answer.conditions)
        looks = {str(check.id): About(words=check.says, device=check.where or "") for check in found}
    known = {**looks, **steps, **devices}
    for entry in body.entries:
        if entry.what in OF_STEPS and entry.subject not in steps:
            raise NotFoundError("step on this run sheet", entry.subject, steps)
    spoilt = {}
    for entry in body.entries:
        if entry.happened is not None:
            if entry.subject not in devices:
                raise NotFoundError("device in this rig", entry.subject, devices)
            says = f"{devices[entry.subject].words}: {entry.happened.says}."
            spoilt[entry.uid] = Spoiling(steps=_undone(answer, entry.happened, entry.subject), says=says)
    named = {entry.subject for entry in body.entries} | {step for one in spoilt.values() for step in one.steps}
    return Looked(about={key: known[key] for key in sorted(named) if key in known}, spoilt=spoilt)


def _undone(answer: Answer, what: Noted, device: Id) -> tuple[str, ...]:
    """The steps of the sheet that have to be done again, the proofs of what was touched among them."""
    if device not in {feed.device for feed in answer.plan.feeds}:
        return ()
    found = spoilt_by(BuiltRig(answer.rig, answer.plan, answer.conditions), answer.world, acts_at_device(what, device))
    on_sheet = {step.id for step in answer.sheet.steps}
    again = (*found.steps, *(str(prove_key(promise)) for promise in found.promises))
    return tuple(dict.fromkeys(step for step in again if step in on_sheet))


@router.get("/{key}/steps", responses=MISSING)
def steps(key: DocumentId, store: TheStore) -> Stands:
    """How the day stands: every step of the run sheet of which anything was said, and who is to do what."""
    return store.log.stands(key)


@router.post("/{key}/log", responses=MISSING, openapi_extra=MAY_TICK)
async def add_to_the_log(key: DocumentId, done: Done, store: TheStore, who: TheWho, ask: Asks) -> Stands:
    """Say what was done, perhaps a while ago; an entry that is there already counts once. Gives how the day stands.

    Refused whole when a step is not on the run sheet of the revision that was looked at, or a photo was never sent.
    """
    arrived = datetime.now(UTC)
    rig = await run_in_threadpool(store[RIG].revision, key, done.revision)
    for photo in sorted({photo for entry in done.entries for photo in entry.photos}):
        if not await run_in_threadpool(store.photos.has, photo):
            raise NotFoundError("photo", photo, ())
    found = Looked()
    if any(entry.subject for entry in done.entries):
        answer = await ask(looked_at, RigAndEntries(document=rig, entries=done.entries), is_kept=True)
        found = _LOOKED.validate_json(bytes(answer.body))
    person = done.person if who.is_here else who.person
    return await run_in_threadpool(store.log.add, key, done.entries, done.revision, person, found, arrived)


@router.delete("/{key}/steps", responses=MISSING, status_code=204, openapi_extra=MAY_TICK)
def new_day(key: DocumentId, store: TheStore, who: TheWho) -> None:
    """A new day: nothing is done yet. What was done stays in the log."""
    store.log.clear(key, who.person)


@book.get("")
def read_the_log(wanted: Annotated[Wanted, Query()], store: TheStore) -> list[Line]:
    """The log book, newest first: by rig, person, device, kind, day and words. `before`: the last number seen."""
    return store.book.lines(wanted)


@book.get("/choices")
def choices(store: TheStore) -> Choices:
    """Who is in the log, and which kinds of lines."""
    return store.book.choices()


_FORMS: dict[str, tuple[str, Callable[[Iterator[Line]], Iterable[str]]]] = {
    "csv": ("text/csv", as_csv),
    "jsonl": ("application/jsonl", as_json_lines),
}
_AS_FILE: dict[int | str, dict[str, Any]] = {
    200: {"content": {kind: {"schema": {"type": "string"}} for kind, _ in _FORMS.values()}}
}


@book.get("/days/{day}/{form}", responses=_AS_FILE, response_class=StreamingResponse)
def report(
    day: CalendarDay, form: Literal["csv", "jsonl"], store: TheStore, rig: str | None = None
) -> StreamingResponse:
    """A day as a file, in the order in which things were done: a table (CSV), or JSON lines with all that is known."""
    kind, write = _FORMS[form]
    named = f"isotact-{day}.{form}"
    headers = {"Content-Disposition": f'attachment; filename="{named}"'}
    return StreamingResponse(write(store.book.of_day(day, rig)), media_type=f"{kind}; charset=utf-8", headers=headers)


ROUTERS = (router, book)
