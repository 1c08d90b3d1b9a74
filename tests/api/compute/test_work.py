"""Long work in processes: answered alike, followed, stopped, ended for whoever has gone, and never in the way."""

import asyncio
import json
import os
import threading
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from isotact.api.compute import turns as turning
from isotact.api.compute import work as working
from isotact.api.compute.answers import AnswerContext
from isotact.api.compute.processes import Processes
from isotact.api.compute.work import THREADS, Work, question
from isotact.api.routes.documents import Body
from isotact.api.routes.plans import RigAnswer, RigToAnswer, rig_answer
from isotact.catalogue import shipped
from isotact.core.model.problems import BrokenError, BusyError, NotFoundError, StoppedError
from isotact.core.planning import at
from isotact.store import OwnCatalogue, Store
from isotact.store.own_catalogue import keep_one
from tests.rigs import demo_rig

PLENTY_S = 30.0
"""Long after everything here is over; a test that waits so long has failed."""


IS_OVER = threading.Event()
"""Lets go of what was left behind in a thread of the tests."""


class Note(Body):
    """What the questions below are asked with."""

    file: str = ""


def _sleep_on(note: Note) -> None:
    Path(note.file).write_text(str(os.getpid()), encoding="utf-8")
    time.sleep(PLENTY_S)


@question()
def never_ends(desk: AnswerContext, body: Note) -> str:
    """Works on whatever is said to it."""
    at("Looking under every stone", 3, 7)
    _sleep_on(body)
    return "never"


@question(long=True)
def never_ends_either(desk: AnswerContext, body: Note) -> str:
    _sleep_on(body)
    return "never"


@question(best=True)
def is_deaf(desk: AnswerContext, body: Note) -> str:
    """Could give its best, but does not listen."""
    _sleep_on(body)
    return "never"


@question(best=True)
def listens(desk: AnswerContext, body: Note) -> str:
    """Gives its best as soon as it is stopped."""
    Path(body.file).write_text("here", encoding="utf-8")
    for _ in range(int(PLENTY_S / 0.02)):
        if desk.watch is not None and desk.watch.stopped:
            return "the best so far"
        time.sleep(0.02)
    return "all of it"


@question(best=True)
def has_some(desk: AnswerContext, body: Note) -> str:
    """Has something to show, and does not listen while it looks for the rest."""
    desk.offer("what was there")
    Path(body.file).write_text("here", encoding="utf-8")
    IS_OVER.wait(PLENTY_S)
    return "all of it"


@question()
def takes_a_moment(desk: AnswerContext, body: Note) -> str:
    """Longer than it takes to notice that somebody has gone."""
    time.sleep(5 * working.LOOK_EVERY_S)
    return "written"


@question(quick=True)
def tick(desk: AnswerContext, body: Note) -> str:
    return "ticked"


@question()
def falls_over(desk: AnswerContext, body: Note) -> str:
    os._exit(3)


@question()
def quick(desk: AnswerContext, body: Note) -> str:
    return "quick"


@question()
def knows(desk: AnswerContext, body: Note) -> list[str]:
    """The profiles of one's own."""
    return sorted(desk.catalogue.profiles.keys() - shipped().profiles.keys())


@question()
def refuses(desk: AnswerContext, body: Note) -> str:
    raise NotFoundError("promise", "iriss", ["iris"])


class Asker:
    """Somebody who asks, and may leave."""

    def __init__(self) -> None:
        self.has_gone = False

    async def is_disconnected(self) -> bool:
        return self.has_gone


@pytest.fixture(scope="module")
def pool(tmp_path_factory: pytest.TempPathFactory) -> Iterator[tuple[Store, Processes]]:
    store = Store(tmp_path_factory.mktemp("data") / "isotact.sqlite")
    processes = Processes(store.file, 2)
    yield store, processes
    processes.close()


@pytest.fixture
def work(pool: tuple[Store, Processes]) -> Work:
    store, processes = pool
    work = Work(OwnCatalogue(store))
    work.use(processes, 2)
    return work


async def ask(work: Work, function: Any, body: Body | None = None, asker: Asker | None = None, name: str = "") -> Any:
    answer = await work.answer(asker or Asker(), function, body or Note(), name or None)  # type: ignore[arg-type]
    return json.loads(bytes(answer.body))


async def written(file: Path) -> str:
    for _ in range(int(PLENTY_S / 0.02)):
        if file.exists() and file.read_text(encoding="utf-8"):
            return file.read_text(encoding="utf-8")
        await asyncio.sleep(0.02)
    raise AssertionError("the question was never begun")


