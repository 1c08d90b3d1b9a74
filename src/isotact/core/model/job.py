"""A job: what the crew is out for, when, where, and who is on it; and its days with what is shot when."""

from collections.abc import Iterator, Sequence
from typing import Annotated, ClassVar, Literal

from pydantic import Field, StrictBool, StringConstraints, model_validator

from isotact.core.model.base import Document, Struct, flawed
from isotact.core.model.problems import Flaw, NotFoundError, Path, Problem, RefusedError, nearest
from isotact.core.model.units import Celsius, Percent, Volts
from isotact.core.model.words import Day, Id, Name, Text

Clock = Annotated[str, StringConstraints(pattern=r"^([01][0-9]|2[0-3]):[0-5][0-9]$")]
"""A time of the day as ISO 8601 writes it, such as 18:30. One that is earlier than the call is of the next morning."""
DAY_MIN = 24 * 60
"""Minutes of a day."""
MOST_HAPPENED = 400
"""So much nobody ticks or reads on one day: of twenty rigs a change and a reading each in every hour and a half."""

RigUse = Literal["rolling", "standby", "off", "moving"]
"""How a rig is used: taken with, and in part rolling; up and waiting; switched off; up and carried about."""


def minutes_from(call: Clock, time: Clock) -> int:
    """Minutes from the call to a time of that day or of the morning after it."""
    first, then = (60 * int(clock[:2]) + int(clock[3:]) for clock in (call, time))
    return (then - first) % DAY_MIN


def clock_after(call: Clock, minutes: int) -> Clock:
    """The time of day so many minutes after the call."""
    at = (60 * int(call[:2]) + int(call[3:]) + minutes) % DAY_MIN
    return f"{at // 60:02d}:{at % 60:02d}"


class JobPlace(Struct):
    """Where a job is shot."""

    name: Name
    mains: StrictBool | None = Field(
        default=None, description="whether there is a socket to charge from; left out: unknown"
    )
    note: Text | None = None


class JobPerson(Struct):
    """Who is on a job, and as what."""

    name: Name
    does: Name | None = None


class Span(Struct):
    """From one time to another; what ends before it begins ends on the next morning."""

    begins: Clock
    ends: Clock


class BlockRig(Struct):
    """A rig in a block, and how it is used there."""

    rig: Id
    use: RigUse = "rolling"
    rolling_percent: Percent = Field(default=30, description="how much of the time it rolls, where it is used rolling")


class Block(Span):
    """A part of a day: what is shot, where, with which rigs. A rig that no block names is off meanwhile."""

    name: Name
    place: Name | None = Field(default=None, description="one of the job's places; left out: that of the day")
    rigs: Annotated[list[BlockRig], Field(max_length=20)] = []
    pauses: Annotated[list[Span], Field(max_length=20)] = Field(
        default=[], description="when nothing is taken in it, as while the set is turned round"
    )


class Mains(Span):
    """When the chargers have power: from a socket, a generator, or the van's engine."""

    watts: Annotated[int, Field(ge=1, le=100_000, strict=True)] | None = Field(
        default=None, description="what there is in all; left out: as much as the chargers ask for"
    )


class PackChanged(Struct):
    """A pack that was put in."""

    kind: Literal["changed"] = "changed"
    at: Clock
    rig: Id
    device: Id
    pack: Name = Field(description="the mark of the one that is in now")


class VoltsRead(Struct):
    """Volts that were read at a battery that is in use."""

    kind: Literal["read"] = "read"
    at: Clock
    rig: Id
    device: Id
    volts: Volts


class LampSeen(Struct):
    """The lamp of a battery that is in use warns since then: a reading without volts."""

    volts: ClassVar[None] = None
    kind: Literal["lamp"] = "lamp"
    at: Clock
    rig: Id
    device: Id


Happened = Annotated[PackChanged | VoltsRead | LampSeen, Field(discriminator="kind")]


class PackRules(Struct):
    """What the crew allows with its packs."""

    packs_move: StrictBool = Field(default=True, description="whether a pack may go from one rig to another")
    part_charges: StrictBool = Field(default=True, description="whether one may leave the charger before it is full")
    charge_at_meals: StrictBool = Field(default=True, description="whether anything is put on charge during a meal")
    walk_min: Annotated[int, Field(ge=0, le=60, strict=True)] = Field(
        default=5, description="from a rig to the chargers, or back"
    )


class JobDay(Struct):
    """A day of a job. `call` to `wrap` bound it where they are known; blocks and meals lie between."""

    date: Day
    call: Clock | None = None
    wrap: Clock | None = None
    place: Name | None = Field(default=None, description="one of the job's places")
    temperature_c: Celsius | None = Field(default=None, description="how cold it is expected to be; left out: 20")
    meals: Annotated[list[Span], Field(max_length=6)] = []
    blocks: Annotated[list[Block], Field(max_length=60)] = []
    mains: Annotated[list[Mains], Field(max_length=20)] | None = Field(
        default=None, description="when the chargers have power; left out: wherever the place has mains"
    )
    happened: Annotated[list[Happened], Field(max_length=MOST_HAPPENED)] = []
    note: Text | None = None

    @property
    def packs_changed(self) -> list[PackChanged]:
        """The packs that were put in, as far as anybody said."""
        return [one for one in self.happened if isinstance(one, PackChanged)]

    @property
    def batteries_read(self) -> list[VoltsRead | LampSeen]:
        """What was read of batteries: their volts, or that their lamps came on."""
        return [one for one in self.happened if not isinstance(one, PackChanged)]

    @property
    def lasts_min(self) -> int | None:
        """Minutes from call to wrap; None where they are not both known."""
        return None if self.call is None or self.wrap is None else minutes_from(self.call, self.wrap)


