"""Lines that say nothing, read nothing, or are too many: whose they are, and that nobody else waits for them."""

import contextlib
import socket
import threading
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from isotact.api.application import application
from isotact.server import lines
from isotact.store import Store
from tests.server.test_serve import PLENTY_S, asked, running

STRANGER, PHONE = "127.0.0.2", "127.0.0.3"
"""Stand for two addresses on the network, one of which has not joined."""


@pytest.fixture
def shared(tmp_path: Path) -> Iterator[int]:
    """A server in this process; its port."""
    with running(application(Store(tmp_path / "x.sqlite"))) as (port, _):
        yield port


def opened(port: int, count: int, source: str, sends: bytes = b"") -> list[socket.socket]:
    found = []
    for _ in range(count):
        line = socket.create_connection(("127.0.0.1", port), timeout=PLENTY_S, source_address=(source, 0))
        with contextlib.suppress(OSError):
            line.sendall(sends)
        found.append(line)
    return found


def is_open(line: socket.socket) -> bool:
    """Whether the other side has not closed it."""
    line.settimeout(0.05)
    try:
        while line.recv(1 << 16):
            pass
    except TimeoutError:
        return True
    except OSError:
        return False
    return False


def up(port: int) -> Any:
    return asked(f"http://127.0.0.1:{port}", "/api/health")


def test_a_line_on_which_no_request_comes_is_closed(shared: int, monkeypatch: pytest.MonkeyPatch):
    monkeypatch.setattr(lines, "HEAD_WITHIN_S", 0.3)
    for begun in (b"", b"GET /api/health HTTP/1.1\r\nHost: 127.0"):
        with socket.create_connection(("127.0.0.1", shared), timeout=PLENTY_S) as line:
            line.sendall(begun)
            assert line.recv(100) == b"", "closed without an answer"


def test_silent_lines_never_keep_others_out(shared: int, monkeypatch: pytest.MonkeyPatch):
    monkeypatch.setattr(lines, "MOST_OPEN", 8)
    held = opened(shared, 30, "127.0.0.1")
    assert up(shared) == {"status": "up"}
    for line in held:
        line.close()


STREAM = b"GET /api/events HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n"


@pytest.mark.parametrize("sends", [b"", STREAM], ids=["silent", "streaming"])
def test_one_address_has_so_many_lines_and_takes_none_from_the_others(
    shared: int, monkeypatch: pytest.MonkeyPatch, sends: bytes
):
    monkeypatch.setattr(lines, "MOST_OF_ONE", 5)
    monkeypatch.setattr(lines, "MOST_OPEN", 12)
    phone = opened(shared, 2, PHONE, STREAM)
    stranger = opened(shared, 40, STRANGER, sends)
    assert up(shared) == {"status": "up"}
    assert sum(map(is_open, stranger)) == 5
    assert all(map(is_open, phone))
    for line in (*phone, *stranger):
        line.close()


def test_all_of_the_network_together_keep_room_for_the_laptop(shared: int, monkeypatch: pytest.MonkeyPatch):
    monkeypatch.setattr(lines, "MOST_OPEN", 12)
    monkeypatch.setattr(lines, "MOST_OF_ONE", 5)
    held = [line for last in range(2, 12) for line in opened(shared, 5, f"127.0.0.{last}", STREAM)]
    assert [up(shared) for _ in range(3)] == [{"status": "up"}] * 3
    assert sum(map(is_open, held)) == 12
    for line in held:
        line.close()


def test_who_does_not_read_what_he_asked_for_is_cut_off(monkeypatch: pytest.MonkeyPatch):
    monkeypatch.setattr(lines, "UNREAD_WITHIN_S", 0.2)
    monkeypatch.setattr(lines, "KEEP_ALIVE", {})  # by which the system gives him up too, within the minute
    is_over = threading.Event()

    async def large(scope: Any, receive: Any, send: Any) -> None:
        await send({"type": "http.response.start", "status": 200, "headers": []})
        for _ in range(64):
            await send({"type": "http.response.body", "body": bytes(1 << 20), "more_body": True})
        is_over.set()

    with running(large) as (port, _), socket.create_connection(("127.0.0.1", port), timeout=PLENTY_S) as line:
        line.sendall(b"GET / HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n")
        assert is_over.wait(PLENTY_S), "it is not waited for"
        got = 0
        with contextlib.suppress(OSError):
            while part := line.recv(1 << 20):
                got += len(part)
        assert got < 64 << 20


def test_who_has_gone_without_a_word_is_asked_after(shared: int, monkeypatch: pytest.MonkeyPatch):
    asked_after: list[int] = []
    keep = lines._keep_alive

    def watched(transport: Any) -> None:
        keep(transport)
        line = transport.get_extra_info("socket")
        asked_after.append(line.getsockopt(socket.SOL_SOCKET, socket.SO_KEEPALIVE))
        asked_after.append(line.getsockopt(socket.IPPROTO_TCP, socket.TCP_KEEPIDLE))

    monkeypatch.setattr(lines, "_keep_alive", watched)
    assert up(shared) == {"status": "up"}
    assert asked_after == [1, lines.KEEP_ALIVE["TCP_KEEPIDLE"]]
