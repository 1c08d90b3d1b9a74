"""Puts the application together: routers, errors, and the built front end."""

import threading
from collections.abc import Collection
from pathlib import Path

from fastapi import FastAPI

from isotact.api import catalogue as catalogue_router
from isotact.api import comparing, events, examples, kits, planning, proofs, rigs, searches, workshop
from isotact.api import own as own_documents
from isotact.api.errors import RESPONSES, install
from isotact.api.front import STATIC, serve_front_end
from isotact.api.guarding import LOOPBACK, Guard
from isotact.api.work import Work
from isotact.store import OwnCatalogue, Store


def application(
    store: Store, own: OwnCatalogue | None = None, static: Path = STATIC, hosts: Collection[str] = LOOPBACK
) -> FastAPI:
    """The application over one store, with what ships and what is one's own, for who asks for one of `hosts`."""
    app = FastAPI(
        title="Isotact",
        version="1",
        description="Will everything that was promised work, and how.",
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
    )
    app.state.store = store
    app.state.own = own or OwnCatalogue(store)
    app.state.work = Work(app.state.own)
    app.state.is_stopping = threading.Event()
    install(app)
    app.add_middleware(Guard, hosts=hosts)

    @app.get("/api/health", tags=["health"], responses=RESPONSES)
    def health() -> dict[str, str]:
        """Says that the server is up."""
        return {"status": "up"}

    features = (rigs, proofs, planning, comparing, kits, searches, examples, workshop, events, catalogue_router)
    for router in (*(feature.router for feature in features), rigs.beside, *own_documents.routers):
        app.include_router(router)
    serve_front_end(app, static)
    return app
