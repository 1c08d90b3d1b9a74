"""What balance answers: a gimbal with all that it carries, its marks, what is left to its motors, what to do."""

from typing import Literal

from pydantic import Field

from isotact.core.calc.moments import Place
from isotact.core.model.base import Struct
from isotact.core.model.calculation import Calculation
from isotact.core.model.gimbals import Axis, StoodReading
from isotact.core.model.words import Id
from isotact.core.trades.balance.places import How


class Three(Struct):
    """Something in each direction, as a camera looks that stands level."""

    right: float
    forward: float
    up: float


def three(at: Place, decimals: int = 1) -> Three:
    """A place, rounded."""
    right, forward, up = (round(one, decimals) for one in at)
    return Three(right=right, forward=forward, up=up)


class MarkRow(Struct):
    """One scale, in the order in which they are set. Invariant: `mark_mm` is within its travel.

    `now_mm`: where it stands, None where nobody noted it. `wanted_mm`: where it would have to stand, had it travel
    enough. `beyond`: how far it comes short, in words; None where it does not. `within_mm`: nineteen times in twenty.
    """

    slide: Id
    name: str
    both: str | None
    axis: Axis
    along: Literal["right", "forward", "up"]
    grows: str
    from_mm: float
    to_mm: float
    step_mm: float
    mark_mm: float
    now_mm: float | None
    wanted_mm: float
    within_mm: float
    by_mm: float | None = Field(description="how far it has to go, None where nobody noted where it stands")
    way: str | None = Field(description="which way it has to go; None where it stays or nobody noted where it stands")
    says: str
    beyond: str | None
    why: Calculation


class AxisRow(Struct):
    """One axis at the marks. `left_nm`: what is left to its motor in any position; `allowed_nm`: what may be."""

    axis: Axis
    left_nm: float
    allowed_nm: float
    motor_nm: float | None
    holds: bool
    pull_nm: float = Field(default=0, description="what all leads that cross it may turn it by, an allowance")
    inertia_kg_m2: float = Field(description="what it has to turn, each thing as a box of even weight")
    says: str


class Item(Struct):
    """Something that is carried, where it is with the scales at their marks: from the crossing of tilt and roll.

    `how`: by what its place is known; `size` nought for a lead or a piece of the gimbal. `moments_nm`: what it does to
    tilt (forwards, above) and to roll (to the right), in newton metres.
    """

    key: str
    name: str
    mass_g: float
    how: How
    rides: str
    on: Id | None
    middle: Three
    size: Three
    centre: Three
    spread: Three
    moments_nm: Three
    says: str


class LedLead(Struct):
    """A lead that crosses axes of the gimbal, as it is led and tied, from the crossing of the axes.

    `through`: its two ends and the places beside the motors between them; `ties`: those places. `needs_mm`: with a loop
    at each axis; `least_mm`: to reach at all, in every position. `is_tied`: whether it is long enough for its loops.
    """

    tag: str
    name: str
    says: tuple[str, ...]
    through: tuple[Three, ...]
    ties: tuple[Three, ...]
    has_mm: float
    needs_mm: float
    least_mm: float
    is_tied: bool
    pull_nm: float = Field(description="what it may turn an axis by, an allowance")


class CureRow(Struct):
    """One thing to do that brings every scale into its travel."""

    sort: Literal["hole", "move", "weight"]
    device: Id | None
    says: str


class Attitude(Struct):
    """How the gimbal is held, and what that asks of balance."""

    id: Literal["upright", "underslung", "low"]
    name: str
    says: str


class PoleRow(Struct):
    """A pole that a gimbal sits at the front of. `mark_mm`: where its holder has to stand, behind the grip.

    `wanted_mm`: where it would have to stand, had it travel enough; None where nothing is at the back. `held`: what
    else is on it, forwards of the grip where that was said. Invariant: `mark_mm` is within its travel.
    """

    device: Id
    name: str
    holder: str
    slide: Id
    from_mm: float
    to_mm: float
    step_mm: float
    front_mm: float
    front_g: float
    back_g: float
    mark_mm: float
    now_mm: float | None
    wanted_mm: float | None
    within_mm: float
    left_nm: float = Field(description="how heavy the front is at the mark; less than nought: the back")
    says: str
    beyond: str | None
    cures: tuple[str, ...] = ()
    assumed: str | None = None
    why: Calculation


class GimbalMarks(Struct):
    """One gimbal with all that it carries. `centre`: of all that tilt turns, with the scales at their marks."""

    gimbal: Id
    name: str
    says: str
    known: bool = Field(description="whether its profile says what slides on it")
    balanced: bool
    payload_g: float
    marks: tuple[MarkRow, ...] = ()
    pole: PoleRow | None = None
    axes: tuple[AxisRow, ...] = ()
    items: tuple[Item, ...] = ()
    leads: tuple[LedLead, ...] = ()
    centre: Three | None = None
    pan_forward_mm: float = Field(default=0.0, description="where the pan axis is, forwards of the crossing")
    feels: tuple[str, ...] = ()
    cures: tuple[CureRow, ...] = ()
    attitudes: tuple[Attitude, ...] = ()
    assumed: tuple[Id, ...] = Field(default=(), description="whose place nobody said")
    remarks: tuple[str, ...] = ()
    readings: tuple[StoodReading, ...] = Field(
        default=(), description="what the scales say where they stand now, taken to be in balance; to be noted"
    )
    learned: tuple[str, ...] = Field(default=(), description="what builds that were noted have told")


class MarkMove(Struct):
    """One scale that has to move for a change."""

    slide: Id
    name: str
    from_mm: float = Field(description="where it stands, or has to stand before the change where nobody noted that")
    to_mm: float
    by_mm: float
    way: str
    says: str


class Rebalanced(Struct):
    """A gimbal after a change that was only thought of. `payload_g`: in its cage then.

    `beyond`: what would have to go further than it can; `cures`: what brings that into its travel.
    """

    gimbal: Id
    name: str
    says: str
    moves: tuple[MarkMove, ...]
    beyond: tuple[str, ...] = ()
    cures: tuple[CureRow, ...] = ()
    takes_s: int
    payload_g: float
    remarks: tuple[str, ...] = ()


class BalanceAnswer(Struct):
    """Every gimbal of a plan."""

    says: str
    gimbals: tuple[GimbalMarks, ...]
