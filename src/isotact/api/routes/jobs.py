"""Jobs: what the crew is out for, when, where and who is on it; and what happened on a day of one."""

from fastapi import APIRouter
from pydantic import StrictBool

from isotact.api.dependencies import TheStore
from isotact.api.errors import MISSING, RESPONSES
from isotact.api.routes.documents import Body, DocumentId, Rules, add_routes
from isotact.api.security.doorman import MAY_TICK
from isotact.core.model.job import Happened, Job
from isotact.core.model.words import Day
from isotact.store import JOB, Saved

router = APIRouter(prefix="/api/jobs", tags=["jobs"], responses=RESPONSES)
add_routes(router, JOB, Rules[Job](named=True))


class SaidOfDay(Body):
    """What happened on a day of a job; `took_back`: it did not after all."""

    date: Day
    what: Happened
    took_back: StrictBool = False


@router.post("/{key}/happened", responses=MISSING, response_model=Saved[Job], openapi_extra=MAY_TICK)
def happened(key: DocumentId, said: SaidOfDay, store: TheStore) -> Saved[Job]:
    """Say what happened, whatever else became of the job meanwhile; what was said already counts once."""
    with store.writing():
        now = store[JOB].one(key)
        return store[JOB].save(key, now.document.with_said(said.date, said.what, said.took_back), now.revision)


ROUTERS = (router,)
