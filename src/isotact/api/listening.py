"""Who hears of what happens: one look at the database for all who listen, however many they are."""

import asyncio
from collections import Counter, deque
from collections.abc import AsyncIterator, Callable
from contextlib import asynccontextmanager
from dataclasses import dataclass, field

from fastapi.concurrency import run_in_threadpool

from isotact.api.security.doorman import Who
from isotact.core.model.problems import BusyError
from isotact.store import Event, Store

LOOK_EVERY_S = 0.25
"""The database is asked, not only our own writes: another program may restore a backup into it."""
MOST_REMEMBERED = 500
"""So many events are at hand for who keeps up; whoever is further behind has them read for him."""
MOST_OF_ONE = 12
"""So many windows may listen for one sign-in."""


@dataclass(eq=False)
class _Listener:
    sign_in: int | None
    wakes: asyncio.Event = field(default_factory=asyncio.Event)
    is_over: bool = False


class Listening:
    """Those who listen to the events of one store. `is_stopping`: says that nobody is to wait any longer."""

    def __init__(self, store: Store, is_stopping: Callable[[], bool]) -> None:
        self._store, self._is_stopping = store, is_stopping
        self._listeners: set[_Listener] = set()
        self._recent: deque[Event] = deque(maxlen=MOST_REMEMBERED)
        self._sequence = 0
        self._looking: asyncio.Task[None] | None = None

    def must_have_room(self, who: Who) -> None:
        """Raise BusyError where too many windows listen for one sign-in."""
        if not who.is_here and self._shares[who.sign_in or 0] >= MOST_OF_ONE:
            raise BusyError("Too many windows are open for this sign-in. Close some of them.")

    async def since(self, seen: int, who: Who) -> AsyncIterator[Event]:
        """Every event after a number, and then each as it happens, until the server stops or a sign-in is ended."""
        async with self._listener(who) as listener:
            while not listener.is_over:
                for event in await self._after(seen):
                    seen = event.sequence
                    yield event
                if seen >= self._sequence and not listener.is_over:
                    listener.wakes.clear()
                    await listener.wakes.wait()

    @asynccontextmanager
    async def _listener(self, who: Who) -> AsyncIterator[_Listener]:
        listener = _Listener(None if who.is_here else who.sign_in or 0)
        self._listeners.add(listener)
        try:
            is_first = self._looking is None or self._looking.done()
            if is_first:
                self._looking = asyncio.ensure_future(self._look_on())
            # Nobody is told anything before it was looked whether he is still joined.
            if is_first or listener.sign_in is not None:
                await self._look()
            yield listener
        finally:
            self._listeners.discard(listener)

    @property
    def _shares(self) -> "Counter[int]":
        return Counter(one.sign_in for one in self._listeners if one.sign_in is not None)

    async def _look_on(self) -> None:
        """Look for as long as anybody listens."""
        while self._listeners:
            await asyncio.sleep(LOOK_EVERY_S)
            await self._look()

    async def _look(self) -> None:
        if self._is_stopping():
            self._end(self._listeners)
            return
        asked = bool(self._shares)
        found, live = await run_in_threadpool(self._found, self._sequence, asked)
        if asked:
            self._end({one for one in self._listeners if one.sign_in is not None and one.sign_in not in live})
        fresh = [event for event in found if event.sequence > self._sequence]
        if fresh:
            self._recent.extend(fresh)
            self._sequence = fresh[-1].sequence
            for listener in self._listeners:
                listener.wakes.set()

    def _end(self, those: "set[_Listener]") -> None:
        for listener in list(those):
            listener.is_over = True
            listener.wakes.set()

    def _found(self, after: int, asked: bool) -> tuple[list[Event], frozenset[int]]:
        if not after:  # at the first look what happened before is not read: whoever wants it asks for it
            last = self._store.sequence()
            found = self._store.events(max(0, last - 1), 1)
        else:
            found = self._store.events(after, MOST_REMEMBERED) if self._store.sequence() > after else []
        return found, self._store.sign_ins.live() if asked else frozenset()

    async def _after(self, seen: int) -> list[Event]:
        """Events after a number, in their order: from memory where that reaches back so far."""
        if seen >= self._sequence:
            return []
        if self._recent and self._recent[0].sequence <= seen + 1:
            return [event for event in self._recent if event.sequence > seen]
        return await run_in_threadpool(self._store.events, seen)
