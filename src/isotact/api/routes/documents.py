"""What documents of every kind can do: list, add, open, save, set aside, undo, redo, history, remove, restore.

A kind of document gets all of it by one call; a router adds what is its own.
"""

from collections.abc import Callable, Collection
from dataclasses import dataclass
from typing import Annotated, Any, Generic, Literal, TypeVar

from fastapi import APIRouter, Path, Query
from pydantic import BaseModel, ConfigDict, Field

from isotact.api.dependencies import TheCatalogue, TheOwn, TheStore
from isotact.api.errors import MISSING, STALE
from isotact.catalogue import Catalogue
from isotact.core.model.words import ID_LENGTH, ID_PATTERN, free_id, id_from
from isotact.store import PAGE, Kept, Kind, OwnCatalogue, Saved, Shelf, Store

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


class New(Body, Generic[D]):
    """A document to add."""

    document: D


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


@dataclass(frozen=True)
class Rules(Generic[D]):
    """What a kind of document asks before one is kept, shown or removed.

    `must_know` raises RefusedError where one names what we do not know. `beside`: the revisions of one's own that it is
    made with. `may_stand` and `may_go` are asked within the transaction, after going back or forward and after a
    removal: each raises what stands against it. `named`: its name gives a new one an id that is free.
    """

    must_know: Callable[[Catalogue, D], object] = lambda _catalogue, _document: None
    beside: Callable[[OwnCatalogue, D], dict[str, int] | None] = lambda _own, _document: None
    may_stand: Callable[[Catalogue, Store], None] = lambda _catalogue, _store: None
    may_go: Callable[[Catalogue, Store, str], None] = lambda _catalogue, _store, _key: None
    named: bool = False


Route = Literal["list", "add", "save", "aside"]


def add_routes(router: APIRouter, kind: Kind[D], rules: Rules[D], but: Collection[Route] = ()) -> None:
    """Give `router` what documents of every kind can do; `but`: what the router has in its own way, or not at all."""
    model = kind.model
    answer = Saved[model]  # type: ignore[valid-type]
    name = kind.name
    if "list" not in but:

        @router.get("", response_model=list[answer], name=f"list_{name}")
        def list_all(store: TheStore) -> list[Saved[D]]:
            """Every one as it stands. Those that cannot be read are told by the state of the data folder."""
            return store[kind].all()

    if "add" not in but:

        @router.post("", status_code=201, response_model=answer, name=f"add_{name}")
        def add(new: New[model], store: TheStore, own: TheOwn) -> Saved[D]:  # type: ignore[valid-type]
            """Add one. Refused whole where it names what is not known."""
            document: Any = new.document
            rules.must_know(own.catalogue, document)
            with store.writing():
                if rules.named:
                    key = free_id(id_from(document.name, document.id), store[kind].ids())
                    document = document.model_copy(update={"id": key})
                return store[kind].create(document, rules.beside(own, document))

    if "save" not in but:

        @router.put("/{key}", responses={**MISSING, **STALE}, response_model=answer, name=f"save_{name}")
        def save(key: DocumentId, edit: Edit[model], store: TheStore, own: TheOwn) -> Saved[D]:  # type: ignore[valid-type]
            """Save a new revision, or none where it stands so already. 409 with both versions when it has moved on."""
            rules.must_know(own.catalogue, edit.document)
            return store[kind].save(key, edit.document, edit.made_on, rules.beside(own, edit.document))

    if "aside" not in but:

        @router.put("/{key}/aside", responses={**MISSING, **STALE}, response_model=answer, name=f"set_{name}_aside")
        def set_aside(key: DocumentId, edit: LateEdit[model], store: TheStore, own: TheOwn) -> Saved[D]:  # type: ignore[valid-type]
            """Keep a version that came too late as a revision, and go on with the one that stands."""
            rules.must_know(own.catalogue, edit.document)
            beside = rules.beside(own, edit.document)
            return store[kind].keep_both(key, edit.document, edit.made_on, edit.newest, beside)

    @router.delete("/{key}", responses=MISSING, status_code=204, name=f"remove_{name}")
    def remove(key: DocumentId, store: TheStore, catalogue: TheCatalogue) -> None:
        """Take one off the list; its history is kept. Refused while something rests on it."""
        with store.writing():
            store[kind].remove(key)
            rules.may_go(catalogue, store, key)

    _add_history(router, kind, rules)


def _add_history(router: APIRouter, kind: Kind[D], rules: Rules[D]) -> None:
    model = kind.model
    answer = Saved[model]  # type: ignore[valid-type]
    name = kind.name

    def moved(store: Store, catalogue: Catalogue, move: Callable[[Shelf[D]], Saved[D]]) -> Saved[D]:
        with store.writing():
            saved = move(store[kind])
            rules.may_stand(catalogue, store)
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
