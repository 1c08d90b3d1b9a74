"""The built front end: one page, which finds its own way by the address, and what that page is made of."""

from pathlib import Path
from typing import Any

from starlette.applications import Starlette
from starlette.requests import Request
from starlette.responses import FileResponse, JSONResponse, Response
from starlette.staticfiles import StaticFiles

from isotact.api.refusal import ErrorAnswer

STATIC = Path(__file__).parent / "static"


def is_front(path: str) -> bool:
    """Whether the front end answers at an address, and not the API."""
    return path != "/api" and not path.startswith("/api/")


class _Named(StaticFiles):
    """Files whose names tell their contents: what a browser has of them it need not ask for again."""

    def file_response(self, *args: Any, **options: Any) -> Response:
        response = super().file_response(*args, **options)
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return response


def serve_front_end(app: Starlette, static: Path = STATIC) -> None:
    """Give `app` the front end, behind all that it has already."""
    if (static / "assets").is_dir():
        app.mount("/assets", _Named(directory=static / "assets"), name="assets")

    def page(request: Request) -> Response:
        if not is_front(request.url.path):
            nothing = ErrorAnswer(code="not-found", message=f"There is nothing at {request.url.path[:200]}.")
            return JSONResponse(nothing.model_dump(), 404)
        if not (static / "index.html").is_file():
            return Response("The front end is not built. Run 'make demo'.", 503, media_type="text/plain")
        return FileResponse(static / "index.html", headers={"Cache-Control": "no-cache"})

    app.router.add_route("/{path:path}", page, methods=["GET"], include_in_schema=False)
