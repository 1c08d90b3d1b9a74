"""Power: the feed tree of a rig."""

from fastapi import APIRouter
from fastapi.responses import Response

from isotact.api.compute.answers import AnswerContext
from isotact.api.compute.work import Asks, question
from isotact.api.errors import RESPONSES
from isotact.api.routes.plans import RigToPlan
from isotact.api.security.doorman import MAY_LOOK
from isotact.core.questions import FeedTree, feed_tree, with_battery_changes

router = APIRouter(prefix="/api", tags=["power"], responses=RESPONSES)


@question()
def feeds(desk: AnswerContext, body: RigToPlan) -> FeedTree:
    """The feeds of a rig as a circuit."""
    answer = desk.about(body.document)
    tree = feed_tree(answer.rig, answer.plan)
    return with_battery_changes(tree, answer.world, answer.plan, answer.conditions) if answer.plan.kept else tree


@router.post("/power", response_model=FeedTree, openapi_extra=MAY_LOOK)
async def power(body: RigToPlan, ask: Asks) -> Response:
    """Volts and watts from every battery to every device, what is near its limit, and how each battery empties."""
    return await ask(feeds, body)


ROUTERS = (router,)
