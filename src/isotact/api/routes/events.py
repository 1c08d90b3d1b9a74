"""What becomes of documents, as it happens: server-sent events from a sequence number on."""

from collections.abc import AsyncIterable
from typing import Annotated

from fastapi import APIRouter, Depends, Header, Query, Request
from fastapi.sse import EventSourceResponse, ServerSentEvent
from pydantic import BaseModel

from isotact.api.dependencies import TheStore
from isotact.api.errors import RESPONSES
from isotact.api.listening import Listening
from isotact.api.security.doorman import TheWho
from isotact.store import Unreadable

router = APIRouter(prefix="/api", tags=["events"], responses=RESPONSES)


class State(BaseModel):
    """How the data stands: the last event, what had to be done to open it, and what of it cannot be read."""

    sequence: int
    notices: list[str]
    unreadable: list[Unreadable]


@router.get("/state")
def state(store: TheStore) -> State:
    """How the data stands."""
    return State(sequence=store.sequence(), notices=store.notices, unreadable=store.unreadable())


async def _listening(request: Request, who: TheWho) -> Listening:
    """Before the answer begins: a stream that has begun can say nothing any more but events."""
    listening: Listening = request.app.state.listening
    listening.must_have_room(who)
    return listening


@router.get("/events", response_class=EventSourceResponse)
async def events(
    listening: Annotated[Listening, Depends(_listening)],
    who: TheWho,
    after: Annotated[int, Query(ge=0, le=2**53)] = 0,
    last_event_id: Annotated[str, Header(max_length=20)] = "",
) -> AsyncIterable[ServerSentEvent]:
    """Every event after a number, and then each as it happens. A browser that was cut off goes on where it was."""
    said = int(last_event_id) if last_event_id.isascii() and last_event_id.isdigit() else after
    yield ServerSentEvent(comment="here")
    # No event has a larger number, and no database takes one.
    async for event in listening.since(min(said, 2**53), who):
        yield ServerSentEvent(data=event, event="change", id=str(event.sequence))


ROUTERS = (router,)
