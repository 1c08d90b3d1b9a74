"""What every router needs: the store and the catalogue, held on the application."""

from typing import Annotated

from fastapi import Depends, Request

from isotact.catalogue import Catalogue
from isotact.core.model import ResolvedRig, Rig, resolve
from isotact.store import OwnCatalogue, Store


def _store(request: Request) -> Store:
    store: Store = request.app.state.store
    return store


def _own(request: Request) -> OwnCatalogue:
    own: OwnCatalogue = request.app.state.own
    return own


TheOwn = Annotated[OwnCatalogue, Depends(_own)]


def _catalogue(own: TheOwn) -> Catalogue:
    return own.catalogue


TheStore = Annotated[Store, Depends(_store)]
TheCatalogue = Annotated[Catalogue, Depends(_catalogue)]


def looked_up(catalogue: Catalogue, rig: Rig) -> ResolvedRig:
    """`rig` resolved against the catalogue. Raises RefusedError."""
    return resolve(rig, catalogue.profiles, catalogue.cables)
