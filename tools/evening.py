"""The worst evening: somebody careless or hostile on the set's network, while the crew works. Rows of `make soak`.

Whoever asks from 127.0.0.2 and on is somebody on the network to the server, and 127.0.0.1 alone the laptop itself.
"""

import contextlib
import http.client
import io
import json
import os
import socket
import sqlite3
import subprocess
import sys
import threading
import time
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

from PIL import Image

from isotact.catalogue import shipped
from isotact.catalogue.packs import as_yaml
from isotact.store import RIG, Store

Row = tuple[str, str, bool]
HERE, GUEST, STRANGER = "127.0.0.1", "127.0.0.2", "127.0.0.3"
PLENTY_S = 300.0
EIGHT_HOURS_S = 8 * 3600.0


class Shared:
    """The demo, shared, in a process of its own; with a guest of each role who joined."""

    def __init__(self, folder: Path) -> None:
        command = [sys.executable, "-m", "isotact", "demo", "--share", "--port", "0", "--data", str(folder)]
        self.process = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
        assert self.process.stdout is not None
        said = [self.process.stdout.readline() for _ in range(3)]
        self.port = int(said[0].rpartition(":")[2])
        codes = said[2].removeprefix("Codes to join: ").partition(". ")[0].split(", ")
        self.codes = {one.rpartition(" ")[2]: one.partition(" may ")[0] for one in codes}
        self.cookies: dict[str, str] = {}
        for role, code in self.codes.items():
            status, _, cookie = self.asked("/api/sign-in", {"code": code, "person": f"Guest {role}"}, GUEST)
            assert status == 200, status
            self.cookies[role] = cookie.partition(";")[0]

    def asked(
        self,
        path: str,
        body: Any = None,
        source: str = HERE,
        cookie: str = "",
        method: str = "",
        kind: str = "application/json",
    ) -> tuple[int, bytes, str]:
        """Status, body and the cookie that was set."""
        line = http.client.HTTPConnection(HERE, self.port, timeout=PLENTY_S, source_address=(source, 0))
        data = body if isinstance(body, bytes) else None if body is None else json.dumps(body).encode()
        headers = {
            "Origin": f"http://{HERE}:{self.port}",
            "Content-Type": kind,
            **({"Cookie": cookie} if cookie else {}),
        }
        with contextlib.closing(line):
            line.request(method or ("GET" if data is None else "POST"), path, data, headers)
            answer = line.getresponse()
            return answer.status, answer.read(), answer.getheader("Set-Cookie") or ""

    def lines(self, count: int, source: str, path: str, cookie: str = "") -> list[socket.socket]:
        """Lines on which something is asked, and nothing is read."""
        head = f"GET {path} HTTP/1.1\r\nHost: {HERE}:{self.port}\r\n" + (f"Cookie: {cookie}\r\n" if cookie else "")
        found = []
        for _ in range(count):
            line = socket.create_connection((HERE, self.port), timeout=PLENTY_S, source_address=(source, 0))
            with contextlib.suppress(OSError):
                line.sendall(head.encode() + b"\r\n")
            found.append(line)
        return found

    def memory_mb(self, what: str = "VmRSS") -> float:
        """What the server itself holds, or held at most (`VmHWM`)."""
        text = Path(f"/proc/{self.process.pid}/status").read_text(encoding="utf-8")
        return int(next(line for line in text.splitlines() if line.startswith(what)).split()[1]) / 1024

    def forget_most(self) -> None:
        """Begin anew with what it held at most."""
        Path(f"/proc/{self.process.pid}/clear_refs").write_text("5", encoding="utf-8")

    def busy_s(self) -> float:
        """Seconds of a core that the server itself has used."""
        fields = Path(f"/proc/{self.process.pid}/stat").read_text(encoding="utf-8").rpartition(")")[2].split()
        return (int(fields[11]) + int(fields[12])) / os.sysconf("SC_CLK_TCK")

    @contextlib.contextmanager
    def watched(self, path: str = "/") -> Iterator[list[float]]:
        """How long the laptop's own requests took meanwhile, in milliseconds."""
        took: list[float] = []
        over = threading.Event()

        def look() -> None:
            while not over.is_set():
                start = time.perf_counter()
                status, *_ = self.asked(path)
                took.append(1000 * (time.perf_counter() - start) if status == 200 else float("inf"))
                time.sleep(0.05)

        thread = threading.Thread(target=look)
        thread.start()
        try:
            yield took
        finally:
            over.set()
            thread.join()

    def stop(self) -> None:
        self.process.terminate()
        self.process.wait(60)


def _worst(took: list[float]) -> str:
    return f"{len(took)} of the laptop's pages, worst {max(took):.0f} ms"


