"""All ways of one promise as a graph: for a promise that has too many to list.

What is asked of a whole way - the look at its end, the school that it must suit - is carried along as a mood, so that
each step can be judged by itself.
"""

from collections import defaultdict
from collections.abc import Collection, Iterator
from dataclasses import dataclass, field

from isotact.core.model.legs import Leg, Node, ends, starts
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import ControlPromise, PicturePromise
from isotact.core.planning.ways.simple_ways import Crossing, Way, Ways, firmware_missing, licence_missing

Mood = tuple[bool, bool | None]
"""Of what has come so far: whether it carries the look, or a motor turned it; and the look with which it was sent."""
Place = tuple[str, Node, Mood]
"""An end of a device, and in what mood a signal is there."""


@dataclass(frozen=True, eq=False)
class Step:
    """A leg, from the mood in which it is entered to that in which it is left."""

    leg: Leg
    before: Mood
    after: Mood

    @property
    def enters(self) -> Place | None:
        return (self.leg.device, self.leg.enters, self.before) if self.leg.enters else None

    @property
    def leaves(self) -> Place | None:
        return (self.leg.device, self.leg.leaves, self.after) if self.leg.leaves else None


@dataclass(frozen=True, eq=False)
class Hop:
    """A crossing, likewise."""

    crossing: Crossing
    out: Place
    into: Place


@dataclass
class Walk:
    """Every step and hop that lies on some way of `promise`."""

    promise: ControlPromise | PicturePromise
    steps: list[Step] = field(default_factory=list)
    hops: list[Hop] = field(default_factory=list)

    def way(self, steps: list[Step], hops: list[Hop]) -> Way:
        """The way along what was taken; what turns in a ring beside it is passed over."""
        out = {hop.out: hop for hop in hops}
        onto = {step.enters: step for step in steps if step.enters}
        along = [next(step for step in steps if step.enters is None)]
        crossings: list[Crossing] = []
        while (leaving := along[-1].leaves) is not None:
            hop = out[leaving]
            crossings.append(hop.crossing)
            along.append(onto[hop.into])
        return Way(tuple(step.leg for step in along), tuple(crossings))


def walk(rig: ResolvedRig, ways: Ways, promise: ControlPromise | PicturePromise) -> Walk:
    """The graph of all ways of `promise` that nothing fixed rules out, but for delay and format."""
    minded = _Minding(rig, promise)
    # From the end backwards first: what does not lead there is never walked.
    left = ways.legs_to([leg for leg in ways.legs if ends(leg, promise)], promise.worked)
    made: dict[Step, list[tuple[Hop, Step]]] = {}
    first = [leg for leg in ways.legs if starts(leg, promise) and leg in left]
    ahead = [step for leg in first if (step := minded.step(leg, (False, None)))]
    while ahead:
        step = ahead.pop()
        if step not in made:
            made[step] = list(_onward(ways, minded, step, left))
            ahead += [onto for _, onto in made[step]]
    useful = _that_end(made)
    steps = [step for step in made if step in useful]
    hops = dict.fromkeys(hop for step in steps for hop, onto in made[step] if onto in useful)
    return Walk(promise, steps, list(hops))


def _onward(ways: Ways, minded: "_Minding", step: Step, left: Collection[Leg]) -> Iterator[tuple[Hop, Step]]:
    for crossing, leg in ways.after(step.leg):
        if leg in left and leg.device != step.leg.device:
            onto = minded.step(leg, minded.crossed(crossing, step.after))
            if onto is not None and step.leaves and onto.enters:
                yield minded.hop(crossing, step.leaves, onto.enters), onto


def _that_end(made: dict[Step, list[tuple[Hop, Step]]]) -> set[Step]:
    before: dict[Step, list[Step]] = defaultdict(list)
    for step, onward in made.items():
        for _, onto in onward:
            before[onto].append(step)
    useful: set[Step] = set()
    ahead = [step for step in made if step.leg.leaves is None]
    while ahead:
        step = ahead.pop()
        if step not in useful:
            useful.add(step)
            ahead += before[step]
    return useful


class _Minding:
    """What of the steps so far has to be known at the end of a way of one promise."""

    def __init__(self, rig: ResolvedRig, promise: ControlPromise | PicturePromise) -> None:
        self._rig = rig
        self._picture = promise.is_picture
        self._mark, self._sent = promise.marks(rig.rig.schools)
        self._steps: dict[tuple[Leg, Mood], Step | None] = {}
        self._hops: dict[tuple[Crossing, Mood], Hop] = {}

    def step(self, leg: Leg, before: Mood) -> Step | None:
        """The step over `leg`, the same one each time; None where it is out of the question."""
        if (leg, before) not in self._steps:
            after = (self._marked(leg, before[0]), before[1])
            # What must be so at the end is asked there only: on the way it may still come about.
            suits = self._mark in (None, after[0]) and (self._sent is None or after[1] in (None, self._sent))
            placed = self._rig[leg.device]
            lacks = any(firmware_missing(placed, when) or licence_missing(placed, when) for when in leg.whens)
            may = not lacks and (suits or leg.leaves is not None)
            self._steps[leg, before] = Step(leg, before, after) if may else None
        return self._steps[leg, before]

    def hop(self, crossing: Crossing, out: Place, into: Place) -> Hop:
        """The hop over `crossing` in one mood, the same one each time."""
        return self._hops.setdefault((crossing, out[2]), Hop(crossing, out, into))

    def _marked(self, leg: Leg, before: bool) -> bool:
        if self._picture:
            minds = self._mark is not None or self._sent is not None
            return minds and (leg.look == "adds" or (before and leg.look == "keeps"))
        return self._mark is not None and (before or self._rig[leg.device].profile.motor is not None)

    def crossed(self, crossing: Crossing, mood: Mood) -> Mood:
        """`mood` on the far side."""
        if self._sent is not None and mood[1] is None and crossing.span.links[0].is_radio:
            return mood[0], mood[0]
        return mood
