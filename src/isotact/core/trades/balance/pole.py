"""The front part of a pole against its back part: where the holder at the back has to slide, so that neither end sinks.

About the grip the moments of both parts add up to nought. In balance about pan, all that pan turns pulls at its axis,
wherever it looks.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from math import ceil, hypot

from isotact.core.calc.moments import GRAVITY_M_S2, slide_mm
from isotact.core.model.gimbals import POLE_SCALE, Pole
from isotact.core.model.resolved import Placed
from isotact.core.model.words import Stage
from isotact.core.trades.balance.marks import WEIGHT_STEP_G, GimbalBalance

MASS_SHARE = 0.03
"""How well a profile tells what a thing weighs, one standard deviation. Common practice, no source."""
GRIP_MM = 30.0
"""Half a hand: who holds it can be so far off the middle of the grip and feel nothing. Common practice, no source."""


@dataclass(frozen=True)
class PoleBalance:
    """A pole in use with a gimbal at its front.

    `held`: what else is on it, each with how far forwards of the grip it is; None: at the holder.
    """

    balance: GimbalBalance
    device: Placed
    pole: Pole
    held: dict[str, float | None]

    @cached_property
    def front_g(self) -> float:
        """The gimbal with all that it carries."""
        gimbal = self.balance.cage.rig[self.balance.cage.gimbal]
        parts = sum(part.mass_g for part in self.balance.carrier.parts)
        # A gimbal weighs no less than its parts, whatever its profile says.
        return max(gimbal.mass_g, parts) - parts + sum(mass.mass_g for mass in self.balance.raw.masses)

    @cached_property
    def back_g(self) -> float:
        """The holder with all that is on it."""
        rig = self.balance.cage.rig
        return self.pole.holder_g + sum(rig[key].mass_g for key, at in self.held.items() if at is None)

    @cached_property
    def weights(self) -> tuple[tuple[float, float], ...]:
        """All but what slides: grams, and millimetres forwards of the grip."""
        rig, own_g = self.balance.cage.rig, max(0.0, self.device.mass_g - self.pole.holder_g)
        fixed = ((rig[key].mass_g, at) for key, at in self.held.items() if at is not None)
        return (self.front_g, self.pole.front_mm), (own_g, self.pole.centre_mm), *fixed

    @cached_property
    def wanted_mm(self) -> float:
        """Where the holder would have to be behind the grip, had it travel enough; without weight nowhere is enough."""
        return -slide_mm(self.weights, self.back_g) if self.back_g else float("inf")

    @cached_property
    def mark_mm(self) -> float:
        """The nearest that its scale is set to."""
        step = self.pole.step_mm
        near = round(self.wanted_mm / step) * step if self.wanted_mm < float("inf") else self.pole.to_mm
        return min(self.pole.to_mm, max(self.pole.from_mm, near))

    @property
    def now_mm(self) -> float | None:
        """Where it stands, as noted."""
        return self.device.device.marks_mm.get(POLE_SCALE)

    @property
    def within_mm(self) -> float:
        """How well that is known, one standard deviation."""
        if not self.back_g:
            return 0.0
        return hypot(*(MASS_SHARE * grams * at for grams, at in self.weights)) / self.back_g

    @property
    def left_g_mm(self) -> float:
        """By how much the front is heavier with the holder at its mark; less than nought: the back."""
        return sum(grams * at for grams, at in self.weights) - self.back_g * self.mark_mm

    @property
    def left_nm(self) -> float:
        """The same, as what a hand has to hold."""
        return GRAVITY_M_S2 * self.left_g_mm / 1e6

    @property
    def hold_mm(self) -> float:
        """How far forwards of the middle of the grip it is held so that neither end sinks."""
        return self.left_g_mm / (sum(grams for grams, _ in self.weights) + self.back_g)

    @property
    def is_beyond(self) -> bool:
        """Whether a hand in the middle of the grip would feel it with the holder at its mark."""
        return abs(self.hold_mm) > GRIP_MM

    @property
    def weight_g(self) -> float | None:
        """What the holder needs on it at the end of its travel; None where that would not do, or be too much."""
        if not self.is_beyond or self.left_g_mm < 0:
            return None
        grams = WEIGHT_STEP_G * ceil(self.left_g_mm / self.pole.to_mm / WEIGHT_STEP_G)
        return grams if self.back_g - self.pole.holder_g + grams <= self.pole.most_g else None


def pole_of(balance: GimbalBalance) -> PoleBalance | None:
    """The pole that a gimbal sits at the front of; None where there is none in use."""
    planned, gimbal = balance.cage.planned, balance.cage.gimbal
    rig = planned.rig
    poles = [(rig[key], pole) for key in planned.in_use if (pole := rig[key].profile.pole) is not None]
    if not poles:
        return None
    device, pole = poles[0]
    held: dict[str, float | None] = {}
    for key in planned.in_use:
        placed = rig[key]
        if placed.stage != Stage.HANDLES or key in (gimbal, device.id):
            continue
        sits = placed.device.sits
        told = sits.measured if sits is not None and sits.on == device.id else None
        held[key] = None if told is None else told.forward_mm
    return PoleBalance(balance, device, pole, held)
