"""What hangs on a day: a shared kit, the packs' rota, who does which step when, incidents, and proofs that lapse.

What one rig is asked by itself belongs to `questions`.
"""

from isotact.core.day.battery_seats import DayRig, day_rig, on_that_day
from isotact.core.day.crew import Crewed, Turn, crewed
from isotact.core.day.day_plan import Day, plan_day
from isotact.core.day.incidents import Spoilt, spoilt_by
from isotact.core.day.proof_validity import lapsed
from isotact.core.day.rota_answers import DayRota
from isotact.core.day.rota_day import NoDayError, RotaDay
from isotact.core.day.rota_of_day import day_rota
from isotact.core.day.schedule import Schedule, schedule
from isotact.core.day.tasks import Task

__all__ = [
    "Crewed",
    "Day",
    "DayRig",
    "DayRota",
    "NoDayError",
    "RotaDay",
    "Schedule",
    "Spoilt",
    "Task",
    "Turn",
    "crewed",
    "day_rig",
    "day_rota",
    "lapsed",
    "on_that_day",
    "plan_day",
    "schedule",
    "spoilt_by",
]
