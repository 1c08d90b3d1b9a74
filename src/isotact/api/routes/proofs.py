"""Proofs made on the real rig: what is to be looked at, which of them still hold, and what spoilt the others."""

from collections.abc import Mapping
from typing import Annotated, Literal

from fastapi import APIRouter
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import Response
from pydantic import BaseModel, Field

from isotact.api.compute.answers import Answer, AnswerContext
from isotact.api.compute.work import Asks, question
from isotact.api.dependencies import TheStore
from isotact.api.errors import MISSING, RESPONSES
from isotact.api.routes.documents import Body, DocumentId
from isotact.api.routes.plans import RigToPlan
from isotact.api.security.doorman import MAY_LOOK
from isotact.core.day import lapsed
from isotact.core.model import IsotactError, RefusedError, Rig
from isotact.core.model.base import Struct
from isotact.core.model.incidents import Incident, Noted
from isotact.core.model.named_keys import prove_key
from isotact.core.model.words import Id
from isotact.core.proofs import Judged, Measured, ProofCheck, Reading, Verdict, checks_of_promise, judged, measured
from isotact.core.questions import BuiltRig, Compared, compared
from isotact.core.telling.phrases import promise_words
from isotact.core.trades.incident_acts import acts_at_device
from isotact.store import RIG, Mark, Store

router = APIRouter(prefix="/api/rigs", tags=["proofs"], responses=RESPONSES)
beside = APIRouter(prefix="/api", tags=["proofs"], responses=RESPONSES)
# As many as a rig can promise: see `model.base.MOST`.
MOST_PROVEN = 200
MOST_COMPARED = 30
"""So many revisions are looked at for the last time that all was proven; each has to be planned."""
Outcome = Literal["proven", "failed", "spoilt"]
_OUTCOMES: Mapping[str, Outcome] = {"done": "proven", "differs": "failed", "spoilt": "spoilt"}
"""How the step of a proof stands, and what that says of the promise; one that was skipped says nothing."""


class ProofByHand(BaseModel):
    """What somebody saw of a promise on the real rig.

    `lapsed`: what it rests on now and did not then, or what happened since; empty while it holds. `judged`: what was
    read, beside what it has to be. `missing`: what nobody read though the promise needs it.
    """

    promise: Id
    outcome: Outcome
    person: str
    at: str
    revision: int
    reason: str = ""
    photos: tuple[str, ...] = ()
    lapsed: tuple[str, ...] = ()
    judged: tuple[Judged, ...] = ()
    missing: tuple[str, ...] = ()


class RigAndProofs(Body):
    """The rig as it stands, what was seen of it, and the revisions looked at, as far as they can be read."""

    document: Rig
    seen: Annotated[dict[Id, Mark], Field(max_length=MOST_PROVEN)]
    earlier: Annotated[dict[int, Rig], Field(max_length=MOST_PROVEN)]


@question()
def proofs_that_stand(desk: AnswerContext, body: RigAndProofs) -> list[ProofByHand]:
    """Each proof, with what it read and what spoilt it."""
    answer = desk.about(body.document)
    now = _stood(answer)
    then: dict[int, BuiltRig | None] = {}
    for number, rig in body.earlier.items():
        try:
            then[number] = now if rig == body.document else _stood(desk.about(rig))
        except RefusedError:
            then[number] = None
    return [_proof(answer, now, then.get(mark.revision), promise, mark) for promise, mark in body.seen.items()]


