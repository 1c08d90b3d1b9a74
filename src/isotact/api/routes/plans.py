"""Planning and the bench. Stateless: the same document always gets the same answer."""

from typing import Annotated

from fastapi import APIRouter
from fastapi.responses import Response
from pydantic import BaseModel, Field, StrictBool

from isotact.api.compute.answers import AnswerContext
from isotact.api.compute.work import Asks, question
from isotact.api.errors import RESPONSES
from isotact.api.routes.documents import Body
from isotact.api.security.doorman import MAY_LOOK
from isotact.core.bench import Run, run
from isotact.core.model import Plan, Rig
from isotact.core.model.calculation import Calculation
from isotact.core.model.incidents import Incident
from isotact.core.model.plan import Unmet
from isotact.core.model.rig import Flag
from isotact.core.model.words import Id
from isotact.core.planning import kept_flags, not_asked
from isotact.core.questions import Aftermath, CannotAskError, aftermath
from isotact.core.runsheet import RunSheet
from isotact.core.telling import Drawing, battery_hours, draw
from isotact.core.trades.incident_acts import acts_at_device, acts_at_link

router = APIRouter(prefix="/api", tags=["planning"], responses=RESPONSES)


class RigToPlan(Body):
    """The rig to plan."""

    document: Rig


class RigToAnswer(RigToPlan):
    """The rig to plan."""

    reasons: StrictBool = Field(default=True, description="why the rest cannot be kept; without, it is there sooner")


class RigToRun(Body):
    """The rig to carry out, and the steps to leave out on purpose. One that is built starts from there, or `whole`."""

    document: Rig
    skip: Annotated[list[Annotated[str, Field(max_length=300)]], Field(max_length=200)] = []
    whole: StrictBool = Field(default=False, description="from its cases, though it is built")


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
    not_kept: tuple[Id, ...] = Field(description="the promises that the plan cannot keep")
    drawing: Drawing
    conditions: list[ConditionLine]
    sheet: RunSheet
    since_built: RunSheet | None = Field(default=None, description="from the rig as it stands built, where it does")
    hours: tuple[Calculation, ...] = Field(description="how long each battery lasts, the first to be empty first")
    flags: list[Flag] = Field(description="the tape flags that the document keeps at its next change")


class Reasons(BaseModel):
    """Why a plan does not keep each promise that it does not keep."""

    unmet: tuple[Unmet, ...]


class RigAndWhat(Body):
    """The rig, and what is to be done to it when it is up: to one of its devices, or to one join of its plan."""

    document: Rig
    what: Incident
    device: Id | None = None
    link: Annotated[str, Field(max_length=300)] | None = None


@question(best=True)
def rig_answer(desk: AnswerContext, body: RigToAnswer) -> RigAnswer:
    """Everything that follows from a rig. What is not proven has its reasons with it: the next may differ."""
    answer = desk.about(body.document)
    rig = answer.rig
    lines = [
        ConditionLine(
            key=str(condition.key),
            kind=getattr(condition, "kind", ""),
            promises=condition.promises,
            says=condition.says(rig),
            check=condition.check(rig).says,
            made_by=str(condition.made_by()),
        )
        for condition in answer.conditions
    ]
    built = body.document.built
    is_proven = answer.plan.status == "proven-optimal"
    is_over = answer.plan.status == "out-of-time"
    not_kept = () if is_over else tuple(one.id for one in body.document.promises if one.id not in answer.plan.kept)
    found = RigAnswer(
        plan=answer.plan,
        not_kept=not_kept,
        drawing=draw(rig, answer.plan),
        conditions=lines,
        sheet=answer.sheet,
        since_built=None if built is None else answer.since(desk.about(built))[1],
        hours=battery_hours(rig, answer.plan),
        flags=kept_flags(body.document, answer.plan),
    )
    if not body.reasons and is_proven:
        return found
    # The plan is there: who stops what is left of the search gets that, not nothing.
    desk.offer(found.model_copy(update={"plan": answer.plan.model_copy(update={"unmet": not_asked(not_kept)})}))
    return found.model_copy(update={"plan": answer.with_reasons(desk.watch)})


@router.post("/plan", response_model=RigAnswer, openapi_extra=MAY_LOOK)
async def make_plan(body: RigToAnswer, ask: Asks) -> Response:
    """Plan a rig: joins, feeds, settings, routes, reasons, conditions and the run sheet."""
    return await ask(rig_answer, body)


@question(best=True)
def every_reason(desk: AnswerContext, body: RigToPlan) -> Reasons:
    """Why the plan of a rig does not keep the rest."""
    answer = desk.about(body.document)
    desk.offer(Reasons(unmet=not_asked(one.id for one in body.document.promises if one.id not in answer.plan.kept)))
    return Reasons(unmet=answer.with_reasons(desk.watch).unmet)


@router.post("/reasons", response_model=Reasons, openapi_extra=MAY_LOOK)
async def reasons(body: RigToPlan, ask: Asks) -> Response:
    """Why the promises that a plan does not keep cannot be kept: what stands in the way, and the ways out."""
    return await ask(every_reason, body)


@question()
def what_happens(desk: AnswerContext, body: RigAndWhat) -> Aftermath:
    """What happens when something is done to a rig that is up."""
    answer = desk.about(body.document)
    if body.what is Incident.PULLED:
        link = next((join.link for join in answer.plan.joins if join.link.id == body.link), None)
        if link is None:
            raise CannotAskError(f"Found '{body.link}', which is no join of this plan. Choose one of the plan's.")
        acts = acts_at_link(link)
    else:
        if body.device not in {feed.device for feed in answer.plan.feeds}:
            raise CannotAskError(f"Found '{body.device}', which this plan does not use. Choose a device that it uses.")
        acts = acts_at_device(body.what, body.device or "")
    return aftermath(answer.world, answer.plan, answer.conditions, acts)


@router.post("/aftermath", response_model=Aftermath, openapi_extra=MAY_LOOK)
async def before_you_pull_it(body: RigAndWhat, ask: Asks) -> Response:
    """What goes at once when something is done to a rig that is up, what is forgotten, and what brings it back."""
    return await ask(what_happens, body)


@question()
def on_the_bench(desk: AnswerContext, body: RigToRun) -> Run:
    """The run sheet carried out."""
    answer = desk.about(body.document)
    if body.document.built is not None and not body.whole:
        world, sheet = answer.since(desk.about(body.document.built))
        return run(answer.rig, sheet, skip=set(body.skip), conditions=answer.conditions, world=world)
    return run(answer.rig, answer.sheet, skip=set(body.skip), conditions=answer.conditions)


@router.post("/bench", response_model=Run, openapi_extra=MAY_LOOK)
async def carry_out(body: RigToRun, ask: Asks) -> Response:
    """Carry the run sheet out on the simulated rig and film it: from the rig as it stands built, or from its cases."""
    return await ask(on_the_bench, body)


ROUTERS = (router,)
