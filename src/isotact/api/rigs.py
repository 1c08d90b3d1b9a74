"""Rigs: list, open, add, save, undo, redo, history, export."""

from typing import Annotated, Any

from fastapi import APIRouter, Path
from fastapi.responses import PlainTextResponse, Response
from pydantic import BaseModel, ConfigDict, Field

from isotact.api.context import TheCatalogue, TheStore, looked_up
from isotact.api.errors import MISSING, RESPONSES, STALE
from isotact.catalogue import read_document
from isotact.catalogue.packs import as_yaml
from isotact.core.model import Rig
from isotact.core.model.words import ID_LENGTH, ID_PATTERN, id_from
from isotact.store import Removed, RevisionLine, SavedRig

router = APIRouter(prefix="/api/rigs", tags=["rigs"], responses=RESPONSES)
beside = APIRouter(prefix="/api", tags=["rigs"], responses=RESPONSES)
"""What is no one rig: starting one, and the bin of those that were removed."""

RigId = Annotated[str, Path(pattern=ID_PATTERN, max_length=ID_LENGTH)]
StepId = Annotated[str, Path(pattern=r"^[a-z0-9.:@~+-]+$", max_length=300)]


class Body(BaseModel):
    """A request body: no unknown fields, and a number is a number."""

    model_config = ConfigDict(extra="forbid")


class NewRig(Body):
    """The text of a rig document, YAML or JSON, as it stands in a file."""

    text: Annotated[str, Field(max_length=1_000_000)]
    file: Annotated[str, Field(max_length=200)] = ""


class RigToStart(Body):
    """A rig as it was put together on the screen."""

    document: Rig


class Edit(Body):
    """A whole rig, and the revision it was made on."""

    made_on: Annotated[int, Field(ge=1, le=2**31, strict=True)]
    document: Rig


class Edits(Body):
    """Several rigs, each with the revision it was made on, to be saved together."""

    edits: Annotated[list[Edit], Field(min_length=1, max_length=60)]


class Move(Body):
    """The revision that the mover was looking at."""

    made_on: Annotated[int, Field(ge=1, le=2**31, strict=True)]


class Tick(Body):
    """Done or not."""

    done: Annotated[bool, Field(strict=True)]


@router.get("")
def list_rigs(store: TheStore) -> list[SavedRig]:
    """Every rig as it stands."""
    return store.rigs()


@router.post("", status_code=201)
def add_rig(new: NewRig, store: TheStore, catalogue: TheCatalogue) -> SavedRig:
    """Add a rig from the text of a document; refused whole with every error at its line."""
    rig = read_document(new.text, Rig, new.file)
    looked_up(catalogue, rig)
    return store.create(rig)


@router.get("/{rig_id}", responses=MISSING)
def open_rig(rig_id: RigId, store: TheStore) -> SavedRig:
    """One rig as it stands."""
    return store.rig(rig_id)


@router.put("/{rig_id}", responses={**MISSING, **STALE})
def save_rig(rig_id: RigId, edit: Edit, store: TheStore, catalogue: TheCatalogue) -> SavedRig:
    """Save a new revision. 409 with both versions when the rig has moved on."""
    looked_up(catalogue, edit.document)
    return store.save(rig_id, edit.document, edit.made_on)


@router.post("/{rig_id}/undo", responses={**MISSING, **STALE})
def undo(rig_id: RigId, move: Move, store: TheStore) -> SavedRig:
    """Go back to the revision that this one was made from."""
    return store.undo(rig_id, move.made_on)


@router.post("/{rig_id}/redo", responses={**MISSING, **STALE})
def redo(rig_id: RigId, move: Move, store: TheStore) -> SavedRig:
    """Go forward again."""
    return store.redo(rig_id, move.made_on)


@router.delete("/{rig_id}", responses=MISSING, status_code=204)
def remove(rig_id: RigId, store: TheStore) -> None:
    """Take a rig off the list. Its history is kept."""
    store.remove(rig_id)


@router.post("/{rig_id}/restore", responses=MISSING)
def restore(rig_id: RigId, store: TheStore) -> SavedRig:
    """Bring a removed rig back as it was."""
    return store.restore(rig_id)


@router.get("/{rig_id}/history", responses=MISSING)
def history(rig_id: RigId, store: TheStore) -> list[RevisionLine]:
    """Every revision, newest first."""
    return store.history(rig_id)


_AS_TEXT: dict[int | str, dict[str, Any]] = {200: {"content": {"text/plain": {"schema": {"type": "string"}}}}}


@router.get("/{rig_id}/document", responses={**MISSING, **_AS_TEXT}, response_class=Response)
def document(rig_id: RigId, store: TheStore) -> Response:
    """The rig as a YAML document, ready to be planned from the command line or given to another crew."""
    return PlainTextResponse(as_yaml(store.rig(rig_id).document))


@router.get("/{rig_id}/ticks", responses=MISSING)
def ticks(rig_id: RigId, store: TheStore) -> dict[str, str]:
    """Step -> when it was ticked."""
    return store.ticks(rig_id)


@router.put("/{rig_id}/ticks/{step_id}", responses=MISSING)
def tick(rig_id: RigId, step_id: StepId, tick: Tick, store: TheStore) -> dict[str, str]:
    """Tick a step, or take the tick off."""
    return store.tick(rig_id, step_id, tick.done)


@router.delete("/{rig_id}/ticks", responses=MISSING, status_code=204)
def clear_ticks(rig_id: RigId, store: TheStore) -> None:
    """Take every tick off."""
    store.clear_ticks(rig_id)


@beside.post("/new-rig", status_code=201)
def start_rig(new: RigToStart, store: TheStore, catalogue: TheCatalogue) -> SavedRig:
    """Start a rig from a document made on the screen: its name gives it an id that is free."""
    document = new.document.model_copy(update={"id": id_from(new.document.name, new.document.id)})
    looked_up(catalogue, document)
    return store.create_named(document)


@beside.get("/bin")
def list_bin(store: TheStore) -> list[Removed]:
    """Every rig that was removed, the last one first."""
    return store.bin()


@beside.delete("/bin/{rig_id}", responses=MISSING, status_code=204)
def throw_away(rig_id: RigId, store: TheStore) -> None:
    """Throw a removed rig away for good, with its history."""
    store.throw_away(rig_id)


@beside.put("/shares", responses={**MISSING, **STALE})
def save_several(body: Edits, store: TheStore, catalogue: TheCatalogue) -> list[SavedRig]:
    """Save several rigs at once, such as when a kit is shared out: all of them or, when one has moved on, none."""
    for edit in body.edits:
        looked_up(catalogue, edit.document)
    return store.save_several([(edit.document, edit.made_on) for edit in body.edits])
