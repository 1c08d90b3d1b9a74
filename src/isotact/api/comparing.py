"""Comparing: other plans, all ways to a picture, what it takes, the functions matrix, advice, single joins, pins."""

from typing import Annotated

from fastapi import APIRouter
from pydantic import Field

from isotact.api.answers import TheAnswers
from isotact.api.context import TheCatalogue, looked_up
from isotact.api.documents import Body
from isotact.api.errors import MISSING, RESPONSES
from isotact.api.planning import RigToPlan
from isotact.core.comparing import (
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
from isotact.core.comparing.taking import Change, with_changes
from isotact.core.model import Rig
from isotact.core.model.words import Id
from isotact.core.telling.promising import Suggestions, suggest

router = APIRouter(prefix="/api", tags=["comparing"], responses={**RESPONSES, **MISSING})


class ToPromise(Body):
    """A rig, what somebody typed, and whom it is for when the words name nobody."""

    document: Rig
    text: Annotated[str, Field(max_length=300)] = ""
    who: Annotated[str, Field(max_length=60)] = ""


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


@router.post("/alternatives")
def other_plans(body: ToCompare, catalogue: TheCatalogue) -> list[Alternative]:
    """The best plans that differ in their routes, the best first."""
    return alternatives(looked_up(catalogue, body.document), body.count)


@router.post("/picture-ways")
def ways_to_a_picture(body: AboutPromise, catalogue: TheCatalogue) -> list[PictureWay]:
    """Every way to the screen of a picture promise, the simplest first, compared."""
    return picture_ways(looked_up(catalogue, body.document), body.promise)


@router.post("/takes")
def takes(body: AboutPromise, answers: TheAnswers, catalogue: TheCatalogue) -> Takes:
    """The cheapest set of changes with which a promise would hold, and one of another kind."""
    answer = answers.about(body.document)
    return what_it_takes(answer.rig, catalogue.profiles, answer.plan, body.promise)


@router.post("/changes")
def make_changes(body: ToChange, catalogue: TheCatalogue) -> Rig:
    """The rig with changes made to it. Nothing is saved."""
    changed = with_changes(looked_up(catalogue, body.document), body.changes)
    looked_up(catalogue, changed)
    return changed


@router.post("/matrix")
def matrix(body: AboutDevice, answers: TheAnswers) -> Matrix:
    """Every function against every surface: yes, no, or at which price; in any mode, or held to one."""
    answer = answers.about(body.document)
    return functions_matrix(answer.rig, answer.plan, body.device, body.mode)


@router.post("/advice")
def advice(body: RigToPlan, catalogue: TheCatalogue) -> list[Advice]:
    """Where schools differ: what each would give here, and which one fits."""
    return advise(looked_up(catalogue, body.document))


@router.post("/join")
def about_join(body: AboutJoin, answers: TheAnswers) -> JoinAnswer:
    """Why this cable, what else would do, what depends on it."""
    answer = answers.about(body.document)
    return ask_join(answer.rig, answer.plan, body.link)


@router.post("/pins")
def about_pins(body: RigToPlan, answers: TheAnswers) -> list[PinCost]:
    """What each pin of the rig costs."""
    answer = answers.about(body.document)
    return pin_costs(answer.rig, answer.plan)


@router.post("/promising")
def promising(body: ToPromise, catalogue: TheCatalogue) -> Suggestions:
    """What typed words could promise in this rig; without words, what it could be asked for at all."""
    return suggest(looked_up(catalogue, body.document), body.text, body.who.strip())
