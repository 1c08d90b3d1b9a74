"""Long work: who asks for it waits without holding anybody up, can look how it stands, and can stop it by a name.

A few processes do it. Plans go before everything that takes longer, which never has all of them; what the laptop itself
asks goes before what comes from the network, and what somebody ticked before all of it. Work for somebody who has left,
and work that is stopped, ends within a second.
"""

import asyncio
import time
from collections import OrderedDict
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import Annotated

from fastapi import Depends, Query
from fastapi.requests import HTTPConnection
from fastapi.responses import Response
from pydantic import BaseModel

from isotact.api.compute.answers import AnswerCache, AnswerContext
from isotact.api.compute.calls import Call, Done, Question, perform
from isotact.api.compute.processes import Processes, Progress, RunningCall
from isotact.api.compute.turns import HERE, Turns, WhoAsks
from isotact.api.security.doorman import Who
from isotact.core.model.problems import StoppedError
from isotact.core.planning import Watch
from isotact.store import OwnCatalogue

SEARCH = r"^[a-z0-9-]+$"
KEPT_PLANS = 48
"""So many plans are kept for the questions that follow, whichever process they come to."""
# Whoever has left is noticed within this.
LOOK_EVERY_S = 0.1
GRACE_S = 0.6
"""So long a search that was stopped may take to hand over the best that it has."""
# Where there are no processes: enough that one long question never keeps a plan waiting.
THREADS = 4


def gives_best(function: Question) -> bool:
    """Whether a search that is stopped hands over the best so far; any other shows nothing rather than half."""
    return getattr(function, "gives_best", False)


def is_long(function: Question) -> bool:
    """Whether it must not have every process."""
    return getattr(function, "is_long", False)


def is_quick(function: Question) -> bool:
    """Whether it must not stand behind plans."""
    return getattr(function, "is_quick", False)


def question(*, long: bool = False, best: bool = False, quick: bool = False) -> Callable[[Question], Question]:
    """Mark a function as a question that is answered where long work is done."""

    def marked(function: Question) -> Question:
        function.is_long, function.gives_best, function.is_quick = long, best, quick  # type: ignore[attr-defined]
        return function

    return marked


class Search:
    """One question under way, waiting for its turn or worked at."""

    def __init__(self, function: Question) -> None:
        self.function = function
        self.started = time.monotonic()
        self.is_stopped = False
        self.job: RunningCall | None = None
        self._watch: Watch | None = None
        self._offered: Done | None = None

    @property
    def offered(self) -> Done | None:
        """What will do now that it is ended, if anything was found by then."""
        is_ended = self.job is not None and self.job.is_ended
        return (self._offered or (self.job and self.job.offered) or None) if is_ended and self.is_stopped else None

    def offer(self, done: Done) -> None:
        """Keep what will do; from the thread that works at it."""
        self._offered = done

    @property
    def progress(self) -> Progress:
        if self._watch is not None:
            return Progress(self._watch.stage, self._watch.done, self._watch.of)
        return self.job.progress if self.job else Progress()

    def begun(self, job: RunningCall, watch: Watch | None = None) -> None:
        """It is worked at from now on; `watch`: in a thread of this process."""
        self.job, self._watch = job, watch

    def stop(self) -> None:
        """Ask for the best so far, soon. A process that is at it may come to its end by itself: another costs more."""
        self.is_stopped = True
        if self.job is None:
            return
        self.job.is_stopped = True
        if self._watch is not None:
            self._watch.stop()
        asyncio.get_running_loop().call_later(GRACE_S, self.end)

    def end(self) -> None:
        """End it, whatever it has."""
        if self.job is not None:
            self.job.is_ended = True

    def abandon(self) -> None:
        """End it for good, from any thread: nobody is to be answered any more."""
        self.is_stopped = True
        if self._watch is not None:
            self._watch.stop()
        self.end()

    @property
    def has_nothing_to_show(self) -> bool:
        """Whether whoever asked need not wait any longer: stopped, and no best so far will come of it."""
        return self.is_stopped and not gives_best(self.function)


