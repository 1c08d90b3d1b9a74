"""Serving: the data folder taken, the port bound, the application run, and slow or silent callers let go."""

import argparse
import asyncio
import errno
import os
import socket
import sys
import threading
from contextlib import suppress
from pathlib import Path
from typing import Any

import uvicorn

from isotact.api.security.guard import LOOPBACK
from isotact.api.security.sharing import Sharing
from isotact.catalogue import read_file
from isotact.core.model import IsotactError, Kit, Rig
from isotact.core.model.job import Job
from isotact.demo import demo_files, demo_job, demo_kit
from isotact.server.lines import PatientProtocol
from isotact.server.startup import Starting
from isotact.store import JOB, KIT, RIG, OwnCatalogue, Store
from isotact.store.folder_lock import take
from isotact.store.recovery import check_later

# The first page is there by then, and has the machine to itself until it is.
WARM_UP_AFTER_S = 1.5
# Whole seconds, as the server library wants them: what takes longer is not worth waiting for.
STOP_WITHIN_S = 1
MOST_ON_A_LINE = 100_000
"""Bytes of one message on a line that stays open: an act is a few hundred, and more is no act."""
MOST_PROCESSES = 4
"""So many processes search at most: each holds the solver and what it has planned, some 150 MB."""


class Server(uvicorn.Server):
    """Says where it is once it is there, and ends its streams when it is to stop."""

    def __init__(self, config: uvicorn.Config, sharing: Sharing | None = None) -> None:
        super().__init__(config)
        self._sharing = sharing

    async def startup(self, sockets: list[socket.socket] | None = None) -> None:
        await super().startup(sockets)
        if self.started and sockets:
            port = sockets[0].getsockname()[1]
            print(f"Isotact is at http://127.0.0.1:{port}", flush=True)
            if self._sharing is not None:
                self._say_how_to_join(self._sharing)
        if isinstance(self.config.app, Starting):
            self.config.app.begin(self._stop)

    def _say_how_to_join(self, sharing: Sharing) -> None:
        """Where phones find it, and by which codes; the screen Share shows the same, larger."""
        where = " or ".join(f"http://{address}:{sharing.port}" for address in sharing.addresses)
        print(f"Shared on the network at {where or 'no address yet: join a network'}.", flush=True)
        codes = ", ".join(f"{code[:4]} {code[4:]} may {role}" for role, code in sharing.codes.items())
        print(f"Codes to join: {codes}. Whoever is on this network can try them, and read what is sent.", flush=True)

    def _stop(self) -> None:
        self.should_exit = True

    async def shutdown(self, sockets: list[socket.socket] | None = None) -> None:
        app: Any = self.config.app
        with suppress(Exception):  # what was never there needs no end
            app = await app.whole() if isinstance(app, Starting) else app
            app.state.is_stopping.set()
            app.state.store.photos.close()
            await asyncio.to_thread(app.state.work.close)
        await super().shutdown(sockets)
        await self._let_go()

    async def _let_go(self) -> None:
        """Cut off whoever does not read what he is sent: a line that outlives its loop is never closed."""
        for connection in list(self.server_state.connections):
            connection.transport.abort()
        while self.server_state.connections:
            await asyncio.sleep(0)


def serve(options: argparse.Namespace) -> int:
    """Serve the application over a data folder until it is stopped."""
    address = "0.0.0.0" if options.share else "127.0.0.1"
    with take(options.data), _bound(options.port, address) as bound:
        store = Store(options.data / "isotact.sqlite")
        store.photos.sweep()
        threading.Thread(target=check_later, args=(store.file, store.notices.append), daemon=True).start()
        for notice in store.notices:
            print(notice, file=sys.stderr)
        if options.demo:
            put_the_demo_in(store)
        sharing = Sharing(bound.getsockname()[1]) if options.share else None
        hosts = sharing.hosts if sharing else LOOPBACK
        starting = Starting(lambda: _whole(store, options.data / "profiles", sharing), hosts=hosts)
        server = Server(config(starting), sharing)
        server.run(sockets=[bound])
        if (error := starting.error()) is not None:
            raise error
    return 0


def _whole(store: Store, profiles: Path, sharing: Sharing | None) -> Any:
    """The application over `store` with what is one's own, and the processes that search for it."""
    from isotact.api.application import application
    from isotact.api.compute.processes import Processes

    own = OwnCatalogue(store, profiles)
    for name, problems in own.catalogue.broken.items():
        print(f"Left out {name}: {problems[0]}", file=sys.stderr)
    app = application(store, own, hosts=sharing.hosts if sharing else LOOPBACK, sharing=sharing)
    count = max(2, min(MOST_PROCESSES, os.cpu_count() or 2))
    processes = Processes(store.file, count)
    app.state.work.use(processes, count)
    # Behind the start: the first page is there at once, and the first plan need not wait for the solver to load.
    later = threading.Timer(WARM_UP_AFTER_S, processes.warm)
    later.daemon = True
    later.start()
    return app


def config(app: Any) -> uvicorn.Config:
    """How the application is served."""
    return uvicorn.Config(
        app,
        http=PatientProtocol,
        log_level="warning",
        timeout_graceful_shutdown=STOP_WITHIN_S,
        ws="websockets-sansio",
        ws_max_size=MOST_ON_A_LINE,
        server_header=False,
        lifespan="off",
    )


def _bound(port: int, address: str) -> socket.socket:
    found = socket.socket(socket.AF_INET, socket.SOCK_STREAM)
    found.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        found.bind((address, port))
    except (OSError, OverflowError) as error:
        found.close()
        if isinstance(error, OSError) and error.errno == errno.EADDRINUSE:
            says = f"Port {port} is taken by another program. Stop that, or give another port with --port."
        elif isinstance(error, OSError) and error.errno == errno.EACCES:
            says = f"This user may not open port {port}. Give one above 1023 with --port."
        else:
            says = f"Port {port} cannot be opened. Give a number from 1024 to 65535 with --port."
        raise IsotactError(says) from error
    return found


def put_the_demo_in(store: Store) -> None:
    """The demo's rigs, kit and job, those that are not there yet."""
    here = store.taken_ids()
    rigs = [read_file(file, Rig) for file in demo_files()]
    with store.writing():
        for rig in rigs:
            if rig.id not in here:
                store[RIG].create(rig)
        if not store[KIT].ids():
            store[KIT].create(read_file(demo_kit(), Kit))
        if not store[JOB].ids():
            store[JOB].create(read_file(demo_job(), Job))
