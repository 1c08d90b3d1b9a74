"""The processes that do long work. Each has a line of its own to its asker, and nothing in common with the others.

A search says over its line what it is at, and hears there that it is to stop. Whoever is gone needs no answer: then the
process is ended, which no search can hold up, and another takes its place. That is why this is no pool with one queue
for all processes: one that is ended while it holds the lock of that queue takes the others with it.
"""

import multiprocessing
import os
import queue
import threading
from concurrent.futures import Future
from contextlib import suppress
from dataclasses import dataclass, field
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any, NamedTuple

from isotact.api.compute.answers import AnswerCache, AnswerContext
from isotact.api.compute.calls import Call, Done, perform
from isotact.catalogue import Catalogue, shipped
from isotact.core.model.problems import BrokenError, StoppedError
from isotact.core.planning import Watch, warm_up
from isotact.store import Store
from isotact.store.own_catalogue import read_own

# A stop is heard within this; looked at oftener, an idle search costs more than it saves.
LOOK_EVERY_S = 0.05
NICE = 5
"""Searches make room for the first page and small requests."""
STOP = "stop"


class Progress(NamedTuple):
    """What a search is at."""

    stage: str = ""
    done: int = 0
    of: int = 0


class Offered(NamedTuple):
    """An answer that will do, while a better one is looked for."""

    done: Done


@dataclass
class RunningCall:
    """A call under way, as its asker sees it. Any thread may stop it, or end it."""

    call: Call
    sequence: int
    future: "Future[Done]" = field(default_factory=Future)
    progress: Progress = field(default_factory=Progress)
    offered: Done | None = None
    """What will do, if it is stopped before it is done."""
    is_stopped: bool = False
    is_ended: bool = False


class LineWatch(Watch):
    """Says over a line what a search is at."""

    def __init__(self, line: "Connection[Any, Any]") -> None:
        super().__init__()
        self._line = line

    def at(self, stage: str, done: int = 0, of: int = 0) -> None:
        super().at(stage, done, of)
        self._line.send(Progress(stage, done, of))


def work(line: "Connection[Any, Any]", database: str) -> None:
    """What a process does: a call after the other, until its line is cut."""
    with suppress(OSError):
        os.nice(NICE)
    calls: queue.SimpleQueue[tuple[Call, int]] = queue.SimpleQueue()
    watching: list[Watch] = []
    threading.Thread(target=_listen, args=(line, calls, watching), daemon=True).start()
    warm_up()
    answers, catalogue, read_at = AnswerCache(), shipped(), 0
    while True:
        call, sequence = calls.get()
        watch = LineWatch(line)
        watching[:] = [watch]
        try:
            if sequence != read_at:
                catalogue, read_at = _own(database), sequence
            desk = AnswerContext(answers, catalogue, watch, call.known)
            line.send(perform(call, desk, watch, lambda done: line.send(Offered(done))))
        except BrokenPipeError:
            os._exit(0)
        except Exception as error:  # whatever it is, it is told to whoever asked
            line.send(error)
        finally:
            watching.clear()


def _own(database: str) -> Catalogue:
    return read_own(Store(Path(database), is_ready=True))


def _listen(line: "Connection[Any, Any]", calls: "queue.SimpleQueue[Any]", watching: list[Watch]) -> None:
    """Take calls in, and pass on that one is to stop. A line that is cut has nobody at its end."""
    while True:
        try:
            message = line.recv()
        except (EOFError, OSError):
            os._exit(0)
        if message != STOP:
            calls.put(message)
        for watch in list(watching) if message == STOP else ():
            watch.stop()


class Processes:
    """Some processes, and the threads that wait for them. `database`: where they read what is one's own.

    One more than `count` does nothing but what is `quick`: that never stands behind a plan.
    """

    def __init__(self, database: Path, count: int) -> None:
        self._context = multiprocessing.get_context("forkserver")
        # What they all need is loaded once, and shared from there on.
        self._context.set_forkserver_preload(["isotact.api.preload"])
        self._database = str(database)
        self._jobs: queue.SimpleQueue[RunningCall | None] = queue.SimpleQueue()
        self._quick: queue.SimpleQueue[RunningCall | None] = queue.SimpleQueue()
        self._is_closing = False
        self._may_begin = threading.Event()
        self._lines = [self._jobs] * count + [self._quick]
        self._threads = [threading.Thread(target=self._serve, args=(jobs,), daemon=True) for jobs in self._lines]
        for thread in self._threads:
            thread.start()

    def start(self, call: Call, sequence: int, is_quick: bool = False) -> RunningCall:
        """Have a call done by the next process that is free; what is quick by the one that is kept for it."""
        job = RunningCall(call, sequence)
        if self._is_closing:
            job.future.set_exception(StoppedError("It was ended."))
        else:
            (self._quick if is_quick else self._jobs).put(job)
        self.warm()
        return job

    def warm(self) -> None:
        """Begin the processes. Until then, or the first job, they leave the machine to whoever opens the first page."""
        self._may_begin.set()

    def close(self) -> None:
        """End every process, whatever it is at."""
        self._is_closing = True
        self._may_begin.set()
        for jobs in self._lines:
            jobs.put(None)
        for thread in self._threads:
            thread.join()

    def _serve(self, jobs: "queue.SimpleQueue[RunningCall | None]") -> None:
        self._may_begin.wait()
        if self._is_closing:
            return
        process, line = self._begin()
        while not self._is_closing and (job := jobs.get()) is not None:
            if not self._do(job, line):
                process.kill()
                process.join()
                line.close()
                if not self._is_closing:
                    process, line = self._begin()
        process.kill()
        process.join()

    def _begin(self) -> tuple[Any, "Connection[Any, Any]"]:
        ours, theirs = self._context.Pipe()
        process = self._context.Process(target=work, args=(theirs, self._database), daemon=True)
        process.start()
        theirs.close()
        return process, ours

    def _do(self, job: RunningCall, line: "Connection[Any, Any]") -> bool:
        """Have one job done; False when its process is of no more use."""
        if not job.future.set_running_or_notify_cancel():
            return True
        said_stop = False
        try:
            line.send((job.call, job.sequence))
            while not (job.is_ended or self._is_closing):
                if line.poll(LOOK_EVERY_S):
                    message = line.recv()
                    if isinstance(message, Progress):
                        job.progress = message
                    elif isinstance(message, Offered):
                        job.offered = message.done
                    else:
                        _hand_over(job, message)
                        return True
                elif job.is_stopped and not said_stop:
                    line.send(STOP)
                    said_stop = True
        except (EOFError, OSError):
            says = "The search came to an end before it was done: the laptop may be short of memory. Try again."
            _hand_over(job, BrokenError(says))
            return False
        _hand_over(job, StoppedError("It was ended."))
        return False


def _hand_over(job: RunningCall, message: object) -> None:
    if isinstance(message, Done):
        job.future.set_result(message)
    elif isinstance(message, Exception):
        job.future.set_exception(message)