def tries(server: Shared) -> list[Row]:
    """Forty-five profiles tried at once by somebody who joined to look on, who then leaves."""
    text = as_yaml(shipped().profiles["phone"].model_copy(update={"id": "tried-phone"}))
    server.forget_most()
    with server.watched() as took, ThreadPoolExecutor(45) as pool:
        bodies = [{"text": f"{text}\n# {number}", "rig": "night-ferry-a"} for number in range(45)]
        found = list(pool.map(lambda body: _tried(server, body), bodies))
    held = server.memory_mb("VmHWM")
    answers = f"{found.count(200)} tried, {found.count(503)} told to wait, {found.count(0)} lines too many"
    said = f"{answers}; {_worst(took)}; {held:.0f} MB"
    good = max(took) < 300 and set(found) <= {200, 503, 0} and held < 200
    return [("a guest tries 45 profiles at once", said, good)]


def _tried(server: Shared, body: dict[str, str]) -> int:
    try:
        return server.asked("/api/workshop/try", body, GUEST, server.cookies["look"])[0]
    except OSError:
        return 0


def floods(server: Shared) -> list[Row]:
    """Lines that never read: of a stranger, and streams of a guest."""
    rows = []
    for what, source, path, cookie in (
        ("a stranger opens 205 lines and reads nothing", STRANGER, "/", ""),
        ("a guest opens 205 streams", GUEST, "/api/events", server.cookies["look"]),
    ):
        with server.watched() as took:
            held = server.lines(205, source, path, cookie)
            time.sleep(3)
        for line in held:
            line.close()
        rows.append((what, _worst(took), max(took) < 300))
    return rows


def photos(server: Shared) -> list[Row]:
    """Pictures that pack to next to nothing, and what a phone makes."""

    def drawn(size: tuple[int, int], kind: str) -> bytes:
        out = io.BytesIO()
        Image.new("RGB", size, "red").save(out, kind)
        return out.getvalue()

    rows = []
    for what, sent, kind, wanted in (
        ("four PNGs of 7,700 x 7,700 at once", drawn((7700, 7700), "PNG"), "image/png", 422),
        ("four photos of 48 megapixels at once", drawn((8064, 6048), "JPEG"), "image/jpeg", 201),
    ):
        before = server.memory_mb()
        server.forget_most()
        post: Callable[[int], int] = lambda _, sent=sent, kind=kind: server.asked(  # noqa: E731
            "/api/photos", sent, GUEST, server.cookies["tick"], kind=kind
        )[0]
        with server.watched() as took, ThreadPoolExecutor(4) as pool:
            found = list(pool.map(post, range(4)))
        more = server.memory_mb("VmHWM") - before
        said = f"{', '.join(map(str, found))}; {more:.0f} MB more; {_worst(took)}"
        rows.append((what, said, set(found) == {wanted} and more < 150))
    return rows


def bodies(server: Shared) -> list[Row]:
    """Forty bodies of 14.5 MB from somebody who has not joined."""
    server.forget_most()
    before = server.memory_mb()

    def send(_: int) -> int:
        try:
            return server.asked("/api/photos", bytes(14_500_000), STRANGER, kind="image/jpeg")[0]
        except OSError:
            return 0  # it was cut off while it still sent

    with server.watched() as took, ThreadPoolExecutor(40) as pool:
        found = list(pool.map(send, range(40)))
    more = server.memory_mb("VmHWM") - before
    said = f"none taken: {found.count(401)} × 401, {found.count(0)} cut off; {more:.0f} MB more; {_worst(took)}"
    return [("40 bodies of 14.5 MB from a stranger", said, set(found) <= {401, 0} and more < 40 and max(took) < 300)]


def listeners(server: Shared) -> list[Row]:
    """Streams on which nothing happens."""
    rows = []
    for count in (100, 500):
        held = server.lines(count, HERE, "/api/events")
        for line in held:  # each is answered: what it took to begin is not what it takes to listen
            line.recv(1)
        time.sleep(2)
        start, busy = time.perf_counter(), server.busy_s()
        time.sleep(10)
        share = (server.busy_s() - busy) / (time.perf_counter() - start)
        for line in held:
            line.close()
        rows.append((f"{count} who listen while nothing happens", f"{100 * share:.1f} % of a core", share < 0.05))
        time.sleep(1)
    return rows


def _entries(name: str, steps: list[str], count: int, ago_s: float) -> list[dict[str, Any]]:
    """Ticks as a phone makes them that is out of reach, each later than the one before."""
    return [
        {
            "uid": f"evening-{name}-{one}",
            "what": "done",
            "subject": steps[one % len(steps)],
            "ago_s": ago_s * (1 - one / count),
        }
        for one in range(count)
    ]


