"""Searches under way: how each stands, and to stop it, by whoever asks."""

import time
from typing import Annotated

from fastapi import APIRouter, Path, Request
from pydantic import BaseModel

from isotact.api.compute.work import SEARCH, Search, Work
from isotact.api.errors import RESPONSES
from isotact.api.security.doorman import MAY_LOOK

router = APIRouter(prefix="/api/searches", tags=["searches"], responses=RESPONSES)
SearchId = Annotated[str, Path(pattern=SEARCH, max_length=64)]


class SearchState(BaseModel):
    """How a search stands; `found` is false where none of that name is under way, since it is done or never was."""

    found: bool
    stage: str = ""
    done: int = 0
    of: int = 0
    seconds: float = 0
    is_waiting: bool = False
    is_stopped: bool = False


def _state(search: Search | None) -> SearchState:
    if search is None:
        return SearchState(found=False)
    progress = search.progress
    return SearchState(
        found=True,
        stage=progress.stage,
        done=progress.done,
        of=progress.of,
        seconds=round(time.monotonic() - search.started, 1),
        is_waiting=search.job is None,
        is_stopped=search.is_stopped,
    )


@router.get("/{search}")
async def check(search: SearchId, request: Request) -> SearchState:
    """How a search stands."""
    work: Work = request.app.state.work
    return _state(work.searches.get(search))


@router.post("/{search}/stop", openapi_extra=MAY_LOOK)
async def stop(search: SearchId, request: Request) -> SearchState:
    """Stop a search. Its asker gets the best so far where there can be one, and is told that it is no more."""
    work: Work = request.app.state.work
    under_way = work.searches.get(search)
    if under_way is not None:
        under_way.stop()
    return _state(under_way)


ROUTERS = (router,)
