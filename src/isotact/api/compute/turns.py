"""Whose question is worked at next: the laptop's own first, then by turns, so that nobody keeps the others waiting."""

import asyncio
from collections import Counter
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from dataclasses import dataclass, field
from itertools import count
from typing import NamedTuple

from isotact.core.model.problems import BusyError

MOST_WAITING = 200
"""A crew of a few phones asks a few at once: more is somebody who should wait."""
MOST_OF_ONE = 24
"""So much may one sign-in have asked at once: a browser with all its windows never does."""


class WhoAsks(NamedTuple):
    """The laptop itself, or a sign-in from the network."""

    is_here: bool = True
    sign_in: int | None = None


HERE = WhoAsks()


@dataclass(eq=False)
class _Turn:
    asker: WhoAsks
    is_long: bool
    number: int
    begins: "asyncio.Future[None]" = field(default_factory=lambda: asyncio.get_running_loop().create_future())


class Turns:
    """`places` questions at a time. What takes long never has all of them, nor does all that comes from the network."""

    def __init__(self, places: int) -> None:
        self._places = places
        self._fewer = max(1, places - 1)
        self._waiting: list[_Turn] = []
        self._running: list[_Turn] = []
        self._numbers = count()

    @asynccontextmanager
    async def turn(self, asker: WhoAsks, is_long: bool = False) -> AsyncIterator[None]:
        """Wait for a place, and have it. Raises BusyError where the asker, or the network, has asked too much."""
        self._must_not_be_too_much(asker)
        turn = _Turn(asker, is_long, next(self._numbers))
        self._waiting.append(turn)
        self._go_on()
        try:
            await turn.begins
            yield
        finally:
            for those in (self._waiting, self._running):
                if turn in those:
                    those.remove(turn)
            self._go_on()

    def _must_not_be_too_much(self, asker: WhoAsks) -> None:
        asked = [*self._waiting, *self._running]
        same = [one for one in asked if one.asker.is_here == asker.is_here]
        own = [one for one in asked if one.asker == asker]
        if len(same) >= MOST_WAITING or (not asker.is_here and len(own) >= MOST_OF_ONE):
            raise BusyError("Too much is asked at once. Wait a moment, then try again.")

    def _go_on(self) -> None:
        while (turn := self._next()) is not None:
            self._waiting.remove(turn)
            self._running.append(turn)
            turn.begins.set_result(None)

    def _next(self) -> _Turn | None:
        """Who has least of what is worked at comes first, and of those who asked first."""
        if len(self._running) >= self._places:
            return None
        shares = Counter(one.asker for one in self._running)
        long = sum(one.is_long for one in self._running)
        guests = sum(not one.asker.is_here for one in self._running)
        able = [
            one
            for one in self._waiting
            if not (one.is_long and long >= self._fewer)
            and not (not one.asker.is_here and guests >= self._fewer)
            and not one.begins.done()
        ]
        return min(able, key=lambda one: (not one.asker.is_here, shares[one.asker], one.number), default=None)
