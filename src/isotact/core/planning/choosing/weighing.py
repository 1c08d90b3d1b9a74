"""The part of the choice that is about weight: a gimbal in use carries a camera, and no more than it can."""

from __future__ import annotations

from isotact.core.model.words import Stage
from isotact.core.planning.choosing.model import Choosing, Group


def add_weights(c: Choosing) -> None:
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
            made = c.model.add(carried <= int(carrier.max_payload_g))
            made.only_enforce_if([flown, *([c.guard(group)] if c.guarded else [])])
