"""Comparing: other plans, all ways to a picture, what it takes, the functions matrix, advice, single joins, pins."""

from typing import Annotated, Literal

from fastapi import APIRouter
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import Response
from pydantic import Field

from isotact.api.compute.answers import AnswerContext
from isotact.api.compute.work import Asks, question
from isotact.api.dependencies import TheStore
from isotact.api.errors import MISSING, RESPONSES
from isotact.api.routes.documents import Body
from isotact.api.routes.plans import RigToPlan
from isotact.api.routes.recipes import RigAndRecipes, known_recipes
from isotact.api.security.doorman import MAY_LOOK
from isotact.core.model import Rig
from isotact.core.model.words import Id, Name
from isotact.core.questions import (
    Advice,
    Alternative,
    JoinAnswer,
    Matrix,
    PictureWay,
    PinCost,
    Takes,
    advise,
    alternatives,
    ask_join,
    functions_matrix,
    picture_ways,
    pin_costs,
    what_it_takes,
)
from isotact.core.questions.recipe_offers import offered_for
from isotact.core.questions.rig_changes import Change, with_changes
from isotact.core.telling.promise_parser import Suggestions, suggest

router = APIRouter(prefix="/api", tags=["comparing"], responses={**RESPONSES, **MISSING})


class ToPromise(Body):
    """A rig, what somebody typed, and whom it is for when the words name nobody."""

    document: Rig
    text: Annotated[str, Field(max_length=300)] = ""
    who: Annotated[Name, Field(max_length=60)] | Literal[""] = ""


class AboutPromise(Body):
    """A rig, and one of its promises."""

    document: Rig
    promise: Id


class AboutDevice(Body):
    """A rig, one of its devices, and perhaps the mode that this one is to stay in."""

    document: Rig
    device: Id
    mode: Id | None = None


class AboutJoin(Body):
    """A rig, and a join of its plan."""

    document: Rig
    link: Annotated[str, Field(max_length=300)]


class ToChange(Body):
    """A rig, and the changes to make to it."""

    document: Rig
    changes: Annotated[list[Change], Field(max_length=40)]


class ToCompare(Body):
    """A rig, and how many plans to find."""

    document: Rig
    count: Annotated[int, Field(ge=1, le=8, strict=True)] = 5


@question(long=True)
def plans_beside(desk: AnswerContext, body: ToCompare) -> list[Alternative]:
    """The best plans."""
    return alternatives(desk.looked_up(body.document), body.count)


@router.post("/alternatives", response_model=list[Alternative], openapi_extra=MAY_LOOK)
async def other_plans(body: ToCompare, ask: Asks) -> Response:
    """The best plans that differ in their routes, the best first."""
    return await ask(plans_beside, body)


@question(long=True)
def ways_of_a_picture(desk: AnswerContext, body: AboutPromise) -> list[PictureWay]:
    """All ways to a picture."""
    return picture_ways(desk.looked_up(body.document), body.promise)


@router.post("/picture-ways", response_model=list[PictureWay], openapi_extra=MAY_LOOK)
async def ways_to_a_picture(body: AboutPromise, ask: Asks) -> Response:
    """Every way to the screen of a picture promise, the simplest first, compared."""
    return await ask(ways_of_a_picture, body)


class PromiseAndRecipes(RigAndRecipes):
    """A rig, one of its promises, and all recipes with their tallies."""

    promise: Id


@question(long=True)
def what_would_do(desk: AnswerContext, body: PromiseAndRecipes) -> Takes:
    """What a promise takes, and what may do it."""
    answer, shelf = desk.about(body.document), desk.catalogue.profiles
    takes = what_it_takes(answer.rig, shelf, answer.plan, body.promise)
    maybe = offered_for(answer.rig, answer.plan, body.promise, body.recipes, body.rates, shelf)
    return takes.model_copy(update={"maybe": maybe})


@router.post("/takes", response_model=Takes, openapi_extra=MAY_LOOK)
async def takes(body: AboutPromise, store: TheStore, ask: Asks) -> Response:
    """The cheapest set of changes with which a promise would hold, one of another kind, and the recipes for it."""
    recipes, rates = await run_in_threadpool(known_recipes, store)
    asked = PromiseAndRecipes(document=body.document, promise=body.promise, recipes=recipes, rates=rates)
    return await ask(what_would_do, asked)


@question(quick=True)
def with_them_made(desk: AnswerContext, body: ToChange) -> Rig:
    """The rig with changes made to it."""
    changed = with_changes(desk.looked_up(body.document), body.changes)
    desk.looked_up(changed)
    return changed


@router.post("/changes", response_model=Rig, openapi_extra=MAY_LOOK)
async def make_changes(body: ToChange, ask: Asks) -> Response:
    """The rig with changes made to it. Nothing is saved."""
    return await ask(with_them_made, body)


@question(long=True)
def every_function(desk: AnswerContext, body: AboutDevice) -> Matrix:
    """The functions matrix."""
    answer = desk.about(body.document)
    return functions_matrix(answer.rig, answer.plan, body.device, body.mode)


@router.post("/matrix", response_model=Matrix, openapi_extra=MAY_LOOK)
async def matrix(body: AboutDevice, ask: Asks) -> Response:
    """Every function against every surface: yes, no, or at which price; in any mode, or held to one."""
    return await ask(every_function, body)


@question(long=True)
def every_school(desk: AnswerContext, body: RigToPlan) -> list[Advice]:
    """What schools would give."""
    return advise(desk.looked_up(body.document))


@router.post("/advice", response_model=list[Advice], openapi_extra=MAY_LOOK)
async def advice(body: RigToPlan, ask: Asks) -> Response:
    """Where schools differ: what each would give here, and which one fits."""
    return await ask(every_school, body)


@question()
def one_join(desk: AnswerContext, body: AboutJoin) -> JoinAnswer:
    """What there is to know of a join."""
    answer = desk.about(body.document)
    return ask_join(answer.rig, answer.plan, body.link)


@router.post("/join", response_model=JoinAnswer, openapi_extra=MAY_LOOK)
async def about_join(body: AboutJoin, ask: Asks) -> Response:
    """Why this cable, what else would do, what depends on it."""
    return await ask(one_join, body)


@question(long=True)
def every_pin(desk: AnswerContext, body: RigToPlan) -> list[PinCost]:
    """The price of each pin."""
    answer = desk.about(body.document)
    return pin_costs(answer.rig, answer.plan)


@router.post("/pins", response_model=list[PinCost], openapi_extra=MAY_LOOK)
async def about_pins(body: RigToPlan, ask: Asks) -> Response:
    """What each pin of the rig costs."""
    return await ask(every_pin, body)


@question(quick=True)
def what_words_promise(desk: AnswerContext, body: ToPromise) -> Suggestions:
    """What typed words could promise."""
    return suggest(desk.looked_up(body.document), body.text, body.who.strip(), desk.catalogue.profiles.values())


@router.post("/promising", response_model=Suggestions, openapi_extra=MAY_LOOK)
async def promising(body: ToPromise, ask: Asks) -> Response:
    """What typed words could promise in this rig; without words, what it could be asked for at all."""
    return await ask(what_words_promise, body)


ROUTERS = (router,)
