"""What stands before every request: is it meant for us, and does it come from our own page.

Any web page that the laptop visits can send requests to a server on it, and with a name that it points here even read
the answers. So the Host must be one of ours; what changes something must bear our own Origin, or the browser's word
that it comes from our page (Fetch Metadata Request Headers, W3C). A body is not read here (`bodies`): first it is
asked who sends it. Whatever goes wrong below answers in the one shape of our errors.
"""

import logging
import re
from collections.abc import Collection

from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from isotact.api.refusal import ErrorAnswer

LOOPBACK = ("127.0.0.1", "localhost", "[::1]")
SAFE = ("GET", "HEAD", "OPTIONS")
POLICY = (
    "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; worker-src 'self' blob:; "
    "object-src 'none'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
)
HEADERS = {
    "Content-Security-Policy": POLICY,
    "Cross-Origin-Resource-Policy": "same-origin",
    "Referrer-Policy": "same-origin",
    "X-Content-Type-Options": "nosniff",
    "X-Frame-Options": "DENY",
}
_HOST = re.compile(r"^(\[[0-9a-fA-F:.]+\]|[^:\[\]]+)(?::\d{1,5})?$")
_log = logging.getLogger("isotact")


class RefusedRequest(Exception):  # noqa: N818 - it is an answer, not a failure
    """A request that goes no further, and the answer to it."""

    def __init__(self, status: int, code: str, message: str, hint: str = "") -> None:
        self.status, self.answer = status, ErrorAnswer(code=code, message=message, hint=hint)
        super().__init__(message)


class Guard:
    """ASGI middleware that lets through what is ours. `hosts`: the names by which this server may be asked for."""

    def __init__(self, app: ASGIApp, hosts: Collection[str] = LOOPBACK) -> None:
        self.app, self._hosts = app, hosts

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] == "websocket":
            await self._line(scope, receive, send)
            return
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        answered = False

        async def with_headers(message: Message) -> None:
            nonlocal answered
            if message["type"] == "http.response.start":
                answered = True
                headers = MutableHeaders(scope=message)
                for name, value in HEADERS.items():
                    headers[name] = value
                if _is_trusted(Headers(scope=scope).get("host", "")):
                    headers["Cross-Origin-Opener-Policy"] = "same-origin"
            await send(message)

        try:
            self._look_at(scope["method"], scope["path"], Headers(scope=scope))
            await self.app(scope, receive, with_headers)
        except RefusedRequest as refused:
            answer = JSONResponse(refused.answer.model_dump(), refused.status, headers={"Connection": "close"})
            await answer(scope, receive, with_headers)
        except Exception:
            _log.exception("%s %s broke off", scope["method"], scope["path"])
            if answered:
                raise
            broken = ErrorAnswer(
                code="broken",
                message="Isotact could not answer this: a fault of its own.",
                hint="What was saved is safe. Try again; if it comes back, start Isotact anew.",
            )
            await JSONResponse(broken.model_dump(), 500)(scope, receive, with_headers)

    async def _line(self, scope: Scope, receive: Receive, send: Send) -> None:
        """A line that stays open. A page says its Origin, always; only a program may say none (RFC 6455, 10.2)."""
        headers = Headers(scope=scope)
        origin = headers.get("origin")
        try:
            self._must_be_ours(headers)
            if origin is not None and origin != f"http://{headers.get('host', '')}":
                raise RefusedRequest(403, "foreign-origin", "This was asked by a page that is not Isotact's.")
            await self.app(scope, receive, send)
        except RefusedRequest:
            # Before it is agreed to, to close it is to answer 403.
            await send({"type": "websocket.close", "code": 1008})

    def _must_be_ours(self, headers: Headers) -> None:
        host = headers.get("host", "")
        named = _HOST.match(host)
        if named is None or named[1].lower() not in self._hosts:
            raise RefusedRequest(
                403, "foreign-host", f"Found the host '{host[:100]}'; this server answers to {self._names()}."
            )

    def _look_at(self, method: str, path: str, headers: Headers) -> None:
        self._must_be_ours(headers)
        host = headers.get("host", "")
        origin, site = headers.get("origin"), headers.get("sec-fetch-site")
        ours = origin == f"http://{host}" if origin is not None else site == "same-origin"
        if method in SAFE:
            # A page of our own names itself or nobody; only the address bar may come from nowhere.
            is_foreign = (origin is not None and not ours) or site in ("cross-site", "same-site")
            if is_foreign and path.startswith("/api/"):
                raise RefusedRequest(403, "foreign-origin", "This was asked by a page that is not Isotact's.")
        elif not ours:
            raise RefusedRequest(
                403,
                "foreign-origin",
                "This was not sent by a page of Isotact's.",
                f"A program of your own sends the header 'Origin: http://{host}' with what changes something.",
            )

    def _names(self) -> str:
        return ", ".join(sorted(self._hosts))


def _is_trusted(host: str) -> bool:
    """Whether a browser heeds what it only heeds of secure pages; elsewhere it complains (Secure Contexts, W3C)."""
    named = _HOST.match(host)
    return named is not None and named[1].lower() in LOOPBACK
