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
from isotact.core.model.words import ID_LENGTH, ID_PATTERN
from isotact.store import RevisionLine, SavedRig

router = APIRouter(prefix="/api/rigs", tags=["rigs"], responses=RESPONSES)
RigId = Annotated[str, Path(pattern=ID_PATTERN, max_length=ID_LENGTH)]
StepId = Annotated[str, Path(pattern=r"^[a-z0-9.:@~+-]+$", max_length=300)]


class Body(BaseModel):
    """A request body: no unknown fields, and a number is a number."""

    model_config = ConfigDict(extra="forbid")


class NewRig(Body):
    """The text of a rig document, YAML or JSON, as it stands in a file."""

    text: Annotated[str, Field(max_length=1_000_000)]
    file: Annotated[str, Field(max_length=200)] = ""


class Edit(Body):
    """A whole rig, and the revision it was made on."""

    made_on: Annotated[int, Field(ge=1, le=2**31, strict=True)]
    document: Rig


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
