"""Who asks, and may they: the laptop itself may do everything, whoever joined from the network what their role says.

Each route says by `MAY_LOOK`, `MAY_TICK` or `HERE_ONLY` what it asks for; one that says nothing can be read by all who
joined and, where it changes something, asks for the role that edits. So a route that is forgotten is closed, not open.
"""

import re
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Annotated, Any, Literal, TypeVar
from urllib.parse import unquote

from fastapi import Depends, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.routing import APIRoute, APIWebSocketRoute
from starlette.datastructures import Headers
from starlette.requests import cookie_parser
from starlette.types import ASGIApp, Receive, Scope, Send

from isotact.api.security.guard import SAFE, RefusedRequest
from isotact.api.security.sharing import Sharing
from isotact.store import Role, Store
from isotact.store.author import person as acting

COOKIE = "isotact"
PERSON = "isotact-person"
"""The header by which the laptop's own browser says who is at it, percent-encoded."""
# As much as stands in a line of the log on a phone.
MOST_OF_A_NAME = 60
Line = TypeVar("Line", bound=Callable[..., Any])
Needs = Literal["nothing", "look", "tick", "edit", "here"]
OPEN_TO_ALL: dict[str, Any] = {"x-needs": "nothing"}
MAY_LOOK: dict[str, Any] = {"x-needs": "look"}
MAY_TICK: dict[str, Any] = {"x-needs": "tick"}
HERE_ONLY: dict[str, Any] = {"x-needs": "here"}
_ENOUGH: dict[Needs, tuple[Role, ...]] = {
    "look": ("look", "tick", "edit"),
    "tick": ("tick", "edit"),
    "edit": ("edit",),
    "here": (),
}
_UNPRINTED = re.compile(r"[\x00-\x1f\x7f-\x9f\u2028\u2029\ud800-\udfff]")


def for_role(needed: Needs) -> Callable[[Line], Line]:
    """Say of a route that keeps a line open what it asks for; one that says nothing asks for the role that edits."""

    def marked(function: Line) -> Line:
        function.needs = needed  # type: ignore[attr-defined]
        return function

    return marked


@dataclass(frozen=True)
class Who:
    """Who asks. `sign_in`: by which sign-in, for who is not at the laptop itself."""

    person: str
    role: Role
    is_here: bool
    sign_in: int | None = None


class Doorman:
    """ASGI middleware that finds out who asks, and turns away who may not. Without `sharing` nobody else can come."""

    def __init__(self, app: ASGIApp, store: Store, routes: Iterable[Any], sharing: Sharing | None) -> None:
        self.app, self._store, self._routes, self._sharing = app, store, routes, sharing
        self._needs: list[tuple[re.Pattern[str], set[str], Needs]] | None = None

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] not in ("http", "websocket") or not scope["path"].startswith("/api/"):
            await self.app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        who = await self._who(scope, headers)
        is_line = scope["type"] == "websocket"
        needed = self.needs_on_line(scope["path"]) if is_line else self.needs(scope["method"], scope["path"])
        self._must_may(who, needed)
        scope.setdefault("state", {})["who"] = who
        token = acting.set(who.person if who else "")
        try:
            await self.app(scope, receive, send)
        finally:
            acting.reset(token)

    def needs(self, method: str, path: str) -> Needs:
        """What is asked for, at an address where nothing is too."""
        if self._needs is None:
            routes = [route for route in self._routes if isinstance(route, APIRoute)]
            self._needs = [(one.path_regex, set(one.methods or ()), _needs_of(one)) for one in routes]
        for pattern, methods, needed in self._needs:
            if method in methods and pattern.match(path):
                return needed
        return "look" if method in SAFE else "edit"

    def needs_on_line(self, path: str) -> Needs:
        """What is asked for of who wants to keep a line open, at an address where nothing is too."""
        routes = (route for route in self._routes if isinstance(route, APIWebSocketRoute))
        found = next((route for route in routes if route.path_regex.match(path)), None)
        needed: Needs = getattr(found.endpoint, "needs", "edit") if found is not None else "edit"
        return needed

    async def _who(self, scope: Scope, headers: Headers) -> Who | None:
        if self._sharing is None or self._sharing.is_here(scope.get("client"), headers.get("host", "")):
            said = unquote(headers.get(PERSON, "")[: 12 * MOST_OF_A_NAME], errors="replace")
            return Who(_UNPRINTED.sub("", said).strip()[:MOST_OF_A_NAME], "edit", is_here=True)
        token = cookie_parser(headers.get("cookie", "")[:4000]).get(COOKIE)
        found = await run_in_threadpool(self._store.sign_ins.who, token) if token else None
        return None if found is None else Who(found.person, found.role, is_here=False, sign_in=found.key)

    def _must_may(self, who: Who | None, needed: Needs) -> None:
        if needed == "nothing" or (who is not None and who.is_here):
            return
        if who is None:
            hint = "Join with the code that the laptop on the cart shows."
            raise RefusedRequest(401, "not-joined", "You have not joined, or your sign-in was ended.", hint)
        if who.role not in _ENOUGH[needed]:
            raise RefusedRequest(403, "may-not", *_SAYS[needed])


_SAYS: dict[Needs, tuple[str, str]] = {
    "tick": ("You joined to look on.", "Ask at the cart for the code of those who carry the run sheet out."),
    "edit": ("Your sign-in may not change documents.", "Ask at the cart for the code of those who may."),
    "here": ("This is done at the laptop itself.", "Go to the cart."),
}


def _needs_of(route: APIRoute) -> Needs:
    said: Needs | None = (route.openapi_extra or {}).get("x-needs")
    return said or ("look" if set(route.methods or ()) <= {*SAFE} else "edit")


def _who(request: Request) -> Who:
    who: Who | None = request.state.who
    return who or Who("", "look", is_here=False)


TheWho = Annotated[Who, Depends(_who)]