class Work:
    """Answers questions, in processes where there are any, else in threads of this one."""

    def __init__(self, own: OwnCatalogue) -> None:
        self._own, self._answers = own, AnswerCache()
        self._processes: Processes | None = None
        self._threads = ThreadPoolExecutor(THREADS + 1, thread_name_prefix="isotact-work")
        self._turns, self._quick = Turns(THREADS), Turns(1)
        self._plans: OrderedDict[str, bytes] = OrderedDict()
        self._sequence = -1
        self.searches: dict[str, Search] = {}
        self._under_way: dict[asyncio.Task[Done], Search] = {}
        self._is_closed = False

    def use(self, processes: Processes, count: int) -> None:
        """Do it in processes from now on."""
        self._processes = processes
        self._turns = Turns(count)

    def close(self) -> None:
        """End whatever is under way; whoever asked, or asks from now on, is told so. From any thread."""
        self._is_closed = True
        for search in list(self._under_way.values()):
            search.abandon()
        self._threads.shutdown(wait=False, cancel_futures=True)
        if self._processes is not None:
            self._processes.close()

    async def answer(
        self, request: HTTPConnection, function: Question, body: BaseModel, name: str | None, is_kept: bool = False
    ) -> Response:
        """The answer to a question, as JSON. Raises what it raises, StoppedError, BusyError.

        `is_kept`: something is written by it, so that it is worked at though whoever asked has gone meanwhile.
        """
        text = body.model_dump_json()
        sequence = await self._at_sequence()
        search = Search(function)
        if name is not None:
            self.searches[name] = search
        try:
            done = await self._unless_gone(request, search, text, sequence, is_kept)
        finally:
            if name is not None and self.searches.get(name) is search:
                del self.searches[name]
        if sequence == self._sequence:
            self._plans.update(done.planned)
        while len(self._plans) > KEPT_PLANS:
            self._plans.popitem(last=False)
        return Response(done.answer, media_type="application/json")

    async def _at_sequence(self) -> int:
        """The number of what is one's own; what was known of another is forgotten."""
        sequence = await asyncio.to_thread(self._own.store.own_sequence)
        if sequence != self._sequence:
            self._sequence = sequence
            self._plans.clear()
        return sequence

    async def _unless_gone(
        self, request: HTTPConnection, search: Search, text: str, sequence: int, is_kept: bool
    ) -> Done:
        task = asyncio.ensure_future(self._run(search, text, sequence, who_asks(request)))
        self._under_way[task] = search
        task.add_done_callback(self._ended)
        while True:
            done, _ = await asyncio.wait({task}, timeout=LOOK_EVERY_S)
            if search.offered is not None and (not done or task.exception() is not None):
                return search.offered
            if done and not task.cancelled():
                return task.result()
            if self._is_closed:
                raise _closed()
            if search.has_nothing_to_show:
                raise _stopped()
            # Who keeps a line open is not asked: it is noticed there.
            is_gone = None if is_kept else getattr(request, "is_disconnected", None)
            if is_gone is not None and await is_gone():
                search.stop()
                raise StoppedError("Whoever asked has gone.")

    def _ended(self, task: "asyncio.Task[Done]") -> None:
        del self._under_way[task]
        if not task.cancelled():
            task.exception()  # nobody may be left to hear of it

    async def _run(self, search: Search, text: str, sequence: int, asker: WhoAsks) -> Done:
        turns = self._quick if is_quick(search.function) else self._turns
        async with turns.turn(asker, is_long(search.function)):
            if self._is_closed:
                raise _closed()
            if search.is_stopped:
                raise _stopped()
            job = self._begin(search, text, sequence)
            if self._is_closed:  # from another thread, between the look above and here
                search.abandon()
            try:
                return await asyncio.wrap_future(job.future)
            except StoppedError:
                raise _stopped() from None
            finally:
                search.end()

    def _begin(self, search: Search, text: str, sequence: int) -> RunningCall:
        if self._processes is not None:
            call = Call(search.function, text, self._known(text))
            job = self._processes.start(call, sequence, is_quick(search.function))
            search.begun(job)
            return job
        call, watch = Call(search.function, text), Watch()
        desk = AnswerContext(self._answers, self._own.catalogue, watch)
        try:
            job = RunningCall(call, sequence, self._threads.submit(perform, call, desk, watch, search.offer))
        except RuntimeError:  # closed since it was asked
            raise _closed() from None
        search.begun(job, watch)
        return job

    def _known(self, text: str) -> dict[str, bytes]:
        """Of the plans that were made lately, those that this question is about."""
        return {document: made for document, made in self._plans.items() if document in text}


def who_asks(request: HTTPConnection) -> WhoAsks:
    """Who asks, as far as turns go: the doorman has looked by now."""
    who: Who | None = getattr(getattr(request, "state", None), "who", None)
    return HERE if who is None or who.is_here else WhoAsks(False, who.sign_in)


def _stopped() -> StoppedError:
    return StoppedError("The search was stopped before it had anything to show. Ask again to have it looked for.")


def _closed() -> StoppedError:
    return StoppedError("Isotact is being stopped on the laptop. Start it there, then ask again.")


SearchName = Annotated[
    str | None, Query(pattern=SEARCH, max_length=64, description="a name of the asker's own, to follow and stop it by")
]


class Asking:
    """What a router asks by."""

    def __init__(self, request: HTTPConnection, search: SearchName = None) -> None:
        self._request, self._name = request, search

    async def __call__(self, function: Question, body: BaseModel, is_kept: bool = False) -> Response:
        """The answer to `body` by `function`; a response, so that what a process wrote is sent as it is."""
        work: Work = self._request.app.state.work
        return await work.answer(self._request, function, body, self._name, is_kept)


Asks = Annotated[Asking, Depends(Asking)]
