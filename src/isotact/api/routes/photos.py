"""Photos from a phone's camera: sent as they are, kept drawn anew, shown small and large."""

import asyncio
from typing import Annotated, Any

from fastapi import APIRouter, Path, Query, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import Response

from isotact.api.dependencies import TheStore
from isotact.api.errors import MISSING, RESPONSES
from isotact.api.security.bodies import PHOTO_KINDS
from isotact.api.security.doorman import MAY_TICK
from isotact.store import Photo
from isotact.store.log import PHOTO

router = APIRouter(prefix="/api/photos", tags=["photos"], responses=RESPONSES)
_JPEG: dict[int | str, dict[str, Any]] = {200: {"content": {"image/jpeg": {}}}}
_SENT: dict[str, Any] = {
    "requestBody": {
        "required": True,
        "content": {kind: {"schema": {"type": "string", "format": "binary"}} for kind in PHOTO_KINDS},
    }
}
FOR_EVER = "private, max-age=31536000, immutable"
"""What stands under a digest never changes."""


@router.post("", status_code=201, openapi_extra={**MAY_TICK, **_SENT})
async def add_photo(request: Request, store: TheStore) -> Photo:
    """Keep a photo: JPEG, PNG or WebP, by what is in it. Gives the id by which an entry of the log names it."""
    # Who waits for the one before holds none of the threads that all else is answered in.
    drawn = await asyncio.wrap_future(store.photos.draw(await request.body()))
    return await run_in_threadpool(store.photos.keep, drawn)


@router.get("/{key}", responses={**MISSING, **_JPEG}, response_class=Response)
def photo(
    key: Annotated[str, Path(pattern=PHOTO)], store: TheStore, small: Annotated[bool, Query()] = False
) -> Response:
    """A photo as JPEG, whole or small."""
    return Response(store.photos.read(key, small), media_type="image/jpeg", headers={"Cache-Control": FOR_EVER})


ROUTERS = (router,)
