"""Long searches in the background: each can be watched and stopped, and gives its best so far."""

import threading
import uuid
from collections import OrderedDict
from collections.abc import Callable
from typing import Annotated, Literal

from fastapi import APIRouter, Path
from pydantic import BaseModel

from isotact.api.errors import MISSING, RESPONSES
from isotact.core.comparing import Day
from isotact.core.model.problems import IsotactError, NotFoundError
from isotact.core.planning import Watch

KEPT = 20
"""So many jobs are remembered; the oldest is forgotten first, and stopped if it still runs."""

router = APIRouter(prefix="/api/jobs", tags=["jobs"], responses={**RESPONSES, **MISSING})
JobId = Annotated[str, Path(pattern=r"^[0-9a-f]{32}$")]


class JobState(BaseModel):
    """A search under way or done. `day` is there when it is done, or was stopped with something found."""

    id: str
    state: Literal["running", "done", "stopped", "failed"]
    stage: str
    done: int
    of: int
    stopped: bool
    says: str = ""
    day: Day | None = None


class Job:
    """One search on a thread of its own."""

    def __init__(self, work: Callable[[Watch], Day]) -> None:
        self.id = uuid.uuid4().hex
        self.watch = Watch()
        self._day: Day | None = None
        self._says = ""
        self._work = work
        self._thread = threading.Thread(target=self._run, daemon=True)
        self._thread.start()

    def _run(self) -> None:
        try:
            self._day = self._work(self.watch)
        except IsotactError as error:
            self._says = str(error)
        except Exception as error:  # a thread's failure must be seen by whoever asks, not vanish
            self._says = f"The search broke off: {error}"

    def state(self) -> JobState:
        """How it stands now."""
        running = self._thread.is_alive()
        state: Literal["running", "done", "stopped", "failed"] = "running" if running else "done"
        if not running and self._day is None:
            state = "failed"
        elif not running and self.watch.stopped:
            state = "stopped"
        return JobState(
            id=self.id,
            state=state,
            stage=self.watch.stage,
            done=self.watch.done,
            of=self.watch.of,
            stopped=self.watch.stopped,
            says=self._says,
            day=self._day,
        )


_jobs: OrderedDict[str, Job] = OrderedDict()
_lock = threading.Lock()


def start(work: Callable[[Watch], Day]) -> JobState:
    """Start a search and remember it."""
    job = Job(work)
    with _lock:
        _jobs[job.id] = job
        while len(_jobs) > KEPT:
            _, oldest = _jobs.popitem(last=False)
            oldest.watch.stop()
    return job.state()


def _job(key: str) -> Job:
    with _lock:
        if key not in _jobs:
            raise NotFoundError("search", key)
        return _jobs[key]


@router.get("/{job_id}")
def look(job_id: JobId) -> JobState:
    """How a search stands."""
    return _job(job_id).state()


@router.post("/{job_id}/stop")
def stop(job_id: JobId) -> JobState:
    """Stop a search; what it has found so far is kept."""
    job = _job(job_id)
    job.watch.stop()
    return job.state()
