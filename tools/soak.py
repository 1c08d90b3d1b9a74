"""What it stands: kills under writes, thousands of requests, fifty plans at once, stops, a full disk. On loopback only.

Prints the table of docs/reliability.md. Bounded: a few minutes. Exits with 1 where anything was lost or fell over.
"""

import argparse
import hashlib
import io
import json
import multiprocessing
import os
import random
import resource
import signal
import sqlite3
import statistics
import subprocess
import sys
import tempfile
import threading
import time
import urllib.error
import urllib.request
from collections import Counter
from concurrent.futures import ProcessPoolExecutor, ThreadPoolExecutor
from contextlib import closing
from pathlib import Path
from typing import Any

import evening
from PIL import Image

from isotact.catalogue import read_file, shipped
from isotact.core.model import Kit, Rig
from isotact.demo import demo_files, demo_kit
from isotact.store import KIT, PROFILE, RIG, Entry, Store
from isotact.store.own_catalogue import keep_one

RIGS = [read_file(file, Rig) for file in demo_files()]
PHONE = shipped().profiles["phone"].model_copy(update={"id": "our-phone"})
Row = tuple[str, str, bool]
SPAWN = multiprocessing.get_context("spawn")
FLAT = 1.25
"""Memory that grows by less is not growing with the requests."""


def write_for_ever(file: Path, said: Path, seed: int) -> None:
    """Writes of every kind, each noted once it was acknowledged."""
    store, draw = Store(file), random.Random(seed)
    with said.open("a", encoding="utf-8") as out:
        for number in range(1_000_000):
            kind = draw.choice(("rig", "kit", "profile", "pack", "tick", "tick", "photo"))
            note: list[Any] = [kind, number]
            if kind == "rig":
                rig = draw.choice(RIGS)
                head = store[RIG].one(rig.id).revision
                name = f"{seed}-{number}"
                saved = store[RIG].save(rig.id, rig.model_copy(update={"name": name}), head)
                note += [rig.id, saved.revision, name]
            elif kind == "kit":
                kit = store[KIT].all()[0]
                name = f"{seed}-{number}"
                done = store[KIT].save(kit.document.id, kit.document.model_copy(update={"name": name}), kit.revision)
                note += [kit.document.id, done.revision, name]
            elif kind == "tick":
                step = f"step-{seed}-{number}"
                for _ in range(2):  # as a phone that did not hear the first answer
                    store.log.add(RIGS[0].id, [Entry(uid=f"soak-{step}", what="done", subject=step)], 1)
                note += [step]
            elif kind == "photo":
                photo = store.photos.add(_drawn(seed * 1000 + number)).id
                entry = Entry(uid=f"photo-{seed}-{number}", what="note", subject="", photos=(photo,))
                store.log.add(RIGS[0].id, [entry], 1)
                note += [f"photo-{seed}-{number}", photo]
            else:
                keys = ["our-phone"] if kind == "profile" else [f"pack-{seed}-{number}-{part}" for part in range(3)]
                with store.writing():
                    revisions = [
                        keep_one(store, PHONE.model_copy(update={"id": key, "mass_g": 100 + number % 800}), None)
                        for key in keys
                    ]
                note += [keys, revisions]
            out.write(json.dumps(note) + "\n")
            out.flush()