def _proof(answer: Answer, now: BuiltRig, then: BuiltRig | None, promise: Id, mark: Mark) -> ProofByHand:
    outcome = _OUTCOMES[mark.what]
    found = judged(checks_of_promise(answer.rig, promise, _by_radio(answer, promise)), mark.readings)
    if any(one.verdict == "fails" for one in found):
        outcome = "failed"
    spoilt: tuple[str, ...] = (mark.reason or "It was undone.",) if outcome == "spoilt" else ()
    if outcome == "proven":
        spoilt = () if then else ("What it was proven with is not known any more.",)
        if then is not None and promise in now.plan.kept:
            spoilt = lapsed(then, now, promise)
    return ProofByHand(
        promise=promise,
        outcome=outcome,
        person=mark.person,
        at=mark.at,
        revision=mark.revision,
        reason=mark.reason or "",
        photos=mark.photos,
        lapsed=spoilt,
        judged=tuple(one for one in found if one.verdict != "missing"),
        missing=tuple(one.ask.says for one in found if one.verdict == "missing" and one.ask.is_needed),
    )


def _stood(answer: Answer) -> BuiltRig:
    return BuiltRig(answer.rig, answer.plan, answer.conditions)


def _by_radio(answer: Answer, promise: Id) -> bool:
    """Whether the way of a promise goes through the air anywhere."""
    links = {join.link.id: join.link for join in answer.plan.joins}
    hops = next((route.hops for route in answer.plan.routes if route.promise == promise), ())
    return any(hop.link in links and links[hop.link].is_radio for hop in hops if hop.link is not None)


@router.post("/{key}/proofs", response_model=list[ProofByHand], responses=MISSING, openapi_extra=MAY_LOOK)
async def proofs(key: DocumentId, body: RigToPlan, store: TheStore, ask: Asks) -> Response:
    """What was seen of every promise since the day began, and whether that still holds for this document."""
    return await ask(proofs_that_stand, await run_in_threadpool(_of, key, body.document, store))


def _of(key: str, document: Rig, store: Store) -> RigAndProofs:
    marks = store.log.steps(key)
    steps = {promise.id: str(prove_key(promise.id)) for promise in document.promises}
    seen = {promise: marks[step] for promise, step in steps.items() if step in marks and marks[step].what in _OUTCOMES}
    earlier = {}
    for number in {mark.revision for mark in seen.values()}:
        try:
            earlier[number] = store[RIG].revision(key, number)
        except IsotactError:  # thrown away, or unreadable: the proofs that rest on it say so
            continue
    return RigAndProofs(document=document, seen=seen, earlier=earlier)


class TwoRigs(Body):
    """A rig as it was, and as it is now or was later."""

    then: Rig
    now: Rig


@question()
def what_changed(desk: AnswerContext, body: TwoRigs) -> Compared:
    """What became different, and the steps between."""
    then, now = desk.about(body.then), desk.about(body.now)
    return compared(_stood(then), _stood(now), now.since(then)[1])


@beside.post("/compared", response_model=Compared, openapi_extra=MAY_LOOK)
async def compare(body: TwoRigs, ask: Asks) -> Response:
    """What became different between two revisions of a rig, and the short run sheet from one to the other."""
    return await ask(what_changed, body)


class AllProven(Struct):
    """The last time at which all that could be kept was proven by hand: on which revision, when, by whom the last."""

    revision: int
    at: str
    person: str


class Proofs(Body):
    """What was said of proofs, in the order in which it was done, and the revisions looked at."""

    said: list[tuple[str, str, str, str, int]]
    revisions: dict[int, Rig]


@question()
def last_all_proven(desk: AnswerContext, body: Proofs) -> AllProven | None:
    """The last moment at which every promise that the revision looked at could keep was proven, and none undone."""
    kept: dict[int, set[str]] = {}
    proven: set[str] = set()
    found = None
    for what, subject, at, person, revision in body.said:
        if what == "cleared":
            proven = set()
        elif what == "done":
            proven.add(subject)
        else:
            proven.discard(subject)
        if what == "done" and revision in body.revisions:
            if revision not in kept:
                plan = desk.about(body.revisions[revision]).plan
                kept[revision] = {str(prove_key(promise)) for promise in plan.kept}
            if kept[revision] and kept[revision] <= proven:
                found = AllProven(revision=revision, at=at, person=person)
    return found


