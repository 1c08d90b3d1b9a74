"""What documents of every kind can do: open, undo, redo, history, the bin. A router adds what is its own."""

from collections.abc import Callable
from typing import Annotated, Generic, TypeVar

from fastapi import APIRouter, Path, Query
from pydantic import BaseModel, ConfigDict, Field

from isotact.api.dependencies import TheCatalogue, TheStore
from isotact.api.errors import MISSING, STALE
from isotact.catalogue import Catalogue
from isotact.core.model.words import ID_LENGTH, ID_PATTERN
from isotact.store import PAGE, Kept, Kind, Saved, Shelf, Store

D = TypeVar("D", bound=BaseModel)
DocumentId = Annotated[str, Path(pattern=ID_PATTERN, max_length=ID_LENGTH)]
Number = Annotated[int, Field(ge=1, le=2**31, strict=True)]


class Body(BaseModel):
    """A request body: no unknown fields, and a number is a number."""

    model_config = ConfigDict(extra="forbid")


class Move(Body):
    """The revision that the mover was looking at."""

    made_on: Number


class MoveTo(Move):
    """Which earlier revision to bring back."""

    revision: Number


class Edit(Body, Generic[D]):
    """A whole document, and the revision it was made on."""

    made_on: Number
    document: D


class LateEdit(Edit[D], Generic[D]):
    """One that came too late, and the newest revision that its maker has seen."""

    newest: Number


class RevisionLine(BaseModel):
    """One line of a history. `shows`: the revision that it has the text of, its own or an earlier one."""

    number: int
    parent: int
    shows: int
    made_at: str
    person: str = Field(default="", description="who made it; empty where nobody said")
    is_head: bool
    is_readable: bool
    name: str
    promises: int
    devices: int
    made_with: dict[str, int] = Field(description="the revisions of one's own profiles, cable types and words it had")


def line_of(kept: Kept[D]) -> RevisionLine:
    """A revision, as a line of its document's history."""
    document = kept.document
    return RevisionLine(
        number=kept.number,
        parent=kept.parent,
        shows=kept.shows,
        made_at=kept.made_at,
        person=kept.person,
        is_head=kept.is_head,
        is_readable=document is not None,
        name=getattr(document, "name", ""),
        promises=len(getattr(document, "promises", ())),
        devices=len(getattr(document, "devices", ())),
        made_with=kept.beside,
    )


def _anything_goes(catalogue: Catalogue, store: Store) -> None:
    """Nothing else hangs on which revision of the document is shown."""


def add_routes(
    router: APIRouter, kind: Kind[D], may_stand: Callable[[Catalogue, Store], None] = _anything_goes
) -> None:
    """Give `router` the routes that documents of every kind have.

    `may_stand` is asked, within the transaction, after going back or forward: it raises what stands against it.
    """
    model = kind.model
    answer = Saved[model]  # type: ignore[valid-type]
    name = kind.name

    def moved(store: Store, catalogue: Catalogue, move: Callable[[Shelf[D]], Saved[D]]) -> Saved[D]:
        with store.writing():
            saved = move(store[kind])
            may_stand(catalogue, store)
        return saved

    @router.get("/{key}", responses=MISSING, response_model=answer, name=f"open_{name}")
    def open_one(key: DocumentId, store: TheStore) -> Saved[D]:
        """One document as it stands."""
        return store[kind].one(key)

    @router.post("/{key}/undo", responses={**MISSING, **STALE}, response_model=answer, name=f"undo_{name}")
    def undo(key: DocumentId, move: Move, store: TheStore, catalogue: TheCatalogue) -> Saved[D]:
        """Go back to what this revision was made from: as a revision of its own."""
        return moved(store, catalogue, lambda shelf: shelf.undo(key, move.made_on))

    @router.post("/{key}/redo", responses={**MISSING, **STALE}, response_model=answer, name=f"redo_{name}")
    def redo(key: DocumentId, move: Move, store: TheStore, catalogue: TheCatalogue) -> Saved[D]:
        """Go forward again."""
        return moved(store, catalogue, lambda shelf: shelf.redo(key, move.made_on))

    @router.post("/{key}/back-to", responses={**MISSING, **STALE}, response_model=answer, name=f"bring_back_{name}")
    def bring_back(key: DocumentId, move: MoveTo, store: TheStore, catalogue: TheCatalogue) -> Saved[D]:
        """Go to any earlier revision: as a revision of its own."""
        return moved(store, catalogue, lambda shelf: shelf.back_to(key, move.revision, move.made_on))

    @router.get("/{key}/history", responses=MISSING, name=f"history_of_{name}")
    def history(
        key: DocumentId,
        store: TheStore,
        before: Annotated[int | None, Query(ge=1, le=2**31)] = None,
        count: Annotated[int, Query(ge=1, le=200)] = PAGE,
    ) -> list[RevisionLine]:
        """Revisions, newest first, a page at a time: `before` is the last number of the page before."""
        return [line_of(kept) for kept in store[kind].history(key, before, count)]

    @router.get("/{key}/revisions/{number}", responses=MISSING, response_model=model, name=f"revision_of_{name}")
    def one_revision(key: DocumentId, number: Annotated[int, Path(ge=1, le=2**31)], store: TheStore) -> D:
        """A document as it stood at one revision."""
        return store[kind].revision(key, number)

    @router.post("/{key}/restore", responses=MISSING, response_model=answer, name=f"restore_{name}")
    def restore(key: DocumentId, store: TheStore) -> Saved[D]:
        """Bring a removed document back as it was."""
        return store[kind].restore(key)