async def begun(files: list[Path], count: int) -> None:
    """Until so many of those are worked at: which come first hangs on who was quicker."""
    for _ in range(int(PLENTY_S / 0.02)):
        if sum(file.exists() for file in files) >= count:
            return
        await asyncio.sleep(0.02)
    raise AssertionError("too few were begun")


async def ended(pid: int) -> None:
    for _ in range(int(PLENTY_S / 0.05)):
        try:
            os.kill(pid, 0)
        except ProcessLookupError:
            return
        await asyncio.sleep(0.05)
    raise AssertionError("its process works on")


def test_whoever_asks_while_it_is_closed_is_told_so_and_what_was_under_way_ends(
    pool: tuple[Store, Processes], tmp_path: Path
):
    work = Work(OwnCatalogue(pool[0]))
    notes = [Note(file=str(tmp_path / f"{one}")) for one in range(6)]

    async def closed_on() -> list[Any]:
        asked = [asyncio.ensure_future(ask(work, listens, note)) for note in notes]
        await begun([Path(note.file) for note in notes], 1)
        await asyncio.to_thread(work.close)
        return await asyncio.gather(*asked, ask(work, quick), return_exceptions=True)

    told = [one if isinstance(one, str) else f"{type(one).__name__}: {one}" for one in asyncio.run(closed_on())]
    refused = "StoppedError: Isotact is being stopped on the laptop. Start it there, then ask again."
    assert set(told) <= {"the best so far", refused}
    assert told.count(refused) >= len(told) - THREADS, "what had not been begun"


def test_an_answer_of_a_process_is_that_of_a_thread(work: Work):
    body = RigToAnswer(document=demo_rig())
    theirs = asyncio.run(ask(work, rig_answer, body))
    ours = asyncio.run(ask(Work(OwnCatalogue(work._own.store)), rig_answer, body))
    assert theirs == ours
    assert RigAnswer.model_validate(theirs).plan.status == "proven-optimal"


def test_a_refusal_comes_through_as_it_was_made(work: Work):
    with pytest.raises(NotFoundError, match="There is no promise 'iriss'.. Did you mean 'iris'"):
        asyncio.run(ask(work, refuses))


def test_a_search_tells_what_it_is_at_and_is_ended_when_it_is_stopped(work: Work, tmp_path: Path):
    async def story() -> int:
        asked = asyncio.ensure_future(ask(work, never_ends, Note(file=str(tmp_path / "pid")), name="mine"))
        pid = int(await written(tmp_path / "pid"))
        async with asyncio.timeout(PLENTY_S / 2):
            while not work.searches["mine"].progress.stage:  # word of it comes over a line of its own
                await asyncio.sleep(0.01)
        assert work.searches["mine"].progress == ("Looking under every stone", 3, 7)
        work.searches["mine"].stop()
        with pytest.raises(StoppedError, match="stopped before it had anything to show"):
            await asked
        assert work.searches == {}
        await ended(pid)
        assert await ask(work, quick) == "quick"
        return pid

    assert asyncio.run(story())


def test_one_that_can_give_its_best_gives_it_when_it_is_stopped(work: Work, tmp_path: Path):
    async def story() -> str:
        asked = asyncio.ensure_future(ask(work, listens, Note(file=str(tmp_path / "here")), name="mine"))
        await written(tmp_path / "here")
        work.searches["mine"].stop()
        answer: str = await asked
        return answer

    assert asyncio.run(story()) == "the best so far"


@pytest.mark.parametrize("in_processes", [True, False])
def test_one_that_has_something_to_show_shows_it_when_it_is_stopped(work: Work, tmp_path: Path, in_processes: bool):
    async def story() -> str:
        used = work if in_processes else Work(OwnCatalogue(work._own.store))
        asked = asyncio.ensure_future(ask(used, has_some, Note(file=str(tmp_path / "here")), name="mine"))
        await written(tmp_path / "here")
        used.searches["mine"].stop()
        answer: str = await asyncio.wait_for(asked, PLENTY_S / 2)
        return answer

    IS_OVER.clear()
    try:
        assert asyncio.run(story()) == "what was there"
    finally:
        IS_OVER.set()


