"""What hangs on a day: a kit shared by its rigs, who does which step when, incidents, and proofs that no longer hold.

What one rig is asked by itself belongs to `questions`.
"""

from isotact.core.day.crew import Crewed, Turn, crewed
from isotact.core.day.day_plan import Day, plan_day
from isotact.core.day.incidents import Spoilt, spoilt_by
from isotact.core.day.proof_validity import lapsed
from isotact.core.day.schedule import Schedule, schedule
from isotact.core.day.tasks import Task

__all__ = [
    "Crewed",
    "Day",
    "Schedule",
    "Spoilt",
    "Task",
    "Turn",
    "crewed",
    "lapsed",
    "plan_day",
    "schedule",
    "spoilt_by",
]
