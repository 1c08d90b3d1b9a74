"""A plan: which joins, feeds, settings and routes keep which promises, and what stands in the way of the rest."""

from typing import Literal

from pydantic import Field

from isotact.core.model.base import Part
from isotact.core.model.words import Id


class LinkEnd(Part):
    """One end of a link: a port or radio of a device."""

    device: Id
    endpoint: Id

    def __str__(self) -> str:
        return f"{self.device}.{self.endpoint}"


class Use(Part):
    """One thing a link carries: the role at either end, and which way it goes."""

    kind: Literal["control", "video", "power", "bus"]
    role_a: str
    role_b: str
    flow: Literal["a-to-b", "b-to-a", "both"]


class Link(Part):
    """Two ends that can be joined: by a cable (with or without an adapter), directly, or by radio."""

    id: str
    kind: Literal["cable", "direct", "radio"]
    a: LinkEnd
    b: LinkEnd
    cable: Id | None = None
    adapter: Id | None = None
    adapter_at: Literal["a", "b"] | None = None
    end_a: int = Field(default=1, description="which end of the cable goes into a, counted from 1")
    end_b: int = Field(default=2, description="which end of the cable goes into b")
    lead: str | None = Field(
        default=None, description="which piece of a cable with three and more ends: links of one piece share it"
    )
    uses: tuple[Use, ...]
    axes: tuple[str, ...] = ()

    def far(self, device: str) -> LinkEnd:
        return self.b if self.a.device == device else self.a


class Hop(Part):
    """One step of a route: through a device (`link` empty) or over a link."""

    device: Id
    enters: str | None = Field(default=None, description="endpoint/role, or surface, by which it comes in")
    leaves: str | None = None
    link: str | None = None
    delay_ms: float = 0
    words: str


class Route(Part):
    """The way that a promise takes."""

    promise: Id
    hops: tuple[Hop, ...]
    delay_ms: float = 0
    look: bool = False


class Join(Part):
    """A link that the plan uses, with its tape flag."""

    tag: str
    link: Link
    family: Literal["control", "video", "power", "motor-bus", "mount", "radio"]
    carries: tuple[Use, ...] = Field(description="of all the link could carry, what the plan uses it for")
    promises: tuple[Id, ...] = Field(description="the promises that depend on it")
    avoid: tuple[str, ...] = Field(default=(), description="look-alike ports to keep out of")


class Feed(Part):
    """What a device runs from, and for how long."""

    device: Id
    source: Literal["inner-battery", "join", "none-needed"]
    join: str | None = None
    from_device: Id | None = None
    load_w: float = Field(description="what this device draws, with all that it feeds")
    hours_h: float | None = Field(default=None, description="until the battery that feeds it is empty")
    battery: Id | None = Field(default=None, description="the device whose battery it all comes from")


class Choice(Part):
    """A mode, setting or answer that the plan fixes."""

    device: Id
    kind: Literal["mode", "setting", "answer"]
    key: str = Field(description="the setting or prompt; empty for the mode")
    value: str
    before: str | None = Field(default=None, description="what it is now; an answer has none")
    promises: tuple[Id, ...] = ()

    @property
    def is_change(self) -> bool:
        return self.before != self.value


class Requisite(Part):
    """A firmware or licence that must be on a device."""

    device: Id
    kind: Literal["firmware", "licence"]
    value: str
    promises: tuple[Id, ...]


class Obstacle(Part):
    """One thing in the way of a promise."""

    kind: Literal[
        "function", "cable", "stock", "firmware", "licence", "mode", "setting", "port", "power", "delay", "look",
        "format", "screen", "radio", "order", "answer", "exclusive", "route", "promise", "school", "pin",
    ]  # fmt: skip
    device: Id | None = None
    says: str


class Unmet(Part):
    """A promise that the plan does not keep: proven impossible, and why."""

    promise: Id
    verdict: Literal["impossible", "conflict", "gave-up"]
    because: str
    obstacles: tuple[Obstacle, ...]
    conflicts_with: tuple[Id, ...] = ()
    ways_out: tuple[str, ...] = ()


class WakePair(Part):
    """Two devices of which the first must be awake before the second."""

    first: Id
    second: Id


class PinAnswer(Part):
    """What became of one pin of the rig, in the order of the rig."""

    obeyed: bool
    says: str


class CostLine(Part):
    """One line of the plan's cost."""

    what: str
    count: int
    points: int


class Plan(Part):
    """The answer for one rig."""

    format: Literal["isotact/plan"] = "isotact/plan"
    version: Literal[1] = 1
    rig: Id
    status: Literal["proven-optimal", "best-so-far", "out-of-time"]
    joins: tuple[Join, ...]
    feeds: tuple[Feed, ...]
    choices: tuple[Choice, ...]
    requisites: tuple[Requisite, ...] = ()
    routes: tuple[Route, ...]
    wake_order: tuple[WakePair, ...]
    unmet: tuple[Unmet, ...]
    cost: tuple[CostLine, ...]
    warnings: tuple[str, ...] = ()
    pins: tuple[PinAnswer, ...] = ()
    candidates: int = Field(description="how many links were weighed")
    routes_weighed: int

    @property
    def kept(self) -> tuple[str, ...]:
        """The ids of the promises that hold, in the order of the rig."""
        return tuple(route.promise for route in self.routes)

    def join_of(self, link: str) -> Join:
        return next(join for join in self.joins if join.link.id == link)
