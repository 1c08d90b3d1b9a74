"""Recipes: kept as documents, tried as entries of the log, offered where a plan has no way of its own or a poor one."""

from typing import Annotated

from fastapi import APIRouter
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import Response
from pydantic import BaseModel, Field

from isotact.api.compute.answers import AnswerContext
from isotact.api.compute.work import Asks, question
from isotact.api.dependencies import TheStore
from isotact.api.errors import RESPONSES
from isotact.api.routes.documents import Body, Rules, add_routes
from isotact.api.routes.plans import RigToPlan
from isotact.api.security.doorman import MAY_LOOK
from isotact.catalogue import Catalogue
from isotact.core.calc.rates import Rate, rate
from isotact.core.model import Problem, RefusedError, Rig
from isotact.core.model.problems import nearest
from isotact.core.model.recipe import Recipe
from isotact.core.model.words import Id
from isotact.core.questions.recipe_offers import Offer, offers
from isotact.store import RECIPE, Line, Saved, Store

router = APIRouter(prefix="/api/recipes", tags=["recipes"], responses=RESPONSES)
beside = APIRouter(prefix="/api", tags=["recipes"], responses=RESPONSES)
# The last so many tell how often it works; older ones were of other firmware.
MOST_TRIES = 500


class Tried(BaseModel):
    """A recipe, how often it worked, and every try with its date and what was noted."""

    saved: Saved[Recipe]
    rate: Rate
    tries: list[Line]


class RigAndRecipes(Body):
    """A rig, and all recipes with their tallies."""

    document: Rig
    recipes: Annotated[list[Recipe], Field(max_length=1000)]
    rates: dict[Id, Rate]


def _tried(store: Store, saved: Saved[Recipe]) -> Tried:
    tries = store.book.tries(saved.document.id, MOST_TRIES)
    return Tried(saved=saved, rate=rate(sum(bool(one.worked) for one in tries), len(tries)), tries=tries)


@router.get("")
def list_recipes(store: TheStore) -> list[Tried]:
    """Every recipe with its tally."""
    return [_tried(store, saved) for saved in store[RECIPE].all()]


def _devices_are_known(catalogue: Catalogue, recipe: Recipe) -> None:
    problems = [
        Problem(
            code="unknown-profile",
            path=f"devices[{number}].profile",
            message=f"found '{device.profile}', which is no device we know"
            f"{nearest(device.profile, catalogue.profiles)}",
        )
        for number, device in enumerate(recipe.devices)
        if device.profile not in catalogue.profiles
    ]
    if problems:
        raise RefusedError(problems)


@question()
def what_may_help(desk: AnswerContext, body: RigAndRecipes) -> tuple[Offer, ...]:
    """The recipes that may keep a promise of the rig for which the plan has no way, or a poor one."""
    answer = desk.about(body.document)
    return offers(answer.rig, answer.plan, body.recipes, body.rates)


@beside.post("/offers", response_model=list[Offer], openapi_extra=MAY_LOOK)
async def recipes_for(body: RigToPlan, store: TheStore, ask: Asks) -> Response:
    """Recipes for a rig's promises that have no way of their own, or a poor one; with their rate, never as sure."""
    recipes, rates = await run_in_threadpool(known_recipes, store)
    return await ask(what_may_help, RigAndRecipes(document=body.document, recipes=recipes, rates=rates))


def known_recipes(store: Store) -> tuple[list[Recipe], dict[Id, Rate]]:
    """All recipes, and how often each worked."""
    known = [_tried(store, saved) for saved in store[RECIPE].all()]
    return [one.saved.document for one in known], {one.saved.document.id: one.rate for one in known}


add_routes(router, RECIPE, Rules(must_know=_devices_are_known, named=True), but=["list"])


ROUTERS = (router, beside)
