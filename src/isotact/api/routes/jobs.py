"""Jobs: what the crew is out for, when, where and who is on it."""

from fastapi import APIRouter

from isotact.api.errors import RESPONSES
from isotact.api.routes.documents import Rules, add_routes
from isotact.core.model.job import Job
from isotact.store import JOB

router = APIRouter(prefix="/api/jobs", tags=["jobs"], responses=RESPONSES)
add_routes(router, JOB, Rules[Job](named=True))

ROUTERS = (router,)
