"""Steps and run sheets: what is done, in which order, and what each action does to a bench."""

from typing import Annotated, Literal

from pydantic import Field

from isotact.core.model.base import Part
from isotact.core.model.plan import LinkEnd
from isotact.core.model.words import Id

JobStage = Literal[
    "gather", "build", "inner-cables", "balance", "outer-cables", "menus", "wake", "pair", "lens", "prove"
]
JOB_STAGES: tuple[JobStage, ...] = (
    "gather", "build", "inner-cables", "balance", "outer-cables", "menus", "wake", "pair", "lens", "prove",
)  # fmt: skip


class LayOut(Part):
    """Take a cable out of the bag and look at its marking."""

    kind: Literal["lay-out"] = "lay-out"
    tag: str
    cable: Id
    adapter: Id | None = None


class FitBattery(Part):
    """Put a charged battery in, or charge the one that is built in."""

    kind: Literal["fit-battery"] = "fit-battery"
    device: Id


class Plug(Part):
    """Join two ends: by the cable laid out under `tag`, or directly."""

    kind: Literal["plug"] = "plug"
    tag: str
    a: LinkEnd
    b: LinkEnd
    end_a: int = 1
    end_b: int = 2
    direct: bool = False


class Balance(Part):
    """Balance the whole payload."""

    kind: Literal["balance"] = "balance"
    device: Id


class SetMode(Part):
    """Choose a mode."""

    kind: Literal["set-mode"] = "set-mode"
    device: Id
    mode: str


class Set(Part):
    """Change a setting."""

    kind: Literal["set"] = "set"
    device: Id
    setting: Id
    value: str


class WakeUp(Part):
    """Wake a device and wait until it is up."""

    kind: Literal["wake"] = "wake"
    device: Id


class Sleep(Part):
    """Switch a device off."""

    kind: Literal["sleep"] = "sleep"
    device: Id


class Answer(Part):
    """Answer a prompt."""

    kind: Literal["answer"] = "answer"
    device: Id
    prompt: Id
    answer: str


class MeetByRadio(Part):
    """Join a network or pair two radios."""

    kind: Literal["meet-by-radio"] = "meet-by-radio"
    a: LinkEnd
    b: LinkEnd


class Prove(Part):
    """Work a promise and look."""

    kind: Literal["prove"] = "prove"
    promise: Id


class Look(Part):
    """Look or take care; changes nothing on the bench."""

    kind: Literal["look"] = "look"


Action = Annotated[
    LayOut | FitBattery | Plug | Balance | SetMode | Set | WakeUp | Sleep | Answer | MeetByRadio | Prove | Look,
    Field(discriminator="kind"),
]


class Step(Part):
    """One thing to do. `care` marks good manners: leaving it out breaks no promise at once."""

    id: str
    stage: JobStage
    title: str
    detail: tuple[str, ...] = ()
    device: Id | None = None
    tag: str | None = None
    expect: str
    takes_s: float
    action: Action
    makes: tuple[str, ...] = Field(default=(), description="the conditions that it makes true")
    after: tuple[str, ...] = Field(default=(), description="steps that must come before")
    cautions: tuple[str, ...] = ()
    care: bool = False
    promises: tuple[Id, ...] = ()


class RunSheet(Part):
    """The ordered list."""

    rig: Id
    steps: tuple[Step, ...]
    takes_s: float
    warnings: tuple[str, ...] = ()
