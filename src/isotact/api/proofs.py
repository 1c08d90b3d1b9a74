"""Proofs made on the real rig: which of them still hold for the rig as it stands, and what spoilt the others."""

from typing import Annotated

from fastapi import APIRouter
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import Response
from pydantic import BaseModel, Field

from isotact.api.context import TheStore
from isotact.api.desk import Desk
from isotact.api.documents import Body, DocumentId
from isotact.api.errors import MISSING, RESPONSES
from isotact.api.planning import RigToPlan
from isotact.api.work import Asks, question
from isotact.core.comparing import Stood, lapsed
from isotact.core.model import IsotactError, RefusedError, Rig
from isotact.core.model.keys import Key
from isotact.core.model.words import Id
from isotact.store import RIG, Mark, Store

router = APIRouter(prefix="/api/rigs", tags=["proofs"], responses=RESPONSES)
MOST_PROVEN = 200


class ProofByHand(BaseModel):
    """A promise that somebody saw working. `lapsed`: what it rests on now and did not then; empty while it holds."""

    promise: Id
    person: str
    at: str
    revision: int
    lapsed: tuple[str, ...] = ()


class RigAndProofs(Body):
    """The rig as it stands, what was proven of it, and the revisions looked at, as far as they can be read."""

    document: Rig
    proven: Annotated[dict[Id, Mark], Field(max_length=MOST_PROVEN)]
    earlier: Annotated[dict[int, Rig], Field(max_length=MOST_PROVEN)]


@question()
def proofs_that_stand(desk: Desk, body: RigAndProofs) -> list[ProofByHand]:
    """Each proof, with what spoilt it."""
    now = _stood(desk, body.document)
    then: dict[int, Stood | None] = {}
    for number, rig in body.earlier.items():
        try:
            then[number] = now if rig == body.document else _stood(desk, rig)
        except RefusedError:
            then[number] = None
    found = []
    for promise, mark in body.proven.items():
        before = then.get(mark.revision)
        spoilt: tuple[str, ...] = () if before else ("What it was proven with is not known any more.",)
        if before is not None and promise in now.plan.kept:
            spoilt = lapsed(before, now, promise)
        found.append(
            ProofByHand(promise=promise, person=mark.person, at=mark.at, revision=mark.revision, lapsed=spoilt)
        )
    return found


def _stood(desk: Desk, document: Rig) -> Stood:
    answer = desk.about(document)
    return Stood(answer.rig, answer.plan, answer.conditions)


@router.post("/{key}/proofs", response_model=list[ProofByHand], responses=MISSING)
async def proofs(key: DocumentId, body: RigToPlan, store: TheStore, ask: Asks) -> Response:
    """Every promise that was proven by hand since the day began, and whether that still holds for this document."""
    return await ask(proofs_that_stand, await run_in_threadpool(_of, key, body.document, store))


def _of(key: str, document: Rig, store: Store) -> RigAndProofs:
    marks = store.log.steps(key)
    steps = {promise.id: str(Key.of("prove", promise.id)) for promise in document.promises}
    proven = {promise: marks[step] for promise, step in steps.items() if step in marks and marks[step].what == "done"}
    earlier = {}
    for number in {mark.revision for mark in proven.values()}:
        try:
            earlier[number] = store[RIG].revision(key, number)
        except IsotactError:  # thrown away, or unreadable: the proofs that rest on it say so
            continue
    return RigAndProofs(document=document, proven=proven, earlier=earlier)
