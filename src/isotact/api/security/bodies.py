"""What is read of a request, once it is known who sends it: so much, in time, of a kind that we take.

A body must be JSON, which no form of another page can send. Of somebody who has not joined as much is read as a code
and a name need; of all who joined together no more at once than the laptop has room for.
"""

import asyncio
import json
import re
from typing import Any

from starlette.datastructures import Headers
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from isotact.api.security.guard import SAFE, RefusedRequest

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
MOST_OF_STRANGERS = 2_000
"""So much is read of who has not joined: a code and a name, escaped throughout, are a third of that."""
MOST_AT_ONCE = 32_000_000
"""So many bytes are held of all requests from the network that are being answered: two of the largest photos."""
_STRINGS = re.compile(rb'"(?:[^"\\]|\\.)*"', re.DOTALL)
_NO_BRACKETS = bytes(set(range(256)) - set(b"[]{}"))
_SURROGATE = re.compile(rb"\\u[dD][89a-fA-F]")


class Bodies:
    """ASGI middleware that reads a request's body, within its bounds; what is below gets it in one piece."""

    def __init__(self, app: ASGIApp, within_s: float = BODY_WITHIN_S) -> None:
        self.app, self._within_s = app, within_s
        self._turn = asyncio.Lock()
        self._held = 0

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http" or scope["method"] in SAFE:
            await self.app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        is_photo = scope["path"] == PHOTOS
        who = scope.get("state", {}).get("who")
        most = MOST_OF_STRANGERS if who is None else MAX_PHOTO_BYTES if is_photo else MAX_BODY_BYTES
        said = headers.get("content-length", "0")
        if not said.isascii() or not said.isdigit() or len(said) > 12 or int(said) > most:
            raise _too_large(f"{said[:20]} bytes", most)
        # What does not say how long it is may be as long as it can be.
        holds = 0 if who is not None and who.is_here else int(said) if "content-length" in headers else most
        if self._held + holds > MOST_AT_ONCE:
            raise RefusedRequest(503, "busy", "Too much is sent at once. Wait a moment, then try again.")
        self._held += holds
        try:
            await self.app(scope, await self._read(receive, headers, most, is_photo), send)
        finally:
            self._held -= holds

    async def _read(self, receive: Receive, headers: Headers, most: int, is_photo: bool) -> Receive:
        try:
            body = await asyncio.wait_for(_whole(receive, most), self._within_s)
        except TimeoutError as error:
            says = f"The body did not arrive within {self._within_s:g} s."
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
