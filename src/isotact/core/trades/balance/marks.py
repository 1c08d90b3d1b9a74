"""Where every scale of a gimbal has to stand, what is left to its motors then, and what cures what goes too far."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import chain, islice
from math import ceil, hypot
from typing import TYPE_CHECKING, Literal

from isotact.core.calc.moments import GRAVITY_M_S2, ORDER, Balancing, Mass, Place, Sliding
from isotact.core.model.gimbals import CARRIED, Axis, Carrier, Slide, WeightSpot
from isotact.core.model.places import Side
from isotact.core.trades.balance.places import Box, Cage, place
from isotact.core.trades.balance.stood import learned_from, things
from isotact.core.trades.planned import Planned

if TYPE_CHECKING:
    from isotact.core.calc.centres import Centres

HELD_SHARE = 0.05
"""Of what a motor holds, so much may be left to it: the tolerance of balance. Common practice, no source."""
LEFT_MM = 1.0
"""Or all that slides, so far from where it ought to be, where nobody said what the motor holds."""
WEIGHT_STEP_G = 10.0
"""Counterweights are made up of washers and small plates. Common practice, no source."""
MOVES: Mapping[str, frozenset[str]] = {
    "plate": frozenset(("plate",)),
    "tilt-cage": frozenset(CARRIED["tilt"]),
    "roll-arm": frozenset(CARRIED["roll"]),
}
"""All that goes with what a slide moves."""
MOST_PAIRS = 3
"""Of two changes together so many are named: who reads more does none."""
_SIDES: tuple[Side, ...] = ("top", "back", "left", "right", "bottom")
"""Where something could go instead; in front it would be in the picture."""


@dataclass(frozen=True)
class Cure:
    """One thing to do that brings every scale into its travel. `device`: what moves, if a device does."""

    sort: Literal["hole", "move", "weight"]
    device: str | None
    where: str
    amount: float
    """Millimetres for a hole, grams for a weight, grams of what moves."""
    marks: Mapping[str, float]
    first: Cure | None = None
    """What has to be done besides, where one change alone is not enough."""


@dataclass(frozen=True)
class GimbalBalance:
    """A gimbal with all that it carries: where its scales have to stand. Invariant: no mark is beyond its travel."""

    cage: Cage
    balancing: Balancing
    raw: Balancing
    """As everything was told, before anything was learned from builds."""
    centres: Mapping[int, Centres]
    """Direction -> what was learned."""

    @cached_property
    def carrier(self) -> Carrier:
        """What carries it."""
        return self.cage.carrier

    @cached_property
    def marks(self) -> dict[str, float]:
        """Slide -> where it has to stand."""
        return self.balancing.marks()

    @cached_property
    def now(self) -> dict[str, float]:
        """Slide -> where it stands, of those of which the crew noted it."""
        return dict(self.cage.rig[self.cage.gimbal].device.marks_mm)

    def sliding(self, slide: Slide) -> Sliding:
        """The slide as the arithmetic has it."""
        return next(one for one in self.balancing.slides if one.key == slide.id)

    def wanted(self, slide: Slide) -> float:
        """Where it would have to stand, had it travel enough."""
        return self.balancing.wanted(self.sliding(slide), self.marks)

    def is_beyond(self, slide: Slide) -> bool:
        """Whether it has no travel left for what its axis lacks, and not for what an axis within it has left over."""
        if self.holds(slide.axis):
            return False
        within = [one for one in self.carrier.slides if one.along == slide.along and is_within(one.axis, slide.axis)]
        if any(self.is_beyond(one) for one in within):
            return False
        wanted = self.wanted(slide)
        is_out = not slide.from_mm - slide.step_mm / 2 <= wanted <= slide.to_mm + slide.step_mm / 2
        others = [one for one in self.carrier.slides if (one.axis, one.along) == (slide.axis, slide.along)]
        return is_out and (slide.fine or len(others) == 1)

    @property
    def beyond(self) -> list[Slide]:
        """The slides that would have to go further than they can."""
        return [slide for slide in self.carrier.slides if self.is_beyond(slide)]

    def spread_mm(self, slide: Slide) -> float:
        """One standard deviation of its mark, of what is not known of the places."""
        moved_g = self.balancing.sliding_g(self.sliding(slide))
        if not moved_g:
            return 0.0
        centres = self.centres.get(slide.along)
        if centres is None:
            return self.balancing.spread_g_mm(slide.axis, slide.along) / moved_g
        turned = [one for one in self.balancing.masses if one.rides in self.balancing.carried[slide.axis]]
        names = things(self.cage)
        _, known = centres.predicted({names[one.key]: one.mass_g / moved_g for one in turned if one.key in names})
        rest = [one.mass_g / moved_g * one.spread_mm[slide.along] for one in turned if one.key not in names]
        return hypot(known, *rest)

    def left_nm(self, axis: Axis) -> float:
        """What is left to a motor at the marks, in any position of its axis."""
        return self.balancing.torque_nm(axis, self.marks)

    def holds(self, axis: Axis) -> bool:
        """Whether an axis is balanced at the marks: to a millimetre, or to a twentieth of what its motor holds."""
        return self.left_nm(axis) <= self.allowed_nm(axis)

    def allowed_nm(self, axis: Axis) -> float:
        """So much may be left to the motor of an axis."""
        motor = self.carrier.torque_of(axis)
        by_mm = GRAVITY_M_S2 * self.balancing.turned_g(axis) * LEFT_MM / 1e6
        return max(by_mm, HELD_SHARE * (motor or 0.0))

    def cures(self) -> list[Cure]:
        """What brings every scale into its travel, the least trouble first; nothing where none needs any.

        One change where there is one that does it, else two together: as many as `MOST_PAIRS`.
        """
        if not self.beyond:
            return []
        tried = [*self._changes()]
        if found := [cure for cure, after in tried if not after.beyond]:
            return found
        pairs = (
            replace(second, first=first)
            for first, between in tried
            for second, after in between._changes()
            if (second.sort, second.device) > (first.sort, first.device) and not after.beyond
        )
        return [*islice(pairs, MOST_PAIRS)]

    def _changes(self) -> Iterator[tuple[Cure, GimbalBalance]]:
        """Each single change, and the gimbal after it."""
        return chain(self._other_holes(), self._moved(), self._weights())

    def _with(self, masses: tuple[Mass, ...]) -> GimbalBalance:
        return replace(self, balancing=replace(self.balancing, masses=masses))

    def _other_holes(self) -> Iterator[tuple[Cure, GimbalBalance]]:
        now = self.cage.rig[self.cage.gimbal].device.hole_mm or 0.0
        for hole in sorted(self.carrier.holes_mm, key=lambda one: (abs(one - now), one)):
            if hole == now:
                continue
            by: Place = (0.0, hole - now, 0.0)
            apart = {box.key for box in self.cage.boxes.values() if box.key != self.cage.root and self._is_apart(box)}
            parts = {part.name for part in self.carrier.parts}
            after = self._with(
                tuple(
                    one.moved(by) if one.rides == "plate" and one.key not in apart | parts else one
                    for one in self.balancing.masses
                )
            )
            yield Cure("hole", self.cage.root, "forward" if hole > now else "back", hole - now, after.marks), after

    def _is_apart(self, box: Box) -> bool:
        """Whether it sits on the gimbal itself, not on the camera: another hole leaves it where it is."""
        sits = self.cage.rig[box.key].device.sits
        ballast = self.cage.rig[box.key].profile.ballast and sits is None
        return ballast or (sits is not None and sits.on in (None, self.cage.gimbal))

    def _moved(self) -> Iterator[tuple[Cure, GimbalBalance]]:
        """Each thing that is fixed by no mount elsewhere on what it sits on."""
        there_is = {one.key for one in self.balancing.masses}
        boxes = [box for box in self.cage.boxes.values() if box.key in there_is]
        loose = [box for box in boxes if box.how in ("said", "assumed", "meshed") and box.on]
        for box in sorted(loose, key=lambda one: (self._mass_g(one.key), one.key)):
            for side in _SIDES:
                if box.how == "meshed" and side not in ("top", "right", "left"):
                    continue
                there = self.cage.centre_at(box, side)
                by = (there[0] - box.centre[0], there[1] - box.centre[1], there[2] - box.centre[2])
                if max(map(abs, by)) < 1:
                    continue
                goes = self.cage.with_it(box.key)
                masses = tuple(one.moved(by) if one.key in goes else one for one in self.balancing.masses)
                after = self._with(masses)
                yield Cure("move", box.key, side, self._mass_g(box.key), after.marks), after

    def _mass_g(self, key: str) -> float:
        return next(one.mass_g for one in self.balancing.masses if one.key == key)

    def _weights(self) -> Iterator[tuple[Cure, GimbalBalance]]:
        """A counterweight at each place that takes one, as light as will do."""
        free_g = (
            self.carrier.max_payload_g
            - self.balancing.turned_g("tilt")
            + sum(part.mass_g for part in self.carrier.parts if part.rides in CARRIED["tilt"])
        )
        for slide in self.beyond:
            for spot in self.carrier.weights:
                grams = self._grams(slide, spot)
                if grams is None or grams > min(spot.most_g, free_g):
                    continue
                weight = Mass(f"weight/{spot.name}", grams, place(spot.centre), spot.rides)
                after = self._with((*self.balancing.masses, weight))
                yield Cure("weight", None, spot.name, grams, after.marks), after

    def _grams(self, slide: Slide, spot: WeightSpot) -> float | None:
        """What a place needs on it so that a slide comes to the end of its travel; None where that makes it worse."""
        if spot.rides not in CARRIED[slide.axis]:
            return None
        lacks = self.balancing.moment_g_mm(slide.axis, slide.along, self.marks)
        by = self.balancing.shift_mm(spot.rides, slide.along, slide.axis, self.marks)
        at = place(spot.centre)[slide.along] + by
        if lacks * at >= 0:
            return None
        return WEIGHT_STEP_G * ceil(-lacks / at / WEIGHT_STEP_G)


def is_within(one: Axis, other: Axis) -> bool:
    """Whether an axis is turned by another: nearer to the camera than that."""
    return ORDER.index(one) < ORDER.index(other)


def balance_of(planned: Planned, gimbal: str) -> GimbalBalance | None:
    """The gimbal of a plan with its marks; None where its profile says nothing of what slides on it."""
    carrier = planned.rig[gimbal].profile.carrier
    if carrier is None or not carrier.slides or carrier.plate is None:
        return None
    cage = Cage(planned, gimbal)
    slides = tuple(
        Sliding(
            one.id,
            one.axis,
            one.along,
            one.sign,
            MOVES[one.moves],
            one.from_mm,
            one.to_mm,
            one.step_mm,
            one.fine,
            one.zero_mm,
        )
        for one in carrier.slides
    )
    carried: dict[str, frozenset[str]] = {axis: frozenset(rides) for axis, rides in CARRIED.items()}
    raw, centres = Balancing(cage.masses, slides, carried), learned_from(cage)
    if not centres:
        return GimbalBalance(cage, raw, raw, {})
    names = things(cage)

    def found(one: Mass) -> Mass:
        right, forward, up = (
            centres[along].mean_mm.get(names[one.key], 0.0) if along in centres else 0.0 for along in range(3)
        )
        return one.moved((right, forward, up))

    masses = tuple(found(one) if one.key in names else one for one in raw.masses)
    return GimbalBalance(cage, replace(raw, masses=masses), raw, centres)
