"""The first page at once, and the rest as soon as it is loaded: that takes twice as long as all before it."""

import asyncio
import threading
from collections.abc import Callable, Collection
from concurrent.futures import Future
from pathlib import Path

from starlette.applications import Starlette
from starlette.types import ASGIApp, Receive, Scope, Send

from isotact.api.front import STATIC, is_front, serve_front_end
from isotact.api.security.guard import LOOPBACK, Guard


class Starting:
    """An application that is loaded while its front end is served already; what else is asked for waits.

    `load` makes the application, in a thread of its own. What it raises, `whole` raises too.
    """

    def __init__(self, load: Callable[[], ASGIApp], static: Path = STATIC, hosts: Collection[str] = LOOPBACK) -> None:
        front = Starlette()
        serve_front_end(front, static)
        self._front = Guard(front, hosts)
        self._load = load
        self._whole: Future[ASGIApp] = Future()

    def begin(self, failed: Callable[[], None]) -> None:
        """Load the rest from now on; `failed` is called when that cannot be done."""
        threading.Thread(target=self._run, args=(failed,), daemon=True, name="isotact-starting").start()

    def _run(self, failed: Callable[[], None]) -> None:
        try:
            self._whole.set_result(self._load())
        except BaseException as error:  # whatever it is, who started it is to hear of it
            self._whole.set_exception(error)
            failed()

    async def whole(self) -> ASGIApp:
        """The application, once it is loaded. Raises what kept it from that."""
        # Whoever gives up waiting must not take it from the others.
        return await asyncio.shield(asyncio.wrap_future(self._whole))

    def error(self) -> BaseException | None:
        """What kept it from being loaded, if anything did."""
        return self._whole.exception() if self._whole.done() else None

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer (ASGI)."""
        waits = not self._whole.done()
        app = self._front if waits and scope["type"] == "http" and is_front(scope["path"]) else await self.whole()
        await app(scope, receive, send)
