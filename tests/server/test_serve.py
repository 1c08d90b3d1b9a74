"""The server as it is started: where it is, what it refuses to start on, and that nothing is left when it ends."""

import contextlib
import json
import os
import signal
import socket
import subprocess
import sys
import threading
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import pytest

from isotact.api.application import application
from isotact.core.model import IsotactError
from isotact.server import serve as serving
from isotact.server.startup import Starting
from isotact.store import Store

PLENTY_S = 180.0


@contextmanager
def started(folder: Path, *more: str) -> Iterator[tuple[subprocess.Popen[str], str]]:
    """The demo on a port that is free, with its address as it was printed."""
    command = [sys.executable, "-m", "isotact", "demo", "--port", "0", "--data", str(folder), *more]
    process = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True)
    assert process.stdout is not None
    line = process.stdout.readline()
    try:
        assert line.startswith("Isotact is at http://127.0.0.1:"), process.communicate()[1]
        yield process, line.split()[-1]
    finally:
        process.kill()
        process.communicate()


def refused(*arguments: str) -> tuple[int, str]:
    command = [sys.executable, "-m", "isotact", *arguments]
    ran = subprocess.run(command, capture_output=True, text=True, timeout=PLENTY_S, check=False)
    assert "Traceback" not in ran.stderr
    return ran.returncode, ran.stderr


def asked(address: str, path: str, body: Any = None) -> Any:
    headers = {"Origin": address, "Content-Type": "application/json"}
    data = None if body is None else json.dumps(body).encode()
    with urllib.request.urlopen(urllib.request.Request(address + path, data, headers), timeout=PLENTY_S) as answer:
        return json.load(answer)


def children(pid: int) -> set[int]:
    """The processes that a process has started, and those that they have."""
    found = subprocess.run(["ps", "-eo", "pid=,ppid="], capture_output=True, text=True, check=True).stdout
    parents = {int(child): int(parent) for child, parent in (line.split() for line in found.splitlines())}
    under = {pid}
    for _ in range(4):
        under |= {child for child, parent in parents.items() if parent in under}
    return under - {pid}


def gone(pids: set[int]) -> bool:
    for _ in range(int(PLENTY_S / 0.05)):
        if not any(Path(f"/proc/{pid}").exists() for pid in pids):
            return True
        time.sleep(0.05)
    return False


def test_it_says_where_it_is_once_it_is_there_and_answers(tmp_path: Path):
    with started(tmp_path) as (_, address):
        assert asked(address, "/api/health") == {"status": "up"}
        document = asked(address, "/api/rigs/night-ferry-b")["document"]
        assert asked(address, "/api/plan", {"document": document})["plan"]["status"] == "proven-optimal"


@pytest.mark.parametrize("how", [signal.SIGTERM, signal.SIGKILL])
def test_nothing_is_left_of_it_when_it_ends_in_the_middle_of_work(tmp_path: Path, how: signal.Signals):
    with started(tmp_path) as (process, address):
        document = asked(address, "/api/rigs/night-ferry-b")["document"]
        asked(address, "/api/plan", {"document": document})
        threads = [
            threading.Thread(target=_ask_and_forget, args=(address, {**document, "name": f"n{number}"}), daemon=True)
            for number in range(8)
        ]
        for thread in threads:
            thread.start()
        time.sleep(0.1)
        working = children(process.pid)
        assert working
        process.send_signal(how)
        process.wait(PLENTY_S)
        assert gone(working)


def _ask_and_forget(address: str, document: Any) -> None:
    try:
        asked(address, "/api/alternatives", {"document": document, "count": 8})
    except (OSError, ValueError):
        return


def test_a_port_that_is_taken_is_said_so(tmp_path: Path):
    with socket.socket() as other:
        other.bind(("127.0.0.1", 0))
        other.listen()
        port = str(other.getsockname()[1])
        code, says = refused("serve", "--port", port, "--data", str(tmp_path))
    assert (code, says) == (
        2,
        f"Port {port} is taken by another program. Stop that, or give another port with --port.\n",
    )
    assert refused("serve", "--port", "99999", "--data", str(tmp_path))[1].startswith("Port 99999 cannot be opened.")


def test_a_folder_that_cannot_be_served_is_said_so(tmp_path: Path):
    with started(tmp_path / "data"):
        code, says = refused("serve", "--port", "0", "--data", str(tmp_path / "data"))
        assert code == 2
        assert "belongs to an Isotact that runs already (process" in says
    (tmp_path / "file").write_text("", encoding="utf-8")
    assert refused("serve", "--port", "0", "--data", str(tmp_path / "file"))[1] == (
        f"{tmp_path}/file is no folder. Give a folder with --data.\n"
    )


