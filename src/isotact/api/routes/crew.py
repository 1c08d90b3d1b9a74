"""Who does which step of a rig's run sheet when: dealt out anew as what is done comes in."""

from typing import Annotated

from fastapi import APIRouter
from fastapi.responses import Response
from pydantic import Field, StrictBool

from isotact.api.compute.answers import AnswerContext
from isotact.api.compute.work import Asks, question
from isotact.api.errors import RESPONSES
from isotact.api.routes.documents import Body
from isotact.api.security.doorman import MAY_LOOK
from isotact.core.day import Crewed, crewed
from isotact.core.day.crew import MOST_PEOPLE
from isotact.core.model import IsotactError, Rig
from isotact.core.model.words import Name

router = APIRouter(prefix="/api", tags=["crew"], responses=RESPONSES)
Who = Annotated[Name, Field(max_length=60)]
StepId = Annotated[str, Field(max_length=300)]


class RigAndCrew(Body):
    """A rig, who is there, who was given what, and since how many seconds which steps are done."""

    document: Rig
    people: Annotated[list[Who], Field(min_length=1, max_length=MOST_PEOPLE)]
    given: Annotated[dict[StepId, Who], Field(max_length=500)] = {}
    done_ago_s: Annotated[
        dict[StepId, Annotated[float, Field(ge=0, allow_inf_nan=False, strict=True)]], Field(max_length=500)
    ] = {}
    whole: StrictBool = Field(default=False, description="from its cases, though it is built")


@question()
def dealt_out(desk: AnswerContext, body: RigAndCrew) -> Crewed:
    """The sheet that is to be carried out now, on these people."""
    if len(set(body.people)) != len(body.people):
        raise IsotactError(f"Found {', '.join(body.people)}; give each person once.")
    answer = desk.about(body.document)
    sheet = answer.sheet
    if body.document.built is not None and not body.whole:
        sheet = answer.since(desk.about(body.document.built))[1]
    return crewed(sheet, body.people, body.given, body.done_ago_s)


@router.post("/crew", response_model=Crewed, openapi_extra=MAY_LOOK)
async def who_does_what(body: RigAndCrew, ask: Asks) -> Response:
    """Who does which step when, how long it takes, and which steps hold up the end."""
    return await ask(dealt_out, body)


ROUTERS = (router,)
