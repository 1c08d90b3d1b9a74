"""The finder: what could be wrong, what to look at next, what can be seen, and the cure."""

from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import Response
from pydantic import BaseModel, Field

from isotact.api.compute.answers import AnswerContext
from isotact.api.compute.work import Asks, question
from isotact.api.dependencies import TheStore
from isotact.api.errors import MISSING, RESPONSES
from isotact.api.routes.documents import Body
from isotact.api.security.doorman import MAY_LOOK
from isotact.core.diagnosis import (
    Finding,
    Happened,
    Seen,
    Sight,
    Standing,
)
from isotact.core.model import Rig
from isotact.core.model.words import Id
from isotact.core.runsheet import RunSheet
from isotact.core.trades.suspicion import in_crews_order
from isotact.core.trades.symptoms import SYMPTOMS, heard

router = APIRouter(prefix="/api", tags=["finder"], responses={**RESPONSES, **MISSING})

StepId = Annotated[str, Field(max_length=300)]


class RigThatFails(Body):
    """A rig, and how it stands.

    `done`: the steps that were carried out, in that order; None: nobody ticked them, all of the sheet. `differs`: the
    step that does not look as it should. `changed`: devices that were touched since it last worked.
    """

    document: Rig
    done: Annotated[list[StepId], Field(max_length=1000)] | None = None
    differs: StepId | None = None
    happened: Annotated[list[Happened], Field(max_length=200)] = []
    changed: Annotated[list[Id], Field(max_length=200)] = []

    @property
    def standing(self) -> Standing:
        """The same as the core has it."""
        return Standing(
            done=None if self.done is None else tuple(self.done),
            differs=self.differs,
            happened=tuple(self.happened),
            changed=tuple(self.changed),
        )


class ToFind(RigThatFails):
    """The same, and what was seen so far, in that order."""

    seen: Annotated[list[Seen], Field(max_length=200)] = []


class ToFindHere(ToFind):
    """The same, and how often each kind of fault was found here."""

    finds: dict[str, int] = {}


class ToMend(RigThatFails):
    """The same, and what is to be mended: a cause, or two at once."""

    causes: Annotated[list[StepId], Field(min_length=1, max_length=2)]


class Search(BaseModel):
    """How the search stands.

    `crew`: what a crew would suspect first, among what is likely. `finds`: how often these kinds were found here.
    """

    finding: Finding
    crew: tuple[str, ...]
    finds: dict[str, int]


class SymptomLine(BaseModel):
    """Something that people say unasked."""

    id: str
    says: str


@question(quick=True)
def what_is_wrong(desk: AnswerContext, body: ToFindHere) -> Search:
    """How the search stands."""
    from isotact.core.diagnosis.finder import find

    table = desk.about(body.document).outcomes(body.standing)
    finding = find(table, body.seen, body.finds)
    kinds = [kind for one in finding.causes for kind in one.kinds]
    known = {kind: body.finds[kind] for kind in kinds if kind in body.finds}
    return Search(finding=finding, crew=tuple(in_crews_order(kinds)), finds=known)


@router.post("/find", response_model=Search, openapi_extra=MAY_LOOK)
async def find_what_is_wrong(body: ToFind, store: TheStore, ask: Asks) -> Response:
    """What could be wrong, how likely each is, and the look after which the rest of the search is shortest."""
    finds = await run_in_threadpool(store.log.finds)
    return await ask(what_is_wrong, ToFindHere(**body.model_dump(), finds=finds))


@question(quick=True)
def what_can_be_seen(desk: AnswerContext, body: RigThatFails) -> list[Sight]:
    """All looks with what they can show."""
    from isotact.core.diagnosis.sights import sights

    return sights(desk.about(body.document).outcomes(body.standing))


@router.post("/find/sights", response_model=list[Sight], openapi_extra=MAY_LOOK)
async def sights_of_a_rig(body: RigThatFails, ask: Asks) -> Response:
    """What can be seen of a rig and told unasked: each look with what it can show, the sound one first."""
    return await ask(what_can_be_seen, body)


@question(quick=True)
def how_to_mend(desk: AnswerContext, body: ToMend) -> RunSheet:
    """The short sheet."""
    from isotact.core.diagnosis.cures import cure

    return cure(desk.about(body.document).outcomes(body.standing), body.causes)


@router.post("/find/cure", response_model=RunSheet, openapi_extra=MAY_LOOK)
async def mend(body: ToMend, ask: Asks) -> Response:
    """The steps that mend a cause and work again what it stopped, from the rig as it is with that fault."""
    return await ask(how_to_mend, body)


class Said(Body):
    """Words that somebody typed; nothing: all that is known is asked for."""

    text: Annotated[str, Field(max_length=200)] = ""


@question(quick=True)
def what_was_meant(_desk: AnswerContext, body: Said) -> list[SymptomLine]:
    """The symptoms that words may mean."""
    found = heard(body.text) if body.text.strip() else SYMPTOMS
    return [SymptomLine(id=one.id, says=one.says) for one in found]


@router.get("/symptoms", response_model=list[SymptomLine])
async def symptoms(ask: Asks, text: Annotated[str, Query(max_length=200)] = "") -> Response:
    """What people say unasked of a rig that fails; with `text`, those that it may mean, the likeliest first."""
    return await ask(what_was_meant, Said(text=text))


ROUTERS = (router,)
