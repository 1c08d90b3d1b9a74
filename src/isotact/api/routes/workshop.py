"""The profile workshop: check, keep, export and bring in device profiles and cable types of one's own."""

import json
from typing import Annotated, Any

from fastapi import APIRouter
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import PlainTextResponse, Response
from pydantic import BaseModel, Field

from isotact.api.compute.answers import AnswerContext
from isotact.api.compute.work import Asks, question
from isotact.api.dependencies import TheCatalogue, TheOwn, TheStore, looked_up
from isotact.api.errors import MISSING, RESPONSES, STALE
from isotact.api.routes.documents import Body, DocumentId, Number
from isotact.api.routes.own_documents import still_known
from isotact.api.security.doorman import MAY_LOOK
from isotact.catalogue import Catalogue
from isotact.catalogue.packs import as_yaml, read_pack
from isotact.catalogue.validation import Entry, kind_of_entry
from isotact.core.model import Profile, RefusedError, Rig
from isotact.core.model.cable import CableType
from isotact.core.model.problems import NotFoundError, Problem
from isotact.core.model.rig import Device
from isotact.core.model.vocabulary import Words, also_known
from isotact.core.model.words import ID_LENGTH, ID_PATTERN, Id
from isotact.core.planning import plan_only
from isotact.core.telling import Face, face
from isotact.store import RIG, OwnCatalogue, Store
from isotact.store.kinds import kind_of
from isotact.store.own_catalogue import keep_one, must_not_ship

router = APIRouter(prefix="/api/workshop", tags=["workshop"], responses=RESPONSES)


class Text(Body):
    """One document or a pack of several, as text."""

    text: Annotated[str, Field(max_length=1_000_000)]
    file: Annotated[str, Field(max_length=200)] = ""


class Checked(BaseModel):
    """What a text holds, and everything that is wrong with it."""

    profile: Profile | None
    text: str = ""
    """The same as a YAML document."""
    face: Face | None = None
    """As it is drawn."""
    problems: list[Problem]


class ToKeep(Text):
    """A pack to be kept; by id, the revisions on which documents that are here already were made."""

    over: dict[Id, Number] = {}


class Kept(BaseModel):
    """What was kept, by id."""

    profiles: list[str]
    cables: list[str]
    words: list[str]
    revisions: dict[str, int]


class Trial(Body):
    """A profile to try in a rig, in the place of one of its devices or beside them."""

    text: Annotated[str, Field(max_length=1_000_000)]
    rig: Annotated[str, Field(pattern=ID_PATTERN, max_length=ID_LENGTH)]
    instead_of: Annotated[str, Field(pattern=ID_PATTERN, max_length=ID_LENGTH)] | None = None


class TrialInRig(Trial):
    """The same, with the rig as it is."""

    document: Rig


class TrialAnswer(BaseModel):
    """What the rig promises with the new device in it, against what it promised before."""

    document: Rig
    kept: list[str]
    kept_before: list[str]
    promised: int
    says: str


@router.get("/profiles/{key}", responses=MISSING)
def one_profile(key: DocumentId, catalogue: TheCatalogue) -> Profile:
    """A profile, whole."""
    if key not in catalogue.profiles:
        raise NotFoundError("profile", key, catalogue.profiles)
    return catalogue.profiles[key]


_AS_TEXT: dict[int | str, dict[str, Any]] = {200: {"content": {"text/plain": {"schema": {"type": "string"}}}}}


@router.get("/profiles/{key}/document", responses={**MISSING, **_AS_TEXT}, response_class=Response)
def profile_text(key: DocumentId, catalogue: TheCatalogue) -> Response:
    """A profile as a YAML document."""
    return PlainTextResponse(as_yaml(one_profile(key, catalogue)))


@question()
def what_is_in(_: AnswerContext, body: Text) -> Checked:
    """One profile, checked."""
    try:
        found = read_pack(body.text, body.file)
    except RefusedError as error:
        return Checked(profile=None, problems=error.problems)
    if len(found) != 1 or not isinstance(found[0], Profile):
        message = f"found {len(found)} documents; the workshop works at one profile at a time."
        return Checked(profile=None, problems=[Problem(code="not-one", path="", message=message)])
    return Checked(profile=found[0], text=as_yaml(found[0]), face=face(found[0]), problems=[])


@router.post("/check", response_model=Checked, openapi_extra=MAY_LOOK)
async def check(body: Text, ask: Asks) -> Response:
    """Check one profile while it is being written."""
    return await ask(what_is_in, body)