def test_everything_is_carried_away_and_brought_back_while_it_runs(tmp_path: Path):
    data, file, folder = str(tmp_path / "data"), str(tmp_path / "all.backup"), str(tmp_path / "out")
    with started(tmp_path / "data") as (_, address):
        before = asked(address, "/api/rigs")
        for command, target in (("backup", file), ("export", folder)):
            assert refused(command, target, "--data", data)[0] == 0
        for number, (command, target) in enumerate((("restore", file), ("import", folder)), start=1):
            rig = asked(address, "/api/rigs/night-ferry-b")
            asked(address, "/api/new-rig", {"document": {**rig["document"], "name": f"more {number}"}})
            assert len(asked(address, "/api/rigs")) == len(before) + 1
            assert refused(command, target, "--data", data)[0] == 0
            assert asked(address, "/api/rigs") == before
        assert refused("restore", str(tmp_path / "none"), "--data", data)[1].endswith(
            "is no file. Give the backup that is to be restored.\n"
        )


def test_pipes_and_devices_are_no_documents(tmp_path: Path):
    os.mkfifo(tmp_path / "pipe")
    for file in (str(tmp_path / "pipe"), "/dev/zero", str(tmp_path)):
        code, says = refused("plan", file)
        assert code == 2
        assert "this is no file but a folder, a device or a pipe; give a file." in says


@contextmanager
def running(app: Any) -> Iterator[tuple[int, threading.Thread]]:
    """A server of this process, its port, and the thread that it ends with."""
    with socket.socket() as bound:
        bound.bind(("127.0.0.1", 0))
        port = bound.getsockname()[1]
        server = serving.Server(serving.config(app))
        thread = threading.Thread(target=server.run, kwargs={"sockets": [bound]}, daemon=True)
        thread.start()
        while not server.started:
            time.sleep(0.01)
        yield port, thread
        server.should_exit = True
        thread.join()


def test_the_first_page_is_there_while_the_rest_is_loaded_and_what_else_is_asked_waits(tmp_path: Path):
    may_load = threading.Event()
    (tmp_path / "index.html").write_text("<p>Isotact", encoding="utf-8")

    def load() -> Any:
        may_load.wait(PLENTY_S)
        return application(Store(tmp_path / "x.sqlite"))

    with running(Starting(load, tmp_path)) as (port, _):
        address = f"http://127.0.0.1:{port}"
        answers: list[Any] = []
        waiting = threading.Thread(target=lambda: answers.append(asked(address, "/api/health")))
        waiting.start()
        with urllib.request.urlopen(f"{address}/rigs/any", timeout=PLENTY_S) as page:
            assert (page.read(), page.headers["X-Frame-Options"]) == (b"<p>Isotact", "DENY")
        foreign = urllib.request.Request(address, headers={"Host": "evil.example"})
        with pytest.raises(urllib.error.HTTPError, match="403"):
            urllib.request.urlopen(foreign, timeout=PLENTY_S)
        assert answers == []
        may_load.set()
        waiting.join()
        assert answers == [{"status": "up"}]


def test_a_rest_that_cannot_be_loaded_ends_the_server_and_says_why():
    def load() -> Any:
        raise IsotactError("What ships is broken.")

    starting = Starting(load)
    with running(starting) as (_, thread):
        thread.join(PLENTY_S)
        assert not thread.is_alive()
    assert str(starting.error()) == "What ships is broken."


def test_what_becomes_of_documents_is_streamed_from_a_number_on(tmp_path: Path):
    with running(application(Store(tmp_path / "x.sqlite"))) as (port, _):
        _is_streamed(f"http://127.0.0.1:{port}")


def _is_streamed(address: str) -> None:
    from tests.rigs import demo_rig

    for name in ("one", "two"):
        asked(
            address, "/api/new-rig", {"document": demo_rig().model_copy(update={"name": name}).model_dump(mode="json")}
        )
    with urllib.request.urlopen(f"{address}/api/events?after=1", timeout=PLENTY_S) as stream:
        told = _next(stream)
        assert (told["sequence"], told["id"], told["what"]) == (2, "two", "created")
        asked(address, "/api/new-rig", {"document": demo_rig().model_dump(mode="json")})
        assert _next(stream)["sequence"] == 3


def test_who_never_reads_is_cut_off_when_the_server_stops():
    async def without_end(scope: Any, receive: Any, send: Any) -> None:
        await send({"type": "http.response.start", "status": 200, "headers": []})
        while True:
            await send({"type": "http.response.body", "body": bytes(1 << 20), "more_body": True})

    with running(without_end) as (port, _), socket.create_connection(("127.0.0.1", port), timeout=PLENTY_S) as line:
        line.sendall(b"GET / HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n")
        assert line.recv(10)
        held = socket.socket(fileno=os.dup(line.fileno()))
        held.settimeout(PLENTY_S)
    with held, contextlib.suppress(ConnectionResetError):
        while held.recv(1 << 20):
            pass


def _next(stream: Any) -> Any:
    for line in stream:
        if line.startswith(b"data: "):
            return json.loads(line[6:])
    raise AssertionError("the stream ended")
