"""Those who stand at a bench, at whichever screen or program: one hand at a time, and all see what it did."""

import asyncio
from collections import Counter, defaultdict
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager

from isotact.core.model.problems import BusyError

MOST_LINES = 60
"""So many screens and programs may follow benches at once: a crew with all its windows, and its stand-ins."""
MOST_OF_ONE = 12
"""So many of one sign-in, as of streams of events: no guest takes all the room."""


class BenchHub:
    """Who follows which bench."""

    def __init__(self) -> None:
        self._turns: dict[str, asyncio.Lock] = defaultdict(asyncio.Lock)
        self._followers: dict[str, set[asyncio.Event]] = defaultdict(set)
        self._shares: Counter[int | None] = Counter()

    def turn(self, bench: str) -> asyncio.Lock:
        """Hold it while a move is made: the next one is made at what that left."""
        return self._turns[bench]

    def moved(self, bench: str) -> None:
        """Tell all who follow a bench that something was done there."""
        for follower in self._followers.get(bench, ()):
            follower.set()

    @asynccontextmanager
    async def following(self, bench: str, sign_in: int | None = None) -> AsyncIterator[asyncio.Event]:
        """An event that is set whenever something was done at a bench. Raises BusyError.

        `sign_in`: by which somebody came from the network; None: from the laptop itself.
        """
        is_many = sign_in is not None and self._shares[sign_in] >= MOST_OF_ONE
        if is_many or sum(map(len, self._followers.values())) >= MOST_LINES:
            raise BusyError("Too many screens and programs follow benches. Close some of them.")
        follower = asyncio.Event()
        self._followers[bench].add(follower)
        self._shares[sign_in] += 1
        try:
            yield follower
        finally:
            self._shares[sign_in] -= 1
            self._followers[bench].discard(follower)
            if not self._followers[bench]:
                del self._followers[bench]
                self._turns.pop(bench, None) if not self._turns[bench].locked() else None