@question()
def what_is_in_the_pack(_: AnswerContext, body: Text) -> list[Entry]:
    """The documents of a pack."""
    return read_pack(body.text, body.file)


@router.post("/keep", status_code=201, responses=STALE)
async def keep(body: ToKeep, store: TheStore, own: TheOwn, ask: Asks) -> Kept:
    """Keep the documents of a pack as one's own, all of them or none. One that is here already is not replaced, unless
    `over` says on which revision the new one was made.
    """
    read = await ask(what_is_in_the_pack, Text(text=body.text, file=body.file), is_kept=True)
    return await run_in_threadpool(_kept, read.body, body.over, store, own)


def _kept(read: bytes | memoryview, over: dict[str, int], store: Store, own: OwnCatalogue) -> Kept:
    catalogue = own.catalogue
    # As it was read where long work is done, its words first.
    found: list[Entry] = []
    for data in json.loads(bytes(read)):
        with also_known(one for one in found if isinstance(one, Words)):
            found.append(kind_of_entry(data["format"]).model_validate(data))
    revisions = {}
    with also_known([one for one in found if isinstance(one, Words)]), store.writing():
        _not_in_silence(store, found, over)
        for one in found:
            must_not_ship(one)
            revisions[one.id] = keep_one(store, one, over.get(one.id))
        still_known(catalogue, store)
    return Kept(
        profiles=[one.id for one in found if isinstance(one, Profile)],
        cables=[one.id for one in found if isinstance(one, CableType)],
        words=[one.id for one in found if isinstance(one, Words)],
        revisions=revisions,
    )


def _not_in_silence(store: Store, found: list[Entry], over: dict[str, int]) -> None:
    problems = []
    for one in found:
        shelf = store[kind_of(one)]
        head = shelf.heads().get(one.id)
        if head is not None and one.id not in over and shelf.one(one.id).document != one:
            message = f"found '{one.id}', of which you keep revision {head} already, and it differs."
            hint = "Give this one another id, or say that it is to be the next revision of that."
            problems.append(Problem(code="kept-already", path=one.id, message=message, hint=hint))
    if problems:
        raise RefusedError(problems)


@question()
def with_it_in(desk: AnswerContext, body: TrialInRig) -> TrialAnswer:
    """What a rig promises with a profile in it that is not kept yet."""
    found = read_pack(body.text)
    profile = found[0]
    if not isinstance(profile, Profile):
        raise RefusedError([Problem(code="not-a-profile", path="", message="found no device in it; try a device.")])
    wider = Catalogue({**desk.catalogue.profiles, profile.id: profile}, desk.catalogue.cables)
    after = _placed(body.document, profile, body.instead_of)
    try:
        rig = looked_up(wider, after)
    except RefusedError as error:
        raise RefusedError(
            [
                one.model_copy(update={"hint": "The promises name surfaces that this device lacks."})
                for one in error.problems
            ]
        ) from error
    made, old = plan_only(rig), desk.about(body.document).plan
    used = any(rig[feed.device].profile.id == profile.id for feed in made.feeds)
    says = f"{profile.name} is {'in use' if used else 'in the rig, and nothing promised needs it'}."
    return TrialAnswer(
        document=after, kept=list(made.kept), kept_before=list(old.kept), promised=len(after.promises), says=says
    )


@router.post("/try", response_model=TrialAnswer, responses=MISSING, openapi_extra=MAY_LOOK)
async def try_it(body: Trial, store: TheStore, ask: Asks) -> Response:
    """Plan a rig with a profile that is not kept yet. Nothing is saved."""
    before = await run_in_threadpool(store[RIG].one, body.rig)
    asked = TrialInRig(text=body.text, rig=body.rig, instead_of=body.instead_of, document=before.document)
    return await ask(with_it_in, asked)


def _placed(rig: Rig, profile: Profile, instead_of: str | None) -> Rig:
    if instead_of is not None and all(device.id != instead_of for device in rig.devices):
        raise NotFoundError("device in this rig", instead_of, [device.id for device in rig.devices])
    if instead_of is None:
        key = profile.id if all(device.id != profile.id for device in rig.devices) else f"{profile.id[:58]}-tried"
        return rig.model_copy(update={"devices": [*rig.devices, Device(id=key, profile=profile.id)]})
    devices = [
        Device(id=device.id, profile=profile.id, name=device.name, tag=device.tag)
        if device.id == instead_of
        else device
        for device in rig.devices
    ]
    return rig.model_copy(update={"devices": devices})


ROUTERS = (router,)