@router.get("/{key}/all-proven", response_model=AllProven | None, responses=MISSING)
async def when_all_was_proven(key: DocumentId, store: TheStore, ask: Asks) -> Response:
    """The last time that all was proven by hand: what it stood like then is that revision."""
    return await ask(last_all_proven, await run_in_threadpool(_said_of_proofs, key, store))


def _said_of_proofs(key: str, store: Store) -> Proofs:
    said = store.log.of_steps(key)
    done: dict[int, set[str]] = {}
    for what, step, _, _, number in said:
        if what == "done":
            done.setdefault(number, set()).add(step)
    revisions: dict[int, Rig] = {}
    proofs: set[str] = set()
    for number in sorted(done, reverse=True):
        try:
            document = store[RIG].revision(key, number)
        except IsotactError:  # what cannot be read is not found to have been proven
            continue
        asked = {str(prove_key(promise.id)) for promise in document.promises}
        proofs |= asked
        if asked & done[number]:
            revisions[number] = document
        if len(revisions) == MOST_COMPARED:
            break
    # A step of another kind says nothing of a proof; what ends a day says it of all.
    return Proofs(said=[one for one in said if one[1] in proofs or not one[1]], revisions=revisions)


class Test(Struct):
    """How a promise is proven by hand: the step of the sheet, and what is seen and read."""

    promise: Id
    step: str
    words: str
    who: str
    asks: tuple[ProofCheck, ...]


class MayHappen(Struct):
    """What can happen to a device of the plan that was proven."""

    device: Id
    name: str
    what: tuple[Noted, ...]


class Proving(Struct):
    """Everything that is asked when a rig is proven by hand, and what may happen afterwards."""

    tests: tuple[Test, ...]
    may_happen: tuple[MayHappen, ...]


@question()
def how_to_prove(desk: AnswerContext, body: RigToPlan) -> Proving:
    """The test of each promise that the plan keeps, in the order of the rig."""
    answer = desk.about(body.document)
    rig = answer.rig
    tests = [
        Test(
            promise=promise.id,
            step=str(prove_key(promise.id)),
            words=promise_words(rig, promise),
            who=promise.who,
            asks=checks_of_promise(rig, promise.id, _by_radio(answer, promise.id)),
        )
        for promise in rig.rig.promises
        if promise.id in answer.plan.kept
    ]
    happens = [
        MayHappen(device=feed.device, name=rig[feed.device].name, what=_possible(answer, feed.device))
        for feed in answer.plan.feeds
    ]
    return Proving(tests=tuple(tests), may_happen=tuple(one for one in happens if one.what))


def _possible(answer: Answer, device: Id) -> tuple[Noted, ...]:
    found: list[Noted] = []
    if answer.rig[device].profile.wake is not None:
        found.append(Incident.RESTARTED)
    if all(act.why_not(answer.world) is None for act in acts_at_device(Incident.BATTERY_CHANGED, device)):
        found.append(Incident.BATTERY_CHANGED)
    return tuple(found)


@beside.post("/proving", response_model=Proving, openapi_extra=MAY_LOOK)
async def proving(body: RigToPlan, ask: Asks) -> Response:
    """How each promise of a rig is proven by hand."""
    return await ask(how_to_prove, body)


class Film(Body):
    """A reading of a delay, and the limit that it is held to, if any."""

    reading: Reading
    at_most_ms: Annotated[float | None, Field(gt=0, le=1e6, strict=True)] = None


class Delay(Struct):
    """A delay with its uncertainty, and whether it is within its limit."""

    measured: Measured
    verdict: Verdict


@beside.post("/delay", openapi_extra=MAY_LOOK)
def delay(body: Film) -> Delay | None:
    """The delay in ms of film of a running clock beside a screen; nothing where no number was read."""
    ask = ProofCheck(id=body.reading.ask, says="Its delay.", unit="ms", at_most=body.at_most_ms)
    found = measured(body.reading)
    return None if found is None else Delay(measured=found, verdict=judged([ask], [body.reading])[0].verdict)


ROUTERS = (router, beside)
