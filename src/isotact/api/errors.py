"""The one place where our errors become HTTP."""

from typing import Any

from fastapi import FastAPI, Request
from fastapi.encoders import jsonable_encoder
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from fastapi.routing import APIRoute
from starlette.exceptions import HTTPException

from isotact.api.refusal import ErrorAnswer
from isotact.catalogue import Source, problems_of
from isotact.core.model.problems import (
    BrokenError,
    BusyError,
    IsotactError,
    NotFoundError,
    Problem,
    RefusedError,
    StaleWriteError,
    StoppedError,
)
from isotact.store import StorageError, UnreadableError


class StaleAnswer(ErrorAnswer):
    """A write on an old revision: both versions, so that nothing is lost."""

    yours: dict[str, Any] | None
    theirs: dict[str, Any]
    head: int


def refusal(description: str) -> dict[str, Any]:
    """An answer of the one shape. Named by reference: a model of its own for each answer of each route is a second at
    the start.
    """
    schema = {"$ref": f"#/components/schemas/{ErrorAnswer.__name__}"}
    return {"description": description, "content": {"application/json": {"schema": schema}}}


RESPONSES: dict[int | str, dict[str, Any]] = {
    400: refusal("The body cannot be read"),
    401: refusal("Nobody joined, or a sign-in that is over"),
    403: refusal("Asked under another name, by a page that is not ours, or by somebody who may not"),
    408: refusal("The body did not arrive in time"),
    413: refusal("Larger than anything of ours"),
    415: refusal("The body is no JSON"),
    422: {"model": ErrorAnswer, "description": "Refused, with every problem at its place"},
    500: refusal("A fault of our own"),
    503: refusal("Not now: the data cannot be reached, or too much is asked at once"),
    507: refusal("The disk is full"),
}
MISSING: dict[int | str, dict[str, Any]] = {404: refusal("No such thing")}
STALE: dict[int | str, dict[str, Any]] = {409: {"model": StaleAnswer, "description": "Somebody else wrote first"}}


MOST_TOLD = 50
"""So many flaws of one request are told; who has mended these sees the next."""


def install(app: FastAPI) -> None:
    """Give `app` a handler for each kind of error."""
    _refusals(app)
    _what_could_not_be_done(app)


def _what_could_not_be_done(app: FastAPI) -> None:
    @app.exception_handler(StoppedError)
    def stopped(request: Request, error: StoppedError) -> JSONResponse:
        return _answer(503, ErrorAnswer(code="stopped", message=str(error)))

    @app.exception_handler(BusyError)
    def busy(request: Request, error: BusyError) -> JSONResponse:
        return _answer(503, ErrorAnswer(code="busy", message=str(error)))

    @app.exception_handler(BrokenError)
    def came_to_an_end(request: Request, error: BrokenError) -> JSONResponse:
        return _answer(503, ErrorAnswer(code="search-ended", message=str(error)))

    @app.exception_handler(UnreadableError)
    def unreadable(request: Request, error: UnreadableError) -> JSONResponse:
        return _answer(422, ErrorAnswer(code="unreadable", message=str(error)))

    @app.exception_handler(StorageError)
    def not_stored(request: Request, error: StorageError) -> JSONResponse:
        status = 507 if error.code == "disk-full" else 503
        return _answer(status, ErrorAnswer(code=error.code, message=str(error), hint=error.hint))


def _refusals(app: FastAPI) -> None:

    @app.exception_handler(RefusedError)
    def refused(request: Request, error: RefusedError) -> JSONResponse:
        return _answer(422, _of_problems(error.problems))

    @app.exception_handler(RequestValidationError)
    def invalid(request: Request, error: RequestValidationError) -> JSONResponse:
        if any(item["type"] == "json_invalid" for item in error.errors()):
            found = error.errors()[0]["ctx"]["error"]
            return _answer(400, ErrorAnswer(code="not-json", message=f"This is not JSON: {found}."))
        source = Source({"body": error.body})
        return _answer(422, _of_problems(problems_of(error.errors()[:MOST_TOLD], source)))

    @app.exception_handler(NotFoundError)
    def missing(request: Request, error: NotFoundError) -> JSONResponse:
        return _answer(404, ErrorAnswer(code="not-found", message=str(error)))

    @app.exception_handler(StaleWriteError)
    def stale(request: Request, error: StaleWriteError) -> JSONResponse:
        answer = StaleAnswer(
            code="stale-write",
            message=str(error),
            hint="Look at both versions, then save yours on top of theirs, or take theirs.",
            yours=jsonable_encoder(error.yours),
            theirs=jsonable_encoder(error.theirs),
            head=error.head,
        )
        return _answer(409, answer)

    @app.exception_handler(IsotactError)
    def refused_plainly(request: Request, error: IsotactError) -> JSONResponse:
        return _answer(422, ErrorAnswer(code="refused", message=str(error)))

    @app.exception_handler(HTTPException)
    def other(request: Request, error: HTTPException) -> JSONResponse:
        methods = _methods_at(request) if error.status_code == 405 else ""
        # The page answers GET at every address, so that another method there is not allowed; of the API it is nothing.
        status = 404 if error.status_code == 405 and not methods else error.status_code
        code = {404: "not-found", 405: "not-allowed", 400: "bad-request"}.get(status, "error")
        answer = ErrorAnswer(code=code, message=_sentence(request, status, str(error.detail)))
        return JSONResponse(answer.model_dump(), status, headers={"Allow": methods} if methods else error.headers)


def _sentence(request: Request, status: int, detail: str) -> str:
    if status == 404:
        return f"There is nothing at {request.url.path[:200]}."
    if status == 405:
        return f"{request.method} cannot be done at {request.url.path[:200]}."
    return f"{detail}."


def _methods_at(request: Request) -> str:
    """Every method that the API has at this address; a router by itself names only those of its first route."""
    parts = request.url.path.split("/")
    found: set[str] = set()
    for route in request.app.routes:
        if not isinstance(route, APIRoute):
            continue
        pattern = route.path.split("/")
        if len(pattern) == len(parts) and all(
            want == has or want.startswith("{") for want, has in zip(pattern, parts, strict=True)
        ):
            found |= route.methods or set()
    return ", ".join(sorted(found))


def _of_problems(problems: list[Problem]) -> ErrorAnswer:
    first = problems[0]
    more = f" And {len(problems) - 1} more." if len(problems) > 1 else ""
    return ErrorAnswer(
        code=first.code, message=f"{first.message}{more}", path=first.path, hint=first.hint, problems=problems
    )


def _answer(status: int, answer: ErrorAnswer) -> JSONResponse:
    return JSONResponse(answer.model_dump(), status)
