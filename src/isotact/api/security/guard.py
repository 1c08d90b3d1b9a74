"""What stands before every request: is it meant for us, does it come from our own page, is it of a size that we take.

Any web page that the laptop visits can send requests to a server on it, and with a name that it points here even read
the answers. So the Host must be one of ours; what changes something must bear our own Origin, or the browser's word
that it comes from our page (Fetch Metadata Request Headers, W3C), and a body must be JSON, which no form can send.
Whatever goes wrong below answers in the one shape of our errors.
"""

import asyncio
import json
import logging
import re
from collections.abc import Collection
from typing import Any

from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from isotact.api.refusal import ErrorAnswer

LOOPBACK = ("127.0.0.1", "localhost", "[::1]")
MAX_BODY_BYTES = 4_000_000
"""A pack of a million characters with every one of them escaped would be more; none of ours comes near."""
PHOTOS = "/api/photos"
MAX_PHOTO_BYTES = 15_000_000
"""Where a photo is sent as it is, and how large one may be. No form of another page can send these kinds."""
PHOTO_KINDS = ("image/jpeg", "image/png", "image/webp")
# Documents of ours are nested ten deep; what is much deeper was made to be.
MAX_DEPTH = 40
MAX_PARTS = 200_000
"""So many brackets are in a body at most, those in its texts too."""
# A photo comes in a second or two on a set's network; a body that dribbles holds a line open on purpose.
BODY_WITHIN_S = 10.0
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
_STRINGS = re.compile(rb'"(?:[^"\\]|\\.)*"', re.DOTALL)
_NO_BRACKETS = bytes(set(range(256)) - set(b"[]{}"))
_SURROGATE = re.compile(rb"\\u[dD][89a-fA-F]")
_log = logging.getLogger("isotact")


class RefusedRequest(Exception):  # noqa: N818 - it is an answer, not a failure
    """A request that goes no further, and the answer to it."""

    def __init__(self, status: int, code: str, message: str, hint: str = "") -> None:
        self.status, self.answer = status, ErrorAnswer(code=code, message=message, hint=hint)
        super().__init__(message)


class Guard:
    """ASGI middleware that lets through what is ours. `hosts`: the names by which this server may be asked for."""

    def __init__(self, app: ASGIApp, hosts: Collection[str] = LOOPBACK, body_within_s: float = BODY_WITHIN_S) -> None:
        self.app, self._hosts, self._body_within_s = app, hosts, body_within_s
        self._turn = asyncio.Lock()

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
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
            await self.app(scope, await self._with_body(scope, receive), with_headers)
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

    def _look_at(self, method: str, path: str, headers: Headers) -> None:
        host = headers.get("host", "")
        named = _HOST.match(host)
        if named is None or named[1].lower() not in self._hosts:
            raise RefusedRequest(
                403, "foreign-host", f"Found the host '{host[:100]}'; this server answers to {self._names()}."
            )
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

    async def _with_body(self, scope: Scope, receive: Receive) -> Receive:
        """Read the whole body, within its bounds; what is below gets it in one piece."""
        if scope["method"] in SAFE:
            return receive
        headers = Headers(scope=scope)
        is_photo = scope["path"] == PHOTOS
        most = MAX_PHOTO_BYTES if is_photo else MAX_BODY_BYTES
        said = headers.get("content-length", "0")
        if not said.isascii() or not said.isdigit() or len(said) > 12 or int(said) > most:
            raise _too_large(f"{said[:20]} bytes", most)
        try:
            body = await asyncio.wait_for(_whole(receive, most), self._body_within_s)
        except TimeoutError as error:
            says = f"The body did not arrive within {self._body_within_s:g} s."
            raise RefusedRequest(408, "too-slow", says, "Try again.") from error
        kind = headers.get("content-type", "").partition(";")[0].strip().lower()
        wanted = PHOTO_KINDS if is_photo else ("application/json",)
        if body and kind not in wanted:
            says = f"Found a body of '{kind[:60] or 'no type'}'; expected '{wanted[0]}'."
            raise RefusedRequest(415, "not-a-photo" if is_photo else "not-json", says)
        if body and not is_photo:
            # One after the other: what is small gets its turn between two that are to be read.
            async with self._turn:
                await asyncio.sleep(0)
            _must_be_shallow(body)
            _must_be_text(body)
        sent = False

        async def again() -> Message:
            nonlocal sent
            if sent:
                return await receive()
            sent = True
            return {"type": "http.request", "body": body, "more_body": False}

        return again


def _is_trusted(host: str) -> bool:
    """Whether a browser heeds what it only heeds of secure pages; elsewhere it complains (Secure Contexts, W3C)."""
    named = _HOST.match(host)
    return named is not None and named[1].lower() in LOOPBACK


async def _whole(receive: Receive, most: int) -> bytes:
    parts: list[bytes] = []
    size = 0
    while True:
        message: dict[str, Any] = dict(await receive())
        if message["type"] == "http.disconnect":
            raise RefusedRequest(400, "gone", "Whoever asked has gone.")
        parts.append(message.get("body", b""))
        size += len(parts[-1])
        if size > most:
            raise _too_large(f"more than {most:,} bytes", most)
        if not message.get("more_body", False):
            return b"".join(parts)


def _too_large(found: str, most: int) -> RefusedRequest:
    says = f"Found {found}; a request has at most {most:,}."
    return RefusedRequest(413, "too-large", says, "Send it in parts.")


def _must_be_text(body: bytes) -> None:
    """Refuse half of a pair of surrogates: it is no character, and can not be kept or sent back (RFC 8259, 8.2)."""
    if not _SURROGATE.search(body):
        return
    try:
        json.dumps(json.loads(body), ensure_ascii=False).encode("utf-8")
    except UnicodeEncodeError as error:
        says = "Found half a character (a lone surrogate) in the body; it is no text."
        raise RefusedRequest(422, "not-text", says, "Take it out.") from error
    except (ValueError, RecursionError):
        return  # no JSON: that is said where it is read


def _must_be_shallow(body: bytes) -> None:
    """Refuse nesting that no document of ours has, before anything walks down it."""
    if body.count(b"[") + body.count(b"{") > MAX_PARTS:
        raise RefusedRequest(413, "too-large", f"Found more than {MAX_PARTS:,} brackets; no document of ours has them.")
    depth = 0
    for mark in _STRINGS.sub(b"", body).translate(None, _NO_BRACKETS):
        depth += 1 if mark in b"[{" else -1
        if depth > MAX_DEPTH:
            raise RefusedRequest(422, "too-deep", f"Found more than {MAX_DEPTH} levels; expected far fewer.")
