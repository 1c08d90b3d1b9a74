"""What is read of a request: nothing before it is known who sends it, little of a stranger, no more than there is room."""

import asyncio
from pathlib import Path
from typing import Any

import pytest
from fastapi import FastAPI

from isotact.api.security import bodies
from isotact.api.security.bodies import MOST_OF_STRANGERS, PHOTOS
from isotact.api.security.doorman import COOKIE
from tests.api.security.test_joining import CART, LOG, Clock, shared

HOST = CART.removeprefix("http://").encode()


class Sending:
    """A request to an application, of which it is seen whether its body is asked for, and that ends when it is told to."""

    def __init__(self, app: FastAPI, path: str, size: int | None, cookie: str = "", here: bool = False) -> None:
        host = b"127.0.0.1:8000" if here else HOST
        headers = [(b"host", host), (b"origin", b"http://" + host), (b"content-type", b"application/json")]
        headers += [] if size is None else [(b"content-length", str(size).encode())]
        headers += [(b"cookie", f"{COOKIE}={cookie}".encode())] if cookie else []
        scope = {
            "type": "http", "method": "POST", "path": path, "raw_path": path.encode(), "query_string": b"",
            "headers": headers, "client": ("127.0.0.1" if here else "192.0.2.33", 40_000), "server": ("x", 8000),
            "scheme": "http", "http_version": "1.1", "root_path": "",
        }  # fmt: skip
        self.is_read, self.ends = asyncio.Event(), asyncio.Event()
        self.status = 0
        self.task = asyncio.ensure_future(app(scope, self._receive, self._send))

    async def _receive(self) -> dict[str, Any]:
        self.is_read.set()
        await self.ends.wait()
        return {"type": "http.disconnect"}

    async def _send(self, message: Any) -> None:
        if message["type"] == "http.response.start":
            self.status = message["status"]

    async def answer(self) -> tuple[int, bool]:
        """Its status, and whether any of its body was asked for."""
        await self.task
        return self.status, self.is_read.is_set()


@pytest.fixture
def app(tmp_path: Path) -> FastAPI:
    return shared(tmp_path, Clock())


@pytest.mark.parametrize(
    ("path", "size", "status"),
    [
        (PHOTOS, 14_500_000, 401),
        (LOG, 3_900_000, 401),
        (LOG, None, 401),
        ("/api/nothing", 100, 401),
        ("/api/sign-in", MOST_OF_STRANGERS + 1, 413),
        ("/nothing", MOST_OF_STRANGERS + 1, 413),
    ],
)
def test_a_strangers_body_is_not_read(app: FastAPI, path: str, size: int | None, status: int):
    async def story() -> tuple[int, bool]:
        return await Sending(app, path, size).answer()

    assert asyncio.run(story()) == (status, False)


def test_all_of_the_network_together_hold_no_more_than_there_is_room_for(app: FastAPI, monkeypatch: pytest.MonkeyPatch):
    monkeypatch.setattr(bodies, "MOST_AT_ONCE", 5_000_000)
    token, _ = app.state.store.sign_ins.begin("Bo", "tick")

    async def story() -> None:
        first = Sending(app, LOG, 3_000_000, token)
        await first.is_read.wait()
        assert await Sending(app, LOG, 3_000_000, token).answer() == (503, False)
        # What does not say how long it is may be as long as it can be.
        assert await Sending(app, LOG, None, token).answer() == (503, False)
        laptop = Sending(app, LOG, 3_000_000, here=True)
        await laptop.is_read.wait()
        first.ends.set()
        await first.answer()
        third = Sending(app, LOG, 3_000_000, token)
        await third.is_read.wait()
        third.ends.set()
        laptop.ends.set()
        await asyncio.gather(third.task, laptop.task)

    asyncio.run(story())
