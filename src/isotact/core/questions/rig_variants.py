"""The same rig with one thing decided otherwise: what comparisons are made of."""

from dataclasses import replace
from typing import Literal

from isotact.core.model.resolved import ResolvedRig


def under_school(rig: ResolvedRig, kind: Literal["focus", "port", "chain"], school: str) -> ResolvedRig:
    """`rig` as if its crew were of that school."""
    schools = rig.rig.schools.model_copy(update={kind: school})
    return replace(rig, rig=rig.rig.model_copy(update={"schools": schools}))


def without_pin(rig: ResolvedRig, number: int) -> ResolvedRig:
    """`rig` without one of its pins."""
    pins = [pin for place, pin in enumerate(rig.rig.pins) if place != number]
    return replace(rig, rig=rig.rig.model_copy(update={"pins": pins}))
