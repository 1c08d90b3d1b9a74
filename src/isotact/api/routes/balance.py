"""Balance: the marks of a rig's gimbals."""

from fastapi import APIRouter
from fastapi.responses import Response

from isotact.api.compute.answers import AnswerContext
from isotact.api.compute.work import Asks, question
from isotact.api.errors import MISSING, RESPONSES
from isotact.api.routes.plans import RigToPlan
from isotact.api.security.doorman import MAY_LOOK
from isotact.core.questions import BalanceAnswer, BalanceTry, Rebalanced, balance_marks, try_balance

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


class RigToTry(RigToPlan):
    """A rig, and what is to be tried on a gimbal of it."""

    attempt: BalanceTry


@question()
def try_on(desk: AnswerContext, body: RigToTry) -> Rebalanced:
    """What the marks would become."""
    answer = desk.about(body.document)
    return try_balance(answer.rig, answer.plan, desk.catalogue.profiles, body.attempt)


@router.post("/balance/try", response_model=Rebalanced, responses=MISSING, openapi_extra=MAY_LOOK)
async def balance_try(body: RigToTry, ask: Asks) -> Response:
    """What a change would do to the marks of a gimbal: what comes off, what goes on. Nothing is changed by it."""
    return await ask(try_on, body)


ROUTERS = (router,)