def ticks(server: Shared) -> list[Row]:
    """Ticks while fifty plans are under way, and five hundred of a phone that was away for eight hours."""
    rig = json.loads(server.asked("/api/rigs/night-ferry-a")[1])
    answer = json.loads(server.asked("/api/plan", {"document": rig["document"]})[1])
    steps = [step["id"] for step in answer["sheet"]["steps"]]

    def tick(entries: list[dict[str, Any]], cookie: str) -> float:
        body = {"revision": rig["revision"], "entries": entries}
        start = time.perf_counter()
        status, said, _ = server.asked("/api/rigs/night-ferry-a/log", body, GUEST, cookie)
        assert status == 200, said
        return 1000 * (time.perf_counter() - start)

    tick(_entries("warm", steps, 1, 0), server.cookies["tick"])
    with ThreadPoolExecutor(50) as pool:
        plans = [
            pool.submit(server.asked, "/api/plan", {"document": {**rig["document"], "name": f"busy {number}"}})
            for number in range(50)
        ]
        took = []
        while not all(plan.done() for plan in plans):
            took.append(tick(_entries(f"busy-{len(took)}", steps, 1, 0), server.cookies["tick"]))
            time.sleep(0.1)
    planned = sum(plan.result()[0] == 200 for plan in plans)
    said = f"{planned} of 50 planned; {len(took)} ticks, worst {max(took):.0f} ms"
    rows = [("a tick while fifty plans are under way", said, planned == 50 and max(took) < 300)]
    away = _entries("away", steps, 500, EIGHT_HOURS_S)
    for part in (away[:200], away[200:400], away[400:], away[:200]):  # the last as from a phone that heard no answer
        tick(part, server.cookies["tick"])
    lines = json.loads(server.asked("/api/log?rig=night-ferry-a&count=100")[1])
    while lines and lines[-1]["sequence"] > 1:
        more = json.loads(server.asked(f"/api/log?rig=night-ferry-a&count=100&before={lines[-1]['sequence']}")[1])
        if not more:
            break
        lines += more
    there = sum(line["what"] == "done" for line in lines) - len(took) - 1
    rows.append(("500 ticks of a phone that was away for eight hours, some sent twice", f"{there} there", there == 500))
    return rows


def long_history(folder: Path, megabytes: int = 280) -> list[Row]:
    """A season in one database: how long the start, a tick and the steps take."""
    server = Shared(folder)
    server.stop()
    store = Store(folder / "isotact.sqlite")
    rig = store[RIG].one("night-ferry-a")
    text = rig.document.model_dump_json()
    with contextlib.closing(sqlite3.connect(store.file)) as raw, raw:
        (key,) = raw.execute("SELECT key FROM document WHERE id = 'night-ferry-a'").fetchone()
        count = megabytes * 900_000 // (len(text) + 60)
        raw.executemany(
            "INSERT INTO revision (document_key, number, parent, shows, document, beside, made_at) "
            "VALUES (?, ?, ?, ?, ?, '{}', ?)",
            ((key, number, number - 1, number, text, "2026-01-01T00:00:00+00:00") for number in range(2, count)),
        )
        raw.execute("UPDATE document SET head = ? WHERE key = ?", (count - 1, key))
        raw.executemany(
            "INSERT INTO event (uid, at, person, kind, id, what, revision, subject, device, words, text, data) "
            "VALUES (?, ?, 'Ada', 'rig', 'night-ferry-a', 'done', 1, ?, '', 'Wake the body', '', '')",
            (
                (f"season-{one}", f"2030-01-01T00:00:{one % 60:02}.000+00:00", f"wake:{one % 100}")
                for one in range(200_000)
            ),
        )
    store.close()
    size = (folder / "isotact.sqlite").stat().st_size / 1e6
    start = time.perf_counter()
    server = Shared(folder)
    status, *_ = server.asked("/")
    started = time.perf_counter() - start
    found = json.loads(server.asked("/api/rigs/night-ferry-a")[1])
    step = json.loads(server.asked("/api/plan", {"document": found["document"]})[1])["sheet"]["steps"][0]["id"]
    took: dict[str, list[float]] = {"tick": [], "steps": []}
    for number in range(20):
        entry = {"uid": f"season-tick-{number}", "what": "done", "subject": step}
        body = {"revision": found["revision"], "person": "Ada", "entries": [entry]}
        for name, path, sent in (
            ("tick", "/api/rigs/night-ferry-a/log", body),
            ("steps", "/api/rigs/night-ferry-a/steps", None),
        ):
            start = time.perf_counter()
            status = max(status, server.asked(path, sent)[0])
            took[name].append(1000 * (time.perf_counter() - start))
    server.stop()
    worst = {name: max(those[1:]) for name, those in took.items()}
    said = f"first page after {started:.1f} s; tick {worst['tick']:.0f} ms, steps {worst['steps']:.0f} ms at worst"
    good = status == 200 and started < 3 and max(worst.values()) < 300
    return [(f"a database of {size:.0f} MB with 200,000 entries", said, good)]


def rows(place: Path) -> list[Row]:
    """All of the evening."""
    server = Shared(place / "evening")
    found = tries(server) + floods(server) + photos(server) + bodies(server) + listeners(server) + ticks(server)
    server.stop()
    return found + long_history(place / "season")


if __name__ == "__main__":
    import tempfile

    with tempfile.TemporaryDirectory() as folder:
        for what, measured, good in rows(Path(folder)):
            print(f"| {what} | {measured} | {'holds' if good else 'DOES NOT HOLD'} |", flush=True)
