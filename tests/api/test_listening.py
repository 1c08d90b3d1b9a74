"""Who listens hears everything once, in its order, and costs next to nothing while nothing happens."""

import asyncio
from collections.abc import Awaitable, Callable
from pathlib import Path

import pytest

from isotact.api import listening as hearing
from isotact.api.listening import Listening
from isotact.api.security.doorman import Who
from isotact.core.model.problems import BusyError
from isotact.store import RIG, Store
from tests.rigs import demo_rig

HERE = Who("", "edit", is_here=True)
PLENTY_S = 60.0


@pytest.fixture
def store(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Store:
    monkeypatch.setattr(hearing, "LOOK_EVERY_S", 0.01)
    return Store(tmp_path / "x.sqlite")


def made(store: Store, name: str) -> None:
    store[RIG].create(demo_rig().model_copy(update={"id": name}))


class Told:
    """Somebody who listens, and what he has heard."""

    def __init__(self, listening: Listening, seen: int = 0, who: Who = HERE) -> None:
        self.heard: list[int] = []
        self.task = asyncio.ensure_future(self._listen(listening, seen, who))

    async def _listen(self, listening: Listening, seen: int, who: Who) -> None:
        async for event in listening.since(seen, who):
            self.heard.append(event.sequence)

    async def until(self, count: int) -> list[int]:
        async with asyncio.timeout(PLENTY_S):
            while len(self.heard) < count and not self.task.done():
                await asyncio.sleep(0.005)
        return self.heard


def played(store: Store, story: Callable[[Listening], Awaitable[None]]) -> None:
    stops = False

    async def whole() -> None:
        nonlocal stops
        await story(Listening(store, lambda: stops))
        stops = True
        rest = asyncio.all_tasks() - {asyncio.current_task()}
        async with asyncio.timeout(PLENTY_S):
            await asyncio.gather(*rest, return_exceptions=True)

    asyncio.run(whole())


def test_everything_is_heard_once_and_in_order_from_wherever_one_was(store: Store):
    for number in range(4):
        made(store, f"before-{number}")

    async def story(listening: Listening) -> None:
        new, late = Told(listening), Told(listening, seen=3)
        assert await new.until(4) == [1, 2, 3, 4]
        await asyncio.to_thread(made, store, "after")
        assert await new.until(5) == [1, 2, 3, 4, 5]
        assert await late.until(2) == [4, 5]

    played(store, story)


def test_who_is_further_behind_than_is_remembered_hears_it_all_the_same(store: Store, monkeypatch: pytest.MonkeyPatch):
    monkeypatch.setattr(hearing, "MOST_REMEMBERED", 3)
    made(store, "first")

    async def story(listening: Listening) -> None:
        keeps_up = Told(listening)
        for number in range(8):
            await asyncio.to_thread(made, store, f"more-{number}")
            await keeps_up.until(number + 2)
        assert await Told(listening).until(9) == list(range(1, 10))

    played(store, story)


def test_a_hundred_who_listen_ask_the_database_no_oftener_than_one(store: Store, monkeypatch: pytest.MonkeyPatch):
    made(store, "first")
    looks = {"sequence": 0, "events": 0}
    for name in looks:
        real = getattr(store, name)

        def counted(*args: int, name: str = name, real: Callable[..., object] = real) -> object:
            looks[name] += 1
            return real(*args)

        monkeypatch.setattr(store, name, counted)

    async def story(listening: Listening) -> None:
        everybody = [Told(listening, seen=1) for _ in range(100)]
        while len(listening._listeners) < 100 or looks["sequence"] < 5:
            await asyncio.sleep(0.005)
        looks.update(sequence=0, events=0)
        await asyncio.to_thread(made, store, "second")
        for one in everybody:
            assert await one.until(1) == [2]
        assert looks["events"] == 1
        until = looks["sequence"] + 5
        while looks["sequence"] < until:
            await asyncio.sleep(0.005)
        assert looks["events"] == 1

    played(store, story)


def test_who_is_sent_away_hears_no_more(store: Store):
    _, anna = store.sign_ins.begin("Anna", "look")
    _, ben = store.sign_ins.begin("Ben", "look")
    made(store, "first")

    async def story(listening: Listening) -> None:
        told = {one.person: Told(listening, who=Who(one.person, "look", False, one.key)) for one in (anna, ben)}
        assert await told["Anna"].until(1) == [1]
        await asyncio.to_thread(store.sign_ins.end, anna.key)
        await asyncio.wait_for(told["Anna"].task, PLENTY_S)
        await asyncio.to_thread(made, store, "second")
        assert await told["Ben"].until(2) == [1, 2]
        assert told["Anna"].heard == [1]
        again = Told(listening, who=Who("Anna", "look", False, anna.key))
        await asyncio.wait_for(again.task, PLENTY_S)
        assert again.heard == []

    played(store, story)


def test_one_sign_in_has_so_many_windows_and_the_laptop_as_many_as_it_likes(
    store: Store, monkeypatch: pytest.MonkeyPatch
):
    monkeypatch.setattr(hearing, "MOST_OF_ONE", 2)
    _, anna = store.sign_ins.begin("Anna", "look")
    made(store, "first")

    async def story(listening: Listening) -> None:
        who = Who("Anna", "look", False, anna.key)
        windows = [Told(listening, who=who) for _ in range(2)]
        assert [await one.until(1) for one in windows] == [[1], [1]]
        with pytest.raises(BusyError, match="Too many windows"):
            listening.must_have_room(who)
        listening.must_have_room(HERE)
        listening.must_have_room(Who("Ben", "look", False, anna.key + 1))
        assert [await Told(listening).until(1) for _ in range(4)] == [[1]] * 4

    played(store, story)
