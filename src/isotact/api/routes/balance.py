"""Balance: the marks of a rig's gimbals."""

from fastapi import APIRouter
from fastapi.responses import Response

from isotact.api.compute.answers import AnswerContext
from isotact.api.compute.work import Asks, question
from isotact.api.errors import RESPONSES
from isotact.api.routes.plans import RigToPlan
from isotact.api.security.doorman import MAY_LOOK
from isotact.core.questions import BalanceAnswer, balance_marks

router = APIRouter(prefix="/api", tags=["balance"], responses=RESPONSES)


@question()
def marks(desk: AnswerContext, body: RigToPlan) -> BalanceAnswer:
    """The marks of every gimbal of a rig."""
    answer = desk.about(body.document)
    return balance_marks(answer.rig, answer.plan)


@router.post("/balance", response_model=BalanceAnswer, openapi_extra=MAY_LOOK)
async def balance(body: RigToPlan, ask: Asks) -> Response:
    """Where every scale has to stand, in which order, what is left to the motors, and what cures what goes too far."""
    return await ask(marks, body)


ROUTERS = (router,)
