"""The part of the choice that is about weight: a gimbal in use carries a camera, and no more than it can."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from typing import TYPE_CHECKING

from isotact.core.model.resolved import Placed
from isotact.core.model.words import Stage
from isotact.core.planning.optimising.choice_model import ChoiceModel, Group

if TYPE_CHECKING:
    from ortools.sat.python import cp_model


def _bare(c: ChoiceModel, cage: dict[str, Placed]) -> Iterator[cp_model.LinearExpr]:
    """What goes on a camera that no promise puts a lens on: nobody flies it without, so the lightest counts."""
    seats: dict[str, set[str]] = defaultdict(set)
    for span in c.spans.values():
        for end, other, name in ((span.a, span.b, span.use.role_a), (span.b, span.a, span.use.role_b)):
            if span.use.is_seat and c.rig[end.device].role(end.endpoint, name).holds:
                seats[end.device].add(other.device)

    def lenses(holder: str, been: tuple[str, ...] = ()) -> Iterator[tuple[float, str]]:
        """What could sit on it, with the weight of the mount adapters between, each of them once."""
        for one in sorted(seats[holder] - {*been}):
            if any(role.holds for port in c.rig[one].profile.ports for role in port.roles):
                yield from lenses(one, (*been, one))
            else:
                yield sum(c.rig[each].profile.mass_g for each in (*been, one)), one

    for body, placed in cage.items():
        fitting = list(lenses(body)) if placed.profile.makes else []
        if fitting:
            bare = c.model.new_bool_var(f"bare {body}")
            c.model.add_bool_or([c.awake[body].negated(), *(c.awake[one] for _, one in fitting), bare])
            yield round(min(fitting)[0]) * bare


def add_weights(c: ChoiceModel) -> None:
    """Add what each gimbal carries: all that is in use and sits in its cage. Cables are left out."""
    cage = {device: placed for device, placed in c.rig.devices.items() if placed.stage == Stage.TILT_CAGE}
    cameras = [c.awake[device] for device, placed in cage.items() if placed.profile.makes]
    heavy = sum(round(placed.profile.mass_g) for placed in cage.values())
    for gimbal, placed in c.rig.devices.items():
        carrier, flown = placed.profile.carrier, c.awake[gimbal]
        if carrier is None:
            continue
        if cameras:  # nobody flies it empty, whatever was promised
            c.clause(("aloft", (gimbal,)), [flown.negated(), *cameras])
        if heavy > carrier.max_payload_g:
            group: Group = ("payload", (gimbal,))
            carried = sum(round(one.profile.mass_g) * c.awake[device] for device, one in cage.items())
            made = c.model.add(carried + sum(_bare(c, cage)) <= int(carrier.max_payload_g))
            made.only_enforce_if([flown, *([c.guard(group)] if c.guarded else [])])
