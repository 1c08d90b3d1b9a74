"""A plan: which joins, feeds, settings and routes keep which promises, and what stands in the way of the rest."""

from collections import Counter
from typing import Literal

from pydantic import Field

from isotact.core.model.base import Struct
from isotact.core.model.rig import Device
from isotact.core.model.words import Id


class LinkEnd(Struct):
    """One end of a link: a port or radio of a device."""

    device: Id
    endpoint: Id

    def __str__(self) -> str:
        return f"{self.device}.{self.endpoint}"

    # The bench asks for ends many thousand times a second: pydantic's own way of comparing is ten times slower.
    def __hash__(self) -> int:
        return hash((self.device, self.endpoint))

    def __eq__(self, other: object) -> bool:
        return isinstance(other, LinkEnd) and (self.device, self.endpoint) == (other.device, other.endpoint)


class Use(Struct):
    """One thing a link carries: the role at either end, and which way it goes."""

    kind: Literal["control", "video", "power", "bus", "seat"]
    role_a: str
    role_b: str
    flow: Literal["a-to-b", "b-to-a", "both"]

    @property
    def is_power(self) -> bool:
        return self.kind == "power"

    @property
    def is_picture(self) -> bool:
        return self.kind == "video"

    @property
    def is_control(self) -> bool:
        return self.kind == "control"

    @property
    def is_seat(self) -> bool:
        return self.kind == "seat"


def in_order(*adapters: Id | None) -> tuple[Id, ...]:
    """Those of two adapters that there are, in the order in which a lead with both is known again."""
    return tuple(sorted(key for key in adapters if key))


class Link(Struct):
    """Two ends that can be joined: by a cable (bare, or with an adapter at either end), directly, or by radio."""

    id: str
    kind: Literal["cable", "direct", "radio"]
    a: LinkEnd
    b: LinkEnd
    cable: Id | None = None
    adapter_a: Id | None = None
    adapter_b: Id | None = None
    end_a: int = Field(default=1, description="which end of the cable goes into a, counted from 1")
    end_b: int = Field(default=2, description="which end of the cable goes into b")
    lead: str | None = Field(
        default=None, description="which piece of a cable with three and more ends: links of one piece share it"
    )
    uses: tuple[Use, ...]
    axes: tuple[str, ...] = ()

    @property
    def is_radio(self) -> bool:
        return self.kind == "radio"

    @property
    def is_cable(self) -> bool:
        return self.kind == "cable"

    @property
    def is_direct(self) -> bool:
        """Parts that mate, or a lead that is part of its device."""
        return self.kind == "direct"

    @property
    def piece(self) -> str | None:
        """What tells one cable from another: the links of one piece of a splitter share it. None: no cable."""
        return (self.lead or self.id) if self.is_cable else None

    @property
    def ends(self) -> tuple[LinkEnd, LinkEnd]:
        return self.a, self.b

    @property
    def adapters(self) -> tuple[Id, ...]:
        """The adapters on it, in one order whichever end is a; one kind at each end stands there twice."""
        return in_order(self.adapter_a, self.adapter_b)

    @property
    def stock(self) -> tuple[Id, ...]:
        """What it takes out of the bag: a cable and the adapters on it."""
        return (self.cable, *self.adapters) if self.cable else ()

    def far(self, device: str) -> LinkEnd:
        return self.b if self.a.device == device else self.a


class Hop(Struct):
    """One step of a route: through a device (`link` empty) or over a link."""

    device: Id
    enters: str | None = Field(default=None, description="endpoint/role, or surface, by which it comes in")
    leaves: str | None = None
    link: str | None = None
    use: Use | None = Field(default=None, description="what passes over the link")
    delay_ms: float = 0
    words: str


class Want(Struct):
    """What a route asks of a device: one of these values, or for firmware that or newer."""

    device: Id
    kind: Literal["mode", "setting", "answer", "firmware", "licence"]
    key: str = Field(default="", description="the setting or prompt; empty for mode, firmware and licence")
    values: tuple[str, ...]


class Route(Struct):
    """The way that a promise takes."""

    promise: Id
    hops: tuple[Hop, ...]
    delay_ms: float = 0
    look: bool = False
    wants: tuple[Want, ...] = ()
    picture: tuple[Hop, ...] = Field(default=(), description="the way of the picture on which it is worked")