def _drawn(number: int) -> bytes:
    """A small picture that no other number gives."""
    out = io.BytesIO()
    Image.new("RGB", (64, 48), (number % 256, number // 256 % 256, number // 65536 % 256)).save(out, "PNG")
    return out.getvalue()


def lost_by_kills(kills: int) -> tuple[int, int]:
    """How many writes were acknowledged over all kills, and how many of those were not there afterwards."""
    acknowledged = lost = 0
    with tempfile.TemporaryDirectory() as place:
        file = Path(place) / "isotact.sqlite"
        store = Store(file)
        for rig in RIGS:
            store[RIG].create(rig)
        store[KIT].create(read_file(demo_kit(), Kit))
        store.close()
        for number in range(kills):
            said = Path(place) / f"said-{number}"
            said.touch()
            writer = SPAWN.Process(target=write_for_ever, args=(file, said, number))
            writer.start()
            while not said.stat().st_size:
                time.sleep(0.01)
            time.sleep(random.Random(number).uniform(0.02, 0.4))
            os.kill(writer.pid or 0, signal.SIGKILL)
            writer.join()
            notes = [json.loads(line) for line in said.read_text(encoding="utf-8").splitlines() if line.endswith("]")]
            acknowledged += len(notes)
            lost += sum(not is_there(Store(file), note) for note in notes)
            with closing(sqlite3.connect(file)) as raw:
                assert raw.execute("PRAGMA integrity_check").fetchone() == ("ok",)
    return acknowledged, lost


def is_there(store: Store, note: list[Any]) -> bool:
    """Whether a write that was acknowledged is in the database."""
    kind, _, *what = note
    if kind == "tick":
        return what[0] in store.log.steps(RIGS[0].id) and _times(store, f"soak-{what[0]}") == 1
    if kind == "photo":
        return _times(store, what[0]) == 1 and hashlib.sha256(store.photos.read(what[1])).hexdigest() == what[1]
    if kind in ("rig", "kit"):
        shelf: Any = store[RIG if kind == "rig" else KIT]
        return bool(shelf.revision(what[0], what[1]).name == what[2])
    return all(store[PROFILE].revision(key, number).id == key for key, number in zip(*what, strict=True))


def _times(store: Store, uid: str) -> int:
    """How often an entry stands in the log."""
    table = store.tables.Event
    with store.reading():
        return int(table.select().where(table.uid == uid).count())


class Server:
    """The demo in a process of its own."""

    def __init__(self, folder: Path) -> None:
        command = [sys.executable, "-m", "isotact", "demo", "--port", "0", "--data", str(folder)]
        self.process = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
        assert self.process.stdout is not None
        self.address = self.process.stdout.readline().split()[-1]

    def ask(self, path: str, body: Any = None, method: str | None = None, timeout: float = 60) -> tuple[int, Any]:
        headers = {"Origin": self.address, "Content-Type": "application/json"}
        data = None if body is None else json.dumps(body).encode()
        request = urllib.request.Request(self.address + path, data, headers, method=method)
        try:
            with urllib.request.urlopen(request, timeout=timeout) as answer:
                return answer.status, answer.read()
        except urllib.error.HTTPError as error:
            return error.code, error.read()

    def rig(self, key: str = "night-ferry-b") -> Any:
        return json.loads(self.ask(f"/api/rigs/{key}")[1])

    def memory_mb(self) -> float:
        """What the server itself holds."""
        text = Path(f"/proc/{self.process.pid}/status").read_text(encoding="utf-8")
        return int(next(line for line in text.splitlines() if line.startswith("VmRSS")).split()[1]) / 1024

    def stop(self) -> float:
        """Seconds from the signal to its end."""
        start = time.perf_counter()
        self.process.terminate()
        self.process.wait(60)
        return time.perf_counter() - start


def one_request(server: Server, number: int) -> int:
    """One request of a mix, drawn by its number; gives its status."""
    draw = random.Random(number)
    rig = server.rig(draw.choice(RIGS).id)
    document = {**rig["document"], "name": f"soak {number % 40}"}
    match draw.randrange(8):
        case 0:
            return server.ask(f"/api/rigs/{document['id']}", {"made_on": rig["revision"], "document": document}, "PUT")[
                0
            ]
        case 1:
            return server.ask("/api/plan", {"document": document})[0]
        case 2:
            return server.ask(f"/api/rigs/{document['id']}/history")[0]
        case 3:
            return server.ask("/api/rigs")[0]
        case 4:
            return server.ask("/api/workshop/keep", {"text": "not: a profile"})[0]
        case 5:
            return server.ask(f"/api/rigs/{document['id']}/undo", {"made_on": rig["revision"]})[0]
        case 6:
            return server.ask("/api/rigs/none")[0]
        case _:
            return server.ask("/api/promising", {"document": document, "text": "focus"})[0]


def soak(server: Server, count: int) -> list[Row]:
    """Many requests, and what the server holds after them."""
    with ThreadPoolExecutor(8) as pool:
        early = Counter(pool.map(lambda number: one_request(server, number), range(count // 5)))
        before = server.memory_mb()
        late = Counter(pool.map(lambda number: one_request(server, number), range(count // 5, count)))
    after = server.memory_mb()
    answers = early + late
    broken = sum(number for status, number in answers.items() if status >= 500)
    told = ", ".join(f"{number} × {status}" for status, number in sorted(answers.items()))
    return [
        (f"{count:,} mixed requests by 8 at once", f"{told}; {broken} of 500 and above", broken == 0),
        (
            "memory of the server after a fifth of them, and after all",
            f"{before:.0f} MB, {after:.0f} MB",
            after < 1.25 * before,
        ),
    ]


def ticking(server: Server, count: int) -> list[Row]:
    """Ticks of one run sheet, a hundred to a request as from a phone that comes back, and what the server holds."""
    answer = json.loads(server.ask("/api/plan", {"document": server.rig()["document"]})[1])
    steps = [step["id"] for step in answer["sheet"]["steps"]]
    held = []
    for start in range(0, count, 100):
        entries = [
            {"uid": f"ticking-{one}", "what": ("done", "taken-back")[one % 2], "subject": steps[one % len(steps)]}
            for one in range(start, start + 100)
        ]
        body = {"revision": server.rig()["revision"], "person": "Ada", "entries": entries}
        status, said = server.ask("/api/rigs/night-ferry-b/log", body)
        if status != 200:
            return [(f"{count:,} ticks", f"{status} {said!r}", False)]
        held.append(server.memory_mb())
    tenth = len(held) // 10
    early, late = statistics.median(held[tenth : 2 * tenth]), statistics.median(held[-tenth:])
    what = f"memory of the server in {count:,} ticks, in the second tenth and the last"
    return [(what, f"{early:.0f} MB, {late:.0f} MB", late < 1.1 * early)]


def pages_of(address: str, until: Path) -> list[float]:
    """How long each first page took, in milliseconds, fetched over and over until a file is there."""
    times: list[float] = []
    while not until.exists():
        start = time.perf_counter()
        urllib.request.urlopen(address, timeout=60).close()
        times.append(1000 * (time.perf_counter() - start))
        time.sleep(0.02)
    return times


def crowd(server: Server) -> list[Row]:
    """The first page, over and over, while fifty plans wait: fetched by a program of its own, as a browser does."""
    document = server.rig("night-ferry-a")["document"]
    bodies = [{"document": {**document, "name": f"crowd {number}"}} for number in range(50)]
    with (
        tempfile.TemporaryDirectory() as place,
        ProcessPoolExecutor(1, SPAWN) as browser,
        ThreadPoolExecutor(50) as pool,
    ):
        over = Path(place) / "over"
        browser.submit(statistics.median, [0]).result()  # it is up
        looking = browser.submit(pages_of, server.address, over)
        answers = list(pool.map(lambda body: server.ask("/api/plan", body)[0], bodies))
        over.touch()
        pages = looking.result()
    good = answers.count(200)
    said = (
        f"{good} of 50 planned; {len(pages)} pages, median {statistics.median(pages):.0f} ms, worst {max(pages):.0f} ms"
    )
    return [("the first page while fifty plans are asked for at once", said, good == 50 and max(pages) < 300)]


def stops(folder: Path) -> list[Row]:
    """How soon things end that are stopped."""
    server = Server(folder)
    document = server.rig("night-ferry-a")["document"]
    server.ask("/api/plan", {"document": document})
    took = []
    for number in range(10):
        body = {"document": {**document, "name": f"stop {number}"}, "count": 8}
        thread = threading.Thread(target=server.ask, args=(f"/api/alternatives?search=s{number}", body))
        thread.start()
        time.sleep(0.15)
        start = time.perf_counter()
        server.ask(f"/api/searches/s{number}/stop", {})
        thread.join()
        took.append(1000 * (time.perf_counter() - start))
    for number in range(20):
        body = {"document": {**document, "name": f"left {number}"}, "count": 8}
        threading.Thread(target=quietly, args=(server, body), daemon=True).start()
    time.sleep(0.3)
    ended = server.stop()
    return [
        (
            "a search that is stopped has answered after",
            f"median {statistics.median(took):.0f} ms, worst {max(took):.0f} ms",
            max(took) < 1000,
        ),
        ("the server with twenty searches under way has ended after", f"{1000 * ended:.0f} ms", ended < 3),
    ]


def quietly(server: Server, body: Any) -> None:
    """Ask, and do not mind being cut off."""
    try:
        server.ask("/api/alternatives", body)
    except (OSError, ValueError):
        return


def full_disk(folder: Path) -> list[Row]:
    """A disk of two megabytes: filled by saves, then made room on."""
    folder.mkdir()
    if (
        os.geteuid()
        or subprocess.run(["mount", "-t", "tmpfs", "-o", "size=2m", "none", str(folder)], check=False).returncode
    ):
        return [("a full disk", "not measured: no disk of its own could be made here", True)]
    try:
        server = Server(folder)
        said, saved, last = "", 0, server.rig()
        while not said:
            last = server.rig()
            body = {"made_on": last["revision"], "document": {**last["document"], "name": f"full {saved}"}}
            status, answer = server.ask("/api/rigs/night-ferry-b", body, "PUT")
            saved += status == 200
            said = "" if status == 200 else f"{status} {json.loads(answer)['message']}"
        readable = server.rig() == last
        subprocess.run(["mount", "-o", "remount,size=8m", str(folder)], check=True)
        body = {"made_on": last["revision"], "document": {**last["document"], "name": "room again"}}
        again = server.ask("/api/rigs/night-ferry-b", body, "PUT")[0]
        server.stop()
        there = "is" if readable else "is NOT"
        words = f"{saved} saves, then “{said}”; what was saved {there} there; {again} after room was made"
        return [("a disk that fills up", words, readable and again == 200 and said.startswith("507"))]
    finally:
        subprocess.run(["umount", str(folder)], check=False)


def main() -> int:
    """Measure everything, and print it."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--kills", type=int, default=50)
    parser.add_argument("--requests", type=int, default=5000)
    options = parser.parse_args()
    acknowledged, lost = lost_by_kills(options.kills)
    rows: list[Row] = [
        (
            f"{options.kills} kills under writes of rigs, kits, profiles, packs, photos and ticks sent twice",
            f"{acknowledged:,} acknowledged, {lost} lost or counted twice",
            lost == 0,
        )
    ]
    with tempfile.TemporaryDirectory() as place:
        server = Server(Path(place) / "a")
        rows += soak(server, options.requests) + crowd(server) + ticking(server, 20_000)
        server.stop()
        rows += stops(Path(place) / "b") + full_disk(Path(place) / "c") + evening.rows(Path(place))
    print("| what | measured | |\n|---|---|---|")
    for what, measured, good in rows:
        print(f"| {what} | {measured} | {'holds' if good else 'DOES NOT HOLD'} |")
    print(f"\n{resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss / 1024:.0f} MB at most in one process.")
    return 0 if all(good for _, _, good in rows) else 1


if __name__ == "__main__":
    sys.exit(main())
