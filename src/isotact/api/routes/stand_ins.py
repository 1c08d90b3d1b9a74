"""Programs outside that take the place of a device at a bench, and screens that follow one: over WebSocket.

The protocol is in `docs/stand-ins.md`. State goes out, acts come in; each message is one JSON object.
"""

import asyncio
import json
from collections.abc import Awaitable, Callable
from contextlib import suppress
from typing import Any, Literal

from fastapi import APIRouter, WebSocket, WebSocketDisconnect
from fastapi.concurrency import run_in_threadpool
from pydantic import TypeAdapter, ValidationError

from isotact.api.compute.work import Asking
from isotact.api.refusal import ErrorAnswer
from isotact.api.routes.benches import BenchId, moved, told
from isotact.api.security.doorman import for_role
from isotact.core.bench import AtBench, Move
from isotact.core.model.problems import IsotactError, NotFoundError
from isotact.core.model.words import Id
from isotact.store import Store

router = APIRouter(prefix="/api/benches")
MOST_OF_A_MESSAGE = 20_000
"""Characters: an act is a few hundred."""
LOOK_EVERY_S = 2.0
"""So often it is looked whether who keeps a line open is still joined, though nothing is done at the bench."""
_MOVE: TypeAdapter[Move] = TypeAdapter(Move)
_BENCH: TypeAdapter[AtBench] = TypeAdapter(AtBench)
# RFC 6455, 7.4.1 and the registry behind it: what was sent is not for here; try again later.
REFUSED, BUSY = 1008, 1013


@router.websocket("/{bench}/follow")
@for_role("look")
async def follow_bench(line: WebSocket, bench: BenchId) -> None:
    """Say each time how many moves count now; who follows then asks for what it wants to see."""

    async def count() -> dict[str, Any]:
        history = await run_in_threadpool(_store(line).benches.history, bench)
        return {"kind": "moved", "moves": history.line.moves, "could_redo": history.line.could_redo}

    await _serve(line, bench, count, None)


@router.websocket("/{bench}/devices/{device}")
@for_role("edit")
async def stand_in(line: WebSocket, bench: BenchId, device: Id) -> None:
    """Stand in for a device: told how it is whenever anything changes, and asked for nothing; acts at it are done."""

    async def state() -> dict[str, Any]:
        answer = await told(_store(line), bench, _asking(line), device)
        there = _BENCH.validate_json(bytes(answer.body))
        seen = next((one for one in there.devices if one.device == device), None)
        if seen is None:
            raise NotFoundError("device", device, [one.device for one in there.devices])
        offers = [one.model_dump(mode="json") for one in there.offers]
        how = seen.model_dump(mode="json")
        return {"kind": "state", "moves": there.count, "clock_s": there.clock_s, "device": how, "offers": offers}

    async def act(text: str) -> dict[str, Any]:
        return await _act(line, bench, device, text)

    await _serve(line, bench, state, act)


Says = Callable[[], Awaitable[dict[str, Any]]]
Does = Callable[[str], Awaitable[dict[str, Any]]]


async def _serve(line: WebSocket, bench: str, says: Says, does: Does | None) -> None:
    """Let somebody follow a bench for as long as they stay; what they send is done, one after the other."""
    hub = line.app.state.benches
    try:
        await says()  # a bench that is not there is refused before anything is agreed on
    except IsotactError:
        await line.close(REFUSED)
        return
    await line.accept()
    try:
        who = line.state.who
        async with hub.following(bench, None if who is None or who.is_here else who.sign_in or 0) as follower:
            speaking = asyncio.ensure_future(_speak(line, follower, says))
            try:
                await _hear(line, does)
            finally:
                speaking.cancel()
                with suppress(asyncio.CancelledError, WebSocketDisconnect, RuntimeError):
                    await speaking
    except WebSocketDisconnect:
        return
    except IsotactError as error:
        await _end(line, error)


async def _speak(line: WebSocket, follower: asyncio.Event, says: Says) -> None:
    follower.set()
    while True:
        if not await _may_still(line):
            await line.close(REFUSED)
            return
        if follower.is_set():
            follower.clear()
            try:
                await line.send_text(json.dumps(await says()))
            except IsotactError as error:
                await _end(line, error)
                return
        with suppress(TimeoutError):
            await asyncio.wait_for(follower.wait(), LOOK_EVERY_S)


async def _hear(line: WebSocket, does: Does | None) -> None:
    while True:
        text = await line.receive_text()
        if not await _may_still(line):
            await line.close(REFUSED)
            return
        if len(text) > MOST_OF_A_MESSAGE or does is None:
            says = f"Found {len(text):,} characters" if does else "Nothing is heard on this line"
            answer = _error("refused", f"{says}; send acts of at most {MOST_OF_A_MESSAGE:,} characters at a device's.")
        else:
            answer = await does(text)
        await line.send_text(json.dumps(answer))


async def _act(line: WebSocket, bench: str, device: str, text: str) -> dict[str, Any]:
    """Do what a stand-in sent, and what was felt; an error where it is no act at this device."""
    try:
        move = _MOVE.validate_json(text)
    except ValidationError as error:
        flaw = error.errors(include_url=False, include_input=False)[0]
        place = ".".join(map(str, flaw["loc"])) or "the message"
        return _error("not-an-act", f"{place}: {flaw['msg']}. Send one of the acts that a state offers.")
    if device not in move.at:
        return _error("elsewhere", f"This is not done at {device}. A stand-in does what is done at its own device.")
    try:
        answer = await moved(_store(line), line.app.state.benches, bench, _asking(line), move, device)
    except IsotactError as error:
        return _error("refused", str(error))
    last = _BENCH.validate_json(bytes(answer.body)).told[-1]
    return {"kind": "done", "number": last.number, "says": last.says, "seen": last.seen, "could": last.could}


async def _may_still(line: WebSocket) -> bool:
    """Whether the sign-in by which somebody came still holds."""
    who = line.state.who
    if who is None or who.is_here:
        return True
    return who.sign_in in await run_in_threadpool(_store(line).sign_ins.live)


async def _end(line: WebSocket, error: IsotactError) -> None:
    with suppress(RuntimeError):  # gone already
        await line.send_text(json.dumps(_error("ended", str(error))))
        await line.close(BUSY)


def _error(code: Literal["refused", "not-an-act", "elsewhere", "ended"], message: str) -> dict[str, Any]:
    return {"kind": "error", **ErrorAnswer(code=code, message=message).model_dump(mode="json")}


def _store(line: WebSocket) -> Store:
    store: Store = line.app.state.store
    return store


def _asking(line: WebSocket) -> Asking:
    return Asking(line)


ROUTERS = (router,)
