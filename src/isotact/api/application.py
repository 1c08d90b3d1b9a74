"""Puts the application together: routers, errors, and the built front end."""

import threading
from collections.abc import Collection
from pathlib import Path

from fastapi import FastAPI

from isotact.api.bench_hub import BenchHub
from isotact.api.compute.work import Work
from isotact.api.errors import RESPONSES, install
from isotact.api.front import STATIC, serve_front_end
from isotact.api.listening import Listening
from isotact.api.openapi import describe
from isotact.api.routes import ROUTERS
from isotact.api.security.bodies import Bodies
from isotact.api.security.doorman import OPEN_TO_ALL, Doorman
from isotact.api.security.guard import LOOPBACK, Guard
from isotact.api.security.sharing import Sharing
from isotact.store import OwnCatalogue, Store


def application(
    store: Store,
    own: OwnCatalogue | None = None,
    static: Path = STATIC,
    hosts: Collection[str] = LOOPBACK,
    sharing: Sharing | None = None,
) -> FastAPI:
    """The application over one store, with what ships and what is one's own, for who asks for one of `hosts`.

    `sharing`: for those on the set's network too, who join by its codes; without it whoever asks is at the laptop.
    """
    app = FastAPI(
        title="Isotact",
        version="1",
        description="Will everything that was promised work, and how.",
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
        # A document is of one shape, sent or received: no twin of each model for either way.
        separate_input_output_schemas=False,
    )
    app.state.store = store
    app.state.own = own or OwnCatalogue(store)
    app.state.work = Work(app.state.own)
    app.state.is_stopping = threading.Event()
    app.state.listening = Listening(store, app.state.is_stopping.is_set)
    app.state.benches = BenchHub()
    app.state.sharing = sharing
    install(app)
    describe(app)

    @app.get("/api/health", tags=["health"], responses=RESPONSES, openapi_extra=OPEN_TO_ALL)
    def health() -> dict[str, str]:
        """Says that the server is up."""
        return {"status": "up"}

    # As they are: including a router builds each of its routes a second time, half a second before the first answer.
    app.router.routes.extend(route for router in ROUTERS for route in router.routes)
    # The last one added stands first: what is not meant for us is turned away before anybody asks who sent it, and who
    # may not send it before any of it is read.
    app.add_middleware(Bodies)
    app.add_middleware(Doorman, store=store, routes=list(app.routes), sharing=sharing)
    app.add_middleware(Guard, hosts=hosts)
    serve_front_end(app, static)
    return app
