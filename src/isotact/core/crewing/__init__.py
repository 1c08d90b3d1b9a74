"""Who does which step when: a run sheet's steps on one, two or three people.

What the steps are and what comes before what is the run sheet's; here they are only dealt out and timed.
"""

from isotact.core.crewing.crew import Crewed, Turn, crewed
from isotact.core.crewing.scheduling import Job, Schedule, schedule

__all__ = ["Crewed", "Job", "Schedule", "Turn", "crewed", "schedule"]
