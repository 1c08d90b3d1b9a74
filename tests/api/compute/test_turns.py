"""Whose question is worked at next."""

import asyncio
from collections.abc import Callable

import pytest

from isotact.api.compute import turns as turning
from isotact.api.compute.turns import HERE, Turns, WhoAsks
from isotact.core.model.problems import BusyError

ANNA, BEN = WhoAsks(False, 1), WhoAsks(False, 2)


class Told:
    """Questions that are asked of some turns, each worked at until it is let go."""

    def __init__(self, places: int) -> None:
        self.turns = Turns(places)
        self.begun: list[str] = []
        self.tasks: dict[str, asyncio.Task[None]] = {}
        self._ends: dict[str, asyncio.Event] = {}

    async def ask(self, name: str, asker: WhoAsks, is_long: bool = False) -> None:
        self._ends[name] = asyncio.Event()
        self.tasks[name] = asyncio.ensure_future(self._work(name, asker, is_long))
        await asyncio.sleep(0)
        await asyncio.sleep(0)

    async def _work(self, name: str, asker: WhoAsks, is_long: bool) -> None:
        async with self.turns.turn(asker, is_long):
            self.begun.append(name)
            await self._ends[name].wait()

    async def end(self, name: str) -> None:
        self._ends[name].set()
        await self.tasks[name]
        await asyncio.sleep(0)
        await asyncio.sleep(0)


def played(story: Callable[[Told], object], places: int = 2) -> list[str]:
    """The order in which questions were begun."""

    async def whole() -> list[str]:
        told = Told(places)
        await story(told)  # type: ignore[misc]
        for task in told.tasks.values():
            task.cancel()
        await asyncio.gather(*told.tasks.values(), return_exceptions=True)
        return told.begun

    return asyncio.run(whole())


def test_the_laptop_goes_before_the_network():
    async def story(told: Told) -> None:
        await told.ask("here 1", HERE)
        await told.ask("here 2", HERE)
        await told.ask("anna", ANNA)
        await told.ask("here 3", HERE)
        await told.end("here 1")

    assert played(story) == ["here 1", "here 2", "here 3"]


def test_the_network_never_has_every_place():
    async def story(told: Told) -> None:
        await told.ask("anna", ANNA)
        await told.ask("ben", BEN)
        await told.ask("here", HERE)

    assert played(story) == ["anna", "here"]


def test_one_of_them_may_not_keep_the_others_waiting():
    """Forty of Anna's stand there before the first of Ben's: his is the next but one."""

    async def story(told: Told) -> None:
        for number in range(20):
            await told.ask(f"anna {number}", ANNA)
        await told.ask("ben", BEN)
        await told.end("anna 0")

    assert played(story, places=3) == ["anna 0", "anna 1", "ben"]


def test_what_takes_long_never_has_every_place():
    async def story(told: Told) -> None:
        await told.ask("long 1", HERE, is_long=True)
        await told.ask("long 2", HERE, is_long=True)
        await told.ask("short", HERE)

    assert played(story) == ["long 1", "short"]


def test_who_asks_too_much_is_turned_away_and_nobody_else(monkeypatch: pytest.MonkeyPatch):
    monkeypatch.setattr(turning, "MOST_OF_ONE", 3)

    async def story(told: Told) -> None:
        for number in range(4):
            await told.ask(f"anna {number}", ANNA)
        with pytest.raises(BusyError, match="Too much is asked at once"):
            await told.tasks["anna 3"]
        await told.ask("ben", BEN)
        assert not told.tasks["ben"].done()
        for number in range(5):
            await told.ask(f"here {number}", HERE)
        assert not told.tasks["here 4"].done(), "the laptop itself is not counted so"

    assert played(story) == ["anna 0", "here 0"]


def test_who_leaves_while_waiting_leaves_no_gap():
    async def story(told: Told) -> None:
        await told.ask("here 1", HERE)
        await told.ask("here 2", HERE)
        await told.ask("gone", HERE)
        await told.ask("here 3", HERE)
        told.tasks["gone"].cancel()
        await asyncio.sleep(0)
        await told.end("here 1")

    assert played(story) == ["here 1", "here 2", "here 3"]
