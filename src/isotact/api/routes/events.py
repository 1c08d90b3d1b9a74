"""What becomes of documents, as it happens: server-sent events from a sequence number on."""

import asyncio
from collections.abc import AsyncIterable
from typing import Annotated

from fastapi import APIRouter, Header, Query, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.sse import EventSourceResponse, ServerSentEvent
from pydantic import BaseModel

from isotact.api.dependencies import TheStore
from isotact.api.errors import RESPONSES
from isotact.api.security.doorman import TheWho, Who
from isotact.store import Event, Unreadable

router = APIRouter(prefix="/api", tags=["events"], responses=RESPONSES)
LOOK_EVERY_S = 0.25
"""The database is asked, not only our own writes: another program may restore a backup into it."""


class State(BaseModel):
    """How the data stands: the last event, what had to be done to open it, and what of it cannot be read."""

    sequence: int
    notices: list[str]
    unreadable: list[Unreadable]


@router.get("/state")
def state(store: TheStore) -> State:
    """How the data stands."""
    return State(sequence=store.sequence(), notices=store.notices, unreadable=store.unreadable())


@router.get("/events", response_class=EventSourceResponse)
async def events(
    request: Request,
    store: TheStore,
    who: TheWho,
    after: Annotated[int, Query(ge=0, le=2**53)] = 0,
    last_event_id: Annotated[str, Header(max_length=20)] = "",
) -> AsyncIterable[ServerSentEvent]:
    """Every event after a number, and then each as it happens. A browser that was cut off goes on where it was."""
    seen = int(last_event_id) if last_event_id.isascii() and last_event_id.isdigit() else after
    yield ServerSentEvent(comment="here")
    while not request.app.state.is_stopping.is_set() and await run_in_threadpool(_may_stay, who, store):
        found: list[Event] = await run_in_threadpool(store.events, seen)
        for event in found:
            seen = event.sequence
            yield ServerSentEvent(data=event, event="change", id=str(event.sequence))
        if not found:
            await asyncio.sleep(LOOK_EVERY_S)


def _may_stay(who: Who, store: TheStore) -> bool:
    """Whether whoever listens is still joined: a sign-in that is ended hears nothing more."""
    return who.is_here or (who.sign_in is not None and store.sign_ins.holds(who.sign_in))


ROUTERS = (router,)
