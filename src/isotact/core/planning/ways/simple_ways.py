"""Per promise, every simple way through legs and links on which it survives each hop."""

from collections import defaultdict, deque
from collections.abc import Iterator
from dataclasses import dataclass

from isotact.core.model.base_role import When
from isotact.core.model.legs import Leg, Node, ends, legs_of, look_after, starts
from isotact.core.model.plan import Link, LinkEnd, Use
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.rig import ControlPromise, PicturePromise
from isotact.core.model.roles import Role
from isotact.core.model.words import Stage, pixels_rate, version_key
from isotact.core.planning.ways.candidates import Span, spans_of

# The longest way of any shipped rig passes six devices; one more leaves room for a monitor in between.
MAX_DEVICES = 7
# More than anybody would read, and still listed in a moment.
MOST_LISTED = 100


@dataclass(frozen=True, eq=False)
class Crossing:
    """A span crossed from one device to another."""

    span: Span
    at: LinkEnd
    to: LinkEnd

    @property
    def use(self) -> Use:
        return self.span.use


@dataclass(frozen=True)
class Way:
    """One route: legs and the crossings between them; `legs[i]` is followed by `crossings[i]`."""

    legs: tuple[Leg, ...]
    crossings: tuple[Crossing, ...]

    @property
    def delay_ms(self) -> float:
        return sum(leg.delay_ms for leg in self.legs)

    @property
    def devices(self) -> tuple[str, ...]:
        return tuple(leg.device for leg in self.legs)


class Ways:
    """Finds the ways through one rig with one list of links."""

    def __init__(self, rig: ResolvedRig, links: list[Link]) -> None:
        self.rig = rig
        self.spans = spans_of(rig, links)
        self.legs = [leg for placed in rig.devices.values() for leg in legs_of(placed)]
        entering: dict[tuple[str, Node], list[Leg]] = defaultdict(list)
        for leg in self.legs:
            if leg.enters is not None:
                entering[leg.device, leg.enters].append(leg)
        crossings: dict[tuple[str, Node], list[tuple[Crossing, Node]]] = defaultdict(list)
        for span in self.spans.values():
            if _leads_back(rig, span):
                continue
            a, b = (span.a.endpoint, span.use.role_a), (span.b.endpoint, span.use.role_b)
            if span.use.flow in ("a-to-b", "both"):
                crossings[span.a.device, a].append((Crossing(span, span.a, span.b), b))
            if span.use.flow in ("b-to-a", "both"):
                crossings[span.b.device, b].append((Crossing(span, span.b, span.a), a))
        self._after: dict[Leg, list[tuple[Crossing, Leg]]] = defaultdict(list)
        self._before: dict[Leg, list[Leg]] = defaultdict(list)
        for leg in self.legs:
            for crossing, node in crossings[leg.device, leg.leaves] if leg.leaves else ():
                for onto in entering[crossing.to.device, node]:
                    self._after[leg].append((crossing, onto))
                    self._before[onto].append(leg)

    def of(self, promise: ControlPromise | PicturePromise, most: int = MOST_LISTED) -> tuple[list[Way], bool]:
        """The ways that `promise` could take, simplest first, `most` of them; and whether that is all."""
        found: list[Way] = []
        first = [leg for leg in self.legs if starts(leg, promise)]
        last = [leg for leg in self.legs if ends(leg, promise)]
        for way in self._shortest_first(first, self.legs_to(last, promise.worked)):
            found.append(way)
            if len(found) > most:
                break
        whole = len(found) <= most
        found = found[:most]
        return sorted(found, key=lambda way: (len(way.legs), [c.span.key for c in way.crossings])), whole

    def after(self, leg: Leg) -> list[tuple[Crossing, Leg]]:
        """The crossings that `leg` leads to, each with a leg that goes on behind it."""
        return self._after[leg]

    def legs_to(self, ends: list[Leg], function: str | None) -> dict[Leg, int]:
        """For each leg from which one of `ends` can be reached at all, how many legs are left at the least."""
        left = dict.fromkeys(ends, 0)
        ahead = deque(ends)
        while ahead:
            leg = ahead.popleft()
            for before in self._before[leg]:
                carries = function in before.functions if function else not before.functions
                if carries and before not in left:
                    left[before] = left[leg] + 1
                    ahead.append(before)
        return left

    def _shortest_first(self, starts: list[Leg], left: dict[Leg, int]) -> Iterator[Way]:
        """Every way, by its length: where a search is cut off, the simple ways have been seen."""
        for length in range(1, MAX_DEVICES + 1):
            for start in starts:
                yield from self._onward((start,), (), left, length)

    def _onward(
        self, legs: tuple[Leg, ...], crossed: tuple[Crossing, ...], left: dict[Leg, int], length: int
    ) -> Iterator[Way]:
        last = legs[-1]
        if last not in left or len(legs) + left[last] > length:
            return
        if last.leaves is None:
            if len(legs) == length:
                yield Way(legs, crossed)
            return
        been = {leg.device for leg in legs}
        for crossing, leg in self._after[last]:
            if leg.device not in been:
                yield from self._onward((*legs, leg), (*crossed, crossing), left, length)


def _leads_back(rig: ResolvedRig, span: Span) -> bool:
    """Whether a picture that has left the gimbal would be led back onto it by cable: nobody does that."""
    if not span.use.is_picture or not span.links[0].is_cable:
        return False
    sender, receiver = (span.a, span.b) if span.use.flow == "a-to-b" else (span.b, span.a)
    stages = [rig[end.device].stage_of(end.endpoint) for end in (sender, receiver)]
    return stages[0] == Stage.OFF_GIMBAL and stages[1] != Stage.OFF_GIMBAL


def has_look(way: Way) -> bool:
    """Whether the picture at the end of `way` carries the look."""
    return look_after(way.legs)


def common_formats(rig: ResolvedRig, way: Way) -> tuple[str, ...]:
    """The picture formats that every link of `way` takes, best first; all the source's for a way without links."""
    common: tuple[str, ...] | None = None
    for crossing in way.crossings:
        limit = crossing.span.max_format
        for role in link_roles(rig, crossing) if crossing.use.is_picture else ():
            fits = [picture for picture in role.pictures if limit is None or pixels_rate(picture) <= pixels_rate(limit)]
            common = tuple(fits) if common is None else tuple(picture for picture in common if picture in fits)
    return common or ()


def link_roles(rig: ResolvedRig, crossing: Crossing) -> tuple[Role, Role]:
    """The roles at the two ends of a crossing, the end that it starts from first."""
    span, use = crossing.span, crossing.use
    one, other = (
        rig[span.a.device].role(span.a.endpoint, use.role_a),
        rig[span.b.device].role(span.b.endpoint, use.role_b),
    )
    return (one, other) if crossing.at is span.a else (other, one)


def firmware_missing(placed: Placed, when: When) -> bool:
    """Whether the firmware is known and too old."""
    if when.firmware is None or placed.device.firmware is None:
        return False
    return version_key(placed.device.firmware) < version_key(when.firmware)


def licence_missing(placed: Placed, when: When) -> bool:
    """Whether a licence is wanted that is not loaded."""
    return when.licence is not None and when.licence not in placed.device.licences
