"""Planning and the bench. Stateless: the same document always gets the same answer."""

from typing import Annotated

from fastapi import APIRouter, Path
from pydantic import BaseModel, Field

from isotact.api.answers import TheAnswers
from isotact.api.errors import RESPONSES
from isotact.api.rigs import Body
from isotact.core.bench import Run, run
from isotact.core.model import Plan, Rig
from isotact.core.planning import Watch
from isotact.core.runsheet import RunSheet
from isotact.core.telling import Drawing, draw

router = APIRouter(prefix="/api", tags=["planning"], responses=RESPONSES)
SEARCH = r"^[a-z0-9-]+$"
SearchName = Annotated[str, Field(pattern=SEARCH, max_length=64)]
_searches: dict[str, Watch] = {}


class RigToPlan(Body):
    """The rig to plan. `search` is a name of the asker's own, by which the search can be stopped."""

    document: Rig
    search: SearchName | None = None


class Stopped(BaseModel):
    """Whether a search of that name was under way."""

    found: bool


class RigToRun(Body):
    """The rig to carry out, and the steps to leave out on purpose."""

    document: Rig
    skip: Annotated[list[Annotated[str, Field(max_length=300)]], Field(max_length=200)] = []


class ConditionLine(BaseModel):
    """One condition, in words."""

    key: str
    kind: str
    promises: tuple[str, ...]
    says: str
    check: str
    made_by: str


class RigAnswer(BaseModel):
    """Everything that follows from one rig document."""

    plan: Plan
    drawing: Drawing
    conditions: list[ConditionLine]
    sheet: RunSheet


@router.post("/plan")
def make_plan(body: RigToPlan, answers: TheAnswers) -> RigAnswer:
    """Plan a rig: joins, feeds, settings, routes, reasons, conditions and the run sheet."""
    watch = Watch()
    name = body.search or ""
    _searches[name] = watch
    try:
        answer = answers.about(body.document, watch)
    finally:
        _searches.pop(name, None)
    rig = answer.rig
    lines = [
        ConditionLine(
            key=str(condition.key),
            kind=getattr(condition, "kind", ""),
            promises=condition.promises,
            says=condition.says(rig),
            check=condition.look(rig).says,
            made_by=str(condition.made_by()),
        )
        for condition in answer.conditions
    ]
    return RigAnswer(plan=answer.plan, drawing=draw(rig, answer.plan), conditions=lines, sheet=answer.sheet)


@router.post("/searches/{search}/stop")
def stop_search(search: Annotated[str, Path(pattern=SEARCH, max_length=64)]) -> Stopped:
    """Stop a search; its asker gets the best so far, and is told that it is no more than that."""
    watch = _searches.get(search)
    if watch is not None:
        watch.stop()
    return Stopped(found=watch is not None)


@router.post("/bench")
def carry_out(body: RigToRun, answers: TheAnswers) -> Run:
    """Carry the run sheet out on the simulated rig and film it."""
    answer = answers.about(body.document)
    return run(answer.rig, answer.sheet, skip=set(body.skip), conditions=answer.conditions)
