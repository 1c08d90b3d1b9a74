"""Following a long search, and stopping it: what it is at goes to whoever watches."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar


class Watch:
    """Lets somebody follow a long search and stop it. Hand one to a search, keep it, ask it from another thread."""

    def __init__(self) -> None:
        self.stage = ""
        self.done, self.of = 0, 0
        self.best: int | None = None
        self.bound: int | None = None
        self.stopped = False
        self._stop: Callable[[], object] | None = None

    def at(self, stage: str, done: int = 0, of: int = 0) -> None:
        """Say what is being worked at."""
        self.stage, self.done, self.of = stage, done, of

    def stop(self) -> None:
        """End the search; the best so far is what it gives."""
        self.stopped = True
        if self._stop is not None:
            self._stop()

    def hold(self, stop: Callable[[], object] | None) -> None:
        """Remember how the solver at work is stopped; None when it is done."""
        self._stop = stop


_followed: ContextVar[Watch | None] = ContextVar("followed", default=None)


@contextmanager
def watched(watch: Watch) -> Iterator[None]:
    """Whatever is searched while this lasts says to `watch` what it is at."""
    token = _followed.set(watch)
    try:
        yield
    finally:
        _followed.reset(token)


def at(stage: str, done: int = 0, of: int = 0) -> None:
    """Say what is being worked at, to whoever follows."""
    watch = _followed.get()
    if watch is not None:
        watch.at(stage, done, of)
