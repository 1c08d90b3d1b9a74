"""Lens drive: motors on rings. Mapping and axes are still to come; so far, where the motors hang."""

from collections.abc import Iterator

from isotact.core.trades.base import Draft
from isotact.core.trades.care.manners import of_school
from isotact.core.trades.planned import Planned
from isotact.core.trades.trade import Trade

_MOTORS = {
    "above": "On the rods above the lens, so that the roll axis stays on the lens.",
    "beside": "Beside the lens, to counter a body that is heavy on the other side. Balance the roll axis again.",
}


def _care(planned: Planned) -> Iterator[Draft]:
    """Where motors hang is a matter of the school that the job has chosen."""
    motors = [planned.rig[d].name for d in planned.in_use if planned.rig[d].profile.motor is not None]
    if motors:
        yield of_school("motors", "build", motors, _MOTORS[planned.rig.rig.schools.motor])


TRADE = Trade(name="lens drive", care=_care)