class Join(Struct):
    """A link that the plan uses, with its tape flag."""

    tag: str
    link: Link
    family: Literal["control", "video", "power", "motor-bus", "mount", "radio"]
    carries: tuple[Use, ...] = Field(description="of all the link could carry, what the plan uses it for")
    promises: tuple[Id, ...] = Field(description="the promises that depend on it")
    avoid: tuple[str, ...] = Field(default=(), description="look-alike ports to keep out of")
    beside: tuple[LinkEnd, ...] = Field(default=(), description="these ports themselves")
    channel: str | None = Field(default=None, description="the channel that a radio link takes, where it has any")


class Feed(Struct):
    """What a device runs from, and for how long."""

    device: Id
    source: Literal["inner-battery", "join", "none-needed"]
    join: str | None = None
    from_device: Id | None = None
    load_w: float = Field(description="what this device draws, with all that it feeds")
    hours_h: float | None = Field(default=None, description="until the battery that feeds it is empty")
    battery: Id | None = Field(default=None, description="the device whose battery it all comes from")


class Choice(Struct):
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


class Requisite(Struct):
    """A firmware or licence that must be on a device."""

    device: Id
    kind: Literal["firmware", "licence"]
    value: str
    promises: tuple[Id, ...]

    def is_known_of(self, device: Device) -> bool:
        """Whether somebody saw that it is on the device: what was planned with is never an older one."""
        return device.firmware is not None if self.kind == "firmware" else self.value in device.licences


class Obstacle(Struct):
    """One thing in the way of a promise."""

    kind: Literal[
        "function", "cable", "stock", "firmware", "licence", "mode", "setting", "port", "power", "weight", "delay",
        "look", "format", "screen", "radio", "order", "answer", "exclusive", "clients", "seat", "route", "promise",
        "school", "pin",
    ]  # fmt: skip
    device: Id | None = None
    says: str

    @property
    def is_mendable(self) -> bool:
        """Whether loading something, or thinking again, takes it away before the day."""
        return self.kind in ("firmware", "licence", "school")

    @property
    def is_to_be_got(self) -> bool:
        """Whether a cable is all that lacks."""
        return self.kind == "cable"


class Unmet(Struct):
    """A promise that the plan does not keep: proven impossible, and why."""

    promise: Id
    verdict: Literal["impossible", "conflict", "gave-up"]
    because: str
    obstacles: tuple[Obstacle, ...]
    conflicts_with: tuple[Id, ...] = ()
    ways_out: tuple[str, ...] = ()
    same_as: Id | None = Field(default=None, description="an earlier one that is not kept for the very same cause")


class WakePair(Struct):
    """Two devices of which the first must be awake before the second."""

    first: Id
    second: Id


class PinAnswer(Struct):
    """What became of one pin of the rig, in the order of the rig."""

    obeyed: bool
    says: str


class Maybe(Struct):
    """A promise that the plan does not keep, and for which a recipe was taken: no yes and no no."""

    promise: Id
    recipe: Id
    name: str
    says: str = Field(description="how sure it is: `maybe, 1 of 2 tries, firmware 1.1`")
    differs: tuple[str, ...] = Field(default=(), description="what is not as it was when it was found to work")


class CostLine(Struct):
    """One line of the plan's cost."""

    what: str
    count: int
    points: int


class Plan(Struct):
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
    spares: tuple[Route, ...] = Field(
        default=(),
        description="other ways over the same joins: there besides, or there once one mode or setting is another",
    )
    wake_order: tuple[WakePair, ...]
    unmet: tuple[Unmet, ...]
    maybe: tuple[Maybe, ...] = Field(default=(), description="of those, the promises for which a recipe was taken")
    cost: tuple[CostLine, ...]
    warnings: tuple[str, ...] = ()
    pins: tuple[PinAnswer, ...] = ()
    candidates: int = Field(description="how many links were weighed")
    routes_weighed: int

    @property
    def kept(self) -> tuple[str, ...]:
        """The ids of the promises that hold, in the order of the rig."""
        return tuple(route.promise for route in self.routes)

    @property
    def modes(self) -> dict[str, str]:
        """Device -> the mode that the plan chooses for it."""
        return {choice.device: choice.value for choice in self.choices if choice.kind == "mode"}

    @property
    def cables_used(self) -> Counter[str]:
        """How many of each cable type it lays; a piece with several ends counts once."""
        pieces = {join.link.lead or join.link.id: join.link for join in self.joins}
        return Counter(key for link in pieces.values() for key in link.stock)

    def join_of(self, link: str) -> Join:
        return next(join for join in self.joins if join.link.id == link)