class Job(Document):
    """A job. A rig names its job by name (`production`), so that it can be handed to another crew by itself."""

    format: Literal["isotact/job"]
    version: Literal[2]
    id: Id
    name: Name = Field(description="the production")
    days: Annotated[list[JobDay], Field(max_length=400)] = []
    places: Annotated[list[JobPlace], Field(max_length=200)] = []
    people: Annotated[list[JobPerson], Field(max_length=200)] = []
    kit: Id | None = Field(default=None, description="the kit that is on the van")
    packs: PackRules = PackRules()
    note: Text | None = None

    def with_said(self, date: str, what: Happened, took_back: bool = False) -> "Job":
        """This job with something more, or less, that happened on a day; itself where that stands so already.

        Raises NotFoundError, and RefusedError where a day would hold more than it may.
        """
        days = {day.date: day for day in self.days}
        if date not in days:
            raise NotFoundError("day in this job", date, days)
        happened = list(days[date].happened)
        if took_back and what in happened:
            del happened[len(happened) - 1 - happened[::-1].index(what)]
        elif not took_back and what not in happened:
            happened.append(what)
        if happened == days[date].happened:
            return self
        if len(happened) > MOST_HAPPENED:
            says = f"found {len(happened)} things that happened on {date}; at most {MOST_HAPPENED} are kept of a day."
            hint = "Take back what is not needed any more."
            raise RefusedError([Problem(code="too_long", path="what", message=says, hint=hint)])
        days[date] = days[date].model_copy(update={"happened": happened})
        return self.model_copy(update={"days": list(days.values())})

    @model_validator(mode="after")
    def _each_once_and_in_its_time(self) -> "Job":
        listed: dict[str, list[str]] = {
            "days": [one.date for one in self.days],
            "places": [one.name for one in self.places],
            "people": [one.name for one in self.people],
        }
        flaws: list[Flaw] = [
            ((field, number), f"found {one} twice; name each once")
            for field, every in listed.items()
            for number, one in enumerate(every)
            if one in every[:number]
        ]
        for number, day in enumerate(self.days):
            flaws += _day_flaws(("days", number), day, listed["places"])
        if flaws:
            raise flawed(flaws)
        return self


def _day_flaws(at: Path, day: JobDay, places: Sequence[str]) -> Iterator[Flaw]:
    for path, place in (
        ((*at, "place"), day.place),
        *(((*at, "blocks", number, "place"), block.place) for number, block in enumerate(day.blocks)),
    ):
        if place is not None and place not in places:
            yield path, f"found '{place}', which is no place of this job{nearest(place, places)}"
    spans: list[tuple[Path, Span]] = [((*at, "meals", number), meal) for number, meal in enumerate(day.meals)]
    spans += [((*at, "blocks", number), block) for number, block in enumerate(day.blocks)]
    spans += [
        ((*at, "blocks", number, "pauses", place), pause)
        for number, block in enumerate(day.blocks)
        for place, pause in enumerate(block.pauses)
    ]
    spans += [((*at, "mains", number), mains) for number, mains in enumerate(day.mains or ())]
    if spans and day.call is None:
        yield (*at, "call"), "found none; meals, blocks and mains are counted from the call: say when it is"
        return
    for path, span in spans:
        yield from _span_flaws(path, day, span)
    yield from _twice_at_once(at, day)


def _span_flaws(path: Path, day: JobDay, span: Span) -> Iterator[Flaw]:
    if day.call is None:
        return
    begins, ends = minutes_from(day.call, span.begins), minutes_from(day.call, span.ends)
    if begins >= ends:
        yield (*path, "ends"), f"found {span.ends}, which is not after {span.begins} on a day that begins at {day.call}"
    elif day.lasts_min is not None and ends > day.lasts_min:
        yield (*path, "ends"), f"found {span.ends}, which is after the wrap at {day.wrap}; end it by then"


def _twice_at_once(at: Path, day: JobDay) -> Iterator[Flaw]:
    """A rig is in one block at a time."""
    call = day.call or "00:00"
    until: dict[str, list[tuple[int, int]]] = {}
    for number, block in enumerate(day.blocks):
        begins, ends = minutes_from(call, block.begins), minutes_from(call, block.ends)
        for place, used in enumerate(block.rigs):
            if any(begins < other_end and other < ends for other, other_end in until.get(used.rig, [])):
                yield (*at, "blocks", number, "rigs", place, "rig"), f"found '{used.rig}' in two blocks at one time"
            until.setdefault(used.rig, []).append((begins, ends))
