"""What may happen to a rig that is up and working, each by one word: in questions, in the log book, on the bench."""

from enum import StrEnum
from typing import Literal


class Incident(StrEnum):
    """Something done to a device or to a join while the rig stands. Log books hold these words: never change one."""

    SWITCHED_OFF = "switched-off"
    RESTARTED = "restarted"
    BATTERY_CHANGED = "battery-changed"
    PULLED = "pulled"

    @property
    def says(self) -> str:
        """What is said of the thing that it happened to."""
        return _SAYS[self]


_SAYS = {
    Incident.SWITCHED_OFF: "it was switched off",
    Incident.RESTARTED: "it was restarted",
    Incident.BATTERY_CHANGED: "its battery was changed",
    Incident.PULLED: "it was pulled",
}

Noted = Literal[Incident.RESTARTED, Incident.BATTERY_CHANGED]
"""Those after which a device works again, so that somebody notes them in the log book and carries on."""
NOTED: tuple[Noted, ...] = (Incident.RESTARTED, Incident.BATTERY_CHANGED)
