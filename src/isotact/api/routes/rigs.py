"""Rigs: list, start, add, save, settle two versions, the bin, export."""

from typing import Annotated, Any

from fastapi import APIRouter
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import PlainTextResponse, Response
from pydantic import Field

from isotact.api.compute.answers import AnswerContext
from isotact.api.compute.work import Asks, question
from isotact.api.dependencies import TheCatalogue, TheOwn, TheStore, looked_up
from isotact.api.errors import MISSING, RESPONSES, STALE
from isotact.api.routes.documents import Body, DocumentId, Edit, Rules, add_routes
from isotact.catalogue import read_document
from isotact.catalogue.packs import as_yaml
from isotact.core.model import Rig
from isotact.core.model.words import id_from
from isotact.store import RIG, OwnCatalogue, Removed, Saved, Store

router = APIRouter(prefix="/api/rigs", tags=["rigs"], responses=RESPONSES)
beside = APIRouter(prefix="/api", tags=["rigs"], responses=RESPONSES)
"""What is no one rig: starting one, and the bin of those that were removed."""


class NewRig(Body):
    """The text of a rig document, YAML or JSON, as it stands in a file."""

    text: Annotated[str, Field(max_length=1_000_000)]
    file: Annotated[str, Field(max_length=200)] = ""


class RigToStart(Body):
    """A rig as it was put together on the screen."""

    document: Rig


class Edits(Body):
    """Several rigs, each with the revision it was made on, to be saved together."""

    edits: Annotated[list[Edit[Rig]], Field(min_length=1, max_length=60)]


@question()
def rig_as_read(desk: AnswerContext, body: NewRig) -> Rig:
    """A rig from the text of a document, all that it names being there."""
    rig = read_document(body.text, Rig, body.file)
    desk.looked_up(rig)
    return rig


@router.post("", status_code=201)
async def add_rig(new: NewRig, store: TheStore, own: TheOwn, ask: Asks) -> Saved[Rig]:
    """Add a rig from the text of a document; refused whole with every error at its line."""
    read = await ask(rig_as_read, new, is_kept=True)
    return await run_in_threadpool(_created, Rig.model_validate_json(bytes(read.body)), store, own)


def _created(rig: Rig, store: Store, own: OwnCatalogue) -> Saved[Rig]:
    return store[RIG].create(rig, own.beside(rig))


_AS_TEXT: dict[int | str, dict[str, Any]] = {200: {"content": {"text/plain": {"schema": {"type": "string"}}}}}


@router.get("/{key}/document", responses={**MISSING, **_AS_TEXT}, response_class=Response)
def document(key: DocumentId, store: TheStore) -> Response:
    """The rig as a YAML document, ready to be planned from the command line or given to another crew."""
    return PlainTextResponse(as_yaml(store[RIG].one(key).document))


@beside.post("/new-rig", status_code=201)
def start_rig(new: RigToStart, store: TheStore, catalogue: TheCatalogue) -> Saved[Rig]:
    """Start a rig from a document made on the screen: its name gives it an id that is free."""
    document = new.document.model_copy(update={"id": id_from(new.document.name, new.document.id)})
    looked_up(catalogue, document)
    return store.create_named(document)


@beside.get("/bin")
def list_bin(store: TheStore) -> list[Removed[Rig]]:
    """Every rig that was removed, the last one first."""
    return store[RIG].removed()


@beside.delete("/bin/{key}", responses=MISSING, status_code=204)
def throw_away(key: DocumentId, store: TheStore) -> None:
    """Throw a removed rig away for good, with its history."""
    store[RIG].throw_away(key)


@beside.put("/shares", responses={**MISSING, **STALE})
def save_several(body: Edits, store: TheStore, own: TheOwn) -> list[Saved[Rig]]:
    """Save several rigs at once, such as when a kit is shared out: all of them or, when one has moved on, none."""
    for edit in body.edits:
        looked_up(own.catalogue, edit.document)
    with store.writing():
        return [
            store[RIG].save(edit.document.id, edit.document, edit.made_on, own.beside(edit.document))
            for edit in body.edits
        ]


add_routes(
    router,
    RIG,
    Rules(must_know=looked_up, beside=lambda own, rig: own.beside(rig)),
    but=["add"],
)


ROUTERS = (router, beside)
