"""Per promise, every simple way through legs and links on which it survives each hop."""

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass

from isotact.core.model.plan import Link, LinkEnd, Use
from isotact.core.model.ports import VideoRole, When
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.rig import ControlPromise, PicturePromise
from isotact.core.model.words import version_key
from isotact.core.wiring.legs import Leg, Node, legs_of

MAX_DEVICES = 7
MAX_ROUTES = 400
"""Per promise. A search cut off here is reported: the plan then says so instead of claiming proof."""


@dataclass(frozen=True)
class Crossing:
    """A link crossed from one device to another, by one of its uses."""

    link: Link
    use: Use
    at: LinkEnd
    to: LinkEnd


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
        self.legs = [leg for placed in rig.devices.values() for leg in legs_of(placed)]
        self._starting: dict[str, list[Leg]] = defaultdict(list)
        self._entering: dict[tuple[str, Node], list[Leg]] = defaultdict(list)
        for leg in self.legs:
            if leg.enters is None:
                self._starting[leg.device].append(leg)
            else:
                self._entering[leg.device, leg.enters].append(leg)
        self._crossings: dict[tuple[str, Node], list[Crossing]] = defaultdict(list)
        for link in links:
            for use in link.uses:
                if use.flow in ("a-to-b", "both"):
                    self._crossings[link.a.device, (link.a.endpoint, use.role_a)].append(
                        Crossing(link, use, link.a, link.b)
                    )
                if use.flow in ("b-to-a", "both"):
                    self._crossings[link.b.device, (link.b.endpoint, use.role_b)].append(
                        Crossing(link, use, link.b, link.a)
                    )

    def of(self, promise: ControlPromise | PicturePromise) -> tuple[list[Way], bool]:
        """The ways that `promise` could take, simplest first, and whether that is all of them."""
        found: list[Way] = []
        search = self._control(promise) if promise.kind == "control" else self._picture(promise)
        for way in search:
            found.append(way)
            if len(found) > MAX_ROUTES:
                break
        whole = len(found) <= MAX_ROUTES
        found = found[:MAX_ROUTES]
        return sorted(found, key=lambda way: (len(way.legs), [c.link.id for c in way.crossings])), whole

    def _control(self, promise: ControlPromise) -> Iterator[Way]:
        for start in self._starting[promise.at.device]:
            if start.surface == promise.at.surface and promise.function in start.functions:
                for way in self._onward((start,), (), promise.function):
                    if promise.to in (None, way.legs[-1].device):
                        yield way

    def _picture(self, promise: PicturePromise) -> Iterator[Way]:
        for device in self.rig.devices:
            for start in self._starting[device]:
                if start.kind in ("makes", "own-picture"):
                    for way in self._onward((start,), (), None):
                        last = way.legs[-1]
                        if last.device == promise.at.device and last.surface == promise.at.surface:
                            yield way

    def _onward(self, legs: tuple[Leg, ...], crossed: tuple[Crossing, ...], function: str | None) -> Iterator[Way]:
        last = legs[-1]
        if last.leaves is None:
            yield Way(legs, crossed)
            return
        if len(legs) >= MAX_DEVICES:
            return
        been = {leg.device for leg in legs}
        for crossing in self._crossings[last.device, last.leaves]:
            if crossing.to.device in been:
                continue
            role = crossing.use.role_b if crossing.to == crossing.link.b else crossing.use.role_a
            for leg in self._entering[crossing.to.device, (crossing.to.endpoint, role)]:
                if (function is None) == (not leg.functions) and (function is None or function in leg.functions):
                    yield from self._onward((*legs, leg), (*crossed, crossing), function)


def has_look(way: Way) -> bool:
    """Whether the picture at the end of `way` carries the look."""
    look = False
    for leg in way.legs:
        look = leg.look == "adds" or (look and leg.look == "keeps")
    return look


def common_formats(rig: ResolvedRig, way: Way) -> tuple[str, ...]:
    """The picture formats that every link of `way` takes, best first; all the source's for a way without links."""
    common: tuple[str, ...] | None = None
    for crossing in way.crossings:
        cable = rig.cables[crossing.link.cable] if crossing.link.cable else None
        limit = next((c.max_format for c in cable.carries if c.max_format), None) if cable else None
        for role in link_roles(rig, crossing):
            fits = [picture for picture in role.formats if limit is None or pixels_rate(picture) <= pixels_rate(limit)]
            common = tuple(fits) if common is None else tuple(picture for picture in common if picture in fits)
    return common or ()


def link_roles(rig: ResolvedRig, crossing: Crossing) -> list[VideoRole]:
    """The video roles at the two ends of a crossing, sender first."""
    link, use = crossing.link, crossing.use
    roles = [
        (link.a, rig[link.a.device].role(link.a.endpoint, use.role_a)),
        (link.b, rig[link.b.device].role(link.b.endpoint, use.role_b)),
    ]
    roles.sort(key=lambda pair: pair[0] != crossing.at)
    return [role for _, role in roles if isinstance(role, VideoRole)]


def pixels_rate(picture: str) -> float:
    """Lines squared times rate: orders formats by how much picture a second they carry."""
    lines, _, rate = picture.replace("i", "p").partition("p")
    return int(lines) ** 2 * float(rate)


def firmware_missing(placed: Placed, when: When) -> bool:
    """Whether the firmware is known and too old."""
    if when.firmware is None or placed.device.firmware is None:
        return False
    return version_key(placed.device.firmware) < version_key(when.firmware)


def licence_missing(placed: Placed, when: When) -> bool:
    """Whether a licence is wanted that is not loaded."""
    return when.licence is not None and when.licence not in placed.device.licences