def test_what_is_ticked_never_stands_behind_plans(work: Work, tmp_path: Path):
    async def story() -> str:
        askers, files = [Asker() for _ in range(5)], [tmp_path / str(number) for number in range(5)]
        asked = [
            asyncio.ensure_future(ask(work, never_ends, Note(file=str(file)), asker))
            for file, asker in zip(files, askers, strict=True)
        ]
        await begun(files, 2)
        answer: str = await ask(work, tick)
        assert not any(one.done() for one in asked), "the plans are under way all the while"
        for asker in askers:
            asker.has_gone = True
        await asyncio.gather(*asked, return_exceptions=True)
        return answer

    assert asyncio.run(story()) == "ticked"


def test_one_that_could_and_does_not_is_ended(work: Work, tmp_path: Path):
    async def story() -> None:
        asked = asyncio.ensure_future(ask(work, is_deaf, Note(file=str(tmp_path / "pid")), name="mine"))
        pid = int(await written(tmp_path / "pid"))
        work.searches["mine"].stop()
        with pytest.raises(StoppedError):
            await asked
        await ended(pid)

    asyncio.run(story())


def test_work_for_somebody_who_has_left_is_ended(work: Work, tmp_path: Path):
    async def story() -> None:
        asker = Asker()
        asked = asyncio.ensure_future(ask(work, never_ends, Note(file=str(tmp_path / "pid")), asker))
        pid = int(await written(tmp_path / "pid"))
        asker.has_gone = True
        with pytest.raises(StoppedError, match="has gone"):
            await asked
        await ended(pid)

    asyncio.run(story())


def test_what_is_to_be_written_is_worked_at_though_whoever_asked_has_gone(work: Work):
    async def story() -> str:
        asker = Asker()
        asker.has_gone = True
        with pytest.raises(StoppedError, match="has gone"):
            await ask(work, takes_a_moment, asker=asker)
        answer = await work.answer(asker, takes_a_moment, Note(), None, is_kept=True)  # type: ignore[arg-type]
        said: str = json.loads(bytes(answer.body))
        return said

    assert asyncio.run(story()) == "written"


def test_long_work_never_has_every_process(work: Work, tmp_path: Path):
    async def story() -> str:
        askers = [Asker(), Asker(), Asker()]
        files = [tmp_path / str(number) for number in range(3)]
        asked = [
            asyncio.ensure_future(ask(work, never_ends_either, Note(file=str(file)), asker))
            for asker, file in zip(askers, files, strict=True)
        ]
        while not any(file.exists() for file in files):
            await asyncio.sleep(0.02)
        answer: str = await ask(work, quick)
        assert sum(file.exists() for file in files) == 1
        for asker in askers:
            asker.has_gone = True
        await asyncio.gather(*asked, return_exceptions=True)
        return answer

    assert asyncio.run(story()) == "quick"


def test_a_process_that_falls_over_is_told_and_replaced(work: Work):
    with pytest.raises(BrokenError, match="came to an end before it was done"):
        asyncio.run(ask(work, falls_over))
    assert asyncio.run(ask(work, quick)) == "quick"


def test_more_than_can_be_answered_is_turned_away(work: Work, tmp_path: Path, monkeypatch: pytest.MonkeyPatch):
    """Both processes are at work, and one more may wait."""
    monkeypatch.setattr(turning, "MOST_WAITING", 3)

    async def story() -> list[Any]:
        askers, files = [Asker(), Asker()], [tmp_path / "0", tmp_path / "1"]
        busy = [
            asyncio.ensure_future(ask(work, never_ends, Note(file=str(file)), asker))
            for file, asker in zip(files, askers, strict=True)
        ]
        await begun(files, 2)
        asked = [asyncio.ensure_future(ask(work, quick)) for _ in range(8)]
        while sum(one.done() for one in asked) < 7:
            await asyncio.sleep(0.01)
        for asker in askers:
            asker.has_gone = True
        answers = await asyncio.gather(*asked, return_exceptions=True)
        await asyncio.gather(*busy, return_exceptions=True)
        return answers

    answers = asyncio.run(story())
    assert answers.count("quick") == 1
    assert sum(isinstance(answer, BusyError) for answer in answers) == 7


def test_what_is_ones_own_is_known_to_the_processes_at_once(work: Work):
    store = work._own.store
    grip = shipped().profiles["phone"].model_copy(update={"id": "our-phone"})
    assert asyncio.run(ask(work, knows)) == []
    with store.writing():
        keep_one(store, grip, None)
    assert asyncio.run(ask(work, knows)) == ["our-phone"]
