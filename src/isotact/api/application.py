"""Puts the application together: routers, errors, and the built front end."""

from pathlib import Path

from fastapi import FastAPI
from fastapi.responses import FileResponse, JSONResponse, Response
from fastapi.staticfiles import StaticFiles

from isotact.api import catalogue as catalogue_router
from isotact.api import comparing, examples, jobs, kits, planning, rigs, workshop
from isotact.api.answers import Answers
from isotact.api.errors import install
from isotact.catalogue import shipped
from isotact.catalogue.packs import OwnFolder
from isotact.store import Store

STATIC = Path(__file__).parent / "static"
POLICY = (
    "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; worker-src 'self' blob:; "
    "frame-ancestors 'none'"
)


def application(store: Store, own: OwnFolder | None = None, static: Path = STATIC) -> FastAPI:
    """The application over one store, with what ships and perhaps a folder of one's own profiles."""
    app = FastAPI(
        title="Isotact",
        version="1",
        description="Will everything that was promised work, and how.",
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
    )
    app.state.store = store
    app.state.own = own
    app.state.answers = Answers()
    app.state.catalogue = own.catalogue() if own else shipped()
    install(app)

    @app.get("/api/health", tags=["health"])
    def health() -> dict[str, str]:
        """Says that the server is up."""
        return {"status": "up"}

    features = (rigs, planning, comparing, kits, jobs, examples, workshop, catalogue_router)
    for feature in features:
        app.include_router(feature.router)
    app.include_router(rigs.beside)
    _serve_front_end(app, static)
    return app


def _serve_front_end(app: FastAPI, static: Path) -> None:
    if (static / "assets").is_dir():
        app.mount("/assets", StaticFiles(directory=static / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> Response:
        """The one page; the front end finds its own way by the address."""
        if path.startswith("api/"):
            answer = {"code": "not-found", "message": f"There is nothing at /{path}.", "path": "", "hint": ""}
            return JSONResponse({**answer, "problems": []}, 404)
        if not (static / "index.html").is_file():
            return Response("The front end is not built. Run 'make demo'.", 503, media_type="text/plain")
        return FileResponse(
            static / "index.html", headers={"Content-Security-Policy": POLICY, "Cache-Control": "no-cache"}
        )
