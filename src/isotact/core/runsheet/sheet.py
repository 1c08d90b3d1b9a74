"""Steps and run sheets as documents: what is done, in which order."""

from pydantic import Field

from isotact.core.model.base import Struct
from isotact.core.model.words import Id, JobStage
from isotact.core.proofs import ProofCheck
from isotact.core.trades import AnyAct, StepEnd


class Step(Struct):
    """One thing to do. `care` marks good manners: leaving it out breaks no promise at once."""

    id: str
    stage: JobStage
    title: str
    detail: tuple[str, ...] = ()
    ends: tuple[StepEnd, ...] = Field(default=(), description="the ends that its detail tells, for who draws them")
    avoid: tuple[str, ...] = Field(default=(), description="look-alike ports to keep out of")
    device: Id | None = None
    tag: str | None = None
    expect: str
    takes_s: float = Field(description="how long it keeps hands busy")
    waits_s: float = Field(default=0.0, description="how long it goes on by itself afterwards, as a start does")
    people: int = Field(default=1, description="how many it takes")
    act: AnyAct
    makes: tuple[str, ...] = Field(default=(), description="the conditions that it makes true")
    after: tuple[str, ...] = Field(default=(), description="steps that must come before")
    cautions: tuple[str, ...] = ()
    care: bool = False
    promises: tuple[Id, ...] = ()
    asks: tuple[ProofCheck, ...] = Field(default=(), description="what is seen or measured at it, with unit and limits")
    card: str = Field(default="", description="what it is called together with its like, where they follow each other")


class RunSheet(Struct):
    """The ordered list."""

    rig: Id
    steps: tuple[Step, ...]
    takes_s: float
    warnings: tuple[str, ...] = ()
