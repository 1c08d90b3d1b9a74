"""Joining from the set's network: the laptop shows codes, a phone gives one and a name; who joined can be listed and
sent away.
"""

from typing import Annotated, Any

from fastapi import APIRouter, Path, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel, Field

from isotact.api.dependencies import TheStore
from isotact.api.errors import MISSING, RESPONSES, refusal
from isotact.api.routes.documents import Body
from isotact.api.security.doorman import COOKIE, HERE_ONLY, MAY_LOOK, OPEN_TO_ALL, TheWho
from isotact.api.security.guard import RefusedRequest
from isotact.api.security.sharing import Sharing, TooManyTriesError
from isotact.core.model.words import Name
from isotact.store import Role, SignIn
from isotact.store.sign_ins import LASTS, ROLES

TOO_MANY: dict[int | str, dict[str, Any]] = {429: refusal("Too many wrong codes")}
NOT_SHARED: dict[int | str, dict[str, Any]] = {409: refusal("This laptop is not shared")}
router = APIRouter(prefix="/api", tags=["sharing"], responses=RESPONSES)


class Me(BaseModel):
    """Who asks: nobody yet, where `role` is missing."""

    person: str
    role: Role | None
    is_here: bool
    is_shared: bool


class Join(Body):
    """The code that the laptop shows, and what one is called."""

    code: Annotated[str, Field(min_length=1, max_length=40)]
    person: Annotated[Name, Field(max_length=60)]


class Code(BaseModel):
    """One way in: what it allows, the page that it opens by each of the laptop's addresses, and the first one as QR."""

    role: Role
    code: str
    pages: list[str]
    qr_svg: str


class Shared(BaseModel):
    """How the laptop is shared."""

    is_shared: bool
    codes: list[Code] = []
    sign_ins: list[SignIn] = []


def _sharing(request: Request) -> Sharing | None:
    sharing: Sharing | None = request.app.state.sharing
    return sharing


def _shared(request: Request) -> Sharing:
    found = _sharing(request)
    if found is None:
        raise RefusedRequest(
            409, "not-shared", "This laptop is not shared.", "Stop Isotact, and start it with 'isotact serve --share'."
        )
    return found


@router.get("/me", openapi_extra=OPEN_TO_ALL)
def me(request: Request, who: TheWho) -> Me:
    """Who asks, and what they may do."""
    known = who.is_here or who.sign_in is not None
    role: Role | None = who.role if known else None
    return Me(person=who.person, role=role, is_here=who.is_here, is_shared=_sharing(request) is not None)


@router.post("/sign-in", openapi_extra=OPEN_TO_ALL, responses={**TOO_MANY, **NOT_SHARED})
async def join(body: Join, request: Request, answer: Response, store: TheStore) -> Me:
    """Join by a code: gives the role of that code. A wrong one is 403, and after a few of them none is looked at."""
    sharing = _shared(request)
    try:
        role = sharing.role_of(body.code, request.client.host if request.client else "")
    except TooManyTriesError as error:
        raise RefusedRequest(429, "too-many-tries", str(error)) from error
    if role is None:
        raise RefusedRequest(403, "wrong-code", "This code opens nothing.", "Read it off the laptop once more.")
    token, begun = await run_in_threadpool(store.sign_ins.begin, body.person, role)
    # No 'secure': a laptop on a cart has no certificate. What that means is said where it is shared.
    answer.set_cookie(COOKIE, token, max_age=int(LASTS.total_seconds()), httponly=True, samesite="strict", path="/")
    return Me(person=begun.person, role=role, is_here=False, is_shared=True)


@router.delete("/sign-in", openapi_extra=MAY_LOOK, status_code=204)
async def leave(who: TheWho, answer: Response, store: TheStore) -> None:
    """Leave: one's own sign-in is ended."""
    if who.sign_in is not None:
        await run_in_threadpool(store.sign_ins.end, who.sign_in)
    answer.delete_cookie(COOKIE, path="/")


@router.get("/sharing", openapi_extra=HERE_ONLY)
def sharing(request: Request, store: TheStore) -> Shared:
    """The codes, and who joined. Only the laptop itself may see them."""
    found = _sharing(request)
    if found is None:
        return Shared(is_shared=False)
    return Shared(is_shared=True, codes=[_code(found, role) for role in ROLES], sign_ins=store.sign_ins.all())


def _code(sharing: Sharing, role: Role) -> Code:
    code = sharing.codes[role]
    pages = [f"http://{address}:{sharing.port}/join?code={code}" for address in sharing.addresses]
    return Code(role=role, code=code, pages=pages, qr_svg=_qr(pages[0]) if pages else "")


def _qr(text: str) -> str:
    """A QR code (ISO/IEC 18004) as SVG, with the quiet zone that the standard asks for."""
    import segno

    svg: str = segno.make(text, error="m", micro=False).svg_inline(border=4, dark="#000", light="#fff", omitsize=True)
    return svg


@router.post("/sharing/{role}/new-code", openapi_extra=HERE_ONLY, status_code=204, responses=NOT_SHARED)
def new_code(role: Role, request: Request) -> None:
    """Another code for a role. Who joined by the old one stays joined."""
    _shared(request).renew(role)


@router.delete("/sharing/sign-ins/{key}", openapi_extra=HERE_ONLY, status_code=204, responses=MISSING)
def end(key: Annotated[int, Path(ge=1, le=2**53)], request: Request, store: TheStore) -> None:
    """End a sign-in: it opens nothing any more from this moment on, nor does the code by which it was begun."""
    role = store.sign_ins.one(key).role
    store.sign_ins.end(key)
    found = _sharing(request)
    if found is not None:
        found.renew(role)


ROUTERS = (router,)
